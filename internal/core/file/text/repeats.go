package text

import (
	"bytes"
	"hash/maphash"
	"slices"
)

// HeadOfLine is how much of a line, in bytes and without the blanks around it, is looked at to tell
// lines apart: generated files have lines of megabytes.
const HeadOfLine = 400

// headOf is that much of a line.
func headOf(line []byte) []byte {
	b := bytes.TrimSpace(line)
	return b[:min(len(b), HeadOfLine)]
}

// seed is what the sums of lines of all documents are made with; they are never kept.
var seed = maphash.MakeSeed()

// lineSums are the sums of the lines of a piece, in their order by size. They are made when they are
// first asked for and stay with the piece, which documents share: after an edit there are few to
// be made.
func (p *piece) lineSums() []uint32 {
	if sums := p.sums.Load(); sums != nil {
		return *sums
	}
	sums := make([]uint32, len(p.starts))
	for n := range p.starts {
		sums[n] = uint32(maphash.Bytes(seed, headOf(p.lineOf(n))))
	}
	slices.Sort(sums)
	p.sums.Store(&sums)
	return sums
}

// PrepareRepeats makes Repeats quick, which takes a look at the whole text.
func (d *Document) PrepareRepeats() {
	for _, p := range d.pieces {
		p.lineSums()
	}
}

// Repeats says whether another line than this one, counted from 1, reads the same but for the
// blanks around it and for what lies behind HeadOfLine; false for a blank line. After PrepareRepeats of the document, or of
// one that this was made of by few edits, it takes no time.
func (d *Document) Repeats(line int) bool {
	head := headOf(d.Line(line))
	if len(head) == 0 {
		return false
	}
	sum := uint32(maphash.Bytes(seed, head))
	for _, p := range d.pieces {
		if _, found := slices.BinarySearch(p.lineSums(), sum); !found {
			continue
		}
		for n := range p.starts {
			if p.line+n+1 != line && bytes.Equal(headOf(p.lineOf(n)), head) {
				return true
			}
		}
	}
	return false
}
