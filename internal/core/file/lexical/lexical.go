// Package lexical tells comments and strings from code by the signs with which
// a language writes them. It reads a text from its beginning, in one pass, and
// needs no grammar: it is fast on large files and does not mind broken ones.
package lexical

import (
	"bytes"
	"sort"

	"rooktrail/internal/core/file/place"
)

// Role is what a run of text is.
type Role uint8

// The roles of runs.
const (
	Comment Role = iota
	String
)

// Run is a comment or a string, its signs included.
type Run struct {
	At   place.Range
	Role Role
	// Line says that it is a comment that ends with its line.
	Line bool
}

// Runs are those of a text, in order and without overlaps. What lies between
// them is code.
type Runs []Run

// From returns the runs from the first that ends behind the offset.
func (r Runs) From(offset int) Runs {
	return r[sort.Search(len(r), func(i int) bool { return int(r[i].At.End) > offset }):]
}

// At returns the run that holds the byte at an offset; ok is false if that is
// code.
func (r Runs) At(offset int) (run Run, ok bool) {
	rest := r.From(offset)
	if len(rest) == 0 || int(rest[0].At.Start) > offset {
		return Run{}, false
	}
	return rest[0], true
}

// Bare is a text as long with blanks for its comments, and with nothing but quotes for what is quoted, so that what is found in
// it is code.
func (s *Signs) Bare(text []byte) []byte {
	code := bytes.Clone(text)
	for _, run := range s.Runs(text) {
		for i := run.At.Start; i < run.At.End; i++ {
			switch {
			case run.Role == String:
				code[i] = '"'
			case code[i] != '\n':
				code[i] = ' '
			}
		}
	}
	return code
}

// Runs reads the runs of a text. Without signs there are none.
func (s *Signs) Runs(text []byte) (runs Runs) {
	if s == nil {
		return nil
	}
	first := s.first()
	for at := 0; at < len(text); {
		if !first[text[at]] {
			at++
			continue
		}
		length, run, ok := s.piece(text[at:])
		if ok {
			run.At = place.Range{Start: uint32(at), End: uint32(at + length)}
			runs = append(runs, run)
		}
		at += length
	}
	return runs
}

// piece reads what begins a text: a comment, a string, or a byte of code.
func (s *Signs) piece(text []byte) (length int, run Run, ok bool) {
	for _, c := range s.Code {
		if bytes.HasPrefix(text, []byte(c)) {
			return len(c), Run{}, false
		}
	}
	if n := s.char(text); n > 0 {
		return n, Run{Role: String}, true
	}
	for _, b := range s.Block {
		if bytes.HasPrefix(text, []byte(b[0])) {
			return upTo(text, b[1], len(b[0])), Run{Role: Comment}, true
		}
	}
	for _, l := range s.Line {
		if bytes.HasPrefix(text, []byte(l)) {
			if i := bytes.IndexByte(text, '\n'); i >= 0 {
				return i, Run{Role: Comment, Line: true}, true
			}
			return len(text), Run{Role: Comment, Line: true}, true
		}
	}
	for _, q := range s.Quotes {
		if bytes.HasPrefix(text, []byte(q[0])) {
			return s.quoted(text, q[0], q[1]), Run{Role: String}, true
		}
	}
	return 1, Run{}, false
}

func upTo(text []byte, end string, from int) int {
	if i := bytes.Index(text[from:], []byte(end)); i >= 0 {
		return from + i + len(end)
	}
	return len(text)
}

// quoted is the length of a string. One that is quoted by a single sign and
// not closed on its line ends there: it was none, or is broken.
func (s *Signs) quoted(text []byte, open, end string) int {
	if s.Raw == open || len(open) == 2 {
		return upTo(text, end, len(open))
	}
	for i := len(open); i < len(text); i++ {
		switch {
		case text[i] == '\\':
			i++
		case bytes.HasPrefix(text[i:], []byte(end)):
			return i + len(end)
		case text[i] == '\n' && len(open) == 1:
			return i
		}
	}
	return len(text)
}
