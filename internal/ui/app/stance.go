package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
)

// shownCaret is where the caret of what is written was put on the screen last. Whatever moves
// the caret on the screen otherwise has moved the one that writes, too.
type shownCaret struct {
	side   *side
	offset int
}

// keepStance keeps letters going where the screen shows the caret: after a jump within the file
// the caret that writes is where one has jumped to, and whoever was writing and arrives in
// another file goes on writing there. It is called after everything that may have moved what is
// shown, and before each key.
func (m *Model) keepStance() {
	if m.desk.on == "" || m.going || m.overlay != noOverlay || m.before != nil || m.inLeaf() {
		return
	}
	if s := m.desk.shown.side; s != nil && s != m.side {
		s.code.NoCarets()
	}
	if m.code.Path() != m.desk.on {
		m.goOnWriting()
		return
	}
	if p := m.pen(); p != nil {
		m.followCaret(p)
	}
}

// goOnWriting begins to write in the file one has arrived in; where that cannot be, it leads
// back to roam, and what was typed ahead for the text does nothing.
func (m *Model) goOnWriting() {
	m.stopWriting()
	if m.code.File() == nil {
		return
	}
	said := m.message
	if m.startWriting() {
		m.message = said
		return
	}
	m.message += "; this is roam"
	m.refuse()
}

// refuse notes that one wanted to write where that cannot be: what is typed next is meant for the
// text, and must not do what the same letters do in roam.
func (m *Model) refuse() { m.desk.refused, m.ahead = true, nil }

// notTyped says whether a key is still one that was meant for a text in which one cannot write. Any
// key that types nothing ends that.
func (m *Model) notTyped(k tea.KeyPressMsg) bool {
	if !m.desk.refused {
		return false
	}
	if name := k.String(); k.Text != "" || name == "enter" || name == "backspace" || name == "delete" {
		m.say("nothing is typed here; Esc, and letters are keys again")
		return true
	}
	m.desk.refused = false
	return k.String() == "esc"
}

// followCaret puts the caret that writes, and the selection, where those of the screen are.
func (m *Model) followCaret(p *pen) {
	sel, here := m.code.Selection(), shownCaret{m.side, m.code.Offset()}
	selected := sel.Len() > 0 && sel != selectionOf(p)
	if !selected && m.desk.shown == here {
		return
	}
	if !text.Same(m.code.File().Text, p.editor.Document()) { // what was opened is older than what is written
		m.code.Retext(&workspace.File{Path: p.path, Text: p.editor.Document()}, nil)
	}
	if selected {
		p.editor.Select(int(sel.Start), int(sel.End))
	} else {
		p.editor.Put(here.offset)
	}
	m.showCarets(p)
}

// selectionOf is what the caret that the screen follows has selected.
func selectionOf(p *pen) place.Range {
	start, end := p.editor.Main().Selected()
	return place.Range{Start: uint32(start), End: uint32(end)}
}
