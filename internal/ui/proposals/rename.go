package proposals

import (
	"context"
	"fmt"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// rename asks for another name for what is under the caret.
func (s *Surface) rename() surface.Intent {
	here := s.host.Here()
	if here.File == nil || here.File.Facts == nil {
		return here.Lack("no names are known in this file")
	}
	type found struct {
		subject rename.Subject
		err     error
	}
	project, file, offset := s.project, here.File.Path, here.Offset
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) found {
		subject, err := project.Subject(ctx, file, offset)
		return found{subject, err}
	}, func(f found) surface.Intent {
		if f.err != nil {
			return refused(f.err)
		}
		line, col := here.File.Text.Position(f.subject.Offset)
		s.from = surface.Visit{Path: file, Line: line, Col: col, How: "rename of " + f.subject.Name}
		words := fmt.Sprintf("another name for the %s %s:", f.subject.What, f.subject.Name)
		return s.asks.Ask(words, f.subject.Name, func(name string) surface.Intent {
			a := rename.Asked{Path: file, Offset: f.subject.Offset, New: strings.TrimSpace(name)}
			if len(f.subject.Family) > 0 {
				return s.askFamily(a, f.subject)
			}
			if f.subject.File != "" {
				return s.askFile(a, f.subject)
			}
			return s.begin(a)
		})
	}))
}

// askFamily asks whether methods that override each other are renamed together.
func (s *Surface) askFamily(a rename.Asked, of rename.Subject) surface.Intent {
	all, alone := a, a
	all.Family, alone.Family = rename.AllFamily, rename.ThisAlone
	others := sheet.Count(len(of.Family), "other", "others")
	return s.choices.Open(of.Name+" overrides others of its name, or is overridden", "go on", []choice.Row{
		{Row: sheet.Row{What: "all", Name: "it and " + others + " of its family", Where: "such as " + of.Family[0].Of(), Reads: true}, Take: func() surface.Intent { return s.begin(all) }},
		{Row: sheet.Row{What: "alone", Name: "this one alone", Where: "it is not of the family then", Reads: true}, Take: func() surface.Intent { return s.begin(alone) }},
	})
}

// askFile asks whether a file that is called after a type goes along.
func (s *Surface) askFile(a rename.Asked, of rename.Subject) surface.Intent {
	with := a
	with.File = true
	return s.choices.Open(of.File+" is called after "+of.Name, "go on", []choice.Row{
		{Row: sheet.Row{What: "both", Name: of.Name + " and its file", Where: "with all that imports it", Reads: true}, Take: func() surface.Intent { return s.begin(with) }},
		{Row: sheet.Row{What: "alone", Name: of.Name + " alone", Where: "the file keeps its name", Reads: true}, Take: func() surface.Intent { return s.begin(a) }},
	})
}

// begin works out what a rename changes, and shows it; what stands in the way comes later.
func (s *Surface) begin(a rename.Asked) surface.Intent {
	type begun struct {
		p    *proposal.Proposal
		rest rename.Rest
		err  error
	}
	project := s.project
	wait := surface.Intent{Wait: "looking for all places; Esc gives up"}
	return wait.And(surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) begun {
		p, rest, err := project.Begin(ctx, a)
		return begun{p, rest, err}
	}, func(b begun) surface.Intent {
		if b.err != nil {
			return refused(b.err)
		}
		return s.show(b.p, b.rest)
	})))
}
