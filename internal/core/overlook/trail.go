package overlook

import (
	"errors"
	"fmt"
	"path"
	"slices"
	"strconv"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/keep/trail"
)

// mostStops is how many stops are drawn if nothing else is said: the last.
const mostStops = 120

// trail draws the stops of a trail in the order of time, each below the one before.
func (s *sketch) trail(way *trail.Trail) error {
	if way == nil || way.Count() == 0 {
		return errors.New("the trail is empty: there is no stop on it yet")
	}
	s.scene.Title, s.scene.Down = way.Title(), true
	all := slices.Clone(way.All())
	slices.SortStableFunc(all, func(a, b *trail.Stop) int { return a.At.Compare(b.At) })
	var kept []*trail.Stop
	for _, st := range all {
		if s.wanted(st.View.Place.Path, s.code.Languages().IsTest(st.View.Place.Path)) || path.IsAbs(st.View.Place.Path) {
			kept = append(kept, st)
		}
	}
	most := mostStops
	if s.asked.Most != usual {
		most = s.asked.Most
	}
	if n := len(kept) - most; n > 0 {
		kept = kept[n:]
		s.scene.Notes = append(s.scene.Notes, fmt.Sprintf("The last %d of %d stops.", most, most+n))
	}
	if s.asked.Grouping == ByDay {
		s.scene.Floors = map[int]string{}
	}
	day := ""
	for i, st := range kept {
		b := s.stopBox(st, i)
		if st == way.Here() {
			b.Look = draw.Present
		}
		if d := st.At.Format("2 Jan"); s.asked.Grouping == ByDay && d != day {
			day = d
			s.scene.Floors[i] = d
		}
		s.box(b)
	}
	for _, st := range kept {
		to := s.index[stopID(st)]
		for p := st.Parent(); p != nil; p = p.Parent() {
			if from, ok := s.index[stopID(p)]; ok {
				s.line(from, to, draw.Usual, "")
				break
			}
		}
	}
	s.libraries = 0
	s.means(draw.Present, false, "where you are")
	s.means(draw.Edited, false, "✎ edited there")
	return nil
}

func stopID(st *trail.Stop) string { return "stop " + strconv.Itoa(st.Number()) }

// stopBox is the box of a stop, which is the nth.
func (s *sketch) stopBox(st *trail.Stop, n int) draw.Box {
	at := st.View.Place
	b := draw.Box{ID: stopID(st), Name: st.Title(), Where: fmt.Sprintf("%s %d", path.Base(at.Path), at.Line), Kind: st.At.Format("15:04"), Group: -1, Layer: n, Place: at, Symbol: st.Symbol}
	if s.asked.Grouping == ByFile || s.asked.Grouping == ByFolder {
		b.Group = s.groupOf(at.Path)
	}
	if st.Name != "" && st.Name != b.Name {
		b.Details = append(b.Details, st.Name)
	}
	for _, d := range []string{st.How, st.Note} {
		if d != "" {
			b.Details = append(b.Details, d)
		}
	}
	if st.Starred {
		b.Badge = "★"
	}
	if !st.Edited.IsZero() {
		b.Look = draw.Edited
		b.Badge += "✎"
	}
	return b
}
