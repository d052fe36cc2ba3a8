package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/scout"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/tips"
)

// host is the program as the surfaces see it.
type host struct{ m *Model }

// Here implements surface.Host.
func (h host) Here() surface.Here {
	m := h.m
	b := m.before
	if b == nil {
		b = m.from
	}
	if b == nil {
		return h.Sight()
	}
	return surface.Here{File: b.file, View: b.view, Offset: b.offset, Crumbs: b.crumbs, Aside: true}
}

// Sight implements signpost.Host.
func (h host) Sight() surface.Here {
	m, s := h.m, h.m.standing()
	return surface.Here{File: s.file, View: s.view, Offset: s.offset, Selection: m.frame.Code.Selection(), Crumbs: s.crumbs, Aside: m.frame.InLeaf() || m.before != nil || m.from != nil}
}

// Asker implements surface.Host.
func (h host) Asker(owner surface.Surface) *surface.Asker { return surface.NewAsker(h.m.life, owner) }

// Way implements surface.Host.
func (h host) Way() *surface.Asker { return h.m.way }

// Clock implements surface.Host.
func (h host) Clock() *sheet.Clock { return &h.m.clock }

// Code is what shows the file in which the caret is.
func (h host) Code() *code.Model { return &h.m.frame.Code }

// Writing says whether letters are typed into it.
func (h host) Writing() bool { return h.m.writing.On() != "" }

// Plan is how the screen is divided.
func (h host) Plan() frame.Plan {
	p := h.m.plan()
	p.Leaf = h.m.before == nil && h.m.leaves.Any()
	return p
}

// Covered implements writing.Host.
func (h host) Covered() bool { return h.m.over != nil || h.m.before != nil }

// Began implements writing.Host.
func (h host) Began() bool { return h.m.seen.shown }

// Pressed implements writing.Host.
func (h host) Pressed() bool { return h.m.seen.presses > 0 }

// Found implements writing.Host.
func (h host) Found() (find func(ctx context.Context, data []byte) ([]place.Range, error), ok bool) {
	return h.m.search.Again()
}

// Placed implements writing.Host.
func (h host) Placed(path string, doc *text.Document) { h.m.kept.Begin(path, doc) }

// Edited implements writing.Host.
func (h host) Edited(f *codebase.File, at place.Place) {
	h.m.trails.LeaveHere()
	h.m.trails.Edited(f, at)
}

// Locate implements writing.Host.
func (h host) Locate(f *codebase.File) tea.Cmd { return h.m.kept.LocateIn(f) }

// Leads implements tips.Host.
func (h host) Leads() tips.Leads {
	m, t := h.m, h.m.trails.Trail()
	l := tips.Leads{Back: placeOf(t.Previous().Stop), Forward: placeOf(t.Next().Stop), Edited: placeOf(t.LastEdited())}
	for step, to := range map[int]*string{1: &l.NextView, -1: &l.PreviousView} {
		if v := m.frame.After(step); v != nil {
			*to = v.State.Place.Path
		}
	}
	if about := m.sign.About(); m.sign.Named() && !m.sign.Stale() && len(about.Answers) > 0 {
		l.Name, l.Definition = about.Name, about.Answers[0].Path
	}
	return l
}

// placeOf is where a stop is.
func placeOf(s *trail.Stop) place.Place {
	if s == nil {
		return place.Place{}
	}
	return s.View.Place
}

// around is what surfaces ask about each other.
type around struct{ m *Model }

// Holding implements tree.Around.
func (a around) Holding() map[string]int { return a.m.marks.Holding() }

// Unsaved implements tree.Around.
func (a around) Unsaved() map[string]bool { return a.m.writing.Unsaved() }

// Propose implements tree.Around.
func (a around) Propose(p *proposal.Proposal) surface.Intent { return a.m.changes.Propose(p) }

// mostStops is how many stops the scout knows.
const mostStops = 500

// Before implements scout.Around.
func (a around) Before(here string) scout.Before {
	m := a.m
	recent, trail := m.trails.Recent(), m.trails.Trail()
	b := scout.Before{Files: recent.Before(here, false), EditedFiles: recent.Before(here, true), Unsaved: m.writing.Unsaved()}
	seen := map[int]bool{}
	for _, s := range append(trail.Latest(mostStops, false), trail.Latest(mostStops, true)...) {
		if s == trail.Here() || seen[s.Number()] {
			continue
		}
		seen[s.Number()] = true
		b.Stops = append(b.Stops, scout.Remembered{What: "stop", Title: s.Title(), Place: s.View.Place, Text: s.Memory.Text, Note: s.Note,
			How: s.How, Edited: !s.Edited.IsZero(), Stop: s.Number() + 1})
	}
	for _, s := range m.marks.All() {
		k := s.Mark()
		r := scout.Remembered{What: string(k.Kind), Title: k.Title(), Place: k.Place(), Text: k.Text, Note: k.Note, How: "bookmark: " + s.List.Name, Mark: k.Key}
		if k.Letter != "" {
			r.What, r.How = k.Letter+"  "+r.What, "bookmark "+k.Letter
		}
		b.Marks = append(b.Marks, r)
	}
	return b
}

// Open implements scout.Around.
func (a around) Open() []string { return a.m.frame.OpenFiles() }

// Stop implements scout.Around.
func (a around) Stop(number int) (surface.Visit, bool) {
	s := a.m.trails.Trail().Stop(number - 1)
	if s == nil {
		return surface.Visit{}, false
	}
	return a.m.trails.Visit(s), true
}

// Mark implements scout.Around.
func (a around) Mark(key, how string) surface.Intent { return a.m.marks.ByKey(key, how) }

// KeepText implements scout.Around.
func (a around) KeepText(q find.Query) surface.Intent { return a.m.sweeps.KeepText(q) }

// comparing is the program as those see it who compare files with commits.
type comparing struct{ host }

// Sides implements hunks.Host.
func (c comparing) Sides() []*frame.Side { return c.m.frame.Sides() }

// Lay implements hunks.Host.
func (c comparing) Lay(how string, f *codebase.File, at answer.Answer, parts []place.Range) surface.Intent {
	return c.m.leaves.Lay(how, f, at, parts)
}
