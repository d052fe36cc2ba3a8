package serve

import (
	"bytes"
	"sort"
	"unicode/utf8"

	"go.lsp.dev/protocol"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// units are what the characters of a position count, as client and server have agreed.
type units string

// The units: bytes, 16 bits of UTF-16, and characters of Unicode.
const (
	utf8Units  units = "utf-8"
	utf16Units units = "utf-16"
	utf32Units units = "utf-32"
)

// of is how many units a character counts that takes so many bytes. A byte that is no text stands for one character.
func (u units) of(r rune, bytes int) int {
	switch {
	case u == utf8Units:
		return bytes
	case u == utf16Units && r > 0xFFFF:
		return 2
	}
	return 1
}

// count is how many units a piece of a line has.
func (u units) count(piece []byte) (n int) {
	if u == utf8Units {
		return len(piece)
	}
	for len(piece) > 0 {
		r, size := utf8.DecodeRune(piece)
		n += u.of(r, size)
		piece = piece[size:]
	}
	return n
}

// bytes is how many bytes of a line so many units take; all of them if it has fewer. What lies within a character is its beginning.
func (u units) bytes(line []byte, count uint32) (at int) {
	for left := int64(count); at < len(line); {
		r, size := utf8.DecodeRune(line[at:])
		if left -= int64(u.of(r, size)); left < 0 {
			break
		}
		at += size
	}
	return at
}

// lines is a text as the positions of the protocol see it: they count from 0, and a line ends with LF, CR LF, or CR alone.
type lines struct {
	doc    *text.Document
	units  units
	starts []int // where lines begin, if some end with a CR alone, by which a document does not count; else nil
}

// linesOf is a text, of which it is known how many of its lines end with a CR alone.
func linesOf(doc *text.Document, u units, lone int) lines {
	l := lines{doc: doc, units: u}
	if lone == 0 {
		return l
	}
	data := doc.Bytes()
	l.starts = []int{0}
	for i, b := range data {
		if b == '\n' || b == '\r' && (i+1 == len(data) || data[i+1] != '\n') {
			l.starts = append(l.starts, i+1)
		}
	}
	return l
}

// readLines is linesOf for a text of which it is not known how many of its lines end so.
func readLines(doc *text.Document, u units) lines { return linesOf(doc, u, loneReturns(doc.Bytes())) }

// loneReturns counts the CRs behind which no LF stands.
func loneReturns(data []byte) (n int) {
	for {
		at := bytes.IndexByte(data, '\r')
		if at < 0 {
			return n
		}
		if data = data[at+1:]; len(data) == 0 || data[0] != '\n' {
			n++
		}
	}
}

// line is where a line begins, counted from 0, and what it reads without its end.
func (l lines) line(n int) (start int, line []byte) {
	if l.starts == nil {
		if n >= l.doc.Lines() {
			return l.doc.Len(), nil
		}
		return l.doc.Offset(n+1, 1), l.doc.Line(n + 1)
	}
	if n >= len(l.starts) {
		return l.doc.Len(), nil
	}
	end := l.doc.Len()
	if n+1 < len(l.starts) {
		end = l.starts[n+1]
	}
	return l.starts[n], bytes.TrimRight(l.doc.Slice(l.starts[n], end), "\r\n")
}

// offset is the byte offset of a position; beyond the end of a line it is that, and beyond the last line the end of the text.
func (l lines) offset(p protocol.Position) int {
	start, line := l.line(int(p.Line))
	return start + l.units.bytes(line, p.Character)
}

// position is where a byte offset lies.
func (l lines) position(offset int) protocol.Position {
	offset = min(max(offset, 0), l.doc.Len())
	n := 0
	if l.starts != nil {
		n = sort.SearchInts(l.starts, offset+1) - 1
	} else if last := l.doc.Slice(offset-1, offset); offset == l.doc.Len() && string(last) == "\n" {
		n = l.doc.Lines()
	} else {
		line, _ := l.doc.Position(offset)
		n = line - 1
	}
	start, line := l.line(n)
	return protocol.Position{Line: uint32(n), Character: uint32(l.units.count(line[:min(max(offset-start, 0), len(line))]))}
}

// span is where a run of bytes lies.
func (l lines) span(r place.Range) protocol.Range {
	return protocol.Range{Start: l.position(int(r.Start)), End: l.position(int(r.End))}
}

// bytesOf is the run of bytes of a range; of one that ends before it begins, nothing at its beginning.
func (l lines) bytesOf(r protocol.Range) place.Range {
	start, end := l.offset(r.Start), l.offset(r.End)
	return place.Range{Start: uint32(start), End: uint32(max(start, end))}
}
