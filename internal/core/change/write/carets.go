package write

import (
	"bytes"
	"slices"

	"rooktrail/internal/core/file/text"
)

// Move moves every caret to where the function says. With extend, what lies between is
// selected; without, a selection is left at the end in whose direction one goes.
func (e *Editor) move(extend bool, to func(c Caret) Caret) {
	after := make([]Caret, len(e.carets))
	for i, c := range e.carets {
		moved := to(c)
		moved.From = c.From
		if !extend {
			moved.From = moved.At
		}
		after[i] = moved
	}
	e.settle(after, e.main)
	e.history.Break()
}

// Left moves by a character; from a selection, to its beginning.
func (e *Editor) Left(extend bool) {
	e.move(extend, func(c Caret) Caret {
		if start, end := c.Selected(); start != end && !extend {
			return Caret{At: start}
		}
		return Caret{At: e.before(c.At)}
	})
}

// Right is the reverse of Left.
func (e *Editor) Right(extend bool) {
	e.move(extend, func(c Caret) Caret {
		if start, end := c.Selected(); start != end && !extend {
			return Caret{At: end}
		}
		return Caret{At: e.after(c.At)}
	})
}

// WordLeft moves to the beginning of a word, WordRight to the next one.
func (e *Editor) WordLeft(extend bool) {
	e.move(extend, func(c Caret) Caret { return Caret{At: e.wordBefore(c.At)} })
}

// WordRight is the reverse of WordLeft.
func (e *Editor) WordRight(extend bool) {
	e.move(extend, func(c Caret) Caret { return Caret{At: e.wordAfter(c.At)} })
}

// Vertical moves by lines, or by rows where they are broken, and keeps to the column.
func (e *Editor) Vertical(lines int, extend bool) {
	e.move(extend, func(c Caret) Caret {
		if e.rows == nil {
			return e.vertical(c, lines)
		}
		to, wanted := e.rows.Vertical(c.At, lines, c.want-1)
		return Caret{At: to, want: wanted + 1}
	})
}

func (e *Editor) vertical(c Caret, lines int) Caret {
	line, col := e.doc.Position(c.At)
	want := c.want - 1
	if c.want == 0 {
		want = e.tabs.Ruler(e.doc.Line(line)).AtOffset(col - 1).Col
	}
	to := line + lines
	switch {
	case to < 1:
		return Caret{At: 0, want: want + 1}
	case to > e.lastLine():
		return Caret{At: e.doc.Len(), want: want + 1}
	}
	return Caret{At: e.doc.Offset(to, 1) + e.tabs.Ruler(e.doc.Line(to)).AtColumn(want).Offset, want: want + 1}
}

// LineStart moves to the first character of the line that is no blank, and from there to its
// beginning.
func (e *Editor) LineStart(extend bool) {
	e.move(extend, func(c Caret) Caret {
		line, _ := e.doc.Position(c.At)
		l, start := e.doc.Line(line), e.doc.Offset(line, 1)
		first := start + len(l) - len(bytes.TrimLeft(l, " \t"))
		if c.At == first {
			first = start
		}
		return Caret{At: first}
	})
}

// LineEnd moves to the end of the line.
func (e *Editor) LineEnd(extend bool) {
	e.move(extend, func(c Caret) Caret {
		line, _ := e.doc.Position(c.At)
		return Caret{At: e.lineEnd(line)}
	})
}

// Ends moves to the beginning or the end of the text.
func (e *Editor) Ends(end, extend bool) {
	e.move(extend, func(Caret) Caret {
		if end {
			return Caret{At: e.doc.Len()}
		}
		return Caret{}
	})
}

// SelectAll selects all of the text.
func (e *Editor) SelectAll() { e.Select(0, e.doc.Len()) }

// wanted is what more carets are looked for: what is selected at the main one, or the word
// there, which is selected by that. ok is false if there is neither.
func (e *Editor) wanted() (what []byte, ok bool) {
	c := e.Main()
	start, end := c.Selected()
	if start == end {
		if start, end = e.wordAt(c.At); start == end {
			return nil, false
		}
		e.carets[e.main] = Caret{From: start, At: end}
		e.settle(e.carets, e.main) // others may be in the word
		start, end = e.Main().Selected()
	}
	return e.doc.Slice(start, end), true
}

// AddNext puts a caret at the next place that reads as what is selected, or as the word under
// the caret, which is first selected by itself. It is false if there is no other.
func (e *Editor) AddNext() bool {
	fresh := e.Main().At == e.Main().From
	what, ok := e.wanted()
	if !ok || fresh {
		return ok
	}
	if at, ok := e.next(what); ok {
		e.add(Caret{From: at, At: at + len(what)})
		return true
	}
	return false
}

// next is where a text stands next behind the main caret, round at the end, and no caret is.
func (e *Editor) next(what []byte) (at int, ok bool) {
	data := e.doc.Bytes()
	_, from := e.Main().Selected()
	for _, part := range []struct{ start, end int }{{from, len(data)}, {0, from}} {
		for at := part.start; ; {
			i := bytes.Index(data[at:part.end], what)
			if i < 0 {
				break
			}
			if at += i; !e.taken(at) {
				return at, true
			}
			at += len(what)
		}
	}
	return 0, false
}

func (e *Editor) taken(at int) bool {
	return slices.ContainsFunc(e.carets, func(c Caret) bool { start, _ := c.Selected(); return start == at })
}

// add puts in a caret, which the screen follows from now on.
func (e *Editor) add(c Caret) {
	e.settle(append(slices.Clone(e.carets), c), len(e.carets))
	e.history.Break()
}

// Skip gives up the main caret for the next place that reads the same.
func (e *Editor) Skip() bool {
	what, ok := e.wanted()
	if !ok {
		return false
	}
	at, ok := e.next(what)
	if !ok {
		return false
	}
	left := slices.Delete(slices.Clone(e.carets), e.main, e.main+1)
	e.settle(append(left, Caret{From: at, At: at + len(what)}), len(left))
	return true
}

// AddAll puts a caret at every place that reads as what is selected or as the word under the
// caret; it says how many there are.
func (e *Editor) AddAll() int {
	what, ok := e.wanted()
	if !ok {
		return 0
	}
	var all []Caret
	data := e.doc.Bytes()
	main := 0
	for at := 0; ; {
		i := bytes.Index(data[at:], what)
		if i < 0 {
			break
		}
		at += i
		if start, _ := e.Main().Selected(); start == at {
			main = len(all)
		}
		all = append(all, Caret{From: at, At: at + len(what)})
		at += len(what)
	}
	e.settle(all, main)
	e.history.Break()
	return len(all)
}

// AddAt puts carets at places, each selected; none if there are none.
func (e *Editor) AddAt(places [][2]int) {
	if len(places) == 0 {
		return
	}
	var all []Caret
	main := 0
	for i, p := range places {
		if p[0] <= e.Main().At && e.Main().At <= p[1] {
			main = i
		}
		all = append(all, Caret{From: e.clamp(p[0]), At: e.clamp(p[1])})
	}
	e.settle(all, main)
	e.history.Break()
}

// PerLine puts a caret at the end of each line that is selected.
func (e *Editor) PerLine() {
	var all []Caret
	for _, l := range e.lines() {
		for n := l.first; n <= l.last; n++ {
			at := e.lineEnd(n)
			all = append(all, Caret{At: at, From: at})
		}
	}
	e.settle(all, len(all)-1)
	e.history.Break()
}

// AddVertical puts a caret into the line above the first or below the last one, at the same
// column; it is false at the ends of the text.
func (e *Editor) AddVertical(by int) bool {
	c := e.carets[len(e.carets)-1]
	if by < 0 {
		c = e.carets[0]
	}
	line, _ := e.doc.Position(c.At)
	if to := line + by; to < 1 || to > e.lastLine() {
		return false
	}
	next := e.vertical(c, by)
	next.From = next.At
	e.add(next)
	return true
}

// Rectangle makes of the main caret's selection one on each of its lines, between the same
// columns.
func (e *Editor) Rectangle() {
	c := e.Main()
	l1, c1 := e.doc.Position(c.From)
	l2, c2 := e.doc.Position(c.At)
	col := func(line, col int) int { return e.tabs.Ruler(e.doc.Line(line)).AtOffset(col - 1).Col }
	left, right := col(l1, c1), col(l2, c2)
	backward := right < left
	if backward {
		left, right = right, left
	}
	var all []Caret
	for n := min(l1, l2); n <= max(l1, l2); n++ {
		r, start := e.tabs.Ruler(e.doc.Line(n)), e.doc.Offset(n, 1)
		from, at := start+r.AtColumn(left).Offset, start+r.AtColumn(right).Offset
		if backward {
			from, at = at, from
		}
		all = append(all, Caret{From: from, At: at})
	}
	e.settle(all, len(all)-1)
	e.history.Break()
}

// WriteOut writes out those selections, beginning at the given offsets, of which each is the name of a
// member and of its value at once: { depth } becomes { depth: depth }, with the value selected, or the
// member if it is that which is meant.
func (e *Editor) WriteOut(short map[int]bool, member bool) {
	var edits []text.Edit
	after, by := make([]Caret, len(e.carets)), 0
	for i, c := range e.carets {
		start, end := c.Selected()
		before := by // how far this one moves
		if short[start] {
			name := string(e.doc.Slice(start, end))
			x := text.Edit{Start: start, End: start, New: []byte(name + ": ")}
			if member {
				x = text.Edit{Start: end, End: end, New: []byte(": " + name)}
			}
			edits = append(edits, x)
			if by += x.Shift(); !member {
				before = by
			}
		}
		after[i] = Caret{At: c.At + before, From: c.From + before}
	}
	if len(edits) > 0 {
		e.history.Break()
		e.apply(edits, text.Other, after, e.main)
		e.history.Break()
	}
}
