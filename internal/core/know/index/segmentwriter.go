package index

import (
	"bytes"
	"cmp"
	"container/heap"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"iter"
	"os"
	"slices"

	"rooktrail/internal/core/know/fuzzy"
)

// segmentWriter makes one segment of several sources, of which the later ones are newer. It holds a few numbers for each
// file and each symbol in memory; all else streams from the sources to the file.
type segmentWriter struct {
	ctx     context.Context
	sources []source
	out     *pageWriter
	files   []sourceFile
	numbers [][]int32 // by source and file: its number in the segment, or -1
	offsets []uint32  // by symbol
	order   []int32   // see inOrder
	next    []int32   // by file: where in the order its next symbol goes
}

type sourceFile struct {
	source, file   int
	path           string
	size, modified int64
	seen           uint32
}

// chooser says whether a file of a source is taken into a segment; it may change its size, when it was changed, and on which day it was last
// how the file is. newer is how many of the same path there are that are newer.
type chooser func(source, file, newer int, r *fileRecord, path string) (ok bool)

// errSource says that a source is damaged.
var errSource = errors.New("malformed: what was to be merged is not as it was written")

// writeSegment writes what is chosen of the sources to a file. It gives back, by source and file, the number there, -1 for one that was not
// taken.
func writeSegment(ctx context.Context, file *os.File, sources []source, choose chooser) (numbers [][]int32, err error) {
	for _, s := range sources {
		if seg, ok := s.(segmentSource); ok {
			defer seg.guard(&err)()
		}
	}
	w := &segmentWriter{ctx: ctx, sources: sources}
	w.chooseFiles(choose)
	w.out = newPageWriter(file, w.rooms())
	steps := []func(){w.writeFiles, w.writeContents, w.writeSymbols, w.writeOrder, w.writeMentions}
	for _, step := range steps {
		step()
		w.release()
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
	}
	if err := w.out.finish(); err != nil {
		return nil, fmt.Errorf("writing the index: %w", err)
	}
	for _, s := range sources {
		if seg, ok := s.(segmentSource); ok && seg.damaged.Load() {
			return nil, errSource
		}
	}
	return w.numbers, nil
}

// often is after how many symbols, or names, what was looked at of the sources is given back: all of them are gone through once.
const often = 1 << 16

// release gives back the memory of what was looked at of the sources.
func (w *segmentWriter) release() {
	for _, s := range w.sources {
		if seg, ok := s.(segmentSource); ok {
			seg.release()
		}
	}
}

// chooseFiles puts the files of all sources in their order.
func (w *segmentWriter) chooseFiles(choose chooser) {
	var all []sourceFile
	for i, s := range w.sources {
		n := s.size().files
		w.numbers = append(w.numbers, slices.Repeat([]int32{-1}, n))
		for f := range n {
			all = append(all, sourceFile{source: i, file: f, path: s.path(f)})
		}
	}
	slices.SortFunc(all, newestFirst)
	newer := 0
	for i, f := range all {
		if newer++; i == 0 || all[i-1].path != f.path {
			newer = 0
		}
		r := w.sources[f.source].record(f.file)
		if choose(f.source, f.file, newer, &r, f.path) {
			f.size, f.modified, f.seen = r.size, r.modified, r.seen
			w.numbers[f.source][f.file] = int32(len(w.files))
			w.files = append(w.files, f)
		}
	}
}

// rooms is how much room each section but the last may need.
func (w *segmentWriter) rooms() []int {
	var all sizes
	for _, s := range w.sources {
		n := s.size()
		all.paths, all.imports, all.extras = all.paths+n.paths, all.imports+n.imports, all.extras+n.extras
		all.texts, all.hashes = all.texts+n.texts, all.hashes+n.hashes
	}
	for _, f := range w.files {
		r := w.sources[f.source].record(f.file)
		all.symbols += r.count
	}
	rooms := make([]int, sectionCount-1)
	rooms[inTable], rooms[inPaths], rooms[inExtras], rooms[inContents] = recordSize*len(w.files), all.paths, all.extras, contentSize*len(w.files)
	rooms[inOlder], rooms[inImports] = 4*len(w.files), all.imports
	rooms[inSymbols], rooms[inOrder] = symbolSize*all.symbols, 4*all.symbols
	rooms[inArena], rooms[inStarts], rooms[inSizes], rooms[inHeads] = all.texts+all.symbols, 4*all.symbols, 4*all.symbols, 4*all.symbols
	rooms[inGroups] = (all.symbols + fuzzy.GroupTexts - 1) / fuzzy.GroupTexts * fuzzy.GroupSize
	rooms[inHashes], rooms[inKinds] = hashSize*all.hashes, kindsSize(all.symbols)
	w.offsets, w.order = make([]uint32, 0, all.symbols), make([]int32, all.symbols)
	return rooms
}

func (w *segmentWriter) to(section int) *sectionWriter { return w.out.sections[section] }

func (w *segmentWriter) writeFiles() {
	paths, imports, extra, first := 0, 0, 0, 0
	var b []byte
	for i, f := range w.files {
		r, e := w.sources[f.source].record(f.file), w.sources[f.source].extra(f.file)
		b = append(append(b[:0], e.givenUp...), e.names...)
		w.to(inExtras).write(b)
		w.to(inImports).write(e.imports)
		r.path, r.pathLen, r.extra, r.extraLen, r.givenUpLen, r.first = paths, len(f.path), extra, len(b), len(e.givenUp), first
		r.imports, r.importsLen = imports, len(e.imports)
		r.size, r.modified, r.seen = f.size, f.modified, f.seen
		paths, imports, extra, first = paths+len(f.path), imports+len(e.imports), extra+len(b), first+r.count
		if i > 0 && w.files[i-1].path == f.path {
			w.to(inOlder).write(binary.LittleEndian.AppendUint32(nil, uint32(i)))
		}
		w.to(inPaths).write([]byte(f.path))
		b = r.append(b[:0])
		w.to(inTable).write(b)
		w.next = append(w.next, int32(r.first))
	}
}

func (w *segmentWriter) writeContents() {
	all := make([][]byte, 0, len(w.files))
	for i, f := range w.files {
		r := w.sources[f.source].record(f.file)
		all = append(all, binary.LittleEndian.AppendUint32(r.content[:], uint32(i)))
	}
	slices.SortFunc(all, func(a, b []byte) int {
		return cmp.Or(bytes.Compare(a[:len(Content{})], b[:len(Content{})]), bytes.Compare(a, b))
	})
	for _, c := range all {
		w.to(inContents).write(c)
	}
}

// writeSymbols merges the symbols of the sources, which are in their order already.
func (w *segmentWriter) writeSymbols() {
	queue := &sourceQueue{}
	for i, s := range w.sources {
		if h := (&sourceHead{of: s, source: i, numbers: w.numbers[i], left: s.size().symbols}); h.advance() {
			queue.heads = append(queue.heads, h)
		}
	}
	heap.Init(queue)
	var texts fuzzy.Corpus
	some := make(kinds, kindsSize(len(w.order)))
	arena := 0
	var b []byte
	for n := 0; len(queue.heads) > 0; n++ {
		if n%4096 == 0 && w.ctx.Err() != nil {
			return
		}
		if n%often == often-1 {
			w.release()
		}
		h := queue.heads[0]
		texts.AddParts(h.front, h.base)
		some.add(h.base, h.place.kind)
		file := w.numbers[h.source][h.place.file]
		p := h.place
		p.file = uint32(file)
		b = p.append(b[:0])
		w.to(inSymbols).write(b)
		if int(w.next[file]) < len(w.order) { // else the source is damaged, which is said at the end
			w.order[w.next[file]] = int32(len(w.offsets))
			w.next[file]++
		}
		w.offsets = append(w.offsets, p.offset)
		if texts.Len() == fuzzy.GroupTexts {
			arena = w.writeTexts(&texts, arena)
		}
		if h.advance() {
			heap.Fix(queue, 0)
		} else {
			heap.Pop(queue)
		}
	}
	w.writeTexts(&texts, arena)
	w.to(inKinds).write(some)
}

// writeTexts writes the texts of a group, which begin at arena.
func (w *segmentWriter) writeTexts(texts *fuzzy.Corpus, arena int) int {
	var b []byte
	for at := 0; at < len(texts.Starts); at += 4 {
		b = binary.LittleEndian.AppendUint32(b, uint32(arena)+binary.LittleEndian.Uint32(texts.Starts[at:]))
	}
	w.to(inStarts).write(b)
	w.to(inArena).write(texts.Arena)
	w.to(inSizes).write(texts.Sizes)
	w.to(inHeads).write(texts.Heads)
	for group := range texts.EachGroup() {
		w.to(inGroups).write(group)
	}
	arena += len(texts.Arena)
	texts.Reset()
	return arena
}

// sourceHead is the next symbol of a source.
type sourceHead struct {
	of          source
	source      int
	numbers     []int32
	next, left  int
	front, base []byte
	place       symbolPlace
}

// advance goes to the next symbol of a file that is taken; false if there is none.
func (h *sourceHead) advance() bool {
	for h.next < h.left {
		front, base, place, ok := h.of.symbol(h.next)
		h.next++
		if ok && h.numbers[place.file] >= 0 {
			h.front, h.base, h.place = front, base, place
			return true
		}
	}
	return false
}

// sourceQueue are the next symbols of all sources, the first of them in front.
type sourceQueue struct{ heads []*sourceHead }

func (q *sourceQueue) Len() int      { return len(q.heads) }
func (q *sourceQueue) Swap(i, j int) { q.heads[i], q.heads[j] = q.heads[j], q.heads[i] }
func (q *sourceQueue) Less(i, j int) bool {
	a, b := q.heads[i], q.heads[j]
	return cmp.Or(compareNames(a.front, a.base, b.front, b.base), cmp.Compare(a.source, b.source)) < 0
}
func (q *sourceQueue) Push(h any) { q.heads = append(q.heads, h.(*sourceHead)) }
func (q *sourceQueue) Pop() any {
	last := len(q.heads) - 1
	h := q.heads[last]
	q.heads = q.heads[:last]
	return h
}

// writeOrder writes the symbols of each file as they stand in it.
func (w *segmentWriter) writeOrder() {
	first := int32(0)
	var b []byte
	for _, end := range w.next {
		ids := w.order[first:end]
		slices.SortFunc(ids, func(a, b int32) int { return cmp.Or(cmp.Compare(w.offsets[a], w.offsets[b]), cmp.Compare(a, b)) })
		for _, id := range ids {
			b = binary.LittleEndian.AppendUint32(b, uint32(id))
		}
		w.to(inOrder).write(b)
		b, first = b[:0], end
	}
}

// writeMentions merges who mentions which names.
func (w *segmentWriter) writeMentions() {
	pulls := make([]mentionPull, 0, len(w.sources))
	for i, s := range w.sources {
		next, stop := iter.Pull2(s.mentioned())
		defer stop()
		if p := (mentionPull{next: next, numbers: w.numbers[i]}); p.advance() {
			pulls = append(pulls, p)
		}
	}
	at := 0
	var files []int32
	var b []byte
	for n := 0; len(pulls) > 0; n++ {
		if n%4096 == 0 && w.ctx.Err() != nil {
			return
		}
		if n%often == often-1 {
			w.release()
		}
		hash := slices.MinFunc(pulls, func(a, b mentionPull) int { return cmp.Compare(a.hash, b.hash) }).hash
		files = files[:0]
		for i := 0; i < len(pulls); {
			p := &pulls[i]
			if p.hash != hash {
				i++
				continue
			}
			for _, f := range p.files {
				if number := p.numbers[f]; number >= 0 {
					files = append(files, number)
				}
			}
			if p.advance() {
				i++
			} else {
				pulls = slices.Delete(pulls, i, i+1)
			}
		}
		if len(files) == 0 {
			continue
		}
		b = appendMentions(b[:0], files)
		entry := binary.LittleEndian.AppendUint32(nil, hash)
		w.to(inHashes).write(binary.LittleEndian.AppendUint32(entry, uint32(at)))
		w.to(inMentions).write(b)
		at += len(b)
	}
}

// appendMentions writes the numbers of files as their distances.
func appendMentions(b []byte, files []int32) []byte {
	slices.Sort(files)
	before := int32(-1)
	for _, f := range files {
		if f != before {
			b = binary.AppendUvarint(b, uint64(f-before))
			before = f
		}
	}
	return b
}

// mentionPull is the next hash of a source.
type mentionPull struct {
	next    func() (uint32, []int, bool)
	numbers []int32
	hash    uint32
	files   []int
}

func (p *mentionPull) advance() (ok bool) {
	p.hash, p.files, ok = p.next()
	return ok
}
