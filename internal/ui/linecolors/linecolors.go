// Package linecolors finds the colours of the lines of code that lists show, beside the screen and
// in the order of the list.
package linecolors

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/ui/surface"
)

// Colorer knows the colours of lines; see package workspace.
type Colorer interface {
	Colors(ctx context.Context, path string, line int) highlight.Spans
}

// Colors are the colours of lines, as far as they are known.
type Colors struct {
	asker *surface.Asker
	from  Colorer
	spans map[place.Place]highlight.Spans // by file and line
}

// New finds colours for whoever asks with the asker.
func New(asker *surface.Asker, from Colorer) *Colors { return &Colors{asker: asker, from: from} }

// Of gives the colours of a line, counted from 1; nil while they are not known.
func (c *Colors) Of(path string, line int) highlight.Spans {
	return c.spans[place.Place{Path: path, Line: line}]
}

// Forget forgets all colours: the lines may have changed since.
func (c *Colors) Forget() {
	c.Cancel()
	c.spans = nil
}

// Cancel gives up what is still to be coloured.
func (c *Colors) Cancel() { c.asker.Cancel() }

// Lines are coloured so many at a time, up to a number beyond which nobody scrolls.
const (
	linesAtOnce = 60
	mostLines   = 5000
)

// Find finds the colours of lines, in place of those that were wanted before.
func (c *Colors) Find(all []place.Place) tea.Cmd {
	c.Cancel()
	if len(c.spans) > mostLines {
		c.spans = nil
	}
	return c.more(all[:min(len(all), mostLines)])
}

func (c *Colors) more(all []place.Place) tea.Cmd {
	var wanted []place.Place
	for _, p := range all {
		if at := (place.Place{Path: p.Path, Line: p.Line}); c.spans[at] == nil {
			wanted = append(wanted, at)
		}
	}
	if len(wanted) == 0 {
		return nil
	}
	n, from := min(len(wanted), linesAtOnce), c.from
	return surface.More(c.asker, func(ctx context.Context) map[place.Place]highlight.Spans {
		spans := make(map[place.Place]highlight.Spans, n)
		for _, p := range wanted[:n] {
			if ctx.Err() != nil {
				break
			}
			spans[p] = from.Colors(ctx, p.Path, p.Line)
		}
		return spans
	}, func(spans map[place.Place]highlight.Spans) surface.Intent {
		if c.spans == nil {
			c.spans = map[place.Place]highlight.Spans{}
		}
		for p, s := range spans {
			if s == nil {
				s = highlight.Spans{} // known to have none
			}
			c.spans[p] = s
		}
		return surface.Begin(c.more(wanted[n:]))
	})
}

// Places are the places of destinations.
func Places(all []answer.Answer) []place.Place {
	places := make([]place.Place, len(all))
	for i := range all {
		places[i] = all[i].Place()
	}
	return places
}
