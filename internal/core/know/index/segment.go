package index

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"fmt"
	"path/filepath"
	"sort"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
)

// Segment is what is known of some files, as it lies on disk. It never changes. It is asked where it lies, so that what
// is asked costs what the answer does, and not what there is.
type Segment struct {
	*pages
	name           string
	files, symbols int
	corpus         *fuzzy.Corpus
}

// The sections of a segment. Files are in the order of their paths, those of one path the newest first. Symbols
// are in the order of compareNames, by which one is found by its name, and those that are
// found best by a part of it come first.
const (
	inTable    = iota // what is known of each file, see fileRecord
	inPaths           // the paths
	inImports         // of each file its package and what it imports: by itself, since one asks that of many files
	inExtras          // of each file the rest of its summary: why it was given up, and the names that it mentions
	inContents        // contents and the numbers of files that have them, sorted
	inSymbols         // of each symbol its file, line, offset, and kind
	inOlder           // the numbers of files of which there is a newer one of the same path
	inOrder           // of each file the numbers of its symbols, as they stand in it
	inArena           // those of fuzzy.Columns
	inStarts
	inSizes
	inHeads
	inGroups
	inKinds    // see kinds
	inHashes   // the hashes of names, sorted, and where in inMentions it stands who mentions them
	inMentions // the numbers of the files that mention a name, each as its distance from the one before
	sectionCount
)

const (
	recordSize  = 100
	contentSize = len(Content{}) + 4
	symbolSize  = 13
	hashSize    = 8
)

// fileRecord is what is known of a file, as it lies in the table.
type fileRecord struct {
	path           int // where it begins
	pathLen        int
	size, modified int64
	content        Content
	first, count   int // its symbols in the order
	extra          int
	extraLen       int
	givenUpLen     int // of the extra, its beginning
	imports        int
	importsLen     int
	lines          int
	defs           int
	uses           int
	again          int64
	seen           uint32 // the day on which it was last how the file is, since 1970
}

func (r *fileRecord) append(b []byte) []byte {
	b = binary.LittleEndian.AppendUint32(b, uint32(r.path))
	b = binary.LittleEndian.AppendUint32(b, uint32(r.pathLen))
	b = binary.LittleEndian.AppendUint64(b, uint64(r.size))
	b = binary.LittleEndian.AppendUint64(b, uint64(r.modified))
	b = append(b, r.content[:]...)
	b = binary.LittleEndian.AppendUint32(b, uint32(r.first))
	b = binary.LittleEndian.AppendUint32(b, uint32(r.count))
	b = binary.LittleEndian.AppendUint64(b, uint64(r.extra))
	b = binary.LittleEndian.AppendUint32(b, uint32(r.extraLen))
	for _, n := range []int{r.lines, r.defs, r.uses} {
		b = binary.LittleEndian.AppendUint32(b, uint32(n))
	}
	b = binary.LittleEndian.AppendUint64(b, uint64(r.again))
	b = binary.LittleEndian.AppendUint32(b, r.seen)
	b = binary.LittleEndian.AppendUint64(b, uint64(r.imports))
	b = binary.LittleEndian.AppendUint32(b, uint32(r.importsLen))
	return binary.LittleEndian.AppendUint32(b, uint32(r.givenUpLen))
}

func readRecord(b []byte) (r fileRecord) {
	four := func(at int) int { return int(binary.LittleEndian.Uint32(b[at:])) }
	eight := func(at int) int64 { return int64(binary.LittleEndian.Uint64(b[at:])) }
	r = fileRecord{path: four(0), pathLen: four(4), size: eight(8), modified: eight(16), first: four(40), count: four(44)}
	copy(r.content[:], b[24:40])
	r.extra, r.extraLen, r.lines, r.defs, r.uses = int(eight(48)), four(56), four(60), four(64), four(68)
	r.again, r.seen = eight(72), uint32(four(80))
	r.imports, r.importsLen, r.givenUpLen = int(eight(84)), four(92), four(96)
	return r
}

// openSegment opens a segment in a folder.
func openSegment(folder, name string) (*Segment, error) {
	p, err := openPages(filepath.Join(folder, name), sectionCount)
	if err != nil {
		return nil, err
	}
	s := &Segment{pages: p, name: name, files: p.sections[inTable].size / recordSize, symbols: p.sections[inSymbols].size / symbolSize}
	if !s.consistent() {
		_ = p.close() // it is not used
		return nil, fmt.Errorf("opening the index: %w", errDamaged)
	}
	s.corpus = fuzzy.Lent(fuzzy.Columns{
		Arena:  p.whole(inArena),
		Starts: p.whole(inStarts),
		Sizes:  p.whole(inSizes),
		Heads:  p.whole(inHeads),
		Groups: p.whole(inGroups),
	}, s.symbols, s.groupReady, func() { p.damaged.Store(true) })
	return s, nil
}

// consistent says whether the sizes of the sections go together.
func (s *Segment) consistent() bool {
	size := func(n int) int { return s.sections[n].size }
	groups := (s.symbols + fuzzy.GroupTexts - 1) / fuzzy.GroupTexts
	return size(inTable) == recordSize*s.files && size(inSymbols) == symbolSize*s.symbols && size(inOrder) == 4*s.symbols && size(inStarts) == 4*s.symbols &&
		size(inSizes) == 4*s.symbols && size(inHeads) == 4*s.symbols && size(inGroups) == groups*fuzzy.GroupSize && size(inKinds) == kindsSize(s.symbols) &&
		size(inContents)%contentSize == 0 && size(inHashes)%hashSize == 0
}

// groupReady is fuzzy.Ready.
func (s *Segment) groupReady(group int, texts bool) bool {
	if !texts {
		return s.sound(inGroups, group*fuzzy.GroupSize, fuzzy.GroupSize)
	}
	first := group * fuzzy.GroupTexts
	last := min(first+fuzzy.GroupTexts, s.symbols)
	if !s.sound(inStarts, 4*first, 4*(last-first)) || !s.sound(inSizes, 4*first, 4*(last-first)) || !s.sound(inHeads, 4*first, 4*(last-first)) {
		return false
	}
	from, _ := s.textAt(first)
	to, size := s.textAt(last - 1)
	return from <= to && s.sound(inArena, from, to+size-from)
}

// textAt is where the text of a symbol lies, which must be known to be sound.
func (s *Segment) textAt(id int) (start, size int) {
	return int(binary.LittleEndian.Uint32(s.corpus.Starts[4*id:])), int(binary.LittleEndian.Uint16(s.corpus.Sizes[4*id:]))
}

// text are the parts of the name of a symbol; ok is false if they are not as they were written.
func (s *Segment) text(id int) (front, base []byte, ok bool) {
	if !s.sound(inStarts, 4*id, 4) || !s.sound(inSizes, 4*id, 4) {
		return nil, nil, false
	}
	start, size := s.textAt(id)
	behind := int(binary.LittleEndian.Uint16(s.corpus.Sizes[4*id+2:]))
	b := s.bytes(inArena, start, size)
	if b == nil && size > 0 || behind > size {
		return nil, nil, false
	}
	return b[:behind], b[behind:], true
}

// record is that of a file; that of no file if it is not as it was written.
func (s *Segment) record(file int) fileRecord {
	b := s.bytes(inTable, file*recordSize, recordSize)
	if b == nil {
		return fileRecord{}
	}
	return readRecord(b)
}

// older are the files of which there is a newer one of the same path.
func (s *Segment) older() []int {
	files := make([]int, 0, s.sections[inOlder].size/4)
	for i := range cap(files) {
		if f := int(s.number(inOlder, i)); f < s.files {
			files = append(files, f)
		}
	}
	return files
}

// rawPath is the path of a file where it lies.
func (s *Segment) rawPath(file int) []byte {
	b := s.bytes(inTable, file*recordSize, 8)
	if b == nil {
		return nil
	}
	return s.bytes(inPaths, int(binary.LittleEndian.Uint32(b)), int(binary.LittleEndian.Uint32(b[4:])))
}

// path is the path of a file.
func (s *Segment) path(file int) string { return string(s.rawPath(file)) }

// find is the number of the newest that is known of the file of a path, from a number on; ok is false if there is none.
// The nearer it is to that number, the less it costs.
func (s *Segment) find(path string, from int) (file int, ok bool) {
	step, at := 1, from
	for at < s.files && string(s.rawPath(at)) < path {
		from = at + 1
		at += step
		step *= 2
	}
	at = min(at, s.files)
	file = from + sort.Search(at-from, func(i int) bool { return string(s.rawPath(from+i)) >= path })
	return file, file < s.files && string(s.rawPath(file)) == path
}

// withContent calls with the numbers of the files of a content, until it has had enough.
func (s *Segment) withContent(c Content, visit func(file int) bool) {
	n := s.sections[inContents].size / contentSize
	at := func(i int) []byte { return s.bytes(inContents, i*contentSize, contentSize) }
	for i := sort.Search(n, func(i int) bool { return bytes.Compare(at(i), c[:]) >= 0 }); i < n; i++ {
		b := at(i)
		if b == nil || Content(b[:len(c)]) != c || !visit(int(binary.LittleEndian.Uint32(b[len(c):]))) {
			return
		}
	}
}

// place is where a symbol stands.
type symbolPlace struct {
	file, line, offset uint32
	kind               facts.Kind
	aside              bool
}

func (p symbolPlace) append(b []byte) []byte {
	kind := byte(p.kind)
	if p.aside {
		kind |= aside
	}
	b = binary.LittleEndian.AppendUint32(b, p.file)
	b = binary.LittleEndian.AppendUint32(b, p.line)
	return append(binary.LittleEndian.AppendUint32(b, p.offset), kind)
}

// place is where a symbol stands; ok is false if it is not as it was written.
func (s *Segment) place(id int) (p symbolPlace, ok bool) {
	b := s.bytes(inSymbols, id*symbolSize, symbolSize)
	if b == nil {
		return p, false
	}
	p = symbolPlace{
		file: binary.LittleEndian.Uint32(b), line: binary.LittleEndian.Uint32(b[4:]), offset: binary.LittleEndian.Uint32(b[8:]),
		kind: facts.Kind(b[12] &^ aside), aside: b[12]&aside != 0,
	}
	return p, int(p.file) < s.files && p.kind.Valid()
}

// symbol is the symbol of a number; ok is false if it is not as it was written.
func (s *Segment) symbol(id int) (sym Symbol, ok bool) {
	p, ok := s.place(id)
	front, base, sound := s.text(id)
	if !ok || !sound {
		return Symbol{}, false
	}
	sym = Symbol{Name: string(base), Kind: p.kind, Aside: p.aside, Path: s.path(int(p.file)), Line: int(p.line), Offset: int(p.offset)}
	if len(front) > 0 {
		sym.Container = string(front[:len(front)-1])
	}
	return sym, true
}

// named calls with the numbers of all symbols of exactly a name.
func (s *Segment) named(name string, visit func(id int)) {
	base := func(id int) []byte {
		_, b, _ := s.text(id)
		return b
	}
	wanted := []byte(name)
	for id := sort.Search(s.symbols, func(id int) bool { return compareBases(base(id), wanted) >= 0 }); id < s.symbols; id++ {
		if !bytes.Equal(base(id), wanted) {
			return
		}
		visit(id)
	}
}

// in calls with the numbers of the symbols of a file, as they stand in it.
func (s *Segment) in(file int, visit func(id int)) {
	r := s.record(file)
	for b := s.bytes(inOrder, 4*r.first, 4*r.count); len(b) >= 4; b = b[4:] {
		if id := int(binary.LittleEndian.Uint32(b)); id < s.symbols {
			visit(id)
		}
	}
}

// mentioning calls with the numbers of the files that mention a name of the hash.
func (s *Segment) mentioning(hash uint32, visit func(file int)) {
	n := s.sections[inHashes].size / hashSize
	at := func(i int) uint32 { return s.number(inHashes, 2*i) }
	i := sort.Search(n, func(i int) bool { return at(i) >= hash })
	if i == n || at(i) != hash {
		return
	}
	s.mentions(i, n, visit)
}

// mentions calls with the files that mention the names of the ith of n hashes.
func (s *Segment) mentions(i, n int, visit func(file int)) {
	from, to := int(s.number(inHashes, 2*i+1)), s.sections[inMentions].size
	if i+1 < n {
		to = int(s.number(inHashes, 2*(i+1)+1))
	}
	r := byteReader{left: s.bytes(inMentions, from, to-from)}
	for file := -1; len(r.left) > 0; {
		if file += int(r.count()); r.failed || file < 0 || file >= s.files {
			s.damaged.Store(true)
			return
		}
		visit(file)
	}
}

// extras are what else is in a summary.
type extras struct {
	givenUp        string
	names, imports []byte
}

// extras are what else is in the summary of a file.
func (s *Segment) extras(r *fileRecord) extras {
	b := s.bytes(inExtras, r.extra, r.extraLen)
	if r.givenUpLen > len(b) {
		s.damaged.Store(true)
		return extras{}
	}
	return extras{string(b[:r.givenUpLen]), b[r.givenUpLen:], s.bytes(inImports, r.imports, r.importsLen)}
}

// givenUp is why a file was given up; "" if it was not.
func (s *Segment) givenUp(r *fileRecord) string {
	if r.givenUpLen == 0 {
		return ""
	}
	return s.extras(r).givenUp
}

// summary is what is known of a file, as a value of its own.
func (s *Segment) summary(file int) *Summary {
	r := s.record(file)
	sum := s.head(&r)
	s.in(file, func(id int) {
		if sym, ok := s.symbol(id); ok {
			sum.add(&sym)
		}
	})
	return sum
}

// head is what is known of a file but for its symbols.
func (s *Segment) head(r *fileRecord) *Summary {
	e := s.extras(r)
	return &Summary{Lines: r.lines, Defs: r.defs, Uses: r.uses, Again: r.again, GivenUp: e.givenUp, names: bytes.Clone(e.names), imports: bytes.Clone(e.imports)}
}

// compareNames is the order of the symbols of a segment: the shorter name first, since it matches a part of it better;
// those of one length as in a list of words, so that what begins alike lies together.
func compareNames(frontA, baseA, frontB, baseB []byte) int {
	return cmp.Or(compareBases(baseA, baseB), bytes.Compare(frontA, frontB))
}

func compareBases(a, b []byte) int {
	if len(a) != len(b) {
		return cmp.Compare(len(a), len(b))
	}
	for i := range a {
		if x, y := small(a[i]), small(b[i]); x != y {
			return cmp.Compare(x, y)
		}
	}
	return bytes.Compare(a, b)
}

func small(b byte) byte {
	if 'A' <= b && b <= 'Z' {
		return b + 'a' - 'A'
	}
	return b
}
