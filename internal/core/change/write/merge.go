package write

import (
	"bytes"
	"slices"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/file/text"
)

// Side is which version of a region is taken.
type Side uint8

// The sides.
const (
	Mine Side = iota
	Theirs
	Both // one after the other, between marks as git writes them
)

// Region is a piece of a text that one side has changed, or both.
type Region struct {
	// Start and End are where it was in the text that both sides come from, in bytes.
	Start, End int
	// Mine and Theirs are what the sides have made of it.
	Mine, Theirs []byte
	// ByMine and ByTheirs say which side has changed it.
	ByMine, ByTheirs bool
	// Take is which version is taken: that of the side that has changed it.
	Take Side
}

// Meets says that both sides have changed the region, and not in the same way.
func (r *Region) Meets() bool { return r.ByMine && r.ByTheirs && !bytes.Equal(r.Mine, r.Theirs) }

// Regions are the pieces in which two texts differ that were made of the same third one, whole
// lines each. Of those in which they meet, both are taken.
func Regions(base, mine, theirs *text.Document) (all []Region) {
	a, b := changes(base, mine), changes(base, theirs)
	for len(a) > 0 || len(b) > 0 {
		switch {
		case len(b) == 0 || len(a) > 0 && a[0].End < b[0].Start:
			x := a[0]
			all = append(all, Region{Start: x.Start, End: x.End, Mine: x.New, Theirs: base.Bytes()[x.Start:x.End], ByMine: true, Take: Mine})
			a = a[1:]
		case len(a) == 0 || b[0].End < a[0].Start:
			y := b[0]
			all = append(all, Region{Start: y.Start, End: y.End, Mine: base.Bytes()[y.Start:y.End], Theirs: y.New, ByTheirs: true, Take: Theirs})
			b = b[1:]
		default:
			x, y, restA, restB := together(base, a, b)
			a, b = restA, restB
			r := Region{Start: x.Start, End: x.End, Mine: x.New, Theirs: y.New, ByMine: true, ByTheirs: true}
			if r.Meets() {
				r.Take = Both
			}
			all = append(all, r)
		}
	}
	return all
}

// Assemble makes the text of the versions of regions that are taken.
func Assemble(base *text.Document, regions []Region) *text.Document {
	end := base.LineEnd()
	edits := make([]text.Edit, 0, len(regions))
	for i := range regions {
		r := &regions[i]
		e := text.Edit{Start: r.Start, End: r.End, New: r.Mine}
		switch r.Take {
		case Theirs:
			e.New = r.Theirs
		case Both:
			e.New = slices.Concat([]byte("<<<<<<< yours"), end, closed(r.Mine, end), []byte("======="), end, closed(r.Theirs, end), []byte(">>>>>>> on disk"), end)
		}
		edits = append(edits, e)
	}
	return base.Apply(edits)
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
