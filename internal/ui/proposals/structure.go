package proposals

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/restructure"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// working is what stands in the message line while a change is worked out.
var working = surface.Intent{Wait: "working it out; Esc gives up"}

// part is what is selected, or the place one is at; ok is false if there is no code.
func (s *Surface) part(how string) (of restructure.Part, ok bool) {
	here := s.host.Here()
	if here.File == nil || here.File.Facts == nil {
		return of, false
	}
	at := here.Selection
	if at.Len() == 0 {
		at = place.Range{Start: uint32(here.Offset), End: uint32(here.Offset)}
	}
	line, col := here.File.Text.Position(int(at.Start))
	s.from = surface.Visit{Path: here.File.Path, Line: line, Col: col, How: how}
	return restructure.Part{Path: here.File.Path, At: at}, true
}

// noCode says that there is none here.
func (s *Surface) noCode() surface.Intent { return s.host.Here().Lack("no code is known in this file") }

// outcome is what came of something that is worked out.
type outcome[T any] struct {
	it  T
	err error
}

// work works something out beside the screen, and goes on with it.
func work[T any](s *Surface, out func(ctx context.Context) (T, error), then func(T) surface.Intent) surface.Intent {
	return working.And(surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) outcome[T] {
		it, err := out(ctx)
		return outcome[T]{it, err}
	}, func(o outcome[T]) surface.Intent {
		if o.err != nil {
			return refused(o.err)
		}
		return then(o.it)
	})))
}

// refused says why something cannot be. Keys that were pressed for the question that would have come are not done.
func refused(err error) surface.Intent {
	todo := surface.SayError(err)
	switch {
	case errors.Is(err, tidy.ErrInForm):
		todo = surface.Say("%v", err)
	case errors.Is(err, restructure.ErrNoExpression), errors.Is(err, restructure.ErrNoStatements):
		todo = surface.Say("%v; {grow} selects more", err)
	}
	todo.Unkey = true
	return todo
}

// propose works a change out and shows it.
func (s *Surface) propose(out func(ctx context.Context) (*proposal.Proposal, error)) surface.Intent {
	return work(s, out, func(p *proposal.Proposal) surface.Intent {
		todo := s.show(p, nil)
		s.local = true
		return todo
	})
}

// variable asks for the name of a variable for the expression that is selected.
func (s *Surface) variable() surface.Intent {
	of, ok := s.part("a variable")
	if !ok {
		return s.noCode()
	}
	return work(s, func(ctx context.Context) ([]restructure.Expression, error) { return s.project.Expressions(ctx, of) }, func(all []restructure.Expression) surface.Intent {
		if len(all) == 1 {
			return s.nameVariable(of, all[0])
		}
		rows := make([]choice.Row, len(all))
		for i, e := range all {
			line, col := s.host.Here().File.Text.Position(int(e.At.Start))
			rows[i] = choice.Row{Row: sheet.Row{What: "expression", Name: oneLine(e.Text), Reads: true}, Look: &surface.Visit{Path: of.Path, Line: line, Col: col, Name: e.At},
				Take: func() surface.Intent { return s.nameVariable(of, e) }}
		}
		return s.choices.Open("a variable for which expression?", "name it", rows)
	})
}

// nameVariable asks for the name of a variable for an expression.
func (s *Surface) nameVariable(of restructure.Part, e restructure.Expression) surface.Intent {
	of.At = e.At
	words := briefly(e.Text)
	return s.asks.Ask("a name for "+words+":", e.Suggested, func(name string) surface.Intent {
		name = strings.TrimSpace(name)
		one := func(all bool) func() surface.Intent {
			return func() surface.Intent {
				return s.propose(func(ctx context.Context) (*proposal.Proposal, error) { return s.project.Variable(ctx, of, name, all) })
			}
		}
		if len(e.Equal) == 0 {
			return one(false)()
		}
		return s.choices.Open(words+" stands "+fmt.Sprint(len(e.Equal)+1)+" times in this function", "go on", []choice.Row{
			{Row: sheet.Row{What: "all", Name: fmt.Sprintf("%s for all %d", name, len(e.Equal)+1), Where: "nothing that they are made of changes between them", Reads: true}, Take: one(true)},
			{Row: sheet.Row{What: "one", Name: name + " for this one alone", Where: "the others stay", Reads: true}, Take: one(false)},
		})
	})
}

// briefly is the beginning of a text, short enough for a question.
func briefly(t string) string {
	t = strings.Join(strings.Fields(t), " ")
	if r := []rune(t); len(r) > 30 {
		return string(r[:29]) + "…"
	}
	return t
}

// function asks for the name of a function of what is selected.
func (s *Surface) function() surface.Intent {
	of, ok := s.part("a function")
	if !ok {
		return s.noCode()
	}
	return work(s, func(ctx context.Context) (struct{}, error) { return struct{}{}, s.project.Extractable(ctx, of) }, func(struct{}) surface.Intent {
		return s.asks.Ask("a name for the function:", "", func(name string) surface.Intent {
			return s.propose(func(ctx context.Context) (*proposal.Proposal, error) {
				return s.project.Function(ctx, of, strings.TrimSpace(name))
			})
		})
	})
}

// inline puts what the name stands for in its place.
func (s *Surface) inline() surface.Intent {
	of, ok := s.part("put in place")
	if !ok {
		return s.noCode()
	}
	return s.propose(func(ctx context.Context) (*proposal.Proposal, error) { return s.project.Inline(ctx, of) })
}

// parameters asks what a function is to take.
func (s *Surface) parameters() surface.Intent {
	of, ok := s.part("what it takes")
	if !ok {
		return s.noCode()
	}
	return work(s, func(ctx context.Context) (restructure.Signature, error) { return s.project.Signature(ctx, of) }, func(sig restructure.Signature) surface.Intent {
		return s.asks.Ask(sig.Name+" takes:", sig.Params, func(params string) surface.Intent {
			c := restructure.Change{Of: sig, Params: strings.TrimSpace(params), Given: map[string]string{}}
			return work(s, func(ctx context.Context) ([]string, error) { return s.project.Fresh(ctx, c) }, func(fresh []string) surface.Intent { return s.given(c, fresh) })
		})
	})
}

// given asks what calls give for new parameters, one after the other.
func (s *Surface) given(c restructure.Change, fresh []string) surface.Intent {
	if len(fresh) == 0 {
		return s.propose(func(ctx context.Context) (*proposal.Proposal, error) { return s.project.Parameters(ctx, c) })
	}
	return s.asks.Ask("for "+fresh[0]+" calls give:", "", func(value string) surface.Intent {
		if value = strings.TrimSpace(value); value == "" {
			return surface.Say("calls have to give something for %s", fresh[0])
		}
		c.Given[fresh[0]] = value
		return s.given(c, fresh[1:])
	})
}
