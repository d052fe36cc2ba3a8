package app

import (
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/fold"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resume"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/sheet"
)

// addSide makes a side and gives it the keys.
func (m *Model) addSide() *side {
	if m.sides == nil {
		m.sides = map[int]*side{}
	}
	s := &side{number: len(m.sides)}
	for m.sides[s.number] != nil {
		s.number++
	}
	s.code.Resize(1, 1)
	m.sides[s.number] = s
	if m.side == nil {
		m.side = s
	}
	return s
}

// inViews carries out an action on views and sides; ok is false for any other.
func (m *Model) inViews(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.Close:
		return m.closeView(), true
	case keymap.Reopen:
		return m.reopen(), true
	case keymap.NextView:
		return m.turnTo(m.side.after(1)), true
	case keymap.PreviousView:
		return m.turnTo(m.side.after(-1)), true
	case keymap.Views:
		return m.listViews(), true
	case keymap.CloseOthers:
		return m.closeOthers(), true
	case keymap.CloseAll:
		return m.closeAll(), true
	case keymap.SplitBeside:
		return m.split(false), true
	case keymap.SplitBelow:
		return m.split(true), true
	case keymap.OtherSide:
		return m.focus(m.tree.Next(m.side.number, 1)), true
	case keymap.SendOver:
		return m.sendOver(), true
	case keymap.SideLeft, keymap.SideRight, keymap.SideUp, keymap.SideDown:
		return m.focusToward(a), true
	case keymap.Larger, keymap.Smaller:
		return m.growSide(a == keymap.Larger), true
	case keymap.WiderColumn, keymap.NarrowerColumn:
		return m.growColumn(a == keymap.WiderColumn), true
	case keymap.Full:
		m.full = !m.full && len(m.sides) > 1
		if len(m.sides) == 1 {
			m.say("there is only this view; | puts another beside it")
		}
		return m.rearranged(), true
	case keymap.Quiet:
		m.quiet = !m.quiet
		return m.rearranged(), true
	}
	return nil, false
}

// rearranged gives every side its size anew and colours what came in sight.
func (m *Model) rearranged() tea.Cmd {
	m.arrange()
	var cmds []tea.Cmd
	for _, s := range m.sides {
		cmds = append(cmds, s.repaint())
	}
	return tea.Batch(append(cmds, m.keepState())...)
}

// turnTo shows a view of the present side.
func (m *Model) turnTo(v *view) tea.Cmd {
	if v == nil {
		m.say("no other file is open here")
		return nil
	}
	state := v.state
	return m.open(opening{path: state.Place.Path, view: &state, how: "view", turn: true})
}

// closeView closes the view that is shown: the one before it comes back, or the
// side goes if that was its last. The last one of all is not closed but left.
func (m *Model) closeView() tea.Cmd {
	v := m.side.present()
	if n := len(m.side.views); len(m.sides) == 1 && (n == 0 || n == 1 && v != nil) {
		m.leaving = true
		m.say("this is the last open file; press q once more to leave Rook Trail")
		return nil
	}
	m.keepFolds()
	if v == nil { // it could not be opened, so there is nothing to close
		if next := m.side.latest(); next != nil {
			return m.turnTo(next)
		}
		return m.closeSide()
	}
	m.keepClosed(m.code.State())
	m.side.drop(v)
	if next := m.side.latest(); next != nil {
		m.say("%s is closed; Q brings it back", shortName(v.state.Place.Path))
		return m.turnTo(next)
	}
	m.say("%s is closed, and with it this view; Q brings the file back", shortName(v.state.Place.Path))
	return m.closeSide()
}

// mostClosed is how many closed views can be opened again.
const mostClosed = 100

// keepClosed keeps a view that is closed.
func (m *Model) keepClosed(state trail.View) {
	m.closed = append(m.closed, kept(state))
	if n := len(m.closed) - mostClosed; n > 0 {
		m.closed = slices.Delete(m.closed, 0, n)
	}
}

// closeSide takes the present side away and goes to its neighbour.
func (m *Model) closeSide() tea.Cmd {
	gone := m.side
	next := m.tree.Close(gone.number)
	delete(m.sides, gone.number)
	m.full = m.full && len(m.sides) > 1
	m.side = m.sides[next]
	return tea.Batch(m.focused(), m.rearranged())
}

// reopen opens the view that was closed last.
func (m *Model) reopen() tea.Cmd {
	n := len(m.closed) - 1
	if n < 0 {
		m.say("nothing was closed that could be opened again")
		return nil
	}
	v := m.closed[n].State()
	m.closed = m.closed[:n]
	return m.open(opening{path: v.Place.Path, view: &v, how: "opened again"})
}

// listViews shows the open files in the scout.
func (m *Model) listViews() tea.Cmd {
	var paths []string
	for _, number := range m.tree.Sides() {
		for _, v := range m.sides[number].views {
			if p := v.state.Place.Path; !slices.Contains(paths, p) {
				paths = append(paths, p)
			}
		}
	}
	m.openScout()
	m.scout.ListOpen(paths)
	return nil
}

// closeOthers closes the views of the present side but the one shown, closeAll
// all of all sides.
func (m *Model) closeOthers() tea.Cmd {
	n := 0
	for _, v := range slices.Clone(m.side.views) {
		if v != m.side.present() {
			m.keepClosed(v.state)
			m.side.drop(v)
			n++
		}
	}
	m.say("%s closed; Q brings them back one by one", sheet.Count(n, "other file", "other files"))
	return m.keepState()
}

func (m *Model) closeAll() tea.Cmd {
	m.keepFolds()
	n := 0
	for _, number := range m.tree.Sides() {
		s := m.sides[number]
		s.leave(s.code.State())
		for _, v := range s.views {
			m.keepClosed(v.state)
			n++
		}
		if s != m.side {
			delete(m.sides, number)
		}
	}
	m.leaveHere()
	m.side.views, m.full, m.crumbs = nil, false, nil
	m.tree = panes.One(m.side.number)
	m.opens++
	m.emptyPage()
	m.say("%s closed; Q brings them back one by one", sheet.Count(n, "file", "files"))
	return m.rearranged()
}

// split puts another view of the same file beside or below the present one.
func (m *Model) split(stacked bool) tea.Cmd {
	if m.code.File() == nil {
		m.say("there is no file here to show twice")
		return nil
	}
	r := m.layout()[m.side.number]
	if !stacked && r.Width < 2*panes.LeastWidth+1 || stacked && r.Height < 2*panes.LeastHeight {
		m.say("there is no room here for two views; a larger window would have it")
		return nil
	}
	from := m.side
	m.side = m.addSide()
	m.tree.Split(from.number, stacked, m.side.number)
	m.code.Show(from.code.File(), from.code.State())
	m.code.SetFolds(from.code.Folds())
	m.side.touch(m.code.State())
	m.full = false
	return tea.Batch(m.focused(), m.rearranged())
}

// focus gives the keys to a side.
func (m *Model) focus(number int) tea.Cmd {
	if number == m.side.number {
		m.say("there is only this view; | puts another beside it, _ below it")
		return nil
	}
	m.leaveHere()
	m.clearInFile()
	m.side = m.sides[number]
	return tea.Batch(m.focused(), m.rearranged())
}

// focused brings up to date what follows the side that has the keys.
func (m *Model) focused() tea.Cmd {
	for _, s := range m.sides {
		s.code.Away(s != m.side)
	}
	if m.code.Path() != "" {
		v := m.code.State()
		m.recent.Touch(v.Place.Path, time.Now())
		if !m.trail.Return(v.Place) {
			m.trail.Go(v, "the other side", "")
		}
	}
	return m.caretMoved()
}

func (m *Model) focusToward(a keymap.Action) tea.Cmd {
	d := map[keymap.Action]panes.Direction{
		keymap.SideLeft: panes.Left, keymap.SideRight: panes.Right, keymap.SideUp: panes.Up, keymap.SideDown: panes.Down,
	}[a]
	number, ok := m.tree.Neighbour(m.room(), m.side.number, d)
	if !ok {
		m.say("there is no view in that direction")
		return nil
	}
	return m.focus(number)
}

// sendOver shows the present file in the next side, with the caret where it is
// here, and closes it here if another file is open.
func (m *Model) sendOver() tea.Cmd {
	to := m.sides[m.tree.Next(m.side.number, 1)]
	file, state := m.code.File(), m.code.State()
	if to == m.side || file == nil {
		m.say("there is no other side to send it to; | makes one")
		return nil
	}
	m.keepFolds()
	from := m.side
	to.leave(to.code.State())
	to.code.Show(file, state)
	to.code.SetFolds(m.code.Folds())
	to.touch(to.code.State())
	if v := from.present(); v != nil && len(from.views) > 1 {
		from.drop(v)
		m.say("%s is on the other side now", shortName(state.Place.Path))
		return tea.Batch(to.repaint(), m.turnTo(from.latest()))
	}
	return tea.Batch(m.focus(to.number))
}

// How much a side or the column grows with one press.
const (
	shareStep  = 0.1
	columnStep = 4
)

func (m *Model) growSide(larger bool) tea.Cmd {
	by := shareStep
	if !larger {
		by = -by
	}
	if !m.tree.Grow(m.side.number, by) {
		m.say("this view has no neighbour to share the room with")
	}
	return m.rearranged()
}

func (m *Model) growColumn(wider bool) tea.Cmd {
	now := m.columnWidth()
	if now == 0 {
		m.say("nothing stands beside the code; that takes %d columns, and no split in between", signpostWidth)
		return nil
	}
	if !wider {
		now -= 2 * columnStep
	}
	m.column = min(max(now+columnStep, leastColumn), m.width/2)
	return m.rearranged()
}

// toggleBeside shows the outline beside the code, or takes it away.
func (m *Model) toggleBeside() tea.Cmd {
	m.beside = !m.beside
	if m.beside && m.columnWidth() == 0 {
		m.say("the outline stays beside the code where there is room: from %d columns on, without a split; o shows it as a sheet", signpostWidth)
	}
	return m.rearranged()
}

// folded is what was folded in a file: a set of it as it was then, or the marks
// from an earlier time.
type folded struct {
	set   *fold.Set
	doc   *text.Document
	marks []fold.Mark
}

// found are the marks by which the folds are found again.
func (f folded) found() []fold.Mark {
	if f.set != nil {
		return f.set.Marks(f.doc)
	}
	return f.marks
}

// keepFolds keeps what is folded in the file that is shown.
func (m *Model) keepFolds() {
	f := m.code.File()
	if m.before != nil || f == nil || !f.Text.Whole() {
		return
	}
	if set := m.code.Folds(); set.Any() {
		m.folded[f.Path] = folded{set: set.Clone(), doc: f.Text}
	} else {
		delete(m.folded, f.Path)
	}
}

// renamed follows a file or folder that has another path now.
func (m *Model) renamed(from, to string) {
	for _, s := range m.sides {
		for _, v := range s.views {
			v.state.Place.Path = place.Renamed(v.state.Place.Path, from, to)
		}
	}
	for p, f := range m.folded {
		if q := place.Renamed(p, from, to); q != p {
			delete(m.folded, p)
			m.folded[q] = f
		}
	}
	for i := range m.closed {
		m.closed[i].Path = place.Renamed(m.closed[i].Path, from, to)
	}
	m.trail.Rename(from, to)
	m.recent.Rename(from, to)
}

// kept is a view as it is kept on disk.
func kept(v trail.View) resume.View {
	return resume.View{Path: v.Place.Path, Line: v.Place.Line, Col: v.Place.Col, Top: v.Top, Left: v.Left}
}

// header names what a side shows, where there are several.
func (s *side) header() (name, where string) {
	p := s.code.Path()
	var names []string
	for _, c := range s.crumbs {
		names = append(names, c.Name)
	}
	if len(s.views) > 1 {
		where = sheet.Count(len(s.views), "file", "files") + " open"
	}
	if len(names) > 0 {
		return shortName(p) + " ▸ " + strings.Join(names, " ▸ "), where
	}
	return shortName(p), where
}
