package text

import (
	"bytes"
	"slices"
	"sort"
	"sync/atomic"
	"unicode/utf8"
)

// A document is kept as pieces of whole lines, so that an edit makes anew only the pieces it
// touches, and the next document shares all others with the one before. The list of pieces is
// copied at each edit; it is some thousand times shorter than the text.

// pieceSize is about how long a piece is, in bytes; a line is never cut, and may be longer.
const pieceSize = 8 << 10

// piece is a run of lines. All but the last of a document end with a line end; if the last one
// does, the empty line behind it belongs to it.
type piece struct {
	data   []byte
	starts []int // the offset in data at which each line begins; never empty
	sums   atomic.Pointer[[]uint32]
}

// placed is a piece with what lies before it.
type placed struct {
	*piece
	at   int // bytes
	line int // lines
}

// cut makes pieces of a text. last says that nothing follows it.
func cut(data []byte, last bool) (all []*piece) {
	for len(data) > 0 {
		end := len(data)
		if len(data) > 2*pieceSize {
			if i := bytes.IndexByte(data[pieceSize:], '\n'); i >= 0 {
				end = pieceSize + i + 1
			}
		}
		final := last && end == len(data)
		all = append(all, newPiece(data[:end:end], final))
		data = data[end:]
	}
	if len(all) == 0 && last {
		all = append(all, newPiece(nil, true))
	}
	return all
}

func newPiece(data []byte, final bool) *piece {
	p := &piece{data: data, starts: append(make([]int, 0, 1+bytes.Count(data, []byte{'\n'})), 0)}
	for at := 0; ; {
		i := bytes.IndexByte(data[at:], '\n')
		if i < 0 {
			return p
		}
		if at += i + 1; at < len(data) || final {
			p.starts = append(p.starts, at)
		}
	}
}

// place puts pieces behind those of the document.
func (d *Document) place(all ...*piece) {
	for _, p := range all {
		d.pieces = append(d.pieces, placed{p, d.size, d.starts})
		d.size += len(p.data)
		d.starts += len(p.starts)
	}
}

// pieceAt is the number of the last piece that begins at or before an offset.
func (d *Document) pieceAt(offset int) int {
	return sort.Search(len(d.pieces), func(i int) bool { return d.pieces[i].at > offset }) - 1
}

// pieceOf is the piece that holds a line, counted from 0, which must exist.
func (d *Document) pieceOf(line int) placed {
	return d.pieces[sort.Search(len(d.pieces), func(i int) bool { return d.pieces[i].line > line })-1]
}

// Len is the length of the text in bytes.
func (d *Document) Len() int { return d.size }

// Slice is a part of the text, from one byte offset up to another; what lies outside the text
// is left out. It must not be changed.
func (d *Document) Slice(start, end int) []byte {
	start, end = max(start, 0), min(end, d.size)
	if start >= end {
		return nil
	}
	if all := d.joined.Load(); all != nil {
		return (*all)[start:end:end]
	}
	n := d.pieceAt(start)
	if p := d.pieces[n]; end <= p.at+len(p.data) {
		return p.data[start-p.at : end-p.at : end-p.at]
	}
	return d.appendPart(make([]byte, 0, end-start), start, end)
}

// appendPart appends a part of the text.
func (d *Document) appendPart(to []byte, start, end int) []byte {
	for n := d.pieceAt(start); start < end; n++ {
		p := d.pieces[n]
		stop := min(end, p.at+len(p.data))
		to = append(to, p.data[start-p.at:stop-p.at]...)
		start = stop
	}
	return to
}

// Bytes is the whole text as UTF-8. It must not be changed. After an edit the first call puts
// the text together, which takes as long as copying it.
func (d *Document) Bytes() []byte {
	if all := d.joined.Load(); all != nil {
		return *all
	}
	if len(d.pieces) == 1 {
		return d.pieces[0].data
	}
	all := d.appendPart(make([]byte, 0, d.size), 0, d.size)
	d.joined.Store(&all)
	return all
}

// Apply makes the document that edits lead to; this one stays as it is. The edits are in
// order and do not overlap, and their offsets are those of this document. The cost is that of
// the pieces that are touched.
func (d *Document) Apply(edits []Edit) *Document {
	out := &Document{enc: d.enc, ends: d.ends, crlf: d.crlf, whole: true, onDisk: d.onDisk}
	out.pieces = make([]placed, 0, len(d.pieces)+8)
	taken := 0 // how many of the pieces were taken over
	for len(edits) > 0 {
		first := d.pieceAt(edits[0].Start)
		last, n := first, 0
		for n < len(edits) && (n == 0 || d.pieceAt(edits[n].Start) <= last) {
			last = max(last, d.pieceAt(edits[n].End))
			n++
		}
		for _, p := range d.pieces[taken:first] {
			out.place(p.piece)
		}
		data := d.rewrite(first, last, edits[:n])
		if starts := d.startsAfter(first, last, len(data), edits[:n]); starts != nil {
			out.place(&piece{data: data, starts: starts})
		} else {
			out.place(cut(data, last == len(d.pieces)-1)...)
		}
		taken, edits = last+1, edits[n:]
	}
	for _, p := range d.pieces[taken:] {
		out.place(p.piece)
	}
	return out
}

// startsAfter is where the lines begin of a piece after edits that leave all line ends as they
// are, so that it need not be looked through; nil after any others, or if the piece became so
// long that it had better be cut.
func (d *Document) startsAfter(first, last, long int, edits []Edit) []int {
	p := d.pieces[first]
	if first != last || long > 4*pieceSize && len(p.starts) > 1 {
		return nil
	}
	starts := slices.Clone(p.starts)
	by, next := 0, 0
	for _, e := range edits {
		if bytes.IndexByte(e.New, '\n') >= 0 || bytes.IndexByte(p.data[e.Start-p.at:e.End-p.at], '\n') >= 0 {
			return nil
		}
		for ; next < len(starts) && starts[next] <= e.Start-p.at; next++ {
			starts[next] += by
		}
		by += e.Shift()
	}
	for ; next < len(starts); next++ {
		starts[next] += by
	}
	return starts
}

// rewrite is the text of some pieces after edits in them.
func (d *Document) rewrite(first, last int, edits []Edit) []byte {
	at, end := d.pieces[first].at, d.pieces[last].at+len(d.pieces[last].data)
	grown := 0
	for _, e := range edits {
		grown += e.Shift()
	}
	out := make([]byte, 0, end-at+grown)
	for _, e := range edits {
		out = append(d.appendPart(out, at, e.Start), e.New...)
		at = e.End
	}
	return d.appendPart(out, at, end)
}

// Between is the one edit that leads from a text to another: what differs between what both
// begin and end with, in whole characters and line ends; none if they are the same. Pieces that
// both share are not looked through.
func Between(from, to *Document) []Edit {
	a, b := from.pieces, to.pieces
	front, back := 0, 0
	for front < min(len(a), len(b)) && a[front].piece == b[front].piece {
		front++
	}
	for back < min(len(a), len(b))-front && a[len(a)-1-back].piece == b[len(b)-1-back].piece {
		back++
	}
	start := from.size
	if front < len(a) {
		start = a[front].at
	} else if front < len(b) {
		start = b[front].at
	}
	shared := 0
	for _, p := range a[len(a)-back:] {
		shared += len(p.data)
	}
	x, y := from.Slice(start, from.size-shared), to.Slice(start, to.size-shared)
	head := common(min(len(x), len(y)), func(i, j int) bool { return bytes.Equal(x[i:j], y[i:j]) })
	if head == len(x) && head == len(y) {
		return nil
	}
	tail := common(min(len(x), len(y))-head, func(i, j int) bool { return bytes.Equal(x[len(x)-j:len(x)-i], y[len(y)-j:len(y)-i]) })
	for head > 0 && (within(x, head) || within(y, head)) {
		head--
	}
	for tail > 0 && (within(x, len(x)-tail) || within(y, len(y)-tail)) {
		tail--
	}
	return []Edit{{Start: start + head, End: start + len(x) - tail, New: slices.Clone(y[head : len(y)-tail])}}
}

// common is how many bytes are the same from the first on; same says it of those from i up to j.
// Blocks are compared whole, and the first that differs is halved.
func common(most int, same func(i, j int) bool) int {
	const block = 64 << 10
	at := 0
	for at < most && same(at, min(at+block, most)) {
		at = min(at+block, most)
	}
	rest := min(at+block, most) - at
	return at + sort.Search(rest, func(n int) bool { return !same(at, at+n+1) })
}

// within says that an offset lies between the bytes of a character, or of a line end.
func within(data []byte, at int) bool {
	return at > 0 && at < len(data) && (!utf8.RuneStart(data[at]) || data[at-1] == '\r' && data[at] == '\n')
}

// Same says whether two documents hold the same text.
func Same(a, b *Document) bool {
	return a == b || a.size == b.size && (slices.EqualFunc(a.pieces, b.pieces, func(x, y placed) bool { return x.piece == y.piece }) || bytes.Equal(a.Bytes(), b.Bytes()))
}
