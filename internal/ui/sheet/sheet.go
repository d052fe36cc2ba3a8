// Package sheet is a list that lies over the code: sections of rows that each
// read as a sentence, one of them chosen.
package sheet

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Row is one entry.
type Row struct {
	// What it is, its name with the offsets of the matched letters, and where.
	What  string
	Name  string
	At    []int
	Where string
	// Reads says that Where reads from its beginning; else it is a path, of which the end
	// says most, where there is no room for all of it.
	Reads bool
	// Colors give the name the colours of code, from the byte CodeAt of it on; nil
	// for a name that is none.
	Colors func() highlight.Spans
	CodeAt int
	// WhereAt are the matched letters of Where.
	WhereAt []int
	// Key is what to press for it, if there is such a key.
	Key string
	// Faint says that it is of no use just now.
	Faint bool
	// Above and Below are drawn on lines of their own around the row, if they
	// are not empty, and cannot be chosen.
	Above, Below string
	// Value is what the row stands for.
	Value any
	// Fill gives all but Above, Below and Value when the row comes in sight, if it is
	// not nil: a list may have many thousands.
	Fill func() Row
}

// filled is the row as it is drawn.
func (row *Row) filled() Row {
	if row.Fill == nil {
		return *row
	}
	return row.Fill()
}

// Section is a group of rows under a heading.
type Section struct {
	// Title says what the rows are; without one there is no heading.
	Title string
	// Note stands behind the title: how many there are, how far it is.
	Note string
	Rows []Row
}

// Model is the list. The zero Model is empty.
type Model struct {
	sections []Section
	widest   layout // what the widest row needs, for any width of the sheet
	chosen   int    // number of the chosen row, counted over all sections from 0
	ahead    int    // how many lines below the chosen row are to be in sight, too
	first    int    // the first line shown, counted over headings and rows
}

// Set puts other sections in and chooses the row of the given number.
func (m *Model) Set(sections []Section, chosen int) {
	m.sections, m.first = sections, 0
	m.measure()
	m.chosen = min(max(chosen, 0), max(m.Len()-1, 0))
}

// Update puts sections in that are the old ones further on, and keeps the
// choice where it is.
func (m *Model) Update(sections []Section) {
	m.sections = sections
	m.measure()
	m.chosen = min(m.chosen, max(m.Len()-1, 0))
}

// Len is the number of rows.
func (m *Model) Len() int {
	n := 0
	for _, s := range m.sections {
		n += len(s.Rows)
	}
	return n
}

// Move goes up or down by rows and stops at the ends.
func (m *Model) Move(rows int) {
	m.ahead = 0
	m.chosen = min(max(m.chosen+rows, 0), max(m.Len()-1, 0))
}

// Ahead has lines below the chosen row in sight, too, as far as there is room, until
// one moves.
func (m *Model) Ahead(lines int) { m.ahead = lines }

// Wrap goes down a row, from the last to the first.
func (m *Model) Wrap() {
	if n := m.Len(); n > 0 {
		m.chosen = (m.chosen + 1) % n
	}
}

// Chosen is the chosen row and its number; ok is false if the list is empty.
func (m *Model) Chosen() (row Row, number int, ok bool) {
	n := m.chosen
	for _, s := range m.sections {
		if n < len(s.Rows) {
			return s.Rows[n], m.chosen, true
		}
		n -= len(s.Rows)
	}
	return Row{}, 0, false
}

// All are the rows of all sections.
func (m *Model) All() (rows []Row) {
	for _, s := range m.sections {
		rows = append(rows, s.Rows...)
	}
	return rows
}

// Section is the title of the section that holds the chosen row.
func (m *Model) Section() string {
	n := m.chosen
	for _, s := range m.sections {
		if n < len(s.Rows) {
			return s.Title
		}
		n -= len(s.Rows)
	}
	return ""
}

// Lines is the number of lines that all of the list takes.
func (m *Model) Lines() int {
	n := 0
	for _, s := range m.sections {
		n += len(s.Rows)
		if s.Title != "" {
			n++
		}
		for _, r := range s.Rows {
			if r.Above != "" {
				n++
			}
			if r.Below != "" {
				n++
			}
		}
	}
	return n
}

// Rows draws the list in the given number of lines.
func (m *Model) Rows(width, height int, p *palette.Palette) []string {
	columns := m.columns(width)
	at, lines := m.chosenLine(), m.Lines()
	m.follow(min(at+min(m.ahead, height-1), lines-1), lines, height)
	m.follow(at, lines, height)
	out := make([]string, 0, height)
	line, number := 0, 0
	// put takes a line of the list, and draws it if it is in sight.
	put := func(draw func() string) {
		if line >= m.first && len(out) < height {
			out = append(out, draw())
		}
		line++
	}
	for _, s := range m.sections {
		if len(out) == height {
			break
		}
		if s.Title != "" {
			put(func() string { return heading(s, width, p) })
		}
		for _, row := range s.Rows {
			chosen := number == m.chosen
			number++
			if row.Above != "" {
				put(func() string { return aside(row.Above, width, columns, p) })
			}
			put(func() string { return draw(row.filled(), chosen, width, columns, p) })
			if row.Below != "" {
				put(func() string { return aside(row.Below, width, columns, p) })
			}
		}
	}
	for len(out) < height {
		out = append(out, ink.NewRow(width).String(palette.On(p.Text, p.Sheet)))
	}
	return out
}

// chosenLine is the line that the chosen row stands on, counted from 0.
func (m *Model) chosenLine() int {
	line, number := 0, 0
	for _, s := range m.sections {
		if s.Title != "" {
			line++
		}
		for i := range s.Rows {
			row := &s.Rows[i]
			if row.Above != "" {
				line++
			}
			if number == m.chosen {
				return line
			}
			if row.Below != "" {
				line++
			}
			line++
			number++
		}
	}
	return 0
}

// follow scrolls so that the line at is in sight, with the heading above the
// first row.
func (m *Model) follow(at, lines, height int) {
	if at < m.first+1 {
		m.first = max(at-1, 0)
	}
	if at >= m.first+height {
		m.first = at - height + 1
	}
	m.first = max(0, min(m.first, lines-height))
}

func heading(s Section, width int, p *palette.Palette) string {
	r := ink.NewRow(width)
	quiet := palette.On(p.Quiet, p.Sheet)
	r.To(2, quiet).Put(s.Title, quiet.Strong())
	r.Put("  "+s.Note, quiet)
	return r.String(quiet)
}

// layout is where the parts of the rows begin, so that they line up.
type layout struct{ name, where int }

// measure finds the widest of what the rows are and of their names.
func (m *Model) measure() {
	m.widest = layout{name: 8, where: 10}
	left := mostMeasured
	for _, s := range m.sections {
		for i := 0; i < len(s.Rows) && left > 0; i++ {
			row := s.Rows[i].filled()
			m.widest.name = max(m.widest.name, ink.Width(row.What))
			m.widest.where = max(m.widest.where, ink.Width(row.Name))
			left--
		}
	}
}

// mostMeasured is how many rows are measured for the columns; those of a long list are
// much alike.
const mostMeasured = 300

// columns gives the names of all rows as much room as the longest needs, as
// long as something is left for where they are.
func (m *Model) columns(width int) layout {
	at := 4 + min(m.widest.name, 14) + 2
	return layout{name: at, where: min(at+m.widest.where+3, max(at+12, width*11/20))}
}

func draw(row Row, chosen bool, width int, l layout, p *palette.Palette) string {
	r := ink.NewRow(width)
	ground, pointer := p.Sheet, "  "
	if chosen {
		ground, pointer = p.Chosen, "▌ "
	}
	quiet, name := palette.On(p.Quiet, ground), palette.On(p.Text, ground)
	matched := palette.On(p.Here, ground).Strong().Under()
	if row.Faint {
		name = quiet
	}
	if chosen {
		name = name.Strong()
	}
	r.Put(" "+pointer, palette.On(p.Here, ground).Strong()).To(4, quiet)
	r.Put(ink.Cut(row.What, 14), quiet).To(l.name, quiet)
	end := l.where - 2
	if row.Where == "" {
		end = width - 2
	}
	r.Coded(ink.Cut(row.Name, end-l.name), row.At, row.styles(name, ground, chosen, p), matched)
	if row.Where != "" {
		r.To(l.where, quiet)
		where, at := row.Where, row.WhereAt
		if room := width - l.where - 2 - len(row.Key) - 2; row.Reads {
			where = ink.Cut(where, max(room, 1))
		} else {
			where, at = frontCut(where, at, room)
		}
		r.Marked(where, at, quiet, matched)
	}
	r.End(row.Key+"  ", palette.On(p.Way, ground).Strong(), quiet)
	return r.String(quiet)
}

// styles are those of the bytes of the name.
func (row *Row) styles(plain ink.Style, ground ink.Color, chosen bool, p *palette.Palette) func(offset int) ink.Style {
	var spans highlight.Spans
	if row.Colors != nil {
		spans = row.Colors()
	}
	return func(offset int) ink.Style {
		s := spans.From(offset - row.CodeAt)
		if len(s) == 0 || s[0].Start > offset-row.CodeAt {
			return plain
		}
		st := p.Code(s[0].Role, ground)
		if chosen {
			st = st.Strong()
		}
		return st
	}
}

// aside draws a line that belongs to a row beside it.
func aside(text string, width int, l layout, p *palette.Palette) string {
	quiet := palette.On(p.Quiet, p.Sheet)
	return ink.NewRow(width).To(l.name, quiet).Put(ink.Cut(text, width-2-l.name), quiet).String(quiet)
}

// frontCut shortens a path at its beginning and moves the offsets of its
// matched letters along.
func frontCut(s string, at []int, columns int) (string, []int) {
	cut := ink.CutFront(s, max(columns, 1))
	if cut == s {
		return s, at
	}
	const ellipsis = len("…")
	gone := len(s) - (len(cut) - ellipsis)
	var kept []int
	for _, i := range at {
		if i >= gone {
			kept = append(kept, i-gone+ellipsis)
		}
	}
	return cut, kept
}

// Edge draws the lower edge of a sheet with the keys that work in it, each with
// what it does, the most used first. Where there is no room for all, Esc stays.
func Edge(width int, keys [][2]string, p *palette.Palette) string {
	r := ink.NewRow(width)
	rule, quiet, key := palette.On(p.Rule, p.Sheet), palette.On(p.Quiet, p.Sheet), palette.On(p.Way, p.Sheet).Strong()
	r.Put("──", rule)
	all := 0
	for _, k := range keys {
		all += ink.Width(k[0]+k[1]) + 4
	}
	if i := slices.IndexFunc(keys, func(k [2]string) bool { return k[0] == "Esc" }); i > 1 && all > r.Left() {
		esc := keys[i]
		keys = slices.Insert(slices.Delete(slices.Clone(keys), i, i+1), 1, esc)
	}
	for _, k := range keys {
		if r.Left() < ink.Width(k[0]+k[1])+4 {
			break
		}
		r.Put(" "+k[0]+" ", key).Put(k[1]+" ", quiet).Put("─", rule)
	}
	return r.Put(strings.Repeat("─", max(r.Left(), 0)), rule).String(rule)
}

// Toggle names a key with what it switches on and off, and says if it is on.
func Toggle(key [2]string, on bool) string {
	words := key[0] + " " + key[1]
	if on {
		words += ": on"
	}
	return words
}

// Count writes a number with the word for what it counts.
func Count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return Number(n) + " " + many
}

// Number writes a number with its thousands apart.
func Number(n int) string { return text.Number(n) }
