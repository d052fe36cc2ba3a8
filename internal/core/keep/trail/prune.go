package trail

import (
	"cmp"
	"slices"
	"time"

	"rooktrail/internal/core/file/place"
)

// Cut takes a stop away with all that one went on to from it. If the present stop is
// among them, one is at the nearest before it that is left. It says how many stops went;
// none if nothing would be left.
func (t *Trail) Cut(s *Stop) int {
	if s == nil || t.Stop(s.number) != s || s.parent == nil && len(t.firsts) == 1 {
		return 0
	}
	n := 0
	t.cuts = append(t.cuts, cut{s, t.here})
	s.each(func(o *Stop) {
		t.stops[o.number] = nil
		t.order.Remove(o.order)
		t.reindex(o, o.View.Place.Path)
		n++
	})
	t.fresh.cut(s)
	if s.parent == nil {
		t.firsts = slices.DeleteFunc(slices.Clone(t.firsts), func(f *Stop) bool { return f == s })
	}
	t.dropGone(s)
	return n
}

// dropGone takes what was cut away out of the walk, and the ways to it.
func (t *Trail) dropGone(at *Stop) {
	gone := func(s *Stop) bool { return t.stops[s.number] != s }
	for _, s := range t.stops {
		if s != nil && slices.ContainsFunc(s.ways, gone) {
			s.ways = slices.DeleteFunc(slices.Clone(s.ways), gone)
			t.fresh.way(s)
		}
	}
	t.dropSteps(gone)
	if !gone(t.here) {
		return
	}
	to := at.parent
	if n := len(t.walk); n > 0 {
		to = t.walk[n-1].Stop
	}
	if to == nil {
		to = t.firsts[0]
	}
	if len(t.walk) == 0 {
		t.walk = []Step{{to, to.View}}
	}
	t.ahead = nil
	t.arrive(to)
}

// dropSteps takes stops out of the walk.
func (t *Trail) dropSteps(gone func(*Stop) bool) {
	of := func(s Step) bool { return gone(s.Stop) }
	t.walk, t.ahead = slices.DeleteFunc(t.walk, of), slices.DeleteFunc(t.ahead, of)
	t.walk = slices.CompactFunc(t.walk, func(a, b Step) bool { return a.Stop == b.Stop })
}

// Uncut brings back what was cut away last; it says how many stops came back.
func (t *Trail) Uncut() int {
	if len(t.cuts) == 0 {
		return 0
	}
	last := t.cuts[len(t.cuts)-1]
	t.cuts = t.cuts[:len(t.cuts)-1]
	if p := last.stop.parent; p == nil {
		t.firsts = append(t.firsts, last.stop)
	} else {
		p.ways = append([]*Stop{last.stop}, p.ways...)
		t.fresh.way(p)
	}
	n := 0
	last.stop.each(func(s *Stop) {
		t.stops[s.number] = s
		s.order = t.order.PushBack(s)
		t.byPath[s.View.Place.Path] = append(t.byPath[s.View.Place.Path], s)
		t.touch(s)
		t.fresh.way(s)
		n++
	})
	return n
}

// Join takes in the stops of another trail, which begin beside its own. Of the same place
// there is then one stop more.
func (t *Trail) Join(other *Trail) {
	twin := map[*Stop]*Stop{}
	for _, s := range other.All() {
		c := *s
		c.number, c.ways, c.parent = len(t.stops), nil, twin[s.parent]
		twin[s] = &c
		if c.parent == nil {
			t.firsts = append(t.firsts, &c)
		}
		t.add(&c)
	}
	for _, s := range other.All() {
		for _, w := range s.ways {
			twin[s].ways = append(twin[s].ways, twin[w])
		}
		t.fresh.way(twin[s])
	}
	if t.here == nil && other.here != nil {
		t.Made, t.fresh.head = other.Made, true
		here := twin[other.here]
		t.walk = []Step{{here, here.View}}
		t.arrive(here)
	}
}

// Copy is the trail as it is now, for who looks at it beside the screen. Its stops have other numbers, if some were cut.
func (t *Trail) Copy() *Trail {
	c := &Trail{Name: t.Name, Made: t.Made}
	c.Join(t)
	return c
}

// Same is the stop of a trail that one of a copy of it stands for; nil if it is cut by now.
func (t *Trail) Same(copied *Stop) *Stop {
	for _, s := range t.All() {
		if s.At.Equal(copied.At) && s.How == copied.How && s.Came == copied.Came {
			return s
		}
	}
	return nil
}

// GoOn goes on with a trail that was kept, from its present stop to those of this one up
// to the present.
func (t *Trail) GoOn(kept *Trail) {
	walk := t.walk
	away := t.away
	t.Become(kept)
	for _, s := range walk {
		at := t.Go(s.View, s.Stop.How, s.Stop.Symbol)
		if at.Memory.Text == "" {
			at.Memory = s.Stop.Memory
		}
	}
	if away != nil {
		t.Rest(*away)
	}
}

// Become makes the trail another one, which is not to be used by itself any more.
func (t *Trail) Become(other *Trail) {
	*t = *other
	t.order.Init() // as a list cannot be copied
	for e := other.order.Front(); e != nil; e = e.Next() {
		s := e.Value.(*Stop)
		s.order = t.order.PushBack(s)
	}
}

// Beginning is a new trail that begins at the present stop of this one.
func (t *Trail) Beginning(name string) *Trail {
	n := &Trail{Name: name, Made: time.Now()}
	n.fresh.head = true
	if s := t.here; s != nil {
		n.Go(s.View, s.How, s.Symbol).Memory = s.Memory
	}
	return n
}

// Edit notes that text was changed at a place, which becomes a stop if there is none near:
// an edit place. Changes close together in one symbol are one.
func (t *Trail) Edit(p place.Place, symbol string, when time.Time) *Stop {
	var at *Stop
	for _, s := range t.byPath[p.Path] {
		if !near(s.View.Place, p) || s.Fate == place.Gone || elsewhere(s, symbol) {
			continue
		}
		if at == nil || distance(s, p) < distance(at, p) {
			at = s
		}
	}
	if at == nil {
		at = &Stop{View: View{Place: p}, Came: p, How: "edited", Symbol: symbol, At: when, Seen: when, number: len(t.stops), parent: t.here}
		if t.here == nil {
			t.firsts = append(t.firsts, at)
			t.here, t.walk = at, []Step{{at, at.View}}
			t.fresh.moved = true
		} else {
			t.here.ways = append([]*Stop{at}, t.here.ways...) // forward leads where it led
			t.fresh.way(t.here)
		}
		t.add(at)
	}
	t.SetEdited(at, when)
	return at
}

// elsewhere says that a stop is in another symbol.
func elsewhere(s *Stop, symbol string) bool {
	in := cmp.Or(s.Inside, s.Symbol)
	return in != symbol && in != "" && symbol != ""
}

func distance(s *Stop, p place.Place) int {
	return max(s.View.Place.Line-p.Line, p.Line-s.View.Place.Line)
}
