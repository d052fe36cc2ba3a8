package preprocess

import (
	"sort"

	"rooktrail/internal/core/file/place"
)

// Prepared is a text as a grammar is to read it.
type Prepared struct {
	Text []byte
	// Hidden are the words that were taken away or replaced, in the text as it is written.
	Hidden   []place.Range
	pieces   []piece
	inactive []place.Range // in order
}

// piece is a part of the text that stands in place of another one.
type piece struct {
	start, end uint32 // in the prepared text
	from, to   uint32 // in the text as it is written: of what it stands for, or of the macro's name
	whole      uint32 // where all that it was made from ends
	exact      bool   // it is written there just so
}

// Origin is where a range of the prepared text is written; exact says that it is written there just so, and does not come
// of a macro.
func (p *Prepared) Origin(r place.Range) (at place.Range, exact bool) {
	if len(p.pieces) == 0 {
		return r, true
	}
	start, exactStart := p.start(r.Start)
	end, whole, exactEnd := p.end(r.End)
	if end < start {
		end = max(start, whole)
	}
	return place.Range{Start: start, End: end}, exactStart && exactEnd
}

// start is where what begins at an offset of the prepared text is written.
func (p *Prepared) start(offset uint32) (at uint32, exact bool) {
	i := sort.Search(len(p.pieces), func(i int) bool { return p.pieces[i].start > offset }) - 1
	if i < 0 {
		return offset, true
	}
	is := &p.pieces[i]
	switch {
	case offset >= is.end:
		return offset - is.end + is.whole, true
	case is.exact:
		return is.from + offset - is.start, true
	}
	return is.from, false
}

// end is where what ends at an offset of the prepared text ends as it is written.
func (p *Prepared) end(offset uint32) (at, whole uint32, exact bool) {
	i := sort.Search(len(p.pieces), func(i int) bool { return p.pieces[i].start >= offset }) - 1
	if i < 0 {
		return offset, offset, true
	}
	is := &p.pieces[i]
	switch {
	case offset > is.end:
		return offset - is.end + is.whole, is.whole, true
	case is.exact:
		return is.from + offset - is.start, is.whole, true
	}
	return is.to, is.whole, false
}

// Inactive says whether an offset of the text as it is written lies in a branch that a compiler on a common system does not
// take.
func (p *Prepared) Inactive(offset uint32) bool {
	i := sort.Search(len(p.inactive), func(i int) bool { return p.inactive[i].Start > offset }) - 1
	return i >= 0 && offset < p.inactive[i].End
}
