package trail

import (
	"container/list"
	"math"
	"slices"
	"time"

	"rooktrail/internal/core/file/place"
)

// View is how a file stood on the screen.
type View struct {
	// Place is where the caret was.
	Place place.Place
	// Top is the first line shown, counted from 1, and Left the columns
	// scrolled out of sight on the left.
	Top, Left int
}

// Stop is one place on the trail. What it holds is only changed through its Trail.
type Stop struct {
	// View is how it looked when one came, or when one was last there.
	View View
	// Came is where the caret was put when one came.
	Came place.Place
	// How says how one came there, such as "definition of Assign".
	How string
	// Symbol is the qualified name of what is at the place, if anything is.
	Symbol string
	// Inside is the qualified name of what the caret stood in when one left.
	Inside string
	// At is when one came there first, Seen when one was last there.
	At, Seen time.Time
	// Memory finds the place again when the code has changed; it is that of the caret
	// when one left.
	Memory place.Memory
	// Fate is what had become of the place when it was last looked for.
	Fate place.Fate
	// Name and Note are what one wrote on it; Starred marks it.
	Name, Note string
	Starred    bool
	// Edited is when text was last changed there; zero if it was not.
	Edited time.Time

	number int
	depth  int           // how many stops lie before it
	order  *list.Element // its place among those where one was last
	parent *Stop
	ways   []*Stop // the stops one went on to, the latest last
}

// Number names the stop within its trail, counted from 0 in the order in which stops were
// made.
func (s *Stop) Number() int { return s.number }

// Parent is the stop one first came from; nil where the trail begins.
func (s *Stop) Parent() *Stop { return s.parent }

// Ways are the stops one went on to from here, also those that were there already; the
// last is where one went last.
func (s *Stop) Ways() []*Stop { return s.ways }

// Before is how many stops lie between this one and where the trail begins.
func (s *Stop) Before() int { return s.depth }

// Branches are the ways that were new when they were taken: the tree. They are in the
// order in which they were made.
func (s *Stop) Branches() (all []*Stop) {
	for _, w := range s.ways {
		if w.parent == s {
			all = append(all, w)
		}
	}
	slices.SortFunc(all, func(a, b *Stop) int { return a.number - b.number })
	return all
}

// latest is the branch that was taken last; nil if there is none.
func (s *Stop) latest() *Stop {
	for _, w := range slices.Backward(s.ways) {
		if w.parent == s {
			return w
		}
	}
	return nil
}

// End is the stop at the end of the way that was last taken from here on.
func (s *Stop) End() *Stop {
	for {
		next := s.latest()
		if next == nil {
			return s
		}
		s = next
	}
}

// Count is the number of stops of the tree from here on, this one included.
func (s *Stop) Count() int { return s.CountTo(math.MaxInt) }

// CountTo is Count, but counts no further than some number.
func (s *Stop) CountTo(most int) int {
	n := 0
	for open := []*Stop{s}; len(open) > 0 && n < most; n++ {
		last := open[len(open)-1]
		open = open[:len(open)-1]
		for _, w := range last.ways {
			if w.parent == last {
				open = append(open, w)
			}
		}
	}
	return n
}

// each calls a function for the stop and all of the tree from it on, a stop before those
// one went on to.
func (s *Stop) each(do func(*Stop)) {
	for open := []*Stop{s}; len(open) > 0; {
		last := open[len(open)-1]
		open = open[:len(open)-1]
		do(last)
		for _, w := range slices.Backward(last.ways) {
			if w.parent == last {
				open = append(open, w)
			}
		}
	}
}

// Title is what to call the stop: the name one gave it, or what one came for, or what it is
// in, or its file.
func (s *Stop) Title() string {
	switch {
	case s.Name != "":
		return s.Name
	case s.Symbol != "":
		return s.Symbol
	case s.Inside != "":
		return s.Inside
	}
	return lastOf(s.View.Place.Path, '/')
}
