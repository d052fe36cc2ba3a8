package draw

import (
	"cmp"
	"slices"
)

// strand is what goes from an item through the channel behind its layer: along the layers to its track, across them on
// the track, and from there along to what it leads to. What goes from several items to the same one goes together.
type strand struct {
	// sources are where it comes from, across the layers, targets where it leads to; both in order. beside are those on the
	// side from which it comes.
	sources         []int
	targets, beside []int
	low, high       int
	// track is the one on which it goes across, counted from 0; -1 if it goes straight on.
	track int
	back  bool // it goes against the direction of the picture
}

func newStrand(source int, targets, beside []int) *strand {
	s := &strand{sources: []int{source}, track: -1, low: source, high: source}
	slices.Sort(targets)
	slices.Sort(beside)
	s.targets, s.beside = slices.Compact(targets), slices.Compact(beside)
	s.measure()
	return s
}

// single says whether a strand leads to one item alone, so that others that do can go with it.
func (s *strand) single() bool { return len(s.targets) == 1 && len(s.beside) == 0 && !s.back }

// join takes another strand along that leads to the same item.
func (s *strand) join(o *strand) {
	s.sources = append(s.sources, o.sources...)
	slices.Sort(s.sources)
	s.measure()
}

// measure tells from where to where it goes across.
func (s *strand) measure() {
	s.low, s.high = s.sources[0], s.sources[0]
	for _, all := range [][]int{s.sources, s.targets, s.beside} {
		if len(all) > 0 {
			s.low, s.high = min(s.low, all[0]), max(s.high, all[len(all)-1])
		}
	}
}

// straight says whether it needs no track.
func (s *strand) straight() bool { return s.low == s.high && len(s.beside) == 0 }

// leadsTo says whether it leads to what is at a place across the layers.
func (s *strand) leadsTo(at int) bool {
	_, ok := slices.BinarySearch(s.targets, at)
	return ok
}

// within is how many of some places, in order, lie between two others or at them.
func within(all []int, low, high int) int {
	from, _ := slices.BinarySearch(all, low)
	to, _ := slices.BinarySearch(all, high+1)
	return to - from
}

// Costs of two strands: one crossing, and two that could not be told apart.
const (
	crossing  = 1
	confusion = 20
)

// cost is what it costs that a goes across before b does.
func cost(a, b *strand) (n int) {
	if a.high < b.low || b.high < a.low {
		return 0
	}
	n += within(b.sources, a.low, a.high)          // b comes through a
	if slices.ContainsFunc(b.sources, a.leadsTo) { // they would go along the same line
		n += confusion
	}
	for _, at := range b.beside {
		if a.low <= at && at <= a.high {
			n += crossing
		}
	}
	n += within(a.targets, b.low, b.high) // a goes on through b
	return n
}

// tracks gives each strand of a channel a track, so that few of them cross and no two that meet have the same, and says how
// many there are.
func tracks(all []*strand) (count int) {
	var turning []*strand
	for _, s := range all {
		if !s.straight() {
			turning = append(turning, s)
		}
	}
	slices.SortStableFunc(turning, func(a, b *strand) int {
		// What goes up is crossed least if the upper goes first, what goes down if the lower does.
		if up, other := a.low < a.sources[0], b.low < b.sources[0]; up != other {
			if up {
				return -1
			}
			return 1
		} else if up {
			return cmp.Compare(a.sources[0], b.sources[0])
		}
		return cmp.Compare(b.sources[0], a.sources[0])
	})
	arrange(turning)
	for i, s := range turning {
		s.track = 0
		for _, before := range turning[:i] {
			if before.low <= s.high && s.low <= before.high {
				s.track = max(s.track, before.track+1)
			}
		}
		count = max(count, s.track+1)
	}
	return count
}

// manyStrands is from how many strands on they are only compared with some beside them.
const manyStrands = 100

// arrange takes strands out of their order and puts them in where that costs least, until nothing is gained by it.
func arrange(all []*strand) {
	rounds, reach := 12, len(all)
	if len(all) > manyStrands {
		rounds, reach = 3, manyStrands/3
	}
	for range rounds {
		better := false
		for i := range all {
			best, least, sum := i, 0, 0
			s := all[i]
			for k := i - 1; k >= max(0, i-reach); k-- { // before those that stand before it
				if sum += cost(s, all[k]) - cost(all[k], s); sum < least {
					best, least = k, sum
				}
			}
			sum = 0
			for k := i + 1; k < min(len(all), i+reach+1); k++ {
				if sum += cost(all[k], s) - cost(s, all[k]); sum < least {
					best, least = k, sum
				}
			}
			if best != i {
				all = slices.Delete(all, i, i+1)
				all = slices.Insert(all, best, s)
				better = true
			}
		}
		if !better {
			return
		}
	}
}

// crossed counts how often the strands of a channel cross; those that come together at what they lead to do not.
func crossed(all []*strand) (n int) {
	for _, a := range all {
		if a.track < 0 {
			continue
		}
		through := func(at int) bool { return a.low < at && at < a.high }
		for _, b := range all {
			if a == b {
				continue
			}
			if b.track < 0 || b.track > a.track {
				for _, at := range b.sources {
					if through(at) && !(b.track < 0 && a.leadsTo(at)) {
						n++
					}
				}
			}
			if b.track >= 0 && b.track < a.track {
				for _, t := range b.targets {
					if through(t) && !a.leadsTo(t) {
						n++
					}
				}
			}
		}
	}
	return n
}
