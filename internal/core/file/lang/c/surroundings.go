package c

import (
	"bytes"
	"context"
	"hash/fnv"
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
	imports imports

	mu      sync.RWMutex
	headers map[string]*head
	macros  macroTable
	leads   map[lead]string
}

// lead is how a file of a folder names a header.
type lead struct{ folder, path string }

// head is what a header says to the files that include it.
type head struct {
	includes []string // their files
	digest   uint64   // of its macros
	names    []string // of them
}

// mostHeaders bounds how many headers are gone through for one file.
const mostHeaders = 3000

func around(l *lang.Language, p lang.Project) lang.Surroundings {
	return &surroundings{project: p, imports: l.Imports(p).(imports), headers: map[string]*head{}, leads: map[lead]string{}}
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
	s.mu.RLock()
	defer s.mu.RUnlock()
	for h := range headers {
		if is := s.headers[h]; is != nil {
			digest ^= is.digest
		}
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
	defer s.mu.RUnlock()
	return s.macros.among(name, headers)
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
	h := s.headers[p]
	if h == nil {
		h = s.read(p)
	}
	for _, i := range h.includes {
		s.visit(i, seen)
	}
}

// read reads a header, and those that it includes if they were not read yet. The lock is held.
func (s *surroundings) read(p string) *head {
	h := &head{}
	s.headers[p] = h // before it is read, since it may include itself
	text := s.project.Text(p)
	if isLarge(text) {
		sum := fnv.New64a()
		_, _ = sum.Write(text) // a hash cannot fail
		h.digest = sum.Sum64()
		return h
	}
	directives := preprocess.Read(text)
	for _, at := range directives.Includes() {
		i := s.header(p, at)
		h.includes = append(h.includes, i)
		if i != "" && s.headers[i] == nil {
			s.read(i)
		}
	}
	options := preprocess.Options{Known: s.below(p)}
	if w := s.words(p); w != nil {
		options.Defined, options.Removed = w.defined, w.removed
	}
	for name, m := range directives.Macros(isPlus(p, text), options) {
		h.digest ^= m.Digest(name)
		h.names = append(h.names, s.macros.add(name, p, m))
	}
	return h
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
		if !s.macros.has(name) {
			return nil
		}
		if within == nil {
			within = map[string]bool{p: true}
			for _, i := range s.headers[p].includes {
				s.visit(i, within)
			}
			delete(within, p)
		}
		return s.macros.among(name, within)
	}
}

// Says implements lang.Surroundings.
func (s *surroundings) Says(p string) (names []string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	h := s.headers[p]
	if h == nil {
		h = s.read(p)
	}
	return h.names
}

// Changed implements lang.Surroundings.
func (s *surroundings) Changed(p string) (names []string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	old := s.headers[p]
	if old == nil {
		return nil
	}
	delete(s.headers, p)
	before := map[string]*preprocess.Macro{}
	for _, name := range old.names {
		before[name] = s.macros.remove(name, p)
	}
	fresh := s.read(p)
	for name, m := range before {
		if !m.Same(s.macros.in(name, p)) {
			names = append(names, name)
		}
	}
	for _, name := range fresh.names {
		if before[name] == nil {
			names = append(names, name)
		}
	}
	return names
}
