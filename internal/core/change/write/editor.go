// Package write is what one does to a text: typing, moving, deleting, with any number of
// carets. It knows nothing of screens; columns are those of characters, tabs counted as wide
// as they are shown.
package write

import (
	"slices"
	"time"

	"rooktrail/internal/core/file/text"
)

// Caret is where something is typed: at a byte offset. What lies between it and From is
// selected.
type Caret struct {
	At, From int
	// want is the column it keeps to when moving up and down, plus 1; 0 for its own.
	want int
}

// Selected is what is selected: from start up to end, in bytes.
func (c Caret) Selected() (start, end int) { return min(c.At, c.From), max(c.At, c.From) }

// Style is how a file is written.
type Style struct {
	// Indent is what one step of indentation is: a tab, or blanks.
	Indent string
	// Line begins a comment that goes to the end of the line; Open and Close are around
	// one that does not. "" where the language has none.
	Line, Open, Close string
}

// Rows are those of a screen on which lines are broken.
type Rows interface {
	// Vertical is where one comes from an offset by so many rows. want is the column to keep to, -1 for
	// its own; wanted is to be given the next time.
	Vertical(at, rows, want int) (to, wanted int)
}

// Editor is a text that is written.
type Editor struct {
	doc     *text.Document
	carets  []Caret // in order, none within another
	main    int     // the number of the one that the screen follows
	history text.History
	saved   int // the state that is on disk; -1 for none
	style   Style
	tabs    text.Tabs
	rows    Rows // nil where lines are not broken
	now     func() time.Time
	last    []text.Edit // of the change made last; nil if that is not known
}

// New begins to write in a document that is as it is on disk.
func New(d *text.Document, at int, style Style) *Editor {
	return &Editor{doc: d, carets: []Caret{{At: at, From: at}}, style: style, now: time.Now}
}

// Lay tells how the text is laid out on the screen: how wide tabs are, and in what rows, nil if they are
// the lines.
func (e *Editor) Lay(tabs text.Tabs, rows Rows) { e.tabs, e.rows = tabs, rows }

// Document is the text as it is now.
func (e *Editor) Document() *text.Document { return e.doc }

// Edits are those of the change that was made last.
func (e *Editor) Edits() []text.Edit { return e.last }

// Carets are all carets in order, and which of them the screen follows.
func (e *Editor) Carets() (all []Caret, main int) { return e.carets, e.main }

// Main is the caret that the screen follows.
func (e *Editor) Main() Caret { return e.carets[e.main] }

// Changed says whether the text differs from what was saved.
func (e *Editor) Changed() bool { return e.history.At() != e.saved }

// Saved notes that the text is on disk as it was at a state.
func (e *Editor) Saved(state int) { e.saved = state }

// State names the present state of the text; what is typed after that is another one.
func (e *Editor) State() int {
	e.history.Break()
	return e.history.At()
}

// Latest is the present state of the text, or the nearest of those from which it was made for
// which is holds; -1 if it holds for none. The state from which one began is 0.
func (e *Editor) Latest(is func(state int) bool) int { return e.history.Latest(is) }

// Lost notes that what is on disk is no state of this text.
func (e *Editor) Lost() { e.saved = -1 }

// Put sets the one caret there is, with nothing selected.
func (e *Editor) Put(at int) {
	at = e.clamp(at)
	e.carets, e.main = []Caret{{At: at, From: at}}, 0
	e.history.Break()
}

// Select makes one caret with a selection.
func (e *Editor) Select(from, at int) {
	e.carets, e.main = []Caret{{At: e.clamp(at), From: e.clamp(from)}}, 0
	e.history.Break()
}

// Single leaves only the caret that the screen follows; it is false if there is no other and
// nothing is selected. A selection goes only when there is one caret.
func (e *Editor) Single() bool {
	c := e.Main()
	if len(e.carets) > 1 {
		e.carets, e.main = []Caret{c}, 0
		return true
	}
	if c.At != c.From {
		e.carets[0].From = c.At
		return true
	}
	return false
}

func (e *Editor) clamp(at int) int { return min(max(at, 0), e.doc.Len()) }

// place is what the history keeps with a text: where the carets were.
type place struct {
	carets []Caret
	main   int
}

func (e *Editor) place() place { return place{slices.Clone(e.carets), e.main} }

// apply makes edits, in order and without overlaps, and puts the carets where they belong
// then.
func (e *Editor) apply(edits []text.Edit, kind text.Kind, after []Caret, main int) {
	edits = slices.DeleteFunc(edits, func(x text.Edit) bool { return x.Start == x.End && len(x.New) == 0 })
	if len(edits) == 0 {
		e.settle(after, main)
		return
	}
	before := e.place()
	old := e.doc
	e.doc, e.last = old.Apply(edits), edits
	e.settle(after, main)
	e.history.Did(old, edits, kind, e.now(), before, e.place())
}

// settle puts carets in order and makes one of those that meet.
func (e *Editor) settle(carets []Caret, main int) {
	for i := range carets { // a selection may end behind a line that has no end any more
		carets[i].At, carets[i].From = e.clamp(carets[i].At), e.clamp(carets[i].From)
	}
	at := carets[min(main, len(carets)-1)]
	slices.SortStableFunc(carets, func(a, b Caret) int {
		x, _ := a.Selected()
		y, _ := b.Selected()
		return x - y
	})
	merged := carets[:1]
	for _, c := range carets[1:] {
		last := &merged[len(merged)-1]
		start, end := c.Selected()
		lastStart, lastEnd := last.Selected()
		if start > lastEnd || start == lastEnd && (start != end && lastStart != lastEnd) {
			merged = append(merged, c)
			continue
		}
		if c == at {
			at = Caret{}
		}
		backward := last.At < last.From
		joined := Caret{From: lastStart, At: max(lastEnd, end), want: last.want}
		if backward {
			joined.From, joined.At = joined.At, joined.From
		}
		if *last == at || at == (Caret{}) {
			at = joined
		}
		*last = joined
	}
	e.carets = merged
	if e.main = slices.Index(merged, at); e.main < 0 {
		e.main = len(merged) - 1
	}
}

// each makes one edit at every caret: how gives the edit and where the caret is in what comes
// new.
func (e *Editor) each(kind text.Kind, how func(c Caret) (x text.Edit, at int)) {
	var edits []text.Edit
	var after []Caret
	by, end, main := 0, -1, 0
	for i, c := range e.carets {
		x, at := how(c)
		if x.Start < end { // what it would change went with the one before
			x.Start = end
			x.End = max(x.End, x.Start)
		}
		if i == e.main {
			main = len(after)
		}
		edits = append(edits, x)
		after = append(after, Caret{At: x.Start + by + at, From: x.Start + by + at})
		by += x.Shift()
		end = x.End
	}
	e.apply(edits, kind, after, main)
}

// Undo takes back the last step; it is false if there is none.
func (e *Editor) Undo() bool { return e.travel(e.history.Undo(e.doc)) }

// Redo does again what was taken back last.
func (e *Editor) Redo() bool { return e.travel(e.history.Redo(e.doc)) }

// Earlier goes to the text as it was a step before in time, also one that was taken back
// before something else was done; Later on again.
func (e *Editor) Earlier() bool { return e.travel(e.history.Earlier(e.doc)) }

// Later is the reverse of Earlier.
func (e *Editor) Later() bool { return e.travel(e.history.Later(e.doc)) }

func (e *Editor) travel(d *text.Document, keep any, ok bool) bool {
	if !ok {
		return false
	}
	e.last = text.Between(e.doc, d)
	e.doc = d
	if p, known := keep.(place); known {
		e.carets, e.main = slices.Clone(p.carets), p.main
	}
	for i := range e.carets {
		e.carets[i].At, e.carets[i].From = e.clamp(e.carets[i].At), e.clamp(e.carets[i].From)
	}
	return true
}

// AsUTF8 has the text kept on disk as UTF-8 from now on.
func (e *Editor) AsUTF8() { e.doc, e.last = e.doc.AsUTF8(), nil }

// Replace makes the text another one as one step, such as what is on disk by now, in the form
// in which that is kept there; the carets stay with their lines.
func (e *Editor) Replace(d *text.Document) {
	line, col := e.doc.Position(e.Main().At)
	edits := text.Between(e.doc, d)
	at := 0
	if len(edits) == 1 {
		at = text.Moved(e.doc.Offset(line, col), edits)
	}
	e.history.Break()
	e.apply(edits, text.Other, []Caret{{At: at, From: at}}, 0)
	if !e.doc.SameForm(d) {
		e.doc = d.With(e.doc.Bytes())
	}
}

// IndentOf is what one step of indentation is in a text: a tab, or as many blanks as most
// lines are further in than those before them. tabs is what to take where the text does not
// tell.
func IndentOf(d *text.Document, tabs bool) string {
	const looked = 2000
	steps := map[int]int{}
	withTab, last := 0, 0
	for n := 1; n <= min(d.Lines(), looked); n++ {
		line := d.Line(n)
		if blank(line) {
			continue
		}
		if line[0] == '\t' {
			withTab++
			continue
		}
		in := 0
		for in < len(line) && line[in] == ' ' {
			in++
		}
		if by := in - last; by >= 2 && by <= 8 {
			steps[by]++
		}
		last = in
	}
	best := 0
	for by, n := range steps {
		if n > steps[best] || n == steps[best] && by < best {
			best = by
		}
	}
	switch {
	case withTab > steps[best]:
		return "\t"
	case best > 0:
		return "        "[:best]
	case tabs:
		return "\t"
	}
	return "    "
}
