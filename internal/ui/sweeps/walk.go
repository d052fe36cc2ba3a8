package sweeps

import (
	"context"
	"fmt"
	"path"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Commands are what opens the sheet, and what is done at a place of the sweep.
func (s *Surface) Commands() surface.Commands {
	all := surface.Commands{
		keymap.Sweep:        func() surface.Intent { return s.show(false) },
		keymap.Sweeps:       func() surface.Intent { return s.show(true) },
		keymap.SweepRefresh: s.askAgain, keymap.ReadReport: s.readReport,
	}
	for a, do := range map[keymap.Action]func(at int) surface.Intent{
		keymap.SweepDone: s.doneHere, keymap.SweepTick: s.tick, keymap.SweepAside: s.setAside, keymap.SweepNote: s.noteHere,
		keymap.SweepFile:   func(at int) surface.Intent { return s.setAsideAll(s.present.Items[at].Path) },
		keymap.SweepFolder: func(at int) surface.Intent { return s.setAsideAll(path.Dir(s.present.Items[at].Path)) },
	} {
		all[a] = func() surface.Intent { return s.here(do) }
	}
	return all
}

// here does something with the place of the sweep one is at.
func (s *Surface) here(do func(at int) surface.Intent) surface.Intent {
	one := s.present
	if one == nil {
		return s.none()
	}
	at := one.At()
	if at < 0 {
		return surface.Say("{next} goes to the first place of the sweep; that can then be marked")
	}
	return s.changed(one, do(at))
}

func (s *Surface) none() surface.Intent {
	if len(s.all) > 0 {
		return surface.Say("no sweep is the present one; {sweeps} lists them")
	}
	return surface.Say("there is no sweep: " + keep + " in a list keeps it as one")
}

// doneHere ticks a place and goes on to the next.
func (s *Surface) doneHere(at int) surface.Intent {
	s.present.SetMark(at, sweep.Done)
	return s.Next(true)
}

func (s *Surface) noteHere(int) surface.Intent {
	todo := s.show(false)
	s.sheet.Ask()
	return todo
}

// tick marks a place as done, or as not done after all.
func (s *Surface) tick(at int) surface.Intent {
	mark, words := sweep.Done, "done"
	if s.present.Items[at].Mark == sweep.Done {
		mark, words = sweep.Seen, "not done after all"
	}
	s.present.SetMark(at, mark)
	return surface.Say("%s: %s", words, s.howFar())
}

func (s *Surface) setAside(at int) surface.Intent {
	mark, words := sweep.Aside, "set aside"
	if s.present.MarkOf(at) == sweep.Aside {
		mark, words = sweep.Left, "brought back"
	}
	s.present.SetMark(at, mark)
	return surface.Say("%s: %s", words, s.howFar())
}

// setAsideAll sets a file or folder aside with all places in it, or brings it back.
func (s *Surface) setAsideAll(folder string) surface.Intent {
	one, back := s.present, true
	for i := range one.Items {
		if sweep.Within(folder, one.Items[i].Path) && one.IsLeft(i) {
			back = false
		}
	}
	one.SetAside(folder, !back)
	words := "set aside"
	if back {
		words = "brought back"
	}
	if folder == "." {
		folder = "everything"
	}
	return surface.Say("%s %s: %s", folder, words, s.howFar())
}

// howFar says what is left of the sweep.
func (s *Surface) howFar() string {
	c := s.present.Count()
	return sheet.Number(c.Left) + " of " + sheet.Number(c.All) + " to do in " + s.present.Name
}

// Next goes to the next place of the sweep, or back to the one before.
func (s *Surface) Next(forward bool) surface.Intent {
	one := s.present
	if one == nil && len(s.all) == 0 {
		return surface.Say("nothing to go through: {in-file} finds in this file, {references} lists references")
	} else if one == nil {
		return s.none()
	}
	i, round, ok := one.Next(forward)
	if ok {
		return surface.Begin(s.walkTo(i, round))
	}
	if at := one.At(); at >= 0 && one.IsLeft(at) {
		return surface.Say("this is the last place to do in %s; {sweep-done} ticks it", one.Name)
	}
	return surface.Say("nothing is left to do in %s; {sweep} shows all of it", one.Name)
}

// found is where a place of a sweep is now to which one goes.
type found struct {
	sweep *sweep.Sweep
	key   string
	at    place.Memory
	fate  place.Fate
	err   error
	round bool
}

// walkTo goes to a place of the sweep, wherever that is by now.
func (s *Surface) walkTo(i int, round bool) tea.Cmd {
	one, it, project := s.present, s.present.Items[i], s.project
	return surface.Ask(s.host.Way(), func(ctx context.Context) found {
		fate, err := project.Find(ctx, &it.Memory)
		return found{one, it.Key, it.Memory, fate, err, round}
	}, s.walked)
}

func (s *Surface) walked(f found) surface.Intent {
	one, i := f.sweep, -1
	for n := range one.Items {
		if one.Items[n].Key == f.key {
			i = n
		}
	}
	if i < 0 || one != s.present {
		return surface.Intent{}
	}
	it := &one.Items[i]
	it.Fate = f.fate
	if f.err != nil || f.fate == place.Gone {
		one.Here = it.Key // so that the next is the one behind it
		todo := surface.Begin(s.keep(one))
		if f.err != nil {
			return todo.And(surface.Say("gone: %s: %s; {next} goes on, %s", it.Path, text.Reason(f.err), s.howFar()))
		}
		return todo.And(surface.Say("gone from %s: %s; {next} goes on, %s", path.Base(it.Path), it.Text, s.howFar()))
	}
	it.Memory = f.at
	one.Go(i)
	v := visit(it)
	v.Lead = true
	v.How, v.Symbol, v.After = "sweep: "+one.Name, it.In, s.arrival(i, f.fate, f.round)
	return surface.Begin(s.keep(one)).And(surface.Go(v))
}

// arrival says at which place of the sweep one is.
func (s *Surface) arrival(i int, fate place.Fate, round bool) string {
	one := s.present
	words := fmt.Sprintf("%d of %s, %s to do", i+1, sheet.Number(len(one.Items)), sheet.Number(one.Count().Left))
	if round {
		words += ", from the other end again"
	}
	switch mark := one.MarkOf(i); {
	case mark == sweep.Done:
		words += ", done"
	case fate == place.Changed:
		words += ", changed since"
	}
	if note := one.Items[i].Note; note != "" {
		return words + ": " + note
	}
	return words + " in " + one.Name + keymap.Marked(". {sweep-done} ticks it and goes on")
}

// located are places of the present sweep in a file with where they are now.
type located struct {
	of       *Surface
	sweep    *sweep.Sweep
	was, now []sweep.Item
}

// In implements surface.Keeper.
func (s *Surface) In(path string) surface.Kept {
	if s.present == nil {
		return nil
	}
	in := &located{of: s, sweep: s.present}
	for i := range s.present.Items {
		if it := s.present.Items[i]; it.Path == path && it.Text != "" {
			in.was, in.now = append(in.was, it), append(in.now, it)
		}
	}
	if len(in.now) == 0 {
		return nil
	}
	return in
}

// Locate implements surface.Kept.
func (l *located) Locate(ctx context.Context, was *text.Document, f *codebase.File) {
	all, before := make([]*place.Memory, len(l.now)), make([]place.Fate, len(l.now))
	for i := range l.now {
		all[i], before[i] = &l.now[i].Memory, l.now[i].Fate
	}
	for i, fate := range lists.WhereAll(ctx, was, f, all, before) {
		l.now[i].Fate = fate
	}
}

// Located implements surface.Kept.
func (l *located) Located() surface.Intent {
	if l.of.present != l.sweep || !l.sweep.Follow(l.was, l.now) {
		return surface.Intent{}
	}
	l.of.refresh()
	return surface.Begin(l.of.keep(l.sweep))
}
