package app

import (
	"os"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/mouse"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/spoken"
	"rooktrail/internal/ui/surface"
)

// Enter implements mouse.Host.
func (h host) Enter(side int) surface.Intent { return h.m.views.Enter(side) }

// Caret implements mouse.Host.
func (h host) Caret(offset int) surface.Intent {
	if h.m.writing.Writing() {
		return h.m.writing.To(offset)
	}
	h.m.frame.Code.To(offset)
	h.m.frame.Code.Unselect()
	return surface.Intent{Caret: true}
}

// pointed does what is done with the mouse.
func (m *Model) pointed(msg tea.MouseMsg) tea.Cmd {
	if m.going() {
		return nil
	}
	if m.over == nil {
		return m.act(nil, m.mouse.Code(msg))
	}
	var cmds []tea.Cmd
	press := m.mouse.List(msg, m.over, m.plan().Top())
	for k, ok := press(); ok; k, ok = press() {
		cmds = append(cmds, m.act(m.over, m.over.Update(k)))
		if m.over == nil {
			break
		}
	}
	return tea.Batch(cmds...)
}

// asSet fills in what of the view is as the user has set it.
func (m *Model) asSet(v *tea.View) {
	s := m.set.Settings()
	if mouse.Wanted(s.Text(settings.Mouse), os.Getenv) {
		v.MouseMode = tea.MouseModeCellMotion
	}
	if !s.On(settings.Progress) {
		return
	}
	if pr := m.ws.Code.Progress(); !pr.Done && pr.Readable > 0 {
		v.ProgressBar = tea.NewProgressBar(tea.ProgressBarDefault, pr.Read*100/pr.Readable)
	}
}

// spoken is the screen in words.
func (m *Model) spoken(width, height int) (rows []string, cursor *tea.Cursor) {
	c := &m.frame.Code
	s := spoken.Screen{Message: m.line.message, Where: m.topLine().Said()}
	s.Line, s.Column = c.LineShown()
	if m.over != nil {
		s.Over = spoken.Plain(m.over.Rows(&palette.Plain))
		s.At, _, s.Typed = m.over.Cursor()
	} else {
		s.Ways = spoken.Said(spoken.Plain([]string{m.sign.Line(width, &palette.Plain)})[0])
	}
	if m.lessons.Lines() > 0 {
		for _, r := range spoken.Plain(m.lessons.Rows(width, m.writing.Writing(), &palette.Plain)) {
			s.Lesson += spoken.Said(r) + " "
		}
	}
	rows, x, y := s.Rows(width, height)
	cursor = tea.NewCursor(x, y)
	cursor.Shape, cursor.Blink = tea.CursorBlock, false
	return rows, cursor
}
