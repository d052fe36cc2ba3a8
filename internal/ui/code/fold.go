package code

import (
	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
)

// look works out which lines are to be seen, after something was folded, opened
// or put alone.
func (m *Model) look() {
	first, last := 0, 0
	if m.alone.Len() > 0 {
		first, last = fold.Lines(m.file.Text, m.alone)
	}
	m.seen = *fold.NewView(m.lines, &m.folds, first, last)
}

// reveal opens what hides the line of the caret; a piece that is alone and does
// not hold it is alone no longer.
func (m *Model) reveal() {
	opened := m.folds.Reveal(m.line)
	if m.alone.Len() > 0 {
		if first, last := fold.Lines(m.file.Text, m.alone); m.line < first || m.line > last {
			m.alone, opened = place.Range{}, true
		}
	}
	if opened {
		m.look()
	}
}

// Folds are the parts that can be folded; nil if there is no file. After a
// change of what is folded, Refold is to be called.
func (m *Model) Folds() *fold.Set {
	if m.file == nil {
		return nil
	}
	return &m.folds
}

// Refold takes in that something was folded or opened. The caret goes to where
// it is to be seen.
func (m *Model) Refold() {
	m.look()
	if m.seen.Hides(m.line) {
		m.line = m.lineOf(m.rowOf(m.line))
		m.at = m.offsetIn(spot{m.line, 0}, m.want)
	}
	m.mark = place.Range{}
	m.settle()
}

// SetFolds folds what a set says that was taken from this file as it is.
func (m *Model) SetFolds(s *fold.Set) {
	m.folds = *s.Clone()
	m.look()
	m.settle()
}

// Fold folds what the marks say, but nothing that would hide the caret.
func (m *Model) Fold(marks []fold.Mark) {
	if m.file == nil || len(marks) == 0 {
		return
	}
	m.folds.Restore(marks, m.file.Text)
	m.folds.Reveal(m.line)
	m.Refold()
}

// Alone puts a piece of the file alone on the screen; an empty one brings the
// rest back.
func (m *Model) Alone(piece place.Range) {
	m.alone = piece
	m.look()
	m.settle()
}

// Solo is the piece that is alone on the screen; it is empty if none is.
func (m *Model) Solo() place.Range { return m.alone }

// Selection is what is selected; it is empty if nothing is.
func (m *Model) Selection() place.Range { return m.selected }

// Select selects a larger piece and keeps the one before, for Shrink. The caret
// stands at its beginning.
func (m *Model) Select(piece place.Range) {
	m.smaller = append(m.smaller, m.selectionOrCaret())
	m.selected = piece
	m.toSelection()
}

// Shrink goes back to the selection before the last one; ok is false if there
// was none.
func (m *Model) Shrink() (ok bool) {
	n := len(m.smaller) - 1
	if n < 0 {
		return false
	}
	m.selected, m.smaller = m.smaller[n], m.smaller[:n]
	if m.selected.Len() == 0 {
		m.To(int(m.selected.Start)) // where the caret was
		return true
	}
	m.toSelection()
	return true
}

// Unselect ends the selection, with the caret where it is.
func (m *Model) Unselect() { m.selected, m.smaller = place.Range{}, nil }

func (m *Model) selectionOrCaret() place.Range {
	if m.selected.Len() > 0 {
		return m.selected
	}
	at := uint32(m.Offset())
	return place.Range{Start: at, End: at}
}

// toSelection puts the caret at the beginning of the selection, with as much of
// the selection in sight as there is room for.
func (m *Model) toSelection() {
	top, left := m.top, m.left
	m.To(int(m.selected.Start))
	last, _ := m.file.Text.Position(int(m.selected.End))
	end := spot{last, m.rowsOf(last) - 1}
	if m.top != top || m.left != left || m.between(m.first(), end, 2*m.height) < m.height-m.margin() {
		return
	}
	up, down := m.down(end, m.margin()+1-m.height), m.down(m.caretSpot(), -m.margin())
	if m.between(up, down, m.height) < 0 {
		up = down
	}
	m.setFirst(up)
	m.settle()
}

// Away says that the keys go elsewhere, as to another view.
func (m *Model) Away(away bool) { m.away = away }
