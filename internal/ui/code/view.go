package code

import (
	"sort"
	"strconv"
	"strings"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// gutter is how many columns the line numbers and the margin take.
func (m *Model) gutter() int {
	if m.looks.Numbers == NoNumbers {
		return 4
	}
	return max(4, len(strconv.Itoa(m.lines))) + 4
}

// room is how many columns are left for the text.
func (m *Model) room() int { return max(m.width-m.gutter(), 1) }

// Rows draws the view, one string a row.
func (m *Model) Rows(p *palette.Palette) []string {
	if m.file == nil || m.file.Text.Binary() {
		return m.noteRows(p)
	}
	rows := make([]string, 0, m.height)
	part := m.part
	for at := m.rowOf(m.top); at < m.seen.Rows() && len(rows) < m.height; at++ {
		line := m.lineOf(at)
		if !m.breaks(line) {
			rows = append(rows, m.row(line, 0, nil, p))
			part = 0
			continue
		}
		w := m.wrapped(line)
		for ; part < w.Rows() && len(rows) < m.height; part++ {
			rows = append(rows, m.row(line, part, w, p))
		}
		part = 0
	}
	for len(rows) < m.height {
		rows = append(rows, ink.NewRow(m.width).String(palette.On(p.Quiet, p.Ground)))
	}
	return rows
}

// roomForWords is from how many columns on a folded line says so in full.
const roomForWords = 50

// foldedMark stands in the margin of a line under which others are folded away.
const foldedMark = "≡"

// editedMark stands in the margin where text was changed, bookmarkMark in front of the
// number of a line with a bookmark that has no letter.
const (
	editedMark   = "✎"
	bookmarkMark = "⚑"
)

func bookmarkSign(letter string) string {
	if letter != "" {
		return letter
	}
	return bookmarkMark
}

// number is what stands in front of a line.
func (m *Model) number(line int) string {
	switch {
	case m.looks.Numbers == NoNumbers:
		return ""
	case m.looks.Numbers == FromTheCaret && line < m.line:
		return strconv.Itoa(m.line - line)
	case m.looks.Numbers == FromTheCaret && line > m.line:
		return strconv.Itoa(line - m.line)
	}
	return strconv.Itoa(line)
}

// row draws one line, or one of the rows into which it is broken.
func (m *Model) row(line, part int, w *text.Wrapped, p *palette.Palette) string {
	r := ink.NewRow(m.width)
	ground := p.Ground
	number := palette.On(p.Quiet, ground)
	if line == m.line && !m.away {
		ground = p.Present
		number = palette.On(p.Here, ground).Strong()
	}
	if part > 0 {
		r.To(m.gutter()+w.Indent(part), number)
		m.text(r, line, m.piece(line, part, w), 0, p, ground)
		return r.String(palette.On(p.Text, ground))
	}
	folded, isFolded := m.folds.Folded(line)
	digits := m.number(line)
	mark := m.marks[line]
	trouble, wrong := m.troubleOf(line)
	sign, signed, bare := m.signOf(line)
	if mark.Bookmark {
		r.Put(bookmarkSign(mark.Letter), palette.On(p.Here, ground).Strong())
	}
	r.To(m.gutter()-3-len(digits), number)
	r.Put(digits, number).To(m.gutter()-3, number)
	m.differs(r, line, p, ground)
	r.To(m.gutter()-2, number)
	switch {
	case isFolded:
		r.Put(foldedMark, palette.On(p.Way, ground).Strong())
	case signed && sign.Grave:
		r.Put(sign.Mark, palette.On(p.Problem, ground).Strong())
	case wrong:
		r.Put(wrongMark, trouble.style(p, ground))
	case signed:
		r.Put(sign.Mark, palette.On(p.Changed, ground))
	case mark.Edited:
		r.Put(editedMark, palette.On(p.Edit, ground).Strong())
	case m.left > 0:
		r.Put("‹", palette.On(p.Quiet, ground))
	}
	if bare {
		r.To(m.gutter()-1, number).Put(bareMark, palette.On(p.Problem, ground))
	}
	r.To(m.gutter(), number)
	note := ""
	if isFolded {
		note = "  " + foldedMark + " " + sheet.Count(folded.Hides(), "line", "lines")
		if r.Left() >= roomForWords {
			note += " folded"
		}
	}
	m.text(r, line, m.piece(line, part, w), min(ink.Width(note), r.Left()/2), p, ground)
	r.Put(note, palette.On(p.Way, ground))
	if wrong && !isFolded && !m.breaks(line) {
		trouble.told(r, p, ground)
	}
	return r.String(palette.On(p.Text, ground))
}

// piece is a part of a line: from a cell up to a byte.
type piece struct {
	start text.Cell
	end   int
}

// piece is what of a line stands in one of its rows.
func (m *Model) piece(line, part int, w *text.Wrapped) piece {
	end := len(m.file.Text.Line(line))
	switch {
	case w == nil:
		return piece{m.measure(line).AtColumn(m.left), end}
	case part+1 < w.Rows():
		end = w.Start(part + 1).Offset
	}
	return piece{w.Start(part), end}
}

// text draws a part of a line, and leaves some columns of the row free.
func (m *Model) text(r *ink.Row, line int, part piece, free int, p *palette.Palette, ground ink.Color) {
	b := m.file.Text.Line(line)
	start := part.start
	base := m.file.Text.Offset(line, 1)
	spans := m.spans.From(base + start.Offset)
	found := m.foundFrom(base + start.Offset)
	plain, wrong := palette.On(p.Text, ground), m.troublesOn(line)
	if hidden := m.left - start.Col; hidden > 0 && start.Size > 0 {
		r.To(r.Used()+start.Width-hidden, plain) // the rest of a character that begins further left
		start.Offset += start.Size
		start.Col += start.Width
	}
	more := false
	m.looks.Tabs.Cells(b[:part.end], text.Cell{Offset: start.Offset, Col: start.Col}, func(c text.Cell) bool {
		room := r.Left() - free
		if c.Offset+c.Size < part.end {
			room-- // for the sign that the line goes on
		}
		if more = c.Width > room; more {
			return false
		}
		st := m.written(base+c.Offset, m.styleOf(c, base, &spans, &found, p, ground), p)
		if isWrong(wrong, base+c.Offset) {
			st = st.Under()
		}
		r.Cell(c, st)
		return true
	})
	if end := base + len(b); part.end == len(b) && !more && m.isCaret(end) && r.Left() > free {
		r.Put(" ", caretStyle(plain))
	}
	if more && !m.breaks(line) {
		r.To(m.width-free-1, plain).Put("›", palette.On(p.Quiet, ground))
	}
}

// written draws what is selected where one writes, and the carets besides the terminal's.
func (m *Model) written(offset int, st ink.Style, p *palette.Palette) ink.Style {
	i := sort.Search(len(m.parts), func(i int) bool { return int(m.parts[i].End) > offset })
	if i < len(m.parts) && int(m.parts[i].Start) <= offset {
		st = p.Selected(st)
	}
	if m.isCaret(offset) {
		st = caretStyle(st)
	}
	return st
}

func (m *Model) isCaret(offset int) bool {
	i := sort.SearchInts(m.carets, offset)
	return i < len(m.carets) && m.carets[i] == offset
}

// caretStyle is how a caret is drawn that the terminal does not draw.
func caretStyle(st ink.Style) ink.Style {
	st.Inverse = true
	return st
}

// foundFrom are the found places that end behind an offset.
func (m *Model) foundFrom(offset int) []place.Range {
	return m.found[sort.Search(len(m.found), func(i int) bool { return int(m.found[i].End) > offset }):]
}

// styleOf finds the style of a cell; spans and found are those from it on.
func (m *Model) styleOf(c text.Cell, base int, spans *highlight.Spans, found *[]place.Range, p *palette.Palette, ground ink.Color) ink.Style {
	offset := base + c.Offset
	for len(*found) > 0 && int((*found)[0].End) <= offset {
		*found = (*found)[1:]
	}
	for len(*spans) > 0 && (*spans)[0].End <= offset {
		*spans = (*spans)[1:]
	}
	role := highlight.Plain
	if len(*spans) > 0 && (*spans)[0].Start <= offset {
		role = (*spans)[0].Role
	}
	switch {
	case m.selected.Len() > 0 && int(m.selected.Start) <= offset && offset < int(m.selected.End):
		return p.Selected(p.Code(role, ground))
	case m.mark.Len() > 0 && int(m.mark.Start) <= offset && offset < int(m.mark.End):
		return palette.On(p.Here, ground).Strong().Under()
	case len(*found) > 0 && int((*found)[0].Start) <= offset:
		return palette.On(p.Here, ground).Under()
	case c.Strange:
		return palette.On(p.Problem, ground)
	}
	return p.Code(role, ground)
}

// noteRows draws the words that stand in place of a file.
func (m *Model) noteRows(p *palette.Palette) []string {
	note := m.note
	if note == "" && m.file != nil {
		note = m.path + " is a binary file of " + Bytes(m.file.Text.Size()) + ".\nThere is no text in it to read."
	}
	var words []string
	for _, l := range strings.Split(note, "\n") {
		words = append(words, ink.WrapSome(l, max(m.width-8, 10), m.height)...)
	}
	rows := make([]string, m.height)
	blank := palette.On(p.Quiet, p.Ground)
	for i := range rows {
		r := ink.NewRow(m.width)
		if n := i - m.height/3; n >= 0 && n < len(words) {
			r.To(4, blank).Put(words[n], blank)
		}
		rows[i] = r.String(blank)
	}
	return rows
}

// Bytes writes a size as people read it.
func Bytes(n int64) string {
	switch {
	case n < 1000:
		return sheet.Count(int(n), "byte", "bytes")
	case n < 999_950: // which one digit behind the point makes 1000.0
		return strconv.FormatFloat(float64(n)/1e3, 'f', 1, 64) + " kB"
	case n < 999_950_000:
		return strconv.FormatFloat(float64(n)/1e6, 'f', 1, 64) + " MB"
	}
	return strconv.FormatFloat(float64(n)/1e9, 'f', 1, 64) + " GB"
}

// LineShown is the line of the caret as it is drawn, with nothing cut off, and in which column of it the caret
// is, counted from 0. Of a file that cannot be shown it is what is said instead.
func (m *Model) LineShown() (line string, column int) {
	if m.file == nil || m.file.Text.Binary() {
		return m.note, 0
	}
	var b strings.Builder
	m.looks.Tabs.Cells(m.file.Text.Line(m.line), text.Cell{}, func(c text.Cell) bool {
		b.WriteString(c.Text)
		return c.Offset < m.at+longLine
	})
	return b.String(), m.column()
}

// Cursor is where the caret is in the view, in cells from its upper left; ok
// is false if it cannot be seen.
func (m *Model) Cursor() (x, y int, ok bool) {
	if m.file == nil || m.file.Text.Binary() {
		return 0, 0, false
	}
	x, y = m.gutter()+m.across()-m.left, m.Row()
	if m.breaks(m.line) {
		x = min(x, m.width-1) // behind blanks that go on where the row is full
	}
	return x, y, x >= m.gutter() && x < m.width && y >= 0 && y < m.height
}
