package write

import (
	"bytes"
	"slices"
	"strings"

	"rooktrail/internal/core/file/text"
)

// span is a run of lines in which there are carets or selections.
type span struct{ first, last int }

// lines are the runs of lines that the carets and their selections touch, in order. A
// selection that ends at the beginning of a line does not touch that.
func (e *Editor) lines() (all []span) {
	for _, c := range e.carets {
		start, end := c.Selected()
		first, _ := e.doc.Position(start)
		last, col := e.doc.Position(end)
		if last > first && col == 1 {
			last--
		}
		if n := len(all); n > 0 && first <= all[n-1].last+1 {
			all[n-1].last = max(all[n-1].last, last)
			continue
		}
		all = append(all, span{first, last})
	}
	return all
}

// shifted are the carets after edits, each with its selection.
func (e *Editor) shifted(edits []text.Edit) []Caret {
	after := slices.Clone(e.carets)
	for i := range after {
		after[i].At, after[i].From = text.Moved(after[i].At, edits), text.Moved(after[i].From, edits)
	}
	return after
}

// onLines makes an edit of every line that the carets touch.
func (e *Editor) onLines(how func(line int) (text.Edit, bool)) {
	var edits []text.Edit
	for _, l := range e.lines() {
		for n := l.first; n <= l.last; n++ {
			if x, ok := how(n); ok {
				edits = append(edits, x)
			}
		}
	}
	e.history.Break()
	e.apply(edits, text.Other, e.shifted(edits), e.main)
}

// Indent moves the lines one step to the right; empty ones stay.
func (e *Editor) Indent() {
	e.onLines(func(n int) (text.Edit, bool) {
		at := e.doc.Offset(n, 1)
		return text.Edit{Start: at, End: at, New: []byte(e.style.Indent)}, !blank(e.doc.Line(n))
	})
}

// Outdent moves the lines one step to the left.
func (e *Editor) Outdent() {
	e.onLines(func(n int) (text.Edit, bool) {
		line, at := e.doc.Line(n), e.doc.Offset(n, 1)
		if bytes.HasPrefix(line, []byte("\t")) {
			return text.Edit{Start: at, End: at + 1}, true
		}
		blanks := 0
		for blanks < len(line) && blanks < max(len(strings.ReplaceAll(e.style.Indent, "\t", "    ")), 1) && line[blanks] == ' ' {
			blanks++
		}
		return text.Edit{Start: at, End: at + blanks}, blanks > 0
	})
}

// Tab indents the lines if more than one is selected, else types one step of indentation, with
// blanks up to the next step.
func (e *Editor) Tab() {
	for _, c := range e.carets {
		start, end := c.Selected()
		if bytes.IndexByte(e.doc.Slice(start, end), '\n') >= 0 {
			e.Indent()
			return
		}
	}
	if e.style.Indent == "\t" {
		e.Type("\t")
		return
	}
	e.each(text.Blank, func(c Caret) (text.Edit, int) {
		start, end := c.Selected()
		line, col := e.doc.Position(start)
		wide := e.tabs.Ruler(e.doc.Line(line)).AtOffset(col - 1).Col
		n := len(e.style.Indent) - wide%max(len(e.style.Indent), 1)
		return text.Edit{Start: start, End: end, New: bytes.Repeat([]byte(" "), n)}, n
	})
}

// whole is the bytes of a run of lines with the end of the last.
func (e *Editor) whole(l span) (start, end int) {
	return e.doc.Offset(l.first, 1), e.doc.Offset(l.last+1, 1)
}

// DeleteLines deletes the lines that the carets touch.
func (e *Editor) DeleteLines() {
	var edits []text.Edit
	var after []Caret
	by := 0
	for _, l := range e.lines() {
		start, end := e.whole(l)
		if end == e.doc.Len() && l.first > 1 && l.last >= e.doc.Lines() && !e.endsWithLineEnd() {
			start = e.lineEnd(l.first - 1) // the last line has no end: that before goes with it
		}
		edits = append(edits, text.Edit{Start: start, End: end})
		after = append(after, Caret{At: start + by, From: start + by})
		by -= end - start
	}
	e.history.Break()
	e.apply(edits, text.Other, after, min(e.main, len(after)-1))
}

func (e *Editor) endsWithLineEnd() bool {
	return bytes.HasSuffix(e.doc.Slice(e.doc.Len()-1, e.doc.Len()), []byte("\n"))
}

// Duplicate puts a copy of the lines below them, or above, and the carets into it.
func (e *Editor) Duplicate(below bool) {
	var edits []text.Edit
	for _, l := range e.lines() {
		start, end := e.whole(l)
		copied := bytes.Clone(e.doc.Slice(start, end))
		if !bytes.HasSuffix(copied, []byte("\n")) { // the last line has no end
			edits = append(edits, text.Edit{Start: end, End: end, New: append(bytes.Clone(e.doc.LineEnd()), copied...)})
			continue
		}
		edits = append(edits, text.Edit{Start: end, End: end, New: copied})
	}
	after := slices.Clone(e.carets)
	for i := range after {
		by := 0
		for _, x := range edits {
			if x.Start <= after[i].At && !(x.Start == after[i].At && e.touches(x.Start, after[i])) {
				by += len(x.New)
			} else if below {
				by += len(x.New)
				break
			} else {
				break
			}
		}
		after[i].At += by
		after[i].From += by
	}
	e.history.Break()
	e.apply(edits, text.Other, after, e.main)
}

// touches says that a caret stands at an offset and belongs to the lines that end there, since
// it is the end of the text or of its selection.
func (e *Editor) touches(offset int, c Caret) bool {
	start, end := c.Selected()
	return offset == e.doc.Len() || start != end && end == offset
}

// MoveLines moves the lines up (-1) or down (1) by one; it is false if they cannot go on, or
// would leave the block they are in and are to stay in it.
func (e *Editor) MoveLines(by int, inBlock bool) bool {
	all := e.lines()
	last := e.doc.Lines()
	for _, l := range all {
		if by < 0 && l.first == 1 || by > 0 && l.last >= last {
			return false
		}
		if inBlock {
			next := l.last + 1
			if by < 0 {
				next = l.first - 1
			}
			if line := e.doc.Line(next); !blank(line) && indentOf(line) < indentOf(e.doc.Line(l.first)) {
				return false
			}
		}
	}
	var edits []text.Edit
	after := slices.Clone(e.carets)
	for _, l := range all {
		first, second := span{l.first, l.last}, span{l.last + 1, l.last + 1}
		if by < 0 {
			first, second = span{l.first - 1, l.first - 1}, l
		}
		start, middle := e.whole(first)
		_, end := e.whole(second)
		upper, lower := e.doc.Slice(start, middle), e.doc.Slice(middle, end)
		new := append(bytes.Clone(lower), upper...)
		if !bytes.HasSuffix(lower, []byte("\n")) { // the last line has no end, and gets one
			ending := upper[len(bytes.TrimRight(upper, "\r\n")):]
			new = append(append(bytes.Clone(lower), ending...), upper[:len(upper)-len(ending)]...)
		}
		edits = append(edits, text.Edit{Start: start, End: end, New: new})
		for i := range after {
			if line, _ := e.doc.Position(e.carets[i].At); line >= l.first && line <= l.last {
				if by > 0 {
					shift := len(lower)
					if !bytes.HasSuffix(lower, []byte("\n")) {
						shift += len(upper) - len(bytes.TrimRight(upper, "\r\n"))
					}
					after[i].At, after[i].From = after[i].At+shift, after[i].From+shift
				} else {
					after[i].At, after[i].From = after[i].At-len(upper), after[i].From-len(upper)
				}
			}
		}
	}
	e.history.Break()
	e.apply(edits, text.Other, after, e.main)
	return true
}

func indentOf(line []byte) int {
	n := 0
	for _, b := range line {
		switch b {
		case ' ':
			n++
		case '\t':
			n += text.TabWidth
		default:
			return n
		}
	}
	return n
}

// Join puts the next line behind each that the carets touch, with one blank between them.
func (e *Editor) Join() {
	var edits []text.Edit
	for _, l := range e.lines() {
		for n := l.first; n < max(l.last, l.first+1); n++ {
			if n >= e.doc.Lines() {
				break
			}
			start := e.doc.Offset(n, 1) + len(bytes.TrimRight(e.doc.Line(n), " \t"))
			next := e.doc.Line(n + 1)
			end := e.doc.Offset(n+1, 1) + len(next) - len(bytes.TrimLeft(next, " \t"))
			new := []byte(" ")
			if blank(next) || blank(e.doc.Line(n)) {
				new = nil
			}
			edits = append(edits, text.Edit{Start: start, End: end, New: new})
		}
	}
	e.history.Break()
	e.apply(edits, text.Other, e.shifted(edits), e.main)
}

// Sort puts the selected lines in order; without more than one, all lines around that are as
// far indented.
func (e *Editor) Sort() {
	var edits []text.Edit
	done := 0
	for _, l := range e.lines() {
		if l.first == l.last {
			l = e.level(l)
		}
		if l.first <= done {
			continue
		}
		done = l.last
		var all []string
		for n := l.first; n <= l.last; n++ {
			all = append(all, string(e.doc.Line(n)))
		}
		sorted := slices.Clone(all)
		slices.SortStableFunc(sorted, strings.Compare)
		for i := range all {
			at := e.doc.Offset(l.first+i, 1)
			if all[i] != sorted[i] {
				edits = append(edits, text.Edit{Start: at, End: at + len(all[i]), New: []byte(sorted[i])})
			}
		}
	}
	e.history.Break()
	at := e.Main()
	e.apply(edits, text.Other, []Caret{{At: at.At, From: at.From}}, 0)
	e.carets[0].At, e.carets[0].From = e.clamp(at.At), e.clamp(at.From)
}

// level is the run of lines around one that are as far indented, none of them empty.
func (e *Editor) level(l span) span {
	indent := indentOf(e.doc.Line(l.first))
	same := func(n int) bool {
		line := e.doc.Line(n)
		return n >= 1 && n <= e.doc.Lines() && !blank(line) && indentOf(line) == indent
	}
	for same(l.first - 1) {
		l.first--
	}
	for same(l.last + 1) {
		l.last++
	}
	return l
}

// Comment makes the lines comments, or code again if all are comments; it is false if the
// language has no comments that go to the end of a line, and none around either.
func (e *Editor) Comment() bool {
	if e.style.Line == "" {
		return e.CommentAround()
	}
	all, least := true, -1
	for _, l := range e.lines() {
		for n := l.first; n <= l.last; n++ {
			line := e.doc.Line(n)
			if blank(line) {
				continue
			}
			trimmed := bytes.TrimLeft(line, " \t")
			all = all && bytes.HasPrefix(trimmed, []byte(e.style.Line))
			if in := len(line) - len(trimmed); least < 0 || in < least {
				least = in
			}
		}
	}
	if least < 0 { // only empty lines
		return true
	}
	e.onLines(func(n int) (text.Edit, bool) {
		line, at := e.doc.Line(n), e.doc.Offset(n, 1)
		if blank(line) {
			return text.Edit{}, false
		}
		if !all {
			return text.Edit{Start: at + least, End: at + least, New: []byte(e.style.Line + " ")}, true
		}
		start := len(line) - len(bytes.TrimLeft(line, " \t"))
		end := start + len(e.style.Line)
		if end < len(line) && line[end] == ' ' {
			end++
		}
		return text.Edit{Start: at + start, End: at + end}, true
	})
	return true
}

// CommentAround puts a comment around what is selected or the lines of the carets, or takes it
// away; it is false if the language has none such.
func (e *Editor) CommentAround() bool {
	if e.style.Open == "" {
		return false
	}
	var edits []text.Edit
	last := -1
	for _, c := range e.carets {
		start, end := c.Selected()
		if start == end {
			line, _ := e.doc.Position(c.At)
			l := e.doc.Line(line)
			start = e.doc.Offset(line, 1) + len(l) - len(bytes.TrimLeft(l, " \t"))
			end = e.doc.Offset(line, 1) + len(bytes.TrimRight(l, " \t"))
		}
		if start >= end || start <= last { // an empty line, or one that is done
			continue
		}
		last = end
		inside := e.doc.Slice(start, end)
		open, close := []byte(e.style.Open), []byte(e.style.Close)
		if len(inside) >= len(open)+len(close) && bytes.HasPrefix(inside, open) && bytes.HasSuffix(inside, close) {
			front, back := len(open), len(close)
			if bytes.HasPrefix(inside[front:], []byte(" ")) {
				front++
			}
			if bytes.HasSuffix(inside[front:len(inside)-back], []byte(" ")) {
				back++
			}
			edits = append(edits, text.Edit{Start: start, End: start + front}, text.Edit{Start: end - back, End: end})
			continue
		}
		edits = append(edits, text.Edit{Start: start, End: start, New: []byte(e.style.Open + " ")}, text.Edit{Start: end, End: end, New: []byte(" " + e.style.Close)})
	}
	e.history.Break()
	e.apply(edits, text.Other, e.shifted(edits), e.main)
	return true
}
