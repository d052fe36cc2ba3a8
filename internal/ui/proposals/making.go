package proposals

import (
	"bytes"
	"context"
	"errors"
	"fmt"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Load asks what to do with changes that were broken off.
func (s *Surface) Load() tea.Cmd {
	type left struct {
		all []making.Broken
		err error
	}
	project := s.project
	return surface.Do(s.making, func(ctx context.Context) left {
		all, err := project.Broken(ctx)
		return left{all, err}
	}, func(l left) surface.Intent {
		if len(l.all) == 0 {
			return surface.SayError(l.err)
		}
		return s.askBroken(l.all[0])
	})
}

// askBroken asks whether a change that was broken off is to be finished or taken back.
func (s *Surface) askBroken(b making.Broken) surface.Intent {
	settle := func(back bool, words string) func() surface.Intent {
		return func() surface.Intent {
			project := s.project
			return surface.Begin(surface.Do(s.making, func(ctx context.Context) error { return project.Settle(ctx, b, back) }, func(err error) surface.Intent {
				if err != nil {
					return surface.SayError(err)
				}
				return surface.Say("%s", words).And(surface.Begin(s.Load()))
			}))
		}
	}
	n := b.Old + b.Done
	title := fmt.Sprintf("“%s” was broken off: %d of %s are changed", b.Title, b.Done, sheet.Count(n, "file", "files"))
	if len(b.Other) > 0 {
		title += "; " + b.Other[0] + " is something else by now, and stays as it is"
	}
	return s.choices.Open(title, "do that", []choice.Row{
		{Row: sheet.Row{What: "back", Name: "take it back: all of them as they were", Reads: true}, Take: settle(true, b.Title+" is taken back: all files are as they were")},
		{Row: sheet.Row{What: "finish", Name: "finish it: all of them changed", Reads: true}, Take: settle(false, b.Title+" is finished: all files are changed")},
	})
}

// Propose shows a proposal that others have made.
func (s *Surface) Propose(p *proposal.Proposal) surface.Intent {
	p.Order()
	return s.show(p, nil)
}

// Change makes what is proposed at once.
func (s *Surface) Change(p *proposal.Proposal) surface.Intent {
	p.Order()
	var paths []string
	for _, f := range p.Files {
		paths = append(paths, f.Path)
	}
	return s.first(paths, func() surface.Intent { return s.makeNow(p, p.Count()) })
}

// make makes the change, if nothing stands in the way.
func (s *Surface) make() surface.Intent {
	p := s.present
	if s.list.checking {
		s.due = true
		return surface.Intent{Wait: "it is made as soon as it is known that nothing stands in the way; Esc gives up"}
	}
	if w, stopped := p.Stopped(); stopped {
		return surface.Say("it cannot be made: %s", w.Text)
	}
	c := p.Count()
	if c.Files == 0 {
		return surface.Say("nothing would change: everything is left out")
	}
	var paths []string
	for _, f := range p.Files {
		if f.Path != "" && f.Changes() {
			paths = append(paths, f.Path)
		}
	}
	todo := surface.Intent{Close: true}
	todo.Then = func() surface.Intent { return s.first(paths, func() surface.Intent { return s.makeNow(p, c) }) }
	return todo
}

// result is what came of a change, with those of its files that are open, as they are now.
type result struct {
	change *making.Change
	files  []*codebase.File
	err    error
}

// change has files changed beside the screen, whatever else happens, and keeps keys until that is done and the files on
// the screen are as they are now, unless one gives up waiting.
func (s *Surface) change(do func(ctx context.Context) (*making.Change, error), then func(r result) surface.Intent) surface.Intent {
	project, open := s.project, s.renew.Open()
	var r result
	ready, done := make(chan struct{}), false
	work := func(ctx context.Context) struct{} {
		defer close(ready)
		if r.change, r.err = do(ctx); r.err == nil {
			r.files = project.Files(ctx, r.change, open)
		}
		return struct{}{}
	}
	wait := func(ctx context.Context) struct{} {
		select {
		case <-ready:
		case <-ctx.Done():
		}
		return struct{}{}
	}
	take := func(struct{}) surface.Intent {
		select {
		case <-ready:
		default:
			return surface.Intent{} // one has given up waiting
		}
		if done {
			return surface.Intent{}
		}
		done = true
		return s.renew.Renew(r.files).And(then(r))
	}
	return surface.Begin(tea.Batch(surface.Do(s.making, work, take), surface.Ask(s.host.Way(), wait, take)))
}

// makeNow makes the change of a proposal.
func (s *Surface) makeNow(p *proposal.Proposal, c proposal.Counts) surface.Intent {
	project, stands := s.project, s.stands(p)
	todo := s.change(func(ctx context.Context) (*making.Change, error) { return project.Make(ctx, p) }, func(r result) surface.Intent {
		if r.err != nil {
			return surface.Say("nothing is changed: %s", r.err)
		}
		if s.present == p {
			s.present = nil
		}
		done := surface.Say("%s in %s: {change-undo} takes all of it back", sheet.Count(c.Places, "place", "places"), sheet.Count(c.Files, "file", "files"))
		done.Follow = stands
		return s.moved(r.change, false, done)
	})
	todo.Wait = "changing " + sheet.Count(c.Files, "file", "files")
	return todo
}

// stands is how the file on the screen is to stand after a change that moves code away from where one is, such as into a
// function of its own: one stays where one was. It is nil for any other change.
func (s *Surface) stands(p *proposal.Proposal) *trail.View {
	view := s.host.Here().View
	f := p.File(view.Place.Path)
	if !s.local || f == nil || len(f.Places) == 0 || f.Places[0].Out {
		return nil
	}
	view.Place.Line, view.Place.Col, _ = moved(f, 0)
	view.Place.Col = max(view.Place.Col, len(f.Before.Line(f.Line(0)))-len(bytes.TrimLeft(f.Before.Line(f.Line(0)), " \t"))+1)
	return &view
}

// moved says what was done, after the files that have other paths by that have been followed.
func (s *Surface) moved(c *making.Change, back bool, last surface.Intent) surface.Intent {
	todo := surface.Intent{}
	for _, m := range c.Moved(back) {
		one := surface.Intent{}
		one.Moved.From, one.Moved.To = m[0], m[1]
		then := todo
		one.Then = func() surface.Intent { return then }
		todo = one
	}
	last.Keep = true
	return todo.And(last)
}

// turn takes the latest change back, or makes it again.
func (s *Surface) turn(back bool) surface.Intent {
	turn := s.project.Redo
	if back {
		turn = s.project.Undo
	}
	return s.change(turn, func(r result) surface.Intent {
		switch {
		case errors.Is(r.err, making.ErrNothing) && !back:
			return surface.Say("no change that was taken back is left to make again")
		case r.err != nil:
			return surface.SayError(r.err)
		case back:
			return s.moved(r.change, true, surface.Say("taken back in %s: %s; {change-again} makes it again", sheet.Count(len(r.change.Steps), "file", "files"), r.change.Title))
		}
		return s.moved(r.change, false, surface.Say("made again: %s; {change-undo} takes it back", r.change.Title))
	})
}
