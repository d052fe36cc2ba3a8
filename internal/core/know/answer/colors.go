package answer

import (
	"bytes"
	"context"
	"path"
	"strings"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/know/search"
)

// Colors finds how the line of a place is to be shown; offsets count in its text
// without the blanks around it.
func (g *Guide) Colors(ctx context.Context, p string, line int) highlight.Spans {
	f, err := g.code.Load(ctx, p)
	if err != nil || line > f.Text.Lines() {
		return nil
	}
	text := f.Text.Line(line)
	body := bytes.TrimSpace(text)
	if len(body) > mostColored {
		return nil
	}
	start := f.Text.Offset(line, 1) + len(text) - len(bytes.TrimLeft(text, " \t"))
	spans := g.painter.Text(ctx, path.Base(p), body, start, f.Facts)
	for i := range spans {
		spans[i].Start -= start
		spans[i].End -= start
	}
	return spans
}

// mostColored is how long a line may be, in bytes, to be shown in colours in a list.
const mostColored = 2000

// MentionPlaces are the places other than in code where a name stands: in comments and
// strings, configuration, templates and pages. They are known by name only.
func (g *Guide) MentionPlaces(ctx context.Context, name string) ([]Destination, error) {
	hits, err := g.Mentions(ctx, name)
	if err != nil {
		return nil, err
	}
	all := make([]Destination, 0, len(hits))
	for i := range hits {
		d := g.TextDestination(ctx, &hits[i])
		d.Role, d.Certainty = "mention", resolve.ByName
		if hits[i].Role.String() != "code" && !g.isData(d.Path) {
			d.Note = "in a " + hits[i].Role.String()
		}
		all = append(all, d)
	}
	return all, nil
}

func (g *Guide) TextDestination(ctx context.Context, h *search.TextHit) Destination {
	indent := len(h.Text) - len(strings.TrimLeft(h.Text, " \t"))
	d := Destination{Path: h.Path, Line: h.Line, Col: h.Col, At: h.At, Role: h.Role.String(), Text: strings.TrimSpace(h.Text), Test: g.code.Languages().IsTest(h.Path)}
	if start, end := int(h.Mark.Start)-indent, int(h.Mark.End)-indent; start >= 0 && start < end && end <= len(d.Text) {
		d.TextAt = place.Range{Start: uint32(start), End: uint32(end)}
		d.Name = d.Text[start:end]
	}
	if f, err := g.code.Load(ctx, h.Path); err == nil {
		d.In = codebase.SymbolAround(f, h.Line, h.Col)
		d.Symbol = d.In
	}
	return d
}
