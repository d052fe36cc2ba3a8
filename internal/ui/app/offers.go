package app

import (
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/readiness"
	"rooktrail/internal/ui/surface"
)

// Standings implements scout.Around.
func (a around) Standings() map[keymap.Action]surface.Standing {
	m := a.m
	here, t := host{m}.Here(), m.trails.Trail()
	_, sweeping := m.sweeps.Left()
	w := readiness.World{
		Here: here, Asked: !m.sign.Stale(), Unsaved: len(m.writing.Unsaved()), Changed: m.writing.Changed(here.View.Place.Path),
		Views: len(m.frame.Sides()), Files: len(m.frame.Views()), Open: len(m.frame.OpenFiles()), Closed: m.frame.Reopens(), Leaf: m.leaves.Any(),
		Back: t.Previous().Stop != nil, Forward: t.Next().Stop != nil, Edited: t.LastEdited() != nil, Marks: len(m.marks.All()) > 0,
		Sweep: sweeping, Found: m.search.Any() || m.walk.Any() || m.last.Any(), Listed: m.last.Last() != nil,
	}
	if w.Asked {
		w.Name, w.Around = m.sign.From().Name, !m.sign.Named()
	}
	return readiness.Of(w, m.keys)
}

// keysHere are all keys there are, and before them those of what can be done where one is.
func (m *Model) keysHere() keymap.Map {
	return append(readiness.All(around{m}.Standings()).Here(m.keys), m.allKeys()...)
}

// Recent implements scout.Around.
func (a around) Recent() (all []keymap.Action) {
	for _, c := range a.m.habits.Recent(mostRecent) {
		all = append(all, keymap.Action(c))
	}
	return all
}

// mostRecent is how many commands are shown as done lately.
const mostRecent = 12
