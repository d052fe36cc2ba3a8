package code

import (
	"bytes"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
)

// Retext shows a later text of the file, to which edits led, at once: what is known of its
// inside comes with Show. Colours move along with what they are on.
func (m *Model) Retext(f *codebase.File, edits []text.Edit) {
	folds := &m.folds
	switch {
	case len(edits) > 0:
		folds = m.folds.Edited(m.file.Text, edits)
	case m.folds.Any():
		folds = fold.NewSet(f.Regions())
		folds.Restore(m.folds.Marks(m.file.Text), f.Text)
	default:
		folds = fold.NewSet(nil)
	}
	asBefore := folds == &m.folds && m.alone.Len() == 0
	m.folds = *folds
	m.rulers = m.rulersAfter(f.Text, edits)
	m.followDiff(m.file.Text, f.Text, edits)
	m.followWrong(m.file.Text, f.Text, edits)
	m.file, m.lines = f, f.Text.Lines()
	m.mark, m.found, m.selected, m.smaller, m.alone = place.Range{}, nil, place.Range{}, nil, place.Range{}
	m.spans = shift(m.spans, edits)
	if !asBefore {
		m.look()
	}
}

// rulersAfter are the measures of long lines after edits: after one within a line, those of the
// others stay; of the line that is edited, what lies before the edit.
func (m *Model) rulersAfter(doc *text.Document, edits []text.Edit) map[int]*text.Ruler {
	if len(edits) != 1 || len(m.rulers) == 0 || m.file == nil {
		return nil
	}
	e, old := edits[0], m.file.Text
	first, col := old.Position(e.Start)
	last, _ := old.Position(e.End)
	if first != last || bytes.IndexByte(e.New, '\n') >= 0 {
		if r := m.rulers[first]; r != nil {
			line := doc.Line(first)
			from := min(col-1, len(line))
			return map[int]*text.Ruler{first: r.Edited(line, from, line[from:])}
		}
		return nil
	}
	if r := m.rulers[first]; r != nil {
		m.rulers[first] = r.Edited(doc.Line(first), col-1, e.New)
	}
	return m.rulers
}

// shift moves spans along with edits; those in what was changed go.
func shift(spans highlight.Spans, edits []text.Edit) highlight.Spans {
	if len(edits) == 0 {
		return spans
	}
	out := make(highlight.Spans, 0, len(spans))
	by, next := 0, 0
	for _, s := range spans {
		for next < len(edits) && edits[next].End < s.Start {
			by += edits[next].Shift()
			next++
		}
		grown := 0
		for i := next; i < len(edits) && edits[i].Start <= s.End; i++ {
			if edits[i].Start >= s.Start && edits[i].End <= s.End { // within the name or the string: it goes on
				grown += edits[i].Shift()
			}
		}
		if moved := (highlight.Span{Start: s.Start + by, End: s.End + by + grown, Role: s.Role}); moved.Start < moved.End && (len(out) == 0 || out[len(out)-1].End <= moved.Start) {
			out = append(out, moved)
		}
	}
	return out
}

// Carets shows where one writes: the caret of the terminal at an offset, others, and what is
// selected, all in order.
func (m *Model) Carets(at int, others []int, selected []place.Range) {
	m.carets, m.parts = others, selected
	if m.file == nil {
		return
	}
	line, col := m.file.Text.Position(at)
	lines := m.lines
	if line > lines { // behind the last line end
		m.lines = line
		m.look()
	}
	m.line, m.at = line, col-1
	m.reveal()
	m.at = m.boundary(m.at)
	m.want = m.column()
	m.settle()
}

// NoCarets ends the showing of more than one caret.
func (m *Model) NoCarets() {
	m.carets, m.parts = nil, nil
	if m.file != nil && m.lines != m.file.Text.Lines() {
		m.lines = m.file.Text.Lines()
		m.look()
		m.settle()
	}
}

// Written puts the file in, with all that is known of it, whose text is shown already.
func (m *Model) Written(f *codebase.File, v trail.View, spansKept bool) {
	spans, carets, parts := m.spans, m.carets, m.parts
	m.Show(f, v)
	if spansKept {
		m.spans = spans
	}
	m.carets, m.parts = carets, parts
}
