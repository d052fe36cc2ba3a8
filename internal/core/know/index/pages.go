package index

import (
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"io"
	"math"
	"os"
	"runtime/debug"
	"sync/atomic"

	"github.com/edsrzf/mmap-go"

	"rooktrail/internal/core/disk/mounts"
)

// A file of pages is mapped into memory and asked where it lies. Each page has a sum, which is looked at when the page
// is first asked for, so that opening costs nothing and what is damaged is never taken for an answer. The
// first page says where the sections are; the sums stand at the end.
const (
	pageSize  = 4096
	pagesWord = "rook trail pages 2"
	// sumAt is where in the first page the sum of it stands.
	sumAt = pageSize - 4
	// sectionsAt is where in it the sections begin, of two numbers each; before it the number of pages and the sum of the sums.
	sectionsAt = 64
)

var sums = crc32.MakeTable(crc32.Castagnoli)

// errDamaged says that what was kept is not as it was written.
var errDamaged = errors.New("malformed: a part of the index is not as it was written")

// pages is a file of pages that is asked where it lies.
type pages struct {
	data     []byte
	mapped   mmap.MMap // nil if all of it was read
	sums     []byte    // of the pages but for the first, four bytes each
	checked  []atomic.Uint64
	damaged  atomic.Bool
	sections []section
}

// section is a part of a file of pages. It begins with a page.
type section struct{ at, size int }

// openPages opens a file of pages with so many sections.
func openPages(path string, sections int) (*pages, error) {
	p, err := mapPages(path)
	if err == nil {
		err = p.begin(sections)
		if err != nil {
			err = errors.Join(err, p.close())
		}
	}
	if err != nil {
		return nil, fmt.Errorf("opening the index: %w", err)
	}
	return p, nil
}

// mapPages maps a file. One on another machine is read, since what is mapped of it may not come when it is asked for.
func mapPages(path string) (*pages, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close() // what is mapped stays
	info, err := f.Stat()
	if err != nil {
		return nil, err
	}
	if info.Size() < pageSize {
		return nil, errDamaged
	}
	if mounts.Remote(path) {
		data := make([]byte, info.Size())
		if _, err := io.ReadFull(f, data); err != nil {
			return nil, err
		}
		return &pages{data: data}, nil
	}
	mapped, err := mmap.Map(f, mmap.RDONLY, 0)
	if err != nil {
		return nil, err
	}
	return &pages{data: mapped, mapped: mapped}, nil
}

func (p *pages) begin(sections int) (err error) {
	defer p.guard(&err)()
	head := p.data[:pageSize]
	if crc32.Checksum(head[:sumAt], sums) != binary.LittleEndian.Uint32(head[sumAt:]) || string(head[:len(pagesWord)]) != pagesWord {
		return errDamaged
	}
	count := binary.LittleEndian.Uint64(head[32:])
	if count > uint64(len(p.data))/pageSize || uint64(len(p.data)) != (count+1)*pageSize+4*count {
		return errDamaged
	}
	end := int(count+1) * pageSize
	p.sums = p.data[end:]
	if crc32.Checksum(p.sums, sums) != binary.LittleEndian.Uint32(head[40:]) {
		return errDamaged
	}
	for i := range sections {
		at, size := binary.LittleEndian.Uint64(head[sectionsAt+16*i:]), binary.LittleEndian.Uint64(head[sectionsAt+16*i+8:])
		if at > uint64(end) || size > uint64(end)-at || at%pageSize != 0 || at == 0 {
			return errDamaged
		}
		p.sections = append(p.sections, section{int(at), int(size)})
	}
	p.checked = make([]atomic.Uint64, (count+64)/64)
	return nil
}

// close ends the use of the file.
func (p *pages) close() error {
	if p.mapped == nil {
		return nil
	}
	return p.mapped.Unmap()
}

// guarded is to be deferred by whoever looks at pages: a page that does not come, since the file was cut short, is told to
// failed rather than ending the program.
func guarded(failed func()) func() {
	before := debug.SetPanicOnFault(true)
	return func() {
		debug.SetPanicOnFault(before)
		reason := recover()
		if reason == nil {
			return
		}
		if _, fault := reason.(interface{ Addr() uintptr }); !fault {
			panic(reason)
		}
		failed()
	}
}

// guard is guarded for these pages; the failure makes an error, if there is one to make.
func (p *pages) guard(err *error) func() {
	return guarded(func() {
		p.damaged.Store(true)
		if err != nil {
			*err = errors.Join(*err, errDamaged)
		}
	})
}

// sound says whether the bytes from at, of a section, are as they were written. If not, the file is damaged.
func (p *pages) sound(n, at, size int) bool {
	s := p.sections[n]
	if at < 0 || size < 0 || at > s.size || size > s.size-at {
		p.damaged.Store(true)
		return false
	}
	if size == 0 {
		return true
	}
	for page := (s.at + at) / pageSize; page <= (s.at+at+size-1)/pageSize; page++ {
		if !p.pageSound(page) {
			return false
		}
	}
	return true
}

func (p *pages) pageSound(page int) bool {
	word, bit := &p.checked[page/64], uint64(1)<<(page%64)
	if word.Load()&bit != 0 {
		return true
	}
	if crc32.Checksum(p.data[page*pageSize:(page+1)*pageSize], sums) != binary.LittleEndian.Uint32(p.sums[4*(page-1):]) {
		p.damaged.Store(true)
		return false
	}
	word.Or(bit)
	return true
}

// bytes are those of a section from at; nil if they are not as they were written.
func (p *pages) bytes(n, at, size int) []byte {
	if !p.sound(n, at, size) {
		return nil
	}
	start := p.sections[n].at + at
	return p.data[start : start+size : start+size]
}

// whole is a section without looking at it.
func (p *pages) whole(n int) []byte {
	s := p.sections[n]
	return p.data[s.at : s.at+s.size : s.at+s.size]
}

// number is the ith of the numbers of four bytes of a section; 0 if it is not as it was written.
func (p *pages) number(n, i int) uint32 {
	if b := p.bytes(n, 4*i, 4); b != nil {
		return binary.LittleEndian.Uint32(b)
	}
	return 0
}

// pageWriter writes a file of pages. The sections are written beside each other, each within the room that it was given.
type pageWriter struct {
	file     *os.File
	sections []*sectionWriter
	sums     []byte
}

// sectionWriter writes a section.
type sectionWriter struct {
	of         *pageWriter
	at         int // where the section begins
	room, size int
	buffer     []byte
	err        error
}

// buffered is how much of a section is written at a time.
const buffered = 32 * pageSize

// newPageWriter begins to write a file with sections for which there is so much room. The last one may have any size.
func newPageWriter(file *os.File, rooms []int) *pageWriter {
	w := &pageWriter{file: file}
	at := pageSize
	for _, room := range append(rooms, math.MaxInt/2) {
		w.sections = append(w.sections, &sectionWriter{of: w, at: at, room: room})
		at += (room + pageSize - 1) / pageSize * pageSize
	}
	w.sums = make([]byte, 4*(w.sections[len(rooms)].at/pageSize-1))
	return w
}

func (s *sectionWriter) write(b []byte) {
	if s.err == nil && s.size+len(b) > s.room {
		s.err = errors.New("there is more to write than was thought")
	}
	s.size += len(b)
	s.buffer = append(s.buffer, b...)
	for len(s.buffer) >= buffered && s.err == nil {
		s.flush(buffered)
	}
}

// flush writes so much of what is waiting.
func (s *sectionWriter) flush(size int) {
	if s.err != nil || size == 0 {
		return
	}
	at := s.at + s.size - len(s.buffer)
	if need := 4 * ((at+size)/pageSize - 1); need > len(s.of.sums) {
		s.of.sums = append(s.of.sums, make([]byte, need-len(s.of.sums))...)
	}
	for from := 0; from < size; from += pageSize {
		binary.LittleEndian.PutUint32(s.of.sums[4*((at+from)/pageSize-1):], crc32.Checksum(s.buffer[from:from+pageSize], sums))
	}
	_, s.err = s.of.file.WriteAt(s.buffer[:size], int64(at))
	s.buffer = append(s.buffer[:0], s.buffer[size:]...)
}

// end writes what is left, padded to a whole page.
func (s *sectionWriter) end() error {
	size, pad := s.size, (pageSize-len(s.buffer)%pageSize)%pageSize
	s.buffer = append(s.buffer, make([]byte, pad)...)
	s.size += pad
	s.flush(len(s.buffer))
	s.size = size
	return s.err
}

// finish writes what is left, the sums and the first page.
func (w *pageWriter) finish() error {
	head := make([]byte, pageSize)
	copy(head, pagesWord)
	for i, s := range w.sections {
		if err := s.end(); err != nil {
			return err
		}
		binary.LittleEndian.PutUint64(head[sectionsAt+16*i:], uint64(s.at))
		binary.LittleEndian.PutUint64(head[sectionsAt+16*i+8:], uint64(s.size))
	}
	binary.LittleEndian.PutUint64(head[32:], uint64(len(w.sums)/4))
	binary.LittleEndian.PutUint32(head[40:], crc32.Checksum(w.sums, sums))
	binary.LittleEndian.PutUint32(head[sumAt:], crc32.Checksum(head[:sumAt], sums))
	if _, err := w.file.WriteAt(w.sums, int64(pageSize+pageSize*len(w.sums)/4)); err != nil {
		return err
	}
	_, err := w.file.WriteAt(head, 0)
	return err
}
