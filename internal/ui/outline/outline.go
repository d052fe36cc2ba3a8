// Package outline shows the inside of a file as a tree: as a sheet that is
// narrowed by typing and by kind, and as a column that stays beside the code.
package outline

import (
	"cmp"
	"path"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Model is the sheet.
type Model struct {
	picker picker.Model
	file   string
	text   *text.Document
	all    []outline.Entry
	names  *fuzzy.Corpus // those of all, by the same numbers
	choice outline.Choice
	byName bool
	// written are the places where functions are written out that are but declared, by the offsets of their names.
	written map[uint32]answer.Answer
	// said says what else is known of an entry by where it begins and ends, such as what became of a test; nil for nothing.
	said func(at, end uint32) string
}

// New makes a sheet.
func New() *Model { return &Model{picker: picker.New()} }

// Open shows the inside of a file, beginning at what holds an offset.
func (m *Model) Open(f *codebase.File, offset, height int) {
	m.file, m.text = path.Base(f.Path), f.Text
	m.all, m.names = f.Outline()
	m.choice, m.written = outline.Everything, nil
	m.picker.Open(m.list(), outline.Innermost(m.all, offset), height-1)
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.picker.Resize(height - 1) }

// Chosen is the chosen entry.
func (m *Model) Chosen() (outline.Entry, bool) {
	i, ok := m.picker.Chosen()
	if !ok {
		return outline.Entry{}, false
	}
	return m.all[i], true
}

// list is what is to be picked from.
func (m *Model) list() picker.List {
	l := picker.List{Title: m.file, Note: m.choice.String(), Names: m.names, Total: len(m.all), Row: m.row, Empty: "nothing in it is of this kind; Tab shows others"}
	l.Holds = func(i int) bool { return m.choice.Holds(m.all[i].Kind) }
	for i := range m.all {
		if l.Holds(i) {
			l.Shown = append(l.Shown, i)
		}
	}
	if len(m.all) == 0 {
		l.Empty = "no functions, types or sections are known in this file"
	}
	if m.byName {
		l.Note += ", by name"
		slices.SortStableFunc(l.Shown, func(a, b int) int {
			return cmp.Compare(strings.ToLower(m.all[a].Name), strings.ToLower(m.all[b].Name))
		})
	}
	return l
}

// indent is what an entry stands further to the right than the one around it.
const indent = "  "

func (m *Model) row(number int, at []int) sheet.Row {
	e := &m.all[number]
	line, _ := m.text.Position(int(e.At.Start))
	front := ""
	if at == nil && !m.byName {
		front = strings.Repeat(indent, min(e.Depth, 12))
	}
	where := "line " + strconv.Itoa(line)
	if a, ok := m.written[e.At.Start]; ok {
		where += ", written out in " + path.Base(a.Path) + " " + strconv.Itoa(a.Line)
	}
	if m.said != nil {
		if words := m.said(e.At.Start, e.Full.End); words != "" {
			where = words + "  " + where
		}
	}
	return sheet.Row{What: e.Kind.String(), Name: front + e.Name, At: at, Where: where, Reads: true}
}

// Update takes a key or what was pasted.
func (m *Model) Update(msg tea.Msg) picker.Event {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch {
		case keymap.Is(k.String(), on.Kind):
			m.choice = m.choice.Next()
			m.picker.Set(m.list(), picker.Best)
			return picker.Selected
		case keymap.Is(k.String(), on.Order):
			was, _ := m.picker.Chosen()
			m.byName = !m.byName
			m.picker.Set(m.list(), was)
			return picker.Selected
		}
	}
	return m.picker.Update(msg)
}

const prompt = "  outline  "

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	order := "by name"
	if m.byName {
		order = "as in the file"
	}
	return append(m.picker.Rows(prompt, "letters of a name", width, p), sheet.Edge(width, [][2]string{
		keymap.Hint(keymap.Ends.Take, "go there"), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose"), keymap.Hint(on.Kind, m.choice.Next().String()), keymap.Hint(on.Order, order), keymap.Hint(keymap.Ends.Close, "back as it was"),
	}, p))
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor(width int) int { return m.picker.Cursor(prompt, width) }
