package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/picker"
)

// openOutline shows the inside of the file on the screen.
func (m *Model) openOutline() {
	f := m.code.File()
	if f == nil {
		m.say("there is no file here to see the inside of")
		return
	}
	m.remember()
	m.overlay = outlineOverlay
	m.outline.Open(f, m.code.Offset(), m.sheetHeight())
	m.arrange()
}

// outlineEvent acts on what came of a key to the outline.
func (m *Model) outlineEvent(event picker.Event) tea.Cmd {
	switch event {
	case picker.Closed:
		return m.restore()
	case picker.Selected:
		if e, ok := m.outline.Chosen(); ok {
			m.showName(e.At)
			return tea.Batch(m.caretMoved(), m.repaint())
		}
		return m.showBefore()
	case picker.Taken:
		e, _ := m.outline.Chosen()
		return m.jumpFromOverlay(opening{path: m.code.Path(), name: e.At, how: "outline: " + e.Name, symbol: e.Name})
	}
	return nil
}
