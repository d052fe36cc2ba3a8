package frame

import (
	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/panes"
)

// Screen is what is on the screen, to be kept. before is how the present side stood while something
// else is looked at in it; nil if nothing is.
func (f *Frame) Screen(before *trail.View) *resume.Screen {
	w := f.Wish
	s := &resume.Screen{Quiet: w.Quiet, Full: w.Full, Outline: w.Outline, Column: w.Column, Signpost: w.Signpost}
	s.Sides = f.keptSides(f.tree, before)
	for i, number := range f.tree.Sides() {
		if number == f.CodeSide().Number {
			s.Present = i
		}
	}
	s.Closed = append(s.Closed, f.closed...)
	return s
}

func (f *Frame) keptSides(t *panes.Tree, before *trail.View) resume.Sides {
	if t.Parts != nil {
		return resume.Sides{
			Parts: []resume.Sides{f.keptSides(t.Parts[0], before), f.keptSides(t.Parts[1], before)}, Stacked: t.Stacked, Share: t.Share,
		}
	}
	s, out := f.sides[t.Side], resume.Sides{}
	for i, v := range s.views {
		state := v.State
		if v == s.Present() {
			out.Shown = i
			if before == nil || s != f.Side { // else something else is only looked at
				state = s.Code.State()
			}
		}
		out.Views = append(out.Views, Kept(state))
	}
	return out
}

// Resume divides the screen as it was when the program was left, and says whether there was any file
// on it. Nothing is shown yet.
func (f *Frame) Resume(s *resume.Screen, folds map[string][]fold.Mark) bool {
	for p, marks := range folds {
		f.folded[p] = Folded{marks: marks}
	}
	if s == nil {
		return false
	}
	f.Wish.Quiet, f.Wish.Outline, f.Wish.Column, f.Wish.Signpost, f.closed = s.Quiet, s.Outline, s.Column, s.Signpost, s.Closed
	tree := f.sidesOf(s.Sides)
	if tree == nil {
		return false
	}
	delete(f.sides, f.Number)
	f.tree = tree
	numbers := tree.Sides()
	f.Side = f.sides[numbers[min(max(s.Present, 0), len(numbers)-1)]]
	f.Wish.Full = s.Full && len(numbers) > 1
	return true
}

// sidesOf makes the sides that were kept; nil if there is no file in them.
func (f *Frame) sidesOf(kept resume.Sides) *panes.Tree {
	if len(kept.Parts) == 2 {
		a, b := f.sidesOf(kept.Parts[0]), f.sidesOf(kept.Parts[1])
		if a == nil {
			return b
		}
		if b == nil {
			return a
		}
		return &panes.Tree{Parts: &[2]*panes.Tree{a, b}, Stacked: kept.Stacked, Share: min(max(kept.Share, 0.1), 0.9)}
	}
	if len(kept.Views) == 0 {
		return nil
	}
	s := f.Add()
	for _, v := range kept.Views {
		s.Touch(v.State())
	}
	if kept.Shown >= 0 && kept.Shown < len(s.views) {
		s.Touch(kept.Views[kept.Shown].State())
	}
	return panes.One(s.Number)
}
