package text

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/unicode"
)

func TestLines(t *testing.T) {
	for _, c := range []struct {
		in    string
		lines []string
		ends  LineEnds
	}{
		{"", []string{""}, LF},
		{"one", []string{"one"}, LF},
		{"one\n", []string{"one"}, LF},
		{"one\n\n", []string{"one", ""}, LF},
		{"one\r\ntwo\r\n", []string{"one", "two"}, CRLF},
		{"one\r\ntwo\nthree", []string{"one", "two", "three"}, Mixed},
		{"lone\rreturn\n", []string{"lone\rreturn"}, LF},
	} {
		d := NewDocument([]byte(c.in))
		var lines []string
		for i := range d.Lines() {
			lines = append(lines, string(d.Line(i+1)))
		}
		assert.Equal(t, c.lines, lines, "%q", c.in)
		assert.Equal(t, c.ends, d.LineEnds(), "%q", c.in)
	}
}

func TestOffsetsAndPositions(t *testing.T) {
	d := NewDocument([]byte("ab\ncde\r\n\nf"))
	for _, c := range []struct{ line, col, offset int }{{1, 1, 0}, {1, 3, 2}, {2, 1, 3}, {2, 4, 6}, {3, 1, 8}, {4, 2, 10}} {
		assert.Equal(t, c.offset, d.Offset(c.line, c.col))
		line, col := d.Position(c.offset)
		assert.Equal(t, [2]int{c.line, c.col}, [2]int{line, col})
	}
	assert.Equal(t, 6, d.Offset(2, 99), "beyond the line is its end")
	assert.Equal(t, 10, d.Offset(99, 1), "beyond the text is its end")
	assert.Equal(t, 0, d.Offset(0, 0))
}

func TestEncodings(t *testing.T) {
	word := "Bjørn 雪\n"
	for _, order := range []unicode.Endianness{unicode.LittleEndian, unicode.BigEndian} {
		raw, err := unicode.UTF16(order, unicode.UseBOM).NewEncoder().Bytes([]byte(word))
		require.NoError(t, err)
		d := NewDocument(raw)
		assert.Equal(t, word, string(d.Bytes()))
		assert.False(t, d.Binary())
		assert.Contains(t, d.Encoding().String(), "UTF-16")
	}
	d := NewDocument([]byte("\xEF\xBB\xBFa"))
	assert.Equal(t, "a", string(d.Bytes()))
	assert.Equal(t, UTF8WithMark, d.Encoding())
	d = NewDocument([]byte("\x7fELF\x00\x00"))
	assert.True(t, d.Binary())
	assert.Equal(t, 1, d.Lines())
	assert.Equal(t, "broken \xff", string(NewDocument([]byte("broken \xff")).Line(1)))
}

// drawn is a line as it is drawn, with a mark between cells.
func drawn(s string) string {
	var out []string
	Cells([]byte(s), Cell{}, func(c Cell) bool {
		out = append(out, c.Text)
		return true
	})
	return strings.Join(out, "|")
}

func TestCells(t *testing.T) {
	for in, want := range map[string]string{
		"ab":               "a|b",
		"\ta":              "    |a",
		"a\tb":             "a|   |b",
		"雪崩":               "雪|崩",
		"e\u0301x":         "e\u0301|x",
		"\x1b[31m":         "␛|[|3|1|m",
		"\x00\x7f":         "␀|␡",
		"\u009b":           `\u009b`,
		"\u202eabc":        `\u202e|a|b|c`,
		"\xffz":            `\xff|z`,
		"👩\u200d🚒!":        "👩\u200d🚒|!",
		"a\u200bb":         `a|\u200b|b`,
		"\U000e0001":       `\Ue0001`,
		"\u0301":           `\u0301`,
		"soft\u00adhyphen": `s|o|f|t|\u00ad|h|y|p|h|e|n`,
	} {
		assert.Equal(t, want, drawn(in), "%q", in)
	}
	assert.Equal(t, "a ␛b", Visible("a\t\x1bb"))
}

func TestRulerAgreesWithCells(t *testing.T) {
	for _, line := range []string{
		"", "plain", "\ttabs\tand 雪崩 and e\u0301 \x1b \xff end",
		strings.Repeat("long\t雪 line ", 3000), strings.Repeat("x", 9000),
	} {
		r := NewRuler([]byte(line))
		width := 0
		Cells([]byte(line), Cell{}, func(c Cell) bool {
			if c.Offset%7 == 0 || len(line) < 100 {
				require.Equal(t, c, r.AtOffset(c.Offset), "%d in a line of %d", c.Offset, len(line))
				require.Equal(t, c, r.AtColumn(c.Col+c.Width-1))
			}
			width = c.Col + c.Width
			return true
		})
		assert.Equal(t, width, r.Width())
		assert.Equal(t, Cell{Offset: len(line), Col: width}, r.AtOffset(len(line)+5))
		assert.Equal(t, Cell{Offset: len(line), Col: width}, r.AtColumn(width+5))
	}
}

func TestLoadHead(t *testing.T) {
	path := filepath.Join(t.TempDir(), "large.txt")
	line := strings.Repeat("x", 99) + "\n"
	raw := []byte(strings.Repeat(line, headSize/100+5000))
	require.NoError(t, os.WriteFile(path, raw, 0o600))
	head, err := LoadHead(path)
	require.NoError(t, err)
	assert.False(t, head.Whole())
	assert.True(t, bytes.HasSuffix(head.Bytes(), []byte("x\n")), "it ends with a whole line")
	assert.EqualValues(t, len(raw), head.Size())
	whole, err := Load(path)
	require.NoError(t, err)
	assert.True(t, whole.Whole())
	assert.Equal(t, headSize/100+5000, whole.Lines())
}

func TestWhatCannotBeLoaded(t *testing.T) {
	dir := t.TempDir()
	_, err := Load(dir)
	assert.ErrorContains(t, err, "it is a folder")
	_, err = Load(filepath.Join(dir, "nothing"))
	assert.ErrorIs(t, err, os.ErrNotExist)
	pipe := filepath.Join(dir, "pipe")
	require.NoError(t, syscall.Mkfifo(pipe, 0o600))
	_, err = LoadHead(pipe)
	assert.ErrorIs(t, err, ErrNotRegular)
}

func FuzzCells(f *testing.F) {
	f.Add([]byte("a\t雪\x1b\xff\u202e"))
	f.Fuzz(func(t *testing.T, line []byte) {
		at, col := 0, 0
		Cells(line, Cell{}, func(c Cell) bool {
			if c.Offset != at || c.Col != col || c.Size < 1 || c.Width < 1 {
				t.Fatalf("cell %+v does not follow %d, %d in %q", c, at, col, line)
			}
			for _, r := range c.Text {
				if r < ' ' || 0x7f <= r && r < 0xa0 {
					t.Fatalf("%q would reach the terminal as %q", line, c.Text)
				}
			}
			at, col = at+c.Size, col+c.Width
			return true
		})
		if at != len(line) {
			t.Fatalf("%d of %d bytes were drawn", at, len(line))
		}
	})
}
