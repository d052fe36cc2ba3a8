package app

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/code"
)

// side is one part of the screen in which code is shown, with the files that
// are open in it.
type side struct {
	number int
	code   code.Model
	paints painting
	crumbs []workspace.Crumb
	views  []*view // in the order in which they were opened
	turns  int     // counts how often another view was shown
}

// view is a file that is open in a side.
type view struct {
	// state is how it stood on the screen when another one was shown.
	state trail.View
	// shown is the turn in which it was shown last.
	shown int
}

// view is the view of a file; nil if it is not open here.
func (s *side) view(path string) *view {
	for _, v := range s.views {
		if v.state.Place.Path == path {
			return v
		}
	}
	return nil
}

// present is the view that is shown; nil if none is.
func (s *side) present() *view { return s.view(s.code.Path()) }

// touch notes that a file is shown now, and opens a view of it if there is none.
func (s *side) touch(state trail.View) {
	v := s.view(state.Place.Path)
	if v == nil {
		v = &view{}
		s.views = append(s.views, v)
	}
	s.turns++
	v.state, v.shown = state, s.turns
}

// leave notes how the view of a file stood when something else is shown.
func (s *side) leave(state trail.View) {
	if v := s.view(state.Place.Path); v != nil {
		v.state = state
	}
}

// drop takes a view away.
func (s *side) drop(v *view) {
	s.views = slices.DeleteFunc(s.views, func(x *view) bool { return x == v })
}

// latest is the view that was shown last; nil if none is open.
func (s *side) latest() *view {
	if len(s.views) == 0 {
		return nil
	}
	return slices.MaxFunc(s.views, func(a, b *view) int { return cmp.Compare(a.shown, b.shown) })
}

// after is the view behind the present one in the order in which they were
// opened, round at the ends; with a negative step, the one before. It is nil if
// there is no other.
func (s *side) after(step int) *view {
	i := slices.Index(s.views, s.present())
	if i < 0 {
		return s.latest()
	}
	if len(s.views) < 2 {
		return nil
	}
	n := len(s.views)
	return s.views[((i+step)%n+n)%n]
}
