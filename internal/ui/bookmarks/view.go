package bookmarks

import (
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
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
		rows[0] = ink.NewRow(width).Put("  forget this list, with its notes and letters? "+on.Remove.Help().Key+" does", problem).String(quiet)
	case share:
		rows[0] = ink.NewRow(width).Put("  its file is there already; "+on.Share.Help().Key+" writes it over", problem).String(quiet)
	case letter:
		rows[0] = ink.NewRow(width).Put("  a letter or digit for this bookmark; Backspace takes it off", palette.On(p.Here, p.Sheet).Strong()).String(quiet)
	default:
		typed, _ := m.input.Behind(m.question(), width)
		rows[0] = ink.NewRow(width).Put(m.question(), quiet).Put(typed, palette.On(p.Text, p.Sheet).Strong()).String(quiet)
	}
	return append(rows, sheet.Edge(width, m.keys(), p))
}

// keys are those that work now.
func (m *Model) keys() [][2]string {
	switch {
	case m.asking == drop:
		return [][2]string{keymap.Hint(on.Remove, "forget it"), keymap.Hint(keymap.Ends.Close, "keep it")}
	case m.asking == share:
		return [][2]string{keymap.Hint(on.Share, "write over"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.asking == letter:
		return [][2]string{{"a…z 0…9", "its letter"}, keymap.Hint(on.Unletter, "none"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.asking != none:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "write it down"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.page == target:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "move it there"), keymap.Hint(on.Begin, "to a new list"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.page == listed:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "put new ones here"), keymap.Hint(on.Begin, "new"), keymap.Hint(on.Rename, "rename"), keymap.Hint(on.Join, "join to the present"), keymap.Hint(on.Remove, "forget"), keymap.Hint(on.Lists, "bookmarks"), keymap.Hint(keymap.Ends.Close, "back"),
			keymap.Hint(on.Share, "share"), keymap.Hint(on.Copy, "copy"), keymap.Hint(on.Export, "write to a file"), keymap.Hint(on.Guide, "walk through")}
	}
	return [][2]string{keymap.Hint(keymap.Ends.Take, "go"), keymap.Hint(on.Letter, "letter"), keymap.Hint(on.Note, "note"), keymap.Hint(on.Remove, "take away"), keymap.Hint(on.Undo, "undo"), keymap.Both(on.Up, on.Down, "order"), keymap.Hint(on.Join, "to a list"), keymap.Hint(on.Lists, "lists"),
		keymap.Hint(keymap.Ends.Close, "back"), keymap.Hint(on.ByFile, "by file"), keymap.Hint(on.Guide, "walk through"), keymap.Hint(on.Export, "write to a file")}
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor(width int) int {
	if q := m.question(); q != "" {
		_, column := m.input.Behind(q, width)
		return column
	}
	return m.picker.Cursor(prompt, width)
}
