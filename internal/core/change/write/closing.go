package write

import (
	"bytes"
	"strings"

	"rooktrail/internal/core/file/text"
)

// lookedBack is how many lines an opening bracket is looked for.
const lookedBack = 2000

// closing types a bracket that closes something. One that is the first on its line moves out to
// where the line is indented that it closes.
func (e *Editor) closing(bracket string) {
	e.each(text.Typing, func(c Caret) (text.Edit, int) {
		start, end := c.Selected()
		line, col := e.doc.Position(start)
		before := e.doc.Line(line)
		before = before[:min(col-1, len(before))]
		if indent, ok := e.indentOfOpening(line, bracket[0]); ok && blank(before) && len(indent) < len(before) {
			start -= len(before)
			return text.Edit{Start: start, End: end, New: append(indent, bracket...)}, len(indent) + 1
		}
		return text.Edit{Start: start, End: end, New: []byte(bracket)}, 1
	})
}

// indentOfOpening is how the line is indented above another one that holds the bracket which one
// closes that is typed there. Brackets in comments and strings count like others: more often
// than not there are as many of each.
func (e *Editor) indentOfOpening(line int, closes byte) (indent []byte, ok bool) {
	opens := "([{"[strings.IndexByte(")]}", closes)]
	open := 1
	for n := line - 1; n >= max(line-lookedBack, 1); n-- {
		l := e.doc.Line(n)
		for i := len(l) - 1; i >= 0; i-- {
			switch l[i] {
			case closes:
				open++
			case opens:
				open--
			}
			if open == 0 {
				return bytes.Clone(l[:len(l)-len(bytes.TrimLeft(l, " \t"))]), true
			}
		}
	}
	return nil, false
}
