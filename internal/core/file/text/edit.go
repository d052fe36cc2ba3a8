package text

import "slices"

// Edit replaces the bytes of a text from Start up to, not including, End by New.
type Edit struct {
	Start, End int
	New        []byte
}

// Shift is by how much the text behind the edit moves, in bytes.
func (e Edit) Shift() int { return len(e.New) - (e.End - e.Start) }

// Inverse are the edits that lead back from what Apply made of this document.
func (d *Document) Inverse(edits []Edit) []Edit {
	back := make([]Edit, len(edits))
	by := 0
	for i, e := range edits {
		back[i] = Edit{Start: e.Start + by, End: e.Start + by + len(e.New), New: slices.Clone(d.Slice(e.Start, e.End))}
		by += e.Shift()
	}
	return back
}

// Moved is where an offset of the text is after edits; one within what was replaced is at
// the end of what came instead.
func Moved(offset int, edits []Edit) int {
	by := 0
	for _, e := range edits {
		switch {
		case offset < e.Start:
			return offset + by
		case offset < e.End || offset == e.Start:
			return e.Start + by + len(e.New)
		}
		by += e.Shift()
	}
	return offset + by
}

// LineEnd is how a line that is added ends: as most lines of the document do.
func (d *Document) LineEnd() []byte {
	if d.crlf {
		return []byte("\r\n")
	}
	return []byte("\n")
}
