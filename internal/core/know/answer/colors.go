package answer

import (
	"bytes"
	"context"
	"path"

	"rooktrail/internal/core/file/highlight"
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
