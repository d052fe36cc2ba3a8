package proposals

import (
	"context"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// keep keeps the proposal for another day.
func (s *Surface) keep() surface.Intent {
	p, project := s.present.Clone(), s.project
	if p.Count().Files == 0 {
		return surface.Say("nothing would change, and nothing is kept")
	}
	return surface.Close().And(surface.Begin(surface.Do(s.making, func(context.Context) error { return project.Keep(p) }, func(err error) surface.Intent {
		if err != nil {
			return surface.SayError(err)
		}
		return surface.Say("kept: %s; {scout} and “kept proposals” brings it back", p.Title)
	})))
}

// read is a proposal that was read, or why it could not be.
type read struct {
	p   *proposal.Proposal
	err error
}

func (s *Surface) shown(r read) surface.Intent {
	if r.err != nil {
		return surface.SayError(r.err)
	}
	return s.show(r.p, nil)
}

// choose lists the proposals that are kept.
func (s *Surface) choose() surface.Intent {
	project := s.project
	return surface.Begin(surface.Ask(s.host.Way(), func(context.Context) []string { return project.Kept() }, func(titles []string) surface.Intent {
		if len(titles) == 0 {
			return surface.Say("no proposal is kept; Alt+S in one keeps it")
		}
		var rows []choice.Row
		for _, title := range titles {
			rows = append(rows, choice.Row{Row: sheet.Row{What: "show", Name: title, Reads: true}, Take: func() surface.Intent { return s.reopen(title) }})
		}
		for _, title := range titles {
			rows = append(rows, choice.Row{Row: sheet.Row{What: "forget", Name: title, Reads: true}, Take: func() surface.Intent {
				return surface.Begin(surface.Do(s.making, func(context.Context) error { return project.Drop(title) }, func(err error) surface.Intent {
					return surface.Say("forgotten: %s", title).And(surface.SayError(err))
				}))
			}})
		}
		return s.choices.Open("proposals that are kept", "do that", rows)
	}))
}

func (s *Surface) reopen(title string) surface.Intent {
	project := s.project
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) read {
		p, err := project.Reopen(ctx, title)
		return read{p, err}
	}, s.shown))
}

// readDiff asks for a file with a diff, and proposes what it says.
func (s *Surface) readDiff() surface.Intent {
	project := s.project
	return s.asks.Ask("propose what the diff in this file says:", "", func(file string) surface.Intent {
		return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) read {
			p, err := project.ReadFile(ctx, file)
			return read{p, err}
		}, s.shown))
	})
}
