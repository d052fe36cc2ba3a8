// Package index keeps what the files of a project define, so that a symbol is
// found by what one remembers of its name, or by its exact name, without
// reading the files again.
package index

import (
	"bytes"
	"context"
	"maps"
	"slices"
	"sync"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/fuzzy"
)

// Symbol is a definition by which people look for code.
type Symbol struct {
	Name      string
	Container string
	Kind      facts.Kind
	Path      string
	// Line counts from 1, Offset counts bytes from 0.
	Line   int
	Offset int
}

// Qualified is the symbol's name behind that of its container.
func (s *Symbol) Qualified() string {
	if s.Container == "" {
		return s.Name
	}
	return s.Container + "." + s.Name
}

// Index is the symbols of all files that were put in. The zero Index is empty.
// It may be used by several goroutines.
type Index struct {
	mu      sync.RWMutex
	corpus  fuzzy.Corpus // text number i belongs to entries[i]
	entries []entry
	byName  map[string][]int32
	paths   []string
	files   map[string]*file
}

// entry is a symbol without its name, which the corpus holds.
type entry struct {
	file   int32
	line   uint32
	offset uint32
	kind   facts.Kind
}

type file struct {
	number  int32
	symbols []int32
}

// SymbolsOf lists the symbols of a file, given its text and facts.
func SymbolsOf(path string, text []byte, f *facts.File) []Symbol {
	ids := f.Symbols()
	symbols := make([]Symbol, len(ids))
	line, at := 1, 0
	for i, id := range ids {
		d := &f.Defs[id]
		if start := int(d.At.Start); start > at && start <= len(text) {
			line += bytes.Count(text[at:start], []byte{'\n'})
			at = start
		}
		symbols[i] = Symbol{Name: d.Name, Container: d.Container, Kind: d.Kind, Path: path, Line: line, Offset: int(d.At.Start)}
	}
	return symbols
}

// Reserve makes room for so many symbols more, which saves moving those that
// are there again and again.
func (x *Index) Reserve(symbols int) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.entries = slices.Grow(x.entries, symbols)
	x.corpus.Reserve(symbols)
	if x.byName == nil {
		x.files, x.byName = map[string]*file{}, make(map[string][]int32, symbols/2)
	}
}

// Put takes in the symbols of a file in place of those it had.
func (x *Index) Put(path string, symbols []Symbol) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.put(path, symbols)
}

// PutAll is Put for many files, given by their paths, in the order of these.
func (x *Index) PutAll(files map[string][]Symbol) {
	x.mu.Lock()
	defer x.mu.Unlock()
	for _, path := range slices.Sorted(maps.Keys(files)) {
		x.put(path, files[path])
	}
}

func (x *Index) put(path string, symbols []Symbol) {
	f := x.file(path)
	x.drop(f)
	f.symbols = slices.Grow(f.symbols, len(symbols))
	for i := range symbols {
		f.symbols = append(f.symbols, x.add(&symbols[i], f.number))
	}
}

// Remove forgets a file.
func (x *Index) Remove(path string) {
	x.mu.Lock()
	defer x.mu.Unlock()
	if f := x.files[path]; f != nil {
		x.drop(f)
	}
}

func (x *Index) file(path string) *file {
	if x.files == nil {
		x.files, x.byName = map[string]*file{}, map[string][]int32{}
	}
	f := x.files[path]
	if f == nil {
		f = &file{number: int32(len(x.paths))}
		x.paths = append(x.paths, path)
		x.files[path] = f
	}
	return f
}

func (x *Index) add(s *Symbol, file int32) int32 {
	id := int32(len(x.entries))
	base := len(s.Container)
	if base > 0 {
		base++
	}
	x.corpus.Add(s.Qualified(), base)
	x.entries = append(x.entries, entry{file: file, line: uint32(s.Line), offset: uint32(s.Offset), kind: s.Kind})
	x.byName[s.Name] = append(x.byName[s.Name], id)
	return id
}

// gone is the file number of an entry whose file has changed or vanished.
const gone = -1

func (x *Index) drop(f *file) {
	for _, id := range f.symbols {
		x.entries[id].file = gone
	}
	f.symbols = nil
}

// Len is the number of symbols.
func (x *Index) Len() int {
	x.mu.RLock()
	defer x.mu.RUnlock()
	return len(x.entries)
}

// In returns the offsets at which the symbols of a file are named, ascending.
func (x *Index) In(path string) []int {
	x.mu.RLock()
	defer x.mu.RUnlock()
	f := x.files[path]
	if f == nil {
		return nil
	}
	offsets := make([]int, len(f.symbols))
	for i, id := range f.symbols {
		offsets[i] = int(x.entries[id].offset)
	}
	slices.Sort(offsets)
	return offsets
}

// Names returns the qualified names of all symbols.
func (x *Index) Names() []string {
	x.mu.RLock()
	defer x.mu.RUnlock()
	names := make([]string, 0, len(x.entries))
	for id, e := range x.entries {
		if e.file != gone {
			text, _ := x.corpus.Text(id)
			names = append(names, text)
		}
	}
	return names
}

// Named returns all symbols of exactly this name.
func (x *Index) Named(name string) []Symbol {
	x.mu.RLock()
	defer x.mu.RUnlock()
	var out []Symbol
	for _, id := range x.byName[name] {
		if x.entries[id].file != gone {
			out = append(out, x.symbol(int(id)))
		}
	}
	return out
}

// Hit is a symbol that a query found, with the matched letters of its
// qualified name.
type Hit struct {
	Symbol
	Match fuzzy.Match
}

// Search returns the best hits for a query, best first, at most limit. A query
// that is one plain word is looked for in the names themselves, and in
// qualified names only if that finds nothing. Only where few are found are
// slips forgiven.
func (x *Index) Search(ctx context.Context, q fuzzy.Query, limit int) []Hit {
	x.mu.RLock()
	defer x.mu.RUnlock()
	scope := fuzzy.Bases
	if q.Reaches() {
		scope = fuzzy.Whole
	}
	found := x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Search(ctx, q, scope, limit) })
	if len(found) == 0 && scope == fuzzy.Bases {
		found = x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Search(ctx, q, fuzzy.Whole, limit) })
	}
	found = x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Forgive(ctx, q, scope, limit, found) })
	hits := make([]Hit, 0, len(found))
	for _, h := range found {
		s := x.symbol(h.Index)
		m, _ := q.Match(s.Qualified(), len(s.Qualified())-len(s.Name))
		m.Score, m.Slip = h.Score, h.Slip
		hits = append(hits, Hit{Symbol: s, Match: m})
	}
	return hits
}

// present leaves out of a search what is gone, looking further for as much as
// that was.
func (x *Index) present(limit int, search func(limit int) []fuzzy.Hit) []fuzzy.Hit {
	for ask := limit; ; ask *= 4 {
		hits := search(ask)
		kept := hits[:0:0]
		for _, h := range hits {
			if x.entries[h.Index].file != gone && len(kept) < limit {
				kept = append(kept, h)
			}
		}
		if len(kept) == limit || len(hits) < ask {
			return kept
		}
	}
}

func (x *Index) symbol(id int) Symbol {
	e := x.entries[id]
	text, base := x.corpus.Text(id)
	s := Symbol{Name: text[base:], Kind: e.kind, Path: x.paths[e.file], Line: int(e.line), Offset: int(e.offset)}
	if base > 0 {
		s.Container = text[:base-1]
	}
	return s
}
