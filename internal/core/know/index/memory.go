package index

import (
	"errors"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/work"
)

// memory is what is known of files that no segment has. The zero memory is empty.
type memory struct {
	corpus  fuzzy.Corpus // text number i belongs to entries[i]
	entries []entry
	byName  chains
	paths   []string
	files   map[string]*file
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

// batch is what one goroutine makes of some summaries.
type batch struct {
	corpus  fuzzy.Corpus
	entries []entry // their files are positions in the list of summaries
	sizes   []int32
	err     error
}

// smallest is how many summaries are worth a goroutine of their own.
const smallest = 64

// put takes in summaries, each in place of the one that its file had.
func (m *memory) put(paths []string, summaries []*Summary) error {
	batches, ends := fill(paths, summaries)
	return m.takeAll(batches, ends, paths, summaries)
}

// fill makes of summaries what the index keeps, several at a time; batch w is of
// those from ends[w] up to ends[w+1].
func fill(paths []string, summaries []*Summary) (batches []batch, ends []int) {
	workers := max(1, min(work.Processors(), len(paths)/smallest))
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

func (m *memory) takeAll(batches []batch, ends []int, paths []string, summaries []*Summary) (errs error) {
	for w := range batches {
		from, to := ends[w], ends[w+1]
		m.take(&batches[w], paths[from:to], summaries[from:to])
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
func (m *memory) take(b *batch, paths []string, summaries []*Summary) {
	first := len(m.entries)
	numbers := make([]int32, len(paths))
	at := int32(first)
	for i, p := range paths {
		f := m.file(p)
		m.drop(f)
		f.first, f.size, f.summary = at, b.sizes[i], summaries[i]
		at += b.sizes[i]
		numbers[i] = f.number
	}
	m.corpus.Append(&b.corpus)
	m.entries = append(m.entries, b.entries...)
	for id := first; id < len(m.entries); id++ {
		m.entries[id].file = numbers[m.entries[id].file]
	}
	m.byName.extend(m.entries, first)
}

func (m *memory) file(path string) *file {
	if m.files == nil {
		m.files = map[string]*file{}
	}
	f := m.files[path]
	if f == nil {
		f = &file{number: int32(len(m.paths))}
		m.paths = append(m.paths, path)
		m.files[path] = f
	}
	return f
}

// gone is the file number of an entry whose file has changed or vanished.
const gone = -1

func (m *memory) drop(f *file) {
	for id := f.first; id < f.first+f.size; id++ {
		m.entries[id].file = gone
	}
	f.size, f.summary = 0, nil
}

// remove forgets a file.
func (m *memory) remove(path string) {
	if f := m.files[path]; f != nil {
		m.drop(f)
		delete(m.files, path)
	}
}

// without is the memory without what is gone of it, which takes less room.
func (m *memory) without() (n memory) {
	var paths []string
	var summaries []*Summary
	for p, f := range m.files {
		if f.summary != nil {
			paths, summaries = append(paths, p), append(summaries, f.summary)
		}
	}
	_ = n.put(paths, summaries) // the sums of them were right
	return n
}

// symbol is the symbol of a number.
func (m *memory) symbol(id int) Symbol {
	e := m.entries[id]
	text, base := m.corpus.Text(id)
	s := Symbol{Name: text[base:], Kind: e.kind, Aside: e.aside, Path: m.paths[e.file], Line: int(e.line), Offset: int(e.offset)}
	if base > 0 {
		s.Container = text[:base-1]
	}
	return s
}

// named calls with all symbols of exactly a name.
func (m *memory) named(name string, visit func(Symbol)) {
	hash := hashOf(name)
	for id := range m.byName.all(hash) {
		if e := &m.entries[id]; e.file != gone && e.hash == hash && string(m.corpus.Base(id)) == name {
			visit(m.symbol(id))
		}
	}
}
