// Package index keeps what the files of a project define, so that a symbol is
// found by what one remembers of its name, or by its exact name, without
// reading the files again.
package index

import (
	"cmp"
	"context"
	"errors"
	"iter"
	"runtime"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/work"
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
	mu      sync.RWMutex
	corpus  fuzzy.Corpus // text number i belongs to entries[i]
	entries []entry
	byName  chains
	paths   []string
	files   map[string]*file
	behind  *Snapshot // what is known of all files that are not among these; nil for nothing
}

// entry is a symbol without its name, which the corpus holds.
type entry struct {
	file   int32
	line   uint32
	offset uint32
	hash   uint32 // of the name
	kind   facts.Kind
	aside  bool
}

type file struct {
	number      int32
	first, size int32 // its symbols among the entries
	summary     *Summary
}

// Reserve makes room for so many symbols more, which saves moving those that
// are there again and again.
func (x *Index) Reserve(symbols int) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.entries = slices.Grow(x.entries, symbols)
	x.corpus.Reserve(symbols)
	x.byName.reserve(x.entries, len(x.entries)+symbols)
}

// Recall lets the index know what a snapshot holds of files that are not put in.
// Nothing of it is read before it is asked for; what is looked for by parts of its
// name makes all of it be read.
func (x *Index) Recall(s *Snapshot) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.behind = s
}

// all takes in what is known by a snapshot only. The lock must be held.
func (x *Index) all() {
	if x.behind == nil {
		return
	}
	s := x.behind
	x.behind = nil
	var paths []string
	var summaries []*Summary
	for i := range s.Files {
		if p := s.Files[i].Path; x.files[p] == nil {
			if sum := s.Summary(int32(i)); sum != nil {
				paths, summaries = append(paths, p), append(summaries, sum)
			}
		}
	}
	_ = x.putAll(paths, summaries) // the sums of them were right
}

// reading locks the index for reading all that is in it.
func (x *Index) reading() (done func()) {
	x.mu.RLock()
	if x.behind == nil {
		return x.mu.RUnlock
	}
	x.mu.RUnlock()
	x.mu.Lock()
	x.all()
	return x.mu.Unlock
}

// Put takes in the summary of a file in place of the one it had. It fails if
// the summary is damaged; the file then has no symbols.
func (x *Index) Put(path string, s *Summary) error {
	return x.PutAll([]string{path}, []*Summary{s})
}

// batch is what one goroutine makes of some summaries.
type batch struct {
	corpus  fuzzy.Corpus
	entries []entry // their files are positions in the list of summaries
	sizes   []int32
	err     error
}

// smallest is how many summaries are worth a goroutine of their own.
const smallest = 64

// PutAll is Put for many files, each with its summary.
func (x *Index) PutAll(paths []string, summaries []*Summary) error {
	batches, ends := fill(paths, summaries)
	x.mu.Lock()
	defer x.mu.Unlock()
	return x.takeAll(batches, ends, paths, summaries)
}

// putAll is PutAll with the lock held.
func (x *Index) putAll(paths []string, summaries []*Summary) error {
	batches, ends := fill(paths, summaries)
	return x.takeAll(batches, ends, paths, summaries)
}

// fill makes of summaries what the index keeps, several at a time; batch w is of
// those from ends[w] up to ends[w+1].
func fill(paths []string, summaries []*Summary) (batches []batch, ends []int) {
	workers := max(1, min(runtime.GOMAXPROCS(0), len(paths)/smallest))
	batches = make([]batch, workers)
	var wg work.Group
	for w := range workers {
		from, to := len(paths)*w/workers, len(paths)*(w+1)/workers
		ends = append(ends, from)
		wg.Go(func() { batches[w].fill(summaries[from:to]) })
	}
	wg.Wait()
	return batches, append(ends, len(paths))
}

func (x *Index) takeAll(batches []batch, ends []int, paths []string, summaries []*Summary) (errs error) {
	for w := range batches {
		from, to := ends[w], ends[w+1]
		x.take(&batches[w], paths[from:to], summaries[from:to])
		errs = errors.Join(errs, batches[w].err)
	}
	return errs
}

func (b *batch) fill(summaries []*Summary) {
	total := 0
	for _, s := range summaries {
		total += s.count
	}
	b.corpus.Reserve(total)
	b.entries = make([]entry, 0, total)
	var front []byte
	for i, s := range summaries {
		before := len(b.entries)
		err := s.each(func(r rawSymbol) {
			front = front[:0]
			if len(r.container) > 0 {
				front = append(append(front, r.container...), '.')
			}
			b.corpus.AddParts(front, r.name)
			b.entries = append(b.entries, entry{file: int32(i), line: r.line, offset: r.offset, hash: hashOf(r.name), kind: r.kind, aside: r.aside})
		})
		b.err = errors.Join(b.err, err)
		b.sizes = append(b.sizes, int32(len(b.entries)-before))
	}
}

// take puts a batch behind what is there.
func (x *Index) take(b *batch, paths []string, summaries []*Summary) {
	first := len(x.entries)
	numbers := make([]int32, len(paths))
	at := int32(first)
	for i, p := range paths {
		f := x.file(p)
		x.drop(f)
		f.first, f.size, f.summary = at, b.sizes[i], summaries[i]
		at += b.sizes[i]
		numbers[i] = f.number
	}
	x.corpus.Append(&b.corpus)
	x.entries = append(x.entries, b.entries...)
	for id := first; id < len(x.entries); id++ {
		x.entries[id].file = numbers[x.entries[id].file]
	}
	x.byName.extend(x.entries, first)
}

// Remove forgets a file.
func (x *Index) Remove(path string) {
	x.mu.Lock()
	defer x.mu.Unlock()
	x.drop(x.file(path)) // of which a snapshot may know, too
}

func (x *Index) file(path string) *file {
	if x.files == nil {
		x.files = map[string]*file{}
	}
	f := x.files[path]
	if f == nil {
		f = &file{number: int32(len(x.paths))}
		x.paths = append(x.paths, path)
		x.files[path] = f
	}
	return f
}

// gone is the file number of an entry whose file has changed or vanished.
const gone = -1

func (x *Index) drop(f *file) {
	for id := f.first; id < f.first+f.size; id++ {
		x.entries[id].file = gone
	}
	f.size, f.summary = 0, nil
}

// Len is the number of symbols, including those that are gone, without those of
// which a snapshot alone knows.
func (x *Index) Len() int {
	x.mu.RLock()
	defer x.mu.RUnlock()
	return len(x.entries)
}

// Mentioning returns the files that may define or use the name, in
// alphabetical order; see Summary.Mentions.
func (x *Index) Mentioning(name string) (paths []string) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	hash := hashOf(name)
	for path, f := range x.files {
		if f.summary != nil && f.summary.mentions(hash) {
			paths = append(paths, path)
		}
	}
	for i := range x.known() {
		if s := x.behind.Summary(i); s != nil && s.mentions(hash) {
			paths = append(paths, x.behind.Files[i].Path)
		}
	}
	slices.Sort(paths)
	return paths
}

// known are the numbers of the files of which a snapshot alone knows.
func (x *Index) known() iter.Seq[int32] {
	return func(yield func(int32) bool) {
		if x.behind == nil {
			return
		}
		for i := range x.behind.Files {
			if x.files[x.behind.Files[i].Path] == nil && !yield(int32(i)) {
				return
			}
		}
	}
}

// recalled is what a snapshot alone knows of a file; nil if it knows nothing.
func (x *Index) recalled(path string) *Summary {
	if x.behind == nil || x.files[path] != nil {
		return nil
	}
	if i, ok := x.behind.byPath[path]; ok {
		return x.behind.Summary(i)
	}
	return nil
}

// Summary returns the summary of a file, or nil. It is not to be changed.
func (x *Index) Summary(path string) *Summary {
	x.mu.RLock()
	defer x.mu.RUnlock()
	if f := x.files[path]; f != nil {
		return f.summary
	}
	return x.recalled(path)
}

// In returns the offsets at which the symbols of a file are named, ascending.
func (x *Index) In(path string) []int {
	x.mu.RLock()
	defer x.mu.RUnlock()
	f := x.files[path]
	if f == nil {
		return offsetsOf(x.recalled(path))
	}
	offsets := make([]int, f.size)
	for i := range offsets {
		offsets[i] = int(x.entries[f.first+int32(i)].offset)
	}
	slices.Sort(offsets)
	return offsets
}

// offsetsOf are those of the symbols of a summary, which may be nil.
func offsetsOf(s *Summary) (offsets []int) {
	if s == nil {
		return nil
	}
	_ = s.each(func(r rawSymbol) { offsets = append(offsets, int(r.offset)) }) // what is cut off has no more
	slices.Sort(offsets)
	return offsets
}

// Names returns the qualified names of all symbols.
func (x *Index) Names() []string {
	defer x.reading()()
	names := make([]string, 0, len(x.entries))
	for id, e := range x.entries {
		if e.file != gone {
			text, _ := x.corpus.Text(id)
			names = append(names, text)
		}
	}
	return names
}

// Named returns all symbols of exactly this name, in the order of their paths and of
// where they stand, in whatever order the files were read.
func (x *Index) Named(name string) []Symbol {
	x.mu.RLock()
	defer x.mu.RUnlock()
	var out []Symbol
	hash := hashOf(name)
	for id := range x.byName.all(hash) {
		if e := &x.entries[id]; e.file != gone && e.hash == hash && string(x.corpus.Base(id)) == name {
			out = append(out, x.symbol(id))
		}
	}
	if x.behind != nil {
		x.behind.named(name, func(s Symbol) {
			if x.files[s.Path] == nil {
				out = append(out, s)
			}
		})
	}
	slices.SortFunc(out, func(a, b Symbol) int { return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Offset, b.Offset)) })
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
	return x.search(ctx, q, limit, true)
}

// SearchClean is Search without forgiving a slip.
func (x *Index) SearchClean(ctx context.Context, q fuzzy.Query, limit int) []Hit {
	return x.search(ctx, q, limit, false)
}

func (x *Index) search(ctx context.Context, q fuzzy.Query, limit int, forgive bool) []Hit {
	defer x.reading()()
	scope := fuzzy.Bases
	if q.Reaches() {
		scope = fuzzy.Whole
	}
	found := x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Search(ctx, q, scope, limit) })
	if len(found) == 0 && scope == fuzzy.Bases {
		found = x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Search(ctx, q, fuzzy.Whole, limit) })
	}
	if forgive {
		found = x.present(limit, func(limit int) []fuzzy.Hit { return x.corpus.Forgive(ctx, q, scope, limit, found) })
	}
	hits := make([]Hit, 0, len(found))
	for _, h := range found {
		hits = append(hits, x.hit(q, h))
	}
	return hits
}

// SearchIn returns the best hits for a query among the symbols of the files
// that where gives a score for, which is added to that of the hits; at most
// limit. A query that is one plain word is looked for in the names themselves.
func (x *Index) SearchIn(ctx context.Context, q fuzzy.Query, limit int, where func(path string) (score int, ok bool)) []Hit {
	defer x.reading()()
	scores := make([]int, len(x.paths))
	wanted := make([]bool, len(x.paths))
	some := false
	for i, p := range x.paths {
		scores[i], wanted[i] = where(p)
		some = some || wanted[i]
	}
	if !some {
		return nil
	}
	scope := fuzzy.Bases
	if q.Reaches() {
		scope = fuzzy.Whole
	}
	var hits []Hit
	for _, h := range x.corpus.SearchSome(ctx, q, scope, limit, func(i int) bool {
		f := x.entries[i].file
		return f != gone && wanted[f]
	}) {
		hit := x.hit(q, h)
		hit.Match.Score += scores[x.entries[h.Index].file]
		hits = append(hits, hit)
	}
	return hits
}

func (x *Index) hit(q fuzzy.Query, h fuzzy.Hit) Hit {
	s := x.symbol(h.Index)
	m, _ := q.Match(s.Qualified(), len(s.Qualified())-len(s.Name))
	m.Score, m.Slip = h.Score, h.Slip
	return Hit{Symbol: s, Match: m}
}

// Match returns the symbol of a qualified name in a file as a hit for a query,
// scored as Search does; ok is false if it is not there or does not match.
func (x *Index) Match(q fuzzy.Query, path, qualified string) (hit Hit, ok bool) {
	defer x.reading()()
	f := x.files[path]
	if f == nil {
		return Hit{}, false
	}
	scope := fuzzy.Bases
	if q.Reaches() {
		scope = fuzzy.Whole
	}
	for id := int(f.first); id < int(f.first+f.size); id++ {
		if text, _ := x.corpus.Text(id); text != qualified {
			continue
		}
		if score, ok := x.corpus.One(q, scope, id); ok {
			return x.hit(q, fuzzy.Hit{Index: id, Score: score}), true
		}
		return Hit{}, false
	}
	return Hit{}, false
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
	s := Symbol{Name: text[base:], Kind: e.kind, Aside: e.aside, Path: x.paths[e.file], Line: int(e.line), Offset: int(e.offset)}
	if base > 0 {
		s.Container = text[:base-1]
	}
	return s
}
