package app

import (
	"bytes"
	"context"
	"errors"
	"io/fs"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// loading reads the file of a visit.
type loading struct {
	visit surface.Visit
	ws    *workspace.Workspace
	whole bool // it is to be written in as soon as it is there
	done  bool // what was done to its text before is wanted, too
}

// loaded is the file of a visit, or why it cannot be read.
type loaded struct {
	visit     surface.Visit
	file      *codebase.File
	err       error
	done      *write.History // to its text before the program began
	movedFrom string         // the path that the file had before
}

// load reads the file: all of it, or of a large one as much as can be shown at once.
func (l loading) load(ctx context.Context) loaded {
	out := loaded{visit: l.visit}
	out.file, out.err = l.ws.Code.LoadHead(l.visit.Path)
	if errors.Is(out.err, fs.ErrNotExist) && (l.visit.Memory != nil || l.visit.Along != nil) {
		out.whereMoved(ctx, l.ws)
	}
	f := out.file
	switch {
	case out.err != nil:
		return out
	case f.Text.Whole() && f.Facts == nil || !f.Text.Whole() && (l.whole || out.beyond()):
		out.file, out.err = l.ws.Code.Load(ctx, out.visit.Path)
	}
	if out.err == nil && out.file.Text.Whole() {
		out.file.Prepare()
		out.recall()
	}
	if out.err == nil && l.done {
		out.done = l.ws.History(out.visit.Path, out.file.Text)
	}
	return out
}

// whereMoved reads the file from where it is now, if that is known.
func (l *loaded) whereMoved(ctx context.Context, ws *workspace.Workspace) {
	was := l.visit.Path
	var former []string
	if l.visit.Memory != nil {
		former = l.visit.Memory.Former
	}
	file, err := ws.Lists.LoadMoved(ctx, &l.visit.Path, former)
	if err != nil {
		l.visit.Path = was
		return
	}
	l.file, l.err, l.movedFrom = file, nil, was
	if l.visit.View != nil {
		v := *l.visit.View
		v.Place.Path = l.visit.Path
		l.visit.View = &v
	}
}

// beyond says whether the place to show lies behind the part that is there.
func (l *loaded) beyond() bool {
	line := l.visit.Line
	if l.visit.View != nil {
		line = l.visit.View.Place.Line
	}
	return line > l.file.Text.Lines() || int(l.visit.Name.End) > l.file.Text.Len()
}

// recall finds the place of a stop in its file as that is now, and says what became of it.
func (l *loaded) recall() {
	v, f := &l.visit, l.file
	if v.Memory == nil || v.View == nil || f.Text.Binary() {
		return
	}
	at, fate := lists.RecallIn(f, v.Memory)
	if fate == place.Gone {
		v.After = "what one saw here is gone: " + v.Memory.Text
		return
	}
	view := *v.View
	if view.Top > 0 {
		view.Top = max(view.Top+at.Line-view.Place.Line, 1)
	}
	view.Place.Line, view.Place.Col = at.Line, at.Col
	v.View = &view
	if fate == place.Changed {
		v.After = "this line has changed since one was here: " + v.Memory.Text
	}
}

// target is the view in which the file is to be shown.
func (l *loaded) target() trail.View {
	v := &l.visit
	if v.View != nil {
		return *v.View
	}
	at := trail.View{Place: place.Place{Path: v.Path, Line: max(v.Line, 1), Col: max(v.Col, 1)}}
	if v.Name.Len() > 0 {
		at.Place.Line, at.Place.Col = l.file.Text.Position(int(v.Name.Start))
	}
	at.Place.Line = min(at.Place.Line, l.file.Text.Lines())
	if v.Line > 0 && v.Col == 0 && v.Name.Len() == 0 { // a line, not a place in it: where its text begins
		line := l.file.Text.Line(at.Place.Line)
		if text := bytes.TrimLeft(line, " \t"); len(text) > 0 {
			at.Place.Col = 1 + len(line) - len(text)
		}
	}
	return at
}

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
	l := loading{visit: v, ws: m.ws, whole: m.writing.On() != "", done: true}
	return surface.Ask(m.way, l.load, func(l loaded) surface.Intent { return m.arrived(l) })
}

// arrived shows the file one has gone to.
func (m *Model) arrived(l loaded) surface.Intent {
	if l.err != nil {
		return m.cannotOpen(l)
	}
	v := &l.visit
	if l.movedFrom != "" {
		m.trails.Moved(l.movedFrom, v.Path)
		v.After = strings.TrimPrefix(v.After+"; "+l.movedFrom+" is "+v.Path+" now", "; ")
	}
	m.pointOut(&l)
	m.leaveFor(l.visit, l.target())
	cmd := m.showFile(l)
	first := !m.seen.shown
	m.seen.begun, m.seen.shown = true, true
	m.writing.KeepDone(l.file, l.done)
	m.frame.Touch(m.frame.Code.State())
	m.trails.Rest()
	m.trails.Recent().Touch(v.Path, time.Now())
	m.tips.Arrived(*v, m.frame.Code.State().Place)
	todo := surface.Intent{Cmd: cmd, Caret: true, Marked: true, Say: v.After}
	if first {
		todo.Then = m.first
	}
	if lines := l.file.Text.Lines(); v.Line > lines {
		return todo.And(surface.Say("%s has no line %d; this is the last of %d", shortName(v.Path), v.Line, lines))
	}
	return todo
}

// pointOut makes a name of so many bytes at a line and column.
func (m *Model) pointOut(l *loaded) {
	if v := &l.visit; v.Length > 0 {
		start := uint32(l.file.Text.Offset(v.Line, v.Col))
		v.Name = place.Range{Start: start, End: start + uint32(v.Length)}
	}
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
func (m *Model) showFile(l loaded) tea.Cmd {
	c, p := &m.frame.Code, l.visit.Path
	other := c.Path() != p
	m.frame.Rest.Cancel()
	c.Show(l.file, l.target())
	c.Point(l.visit.Name)
	if other {
		c.Fold(m.frame.FoldedIn(p))
	}
	cmds := []tea.Cmd{m.kept.LocateIn(l.file)}
	if !l.file.Text.Whole() {
		cmds = append(cmds, m.readRest(p))
	}
	return tea.Batch(cmds...)
}

// showLooked shows a file that is only looked at.
func (m *Model) showLooked(l loaded) tea.Cmd {
	if l.err != nil {
		m.say("%s cannot be opened: %s", shortName(l.visit.Path), text.Reason(l.err))
		if m.before != nil && m.before.file != nil {
			return m.putBack(m.before)
		}
		return nil
	}
	m.pointOut(&l)
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
func (m *Model) cannotOpen(l loaded) surface.Intent {
	v := &l.visit
	words := shortName(v.Path) + " cannot be opened: " + text.Reason(l.err)
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
		if m.over == nil && m.line == (line{}) && !m.writing.Writing() && m.set.Settings().On(settings.Tips) {
			todo = todo.And(m.tips.Stands())
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
