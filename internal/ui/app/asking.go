package app

import (
	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// asking is a question in the line above the strip.
type asking struct {
	words string
	input textinput.Model
	then  func(answer string) tea.Cmd
}

// askLine asks something in the line above the strip.
func (m *Model) askLine(words, value string, then func(answer string) tea.Cmd) {
	m.asked = asking{"  " + words + " ", entry.New(), then}
	m.asked.input.SetValue(value)
	m.asked.input.CursorEnd()
	m.overlay = askOverlay
	m.arrange()
}

// askKey takes a key or what was pasted while something is asked.
func (m *Model) askKey(msg tea.Msg) tea.Cmd {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch k.String() {
		case "esc":
			m.closeOverlay()
			return nil
		case "enter":
			answer, then := m.asked.input.Value(), m.asked.then
			m.closeOverlay()
			return then(answer)
		}
	}
	m.asked.input, _ = m.asked.input.Update(msg)
	return nil
}

// askRow draws the question and what is typed.
func (m *Model) askRow(p *palette.Palette) string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(m.width).Put(m.asked.words, palette.On(p.Here, p.Sheet).Strong())
	r.Put(ink.CutFront(m.asked.input.Value(), max(r.Left()-24, 8)), palette.On(p.Text, p.Sheet).Strong())
	return r.End("Enter does it  Esc not ", quiet, quiet).String(quiet)
}
