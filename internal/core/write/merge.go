package write

import (
	"bytes"
	"slices"

	"rooktrail/internal/core/text"
	"rooktrail/internal/core/vcs"
)

// Merge brings two texts together that were made of the same third one, line by line. Where
// both have changed the same lines, and not in the same way, both versions stand there between
// marks as git writes them; meet is how many such places there are.
func Merge(base, mine, theirs *text.Document) (merged *text.Document, meet int) {
	a, b := changes(base, mine), changes(base, theirs)
	var edits []text.Edit
	end := base.LineEnd()
	for len(a) > 0 || len(b) > 0 {
		switch {
		case len(b) == 0 || len(a) > 0 && a[0].End < b[0].Start:
			edits, a = append(edits, a[0]), a[1:]
		case len(a) == 0 || b[0].End < a[0].Start:
			edits, b = append(edits, b[0]), b[1:]
		default:
			x, y, restA, restB := together(base, a, b)
			a, b = restA, restB
			if bytes.Equal(x.New, y.New) {
				edits = append(edits, x)
				continue
			}
			meet++
			both := slices.Concat([]byte("<<<<<<< yours"), end, closed(x.New, end), []byte("======="), end, closed(y.New, end), []byte(">>>>>>> on disk"), end)
			edits = append(edits, text.Edit{Start: x.Start, End: x.End, New: both})
		}
	}
	return base.Apply(edits), meet
}

// closed is a piece of text with a line end behind it.
func closed(piece, end []byte) []byte {
	if len(piece) == 0 || bytes.HasSuffix(piece, []byte("\n")) {
		return piece
	}
	return append(bytes.Clone(piece), end...)
}

// changes are the edits of whole lines that lead from a text to another.
func changes(from, to *text.Document) (edits []text.Edit) {
	by := 0 // lines that came, less those that went
	for _, h := range vcs.Between(string(from.Bytes()), string(to.Bytes())) {
		first := h.Line - by
		e := text.Edit{Start: from.Offset(first, 1), End: from.Offset(first+h.Removed, 1)}
		e.New = bytes.Clone(to.Bytes()[to.Offset(h.Line, 1):to.Offset(h.Line+h.Added, 1)])
		edits = append(edits, e)
		by += h.Added - h.Removed
	}
	return edits
}

// together takes from both sides the edits that touch each other, and makes one of each side,
// of the same lines.
func together(base *text.Document, a, b []text.Edit) (x, y text.Edit, restA, restB []text.Edit) {
	start, end := min(a[0].Start, b[0].Start), max(a[0].End, b[0].End)
	i, j := 1, 1
	for again := true; again; {
		again = false
		for i < len(a) && a[i].Start <= end {
			end, again = max(end, a[i].End), true
			i++
		}
		for j < len(b) && b[j].Start <= end {
			end, again = max(end, b[j].End), true
			j++
		}
	}
	return whole(base, a[:i], start, end), whole(base, b[:j], start, end), a[i:], b[j:]
}

// whole is one edit of a piece of a text that does what several within it do.
func whole(base *text.Document, edits []text.Edit, start, end int) text.Edit {
	var new []byte
	at := start
	for _, e := range edits {
		new = append(append(new, base.Bytes()[at:e.Start]...), e.New...)
		at = e.End
	}
	return text.Edit{Start: start, End: end, New: append(new, base.Bytes()[at:end]...)}
}
