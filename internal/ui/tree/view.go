package tree

import (
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

const prompt = "  folders  "

// Rows implements surface.Surface.
func (m *Model) Rows(p *palette.Palette) []string {
	width := m.Width
	rows := append([]string{m.line(width, p)}, m.list.Rows(width, max(m.Height-2, 0), p)...)
	for len(rows) < m.Height-1 {
		rows = append(rows, ink.NewRow(width).String(palette.On(p.Text, p.Sheet)))
	}
	return append(rows, sheet.Edge(width, m.keys(), p))
}

// keys are those that work now.
func (m *Model) keys() [][2]string {
	switch m.asking.what {
	case create:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "make it"), keymap.Hint(keymap.Ends.Close, "not after all")}
	case rename:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "do it"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case remove:
		return [][2]string{keymap.Hint(on.Delete, "delete, to the trash"), keymap.Hint(keymap.Ends.Close, "keep it")}
	}
	only := "only changed"
	if m.only {
		only = "all files"
	}
	return [][2]string{
		keymap.Hint(keymap.Ends.Take, "go"), keymap.Both(on.Left, on.Right, "close, open"), keymap.Hint(on.Only, only), keymap.Hint(keymap.Ends.Close, "back"), keymap.Hint(on.New, "new"), keymap.Hint(on.Rename, "rename, move"), keymap.Hint(on.Delete, "delete"), keymap.Hint(on.Undo, "undo"),
		keymap.Hint(on.Path, "copy path"), keymap.Hint(on.Hand, "hand on"), keymap.Hint(on.Shut, "close all"),
	}
}

// line is the first line: a question, what came of the last thing done, or the
// letters one has typed.
func (m *Model) line(width int, p *palette.Palette) string {
	quiet, strong := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet).Strong()
	r := ink.NewRow(width)
	switch {
	case m.asking.what == remove:
		return r.Put("  ", quiet).Put(ink.Cut(m.asking.words, width-4), palette.On(p.Problem, p.Sheet).Strong()).String(quiet)
	case m.asking.what != nothing:
		typed, _ := m.asking.input.Behind(m.question(width), width)
		return r.Put(m.question(width), quiet).Put(typed, strong).String(quiet)
	case m.note != "":
		return r.Put("  ", quiet).Put(ink.Cut(m.note, width-4), palette.On(p.Here, p.Sheet).Strong()).String(quiet)
	case m.typed != "":
		return r.Put(prompt, quiet).Put(m.typed, strong).String(quiet)
	}
	return r.Put(prompt, quiet).Put("letters jump to a name", quiet).String(quiet)
}

// question is what stands in front of what is typed for an answer.
func (m *Model) question(width int) string {
	return "  " + ink.Cut(m.asking.words, max(width/2, 16)) + ": "
}

// Cursor implements surface.Surface.
func (m *Model) Cursor() (x, y int, ok bool) {
	switch m.asking.what {
	case nothing:
		return ink.Width(prompt) + ink.Width(m.typed), 0, true
	case remove:
		return 0, 0, true
	}
	_, x = m.asking.input.Behind(m.question(m.Width), m.Width)
	return x, 0, true
}
