// Package lexical tells comments and strings from code by the signs with which
// a language writes them. It reads a text from its beginning, in one pass, and
// needs no grammar: it is fast on large files and does not mind broken ones.
package lexical

import (
	"bytes"
	"path"
	"sort"
	"strings"

	"rooktrail/internal/core/place"
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

// style is how a language writes comments and strings.
type style struct {
	line   []string    // what begins a comment up to the end of the line
	block  [][2]string // what begins and ends a longer comment
	quotes [][2]string // what begins and ends a string, the longest first
	raw    string      // quotes in which a backslash is nothing special
	first  [256]bool   // the bytes with which one of these begins
}

var (
	braces = &style{line: []string{"//"}, block: [][2]string{{"/*", "*/"}}, quotes: [][2]string{{"\"", "\""}, {"'", "'"}, {"`", "`"}}, raw: "`"}
	hashes = &style{line: []string{"#"}, quotes: [][2]string{{`"""`, `"""`}, {"'''", "'''"}, {"\"", "\""}, {"'", "'"}}}
	styles = map[*style]string{
		braces: ".go .js .jsx .mjs .cjs .ts .tsx .mts .cts .java .c .h .cc .cpp .cxx .hpp .hh .cs .rs .kt .kts .swift .php .scala .dart .proto .css .scss .less .groovy .gradle",
		hashes: ".py .pyi .rb .sh .bash .zsh .pl .yaml .yml .toml .tf .hcl .r .ex .exs .nix .cmake .mk",
		{line: []string{"--"}, block: [][2]string{{"/*", "*/"}}, quotes: [][2]string{{"'", "'"}, {"\"", "\""}}}:                 ".sql",
		{line: []string{"--"}, block: [][2]string{{"--[[", "]]"}}, quotes: [][2]string{{"\"", "\""}, {"'", "'"}, {"[[", "]]"}}}: ".lua",
		{block: [][2]string{{"<!--", "-->"}}, quotes: [][2]string{{"\"", "\""}}}:                                                ".html .htm .xml .svg .vue",
	}
	byExtension = func() map[string]*style {
		m := map[string]*style{}
		for s, extensions := range styles {
			s.prepare()
			for _, e := range strings.Fields(extensions) {
				m[e] = s
			}
		}
		return m
	}()
)

// prepare notes with which bytes comments and strings begin.
func (s *style) prepare() {
	for _, l := range s.line {
		s.first[l[0]] = true
	}
	for _, pair := range append(append([][2]string{}, s.block...), s.quotes...) {
		s.first[pair[0][0]] = true
	}
}

// Known says whether it is known how the language of a file writes comments
// and strings.
func Known(file string) bool { return byExtension[strings.ToLower(path.Ext(file))] != nil }

// Of reads the runs of a text. The file's name tells the language; of one that
// is not known there are none.
func Of(file string, text []byte) Runs {
	s := byExtension[strings.ToLower(path.Ext(file))]
	if s == nil {
		return nil
	}
	var runs Runs
	for at := 0; at < len(text); {
		if !s.first[text[at]] {
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
func (s *style) piece(text []byte) (length int, run Run, ok bool) {
	for _, b := range s.block {
		if bytes.HasPrefix(text, []byte(b[0])) {
			return upTo(text, b[1], len(b[0])), Run{Role: Comment}, true
		}
	}
	for _, l := range s.line {
		if bytes.HasPrefix(text, []byte(l)) {
			if i := bytes.IndexByte(text, '\n'); i >= 0 {
				return i, Run{Role: Comment, Line: true}, true
			}
			return len(text), Run{Role: Comment, Line: true}, true
		}
	}
	for _, q := range s.quotes {
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
func (s *style) quoted(text []byte, open, end string) int {
	if s.raw == open || len(open) == 2 {
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
