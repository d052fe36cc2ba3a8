package lexical_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/lexical"
)

var (
	braces = &lexical.Signs{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Quotes: [][2]string{{`"`, `"`}, {"'", "'"}, {"`", "`"}}, Raw: "`"}
	hashes = &lexical.Signs{Line: []string{"#"}, Quotes: [][2]string{{`"""`, `"""`}, {`"`, `"`}}, Code: []string{"#["}}
	lone   = &lexical.Signs{Line: []string{"//"}, Quotes: [][2]string{{`"`, `"`}}, Char: "'"}
	tags   = &lexical.Signs{Block: [][2]string{{"<!--", "-->"}}}
)

// drawn shows the runs of a text below it: c for a comment, l for one that ends
// with its line, s for a string.
func drawn(s *lexical.Signs, text string) string {
	below := []byte(strings.Repeat(".", len(text)))
	for _, r := range s.Runs([]byte(text)) {
		mark := byte('c')
		switch {
		case r.Role == lexical.String:
			mark = 's'
		case r.Line:
			mark = 'l'
		}
		for i := r.At.Start; i < r.At.End; i++ {
			below[i] = mark
		}
	}
	return string(below)
}

func TestRuns(t *testing.T) {
	for _, c := range []struct {
		name       string
		signs      *lexical.Signs
		text, want string
	}{
		{"a comment ends with its line", braces, "a // b\nc", "..llll.."},
		{"a longer one where it is closed", braces, "a /* b\nc */ d", "..ccccccccc.."},
		{"or with the text", braces, "a /* b", "..cccc"},
		{"no comment in a string", braces, `"//" a`, "ssss.."},
		{"no string in a comment", braces, "// \"\na", "llll.."},
		{"a backslash keeps a string open", braces, `"a\"b" c`, "ssssss.."},
		{"but not in a raw one", braces, "`a\\` c", "ssss.."},
		{"what is not closed on its line was none", braces, "\"a\nb", "ss.."},
		{"the longest quotes count", hashes, "\"\"\"a\n\"b\"\"\" c", "ssssssssss.."},
		{"what begins like a comment and is none", hashes, "#[a]\n#b", ".....ll"},
		{"a single character", lone, `'"' + "a"`, `sss...sss`},
		{"with a backslash", lone, `'\'' '\u{1f6d1}'`, `ssss.sssssssssss`},
		{"of several bytes", lone, "'é' x", "ssss.."},
		{"a sign that stands alone", lone, `&'a str, "b"`, `.........sss`},
		{"between tags", tags, "a<!--\"b\"-->c", ".cccccccccc."},
		{"of nothing known", nil, "// a \"b\"", "........"},
	} {
		assert.Equal(t, c.want, drawn(c.signs, c.text), c.name)
	}
}

func TestWhatHoldsAnOffset(t *testing.T) {
	runs := braces.Runs([]byte("a \"b\" // c\nd"))
	for offset, want := range map[int]string{0: "code", 2: "string", 4: "string", 5: "code", 6: "comment", 9: "comment", 11: "code", 99: "code"} {
		run, ok := runs.At(offset)
		got := "code"
		if ok {
			got = map[lexical.Role]string{lexical.Comment: "comment", lexical.String: "string"}[run.Role]
		}
		assert.Equal(t, want, got, "at %d", offset)
	}
	assert.Len(t, runs.From(5), 1)
	assert.Empty(t, runs.From(99))
}

func TestSigns(t *testing.T) {
	assert.Equal(t, []string{"//", "/*"}, braces.Marks())
	assert.True(t, braces.IsCode())
	assert.False(t, tags.IsCode(), "without strings nothing is told apart")
	assert.False(t, (*lexical.Signs)(nil).IsCode())
}

func FuzzRuns(f *testing.F) {
	f.Add("a // \"b\" /* c */ 'd' `e\n")
	f.Add("'\\")
	f.Add("\"\"\"")
	f.Fuzz(func(t *testing.T, text string) {
		for _, s := range []*lexical.Signs{braces, hashes, lone, tags} {
			last := uint32(0)
			for _, r := range s.Runs([]byte(text)) {
				if r.At.Start < last || r.At.End <= r.At.Start || int(r.At.End) > len(text) {
					t.Fatalf("%v in %q", r, text)
				}
				last = r.At.End
			}
		}
	})
}
