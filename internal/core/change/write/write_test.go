package write

import (
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

var goStyle = Style{Indent: "\t", Line: "//", Open: "/*", Close: "*/"}

// opened makes an editor of a text in which | stands for a caret, and [ ] is around what is
// selected, the caret at ].
func opened(marked string, style Style) *Editor {
	var data []byte
	var carets []Caret
	from := -1
	for _, b := range []byte(marked) {
		switch b {
		case '|':
			carets = append(carets, Caret{At: len(data), From: len(data)})
		case '[':
			from = len(data)
		case ']':
			carets = append(carets, Caret{At: len(data), From: from})
		default:
			data = append(data, b)
		}
	}
	e := New(text.NewDocument(data), 0, style)
	e.carets = carets
	return e
}

// shown writes an editor in the same way.
func shown(e *Editor) string {
	var b strings.Builder
	data := e.Document().Bytes()
	all, _ := e.Carets()
	for at := 0; at <= len(data); at++ {
		for _, c := range all {
			start, end := c.Selected()
			switch {
			case start == end && at == start:
				b.WriteByte('|')
			case at == end && start != end:
				b.WriteByte(']')
			}
		}
		for _, c := range all {
			if start, end := c.Selected(); at == start && start != end {
				b.WriteByte('[')
			}
		}
		if at < len(data) {
			b.WriteByte(data[at])
		}
	}
	return b.String()
}

func TestWhatOneDoes(t *testing.T) {
	blanks := Style{Indent: "    ", Line: "#"}
	for _, c := range []struct {
		name, before string
		do           func(e *Editor)
		after        string
	}{
		{"typing at two carets", "a|b\nc|d", func(e *Editor) { e.Type("x") }, "ax|b\ncx|d"},
		{"typing over a selection", "a[bc]d", func(e *Editor) { e.Type("x") }, "ax|d"},
		{"a line", "\tif x {|", func(e *Editor) { e.Newline() }, "\tif x {\n\t\t|"},
		{"a line between brackets", "f({|})", func(e *Editor) { e.Newline() }, "f({\n\t|\n})"},
		{"a line in the middle", "\tone | two", func(e *Editor) { e.Newline() }, "\tone\n\t|two"},
		{"a line of a file with CRLF", "a|\r\nb", func(e *Editor) { e.Newline() }, "a\r\n|\r\nb"},
		{"closing what was opened", "\tif x {\n\t\ty\n\t\t|\n\t}", func(e *Editor) { e.Type("}") }, "\tif x {\n\t\ty\n\t}|\n\t}"},
		{"closing the outer one", "f({\n\tg({\n\t})\n\t|", func(e *Editor) { e.Type("}") }, "f({\n\tg({\n\t})\n}|"},
		{"closing behind something", "{\n\tx|", func(e *Editor) { e.Type("}") }, "{\n\tx}|"},
		{"closing what nothing opened", "\t\t|", func(e *Editor) { e.Type(")") }, "\t\t)|"},
		{"closing at two carets", "{\n\t|\n\t{\n\t\t|", func(e *Editor) { e.Type("}") }, "{\n}|\n\t{\n\t}|"},
		{"back over a character", "aé|b", func(e *Editor) { e.Backspace() }, "a|b"},
		{"back over a line end", "a\r\n|b", func(e *Editor) { e.Backspace() }, "a|b"},
		{"forward over a line end", "a|\r\nb", func(e *Editor) { e.Delete() }, "a|b"},
		{"back at the beginning", "|a", func(e *Editor) { e.Backspace() }, "|a"},
		{"back by a word", "one two|", func(e *Editor) { e.BackspaceWord() }, "one |"},
		{"on by a word", "|one two", func(e *Editor) { e.DeleteWord() }, "|two"},
		{"to the end", "one| two\nx", func(e *Editor) { e.DeleteToEnd() }, "one|\nx"},
		{"indenting", "[a\n\nb]", func(e *Editor) { e.Tab() }, "\t[a\n\n\tb]"},
		{"outdenting", "\t|a", func(e *Editor) { e.Outdent() }, "|a"},
		{"deleting lines", "a\nb|\nc", func(e *Editor) { e.DeleteLines() }, "a\n|c"},
		{"deleting the last line", "a\nb|", func(e *Editor) { e.DeleteLines() }, "a|"},
		{"duplicating below", "a|b\nc", func(e *Editor) { e.Duplicate(true) }, "ab\na|b\nc"},
		{"duplicating above", "a|b\nc", func(e *Editor) { e.Duplicate(false) }, "a|b\nab\nc"},
		{"duplicating the last line", "x\na|b", func(e *Editor) { e.Duplicate(true) }, "x\nab\na|b"},
		{"moving up", "a\nb|\nc", func(e *Editor) { e.MoveLines(-1, false) }, "b|\na\nc"},
		{"moving down to the end", "a|\nb", func(e *Editor) { e.MoveLines(1, false) }, "b\na|"},
		{"moving up from the end", "a\nb|", func(e *Editor) { e.MoveLines(-1, false) }, "b|\na"},
		{"moving out of the block", "{\n\ta|\n}", func(e *Editor) { assert.False(t, e.MoveLines(-1, true)) }, "{\n\ta|\n}"},
		{"joining", "a  |\n\t b\nc", func(e *Editor) { e.Join() }, "a |b\nc"},
		{"sorting", "[b\na\nc]", func(e *Editor) { e.Sort() }, "[a\nb\nc]"},
		{"sorting around", "x\n\tb|\n\ta\ny", func(e *Editor) { e.Sort() }, "x\n\ta|\n\tb\ny"},
		{"large letters", "one t|wo", func(e *Editor) { e.Upper() }, "one T|WO"},
		{"small letters", "[ONE] x", func(e *Editor) { e.Lower() }, "[one] x"},
		{"brackets", "f x|y", func(e *Editor) { e.Surround("(", ")") }, "f (x|y)"},
		{"commenting", "\t[a\n\n\t\tb]", func(e *Editor) { e.Comment() }, "\t// [a\n\n\t// \tb]"},
		{"commenting off", "\t// a|\n", func(e *Editor) { e.Comment() }, "\ta|\n"},
		{"a comment around", "f([x])", func(e *Editor) { e.CommentAround() }, "f(/* [x */])"},
		{"pasting lines at carets", "|\n|", func(e *Editor) { e.Paste("a\nb") }, "a|\nb|"},
		{"pasting with other line ends", "x|\r\n", func(e *Editor) { e.Paste("a\nb") }, "xa\r\nb|\r\n"},
		{"the next of the same", "[ab] ab ab", func(e *Editor) { e.AddNext(); e.AddNext(); e.Type("x") }, "x| x| x|"},
		{"the word first", "a|b ab", func(e *Editor) { e.AddNext() }, "[ab] ab"},
		{"all of the same", "a|b ab abc", func(e *Editor) { assert.Equal(t, 3, e.AddAll()) }, "[ab] [ab] [ab]c"},
		{"skipping one", "[ab] ab ab", func(e *Editor) { e.AddNext(); e.Skip() }, "[ab] ab [ab]"},
		{"one in each line", "[a\nbb]\nc", func(e *Editor) { e.PerLine() }, "a|\nbb|\nc"},
		{"one below", "ab|c\nx\nabcd", func(e *Editor) { e.AddVertical(1); e.AddVertical(1) }, "ab|c\nx|\nab|cd"},
		{"a rectangle", "a[bc\nxyz\nuv]w", func(e *Editor) { e.Rectangle() }, "a[b]c\nx[y]z\nu[v]w"},
		{"meeting carets", "a|b|c", func(e *Editor) { e.Backspace(); e.Type("x") }, "x|c"},
		{"up and down over a short line", "abcd|\nx\nabcd", func(e *Editor) { e.Vertical(1, false); e.Vertical(1, false) }, "abcd\nx\nabcd|"},
		{"selecting by words", "one| two three", func(e *Editor) { e.WordRight(true); e.WordRight(true) }, "one[ two ]three"},
		{"to the first character", "\tab|", func(e *Editor) { e.LineStart(false) }, "\t|ab"},
		{"and to the beginning", "\t|ab", func(e *Editor) { e.LineStart(false) }, "|\tab"},
	} {
		style := goStyle
		e := opened(c.before, style)
		c.do(e)
		assert.Equal(t, c.after, shown(e), c.name)
		for e.Undo() {
		}
		assert.Equal(t, strings.NewReplacer("|", "", "[", "", "]", "").Replace(c.before), string(e.Document().Bytes()), c.name)
		for e.Redo() {
		}
		assert.Equal(t, strings.NewReplacer("|", "", "[", "", "]", "").Replace(c.after), string(e.Document().Bytes()), c.name)
	}
	e := opened("      |", blanks)
	e.Backspace()
	assert.Equal(t, "    |", shown(e), "a step of indentation")
	e = opened("a|", blanks)
	e.Tab()
	assert.Equal(t, "a   |", shown(e), "up to the next step")
	e = opened("if x:|", blanks)
	e.Newline()
	assert.Equal(t, "if x:\n    |", shown(e))
	e = opened("a|b\ncd", goStyle)
	s, whole := e.Selection()
	assert.Equal(t, []any{"ab\n", true}, []any{s, whole})
	e.Cut()
	assert.Equal(t, "|cd", shown(e))
	assert.True(t, e.Changed())
	e.Undo()
	assert.False(t, e.Changed(), "as it was saved")
}

func TestTypingOnAfterSaving(t *testing.T) {
	e := New(doc(""), 0, goStyle)
	e.Type("a")
	state := e.State()
	e.Type("b")
	e.Saved(state)
	assert.True(t, e.Changed(), "more was typed while it was being saved")
	e.Undo()
	assert.False(t, e.Changed())
}

// Whatever one does in whatever order, undoing all leads back to the text as it was, redoing
// all to what it became, the carets are in order and apart, and the text is cut into lines as
// it should be.
func TestAnything(t *testing.T) {
	deeds := []func(e *Editor, r *rand.Rand){
		func(e *Editor, r *rand.Rand) { e.Type(string(rune('a' + r.Intn(26)))) },
		func(e *Editor, r *rand.Rand) { e.Type("é") },
		func(e *Editor, _ *rand.Rand) { e.Newline() },
		func(e *Editor, _ *rand.Rand) { e.Backspace() },
		func(e *Editor, _ *rand.Rand) { e.Delete() },
		func(e *Editor, _ *rand.Rand) { e.BackspaceWord() },
		func(e *Editor, _ *rand.Rand) { e.DeleteWord() },
		func(e *Editor, _ *rand.Rand) { e.DeleteToEnd() },
		func(e *Editor, _ *rand.Rand) { e.Tab() },
		func(e *Editor, _ *rand.Rand) { e.Indent() },
		func(e *Editor, _ *rand.Rand) { e.Outdent() },
		func(e *Editor, _ *rand.Rand) { e.DeleteLines() },
		func(e *Editor, r *rand.Rand) { e.Duplicate(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.MoveLines(1-2*r.Intn(2), r.Intn(2) == 0) },
		func(e *Editor, _ *rand.Rand) { e.Join() },
		func(e *Editor, _ *rand.Rand) { e.Sort() },
		func(e *Editor, _ *rand.Rand) { e.Upper() },
		func(e *Editor, _ *rand.Rand) { e.Surround("(", ")") },
		func(e *Editor, _ *rand.Rand) { e.Comment() },
		func(e *Editor, _ *rand.Rand) { e.CommentAround() },
		func(e *Editor, _ *rand.Rand) { e.Paste("x\ny\r\n") },
		func(e *Editor, r *rand.Rand) { e.Left(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.Right(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.WordLeft(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.WordRight(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.Vertical(r.Intn(7)-3, r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.LineStart(r.Intn(2) == 0) },
		func(e *Editor, r *rand.Rand) { e.LineEnd(r.Intn(2) == 0) },
		func(e *Editor, _ *rand.Rand) { e.AddNext() },
		func(e *Editor, _ *rand.Rand) { e.AddAll() },
		func(e *Editor, _ *rand.Rand) { e.Skip() },
		func(e *Editor, _ *rand.Rand) { e.PerLine() },
		func(e *Editor, r *rand.Rand) { e.AddVertical(1 - 2*r.Intn(2)) },
		func(e *Editor, _ *rand.Rand) { e.Rectangle() },
		func(e *Editor, _ *rand.Rand) { e.Single() },
		func(e *Editor, r *rand.Rand) { e.Put(r.Intn(40)) },
		func(e *Editor, _ *rand.Rand) { e.Undo() },
		func(e *Editor, _ *rand.Rand) { e.Redo() },
		func(e *Editor, _ *rand.Rand) { e.Earlier() },
		func(e *Editor, _ *rand.Rand) { e.Later() },
		func(e *Editor, _ *rand.Rand) { e.Cut() },
		func(e *Editor, _ *rand.Rand) { e.Replace(text.NewDocument([]byte("func x() {\n\ty()\n}\n"))) },
	}
	const begun = "func hut() {\n\tbell(1)\n\tbell(2)\n}\r\n\n  last é"
	for seed := range int64(1500) {
		r := rand.New(rand.NewSource(seed))
		e := New(text.NewDocument([]byte(begun)), 3, goStyle)
		var done []int
		for range 60 {
			n := r.Intn(len(deeds))
			done = append(done, n)
			what := fmt.Sprintf("seed %d after %v", seed, done)
			deeds[n](e, r)
			fresh := text.NewDocument(append([]byte("\x80\n"), e.doc.Bytes()...)) // as UTF-8, whatever was cut apart
			require.Equal(t, max(fresh.Lines()-1, 1), e.doc.Lines(), what)
			for l := 1; l < fresh.Lines(); l++ {
				require.Equal(t, string(fresh.Line(l+1)), string(e.doc.Line(l)), what)
			}
			require.True(t, e.main >= 0 && e.main < len(e.carets), what)
			last := -1
			for _, c := range e.carets {
				start, end := c.Selected()
				require.True(t, start >= 0 && end <= len(e.doc.Bytes()), what)
				require.True(t, start > last || start == last && start != end, what)
				last = end
			}
			if len(e.doc.Bytes()) > 5000 {
				break
			}
		}
		for e.Earlier() {
		}
		require.Equal(t, begun, string(e.Document().Bytes()), "seed %d", seed)
	}
}
