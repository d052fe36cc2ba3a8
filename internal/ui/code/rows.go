package code

import (
	"rooktrail/internal/core/file/text"
)

// spot is a row of the screen: a line, and which of the rows into which it is broken.
type spot struct{ line, row int }

// breaks says whether a line is broken into rows. One under which others are folded is not.
func (m *Model) breaks(line int) bool {
	if !m.looks.Wrap {
		return false
	}
	_, folded := m.folds.Folded(line)
	return !folded
}

// wrapped is a line in rows.
func (m *Model) wrapped(line int) *text.Wrapped {
	of := wrapsOf{m.doc(), m.looks.Tabs, m.room() - 1} // a column is left for a caret behind the last character
	if of != m.wraps.of {
		m.wraps.of, m.wraps.by = of, map[int]*text.Wrapped{}
	}
	w := m.wraps.by[line]
	if w == nil {
		w = m.measure(line).Wrap(of.width)
		if len(m.wraps.by) >= mostRulers {
			clear(m.wraps.by)
		}
		m.wraps.by[line] = w
	}
	return w
}

// doc is the text that is shown; nil if there is none.
func (m *Model) doc() *text.Document {
	if m.file == nil {
		return nil
	}
	return m.file.Text
}

// wraps are lines in rows that were worked out before.
type wraps struct {
	of wrapsOf
	by map[int]*text.Wrapped
}

// wrapsOf is what they are of.
type wrapsOf struct {
	doc   *text.Document
	tabs  text.Tabs
	width int
}

// rowsOf is how many rows a line takes.
func (m *Model) rowsOf(line int) int {
	if !m.breaks(line) {
		return 1
	}
	return m.wrapped(line).Rows()
}

// caretSpot is the row in which the caret is.
func (m *Model) caretSpot() spot {
	if !m.breaks(m.line) {
		return spot{m.line, 0}
	}
	return spot{m.line, m.wrapped(m.line).Row(m.measure(m.line).AtOffset(m.at))}
}

// across is in which column the caret is, counted from 0: of its line, or of its row where lines are broken.
func (m *Model) across() int {
	c := m.measure(m.line).AtOffset(m.at)
	if !m.breaks(m.line) {
		return c.Col
	}
	return m.wrapped(m.line).Across(c)
}

// offsetIn is the byte of a line that stands in a column of one of its rows.
func (m *Model) offsetIn(s spot, across int) int {
	if !m.breaks(s.line) {
		return m.measure(s.line).AtColumn(across).Offset
	}
	return m.wrapped(s.line).At(s.row, across).Offset
}

// down is the row that is so many rows below another one; beyond the ends, the first or the last.
func (m *Model) down(s spot, rows int) spot {
	if !m.looks.Wrap {
		return spot{m.lineOf(m.rowOf(s.line) + rows), 0}
	}
	s.row = min(s.row, m.rowsOf(s.line)-1)
	for {
		next := s.row + rows
		n := m.rowsOf(s.line)
		at := m.rowOf(s.line)
		switch {
		case next >= n && at+1 < m.seen.Rows():
			rows = next - n
			s = spot{m.lineOf(at + 1), 0}
		case next < 0 && at > 0:
			above := m.lineOf(at - 1)
			rows = next + 1
			s = spot{above, m.rowsOf(above) - 1}
		default:
			return spot{s.line, min(max(next, 0), n-1)}
		}
	}
}

// between is how many rows one row is below another; of more than about so many, no matter how many.
func (m *Model) between(from, to spot, most int) int {
	if from.line > to.line || from.line == to.line && from.row > to.row {
		return -m.between(to, from, most)
	}
	lines := m.rowOf(to.line) - m.rowOf(from.line)
	if !m.looks.Wrap || lines > most {
		return lines
	}
	n := to.row - from.row
	for at := m.rowOf(from.line); at < m.rowOf(to.line) && n <= most; at++ {
		n += m.rowsOf(m.lineOf(at))
	}
	return n
}

// first is the first row on the screen.
func (m *Model) first() spot { return spot{m.top, m.part} }

// setFirst has a row be the first on the screen.
func (m *Model) setFirst(s spot) { m.top, m.part = s.line, s.row }

// lastSpot is the last row of the file.
func (m *Model) lastSpot() spot {
	line := m.lineOf(m.seen.Rows() - 1)
	return spot{line, m.rowsOf(line) - 1}
}

// settle moves what is shown so that the caret is on the screen.
func (m *Model) settle() {
	m.line = m.lineOf(m.rowOf(min(max(m.line, 1), max(m.lines, 1))))
	m.at = m.boundary(m.at)
	m.top = m.lineOf(m.rowOf(m.top))
	m.part = min(m.part, m.rowsOf(m.top)-1)
	margin, caret := m.margin(), m.caretSpot()
	lowest := m.height - 1 - margin // the lowest row in which the caret may be
	below := m.between(m.first(), caret, 2*m.height)
	if below < margin {
		m.setFirst(m.down(caret, -margin))
	} else if below > lowest {
		m.setFirst(m.down(caret, -lowest))
	}
	if last := m.lastSpot(); m.between(m.first(), last, m.height) < lowest {
		m.setFirst(m.down(last, -lowest))
	}
	if m.between(m.first(), caret, 1) < 0 {
		m.setFirst(caret)
	}
	m.slideAside()
}

// slideAside moves what is shown to the side so that the caret is on the screen.
func (m *Model) slideAside() {
	if m.looks.Wrap {
		m.left = 0
		return
	}
	room := m.room()
	col := m.column()
	if col < m.left+4 {
		m.left = max(0, col-4)
	}
	if col > m.left+room-8 {
		m.left = max(0, col-room+8)
	}
	if col < room-8 {
		m.left = 0
	}
}

// Move goes up or down by rows that are to be seen, keeping to the column.
func (m *Model) Move(rows int) {
	m.beyond = 0
	if m.file != nil && !m.file.Text.Whole() && m.line+rows > m.lines {
		m.beyond = m.line + rows
	}
	m.moveTo(m.down(m.caretSpot(), rows))
}

// moveLines is Move by lines, however many rows they take.
func (m *Model) moveLines(lines int) {
	if !m.looks.Wrap {
		m.Move(lines)
		return
	}
	if m.beyond = 0; m.file != nil && !m.file.Text.Whole() && m.line+lines > m.lines {
		m.beyond = m.line + lines
	}
	m.moveTo(spot{m.lineOf(m.rowOf(m.line) + lines), 0})
}

// moveTo goes to a row, keeping to the column.
func (m *Model) moveTo(s spot) {
	m.line = s.line
	m.at = m.offsetIn(s, m.want)
	m.unpoint()
	m.settle()
}

// Scroll goes up or down by rows and moves what is shown by as much.
func (m *Model) Scroll(rows int) {
	m.setFirst(m.down(m.first(), rows))
	m.Move(rows)
}

// Slide moves what is shown by rows and leaves the caret where it is, even if
// that goes out of sight.
func (m *Model) Slide(rows int) { m.setFirst(m.down(m.first(), rows)) }

// SlideAside moves what is shown by columns to the side, as far as there is something, and leaves the
// caret where it is.
func (m *Model) SlideAside(columns int) {
	if m.looks.Wrap || m.file == nil {
		return
	}
	widest := 0
	for at, n := m.rowOf(m.top), 0; n < m.height && at < m.seen.Rows(); at, n = at+1, n+1 {
		widest = max(widest, m.measure(m.lineOf(at)).Width())
	}
	m.left = min(max(m.left+columns, 0), max(widest-m.room()+1, m.left, 0))
}

// ToCaret brings the caret back in sight, in the middle.
func (m *Model) ToCaret() {
	m.setFirst(m.down(m.caretSpot(), -m.height/2))
	m.settle()
}

// InSight says whether the row of the caret is on the screen.
func (m *Model) InSight() bool {
	row := m.Row()
	return 0 <= row && row < m.height
}

// Shown are the first and the last line on the screen.
func (m *Model) Shown() (first, last int) {
	return m.top, m.down(m.first(), m.height-1).line
}

// Row is in which row of the screen the caret is, counted from 0.
func (m *Model) Row() int { return m.between(m.first(), m.caretSpot(), 2*m.height) }

// ToRow brings the caret into a row of the screen, as nearly as there is text for it.
func (m *Model) ToRow(row int) {
	m.setFirst(m.down(m.caretSpot(), -row))
	m.settle()
}

// OffsetAt is the byte of the text that stands at a cell of the view; ok is false where there is no text.
func (m *Model) OffsetAt(x, y int) (offset int, ok bool) {
	if m.file == nil || m.file.Text.Binary() || y < 0 || y >= m.height {
		return 0, false
	}
	s := m.down(m.first(), y)
	if m.between(m.first(), s, m.height) != y {
		return 0, false // below the last row
	}
	return m.file.Text.Offset(s.line, 1) + m.offsetIn(s, max(x-m.gutter(), 0)+m.left), true
}

// Vertical implements write.Rows.
func (m *Model) Vertical(at, rows, want int) (to, wanted int) {
	doc := m.file.Text
	line, col := doc.Position(at)
	c := m.measure(line).AtOffset(col - 1)
	from := spot{line, 0}
	if m.breaks(line) {
		w := m.wrapped(line)
		from.row, wanted = w.Row(c), w.Across(c)
	} else {
		wanted = c.Col
	}
	if want >= 0 {
		wanted = want
	}
	s := m.down(from, rows)
	switch {
	case s == from && rows < 0:
		return 0, wanted
	case s == from && rows > 0:
		return doc.Len(), wanted
	}
	return doc.Offset(s.line, 1) + m.offsetIn(s, wanted), wanted
}
