package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
)

// trailMsg brings the trail of last time.
type trailMsg struct {
	trail  trail.Trail
	recent []string
	err    error
}

// loadTrail reads the trail of last time.
func (m *Model) loadTrail() tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		kept, err := ws.OpenTrail()
		t, shape := kept.Trail()
		if err == nil {
			err = shape
		}
		return trailMsg{t, kept.Recent, err}
	}
}

// trailLoaded goes on with the trail of last time.
func (m *Model) trailLoaded(msg trailMsg) tea.Cmd {
	m.trailOpen = true
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	if msg.trail.First() == nil {
		return nil
	}
	m.trail.Join(msg.trail)
	now := m.recent.All()
	m.recent = trail.NewRecent(msg.recent)
	for i := len(now) - 1; i >= 0; i-- {
		m.recent.Touch(now[i])
	}
	return nil
}

// leaveStop notes how the present stop looks, and by what it is found again.
func (m *Model) leaveStop(f *workspace.File, v trail.View) {
	m.trail.Leave(v)
	if f != nil && f.Path == v.Place.Path && f.Text.Whole() && !f.Text.Binary() {
		m.trail.Anchored(workspace.AnchorIn(f, v.Place))
	}
}

// keepTrail gives out what keeps the trail on disk; nil if nothing has changed.
func (m *Model) keepTrail() func() error {
	if m.before == nil && !m.inLeaf() && m.code.File() != nil && m.trail.Here() != nil {
		m.leaveStop(m.code.File(), m.code.State())
	}
	if !m.trailOpen || m.trail.Changes() == m.trailKept {
		return nil
	}
	m.trailKept = m.trail.Changes()
	kept, ws := m.trail.Keep(), m.ws
	kept.Recent = m.recent.All()
	return func() error { return ws.KeepTrail(kept) }
}

// toStop is the opening that shows a stop as it was left; move moves on the trail.
func toStop(stop *trail.Stop, move func()) opening {
	v, anchor := stop.View, stop.Anchor
	o := opening{path: v.Place.Path, view: &v, along: move}
	if anchor.Text != "" && anchor.Line == v.Place.Line {
		o.anchor = &anchor
	}
	return o
}

// again finds the place of a stop in its file as that is now, and says what became of it.
func (o *opening) again(f *workspace.File) {
	if o.anchor == nil || o.view == nil || !f.Text.Whole() || f.Text.Binary() {
		return
	}
	at, fate := workspace.FindIn(f, *o.anchor)
	if fate == place.Gone {
		o.after = "what one saw here is gone: " + o.anchor.Text
		return
	}
	v := *o.view
	if v.Top > 0 {
		v.Top = max(v.Top+at.Line-v.Place.Line, 1)
	}
	v.Place = at
	o.view = &v
	if fate == place.Changed {
		o.after = "this line has changed since one was here: " + o.anchor.Text
	}
}
