package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/docs"
	"rooktrail/internal/ui/picker"
)

// docsMsg brings the page about what is under the caret; nil if there is none.
type docsMsg struct {
	number int
	page   *docs.Page
	about  workspace.Description
}

// openDocs reads what there is to know about the name under the caret; without a
// name, about the call around it, or else about what the caret is inside of.
func (m *Model) openDocs() tea.Cmd {
	f := m.code.File()
	if f == nil || f.Facts == nil {
		m.say("there is no documentation to be had from this file")
		return nil
	}
	m.opens++
	m.going = true
	number, ws, offset, crumbs := m.opens, m.ws, m.code.Offset(), m.crumbs
	return func() tea.Msg {
		ctx := context.Background()
		d := ws.Describe(ctx, f.Path, offset)
		var around *docs.Page
		if call, ok := ws.CallAround(ctx, f, offset); ok {
			around = docs.Call(ctx, &call)
			if d.Spots == 0 {
				return docsMsg{number, around, call.Description}
			}
		}
		if d.Name == "" && len(crumbs) > 0 {
			d = ws.Describe(ctx, f.Path, int(crumbs[len(crumbs)-1].At.Start))
		}
		if d.Spots == 0 {
			return docsMsg{number: number, about: d}
		}
		language := ""
		if in, err := ws.Load(ctx, d.Best.Path); err == nil && in.Facts != nil {
			language = in.Facts.Language
		}
		return docsMsg{number, docs.Symbol(ctx, &d, language).Within(around), d}
	}
}

func (m *Model) showDocs(msg docsMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	if msg.page == nil {
		switch d := &msg.about; {
		case d.Outside != "":
			m.say("%s belongs to %s, which is outside this project", d.Name, d.Outside)
		case d.Name != "":
			m.say("nothing in this project defines %s", d.Name)
		default:
			m.say("there is no name here, and nothing around it has one")
		}
		return m.arrived(nil)
	}
	m.remember()
	m.docsAbout = msg.about
	m.docs.Show(msg.page, m.sheetHeight())
	m.overlay = docsOverlay
	m.arrange()
	return m.arrived(nil)
}

// docsEvent acts on what came of a key to the documentation.
func (m *Model) docsEvent(event picker.Event) tea.Cmd {
	switch event {
	case picker.Closed:
		return m.restore()
	case picker.Taken:
		return m.jumpFromOverlay(toSpot(m.docsAbout.Best))
	}
	return nil
}
