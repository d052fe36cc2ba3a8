package bookmarks

import (
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

const prompt = "  bookmark  "

// question is what stands in front of what is typed for an answer.
func (m *Model) question() string {
	switch m.asking {
	case note:
		return "  note on this bookmark: "
	case begin:
		return "  name of the new list: "
	case rename:
		return "  name of this list: "
	case export:
		return "  write it to the file (.md or .json): "
	}
	return ""
}

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	hint := "letters of a list"
	switch {
	case m.page == marks && m.filtering:
		hint = "letters of a file, a symbol, a line or a note"
	case m.page == marks:
		hint = "its letter goes there at once; / narrows by typing"
	}
	rows := m.picker.Rows(prompt, hint, width, p)
	quiet := palette.On(p.Quiet, p.Sheet)
	problem := palette.On(p.Problem, p.Sheet).Strong()
	switch m.asking {
	case none:
	case drop:
		rows[0] = ink.NewRow(width).Put("  forget this list, with its notes and letters? Alt+D does", problem).String(quiet)
	case share:
		rows[0] = ink.NewRow(width).Put("  its file is there already; Alt+H writes it over", problem).String(quiet)
	case letter:
		rows[0] = ink.NewRow(width).Put("  a letter or digit for this bookmark; Backspace takes it off", palette.On(p.Here, p.Sheet).Strong()).String(quiet)
	default:
		rows[0] = ink.NewRow(width).Put(m.question(), quiet).Put(ink.CutFront(m.input.Value(), max(width-ink.Width(m.question())-3, 4)), palette.On(p.Text, p.Sheet).Strong()).String(quiet)
	}
	return append(rows, sheet.Edge(width, m.keys(), p))
}

// keys are those that work now.
func (m *Model) keys() [][2]string {
	switch {
	case m.asking == drop:
		return [][2]string{{"Alt+D", "forget it"}, {"Esc", "keep it"}}
	case m.asking == share:
		return [][2]string{{"Alt+H", "write over"}, {"Esc", "leave it"}}
	case m.asking == letter:
		return [][2]string{{"a…z 0…9", "its letter"}, {"Backspace", "none"}, {"Esc", "leave it"}}
	case m.asking != none:
		return [][2]string{{"Enter", "write it down"}, {"Esc", "leave it"}}
	case m.page == target:
		return [][2]string{{"Enter", "move it there"}, {"Alt+N", "to a new list"}, {"Esc", "leave it"}}
	case m.page == lists:
		return [][2]string{{"Enter", "put new ones here"}, {"Alt+N", "new"}, {"Alt+R", "rename"}, {"Alt+J", "join to the present"}, {"Alt+D", "forget"}, {"Alt+S", "bookmarks"}, {"Esc", "back"},
			{"Alt+H", "share"}, {"Alt+C", "copy"}, {"Alt+X", "write to a file"}, {"Alt+G", "walk through"}}
	}
	return [][2]string{{"Enter", "go"}, {"Alt+L", "letter"}, {"Alt+N", "note"}, {"Alt+D", "take away"}, {"Alt+U", "undo"}, {"Alt+↑↓", "order"}, {"Alt+M", "to a list"}, {"Alt+S", "lists"},
		{"Esc", "back"}, {"Alt+O", "by file"}, {"Alt+G", "walk through"}, {"Alt+X", "write to a file"}}
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor() int {
	if q := m.question(); q != "" {
		value := []rune(m.input.Value())
		return ink.Width(q) + ink.Width(string(value[:min(m.input.Position(), len(value))]))
	}
	return m.picker.Cursor(prompt)
}
