// Package text is the text of one open file: its encoding, its lines, and how
// its characters fall into the columns of a screen.
package text

import (
	"bytes"
	"sort"
)

// Document is the text of a file, decoded to UTF-8 and cut into lines. Bytes
// that are not valid UTF-8 are kept as they are. A Document does not change
// once it is made and may be read by several goroutines.
type Document struct {
	data   []byte
	starts []int // offset at which each line begins; never empty
	ends   LineEnds
	enc    Encoding
	binary bool
	whole  bool
	size   int64
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
	d.size = int64(len(raw))
	return d
}

func newDocument(raw []byte) *Document {
	d := &Document{}
	d.data, d.enc = decode(raw)
	d.binary = d.enc == UTF8 && looksBinary(raw)
	if d.binary {
		d.data = nil
	}
	d.cut()
	return d
}

// cut finds where the lines begin and how they end.
func (d *Document) cut() {
	d.starts = append(make([]int, 0, 1+bytes.Count(d.data, []byte{'\n'})), 0)
	crlf := 0
	for at := 0; ; {
		i := bytes.IndexByte(d.data[at:], '\n')
		if i < 0 {
			break
		}
		if i > 0 && d.data[at+i-1] == '\r' {
			crlf++
		}
		at += i + 1
		d.starts = append(d.starts, at)
	}
	switch crlf {
	case 0:
		d.ends = LF
	case len(d.starts) - 1:
		d.ends = CRLF
	default:
		d.ends = Mixed
	}
}

// Bytes is the whole text as UTF-8. It must not be changed.
func (d *Document) Bytes() []byte { return d.data }

// Size is the number of bytes of the file on disk when it was read.
func (d *Document) Size() int64 { return d.size }

// Whole is false for the first part of a large file whose rest is still being
// read.
func (d *Document) Whole() bool { return d.whole }

// Binary says that the file holds no text; such a document has one empty line.
func (d *Document) Binary() bool { return d.binary }

// Encoding is how the file on disk is encoded.
func (d *Document) Encoding() Encoding { return d.enc }

// LineEnds says how its lines end.
func (d *Document) LineEnds() LineEnds { return d.ends }

// Lines is the number of lines. A line end at the very end of the file does
// not begin another line; an empty file has one line, which is empty.
func (d *Document) Lines() int {
	n := len(d.starts)
	if n > 1 && d.starts[n-1] == len(d.data) {
		return n - 1
	}
	return n
}

// Line returns the text of a line, counted from 1, without its line end. A
// line that does not exist is empty.
func (d *Document) Line(line int) []byte {
	if line < 1 || line > len(d.starts) {
		return nil
	}
	start, end := d.starts[line-1], len(d.data)
	if line < len(d.starts) {
		end = d.starts[line] - 1
		if end > start && d.data[end-1] == '\r' {
			end--
		}
	}
	return d.data[start:end]
}

// Offset returns the byte offset of a line and column, both counted from 1.
// Beyond the end of the line it gives the end of the line, beyond the last
// line the end of the text.
func (d *Document) Offset(line, col int) int {
	if line < 1 {
		return 0
	}
	if line > len(d.starts) {
		return len(d.data)
	}
	return d.starts[line-1] + min(max(col-1, 0), len(d.Line(line)))
}

// Position returns the line and column, both counted from 1, of a byte offset.
func (d *Document) Position(offset int) (line, col int) {
	offset = min(max(offset, 0), len(d.data))
	line = sort.Search(len(d.starts), func(i int) bool { return d.starts[i] > offset })
	return line, offset - d.starts[line-1] + 1
}
