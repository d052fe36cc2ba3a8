// Package trail is the navigation history: a tree of stops. Going back and
// turning another way begins a fork and forgets nothing.
package trail

import (
	"time"

	"rooktrail/internal/core/place"
)

// View is how a file stood on the screen.
type View struct {
	// Place is where the caret was.
	Place place.Place
	// Top is the first line shown, counted from 1, and Left the columns
	// scrolled out of sight on the left.
	Top, Left int
}

// Stop is one place on the trail.
type Stop struct {
	// View is how it looked when one came, or when one was last there.
	View View
	// Came is where the caret was put when one came.
	Came place.Place
	// How says how one came there, such as "definition of Assign".
	How string
	// Symbol is the qualified name of what is at the place, if anything is.
	Symbol string
	// At is when one came there first.
	At time.Time
	// Anchor finds the place again when the code has changed; it is that of the caret
	// when one left.
	Anchor place.Anchor

	parent *Stop
	ways   []*Stop // the stops one went on to, the latest last
}

// Parent is the stop one came from; nil at the beginning of the trail.
func (s *Stop) Parent() *Stop { return s.parent }

// Ways are the stops one went on to from here; the last is where forward goes.
func (s *Stop) Ways() []*Stop { return s.ways }

// Fork says that one went on in more than one direction.
func (s *Stop) Fork() bool { return len(s.ways) > 1 }

// Count is the number of stops of the tree from here on, this one included.
func (s *Stop) Count() int {
	n := 0
	for open := []*Stop{s}; len(open) > 0; {
		last := open[len(open)-1]
		open = append(open[:len(open)-1], last.ways...)
		n++
	}
	return n
}

// Trail is a tree of stops with the one that is present. The zero Trail has no
// stop yet.
type Trail struct {
	first, here *Stop
	changes     int
}

// Changes counts what was changed, so that it need only be kept when there is something
// new.
func (t *Trail) Changes() int { return t.changes }

// First is the stop where the trail begins; nil if there is none.
func (t *Trail) First() *Stop { return t.first }

// Here is the present stop; nil if there is none.
func (t *Trail) Here() *Stop { return t.here }

// Leave notes how the present stop looks before one goes away from it, so that
// coming back restores it.
func (t *Trail) Leave(v View) {
	if t.here != nil && t.here.View != v {
		t.here.View = v
		t.changes++
	}
}

// Anchored notes by what the place is found again at which the present stop was left.
func (t *Trail) Anchored(a place.Anchor) {
	if t.here != nil && t.here.View.Place == a.Place() {
		t.here.Anchor = a
		t.changes++
	}
}

// Go makes a stop at a place one jumped to and goes there. A jump to where one
// already is makes none, and one to a place that a way from here leads to
// takes that way.
func (t *Trail) Go(v View, how, symbol string) *Stop {
	t.changes++
	if t.here != nil {
		if same(t.here.View.Place, v.Place) {
			t.here.View = v
			return t.here
		}
		for _, w := range t.here.ways {
			if same(w.Came, v.Place) {
				t.take(w)
				w.View, w.How = v, how
				return w
			}
		}
	}
	s := &Stop{View: v, Came: v.Place, How: how, Symbol: symbol, At: time.Now(), parent: t.here}
	if t.here != nil {
		t.here.ways = append(t.here.ways, s)
	} else {
		t.first = s
	}
	t.here = s
	return s
}

// same says whether two places are on the same line of the same file.
func same(a, b place.Place) bool { return a.Path == b.Path && a.Line == b.Line }

// take goes on to a stop directly after the present one, which becomes the one
// that forward goes to.
func (t *Trail) take(next *Stop) {
	t.changes++
	ways := t.here.ways
	for i, w := range ways {
		if w == next {
			copy(ways[i:], ways[i+1:])
			ways[len(ways)-1] = next
			break
		}
	}
	t.here = next
}

// Back goes to the stop one came from; it is false at the beginning.
func (t *Trail) Back() bool {
	if t.here == nil || t.here.parent == nil {
		return false
	}
	t.here = t.here.parent
	t.changes++
	return true
}

// Forward goes on to where one last went from here; it is false at the end of
// a way.
func (t *Trail) Forward() bool {
	if t.here == nil || len(t.here.ways) == 0 {
		return false
	}
	t.take(t.here.ways[len(t.here.ways)-1])
	return true
}

// Take goes on along one of the ways from here; it is false if the stop is not
// one of them.
func (t *Trail) Take(next *Stop) bool {
	if next == nil || t.here == nil || next.parent != t.here {
		return false
	}
	t.take(next)
	return true
}

// Path lists the stops on the way through the present one: from the beginning
// to it, and on to where forward leads. here is its number in the list.
func (t *Trail) Path() (stops []*Stop, here int) {
	if t.here == nil {
		return nil, 0
	}
	for s := t.here; s != nil; s = s.parent {
		stops = append(stops, s)
	}
	for i, j := 0, len(stops)-1; i < j; i, j = i+1, j-1 {
		stops[i], stops[j] = stops[j], stops[i]
	}
	here = len(stops) - 1
	for s := t.here; len(s.ways) > 0; {
		s = s.ways[len(s.ways)-1]
		stops = append(stops, s)
	}
	return stops, here
}

// Return goes to the nearest stop at a place, however one came there, and says
// whether there is one: the present stop, those one came by, or those directly
// ahead. It is for moving between views that stay open, which leads nowhere new.
func (t *Trail) Return(p place.Place) bool {
	t.changes++
	for s := t.here; s != nil; s = s.parent {
		if same(s.View.Place, p) {
			t.here = s
			return true
		}
		for _, w := range s.ways {
			if same(w.View.Place, p) {
				t.here = w
				return true
			}
		}
	}
	return false
}

// Rename follows a file or a folder that was given another path: the stops in it
// are at the new one from now on.
func (t *Trail) Rename(from, to string) {
	if t.first == nil {
		return
	}
	t.changes++
	for open := []*Stop{t.first}; len(open) > 0; {
		s := open[len(open)-1]
		open = append(open[:len(open)-1], s.ways...)
		s.View.Place.Path = place.Renamed(s.View.Place.Path, from, to)
		s.Came.Path = place.Renamed(s.Came.Path, from, to)
	}
}

// Join goes on with a trail that was kept, from its present stop to those of this one up
// to the present.
func (t *Trail) Join(kept Trail) {
	stops, here := t.Path()
	*t = kept
	for _, s := range stops[:min(here+1, len(stops))] {
		at := t.Go(s.View, s.How, s.Symbol)
		at.Anchor = s.Anchor
	}
	t.changes++
}
