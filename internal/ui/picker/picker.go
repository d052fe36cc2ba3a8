// Package picker is a line to type in with a list below it that narrows as one
// types: the part that the sheets which list what is known already share.
package picker

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Event is what came of a key.
type Event uint8

// The events.
const (
	Nothing  Event = iota
	Selected       // another entry is chosen; show its place
	Taken          // the chosen entry is what was wanted
	Closed         // put everything back as it was
	Kept           // the list is to be kept; only some sheets have that
	More           // more entries are asked for; only some sheets have that
)

// List is what is to be picked from: entries with numbers from 0.
type List struct {
	// Title and Note stand above the entries.
	Title, Note string
	// Names are those of the entries, to be searched.
	Names *fuzzy.Corpus
	// Shown are the entries to show while nothing is typed, in their order.
	Shown []int
	// Total is how many entries there are, shown or not.
	Total int
	// Holds says whether an entry may be found by typing; nil for all.
	Holds func(entry int) bool
	// Row draws an entry; at are the matched bytes of its name, nil while nothing
	// is typed. What it gives out as the row's Value is not used.
	Row func(entry int, at []int) sheet.Row
	// Below is drawn beneath an entry on a line of its own, if it is not empty; nil
	// for none.
	Below func(entry int) string
	// Group is the heading under which an entry stands while nothing is typed; nil
	// for none. Entries of a group follow each other.
	Group func(entry int) string
	// Empty says why there is nothing to show.
	Empty string
}

// Model is the line and the list.
type Model struct {
	input  entry.Line
	list   sheet.Model
	of     List
	height int
}

// New makes a picker.
func New() Model {
	in := entry.New()
	return Model{input: in}
}

// Open shows a list with nothing typed; the entry of the given number is chosen,
// or the nearest shown before it.
func (m *Model) Open(l List, chosen, height int) {
	m.height = height
	m.input.Reset()
	m.Set(l, chosen)
}

// Set puts another list in and keeps what is typed.
func (m *Model) Set(l List, chosen int) {
	m.of = l
	m.show(chosen)
}

// Resize tells how many lines there are for the line and the list together.
func (m *Model) Resize(height int) { m.height = height }

// Typed is what was typed.
func (m *Model) Typed() string { return m.input.Value() }

// Put puts something into the line.
func (m *Model) Put(typed string) { m.input.Put(typed) }

// Clear takes away what was typed.
func (m *Model) Clear() { m.input.Reset() }

// Chosen is the number of the chosen entry; ok is false if there is none.
func (m *Model) Chosen() (entry int, ok bool) {
	row, _, ok := m.list.Chosen()
	if !ok {
		return 0, false
	}
	return row.Value.(int), true
}

// Entries are those that are shown, in their order.
func (m *Model) Entries() (entries []int) {
	for _, row := range m.list.All() {
		entries = append(entries, row.Value.(int))
	}
	return entries
}

// Best is for choosing what matches best.
const Best = -1

// mostMatching is how many entries are shown of those that match what is typed.
const mostMatching = 500

// show puts the entries on rows; none is chosen by its number if that is negative, but the best.
func (m *Model) show(chosen int) {
	rows := make([]sheet.Row, 0, len(m.of.Shown))
	at := 0
	of := m.of
	add := func(entry int, matched func() []int) {
		row := sheet.Row{Value: entry, Fill: func() sheet.Row { return of.Row(entry, matched()) }}
		if of.Below != nil {
			row.Below = of.Below(entry)
		}
		rows = append(rows, row)
	}
	if q := fuzzy.Parse(m.input.Value()); !q.Empty() && m.of.Names != nil {
		for i, h := range m.of.Names.SearchNow(q, fuzzy.Whole, mostMatching, m.holds) {
			if h.Index == chosen {
				at = i
			}
			add(h.Index, func() []int {
				name, base := of.Names.Text(h.Index)
				match, _ := q.Match(name, base)
				if match.At == nil {
					return []int{}
				}
				return match.At
			})
		}
	} else {
		for i, entry := range m.of.Shown {
			add(entry, func() []int { return nil })
			if entry == chosen || entry < chosen && m.of.Shown[at] != chosen {
				at = i
			}
		}
	}
	note := sheet.Number(len(rows)) + " of " + sheet.Number(m.of.Total)
	if m.of.Note != "" {
		note += "   " + m.of.Note
	}
	if m.of.Group == nil || m.input.Value() != "" {
		m.list.Set([]sheet.Section{{Title: m.of.Title, Note: note, Rows: rows}}, at)
		return
	}
	m.list.Set(append([]sheet.Section{{Title: m.of.Title, Note: note}}, m.grouped(rows)...), at)
}

// grouped parts rows by the groups of their entries.
func (m *Model) grouped(rows []sheet.Row) (sections []sheet.Section) {
	for _, r := range rows {
		group := m.of.Group(r.Value.(int))
		if n := len(sections); n == 0 || sections[n-1].Title != group {
			sections = append(sections, sheet.Section{Title: group})
		}
		s := &sections[len(sections)-1]
		s.Rows = append(s.Rows, r)
	}
	for i := range sections {
		sections[i].Note = sheet.Number(len(sections[i].Rows))
	}
	return sections
}

func (m *Model) holds(entry int) bool { return m.of.Holds == nil || m.of.Holds(entry) }

// Update takes a key or what was pasted.
func (m *Model) Update(msg tea.Msg) Event {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return m.edit(msg)
	}
	if rows, ok := keymap.Step(k.String(), m.height-3, m.list.Len()); ok {
		return m.move(rows)
	}
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		return Closed
	case keymap.Is(k.String(), keymap.Ends.Take):
		if _, ok := m.Chosen(); ok {
			return Taken
		}
		return Nothing
	}
	return m.edit(msg)
}

func (m *Model) move(rows int) Event {
	m.list.Move(rows)
	return Selected
}

func (m *Model) edit(msg tea.Msg) Event {
	if !m.input.Edit(msg) {
		return Nothing
	}
	m.show(Best)
	return Selected
}

// Rows draws the line, with a prompt and with what stands there while nothing is
// typed, and the list.
func (m *Model) Rows(prompt, hint string, width int, p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	typed, _ := m.input.Behind(prompt, width)
	r := ink.NewRow(width).Put(prompt, quiet).Put(typed, palette.On(p.Text, p.Sheet).Strong())
	if m.input.Value() == "" {
		r.Put(hint, quiet)
	}
	rows := []string{r.String(quiet)}
	if m.list.Len() == 0 {
		words := m.of.Empty
		if m.input.Value() != "" {
			words = "nothing here has these letters in this order"
		}
		rows = append(rows, ink.NewRow(width).To(ink.Width(prompt), quiet).Put(words, quiet).String(quiet))
	}
	rows = append(rows, m.list.Rows(width, max(m.height-len(rows), 0), p)...)
	return rows[:min(len(rows), max(m.height, 1))]
}

// Cursor is the column of the caret in the line, as Rows draws that.
func (m *Model) Cursor(prompt string, width int) int {
	_, column := m.input.Behind(prompt, width)
	return column
}
