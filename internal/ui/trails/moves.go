package trails

import (
	"context"
	"path"
	"strconv"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Commands are the moves along the trail, and what is done with its stops.
func (s *Surface) Commands() surface.Commands {
	return surface.Commands{
		keymap.Back: s.back, keymap.Forward: s.forward, keymap.Fork: s.fork,
		keymap.EditBack:    func() surface.Intent { return s.nextEdit(false) },
		keymap.EditForward: func() surface.Intent { return s.nextEdit(true) },
		keymap.TrailTree:   s.show, keymap.Trails: s.showTrails,
		keymap.StopStar: s.starHere, keymap.StopName: s.nameHere, keymap.StopNote: s.noteHere,
	}
}

// leaving notes where one is before one goes away, and by what it is found again.
func (s *Surface) leaving(f *codebase.File, v trail.View) {
	symbol := ""
	known := f != nil && f.Path == v.Place.Path && f.Text.Whole() && !f.Text.Binary()
	if known {
		symbol = codebase.SymbolAt(f, v.Place.Line, v.Place.Col)
	}
	s.trail.Leave(v, symbol)
	if known {
		s.trail.Remember(lists.AnchorIn(f, v.Place), symbol)
	}
}

// LeaveHere notes what is on the screen, unless that is only looked at.
func (s *Surface) LeaveHere() {
	if here := s.host.Here(); !here.Aside && here.View.Place.Path != "" && s.trail.Here() != nil {
		s.leaving(here.File, here.View)
	}
}

// Rest notes how the present stop looks, without going anywhere.
func (s *Surface) Rest() {
	here := s.host.Here()
	f, v := here.File, here.View
	if here.Aside || f == nil || s.trail.Here() == nil {
		return
	}
	if s.trail.Rest(v); f.Text.Whole() && !f.Text.Binary() && s.trail.Here().View == v {
		s.trail.Remember(lists.AnchorIn(f, v.Place), codebase.SymbolAt(f, v.Place.Line, v.Place.Col))
	}
}

// Arrive leaves the present stop, where one was in a file that stood so, and goes to another: along
// the trail, or to a new one; v is the view of it.
func (s *Surface) Arrive(f *codebase.File, left trail.View, to surface.Visit, v trail.View) {
	if left.Place.Path != "" {
		s.leaving(f, left)
	}
	switch {
	case to.Along != nil:
		to.Along()
	case to.Lead && s.trail.Lead(v, to.How, to.Symbol):
	case to.Turn && s.trail.Return(v.Place):
	default:
		s.trail.Go(v, to.How, to.Symbol)
	}
}

// Edited makes edit places of where the text of a file was changed; the last of them is the latest.
func (s *Surface) Edited(f *codebase.File, all ...place.Place) {
	now := time.Now()
	for i, p := range all {
		s.trail.Edit(p, codebase.SymbolAt(f, p.Line, p.Col), now.Add(time.Duration(i)))
	}
	if len(all) > 0 {
		s.recent.Edit(f.Path)
	}
}

// Margin calls mark with each line of a file that is an edit place.
func (s *Surface) Margin(path string, mark func(line int)) {
	for _, stop := range s.trail.In(path) {
		if !stop.Edited.IsZero() && stop.Fate != place.Gone {
			mark(stop.View.Place.Line)
		}
	}
}

// Moved follows a file or folder that has another path now.
func (s *Surface) Moved(from, to string) {
	s.trail.Rename(from, to)
	s.recent.Rename(from, to)
}

// to is the visit that shows a stop as it was left; move moves on the trail.
func to(step trail.Step, move func()) surface.Visit {
	view, memory := step.View, step.Stop.Memory
	v := surface.Visit{Path: view.Place.Path, View: &view, Along: move}
	if memory.Text != "" && memory.Line == view.Place.Line && memory.Path == view.Place.Path {
		v.Memory = &memory
	}
	if step.Stop.Fate == place.Changed { // which was found out when its file was last read
		v.After = "this line has changed since one was here"
		if memory.Kept != nil {
			v.After += ": " + memory.Kept.Text
		}
	}
	return v
}

// Visit goes to any stop of the trail.
func (s *Surface) Visit(stop *trail.Stop) surface.Visit {
	return to(trail.Step{Stop: stop, View: stop.View}, func() { s.trail.Visit(stop) })
}

// back goes to the stop one came from.
func (s *Surface) back() surface.Intent {
	s.LeaveHere() // which may make a stop to come back from
	step := s.trail.Previous()
	if step.Stop == nil {
		return surface.Say("the trail begins here")
	}
	return surface.Go(to(step, func() { s.trail.Back() }))
}

// forward goes on to where one last went.
func (s *Surface) forward() (todo surface.Intent) {
	s.LeaveHere()
	step := s.trail.Next()
	if step.Stop == nil {
		return surface.Say("you have not gone on from here yet")
	}
	if n := len(s.trail.Here().Ways()); n > 1 {
		todo = surface.Say("there were %d ways on from there; {fork} lets you choose among them", n)
	}
	return todo.And(surface.Go(to(step, func() { s.trail.Forward() })))
}

// fork lets one choose where to go on from the present stop.
func (s *Surface) fork() surface.Intent {
	here := s.trail.Here()
	if here == nil || len(here.Ways()) == 0 {
		return surface.Say("you have not gone on from here yet")
	}
	if len(here.Ways()) == 1 {
		return surface.Say("only one way led on from there").And(surface.Go(s.take(here.Ways()[0])))
	}
	var rows []choice.Row
	for i := len(here.Ways()) - 1; i >= 0; i-- {
		stop := here.Ways()[i]
		v := s.take(stop)
		rows = append(rows, choice.Row{Row: s.wayRow(stop), Look: &v})
	}
	return s.forks.Open("ways on from "+path.Base(here.View.Place.Path)+" "+strconv.Itoa(here.View.Place.Line), "go there", rows)
}

// take goes on along one of the ways from here.
func (s *Surface) take(stop *trail.Stop) surface.Visit {
	step := trail.Step{Stop: stop, View: stop.View}
	if next := s.trail.Next(); next.Stop == stop {
		step = next
	}
	return to(step, func() { s.trail.Take(stop) })
}

func (s *Surface) wayRow(stop *trail.Stop) sheet.Row {
	where := stop.View.Place.Path + " " + strconv.Itoa(stop.View.Place.Line)
	if stop.Parent() != s.trail.Here() {
		where += ", a stop from before"
	} else if n := stop.CountTo(100_000) - 1; n > 0 {
		where += ", then " + sheet.Count(n, "stop", "stops")
		if end := stop.End(); end != stop {
			where += " to " + end.Title()
		}
	}
	return sheet.Row{What: "way", Name: stop.Title() + "  (" + stop.How + ")", Where: where}
}

// starHere marks the present stop, or takes the mark off.
func (s *Surface) starHere() surface.Intent {
	s.LeaveHere()
	here := s.trail.Here()
	if here == nil {
		return noStop()
	}
	s.trail.SetStarred(here, !here.Starred)
	words := " is not starred any more"
	if here.Starred {
		words = keymap.Marked(" is starred; {trail} and then Tab shows the starred stops")
	}
	return surface.Intent{Say: here.Title() + words, Keep: true}
}

// nameHere asks for a name of the present stop.
func (s *Surface) nameHere() surface.Intent {
	s.LeaveHere()
	here := s.trail.Here()
	if here == nil {
		return noStop()
	}
	return s.asks.Ask("name of this stop:", here.Name, func(answer string) surface.Intent {
		s.trail.SetName(here, answer)
		todo := surface.Say("this stop is called %q now", here.Name)
		if here.Name == "" {
			todo = surface.Say("this stop has no name any more")
		}
		todo.Keep = true
		return todo
	})
}

// noteHere asks for a note on the present stop.
func (s *Surface) noteHere() surface.Intent {
	todo := s.show()
	if todo.Open != nil {
		s.sheet.Ask()
	}
	return todo
}

// nextEdit goes to the place where text was changed before the one where one is in that
// order, or to the one after it; from elsewhere, to the last.
func (s *Surface) nextEdit(forward bool) surface.Intent {
	s.LeaveHere()
	all := s.trail.Edited()
	if len(all) == 0 {
		return surface.Say("nothing was changed yet on this trail")
	}
	n, here := len(all), s.trail.Here()
	at := n
	for i, stop := range all {
		if stop == here && (s.editing == stop || i == n-1) {
			at = i
		}
	}
	step := 1
	if !forward {
		step = -1
	}
	at += step
	next, round := ((at%n)+n)%n, ""
	if at < 0 {
		round = ", from the last again"
	} else if at >= n {
		round = ", from the first again"
	}
	for tries := 0; all[next].Fate == place.Gone; tries++ {
		if tries == n {
			return surface.Say("what was changed at %s is gone", sheet.Count(n, "place", "places"))
		}
		next = (next + step + n) % n
	}
	stop := all[next]
	if stop == here {
		s.editing = stop
		return surface.Say("edit place %s of %s: this is the only one that is there", sheet.Number(next+1), sheet.Number(n))
	}
	v := s.Visit(stop)
	if s.editing != nil && s.editing == here { // looking for the right one does not lengthen the way back
		v.Along = func() { s.trail.Swap(stop) }
	}
	s.editing = stop
	v.After = "edit place " + sheet.Number(next+1) + " of " + sheet.Number(n) + round
	return surface.Go(v)
}

// located are the stops in a file with where they are now.
type located struct {
	of    *Surface
	stops []locatedStop
}

type locatedStop struct {
	stop     *trail.Stop
	was, now place.Memory
	fate     place.Fate
}

// In implements surface.Keeper.
func (s *Surface) In(path string) surface.Kept {
	in := &located{of: s}
	for _, stop := range s.trail.In(path) {
		if stop.Memory.Text != "" {
			was := stop.Memory
			was.Line, was.Col = stop.View.Place.Line, stop.View.Place.Col
			if was.Line == stop.Memory.Line {
				in.stops = append(in.stops, locatedStop{stop: stop, was: was, now: was, fate: stop.Fate})
			}
		}
	}
	if len(in.stops) == 0 {
		return nil
	}
	return in
}

// Locate implements surface.Kept.
func (l *located) Locate(ctx context.Context, was *text.Document, f *codebase.File) {
	all, before := make([]*place.Memory, len(l.stops)), make([]place.Fate, len(l.stops))
	for i := range l.stops {
		all[i], before[i] = &l.stops[i].now, l.stops[i].fate
	}
	for i, fate := range lists.WhereAll(ctx, was, f, all, before) {
		l.stops[i].fate = fate
	}
}

// Located implements surface.Kept. The caret stays with its line, if the present stop is there.
func (l *located) Located() (todo surface.Intent) {
	caret, follow := l.of.host.Here().View.Place, false
	here := l.of.trail.Here()
	for _, s := range l.stops {
		l.of.trail.Located(s.stop, s.was, s.now, s.fate)
		moved := s.fate == place.Moved || s.fate == place.Changed && s.now.Line != s.was.Line
		follow = follow || moved && s.stop == here && s.was.Path == caret.Path && s.was.Line == caret.Line // the column may not have been in the line meanwhile
	}
	if follow {
		view := here.View
		todo.Follow = &view
	}
	return todo
}
