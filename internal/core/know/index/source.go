package index

import (
	"cmp"
	"encoding/binary"
	"iter"
	"maps"
	"slices"
)

// source is something of which a segment is made: what is in memory, or another segment.
type source interface {
	// size is how many files and symbols there are, and how many bytes their paths, what they import, the rest of their summaries, the
	// texts of the symbols and the hashes of names take.
	size() sizes
	// path, record and extra are what is known of a file.
	path(file int) string
	record(file int) fileRecord
	extra(file int) extras
	// symbol is one of the symbols, in the order of compareNames. What it gives is good until the next is asked for.
	symbol(i int) (front, base []byte, place symbolPlace, ok bool)
	// mentioned are the hashes of names, ascending, with the files that mention them.
	mentioned() iter.Seq2[uint32, []int]
}

type sizes struct{ files, symbols, paths, imports, extras, texts, hashes int }

func (s *Segment) size() sizes {
	size := func(n int) int { return s.sections[n].size }
	return sizes{s.files, s.symbols, size(inPaths), size(inImports), size(inExtras), size(inArena), size(inHashes) / hashSize}
}

func (s *Segment) extra(file int) extras {
	r := s.record(file)
	return s.extras(&r)
}

func (s *Segment) symbolAt(id int) (front, base []byte, place symbolPlace, ok bool) {
	place, ok = s.place(id)
	front, base, sound := s.text(id)
	return front, base, place, ok && sound
}

func (s *Segment) mentioned() iter.Seq2[uint32, []int] {
	return func(yield func(uint32, []int) bool) {
		n := s.sections[inHashes].size / hashSize
		var files []int
		for i := range n {
			files = files[:0]
			s.mentions(i, n, func(file int) { files = append(files, file) })
			if !yield(s.number(inHashes, 2*i), files) {
				return
			}
		}
	}
}

// segmentSource is a segment as a source.
type segmentSource struct{ *Segment }

func (s segmentSource) symbol(i int) (front, base []byte, place symbolPlace, ok bool) {
	return s.symbolAt(i)
}

// memorySource is what is in memory as a source.
type memorySource struct {
	paths   []string
	known   []Known
	day     uint32
	arena   []byte
	symbols []memorySymbol
	counts  []int // of the symbols, by file
	names   int
}

type memorySymbol struct {
	start       uint32
	front, base uint16
	place       symbolPlace
}

// newMemorySource makes one of what is known of files. What is damaged of it is left out.
func newMemorySource(known map[string]Known, day uint32) *memorySource {
	m := &memorySource{paths: slices.Sorted(maps.Keys(known)), day: day}
	for i, p := range m.paths {
		k := known[p]
		m.known = append(m.known, k)
		m.names += len(k.Summary.names) / 4
		before := len(m.symbols)
		_ = k.Summary.each(func(r rawSymbol) { m.add(i, &r) })
		m.counts = append(m.counts, len(m.symbols)-before)
	}
	slices.SortFunc(m.symbols, func(a, b memorySymbol) int {
		frontA, baseA := m.text(&a)
		frontB, baseB := m.text(&b)
		return cmp.Or(compareNames(frontA, baseA, frontB, baseB), cmp.Compare(a.place.file, b.place.file), cmp.Compare(a.place.offset, b.place.offset))
	})
	return m
}

func (m *memorySource) add(file int, r *rawSymbol) {
	front, base := 0, len(r.name)
	start := len(m.arena)
	if len(r.container) > 0 {
		m.arena = append(append(m.arena, r.container...), '.')
		front = len(r.container) + 1
	}
	m.arena = append(m.arena, r.name...)
	m.symbols = append(m.symbols, memorySymbol{
		uint32(start), uint16(front), uint16(base),
		symbolPlace{file: uint32(file), line: r.line, offset: r.offset, kind: r.kind, aside: r.aside},
	})
}

func (m *memorySource) text(s *memorySymbol) (front, base []byte) {
	text := m.arena[s.start : s.start+uint32(s.front)+uint32(s.base)]
	return text[:s.front], text[s.front:]
}

func (m *memorySource) size() (s sizes) {
	s = sizes{files: len(m.paths), symbols: len(m.symbols), texts: len(m.arena), hashes: m.names}
	for i, p := range m.paths {
		e := m.extra(i)
		s.paths, s.imports, s.extras = s.paths+len(p), s.imports+len(e.imports), s.extras+len(e.givenUp)+len(e.names)
	}
	return s
}

func (m *memorySource) path(file int) string { return m.paths[file] }

func (m *memorySource) record(file int) fileRecord {
	k := &m.known[file]
	sum := k.Summary
	return fileRecord{
		size: k.Size, modified: k.Modified, content: k.Content, count: m.counts[file], lines: sum.Lines, defs: sum.Defs, uses: sum.Uses,
		again: sum.Again, seen: m.day,
	}
}

func (m *memorySource) extra(file int) extras {
	sum := m.known[file].Summary
	return extras{sum.GivenUp, sum.names, sum.imports}
}

func (m *memorySource) symbol(i int) (front, base []byte, place symbolPlace, ok bool) {
	front, base = m.text(&m.symbols[i])
	return front, base, m.symbols[i].place, true
}

func (m *memorySource) mentioned() iter.Seq2[uint32, []int] {
	all := make([]uint64, 0, m.names) // a hash and a file each
	for i := range m.known {
		for b := m.known[i].Summary.names; len(b) >= 4; b = b[4:] {
			all = append(all, uint64(binary.LittleEndian.Uint32(b))<<32|uint64(i))
		}
	}
	slices.Sort(all)
	return func(yield func(uint32, []int) bool) {
		var files []int
		for i, n := range all {
			files = append(files, int(uint32(n)))
			if i+1 < len(all) && all[i+1]>>32 == n>>32 {
				continue
			}
			if !yield(uint32(n>>32), files) {
				return
			}
			files = files[:0]
		}
	}
}
