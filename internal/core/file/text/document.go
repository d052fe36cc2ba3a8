// Package text is the text of one open file: its encoding, its lines, and how
// its characters fall into the columns of a screen.
package text

import (
	"bytes"
	"sort"
	"sync/atomic"
)

// Document is the text of a file, decoded to UTF-8 and cut into lines. Bytes
// that are not valid UTF-8 are kept as they are. A Document does not change
// once it is made and may be read by several goroutines.
type Document struct {
	pieces []placed // never empty
	size   int      // of the text, in bytes
	starts int      // how many lines begin in it
	joined atomic.Pointer[[]byte]
	ends   LineEnds
	crlf   bool // most lines end with CR and LF
	enc    Encoding
	binary bool
	whole  bool
	onDisk int64
}

// LineEnds says how the lines of a document end.
type LineEnds uint8

// The ways in which the lines of a file can end.
const (
	LF LineEnds = iota
	CRLF
	Mixed
)

// String names the line ends as people write them.
func (e LineEnds) String() string {
	return [...]string{"LF", "CRLF", "mixed line ends"}[e]
}

// NewDocument decodes the bytes of a whole file.
func NewDocument(raw []byte) *Document {
	d := newDocument(raw)
	d.whole = true
	d.onDisk = int64(len(raw))
	return d
}

func newDocument(raw []byte) *Document {
	d := &Document{}
	var data []byte
	data, d.enc = decode(raw)
	d.binary = d.enc == UTF8 && looksBinary(raw)
	if d.binary {
		data = nil
	}
	d.fill(data)
	return d
}

// fill gives an empty document its text.
func (d *Document) fill(data []byte) {
	d.joined.Store(&data)
	d.place(cut(data, true)...)
	d.ends, d.crlf = lineEnds(data)
}

// AsUTF8 is the same text, to be kept on disk as UTF-8.
func (d *Document) AsUTF8() *Document { return (&Document{onDisk: d.onDisk}).With(d.Bytes()) }

// With makes a document of another text, which is UTF-8 already, that is kept on disk in the
// same encoding as this one.
func (d *Document) With(data []byte) *Document {
	out := &Document{enc: d.enc, whole: true, onDisk: d.onDisk}
	out.fill(data)
	return out
}

// lineEnds says how lines end, and whether most of them do so with CR and LF.
func lineEnds(data []byte) (ends LineEnds, most bool) {
	all, crlf := bytes.Count(data, []byte("\n")), bytes.Count(data, []byte("\r\n"))
	switch crlf {
	case 0:
		return LF, false
	case all:
		return CRLF, true
	}
	return Mixed, 2*crlf > all
}

// Size is the number of bytes of the file on disk when it was read.
func (d *Document) Size() int64 { return d.onDisk }

// Whole is false for the first part of a large file whose rest is still being
// read.
func (d *Document) Whole() bool { return d.whole }

// Binary says that the file holds no text; such a document has one empty line.
func (d *Document) Binary() bool { return d.binary }

// Encoding is how the file on disk is encoded.
func (d *Document) Encoding() Encoding { return d.enc }

// LineEnds says how its lines end.
func (d *Document) LineEnds() LineEnds { return d.ends }

// SameForm says whether both are kept on disk in the same encoding, and lines end alike.
func (d *Document) SameForm(other *Document) bool {
	return d.enc == other.enc && d.ends == other.ends && d.crlf == other.crlf
}

// Lines is the number of lines. A line end at the very end of the file does
// not begin another line; an empty file has one line, which is empty.
func (d *Document) Lines() int {
	last := d.pieces[len(d.pieces)-1].piece
	if d.starts > 1 && last.starts[len(last.starts)-1] == len(last.data) {
		return d.starts - 1
	}
	return d.starts
}

// Line returns the text of a line, counted from 1, without its line end. A
// line that does not exist is empty. It must not be changed.
func (d *Document) Line(line int) []byte {
	if line < 1 || line > d.starts {
		return nil
	}
	p := d.pieceOf(line - 1)
	return p.lineOf(line - 1 - p.line)
}

// lineOf is a line of a piece, counted from 0, without its line end.
func (p *piece) lineOf(n int) []byte {
	start, end := p.starts[n], len(p.data)
	if n+1 < len(p.starts) {
		end = p.starts[n+1]
	}
	if end > start && p.data[end-1] == '\n' {
		end--
		if end > start && p.data[end-1] == '\r' {
			end--
		}
	}
	return p.data[start:end:end]
}

// Offset returns the byte offset of a line and column, both counted from 1.
// Beyond the end of the line it gives the end of the line, beyond the last
// line the end of the text.
func (d *Document) Offset(line, col int) int {
	if line < 1 {
		return 0
	}
	if line > d.starts {
		return d.size
	}
	p := d.pieceOf(line - 1)
	n := line - 1 - p.line
	return p.at + p.starts[n] + min(max(col-1, 0), len(p.lineOf(n)))
}

// Position returns the line and column, both counted from 1, of a byte offset.
func (d *Document) Position(offset int) (line, col int) {
	offset = min(max(offset, 0), d.size)
	p := d.pieces[d.pieceAt(offset)]
	n := sort.Search(len(p.starts), func(i int) bool { return p.starts[i] > offset-p.at }) - 1
	return p.line + n + 1, offset - p.at - p.starts[n] + 1
}
