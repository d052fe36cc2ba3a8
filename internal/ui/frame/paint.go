package frame

import (
	"context"
	"path"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/surface"
)

// painting keeps which part of which file has its colours.
type painting struct {
	asker       *surface.Asker
	file        *codebase.File
	first, last int // lines
}

// Files up to this size are coloured whole; of larger ones, as many lines
// around what is shown.
const (
	paintedWhole  = 256 << 10
	paintedAround = 400
)

// paintedLines are from which line to which a large text is coloured: what is shown, and so many lines
// before and behind as are not too long.
func paintedLines(doc *text.Document, first, last int) (from, to int) {
	from, to = max(first-paintedAround, 1), min(last+paintedAround, doc.Lines())
	shown := doc.Offset(first, 1)
	for from < first && shown-doc.Offset(from, 1) > paintedWhole/4 {
		from = (from + first + 1) / 2
	}
	for to > last && doc.Offset(to+1, 1)-doc.Offset(from, 1) > paintedWhole {
		to = (to + last) / 2
	}
	return from, to
}

// repaint colours what the code shows, if it has no colours yet.
func (p *painting) repaint(c *code.Model) tea.Cmd {
	file := c.File()
	if file == nil {
		return nil
	}
	first, last := c.Shown()
	if p.file == file && p.first <= first && last <= p.last {
		return nil
	}
	from, to := 1, file.Text.Lines()
	start, end := 0, file.Text.Len()
	if end > paintedWhole {
		from, to = paintedLines(file.Text, first, last)
		start, end = file.Text.Offset(from, 1), min(file.Text.Offset(to+1, 1), file.Text.Offset(from, 1)+paintedWhole)
	}
	p.file, p.first, p.last = file, from, to
	return surface.Ask(p.asker, func(ctx context.Context) highlight.Spans {
		return highlight.Text(ctx, path.Base(file.Path), file.Text.Slice(start, end), start, file.Facts)
	}, func(spans highlight.Spans) surface.Intent {
		if c.File() == file {
			c.Paint(spans)
		}
		return surface.Intent{}
	})
}
