package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/arrival"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/surface"
)

// standing is a file as it stood on the screen.
type standing struct {
	file   *codebase.File
	view   trail.View
	offset int // of the caret
	crumbs []codebase.Crumb
	folds  *fold.Set
	solo   place.Range
}

// standing is what is on the screen.
func (m *Model) standing() *standing {
	c := &m.frame.Code
	return &standing{file: c.File(), view: c.State(), offset: c.Offset(), crumbs: m.frame.Crumbs, solo: c.Solo()}
}

// remember keeps what is on the screen, to be put back.
func (m *Model) remember() {
	m.keepFolds()
	m.before = m.standing()
	if m.before.file != nil {
		m.before.folds = m.frame.Code.Folds().Clone()
	}
}

// keepFolds keeps what is folded in the file that is shown, unless it is only looked at.
func (m *Model) keepFolds() {
	if m.before == nil {
		m.frame.KeepFolds(&m.frame.Code)
	}
}

// putBack shows what was on the screen as it was.
func (m *Model) putBack(b *standing) tea.Cmd {
	m.look.Cancel()
	if b.file == nil {
		if b.view.Place.Path == "" {
			m.emptyPage()
		}
		return nil
	}
	c := &m.frame.Code
	c.Show(b.file, b.view)
	c.SetFolds(b.folds)
	c.Alone(b.solo)
	c.Show(b.file, b.view) // as folds and solo may have moved what is shown
	m.writing.Reshown()
	return m.moved()
}

// open lays a surface over the code.
func (m *Model) open(s surface.Surface) {
	if m.frame.InLeaf() && !m.sign.IsWays(s) {
		m.frame.Return()
	}
	switch form := s.Form(); {
	case m.over == s: // with something else in it
	case m.under != nil:
		m.under.Closed()
		m.under = nil
	case m.over != nil:
		m.last.Closed(m.over)
		m.over.Closed()
	case m.from != nil:
		m.before, m.from = m.from, nil
	case form != surface.Line && form != surface.Whole:
		m.remember()
	}
	m.over = s
	m.arrange()
}

// nameKeys lays the keys of the list that lies over the code over it; it is false where that is none.
func (m *Model) nameKeys() bool {
	if form := m.over.Form(); m.under != nil || form == surface.Line {
		return false
	}
	m.under = m.over
	m.listKeys.Over(m.under)
	m.over = m.listKeys
	m.arrange()
	return true
}

// uncover brings the list back, and presses a key there.
func (m *Model) uncover(key string) tea.Cmd {
	m.over, m.under = m.under, nil
	m.arrange()
	if key == "" {
		return nil
	}
	return m.key(keyboard.Press(key))
}

// closeOver takes away what lies over the code.
func (m *Model) closeOver() {
	s := m.over
	if m.under != nil {
		s, m.under = m.under, nil
	}
	m.over, m.before = nil, nil
	m.look.Cancel()
	if s != nil {
		m.last.Closed(s)
		s.Closed()
	}
	m.arrange()
}

// leaveOver takes it away, to go on elsewhere; until one arrives there, it is known what was there
// before.
func (m *Model) leaveOver() {
	if m.over == nil {
		return
	}
	b := m.before
	m.closeOver()
	m.from = b
}

// restore takes it away and puts back what was there before.
func (m *Model) restore() tea.Cmd {
	b := m.before
	m.closeOver()
	if b == nil {
		return nil
	}
	return m.putBack(b)
}

// lookAt shows a place beneath what lies over the code.
func (m *Model) lookAt(v surface.Visit) tea.Cmd {
	f := m.frame.Code.File()
	if b := m.before; b != nil && f != nil && f == b.file && v.Path == f.Path && v.Near {
		m.look.Cancel()
		m.frame.Code.To(int(v.Name.Start))
		m.frame.Code.Point(v.Name)
		return m.moved()
	}
	v.Along = nil
	return surface.Ask(m.look, arrival.Loading{Visit: v, WS: m.ws}.Load, func(l arrival.Loaded) surface.Intent { return surface.Begin(m.showLooked(l)) })
}

// lookBack shows beneath it what was there before.
func (m *Model) lookBack() tea.Cmd {
	if m.before == nil || m.before.file == nil {
		return nil
	}
	return m.putBack(m.before)
}
