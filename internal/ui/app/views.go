package app

import (
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/surface"
)

// arrange gives everything its size.
func (m *Model) arrange() {
	if m.frame.Wish.Height == 0 {
		return
	}
	p := m.plan()
	for _, s := range m.sheets() {
		s.Resize(p.Width, p.SheetHeight(s.Form()))
	}
	if m.over != nil {
		m.over.Resize(p.Width, p.SheetHeight(m.over.Form()))
		p = m.plan() // it may take fewer lines
	}
	m.frame.Arrange(p)
	m.runs.Arrange(p.Width, p.Run)
	if p.Leaf {
		m.leaves.Arrange(p)
	}
}

// rearranged gives everything its size anew and colours what came in sight.
func (m *Model) rearranged() tea.Cmd {
	m.arrange()
	return tea.Batch(m.frame.Repaint(), m.keepState())
}

// KeepFolds implements views.Host.
func (h host) KeepFolds() { h.m.keepFolds() }

// LeaveSide implements views.Host.
func (h host) LeaveSide() {
	h.m.trails.LeaveHere()
	h.m.search.Clear()
}

// Entered implements views.Host.
func (h host) Entered() surface.Intent {
	if c := &h.m.frame.Code; c.Path() != "" {
		v := c.State()
		h.m.trails.Recent().Touch(v.Place.Path, time.Now())
		if t := h.m.trails.Trail(); !t.Return(v.Place) {
			t.Go(v, "the other side", "")
		}
	}
	return surface.Intent{Arrange: true, Caret: true}
}

// Leaving implements views.Host.
func (h host) Leaving() { h.m.seen.leaving = true }

// Emptied implements views.Host.
func (h host) Emptied() {
	h.m.emptyPage()
	h.m.sign.Forget()
}
