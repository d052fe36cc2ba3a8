package index

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gofrs/flock"

	"rooktrail/internal/core/disk/atomicfile"
)

// Segments is the folder in which the segments of a project lie. Which there are stands in a list, which is written
// anew, whole or not at all, whenever one comes or several are made one. Several programs may use it at
// the same time: each goes on with the segments that it has opened, also when they are not in
// the list any more.
type Segments struct {
	folder string
	now    func() time.Time
}

const (
	listName    = "list"
	lockName    = "lock"
	segmentEnd  = ".segment"
	newEnd      = ".new"
	listedFirst = "rook trail segments 1"
)

// OpenSegments opens the segments in a folder, which is made if it is not there, the oldest first. repaired says that there were
// some that are damaged; then there are none left.
func OpenSegments(folder string) (s *Segments, open []*Segment, repaired bool, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, nil, false, fmt.Errorf("making the folder of the index: %w", err)
	}
	s = &Segments{folder: folder, now: time.Now}
	for try := 0; ; try++ {
		open, err = s.openListed()
		if err == nil || try == 3 || !errors.Is(err, os.ErrNotExist) { // one that is listed goes when another program has merged it
			break
		}
	}
	if err == nil {
		return s, open, false, nil
	}
	if !errors.Is(err, errDamaged) && !errors.Is(err, os.ErrNotExist) {
		return nil, nil, false, err
	}
	if err := s.Remove(); err != nil {
		return nil, nil, false, err
	}
	return s, nil, true, nil
}

// openListed opens the segments that are listed.
func (s *Segments) openListed() (open []*Segment, err error) {
	names, err := s.listed()
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		seg, err := openSegment(s.folder, name)
		if err != nil {
			closeAll(open)
			return nil, err
		}
		open = append(open, seg)
	}
	return open, nil
}

func closeAll(all []*Segment) {
	for _, s := range all {
		_ = s.close() // nothing was written
	}
}

// listed are the names of the segments, the oldest first.
func (s *Segments) listed() ([]string, error) {
	data, err := os.ReadFile(filepath.Join(s.folder, listName))
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading the list of the index: %w", err)
	}
	lines := strings.Split(strings.TrimSuffix(string(data), "\n"), "\n")
	names := lines[1:]
	if len(lines) < 1 || lines[0] != listedFirst+" "+listSum(names) {
		return nil, fmt.Errorf("reading the list of the index: %w", errDamaged)
	}
	for _, n := range names {
		if n != filepath.Base(n) || !strings.HasSuffix(n, segmentEnd) {
			return nil, fmt.Errorf("reading the list of the index: %w", errDamaged)
		}
	}
	return names, nil
}

func listSum(names []string) string {
	sum := sha256.Sum256([]byte(strings.Join(names, "\n")))
	return hex.EncodeToString(sum[:8])
}

// locked does something while no other program changes the list.
func (s *Segments) locked(do func() error) error {
	lock := flock.New(filepath.Join(s.folder, lockName))
	if err := lock.Lock(); err != nil {
		return fmt.Errorf("locking the index: %w", err)
	}
	err := do()
	return errors.Join(err, lock.Unlock())
}

// relist changes the list.
func (s *Segments) relist(change func(names []string) []string) error {
	names, err := s.listed()
	if err != nil {
		names = nil // what is damaged is begun anew
	}
	after := change(slices.Clone(names))
	text := strings.Join(append([]string{listedFirst + " " + listSum(after)}, after...), "\n") + "\n"
	if err := atomicfile.Write(filepath.Join(s.folder, listName), []byte(text), 0o600); err != nil {
		return fmt.Errorf("writing the list of the index: %w", err)
	}
	for _, n := range names {
		if !slices.Contains(after, n) {
			_ = os.Remove(filepath.Join(s.folder, n)) // whoever has it open keeps it; another time, if not now
		}
	}
	return nil
}

// write makes a segment of sources, and lists it as listed says.
func (s *Segments) write(ctx context.Context, sources []source, choose chooser, listed func(names []string, name string) []string) (seg *Segment, numbers [][]int32, err error) {
	file, err := os.CreateTemp(s.folder, "*"+newEnd)
	if err != nil {
		return nil, nil, fmt.Errorf("writing the index: %w", err)
	}
	defer func() {
		if err != nil {
			_ = os.Remove(file.Name()) // it is removed later, if not now
		}
	}()
	busy := flock.New(file.Name())
	if _, err := busy.TryLock(); err != nil {
		return nil, nil, errors.Join(fmt.Errorf("writing the index: %w", err), file.Close())
	}
	defer busy.Unlock()
	numbers, err = writeSegment(ctx, file, sources, choose)
	if err = errors.Join(err, file.Close()); err != nil {
		return nil, nil, err
	}
	name := strings.TrimSuffix(filepath.Base(file.Name()), newEnd) + segmentEnd
	err = s.locked(func() error {
		if err := os.Rename(file.Name(), filepath.Join(s.folder, name)); err != nil {
			return fmt.Errorf("writing the index: %w", err)
		}
		return s.relist(func(names []string) []string { return listed(names, name) })
	})
	if err != nil {
		return nil, nil, err
	}
	seg, err = openSegment(s.folder, name)
	return seg, numbers, err
}

// Add writes what is known of files as another segment, the newest.
func (s *Segments) Add(ctx context.Context, known map[string]Known) (*Segment, error) {
	day := s.day()
	seg, _, err := s.write(ctx, []source{newMemorySource(known, day)}, func(int, int, int, *fileRecord, string) bool { return true },
		func(names []string, name string) []string { return append(names, name) })
	return seg, err
}

// day is today, in days since 1970.
func (s *Segments) day() uint32 { return uint32(s.now().Unix() / (24 * 60 * 60)) }

const (
	// versions is how many versions of a file are kept, as it was on different branches, and keptDays for how long.
	versions = 4
	keptDays = 30
	// mostAlike is how many segments of about one size there are before they are made one.
	mostAlike = 8
	// sizeSteps is by how much a segment must be larger than all that are newer not to be of their size.
	sizeSteps = 3
)

// toMerge are those that are to be made one, of the sizes of segments: all from the first one that does not have many times the
// size of all that are newer. While more are to come, these must be many, so that each symbol is written anew a few
// times at the most.
func toMerge(sizes []int, atRest bool) (from int, ok bool) {
	newer := 0
	for _, size := range sizes {
		newer += size
	}
	for from = range sizes {
		if newer -= sizes[from]; sizes[from] < sizeSteps*newer {
			break
		}
	}
	if atRest {
		return from, len(sizes)-from > 1 && newer > 0
	}
	return from, len(sizes)-from >= mostAlike
}

// merge makes one of segments. live says of each which of its files are how they are.
func (s *Segments) merge(ctx context.Context, segments []*Segment, live []bitset) (*Segment, [][]int32, error) {
	sources := make([]source, len(segments))
	for i, seg := range segments {
		sources[i] = segmentSource{seg}
	}
	day := s.day()
	choose := func(source, file, newer int, r *fileRecord, _ string) bool {
		if live[source].has(file) {
			r.seen = day
			return true
		}
		return newer < versions && r.seen+keptDays >= day
	}
	return s.write(ctx, sources, choose, func(names []string, name string) []string {
		for i, seg := range segments {
			at := slices.Index(names, seg.name)
			if at < 0 {
				continue // another program has merged it
			}
			if i == 0 {
				names[at] = name
			} else {
				names = slices.Delete(names, at, at+1)
			}
		}
		if !slices.Contains(names, name) {
			names = append([]string{name}, names...)
		}
		return names
	})
}

// Remove removes all segments.
func (s *Segments) Remove() error {
	err := s.locked(func() error { return s.relist(func([]string) []string { return nil }) })
	s.Clear()
	return err
}

// Clear removes what programs that were killed have left.
func (s *Segments) Clear() {
	_ = s.locked(func() error {
		names, err := s.listed()
		if err != nil {
			return err // then nothing is known to be left
		}
		entries, err := os.ReadDir(s.folder)
		for _, e := range entries {
			file := filepath.Join(s.folder, e.Name())
			switch {
			case strings.HasSuffix(e.Name(), segmentEnd) && !slices.Contains(names, e.Name()):
				_ = os.Remove(file) // another time, if not now
			case strings.HasSuffix(e.Name(), newEnd) && abandoned(e, s.now()):
				busy := flock.New(file)
				if ok, err := busy.TryLock(); ok && err == nil {
					_ = os.Remove(file)
					_ = busy.Unlock()
				}
			}
		}
		return err
	})
}

// abandoned says of a file that is half written whether it is not just begun.
func abandoned(e os.DirEntry, now time.Time) bool {
	info, err := e.Info()
	return err == nil && now.Sub(info.ModTime()) > time.Minute
}

// begunName is the file that says when a reading began that has not come to its end.
const begunName = "begun"

// Begin notes that the project is being read as a whole. It gives back since when, if that has been begun before and was broken off; else
// the zero time.
func (s *Segments) Begin() (since time.Time) {
	file := filepath.Join(s.folder, begunName)
	if info, err := os.Stat(file); err == nil {
		return info.ModTime()
	}
	_ = os.WriteFile(file, nil, 0o600) // without it, more is read again than need be
	return time.Time{}
}

// End notes that all was read.
func (s *Segments) End() { _ = os.Remove(filepath.Join(s.folder, begunName)) }

// Size is how many bytes the segments take on disk.
func (s *Segments) Size() (total int64) {
	entries, _ := os.ReadDir(s.folder) // what is not there takes nothing
	for _, e := range entries {
		if info, err := e.Info(); err == nil {
			total += info.Size()
		}
	}
	return total
}

// bitset is a set of small numbers.
type bitset []uint64

func newBitset(size int) bitset { return make(bitset, (size+63)/64) }

func (b bitset) has(i int) bool { return b[i/64]&(1<<(i%64)) != 0 }
func (b bitset) add(i int)      { b[i/64] |= 1 << (i % 64) }
func (b bitset) drop(i int)     { b[i/64] &^= 1 << (i % 64) }

// newestFirst orders paths, and of one path the newest first.
func newestFirst(a, b sourceFile) int {
	return cmp.Or(strings.Compare(a.path, b.path), cmp.Compare(b.source, a.source), cmp.Compare(a.file, b.file))
}
