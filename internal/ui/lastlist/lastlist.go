// Package lastlist brings back the list that one saw last, whichever it was, and leads along its places
// without it.
package lastlist

import (
	"context"
	"slices"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Asker asks the question of a list again; see package workspace.
type Asker interface {
	AskAgain(ctx context.Context, from *sweep.Source) ([]answer.Answer, error)
	// Generation is another number whenever the code is another.
	Generation() int
}

// Model knows which list was the last.
type Model struct {
	host  surface.Host
	find  Asker
	lists map[string]surface.Reopened
	last  *resume.Last
	all   []answer.Answer // the places of it, as they were at a generation of the code
	made  int
}

// New makes one for the lists there are, by the names under which they are kept; last is the one that was the
// last when the program was left, or nil.
func New(host surface.Host, find Asker, lists map[string]surface.Reopened, last *resume.Last) *Model {
	return &Model{host: host, find: find, lists: lists, last: last}
}

// Commands are what brings it back.
func (m *Model) Commands() surface.Commands { return surface.Commands{keymap.LastList: m.again} }

// Closed notes a surface that is closed, if it is a list that can be brought back.
func (m *Model) Closed(s surface.Surface) {
	list, ok := s.(surface.Reopened)
	if !ok {
		return
	}
	if last := list.Left(); last != nil {
		m.last, m.all = last, nil
	}
}

// Last is the list that was the last, as a copy of its own; nil if there was none.
func (m *Model) Last() *resume.Last {
	if m.last == nil {
		return nil
	}
	last := *m.last
	return &last
}

// Any says whether there are places to lead along.
func (m *Model) Any() bool {
	return m.last != nil && m.last.Source.Kind != "" && m.last.Source.Kind != sweep.OfList
}

// again shows the list again.
func (m *Model) again() surface.Intent {
	if m.last == nil {
		return surface.Say("there was no list yet: {scout} searches, {references} lists references")
	}
	return m.lists[m.last.List].Again(*m.last)
}

// Next goes to the next place of the list, or to the one before.
func (m *Model) Next(forward bool) surface.Intent {
	last, find, all, made := m.last, m.find, m.all, m.made
	type found struct {
		all  []answer.Answer
		made int
		err  error
	}
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) found {
		if now := find.Generation(); all == nil || made != now {
			again, err := find.AskAgain(ctx, &last.Source)
			return found{again, now, err}
		}
		return found{all, made, nil}
	}, func(f found) surface.Intent {
		if f.err != nil {
			return surface.Say("%s cannot be gone through: %s", last.Title, f.err)
		}
		m.all, m.made = f.all, f.made
		return m.step(last, forward)
	}))
}

// step goes from the place one was at to its neighbour.
func (m *Model) step(last *resume.Last, forward bool) surface.Intent {
	if len(m.all) == 0 {
		return surface.Say("nothing is left of %s", last.Title)
	}
	to := m.neighbour(last.At, forward)
	switch {
	case to < 0:
		return surface.Say("this is the first of %s: %s; {last-list} shows all", sheet.Count(len(m.all), "place", "places"), last.Title)
	case to == len(m.all):
		return surface.Say("this is the last of %s: %s; {last-list} shows all", sheet.Count(len(m.all), "place", "places"), last.Title)
	}
	v := surface.To(m.all[to], last.How)
	v.Lead, v.After = true, sheet.Number(to+1)+" of "+sheet.Number(len(m.all))+": "+last.Title
	last.At = m.all[to].Place()
	return surface.Go(v)
}

// neighbour is the number of the place after one, or before it. If the one is not there any more, it is the
// nearest in its file, or the first of all.
func (m *Model) neighbour(at place.Place, forward bool) int {
	here := slices.IndexFunc(m.all, func(a answer.Answer) bool { return a.Place() == at })
	if here >= 0 {
		if forward {
			return here + 1
		}
		return here - 1
	}
	after := slices.IndexFunc(m.all, func(a answer.Answer) bool { return a.Path == at.Path && a.Line >= at.Line })
	switch {
	case after < 0:
		return 0
	case forward:
		return after
	}
	return max(after-1, 0)
}
