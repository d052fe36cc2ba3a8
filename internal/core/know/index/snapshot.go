package index

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"

	"github.com/edsrzf/mmap-go"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/know/project"
)

// Listing is which files a project has, and by what it is known that it still has
// these and no others.
type Listing struct {
	Files   []Listed
	Folders []ListedFolder
	// Beside are files outside of the listing that decide what belongs to the
	// project.
	Beside []Listed
}

// Listed is a file of a listing.
type Listed struct {
	project.File
	// Content stands for its text, if that is of interest; GivenUp says why it could
	// not be read, "" if it could.
	Content Content
	GivenUp string
	// Summary is what the index holds of it, nil if it holds nothing. Of a listing that
	// was opened it is left out; see Snapshot.Summary.
	Summary *Summary
}

// ListedFolder is a folder of a listing.
type ListedFolder struct {
	Path string
	// Modified is in nanoseconds since 1970; 0 if it changed while the project was
	// listed, so that what is in it is not known for sure.
	Modified int64
	// Entries stands for the names of all that is in it, also of what does not belong
	// to the project.
	Entries uint64
}

// Snapshot is a listing on disk, with all that an index held of its files. It is
// asked where it lies, without being read as a whole. It may be used by several
// goroutines.
type Snapshot struct {
	Listing
	file    mmap.MMap
	records []span // of the summaries, by file; empty for none
	names   []byte // which file has a symbol of which name: hash and file, sorted
	byPath  map[string]int32
}

// span is a part of the file.
type span struct{ at, size uint64 }

// The layout: the word it begins with; the sizes of what follows and a sum of the
// listing; the listing; the names; the summaries, each with a sum of its own.
const (
	snapshotWord = "rook trail snapshot 1 "
	headSize     = len(snapshotWord) + len(Extracted) + 3*8 + 4
	nameSize     = 8 // a hash and the number of a file
)

var sums = crc32.MakeTable(crc32.Castagnoli)

// errSnapshot says that a snapshot is not as it was written.
var errSnapshot = errors.New("malformed: the snapshot of the index is not as it was written")

// snapshotFile is where the snapshot of the project at root lies in a folder of
// indexes.
func snapshotFile(folder, root string) string {
	return filepath.Join(folder, fileName(root, "snapshot"))
}

// WriteSnapshot keeps a listing with its summaries for the project at root in a
// folder of indexes, in place of an earlier one.
func WriteSnapshot(folder, root string, l *Listing) error {
	if err := atomicfile.Write(snapshotFile(folder, root), l.encode(), 0o600); err != nil {
		return fmt.Errorf("writing the snapshot of the index: %w", err)
	}
	return nil
}

// RemoveSnapshot removes that of the project at root, if there is one.
func RemoveSnapshot(folder, root string) error {
	if err := os.Remove(snapshotFile(folder, root)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing the snapshot of the index: %w", err)
	}
	return nil
}

func (l *Listing) encode() []byte {
	type named struct{ hash, file uint32 }
	var records, listing []byte
	var names []named
	listing = binary.AppendUvarint(listing, uint64(len(l.Files)))
	for i, f := range l.Files {
		listing = appendFile(listing, f)
		if f.Summary == nil {
			listing = binary.AppendUvarint(listing, 0)
			continue
		}
		record := f.Summary.encode()
		listing = binary.AppendUvarint(listing, uint64(len(record)))
		records = append(records, record...)
		_ = f.Summary.each(func(s rawSymbol) { // what is damaged in it counts as not there
			names = append(names, named{hashOf(s.name), uint32(i)})
		})
	}
	listing = binary.AppendUvarint(listing, uint64(len(l.Beside)))
	for _, f := range l.Beside {
		listing = appendFile(listing, f)
	}
	listing = binary.AppendUvarint(listing, uint64(len(l.Folders)))
	for _, f := range l.Folders {
		listing = appendText(listing, f.Path)
		listing = binary.AppendVarint(listing, f.Modified)
		listing = binary.LittleEndian.AppendUint64(listing, f.Entries)
	}
	slices.SortFunc(names, func(a, b named) int { return cmp.Or(cmp.Compare(a.hash, b.hash), cmp.Compare(a.file, b.file)) })
	names = slices.Compact(names)
	out := make([]byte, 0, headSize+len(listing)+nameSize*len(names)+len(records))
	out = append(append(out, snapshotWord...), Extracted...)
	for _, size := range []int{len(listing), nameSize * len(names), len(records)} {
		out = binary.LittleEndian.AppendUint64(out, uint64(size))
	}
	out = binary.LittleEndian.AppendUint32(out, crc32.Checksum(listing, sums))
	out = append(out, listing...)
	for _, n := range names {
		out = binary.LittleEndian.AppendUint32(binary.LittleEndian.AppendUint32(out, n.hash), n.file)
	}
	return append(out, records...)
}

func appendFile(b []byte, f Listed) []byte {
	b = binary.AppendVarint(binary.AppendUvarint(appendText(b, f.Path), uint64(f.Size)), f.Modified)
	return appendText(append(b, f.Content[:]...), f.GivenUp)
}

func appendText(b []byte, text string) []byte {
	return append(binary.AppendUvarint(b, uint64(len(text))), text...)
}

// encode writes a summary, with a sum of it at the end.
func (s *Summary) encode() []byte {
	var b []byte
	for _, n := range []int64{int64(s.Lines), int64(s.Defs), int64(s.Uses), int64(s.count), s.Again} {
		b = binary.AppendVarint(b, n)
	}
	b = appendText(b, s.GivenUp)
	b = append(binary.AppendUvarint(b, uint64(len(s.symbols))), s.symbols...)
	b = append(binary.AppendUvarint(b, uint64(len(s.names))), s.names...)
	b = append(binary.AppendUvarint(b, uint64(len(s.imports))), s.imports...)
	return binary.LittleEndian.AppendUint32(b, crc32.Checksum(b, sums))
}

// decodeSummary is the reverse of encode. The summary keeps the bytes.
func decodeSummary(b []byte) (*Summary, error) {
	if len(b) < 4 || crc32.Checksum(b[:len(b)-4], sums) != binary.LittleEndian.Uint32(b[len(b)-4:]) {
		return nil, errSnapshot
	}
	r := byteReader{left: b[:len(b)-4]}
	s := &Summary{Lines: int(r.number()), Defs: int(r.number()), Uses: int(r.number()), count: int(r.number()), Again: r.number()}
	s.GivenUp = string(r.text())
	s.symbols, s.names, s.imports = r.text(), r.text(), r.text()
	if r.failed {
		return nil, errSnapshot
	}
	return s, nil
}

// byteReader reads numbers and texts as they were appended. Behind the end, and
// from the first that is malformed on, it gives nothing.
type byteReader struct {
	left   []byte
	words  string // all that there is, for the texts to be parts of; "" if these are few
	failed bool
}

func (r *byteReader) take(n uint64) []byte {
	if r.failed || n > uint64(len(r.left)) {
		r.failed = true
		return nil
	}
	b := r.left[:n:n]
	if r.left = r.left[n:]; n == 0 {
		return nil
	}
	return b
}

func (r *byteReader) number() int64 {
	n, size := binary.Varint(r.left)
	if size <= 0 {
		r.failed = true
		return 0
	}
	r.take(uint64(size))
	return n
}

func (r *byteReader) count() uint64 {
	n, size := binary.Uvarint(r.left)
	if size <= 0 {
		r.failed = true
		return 0
	}
	r.take(uint64(size))
	return n
}

func (r *byteReader) text() []byte { return r.take(r.count()) }

// word is a text as a part of the words.
func (r *byteReader) word() string {
	n := len(r.text())
	end := len(r.words) - len(r.left)
	return r.words[end-n : end]
}

func (r *byteReader) file() (f Listed) {
	f.Path = r.word()
	f.Size, f.Modified = int64(r.count()), r.number()
	copy(f.Content[:], r.take(uint64(len(f.Content))))
	f.GivenUp = r.word()
	return f
}

// OpenSnapshot opens the snapshot of the project at root in a folder of indexes. An
// error that wraps os.ErrNotExist says that there is none.
func OpenSnapshot(folder, root string) (s *Snapshot, err error) {
	f, err := os.Open(snapshotFile(folder, root))
	if err != nil {
		return nil, fmt.Errorf("opening the snapshot of the index: %w", err)
	}
	defer f.Close() // what is mapped stays
	info, err := f.Stat()
	if err == nil && info.Size() < int64(headSize) {
		err = errSnapshot
	}
	if err != nil {
		return nil, fmt.Errorf("opening the snapshot of the index: %w", err)
	}
	mapped, err := mmap.Map(f, mmap.RDONLY, 0)
	if err != nil {
		return nil, fmt.Errorf("opening the snapshot of the index: %w", err)
	}
	s = &Snapshot{file: mapped}
	if err := s.read(); err != nil {
		return nil, fmt.Errorf("opening the snapshot of the index: %w", errors.Join(err, mapped.Unmap()))
	}
	return s, nil
}

// read takes in the listing and finds the rest.
func (s *Snapshot) read() error {
	head, rest := s.file[:headSize], s.file[headSize:]
	word, numbers := head[:len(snapshotWord)+len(Extracted)], head[len(snapshotWord)+len(Extracted):]
	if string(word) != snapshotWord+Extracted {
		return errSnapshot
	}
	listing, names, records := binary.LittleEndian.Uint64(numbers), binary.LittleEndian.Uint64(numbers[8:]), binary.LittleEndian.Uint64(numbers[16:])
	size := uint64(len(rest))
	if listing > size || names > size-listing || records != size-listing-names || names%nameSize != 0 {
		return errSnapshot
	}
	r := byteReader{left: rest[:listing], words: string(rest[:listing])}
	if crc32.Checksum(r.left, sums) != binary.LittleEndian.Uint32(numbers[24:]) {
		return errSnapshot
	}
	s.names = rest[listing : listing+names]
	at, end := listing+names, size
	count := r.count()
	s.byPath = make(map[string]int32, min(count, listing))
	s.Files, s.records = make([]Listed, 0, min(count, listing)), make([]span, 0, min(count, listing))
	for i := uint64(0); i < count && !r.failed; i++ {
		f, n := r.file(), r.count()
		if n > end-at {
			return errSnapshot
		}
		s.byPath[f.Path] = int32(len(s.Files))
		s.Files, s.records = append(s.Files, f), append(s.records, span{uint64(headSize) + at, n})
		at += n
	}
	for i, count := uint64(0), r.count(); i < count && !r.failed; i++ {
		s.Beside = append(s.Beside, r.file())
	}
	for i, count := uint64(0), r.count(); i < count && !r.failed; i++ {
		f := ListedFolder{Path: r.word(), Modified: r.number()}
		if b := r.take(8); b != nil {
			f.Entries = binary.LittleEndian.Uint64(b)
		}
		s.Folders = append(s.Folders, f)
	}
	if r.failed {
		return errSnapshot
	}
	return nil
}

// Close ends the use of the snapshot, and of the summaries that it gave.
func (s *Snapshot) Close() error { return s.file.Unmap() }

// Has says whether a file was listed.
func (s *Snapshot) Has(path string) bool {
	_, ok := s.byPath[path]
	return ok
}

// Same says whether another listing is of the same files and folders, as they were.
func (s *Snapshot) Same(l *Listing) bool {
	file := func(a, b Listed) bool { return a.File == b.File && a.Content == b.Content && a.GivenUp == b.GivenUp }
	folder := func(a, b ListedFolder) bool { return a.Path == b.Path && a.Modified == b.Modified }
	return slices.EqualFunc(s.Files, l.Files, file) && slices.EqualFunc(s.Beside, l.Beside, file) && slices.EqualFunc(s.Folders, l.Folders, folder)
}

// Summary is what the index held of a file, by its number; nil if that was nothing,
// or is damaged.
func (s *Snapshot) Summary(number int32) *Summary {
	at := s.records[number]
	if at.size == 0 {
		return nil
	}
	sum, err := decodeSummary(s.file[at.at : at.at+at.size])
	if err != nil {
		return nil
	}
	return sum
}

// named calls with all symbols of exactly a name.
func (s *Snapshot) named(name string, visit func(Symbol)) {
	hash := hashOf(name)
	n := len(s.names) / nameSize
	at := func(i int) (uint32, int32) {
		b := s.names[i*nameSize:]
		return binary.LittleEndian.Uint32(b), int32(binary.LittleEndian.Uint32(b[4:]))
	}
	wanted := []byte(name)
	for i := sort.Search(n, func(i int) bool { h, _ := at(i); return h >= hash }); i < n; i++ {
		h, file := at(i)
		if h != hash || int(file) >= len(s.Files) {
			break
		}
		sum := s.Summary(file)
		if sum == nil {
			continue
		}
		_ = sum.each(func(r rawSymbol) { // the sum of it was right
			if bytes.Equal(r.name, wanted) {
				visit(r.symbol(s.Files[file].Path))
			}
		})
	}
}

// removeSnapshots removes those that programs of other versions left beside a store.
func removeSnapshots(store string) {
	stem, _, _ := strings.Cut(filepath.Base(store), ".v")
	all, _ := filepath.Glob(filepath.Join(filepath.Dir(store), globbed(stem)+".v*.snapshot")) // the pattern is well formed
	for _, p := range all {
		if strings.TrimSuffix(p, ".snapshot") != strings.TrimSuffix(store, ".db") {
			_ = os.Remove(p) // what cannot be removed stays
		}
	}
}
