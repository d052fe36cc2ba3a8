// Package index keeps what the files of a project define, so that a symbol is
// found by what one remembers of its name, or by its exact name, without
// reading the files again. What was read earlier lies in segments on disk, which are asked where they lie; what was read
// since is in memory, until it is written as a segment.
package index

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/project"
)

// Symbol is a definition by which people look for code.
type Symbol struct {
	Name      string
	Container string
	Kind      facts.Kind
	// Aside says that something else of its name is rather meant: it only declares what
	// is written out elsewhere, or it is not built.
	Aside bool
	Path  string
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

// Index is the symbols of all files that were put in, and the names each of
// these mentions. The zero Index is empty. It may be used by several
// goroutines.
type Index struct {
	mu     sync.RWMutex
	memory memory
	layers []*layer // the oldest first
	lost   atomic.Bool
	// narrowed is what was looked for last, by how much of each name was looked at.
	narrowed [2]fuzzy.Narrowing
}

// Open takes in what the segments know, of the oldest first: what the newest says of a file.
func (x *Index) Open(segments []*Segment) {
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	for _, s := range segments {
		x.layers = append(x.layers, newLayer(s))
	}
	for i, newer := range x.layers {
		for _, older := range x.layers[:i] {
			from := 0
			for f := range newer.files {
				at, ok := older.find(newer.path(f), from)
				if from = at; ok {
					older.dropAll(at)
				}
			}
		}
	}
}

// guard is to be deferred by whoever looks at segments; see guarded.
func (x *Index) guard() func() { return guarded(func() { x.lost.Store(true) }) }

// Damaged says that a segment is not as it was written: then answers may lack something, and what is known is to be made anew.
func (x *Index) Damaged() bool {
	x.mu.RLock()
	defer x.mu.RUnlock()
	return x.lost.Load() || slices.ContainsFunc(x.layers, func(l *layer) bool { return l.damaged.Load() })
}

// Close ends the use of the segments. The index is empty then.
func (x *Index) Close() {
	x.mu.Lock()
	defer x.mu.Unlock()
	for _, l := range x.layers {
		_ = l.close() // nothing was written
	}
	x.layers, x.memory = nil, memory{}
	x.lost.Store(false)
}

// Confirmed is what is known of a file that is how it was.
type Confirmed struct {
	// OK says that something is.
	OK      bool
	Content Content
	// GivenUp and Again are those of the summary.
	GivenUp string
	Again   int64
}

// Confirm says that files are how they are given; what is known of them otherwise is not live any more. It gives back what is known
// of each. It costs least if they are in the order of their paths.
func (x *Index) Confirm(files []project.File) []Confirmed {
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	found := make([]Confirmed, len(files))
	from := make([]int, len(x.layers))
	for i, f := range files {
		if i > 0 && f.Path < files[i-1].Path {
			clear(from)
		}
		found[i] = x.confirm(&f, from)
	}
	return found
}

func (x *Index) confirm(f *project.File, from []int) (c Confirmed) {
	if m := x.memory.files[f.Path]; m != nil && m.summary != nil {
		return c // which is newer than any segment
	}
	for n, l := range slices.Backward(x.layers) {
		at, ok := l.find(f.Path, from[n])
		for from[n] = at; ok && at < l.files && l.path(at) == f.Path; at++ {
			r := l.record(at)
			if c.OK || r.size != f.Size || r.modified != f.Modified {
				l.drop(at)
				continue
			}
			l.revive(at)
			l.confirmed.add(at)
			c = Confirmed{OK: true, Content: r.content, Again: r.again, GivenUp: l.givenUp(&r)}
		}
	}
	return c
}

// Retain lets go of all that the segments know of files that were not confirmed.
func (x *Index) Retain() {
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	for _, l := range x.layers {
		for f := range l.files {
			if l.live.has(f) && !l.confirmed.has(f) {
				l.drop(f)
			}
		}
	}
}

// WithContent is what is known of a file of that content, whatever its path; nil if nothing is.
func (x *Index) WithContent(c Content) (s *Summary) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	for _, l := range slices.Backward(x.layers) {
		l.withContent(c, func(file int) bool {
			s = l.summary(file)
			return false
		})
		if s != nil && !l.damaged.Load() {
			return s
		}
	}
	return nil
}

// Settle takes up a segment that was written of what was in memory, and lets go of that.
func (x *Index) Settle(s *Segment, known map[string]Known) {
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	l := newLayer(s)
	for i := range s.files {
		path := s.path(i)
		if f := x.memory.files[path]; f != nil && f.summary == known[path].Summary {
			x.memory.remove(path)
			l.confirmed.add(i)
		} else {
			l.drop(i) // it has changed meanwhile
		}
	}
	x.layers = append(x.layers, l)
	x.memory = x.memory.without()
}

// Merge makes one of several segments if there are many; at rest, if there are some of about one size. done says that none was made.
func (x *Index) Merge(ctx context.Context, in *Segments, atRest bool) (done bool, err error) {
	x.mu.RLock()
	sizes := make([]int, len(x.layers))
	for i, l := range x.layers {
		sizes[i] = l.symbols
	}
	from, ok := toMerge(sizes, atRest)
	var merged []*layer
	var segments []*Segment
	var live []bitset
	if ok {
		merged = slices.Clone(x.layers[from:])
		for _, l := range merged {
			segments, live = append(segments, l.Segment), append(live, slices.Clone(l.live))
		}
	}
	x.mu.RUnlock()
	if !ok {
		return true, nil
	}
	s, numbers, err := in.merge(ctx, segments, live)
	if err != nil {
		return true, err
	}
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	l, ok := successor(s, merged, numbers)
	if !ok {
		return true, s.close()
	}
	for _, m := range merged {
		_ = m.close() // nothing was written
	}
	x.layers = slices.Replace(x.layers, from, from+len(merged), l)
	return false, nil
}

// successor is the layer of a segment that was made of others; ok is false if it does not have all that is live by now.
func successor(s *Segment, merged []*layer, numbers [][]int32) (l *layer, ok bool) {
	l = &layer{Segment: s, live: newBitset(s.files), confirmed: newBitset(s.files)}
	for i, m := range merged {
		for f, n := range numbers[i] {
			switch {
			case !m.live.has(f):
			case n < 0:
				return nil, false
			default:
				l.revive(int(n))
				if m.confirmed.has(f) {
					l.confirmed.add(int(n))
				}
			}
		}
	}
	return l, true
}

// Reserve makes room for so many symbols more, which saves moving those that
// are there again and again.
func (x *Index) Reserve(symbols int) {
	x.mu.Lock()
	defer x.mu.Unlock()
	m := &x.memory
	m.entries = slices.Grow(m.entries, symbols)
	m.corpus.Reserve(symbols)
	m.byName.reserve(m.entries, len(m.entries)+symbols)
}

// Put takes in the summary of a file in place of the one it had. It fails if
// the summary is damaged; the file then has no symbols.
func (x *Index) Put(path string, s *Summary) error {
	return x.PutAll([]string{path}, []*Summary{s})
}

// PutAll is Put for many files, each with its summary.
func (x *Index) PutAll(paths []string, summaries []*Summary) error {
	batches, ends := fill(paths, summaries)
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	for _, p := range paths {
		x.forget(p)
	}
	return x.memory.takeAll(batches, ends, paths, summaries)
}

// forget lets go of what the segments know of a file.
func (x *Index) forget(path string) {
	for _, l := range x.layers {
		if at, ok := l.find(path, 0); ok {
			l.dropAll(at)
		}
	}
}

// Remove forgets a file.
func (x *Index) Remove(path string) {
	x.mu.Lock()
	defer x.mu.Unlock()
	defer x.guard()()
	x.forget(path)
	x.memory.remove(path)
}

// Len is the number of symbols, and some of those in memory that are gone.
func (x *Index) Len() int {
	x.mu.RLock()
	defer x.mu.RUnlock()
	n := len(x.memory.entries)
	for _, l := range x.layers {
		n += l.alive
	}
	return n
}

// InMemory is how many symbols there are of files that no segment has as they are.
func (x *Index) InMemory() (n int) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	for _, f := range x.memory.files {
		n += int(f.size)
	}
	return n
}

// Mentioning returns the files that may define or use the name, in
// alphabetical order; see Summary.Mentions.
func (x *Index) Mentioning(name string) (paths []string) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	hash := hashOf(name)
	for path, f := range x.memory.files {
		if f.summary != nil && f.summary.mentions(hash) {
			paths = append(paths, path)
		}
	}
	for _, l := range x.layers {
		l.mentioning(hash, func(file int) {
			if l.live.has(file) {
				paths = append(paths, l.path(file))
			}
		})
	}
	slices.Sort(paths)
	return paths
}

// Defining are the files that define something of exactly this name that is of a kind, in the order of their paths.
func (x *Index) Defining(name string, kind facts.Kind) (paths []string) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	x.memory.named(name, func(s Symbol) {
		if s.Kind == kind {
			paths = append(paths, s.Path)
		}
	})
	for _, l := range x.layers {
		if !l.mayHave(name, kind) {
			continue
		}
		l.named(name, func(id int) {
			if p, ok := l.place(id); ok && p.kind == kind && l.live.has(int(p.file)) {
				paths = append(paths, l.path(int(p.file)))
			}
		})
	}
	slices.Sort(paths)
	return slices.Compact(paths)
}

// live is where a segment has a file how it is.
func (x *Index) live(path string) (l *layer, file int) {
	for _, l := range slices.Backward(x.layers) {
		if file, ok := l.of(path); ok {
			return l, file
		}
	}
	return nil, 0
}

// Summary returns the summary of a file, or nil. It is not to be changed.
func (x *Index) Summary(path string) (s *Summary) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	if f := x.memory.files[path]; f != nil {
		return f.summary
	}
	if l, file := x.live(path); l != nil {
		return l.summary(file)
	}
	return nil
}

// Earlier is the summary of a file as it was when a segment took it in last, be it that it is not so any more, or nil.
func (x *Index) Earlier(path string) (s *Summary) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	for _, l := range slices.Backward(x.layers) {
		if file, ok := l.find(path, 0); ok && file < l.files && l.path(file) == path {
			return l.summary(file)
		}
	}
	return nil
}

// Head is Summary without the symbols, which costs less.
func (x *Index) Head(path string) (s *Summary) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	if f := x.memory.files[path]; f != nil {
		return f.summary
	}
	if l, file := x.live(path); l != nil {
		r := l.record(file)
		return l.head(&r)
	}
	return nil
}

// Imports are those of the summary of a file, read by themselves; ok is false if nothing is known of it, or it was given up.
func (x *Index) Imports(path string) (all []facts.Imported, ok bool) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	if f := x.memory.files[path]; f != nil {
		if f.summary == nil || f.summary.GivenUp != "" {
			return nil, false
		}
		_, all = f.summary.Imports()
		return all, true
	}
	l, file := x.live(path)
	if l == nil {
		return nil, false
	}
	r := l.record(file)
	if r.givenUpLen > 0 {
		return nil, false
	}
	_, all = (&Summary{imports: l.bytes(inImports, r.imports, r.importsLen)}).Imports()
	return all, true
}

// In returns the offsets at which the symbols of a file are named, ascending.
func (x *Index) In(path string) (offsets []int) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	if f := x.memory.files[path]; f != nil {
		for _, e := range x.memory.entries[f.first : f.first+f.size] {
			offsets = append(offsets, int(e.offset))
		}
	} else if l, file := x.live(path); l != nil {
		l.in(file, func(id int) {
			if p, ok := l.place(id); ok {
				offsets = append(offsets, int(p.offset))
			}
		})
	}
	slices.Sort(offsets)
	return offsets
}

// Names returns the qualified names of all symbols.
func (x *Index) Names() []string {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	var names []string
	for id, e := range x.memory.entries {
		if e.file != gone {
			text, _ := x.memory.corpus.Text(id)
			names = append(names, text)
		}
	}
	for _, l := range x.layers {
		for id := range l.symbols {
			if p, ok := l.place(id); ok && l.live.has(int(p.file)) {
				front, base, _ := l.text(id)
				names = append(names, string(front)+string(base))
			}
		}
	}
	return names
}

// Named returns all symbols of exactly this name, in the order of their paths and of
// where they stand, in whatever order the files were read.
func (x *Index) Named(name string) (out []Symbol) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	x.memory.named(name, func(s Symbol) { out = append(out, s) })
	for _, l := range x.layers {
		l.named(name, func(id int) {
			if p, ok := l.place(id); !ok || !l.live.has(int(p.file)) {
				return
			}
			if s, ok := l.symbol(id); ok {
				out = append(out, s)
			}
		})
	}
	slices.SortFunc(out, func(a, b Symbol) int { return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Offset, b.Offset)) })
	return out
}
