// Package views is what one does with the files that are open and with the sides they stand in: turn to
// another, close, split, widen.
package views

import (
	"path"
	"slices"

	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Host is the program around the sides.
type Host interface {
	surface.Host
	// Plan is how the screen is divided.
	Plan() frame.Plan
	// KeepFolds keeps what is folded in the file that is shown.
	KeepFolds()
	// LeaveSide notes how the present side was left; Entered brings up to date what follows the side that
	// has the keys.
	LeaveSide()
	Entered() surface.Intent
	// Leaving says that the key that closes the last file was pressed once; Emptied that no file is open.
	Leaving()
	Emptied()
}

// Model does it.
type Model struct {
	host  Host
	frame *frame.Frame
}

// New makes one for the sides of a frame.
func New(host Host, f *frame.Frame) *Model { return &Model{host, f} }

// Commands are those on views and sides.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{
		keymap.Close: m.closeView, keymap.Reopen: m.reopenView, keymap.CloseOthers: m.closeOthers, keymap.CloseAll: m.closeAll,
		keymap.NextView:       func() surface.Intent { return m.To(m.frame.After(1)) },
		keymap.PreviousView:   func() surface.Intent { return m.To(m.frame.After(-1)) },
		keymap.SplitBeside:    func() surface.Intent { return m.split(false) },
		keymap.SplitBelow:     func() surface.Intent { return m.split(true) },
		keymap.OtherSide:      func() surface.Intent { return m.Enter(m.frame.Tree().Next(m.frame.Number, 1)) },
		keymap.SendOver:       m.sendOver,
		keymap.Larger:         func() surface.Intent { return m.growSide(shareStep) },
		keymap.Smaller:        func() surface.Intent { return m.growSide(-shareStep) },
		keymap.WiderColumn:    func() surface.Intent { return m.growColumn(columnStep) },
		keymap.NarrowerColumn: func() surface.Intent { return m.growColumn(-columnStep) },
		keymap.OutlineBeside:  m.toggleOutline,
		keymap.Full:           m.toggleFull,
		keymap.SignpostSize:   m.resizeSignpost,
		keymap.Quiet: func() surface.Intent {
			m.frame.Wish.Quiet = !m.frame.Wish.Quiet
			return surface.Intent{Arrange: true}
		},
	}
	for a, d := range map[keymap.Action]panes.Direction{keymap.SideLeft: panes.Left, keymap.SideRight: panes.Right, keymap.SideUp: panes.Up, keymap.SideDown: panes.Down} {
		all[a] = func() surface.Intent { return m.focusToward(d) }
	}
	return all
}

// To shows a view of the present side.
func (m *Model) To(v *frame.View) surface.Intent {
	if v == nil {
		return surface.Say("no other file is open here")
	}
	state := v.State
	return surface.Go(surface.Visit{Path: state.Place.Path, View: &state, How: "view", Turn: true})
}

// closeView closes the view that is shown: the one before it comes back, or the
// side goes if that was its last. The last one of all is not closed but left.
func (m *Model) closeView() surface.Intent {
	f := m.frame
	v := f.Present()
	if n := len(f.Views()); len(f.Sides()) == 1 && (n == 0 || n == 1 && v != nil) {
		m.host.Leaving()
		return surface.Say("this is the last open file; press {close} once more to leave Rook Trail")
	}
	m.host.KeepFolds()
	if v == nil { // it could not be opened, so there is nothing to close
		if next := f.Latest(); next != nil {
			return m.To(next)
		}
		return m.closeSide()
	}
	name := path.Base(v.State.Place.Path)
	f.Close(f.Code.State())
	f.Drop(v)
	if next := f.Latest(); next != nil {
		return surface.Say("%s is closed; {reopen} brings it back", name).And(m.To(next))
	}
	return surface.Say("%s is closed, and with it this view; {reopen} brings the file back", name).And(m.closeSide())
}

// closeSide takes the present side away and goes to its neighbour.
func (m *Model) closeSide() surface.Intent {
	m.frame.CloseSide(m.frame.Side)
	return m.host.Entered()
}

// reopenView opens the view that was closed last.
func (m *Model) reopenView() surface.Intent {
	v, ok := m.frame.Reopen()
	if !ok {
		return surface.Say("nothing was closed that could be opened again")
	}
	return surface.Go(surface.Visit{Path: v.Place.Path, View: &v, How: "opened again"})
}

// closeOthers closes the views of the present side but the one shown, closeAll
// all of all sides.
func (m *Model) closeOthers() surface.Intent {
	n := 0
	for _, v := range slices.Clone(m.frame.Views()) {
		if v != m.frame.Present() {
			m.frame.Close(v.State)
			m.frame.Drop(v)
			n++
		}
	}
	if n == 0 {
		return m.host.Here().Lack("no other file is open in this view")
	}
	return surface.Intent{Keep: true}.And(surface.Say("%s closed; {reopen} brings them back one by one", sheet.Count(n, "other file", "other files")))
}

func (m *Model) closeAll() surface.Intent {
	if len(m.frame.OpenFiles()) == 0 {
		return surface.Say("no file is open")
	}
	m.host.KeepFolds()
	m.host.LeaveSide()
	n := m.frame.CloseAll()
	m.host.Emptied()
	return surface.Intent{Arrange: true}.And(surface.Say("%s closed; {reopen} brings them back one by one", sheet.Count(n, "file", "files")))
}

// split puts another view of the same file beside or below the present one.
func (m *Model) split(stacked bool) surface.Intent {
	if m.frame.Code.File() == nil {
		return surface.Say("there is no file here to show twice")
	}
	r := m.host.Plan().Layout()[m.frame.Number]
	if !stacked && r.Width < 2*panes.LeastWidth+1 || stacked && r.Height < 2*panes.LeastHeight {
		return surface.Say("there is no room here for two views; a larger window would have it")
	}
	m.frame.Split(stacked)
	return m.host.Entered()
}

// Enter gives the keys to a side.
func (m *Model) Enter(number int) surface.Intent {
	if number == m.frame.Number {
		return surface.Say("there is only this view; {split-beside} puts another beside it, {split-below} below it")
	}
	m.host.LeaveSide()
	m.frame.Focus(number)
	return m.host.Entered()
}

func (m *Model) focusToward(d panes.Direction) surface.Intent {
	number, ok := m.frame.Tree().Neighbour(m.host.Plan().Room(), m.frame.Number, d)
	if !ok {
		return surface.Say("there is no view in that direction")
	}
	return m.Enter(number)
}

// sendOver shows the present file in the next side, with the caret where it is
// here, and closes it here if another file is open.
func (m *Model) sendOver() surface.Intent {
	from := m.frame.Side
	to := m.frame.By(m.frame.Tree().Next(from.Number, 1))
	file, state := from.Code.File(), from.Code.State()
	if to == from || file == nil {
		return surface.Say("there is no other side to send it to; {split-beside} makes one")
	}
	m.host.KeepFolds()
	to.Leave(to.Code.State())
	to.Code.Show(file, state)
	to.Code.SetFolds(from.Code.Folds())
	to.Touch(to.Code.State())
	if v := from.Present(); v != nil && len(from.Views()) > 1 {
		from.Drop(v)
		return surface.Say("%s is on the other side now", path.Base(state.Place.Path)).And(surface.Begin(to.Repaint())).And(m.To(from.Latest()))
	}
	return m.Enter(to.Number)
}

// How much a side or the column grows with one press.
const (
	shareStep  = 0.1
	columnStep = 4
)

func (m *Model) growSide(by float64) surface.Intent {
	todo := surface.Intent{Arrange: true}
	if !m.frame.Tree().Grow(m.frame.Number, by) {
		return todo.And(surface.Say("this view has no neighbour to share the room with"))
	}
	return todo
}

func (m *Model) growColumn(by int) surface.Intent {
	now := m.host.Plan().ColumnWidth()
	if now == 0 {
		return surface.Say("nothing stands beside the code; that takes %d columns, and no split in between", frame.SignpostWidth)
	}
	m.frame.Wish.Column = min(max(now+by, frame.LeastColumn), m.frame.Wish.Width/2)
	return surface.Intent{Arrange: true}
}

// toggleOutline shows the outline beside the code, or takes it away.
func (m *Model) toggleOutline() surface.Intent {
	todo := surface.Intent{Arrange: true}
	m.frame.Wish.Outline = !m.frame.Wish.Outline
	if m.frame.Wish.Outline && m.host.Plan().ColumnWidth() == 0 {
		return todo.And(surface.Say("the outline stays beside the code where there is room: from %d columns on, without a split; {outline} shows it as a sheet", frame.SignpostWidth))
	}
	return todo
}

func (m *Model) toggleFull() surface.Intent {
	todo, several := surface.Intent{Arrange: true}, len(m.frame.Sides()) > 1
	m.frame.Wish.Full = !m.frame.Wish.Full && several
	if !several {
		return todo.And(surface.Say("there is only this view; {split-beside} puts another beside it"))
	}
	return todo
}

// resizeSignpost shows less of the signpost, and at last all of it again.
func (m *Model) resizeSignpost() surface.Intent {
	w, words := &m.frame.Wish, ""
	switch w.Signpost {
	case "":
		w.Signpost, words = frame.Narrow, "the signpost is narrow now; once more makes it one line"
	case frame.Narrow:
		w.Signpost, words = frame.OneLine, "the signpost is the line above the trail now; once more brings it back beside the code"
	default:
		w.Signpost, words = "", "the signpost stands beside the code again"
	}
	return surface.Intent{Say: words, Arrange: true}
}
