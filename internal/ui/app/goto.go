package app

import (
	"context"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/arrival"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// goTo goes to a place: when its file is there. A later one takes the place of an earlier one.
func (m *Model) goTo(v surface.Visit) tea.Cmd {
	m.writing.Hold()
	m.look.Cancel()
	if v.Lead { // what was looked for in the file is not gone through any more
		m.search.Clear()
	}
	if open := m.frame.View(v.Path); open != nil && v.View == nil && v.Line == 0 && v.Name.Len() == 0 {
		v.View = &open.State // it is open already: as it was left
		if m.frame.Code.Path() == v.Path && m.before == nil {
			state := m.frame.Code.State()
			v.View = &state
		}
	}
	l := arrival.Loading{Visit: v, WS: m.ws, Whole: m.writing.On() != "", Done: true}
	return surface.Ask(m.way, l.Load, func(l arrival.Loaded) surface.Intent { return m.arrived(l) })
}

// arrived shows the file one has gone to.
func (m *Model) arrived(l arrival.Loaded) surface.Intent {
	if l.Err != nil {
		return m.cannotOpen(l)
	}
	v := &l.Visit
	if l.MovedFrom != "" {
		m.trails.Moved(l.MovedFrom, v.Path)
		v.After = strings.TrimPrefix(v.After+"; "+l.MovedFrom+" is "+v.Path+" now", "; ")
	}
	l.PointOut()
	m.leaveFor(l.Visit, l.Target())
	cmd := m.showFile(l)
	first := !m.seen.shown
	m.seen.begun, m.seen.shown = true, true
	m.writing.KeepDone(l.File, l.Done)
	m.frame.Touch(m.frame.Code.State())
	m.trails.Rest()
	m.trails.Recent().Touch(v.Path, time.Now())
	m.tips.Arrived(*v, m.frame.Code.State().Place)
	todo := surface.Intent{Cmd: cmd, Caret: true, Marked: true, Say: v.After}
	if first {
		todo.Then = m.first
	}
	if lines := l.File.Text.Lines(); v.Line > lines {
		return todo.And(surface.Say("%s has no line %d; this is the last of %d", shortName(v.Path), v.Line, lines))
	}
	return todo
}

// leaveFor leaves the present stop and goes to another.
func (m *Model) leaveFor(to surface.Visit, v trail.View) {
	left, file := m.frame.Code.State(), m.frame.Code.File()
	if b := m.from; b != nil {
		left, file = b.view, b.file
		m.from = nil
	} else {
		m.keepFolds()
	}
	m.trails.Arrive(file, left, to, v)
	if left.Place.Path != "" {
		m.frame.Leave(left)
	}
}

// showFile shows a file that was read, and reads the rest of it if it is large.
func (m *Model) showFile(l arrival.Loaded) tea.Cmd {
	c, p := &m.frame.Code, l.Visit.Path
	other := c.Path() != p
	m.frame.Rest.Cancel()
	c.Show(l.File, l.Target())
	c.Point(l.Visit.Name)
	if other {
		c.Fold(m.frame.FoldedIn(p))
	}
	cmds := []tea.Cmd{m.kept.LocateIn(l.File)}
	if !l.File.Text.Whole() {
		cmds = append(cmds, m.readRest(p))
	}
	return tea.Batch(cmds...)
}

// showLooked shows a file that is only looked at.
func (m *Model) showLooked(l arrival.Loaded) tea.Cmd {
	if l.Err != nil {
		m.say("%s cannot be opened: %s", shortName(l.Visit.Path), text.Reason(l.Err))
		if m.before != nil && m.before.file != nil {
			return m.putBack(m.before)
		}
		return nil
	}
	l.PointOut()
	cmd := m.showFile(l)
	m.kept.Show()
	return tea.Batch(cmd, m.moved())
}

// readRest reads all of a file whose beginning is shown.
func (m *Model) readRest(path string) tea.Cmd {
	s, ws := m.frame.Side, m.ws
	type rest struct {
		file *codebase.File
		err  error
	}
	return surface.Ask(s.Rest, func(ctx context.Context) rest {
		f, err := ws.Code.Load(ctx, path)
		if err == nil && ctx.Err() == nil {
			f.Prepare()
		}
		return rest{f, err}
	}, func(r rest) surface.Intent {
		if r.err != nil {
			return surface.Say("the rest of %s: %s", shortName(path), text.Reason(r.err))
		}
		s.Code.Replace(r.file)
		s.Code.Fold(m.frame.FoldedIn(path))
		if s != m.frame.Side {
			return surface.Begin(s.Repaint())
		}
		return surface.Intent{Caret: true}
	})
}

// cannotOpen says why a file is not shown. Going along the trail still goes
// on, so that one file that is gone does not block the way.
func (m *Model) cannotOpen(l arrival.Loaded) surface.Intent {
	v := &l.Visit
	words := shortName(v.Path) + " cannot be opened: " + text.Reason(l.Err)
	m.seen.shown = true
	if open := m.frame.View(v.Path); open != nil && v.Turn {
		m.frame.Drop(open)
		if next := m.frame.Latest(); next != nil && m.frame.Present() == nil {
			todo := m.views.To(next)
			todo.Say = words
			return todo
		}
	}
	if v.Along == nil && m.trails.Trail().Here() != nil {
		return surface.Say("%s", words) // what was there before is put back
	}
	m.leaveFor(*v, trail.View{Place: place.Place{Path: v.Path, Line: max(v.Line, 1), Col: 1}})
	m.frame.Code.ShowNote(v.Path, m.keys.Fill(words+keymap.Marked(".\n{back} goes back, {scout} finds something else."), false))
	m.frame.Crumbs = nil
	m.sign.Forget()
	return surface.Intent{}
}

// moved brings up to date what depends on where the caret is and what is in
// sight.
func (m *Model) moved() tea.Cmd {
	m.frame.Look()
	cmds := []tea.Cmd{m.frame.Side.Repaint(), m.sign.CaretMoved(), m.keepLater()}
	if m.before == nil && m.leaves.MovedOn() {
		m.arrange()
		cmds = append(cmds, m.frame.Side.Repaint())
	}
	return tea.Batch(cmds...)
}

// What is on the screen is kept this long after the caret last moved, so that
// even a program that is killed begins again about where it was.
const keepAfter = 2 * time.Second

// A place one has moved to becomes a stop when the caret has stood still there for so
// long, counted from when the state was kept.
const stayAfter = 8 * time.Second

// keepLater keeps what is on the screen when the caret stands still, and makes a stop of the place if
// one stays.
func (m *Model) keepLater() tea.Cmd {
	return surface.After(m.still, keepAfter, func() surface.Intent {
		if m.before != nil {
			return surface.Intent{}
		}
		todo := surface.Intent{Keep: true, Cmd: surface.After(m.still, stayAfter, func() surface.Intent {
			m.stays()
			return surface.Intent{}
		})}
		if m.over == nil && m.line == (line{}) && !m.writing.Writing() {
			todo = todo.And(m.tips.Stands(m.set.Settings().On(settings.Tips)))
		}
		return todo
	})
}

// stays makes a stop of a place far from the one where one came in.
func (m *Model) stays() {
	if m.over == nil && !m.frame.InLeaf() {
		m.trails.LeaveHere()
	}
}
