// Package outline is the sheet that shows the inside of a file as a tree, to be
// narrowed by typing and by kind.
package outline

import (
	"cmp"
	"context"
	"path"
	"slices"
	"strconv"
	"strings"

	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/outline"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
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
)

// Model is the sheet.
type Model struct {
	input  textinput.Model
	list   sheet.Model
	file   string
	text   *text.Document
	all    []outline.Entry
	names  fuzzy.Corpus // those of all, by the same numbers
	choice outline.Choice
	byName bool
	height int
}

// New makes a sheet.
func New() *Model {
	in := textinput.New()
	in.Prompt = ""
	in.SetVirtualCursor(false)
	in.Focus()
	return &Model{input: in}
}

// Open shows the inside of a file, beginning at what holds an offset.
func (m *Model) Open(f *workspace.File, offset, height int) {
	m.file, m.text, m.all, m.height = path.Base(f.Path), f.Text, nil, height
	if f.Facts != nil {
		m.all = outline.Entries(f.Facts)
	}
	m.names = fuzzy.Corpus{}
	for _, e := range m.all {
		m.names.Add(e.Name, 0)
	}
	m.input.Reset()
	m.choice = outline.Everything
	m.show(outline.Innermost(m.all, offset))
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.height = height }

// Chosen is the chosen entry.
func (m *Model) Chosen() (outline.Entry, bool) {
	row, _, ok := m.list.Chosen()
	if !ok {
		return outline.Entry{}, false
	}
	return m.all[row.Value.(int)], true
}

// show fills the list and chooses the entry of that number, or the one nearest
// before it that is shown; a negative number chooses the first.
func (m *Model) show(number int) {
	rows, chosen := m.rows(number)
	note := m.choice.String()
	if m.byName {
		note += ", by name"
	}
	m.list.Set([]sheet.Section{{Title: m.file, Note: sheet.Number(len(rows)) + " of " + sheet.Number(len(m.all)) + "   " + note, Rows: rows}}, chosen)
}

func (m *Model) rows(number int) (rows []sheet.Row, chosen int) {
	q := fuzzy.Parse(m.input.Value())
	if !q.Empty() {
		return m.matching(q), 0
	}
	var shown []int
	for i, e := range m.all {
		if m.choice.Holds(e.Kind) {
			shown = append(shown, i)
		}
	}
	if m.byName {
		slices.SortStableFunc(shown, func(a, b int) int {
			return cmp.Compare(strings.ToLower(m.all[a].Name), strings.ToLower(m.all[b].Name))
		})
	}
	for i, entry := range shown {
		rows = append(rows, m.row(entry, m.all[entry], nil))
		if entry == number || !m.byName && entry < number {
			chosen = i
		}
	}
	return rows, chosen
}

// mostMatching is how many entries are shown of those that match what is typed.
const mostMatching = 500

// matching are the rows of the entries that match a query, the best first.
func (m *Model) matching(q fuzzy.Query) (rows []sheet.Row) {
	holds := func(i int) bool { return m.choice.Holds(m.all[i].Kind) }
	for _, h := range m.names.SearchSome(context.Background(), q, fuzzy.Whole, mostMatching, holds) {
		match, _ := q.Match(m.all[h.Index].Name, 0)
		rows = append(rows, m.row(h.Index, m.all[h.Index], match.At))
	}
	return rows
}

// indent is what an entry stands further to the right than the one around it.
const indent = "  "

func (m *Model) row(number int, e outline.Entry, at []int) sheet.Row {
	line, _ := m.text.Position(int(e.At.Start))
	front := ""
	if m.input.Value() == "" && !m.byName {
		front = strings.Repeat(indent, min(e.Depth, 12))
	}
	marks := make([]int, len(at))
	for i := range at {
		marks[i] = at[i] + len(front)
	}
	return sheet.Row{What: e.Kind.String(), Name: front + e.Name, At: marks, Where: "line " + strconv.Itoa(line), Value: number}
}

// Update takes a key.
func (m *Model) Update(msg tea.Msg) Event {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return m.edit(msg)
	}
	switch k.String() {
	case "esc":
		return Closed
	case "enter":
		if _, ok := m.Chosen(); ok {
			return Taken
		}
		return Nothing
	case "down", "ctrl+n":
		return m.move(1)
	case "up", "ctrl+p":
		return m.move(-1)
	case "pgdown":
		return m.move(max(m.height-3, 1))
	case "pgup":
		return m.move(-max(m.height-3, 1))
	case "home":
		return m.move(-m.list.Len())
	case "end":
		return m.move(m.list.Len())
	case "tab":
		m.choice = m.choice.Next()
		m.show(0)
		return Selected
	case "alt+n":
		_, was, _ := m.list.Chosen()
		m.byName = !m.byName
		m.show(was)
		return Selected
	}
	return m.edit(msg)
}

func (m *Model) move(rows int) Event {
	m.list.Move(rows)
	return Selected
}

func (m *Model) edit(msg tea.Msg) Event {
	before := m.input.Value()
	m.input, _ = m.input.Update(msg)
	if m.input.Value() == before {
		return Nothing
	}
	m.show(0)
	return Selected
}

const prompt = "  outline  "

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(width).Put(prompt, quiet).Put(ink.CutFront(m.input.Value(), max(width-len(prompt)-4, 4)), palette.On(p.Text, p.Sheet).Strong())
	if m.input.Value() == "" {
		r.Put("letters of a name", quiet)
	}
	rows := []string{r.String(quiet)}
	if m.list.Len() == 0 {
		words := "nothing in it is of this kind; Tab shows others"
		switch {
		case len(m.all) == 0:
			words = "nothing is known of the inside of this file"
		case m.input.Value() != "":
			words = "nothing here has these letters in this order"
		}
		rows = append(rows, ink.NewRow(width).To(len(prompt), quiet).Put(words, quiet).String(quiet))
	}
	rows = append(rows, m.list.Rows(width, max(m.height-1-len(rows), 0), p)...)
	order := "by name"
	if m.byName {
		order = "as in the file"
	}
	return append(rows, sheet.Edge(width, [][2]string{{"Enter", "go there"}, {"↑↓", "choose"}, {"Tab", m.choice.Next().String()}, {"Alt+N", order}, {"Esc", "back as it was"}}, p))
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor() int {
	value := []rune(m.input.Value())
	return len(prompt) + ink.Width(string(value[:min(m.input.Position(), len(value))]))
}
