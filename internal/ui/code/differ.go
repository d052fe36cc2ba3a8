package code

import (
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Differs marks in the margin in what the file that is shown differs from a commit; nil for nothing. What is written
// after that is followed.
func (m *Model) Differs(d *hunk.Diff) { m.diff = d }

// Diff is in what the text that is shown differs from a commit; nil while that is not known.
func (m *Model) Diff() *hunk.Diff {
	if m.file == nil || m.diff == nil || m.diff.Now != m.file.Text {
		return nil
	}
	return m.diff
}

// followDiff has the marks of what differs follow edits; nil for edits that are not known.
func (m *Model) followDiff(was, now *text.Document, edits []text.Edit) {
	if m.diff == nil || m.diff.Now != was || was == now {
		return
	}
	if edits == nil {
		edits = text.Between(was, now)
	}
	m.diff = m.diff.Follow(edits, now)
}

// The marks of lines that were added or changed, and of one below which some were taken out.
const (
	addedMark   = "+"
	changedMark = "~"
	removedMark = "−"
)

// differs draws the mark of a line that differs.
func (m *Model) differs(r *ink.Row, line int, p *palette.Palette, ground ink.Color) {
	d := m.Diff()
	if d == nil {
		return
	}
	n, ok := d.At(line)
	if !ok {
		return
	}
	h := d.Hunks[n]
	switch {
	case h.Kind() == hunk.Added, h.Kind() == hunk.Changed && line-h.Now.First >= h.Was.Count:
		r.Put(addedMark, palette.On(p.Changed, ground).Strong())
	case h.Kind() == hunk.Removed:
		r.Put(removedMark, palette.On(p.Problem, ground).Strong())
	default:
		r.Put(changedMark, palette.On(p.Changed, ground).Strong())
	}
}
