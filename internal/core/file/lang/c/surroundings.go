package c

import (
	"bytes"
	"context"
	"hash/fnv"
	"iter"
	"path"
	"slices"
	"strconv"
	"strings"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/c/preprocess"
	"rooktrail/internal/core/file/lang/reader"
)

// surroundings know the macros of the headers of a project. A header is read for them when the first file asks that
// includes it.
type surroundings struct {
	project lang.Project
	indexed lang.Indexed // what is known of the project; nil for nothing
	imports imports

	mu       sync.RWMutex
	headers  map[string]*head
	macros   macroTable
	leads    map[lead]string
	defining map[string][]string // by name the headers that define a macro of it, as far as the index was asked
}

// head is what a header says to the files that include it.
type head struct {
	read     bool     // else only what it includes is known
	later    bool     // its macros are judged when they are asked for, and its digest and its names are not known
	includes []string // their files
	digest   uint64   // of its macros
	names    names    // of them
}

// names are those of macros, one behind the other, each with a line end: of millions of them a list would take more than they do.
type names string

func (n names) each() iter.Seq[string] {
	return func(yield func(string) bool) {
		for line := range strings.Lines(string(n)) {
			if !yield(line[:len(line)-1]) {
				return
			}
		}
	}
}

// mostHeaders bounds how many headers are gone through for one file.
const mostHeaders = 3000

func around(l *lang.Language, p lang.Project) lang.Surroundings {
	indexed, _ := p.(lang.Indexed)
	return &surroundings{project: p, indexed: indexed, imports: l.Imports(p).(imports), headers: map[string]*head{}, leads: map[lead]string{}, defining: map[string][]string{}}
}

// Facts implements lang.Surroundings.
func (s *surroundings) Facts(ctx context.Context, as *lang.Language, p string, text []byte) (*facts.File, error) {
	l := plain
	if as.Name == plusName || path.Ext(p) == headerEnding && onlyPlus(text) {
		l = plus
	}
	if f := tableOf(l.Name, text); f != nil {
		return f, nil
	}
	headers := s.included(p, text)
	options := preprocess.Options{Known: func(name string) *preprocess.Macro { return s.known(name, headers) }}
	if w := s.words(p); w != nil {
		options.Defined, options.Removed = w.defined, w.removed
	}
	prepared := preprocess.Prepare(text, l == plus, options)
	return l.FactsOf(ctx, text, reader.Prepared{Text: prepared.Text, Hidden: prepared.Hidden, Origin: prepared})
}

// Digest implements lang.Surroundings.
func (s *surroundings) Digest(p string, text []byte) string {
	var digest uint64
	headers := s.included(p, text)
	s.mu.Lock()
	defer s.mu.Unlock()
	for h := range headers {
		digest ^= s.wholly(h).digest
	}
	if w := s.words(p); w != nil {
		digest ^= w.digest
	}
	return strconv.FormatUint(digest, 36)
}

// words are what the build says of a file of the project.
func (s *surroundings) words(p string) *buildWords {
	if path.IsAbs(p) {
		return nil
	}
	return s.imports.build.of(p)
}

// Words implements lang.Surroundings.
func (s *surroundings) Words() string { return s.imports.build.digest() }

// headerEnding is that of headers of C and of C++.
const headerEnding = ".h"

// isPlus says whether a header is read as one of C++.
func isPlus(p string, text []byte) bool {
	return slices.Contains(plusHeaders, path.Ext(p)) || slices.Contains(plusFiles, path.Ext(p)) || onlyPlus(text)
}

// included are the headers of the project that a file includes, and those that they include.
func (s *surroundings) included(p string, text []byte) map[string]bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	seen := map[string]bool{p: true}
	for _, at := range s.words(p).before() {
		s.visit(at, seen)
	}
	for _, at := range preprocess.Includes(text) {
		s.visit(s.header(p, at), seen)
	}
	delete(seen, p) // its own macros count from where they are defined
	return seen
}

// known is the macro of a name among those of some headers.
func (s *surroundings) known(name string, headers map[string]bool) *preprocess.Macro {
	s.mu.RLock()
	defining, asked := s.defining[name]
	asked = asked && !slices.ContainsFunc(defining, func(p string) bool { return headers[p] && !s.headers[p].read })
	m := s.macros.among(name, headers)
	settled := m == nil || m.Settled() && m.Settle()
	s.mu.RUnlock()
	if settled && (s.indexed == nil || asked || m != nil) {
		return m
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.learn(name, headers)
	if m = s.macros.among(name, headers); m != nil && !m.Settle() {
		return nil
	}
	return m
}

// learn reads those of some headers that define a macro of the name, if they were not read yet. The lock is held.
func (s *surroundings) learn(name string, headers map[string]bool) {
	for _, p := range s.definers(name) {
		if h := s.headers[p]; headers[p] && h != nil && !h.read {
			s.read(p, h, true)
		}
	}
}

// definers are the headers that define a macro of a name, as the index knows them. The lock is held.
func (s *surroundings) definers(name string) []string {
	if s.indexed == nil {
		return nil
	}
	defining, asked := s.defining[name]
	if !asked {
		var ok bool
		if defining, ok = s.indexed.Defining(name, facts.Macro); ok {
			s.defining[strings.Clone(name)] = defining // or the text that it stands in would be kept
		}
	}
	return defining
}

// header is where an include of a file leads; "" if nowhere, or out of the project. The lock is held.
func (s *surroundings) header(file, included string) string {
	from := lead{path.Dir(file), included}
	if p, known := s.leads[from]; known {
		return p
	}
	p := s.imports.Module(file, facts.Imported{Path: included, Name: "*"})
	if path.IsAbs(p) && !path.IsAbs(file) {
		p = ""
	}
	from.path = strings.Clone(included) // or the text that it stands in would be kept
	s.leads[from] = p
	return p
}

// visit reads a header, if it was not read yet, and those that it includes. The lock is held.
func (s *surroundings) visit(p string, seen map[string]bool) {
	if p == "" || seen[p] || len(seen) > mostHeaders {
		return
	}
	seen[p] = true
	for _, i := range s.head(p).includes {
		s.visit(i, seen)
	}
}

// head is what a header includes, and what else is known of it by now. The lock is held.
func (s *surroundings) head(p string) *head {
	if h := s.headers[p]; h != nil {
		return h
	}
	h := &head{}
	s.headers[p] = h // before it is read, since it may include itself
	if s.indexed != nil {
		if includes, ok := s.indexed.Includes(p); ok {
			for _, i := range includes {
				if i.Name == "*" {
					h.includes = append(h.includes, s.header(p, i.Path))
				}
			}
			return h
		}
	}
	s.read(p, h, false)
	return h
}

// wholly is a header that was read, with its digest and its names. The lock is held.
func (s *surroundings) wholly(p string) *head {
	h := s.head(p)
	if h.later {
		for name := range h.names.each() {
			s.macros.remove(name, p)
		}
		h.read, h.later, h.names = false, false, ""
	}
	if !h.read {
		s.read(p, h, false)
	}
	return h
}

// read reads a header, and those that it includes if nothing is known of them yet. What becomes of its macros may be left for later,
// when somebody asks for them, since that leads to most of the other headers. The lock is held.
func (s *surroundings) read(p string, h *head, later bool) {
	h.read, h.includes = true, nil
	text := s.project.Text(p)
	if isLarge(text) {
		sum := fnv.New64a()
		_, _ = sum.Write(text) // a hash cannot fail
		h.digest = sum.Sum64()
		return
	}
	directives := preprocess.Read(text)
	for _, at := range directives.Includes() {
		i := s.header(p, at)
		h.includes = append(h.includes, i)
		if i != "" {
			s.head(i)
		}
	}
	options := preprocess.Options{Known: s.below(p)}
	if w := s.words(p); w != nil {
		options.Defined, options.Removed = w.defined, w.removed
	}
	var all strings.Builder
	defer func() { h.names = names(strings.Clone(all.String())) }() // it grew by more than it needs
	add := func(name string, m *preprocess.Macro) {
		s.macros.add(name, p, m)
		all.WriteString(name + "\n")
	}
	if later {
		if macros, ok := directives.Unsettled(isPlus(p, text), options); ok {
			h.later = true
			for name, m := range macros {
				add(name, m)
			}
			return
		}
	}
	for name, m := range directives.Macros(isPlus(p, text), options) {
		h.digest ^= m.Digest(name)
		add(name, m)
	}
}

// largeTable is from how many macros on those of a table are numbers that no other file is read by.
const largeTable = 10_000

func isLarge(text []byte) bool {
	return bytes.Count(text, []byte("#define ")) >= largeTable && tableOf(plainName, text) != nil
}

// below finds macros in the headers that a header includes, which are gone through once somebody asks for a name that some
// header defines. The lock is held.
func (s *surroundings) below(p string) func(name string) *preprocess.Macro {
	var within map[string]bool
	return func(name string) *preprocess.Macro {
		if !s.macros.has(name) && len(s.definers(name)) == 0 {
			return nil
		}
		if within == nil {
			within = map[string]bool{p: true}
			for _, i := range s.head(p).includes {
				s.visit(i, within)
			}
			delete(within, p)
		}
		s.learn(name, within)
		m := s.macros.among(name, within)
		if m != nil && !m.IsShort() && !m.Settle() {
			return nil
		}
		return m
	}
}

// Says implements lang.Surroundings.
func (s *surroundings) Says(p string) (names []string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return slices.Collect(s.wholly(p).names.each())
}

// Changed implements lang.Surroundings.
func (s *surroundings) Changed(p string) (names []string, known bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	old := s.headers[p]
	delete(s.headers, p) // what it includes, too
	clear(s.defining)
	if old == nil || !old.read {
		return nil, false
	}
	before := map[string]*preprocess.Macro{}
	for name := range old.names.each() {
		before[name] = s.macros.remove(name, p)
	}
	fresh := s.wholly(p)
	for name, m := range before {
		if !m.Same(s.macros.in(name, p)) {
			names = append(names, name)
		}
	}
	for name := range fresh.names.each() {
		if before[name] == nil {
			names = append(names, name)
		}
	}
	return names, true
}
