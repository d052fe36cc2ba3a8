package proposals

import (
	"context"
	"fmt"
	"path"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/change/tidy"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// orderly is what puts files in order.
type orderly interface {
	Form(ctx context.Context, file string, which tidy.Lines) (*proposal.Proposal, error)
	Imports(ctx context.Context, file string) (*tidy.Imports, error)
	InOrder(ctx context.Context, i *tidy.Imports, chosen map[string]facts.Imported) (*proposal.Proposal, error)
}

// tidy asks what is to be put in order: the form of lines, or what is imported.
func (s *Surface) tidy() surface.Intent {
	here := s.host.Here()
	if here.File == nil {
		return here.Lack("there is no file here to be put in order")
	}
	file := here.File.Path
	form := func(what, where string, which tidy.Lines) choice.Row {
		return choice.Row{Row: sheet.Row{What: "form", Name: what, Where: where, Reads: true}, Take: func() surface.Intent {
			return s.inOrder(func(ctx context.Context) (*proposal.Proposal, error) { return s.project.Form(ctx, file, which) })
		}}
	}
	var rows []choice.Row
	if sel := here.Selection; sel.Len() > 0 {
		first, _ := here.File.Text.Position(int(sel.Start))
		last, _ := here.File.Text.Position(int(sel.End) - 1)
		rows = append(rows, form("the lines that are selected", fmt.Sprintf("line %d to %d", first, last), tidy.Lines{First: first, Last: last}))
	}
	rows = append(rows,
		choice.Row{Row: sheet.Row{What: "imports", Name: "what " + path.Base(file) + " imports", Where: "in order, with what is missing, without what is not used", Reads: true}, Take: func() surface.Intent { return s.imports(file) }},
		form("the lines that differ from the last commit", "the others stay as they are", tidy.Lines{Differing: true}),
		form("all of "+path.Base(file), "by the formatter that is set for such files", tidy.Lines{}),
	)
	return s.choices.Open("what is to be put in order?", "do it", rows)
}

// inOrder works a change out and makes it.
func (s *Surface) inOrder(out func(ctx context.Context) (*proposal.Proposal, error)) surface.Intent {
	return work(s, out, s.Change)
}

// imports asks for each name that could come from several places from which it is to come.
func (s *Surface) imports(file string) surface.Intent {
	return work(s, func(ctx context.Context) (*tidy.Imports, error) { return s.project.Imports(ctx, file) }, func(i *tidy.Imports) surface.Intent {
		return s.chooseFrom(i, i.Missing, map[string]facts.Imported{})
	})
}

// chooseFrom asks about the first of some missing names of which there is more than one choice, and goes on with the rest.
func (s *Surface) chooseFrom(i *tidy.Imports, left []tidy.Missing, chosen map[string]facts.Imported) surface.Intent {
	for len(left) > 0 && left[0].Sure {
		left = left[1:]
	}
	if len(left) == 0 {
		return s.inOrder(func(ctx context.Context) (*proposal.Proposal, error) { return s.project.InOrder(ctx, i, chosen) })
	}
	m := left[0]
	var rows []choice.Row
	for _, c := range m.Choices {
		from := strings.Repeat(".", c.Level) + c.Path
		rows = append(rows, choice.Row{Row: sheet.Row{What: "from", Name: from, Where: imported(c, m.Name), Reads: true}, Take: func() surface.Intent {
			chosen[m.Name] = c
			return s.chooseFrom(i, left[1:], chosen)
		}})
	}
	rows = append(rows, choice.Row{Row: sheet.Row{What: "leave", Name: "leave " + m.Name + " as it is", Reads: true}, Take: func() surface.Intent { return s.chooseFrom(i, left[1:], chosen) }})
	return s.choices.Open(fmt.Sprintf("from where does %s come (line %d)?", m.Name, m.Line), "import it", rows)
}

// imported says what of a module is imported for a name.
func imported(c facts.Imported, name string) string {
	switch {
	case c.Name == "":
		return "all of it"
	case c.Name != name && c.Name != "default":
		return "its " + c.Name
	}
	return ""
}
