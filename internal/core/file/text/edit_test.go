package text_test

import (
	"bytes"
	"math/rand"
	"slices"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

// sameText compares a document that edits led to with one made of the same bytes.
func sameText(t *testing.T, want []byte, got *text.Document) {
	t.Helper()
	const utf8Only = "\x80\n" // so that a character that was cut apart is not taken for one of Latin-1
	fresh := text.NewDocument(append([]byte(utf8Only), want...))
	if !bytes.Equal(want, got.Bytes()) { // asked of so much text that it has to be quick
		require.Equal(t, string(want), string(got.Bytes()))
	}
	require.Equal(t, max(fresh.Lines()-1, 1), got.Lines())
	for n := 1; n <= fresh.Lines()+1; n++ {
		if !bytes.Equal(fresh.Line(n+1), got.Line(n)) {
			require.Equal(t, string(fresh.Line(n+1)), string(got.Line(n)), "line %d", n)
		}
		if at := got.Offset(n, 1); fresh.Offset(n+1, 1)-len(utf8Only) != at {
			require.Equal(t, fresh.Offset(n+1, 1)-len(utf8Only), at, "line %d", n)
		}
	}
}

// plainly applies edits to bytes, one after the other from the end.
func plainly(data []byte, edits []text.Edit) []byte {
	out := slices.Clone(data)
	for _, e := range slices.Backward(edits) {
		out = slices.Concat(out[:e.Start], e.New, out[e.End:])
	}
	return out
}

var snippets = []string{"", "a", "\n", "\r\n", "word ", "\n\n", "x\ny\nz", "é", "\x80", "\t"}

// some makes edits in order that do not overlap.
func some(r *rand.Rand, size int) (edits []text.Edit) {
	at := 0
	for range 1 + r.Intn(4) {
		start := at + r.Intn(max(size-at, 0)+1)
		end := start + r.Intn(min(size-start, 9)+1)
		edits = append(edits, text.Edit{Start: start, End: end, New: []byte(snippets[r.Intn(len(snippets))])})
		if at = end + 1; at > size {
			break
		}
	}
	return edits
}

// Whatever edits are made, undone and done again, the text is what a plain model says.
func TestEditsAgainstAPlainModel(t *testing.T) {
	for seed := range int64(300) {
		r := rand.New(rand.NewSource(seed))
		d := text.NewDocument([]byte("one\ntwo\r\nthree\n\nfive"))
		var h text.History
		states := map[int]string{0: string(d.Bytes())}
		now := time.Now()
		for range 40 {
			var ok bool
			switch r.Intn(7) {
			case 0:
				d, _, ok = h.Undo(d)
			case 1:
				d, _, ok = h.Redo(d)
			case 2:
				d, _, ok = h.Earlier(d)
			case 3:
				d, _, ok = h.Later(d)
			default:
				edits := some(r, len(d.Bytes()))
				want := plainly(d.Bytes(), edits)
				back := d.Inverse(edits)
				next := d.Apply(edits)
				sameText(t, want, next)
				sameText(t, d.Bytes(), next.Apply(back))
				h.Did(d, edits, text.Kind(r.Intn(3)), now.Add(time.Duration(r.Intn(3))*time.Second), nil, nil)
				d = next
				states[h.At()] = string(d.Bytes())
				continue
			}
			if ok {
				require.Equal(t, states[h.At()], string(d.Bytes()), "seed %d", seed)
			}
		}
		for {
			var ok bool
			if d, _, ok = h.Undo(d); !ok {
				break
			}
		}
		sameText(t, []byte(states[0]), d)
	}
}

// long makes a text of many pieces, some of them single lines that are longer than any.
func long(r *rand.Rand) []byte {
	var out []byte
	for len(out) < 60_000 {
		out = append(out, snippets[r.Intn(len(snippets))]...)
		switch r.Intn(300) {
		case 0:
			out = append(out, bytes.Repeat([]byte("far "), 6000)...)
		case 1, 2, 3, 4, 5:
			out = append(out, bytes.Repeat([]byte("snow\n"), r.Intn(300))...)
		}
	}
	return out
}

// inside says that an offset lies between the bytes of a line end.
func inside(data []byte, at int) bool {
	return at > 0 && at < len(data) && data[at-1] == '\r' && data[at] == '\n'
}

// A text of many pieces is the same, and its parts are, whatever edits led to it.
func TestEditsOfLongTexts(t *testing.T) {
	for seed := range int64(12) {
		r := rand.New(rand.NewSource(seed))
		data := append([]byte("\x80"), long(r)...)
		d := text.NewDocument(data)
		for range 12 {
			var edits []text.Edit
			for at := r.Intn(9000); at <= len(data); at += 1 + r.Intn(30_000) {
				e := text.Edit{Start: at, End: min(at+r.Intn(4), len(data)), New: []byte(snippets[r.Intn(len(snippets))])}
				switch r.Intn(8) {
				case 0:
					e.End = min(at+r.Intn(40_000), len(data))
				case 1:
					e.New = long(r)[:r.Intn(50_000)]
				case 2, 3: // within a line, as one types
					e.End = at
					e.New = []byte("snow")
				case 4: // up to exactly where a line begins
					line, _ := d.Position(at)
					e.Start, e.End = d.Offset(line, 1), d.Offset(line+1, 1)
				}
				if n := len(edits); n > 0 && e.Start <= edits[n-1].End {
					continue
				}
				edits = append(edits, e)
				at = e.End
			}
			want := plainly(data, edits)
			next := d.Apply(edits)
			start := r.Intn(len(want) + 1)
			end := min(start+r.Intn(30_000), len(want))
			require.Equal(t, string(want[start:end]), string(next.Slice(start, end)), "seed %d", seed)
			sameText(t, want, next)
			require.True(t, text.Same(next.Apply(d.Inverse(edits)), d), "seed %d", seed)
			between := text.Between(d, next)
			sameText(t, want, d.Apply(between))
			for _, e := range between {
				require.False(t, inside(data, e.Start) || inside(data, e.End), "seed %d", seed)
			}
			for range 20 {
				at := r.Intn(len(want) + 1)
				line, col := next.Position(at)
				require.Equal(t, bytes.Count(want[:at], []byte("\n"))+1, line, "seed %d", seed)
				require.Equal(t, at-(bytes.LastIndexByte(want[:at], '\n')+1), col-1, "seed %d", seed)
			}
			if d, data = next, want; len(data) == 0 {
				break
			}
		}
	}
}

func TestStepsOfUndo(t *testing.T) {
	d := text.NewDocument(nil)
	var h text.History
	now := time.Now()
	put := func(s string, kind text.Kind) {
		for _, b := range []byte(s) {
			n := len(d.Bytes())
			e := []text.Edit{{Start: n, End: n, New: []byte{b}}}
			h.Did(d, e, kind, now, n, n+1)
			d = d.Apply(e)
		}
	}
	put("snow", text.Typing)
	put("  ", text.Blank)
	put("depth", text.Typing)
	now = now.Add(time.Minute)
	put("s", text.Typing)
	undone := func() string {
		var ok bool
		var keep any
		if d, keep, ok = h.Undo(d); !ok {
			return "the beginning"
		}
		assert.Equal(t, len(d.Bytes()), keep, "with the caret where it was")
		return string(d.Bytes())
	}
	assert.Equal(t, []string{"snow  depth", "snow  ", "snow"}, []string{undone(), undone(), undone()})
	put("!", text.Other)
	assert.Equal(t, "snow", undone())
	assert.Equal(t, "", undone())
	assert.Equal(t, "the beginning", undone())
	for range 9 { // in the order of time, nothing is lost
		d, _, _ = h.Later(d)
	}
	assert.Equal(t, "snow!", string(d.Bytes()))
	d, _, _ = h.Earlier(d)
	assert.Equal(t, "snow  depths", string(d.Bytes()))
}

func TestMoved(t *testing.T) {
	edits := []text.Edit{{Start: 2, End: 4, New: []byte("abc")}, {Start: 10, End: 10, New: []byte("x")}}
	for at, want := range map[int]int{0: 0, 1: 1, 2: 5, 3: 5, 4: 5, 9: 10, 10: 12, 11: 13} {
		assert.Equal(t, want, text.Moved(at, edits), "%d", at)
	}
}

// A line that was edited is measured as if it were measured anew.
func TestRulersAfterEdits(t *testing.T) {
	for seed := range int64(24) {
		r := rand.New(rand.NewSource(seed))
		line := bytes.Repeat([]byte([]string{"plain ", "é und ", "日本\t"}[r.Intn(3)]), 3000)
		ruler := text.NewRuler(line)
		for range 6 {
			ruler.AtOffset(r.Intn(len(line)))
			from := r.Intn(len(line))
			for !utf8.RuneStart(line[from]) {
				from--
			}
			new := []byte([]string{"x", "é", "", "\t"}[r.Intn(4)])
			_, size := utf8.DecodeRune(line[from:])
			line = slices.Concat(line[:from], new, line[from+size:])
			ruler = ruler.Edited(line, from, new)
			fresh := text.NewRuler(line)
			for range 5 {
				at := r.Intn(len(line))
				require.Equal(t, fresh.AtOffset(at), ruler.AtOffset(at), "seed %d", seed)
				col := r.Intn(len(line))
				require.Equal(t, fresh.AtColumn(col), ruler.AtColumn(col), "seed %d", seed)
				c, near := fresh.AtOffset(at), text.CellAt(line, at)
				require.Equal(t, []int{c.Offset, c.Size}, []int{near.Offset, near.Size})
			}
		}
		require.Equal(t, text.NewRuler(line).Width(), ruler.Width())
	}
}

func FuzzEncode(f *testing.F) {
	for _, raw := range []string{"a\r\nb", "\xEF\xBB\xBFx", "\xFF\xFEo\x00", "\xFE\xFF\x00o", "caf\xe9 na\xefve"} {
		f.Add([]byte(raw))
	}
	f.Fuzz(func(t *testing.T, raw []byte) {
		d := text.NewDocument(raw)
		out, err := d.Encode()
		if d.Binary() || err != nil || d.Lossy() {
			return
		}
		if !bytes.Equal(out, raw) {
			t.Fatalf("%q became %q as %s", raw, out, d.Encoding())
		}
	})
}

func FuzzApply(f *testing.F) {
	f.Add([]byte("a\nb\r\n"), 1, 2, []byte("\n"), 0)
	f.Add([]byte(""), 0, 0, []byte("x\n"), 0)
	f.Add([]byte("snow on the path\n"), 17*700, 17*1200, []byte("x"), 2000)
	f.Fuzz(func(t *testing.T, data []byte, start, end int, with []byte, times int) {
		if times > 0 { // many pieces
			data = bytes.Repeat(data, min(times, 40_000/max(len(data), 1)))
		}
		d := text.NewDocument(data)
		n := len(d.Bytes())
		if start < 0 || end < start || end > n || d.Binary() {
			return
		}
		e := []text.Edit{{Start: start, End: end, New: with}}
		next := d.Apply(e)
		if want := plainly(d.Bytes(), e); !bytes.Equal(want, next.Bytes()) {
			t.Fatal(want, next.Bytes())
		}
		fresh := text.NewDocument(append([]byte("\n"), next.Bytes()...)) // so that no mark is taken for one
		if fresh.Binary() || fresh.Encoding() != text.UTF8 || d.Encoding() != text.UTF8 {
			return
		}
		for l := 1; l <= next.Lines(); l++ {
			if !bytes.Equal(fresh.Line(l+1), next.Line(l)) {
				t.Fatalf("line %d is %q, not %q", l, next.Line(l), fresh.Line(l+1))
			}
		}
	})
}
