package hunks

import (
	"context"
	"fmt"
	"path"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// span is what the history is asked of: lines of the text as it is, and what to call them.
type span struct {
	first, last int
	words       string
}

// spanOf is the line at the caret or what is selected, or all of the function or type around.
func spanOf(here surface.Here, symbol bool) span {
	line := here.View.Place.Line
	if here.Selection.Len() > 0 && !symbol {
		first, _ := here.File.Text.Position(int(here.Selection.Start))
		last, _ := here.File.Text.Position(int(max(here.Selection.End, 1)) - 1)
		if last > first {
			return span{first, last, fmt.Sprintf("lines %d to %d", first, last)}
		}
		return span{first, first, fmt.Sprintf("line %d", first)}
	}
	if symbol && here.File.Facts != nil {
		around := here.File.Facts.Around(here.Offset)
		if n := len(around); n > 0 {
			d := &here.File.Facts.Defs[around[n-1]]
			first, _ := here.File.Text.Position(int(d.Full.Start))
			last, _ := here.File.Text.Position(int(max(d.Full.End, d.Full.Start+1)) - 1)
			return span{first, last, d.Qualified()}
		}
	}
	return span{line, line, fmt.Sprintf("line %d", line)}
}

// history lists the commits that have changed the line at the caret, or what is selected, or the function around.
func (m *Model) history(symbol bool) surface.Intent {
	return m.compared(func(_ *code.Model, d *hunk.Diff) surface.Intent { return m.historyIn(d, symbol) })
}

func (m *Model) historyIn(d *hunk.Diff, symbol bool) surface.Intent {
	here := m.host.Here()
	of := spanOf(here, symbol)
	if n, ok := d.At(of.first); ok && of.first == of.last && d.Hunks[n].Now.Count > 0 {
		return surface.Say("this line is not as it was in %s: it was changed here", m.words())
	}
	first, last := d.WasLine(of.first), d.WasLine(of.last)
	type found struct {
		all []vcs.Revision
		err error
	}
	file, commit := here.File.Path, m.commit
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) (f found) {
		head := commit
		if head.ID == vcs.Staged || head.ID == "" {
			if head, f.err = m.project.Commit(ctx, ""); f.err != nil {
				return f
			}
		}
		f.all, f.err = m.project.History(ctx, head, file, first, last)
		return f
	}, func(f found) surface.Intent {
		switch {
		case f.err != nil:
			return surface.SayError(f.err)
		case len(f.all) == 0:
			return surface.Say("no commit is known to have changed %s", of.words)
		}
		return m.showHistory(of, f.all)
	}))
}

// showHistory lists commits, with the file as it was after each of them beneath.
func (m *Model) showHistory(of span, all []vcs.Revision) surface.Intent {
	rows := make([]choice.Row, len(all))
	for i, r := range all {
		words := r.Author + ", " + m.host.Clock().Moment(r.When)
		rows[i] = choice.Row{Row: sheet.Row{What: r.Short(), Name: r.Summary, Where: words, Reads: true}, Take: func() surface.Intent { return m.begin(all, i) }}
		rows[i].Look = &surface.Visit{Path: r.Path, Line: r.First, TextOf: func(ctx context.Context) (*text.Document, error) {
			return m.project.Was(ctx, r.Commit, r.Path, nil)
		}}
	}
	return m.lists.Open("what has changed "+of.words+", the last first", "lay it beside", rows)
}

// layRevision lays a file as a commit has left it beside the code.
func (m *Model) layRevision(r vcs.Revision) surface.Intent {
	type then struct {
		file *codebase.File
		doc  *text.Document
		err  error
	}
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) (t then) {
		if t.doc, t.err = m.project.Was(ctx, r.Commit, r.Path, nil); t.err == nil {
			t.file = m.load.As(ctx, r.Path, t.doc)
			t.file.Prepare()
		}
		return t
	}, func(t then) surface.Intent {
		if t.err != nil {
			return surface.SayError(t.err)
		}
		start, end := t.doc.Offset(r.First, 1), t.doc.Offset(r.Last, len(t.doc.Line(r.Last))+1)
		at := answer.Answer{Line: r.First, Col: 1}
		at.Path, at.Symbol = r.Path, path.Base(r.Path)
		at.At = place.Range{Start: uint32(start), End: uint32(start)}
		words := r.Summary
		if n := len(m.earlier.all); n > 1 {
			words = fmt.Sprintf("%d of %d: %s", m.earlier.at+1, n, words)
		}
		return m.host.Lay(words+", "+m.host.Clock().Moment(r.When), t.file, at, []place.Range{{Start: uint32(start), End: uint32(end)}})
	}))
}

// past are the commits that have changed something, the last first, and which of them one looks at.
type past struct {
	all []vcs.Revision
	at  int
}

// begin lays one of some commits beside, from where one goes on to those before and after it.
func (m *Model) begin(all []vcs.Revision, i int) surface.Intent {
	return surface.Intent{Through: true, Then: func() surface.Intent {
		m.walking, m.earlier = true, past{all, i}
		return m.layRevision(all[i])
	}}
}

// step goes on to the commit before, or back to the one after it.
func (m *Model) step(forward bool) surface.Intent {
	next := m.earlier.at - 1
	if forward {
		next = m.earlier.at + 1
	}
	switch {
	case next >= len(m.earlier.all):
		return surface.Say("no commit before this one is known to have changed it")
	case next < 0:
		return surface.Say("no commit has changed it since")
	}
	return m.begin(m.earlier.all, next)
}
