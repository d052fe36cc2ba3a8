package frame

import (
	"maps"
	"slices"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/surface"
)

// Frame is the sides, and how the user wants the screen to be divided.
type Frame struct {
	// Side is the one that has the keys: in a leaf, that of the leaf.
	*Side
	// Wish is what the user has asked for; Plan is that with what else there is.
	Wish Plan

	asker  func() *surface.Asker
	sides  map[int]*Side
	tree   *panes.Tree
	ground *Side // the side of the code while the keys are in a leaf; nil if they are not
	closed []resume.View
	folded map[string]Folded // by file
	look   code.Look
}

// New makes a frame with one side; asker makes what sides ask with.
func New(asker func() *surface.Asker) *Frame {
	f := &Frame{asker: asker, sides: map[int]*Side{}, folded: map[string]Folded{}}
	f.Side = f.Add()
	f.tree = panes.One(f.Number)
	return f
}

// Add makes a side that is not in the tree yet.
func (f *Frame) Add() *Side {
	number := len(f.sides)
	for f.sides[number] != nil {
		number++
	}
	s := NewSide(number, f.asker)
	s.Code.SetLook(f.look)
	f.sides[number] = s
	return s
}

// SetLook has the code be shown otherwise in all sides.
func (f *Frame) SetLook(l code.Look) {
	f.look = l
	for _, s := range f.sides {
		s.Code.SetLook(l)
	}
}

// CodeLook is how code is shown.
func (f *Frame) CodeLook() code.Look { return f.look }

// Sides are all sides, from the left and the top.
func (f *Frame) Sides() (all []*Side) {
	for _, number := range f.tree.Sides() {
		all = append(all, f.sides[number])
	}
	return all
}

// By is the side of a number; nil if there is none.
func (f *Frame) By(number int) *Side { return f.sides[number] }

// Tree is how the sides are divided.
func (f *Frame) Tree() *panes.Tree { return f.tree }

// CodeSide is the side of the code, also while the keys are in a leaf.
func (f *Frame) CodeSide() *Side {
	if f.ground != nil {
		return f.ground
	}
	return f.Side
}

// InLeaf says whether the keys are in a leaf.
func (f *Frame) InLeaf() bool { return f.ground != nil }

// Enter gives the keys to a side that is laid beside the code.
func (f *Frame) Enter(s *Side) {
	if f.ground == nil {
		f.ground = f.Side
	}
	f.Code.Away(true)
	f.Side = s
	f.Code.Away(false)
}

// Return gives the keys back to the code.
func (f *Frame) Return() {
	if f.ground == nil {
		return
	}
	f.Code.Away(true)
	f.Side, f.ground = f.ground, nil
	f.Code.Away(false)
}

// Focus gives the keys to a side of the frame.
func (f *Frame) Focus(number int) {
	f.Side = f.sides[number]
	for _, s := range f.sides {
		s.Code.Away(s != f.Side)
	}
}

// Split puts another side beside or below the present one, which shows the same, and gives it the
// keys.
func (f *Frame) Split(stacked bool) {
	from := f.Side
	s := f.Add()
	f.tree.Split(from.Number, stacked, s.Number)
	s.Code.Show(from.Code.File(), from.Code.State())
	s.Code.SetFolds(from.Code.Folds())
	s.Touch(s.Code.State())
	f.Wish.Full = false
	f.Focus(s.Number)
}

// CloseSide takes a side away, if there are others; one of its neighbours gets the keys, if it had
// them.
func (f *Frame) CloseSide(gone *Side) {
	next := f.tree.Close(gone.Number)
	if next == gone.Number {
		return
	}
	delete(f.sides, gone.Number)
	gone.Rest.Cancel()
	gone.paints.asker.Cancel()
	f.Wish.Full = f.Wish.Full && len(f.sides) > 1
	if f.Side == gone {
		f.Focus(next)
	}
}

// CloseAll closes all views and all sides but the present one; it returns how many views there were.
func (f *Frame) CloseAll() (n int) {
	for _, s := range f.Sides() {
		s.Leave(s.Code.State())
		for _, v := range s.views {
			f.Close(v.State)
			n++
		}
		if s != f.Side {
			f.CloseSide(s)
		}
	}
	f.views, f.Wish.Full, f.Crumbs = nil, false, nil
	return n
}

// mostClosed is how many closed views can be opened again.
const mostClosed = 100

// Close keeps a view that is closed, to be opened again.
func (f *Frame) Close(state trail.View) {
	f.closed = append(f.closed, Kept(state))
	if n := len(f.closed) - mostClosed; n > 0 {
		f.closed = slices.Delete(f.closed, 0, n)
	}
}

// Reopens says that a view was closed that can be opened again.
func (f *Frame) Reopens() bool { return len(f.closed) > 0 }

// Reopen gives the view that was closed last; ok is false if none was.
func (f *Frame) Reopen() (v trail.View, ok bool) {
	n := len(f.closed) - 1
	if n < 0 {
		return v, false
	}
	v = f.closed[n].State()
	f.closed = f.closed[:n]
	return v, true
}

// OpenFiles are the paths of the files that are open in any side.
func (f *Frame) OpenFiles() (paths []string) {
	for _, s := range f.Sides() {
		for _, v := range s.views {
			if p := v.State.Place.Path; !slices.Contains(paths, p) {
				paths = append(paths, p)
			}
		}
	}
	return paths
}

// Renamed follows a file or folder that has another path now.
func (f *Frame) Renamed(from, to string) {
	for _, s := range f.sides {
		for _, v := range s.views {
			v.State.Place.Path = place.Renamed(v.State.Place.Path, from, to)
		}
	}
	for p, was := range maps.Clone(f.folded) {
		if q := place.Renamed(p, from, to); q != p {
			delete(f.folded, p)
			f.folded[q] = was
		}
	}
	for i := range f.closed {
		f.closed[i].Path = place.Renamed(f.closed[i].Path, from, to)
	}
}

// Plan is how the screen is divided now. leaf says that a leaf is laid beside the code, said that
// something stands in the line above the strip, and over how many lines a sheet takes.
func (f *Frame) Plan(leaf, said bool, over int) Plan {
	p := f.Wish
	p.Tree, p.Present, p.Leaf, p.Said, p.Over = f.tree, f.CodeSide().Number, leaf, said, over
	return p
}

// Arrange gives every side its size.
func (f *Frame) Arrange(p Plan) {
	for number, r := range p.Layout() {
		if p.Headed() {
			r.Height--
		}
		f.sides[number].Code.Resize(r.Width, r.Height)
	}
}

// Repaint colours what came in sight on any side.
func (f *Frame) Repaint() tea.Cmd {
	var cmds []tea.Cmd
	for _, s := range f.Sides() {
		cmds = append(cmds, s.Repaint())
	}
	return tea.Batch(cmds...)
}

// Folded is what was folded in a file: a set of it as it was then, or the marks
// from an earlier time.
type Folded struct {
	set   *fold.Set
	doc   *text.Document
	marks []fold.Mark
}

// Marks are by what the folds are found again.
func (f Folded) Marks() []fold.Mark {
	if f.set != nil {
		return f.set.Marks(f.doc)
	}
	return f.marks
}

// KeepFolds keeps what is folded in the file that code shows.
func (f *Frame) KeepFolds(c *code.Model) {
	file := c.File()
	if file == nil || !file.Text.Whole() {
		return
	}
	if set := c.Folds(); set.Any() {
		f.folded[file.Path] = Folded{set: set.Clone(), doc: file.Text}
	} else {
		delete(f.folded, file.Path)
	}
}

// FoldedIn are by what the folds of a file are found again.
func (f *Frame) FoldedIn(path string) []fold.Mark { return f.folded[path].Marks() }

// Folded is what was folded, by file.
func (f *Frame) Folded() map[string]Folded { return maps.Clone(f.folded) }
