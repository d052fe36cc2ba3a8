// Package shared finds the names that files of several languages have in common though no language resolves them:
// classes and ids of pages, style sheets and scripts, templates, keys of configuration and the fields that take them,
// variables of the environment, the addresses that a server answers, tables and columns. It goes by how a text is
// written, and by what stands around a string, not by types: what it finds is known by name.
package shared

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
)

// Reader finds the shared names of a file by its text and its facts, in no particular order.
type Reader func(text []byte, f *facts.File) []facts.Shared

// Nothing is the Reader of languages without such names.
func Nothing([]byte, *facts.File) []facts.Shared { return nil }

// All is the Reader that finds what several find.
func All(readers ...Reader) Reader {
	return func(text []byte, f *facts.File) (all []facts.Shared) {
		for _, r := range readers {
			all = append(all, r(text, f)...)
		}
		return all
	}
}

// Sort puts shared names in the order of a file, each once.
func Sort(all []facts.Shared) []facts.Shared {
	slices.SortStableFunc(all, func(a, b facts.Shared) int {
		return cmp.Or(cmp.Compare(a.At.Start, b.At.Start), cmp.Compare(a.Realm, b.Realm), strings.Compare(a.Name, b.Name))
	})
	return slices.CompactFunc(all, func(a, b facts.Shared) bool { return a.At == b.At && a.Realm == b.Realm && a.Name == b.Name })
}

// InCode is the Reader of a language of programs, whose strings say some of those names, by what they are given to.
func InCode(signs *lexical.Signs) Reader {
	return func(text []byte, f *facts.File) []facts.Shared {
		s := &scanner{text: text}
		s.program(signs, f)
		return s.found
	}
}

// program reads a text of code.
func (s *scanner) program(signs *lexical.Signs, f *facts.File) {
	at := 0
	for _, run := range signs.Runs(s.text) {
		s.code(at, int(run.At.Start))
		if at = int(run.At.End); run.Role == lexical.String {
			s.literal(run.At)
		}
	}
	s.code(at, len(s.text))
	s.members(f)
}

// opened is a bracket that is open.
type opened struct {
	sign byte
	at   int // its offset
	// argument counts the commas since.
	argument int
	told     bool
	front
}

// front is what stands in front of a bracket: what is called, looked into, or given a value.
type front struct {
	// word is the name in front, with those in front of that, joined with dots; of a brace, the attribute whose value begins.
	word string
	// attribute says that the word is that of an attribute, decorator that a call is one.
	attribute, decorator bool
	taking               taking
}

// scanner goes through a text from its beginning.
type scanner struct {
	text []byte
	// markup says that elements with attributes may stand in it.
	markup bool
	// sheets are the endings of style sheets that may be imported.
	sheets []string
	open   []opened
	found  []facts.Shared
}

func (s *scanner) add(realm facts.Realm, name string, start, end int, given bool) {
	if strings.Trim(name, facts.Built+"-_/") == "" {
		return
	}
	s.found = append(s.found, facts.Shared{Realm: realm, Name: name, At: place.Range{Start: uint32(start), End: uint32(end)}, Given: given})
}

// deepest bounds how many open brackets are kept.
const deepest = 200

// code goes through a piece of code between two strings or comments.
func (s *scanner) code(from, to int) {
	if s.markup {
		s.elementNames(from, to)
	}
	for i := from; i < to; i++ {
		c := s.text[i]
		if !isSign[c] {
			continue
		}
		switch c {
		case '(', '[', '{':
			if len(s.open) < deepest {
				s.open = append(s.open, opened{sign: c, at: i})
			}
		case ')', ']', '}':
			s.close(c)
		case ',':
			if n := len(s.open); n > 0 {
				s.open[n-1].argument++
			}
		case ';':
			for len(s.open) > 0 && s.open[len(s.open)-1].sign == '[' { // one that was none
				s.open = s.open[:len(s.open)-1]
			}
		}
	}
}

// isSign are the signs that code looks at.
var isSign = func() (is [256]bool) {
	for _, c := range []byte("()[]{},;") {
		is[c] = true
	}
	return is
}()

var opening = map[byte]byte{')': '(', ']': '[', '}': '{'}

// close takes away the bracket that is closed, with those within it that were never closed.
func (s *scanner) close(c byte) {
	for n := len(s.open) - 1; n >= 0; n-- {
		if s.open[n].sign == opening[c] {
			s.open = s.open[:n]
			return
		}
	}
}

// before says what stands in front of a bracket, which is worked out once a string stands in it.
func (s *scanner) before(o *opened) {
	if o.told {
		return
	}
	o.told = true
	if o.sign == '{' {
		if name, tight, ok := s.attributeBefore(o.at); ok && tight {
			o.word, o.attribute = name, true
		}
		return
	}
	start, word := s.chainBefore(o.at)
	o.word, o.decorator, o.taking = word, start > 0 && s.text[start-1] == '@', taken(word)
}

// chainBefore is the name that ends at an offset, with those in front of it, joined with dots.
func (s *scanner) chainBefore(at int) (start int, chain string) {
	i := at
	for i > 0 && i > at-maxChain && (isName(s.text[i-1]) || strings.IndexByte(".:>?!", s.text[i-1]) >= 0 || s.text[i-1] == '-' && i < at && s.text[i] == '>') {
		i--
	}
	chain = joints.Replace(string(s.text[i:at]))
	return i, strings.Trim(chain, ".")
}

const maxChain = 80

var joints = strings.NewReplacer("::", ".", "->", ".", "?.", ".", "!", "", "?", "", ":", ".", ">", "")

func isName(c byte) bool {
	return c == '_' || c == '$' || '0' <= c && c <= '9' || 'a' <= c|0x20 && c|0x20 <= 'z' || c >= 0x80
}

// attributeBefore is the name of the attribute whose value begins at an offset; tight says that no blanks stand between, as in
// elements.
func (s *scanner) attributeBefore(at int) (name string, tight, ok bool) {
	i := at
	for i > 0 && (s.text[i-1] == ' ' || s.text[i-1] == '\t') {
		i--
	}
	if i == 0 || s.text[i-1] != '=' {
		return "", false, false
	}
	tight = i == at
	for i--; i > 0 && (s.text[i-1] == ' ' || s.text[i-1] == '\t'); i-- {
	}
	end := i
	for i > 0 && end-i < maxChain && (isName(s.text[i-1]) || s.text[i-1] == '-' || s.text[i-1] == ':' || s.text[i-1] == '@') {
		i--
	}
	return string(s.text[i:end]), tight && s.text[end] == '=', i < end
}

// literal reads a string, its quotes included.
func (s *scanner) literal(at place.Range) {
	inner := s.inner(at)
	if inner.Len() <= 0 || inner.Len() > longestLiteral || inner.Start == at.Start {
		return // or it is not closed
	}
	value := inner.In(s.text)
	switch {
	case s.text[inner.Start-1] == '`' && tagged.Match(value):
		s.tags(int(inner.Start), value)
		return
	case isStatement(value):
		s.statement(int(inner.Start), value)
		return
	}
	if name, tight, ok := s.attributeBefore(s.prefixed(int(at.Start))); ok {
		if tight && s.attribute(name, int(inner.Start), int(inner.End), code) {
			return
		}
		s.option(name, int(inner.Start), string(value))
	}
	s.given(inner, s.follows(int(at.End)))
	if s.markup && prefixed.Match(value) {
		s.classes(int(inner.Start), value)
	}
}

// prefixed is what a class looks like that is put together of what stands before all of them and its own name.
var prefixed = regexp.MustCompile(`^\$\{[\w.]+\}-[a-z][\w-]*$`)

const longestLiteral = 4000

// inner is a string without its quotes.
func (s *scanner) inner(at place.Range) place.Range {
	for at.Len() >= 2 && strings.IndexByte("\"'`", s.text[at.Start]) >= 0 && s.text[at.Start] == s.text[at.End-1] {
		at.Start, at.End = at.Start+1, at.End-1
	}
	return at
}

// prefixed is where a string begins with the letters in front of its quotes that say of which kind it is.
func (s *scanner) prefixed(at int) int {
	i := at
	for i > 0 && at-i < 2 && strings.IndexByte("fFrRbBuU$@", s.text[i-1]) >= 0 {
		i--
	}
	if i < at && i > 0 && isName(s.text[i-1]) {
		return at
	}
	return i
}

// follows says whether more is put behind a string that ends at an offset.
func (s *scanner) follows(at int) bool {
	rest := strings.TrimLeft(string(s.text[at:min(len(s.text), at+8)]), " \t\r\n")
	return strings.HasPrefix(rest, "+") || strings.HasPrefix(rest, ". $")
}
