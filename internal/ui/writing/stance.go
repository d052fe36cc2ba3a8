package writing

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// shownCaret is where the caret of what is written was put on the screen last. Whatever moves
// the caret on the screen otherwise has moved the one that writes, too.
type shownCaret struct {
	side   *frame.Side
	offset int
}

// KeepStance keeps letters going where the screen shows the caret: after a jump within the file
// the caret that writes is where one has jumped to, and whoever was writing and arrives in
// another file goes on writing there. It is to be called after everything that may have moved what is
// shown, and before each key, unless one is on the way or only looks at something.
func (m *Model) KeepStance() surface.Intent {
	if m.on == "" {
		return surface.Intent{}
	}
	if s := m.shown.side; s != nil && s != m.frame.Side {
		s.Code.NoCarets()
	}
	if m.host.Code().Path() != m.on {
		return m.goOn()
	}
	if p := m.pen(); p != nil {
		m.followCaret(p)
	}
	return surface.Intent{}
}

// goOn begins to write in the file one has arrived in; where that cannot be, it leads
// back to roam, and what was typed ahead for the text does nothing.
func (m *Model) goOn() surface.Intent {
	m.stop()
	if m.host.Code().File() == nil {
		return surface.Intent{}
	}
	why := m.start()
	if why == "" {
		return surface.Intent{}
	}
	return m.refuse(why + "; this is roam")
}

// FirstStance begins to write in the first file that is shown, if it is set so.
func (m *Model) FirstStance() surface.Intent {
	if m.set.Load().Text(settings.Begin) == "write" {
		return m.Commands()[keymap.Write]()
	}
	return surface.Intent{}
}

// refuse notes that one wanted to write where that cannot be: what is typed next is meant for the
// text, and must not do what the same letters do in roam.
func (m *Model) refuse(why string) surface.Intent {
	m.refused = true
	return surface.Intent{Say: why, Unkey: true}
}

// NotTyped says whether a key is still one that was meant for a text in which one cannot write. Any
// key that types nothing ends that.
func (m *Model) NotTyped(k tea.KeyPressMsg) (todo surface.Intent, not bool) {
	if !m.refused {
		return todo, false
	}
	if name := k.String(); k.Text != "" || keymap.IsAny(name, typed...) {
		return surface.Say("nothing is typed here; Esc, and letters are keys again"), true
	}
	m.refused = false
	return todo, keymap.Is(k.String(), keymap.Ends.Close)
}

// followCaret puts the caret that writes, and the selection, where those of the screen are.
func (m *Model) followCaret(p *pen) {
	c := m.host.Code()
	sel, here := c.Selection(), shownCaret{m.frame.Side, c.Offset()}
	selected := sel.Len() > 0 && sel != selectionOf(p)
	if !selected && m.shown == here {
		return
	}
	if !text.Same(c.File().Text, p.Editor.Document()) { // what was opened is older than what is written
		c.Retext(&codebase.File{Path: p.Path, Text: p.Editor.Document()}, nil)
	}
	if selected {
		p.Editor.Select(int(sel.Start), int(sel.End))
	} else {
		p.Editor.Put(here.offset)
	}
	m.showCarets(p)
}

// selectionOf is what the caret that the screen follows has selected.
func selectionOf(p *pen) place.Range {
	start, end := p.Editor.Main().Selected()
	return place.Range{Start: uint32(start), End: uint32(end)}
}
