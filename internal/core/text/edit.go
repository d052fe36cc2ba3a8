package text

import (
	"bytes"
	"slices"
	"sort"
)

// Edit replaces the bytes of a text from Start up to, not including, End by New.
type Edit struct {
	Start, End int
	New        []byte
}

// Shift is by how much the text behind the edit moves, in bytes.
func (e Edit) Shift() int { return len(e.New) - (e.End - e.Start) }

// Apply makes the document that edits lead to; this one stays as it is. The edits are in
// order and do not overlap, and their offsets are those of this document. The cost is that of
// copying the text, however many edits there are.
func (d *Document) Apply(edits []Edit) *Document {
	grown, lines := 0, 0
	for _, e := range edits {
		grown += e.Shift()
		lines += bytes.Count(e.New, []byte{'\n'})
	}
	out := &Document{enc: d.enc, ends: d.ends, whole: true, size: d.size}
	out.data = make([]byte, 0, len(d.data)+grown)
	out.starts = make([]int, 0, len(d.starts)+lines)
	at, line := 0, 0 // what was taken over of the text, and of the beginnings of its lines
	for _, e := range edits {
		out.takeLines(d, &line, e.Start, len(out.data)-at)
		out.data = append(out.data, d.data[at:e.Start]...)
		for i, b := range e.New {
			if b == '\n' {
				out.starts = append(out.starts, len(out.data)+i+1)
			}
		}
		out.data = append(out.data, e.New...)
		for line < len(d.starts) && d.starts[line] <= e.End { // the line ends that went
			line++
		}
		at = e.End
	}
	out.takeLines(d, &line, len(d.data)+1, len(out.data)-at)
	out.data = append(out.data, d.data[at:]...)
	return out
}

// takeLines takes over the beginnings of lines up to and with an offset, moved by as much.
func (d *Document) takeLines(from *Document, line *int, upTo, by int) {
	first := *line
	*line += sort.SearchInts(from.starts[first:], upTo+1)
	at := len(d.starts)
	d.starts = append(d.starts, from.starts[first:*line]...)
	if by != 0 {
		for i := range d.starts[at:] {
			d.starts[at+i] += by
		}
	}
}

// Inverse are the edits that lead back from what Apply made of this document.
func (d *Document) Inverse(edits []Edit) []Edit {
	back := make([]Edit, len(edits))
	by := 0
	for i, e := range edits {
		back[i] = Edit{Start: e.Start + by, End: e.Start + by + len(e.New), New: slices.Clone(d.data[e.Start:e.End])}
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
	switch d.ends {
	case CRLF:
		return []byte("\r\n")
	case Mixed:
		if 2*bytes.Count(d.data, []byte("\r\n")) > bytes.Count(d.data, []byte("\n")) {
			return []byte("\r\n")
		}
	}
	return []byte("\n")
}
