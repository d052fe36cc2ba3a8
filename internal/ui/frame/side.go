package frame

import (
	"cmp"
	"path"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Side is one part of the screen in which code is shown, with the files that
// are open in it.
type Side struct {
	Number int
	Code   code.Model
	// Crumbs are the symbols around the caret.
	Crumbs []codebase.Crumb
	// Rest reads what is still missing of a large file that is shown.
	Rest *surface.Asker

	paints painting
	views  []*View // in the order in which they were opened
	turns  int     // counts how often another view was shown
}

// View is a file that is open in a side.
type View struct {
	// State is how it stood on the screen when another one was shown.
	State trail.View
	// shown is the turn in which it was shown last.
	shown int
}

// NewSide makes a side that is none of a frame; asker makes what it asks with.
func NewSide(number int, asker func() *surface.Asker) *Side {
	s := &Side{Number: number, Rest: asker(), paints: painting{asker: asker()}}
	s.Code.Resize(1, 1)
	return s
}

// Views are the files that are open, in the order in which they were opened.
func (s *Side) Views() []*View { return s.views }

// View is the view of a file; nil if it is not open here.
func (s *Side) View(path string) *View {
	for _, v := range s.views {
		if v.State.Place.Path == path {
			return v
		}
	}
	return nil
}

// Present is the view that is shown; nil if none is.
func (s *Side) Present() *View { return s.View(s.Code.Path()) }

// Touch notes that a file is shown now, and opens a view of it if there is none.
func (s *Side) Touch(state trail.View) {
	v := s.View(state.Place.Path)
	if v == nil {
		v = &View{}
		s.views = append(s.views, v)
	}
	s.turns++
	v.State, v.shown = state, s.turns
}

// Leave notes how the view of a file stood when something else is shown.
func (s *Side) Leave(state trail.View) {
	if v := s.View(state.Place.Path); v != nil {
		v.State = state
	}
}

// Drop takes a view away.
func (s *Side) Drop(v *View) {
	s.views = slices.DeleteFunc(s.views, func(x *View) bool { return x == v })
}

// Latest is the view that was shown last; nil if none is open.
func (s *Side) Latest() *View {
	if len(s.views) == 0 {
		return nil
	}
	return slices.MaxFunc(s.views, func(a, b *View) int { return cmp.Compare(a.shown, b.shown) })
}

// After is the view behind the present one in the order in which they were
// opened, round at the ends; with a negative step, the one before. It is nil if
// there is no other.
func (s *Side) After(step int) *View {
	i := slices.Index(s.views, s.Present())
	if i < 0 {
		return s.Latest()
	}
	if len(s.views) < 2 {
		return nil
	}
	n := len(s.views)
	return s.views[((i+step)%n+n)%n]
}

// Look brings the crumbs up to date with the caret.
func (s *Side) Look() { s.Crumbs = codebase.Crumbs(s.Code.File(), s.Code.Offset()) }

// Header names what the side shows, where there are several.
func (s *Side) Header() (name, where string) {
	p := s.Code.Path()
	if len(s.views) > 1 {
		where = sheet.Count(len(s.views), "file", "files") + " open"
	}
	names := []string{path.Base(p)}
	for _, c := range s.Crumbs {
		names = append(names, c.Name)
	}
	return strings.Join(names, " ▸ "), where
}

// Kept is a view as it is kept on disk.
func Kept(v trail.View) resume.View {
	return resume.View{Path: v.Place.Path, Line: v.Place.Line, Col: v.Place.Col, Top: v.Top, Left: v.Left}
}

// Repaint colours what is shown, if it has no colours yet.
func (s *Side) Repaint() tea.Cmd { return s.paints.repaint(&s.Code) }
