package index

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"errors"
	"fmt"
	"iter"
	"os"
	"path"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"sync"

	"github.com/google/renameio/v2"

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
	// Again is from when on it is worth another try, in seconds since 1970; 0 if it never is.
	Again int64
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

// The sections of a listing on disk. Files and folders are in the order of their paths.
const (
	listedFiles   = iota // of each file where its path is, its size and time, and where in listedMore there is more of it, from 1
	listedPaths          // the paths of files
	listedNames          // the numbers of the files, in the order of their names without folders
	listedFolders        // of each folder where its path is, its time and what is in it
	listedFolderPaths
	listedBeside // the files beside
	listedMore   // contents, and why files were given up
	listedSections
)

const (
	listedFileSize   = 28
	listedFolderSize = 24
)

// listingFile is where the listing of the project at root lies in a folder of indexes.
func listingFile(folder, root string) string { return filepath.Join(folder, fileName(root, "listing")) }

// WriteListing keeps a listing for the project at root in a folder of indexes, in place of an earlier one.
func WriteListing(folder, root string, l *Listing) error {
	file, err := renameio.NewPendingFile(listingFile(folder, root), renameio.WithTempDir(folder), renameio.WithPermissions(0o600))
	if err == nil {
		defer file.Cleanup()
		if err = l.write(file.File); err == nil {
			err = file.CloseAtomicallyReplace()
		}
	}
	if err != nil {
		return fmt.Errorf("writing the listing of the index: %w", err)
	}
	return nil
}

// RemoveListing removes that of the project at root, if there is one.
func RemoveListing(folder, root string) error {
	if err := os.Remove(listingFile(folder, root)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing the listing of the index: %w", err)
	}
	return nil
}

// write writes the listing, whose files and folders must be in the order of their paths.
func (l *Listing) write(file *os.File) error {
	var table, paths, names, folders, folderPaths, beside, more []byte
	for _, f := range l.Files {
		extra := 0
		if f.Content != (Content{}) || f.GivenUp != "" {
			if extra = len(more) + 1; f.GivenUp != "" {
				extra |= listedGivenUp
			}
			more = append(more, f.Content[:]...)
			more = binary.AppendVarint(appendText(more, f.GivenUp), f.Again)
		}
		table = binary.LittleEndian.AppendUint32(binary.LittleEndian.AppendUint32(table, uint32(len(paths))), uint32(len(f.Path)))
		table = binary.LittleEndian.AppendUint64(binary.LittleEndian.AppendUint64(table, uint64(f.Size)), uint64(f.Modified))
		table = binary.LittleEndian.AppendUint32(table, uint32(extra))
		paths = append(paths, f.Path...)
	}
	for _, i := range l.byName() {
		names = binary.LittleEndian.AppendUint32(names, uint32(i))
	}
	for _, f := range l.Folders {
		folders = binary.LittleEndian.AppendUint32(binary.LittleEndian.AppendUint32(folders, uint32(len(folderPaths))), uint32(len(f.Path)))
		folders = binary.LittleEndian.AppendUint64(binary.LittleEndian.AppendUint64(folders, uint64(f.Modified)), f.Entries)
		folderPaths = append(folderPaths, f.Path...)
	}
	for _, f := range l.Beside {
		beside = appendFile(beside, f)
	}
	sections := [][]byte{table, paths, names, folders, folderPaths, beside, more}
	rooms := make([]int, listedSections-1)
	for i := range rooms {
		rooms[i] = len(sections[i])
	}
	w := newPageWriter(file, rooms)
	for i, s := range w.sections {
		s.write(sections[i])
	}
	return w.finish()
}

// byName are the numbers of the files in the order of their names without folders.
func (l *Listing) byName() []int {
	order := make([]int, len(l.Files))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		return cmp.Or(strings.Compare(path.Base(l.Files[a].Path), path.Base(l.Files[b].Path)), cmp.Compare(a, b))
	})
	return order
}

func appendFile(b []byte, f Listed) []byte {
	return binary.AppendVarint(binary.AppendUvarint(appendText(b, f.Path), uint64(f.Size)), f.Modified)
}

// ListingOnDisk is a listing as it lies on disk, which is asked there. It may be used by several goroutines. If it is damaged, it
// lacks what cannot be read of it, and says so.
type ListingOnDisk struct {
	*pages
	files, folders int

	mu sync.Mutex
	// there says of folders in which something was looked for whether they are there.
	there map[string]bool
}

// OpenListing opens the listing of the project at root in a folder of indexes. An
// error that wraps os.ErrNotExist says that there is none.
func OpenListing(folder, root string) (*ListingOnDisk, error) {
	p, err := openPages(listingFile(folder, root), listedSections)
	if err != nil {
		return nil, err
	}
	size := func(n int) int { return p.sections[n].size }
	l := &ListingOnDisk{pages: p, files: size(listedFiles) / listedFileSize, folders: size(listedFolders) / listedFolderSize}
	if size(listedFiles) != l.files*listedFileSize || size(listedNames) != 4*l.files || size(listedFolders) != l.folders*listedFolderSize {
		_ = p.close() // it is not used
		return nil, fmt.Errorf("opening the listing of the index: %w", errDamaged)
	}
	return l, nil
}

// Close ends the use of the listing.
func (l *ListingOnDisk) Close() error { return l.close() }

// Damaged says that it is not as it was written.
func (l *ListingOnDisk) Damaged() bool { return l.damaged.Load() }

// Len is how many files there are.
func (l *ListingOnDisk) Len() int { return l.files }

// pathOf is the path of the ith entry of a table.
func (l *ListingOnDisk) pathOf(table, size, paths, i int) (path, rest []byte) {
	b := l.bytes(table, i*size, size)
	if b == nil {
		return nil, nil
	}
	return l.bytes(paths, int(binary.LittleEndian.Uint32(b)), int(binary.LittleEndian.Uint32(b[4:]))), b[8:]
}

// At is the ith of the files, in the order of their paths; ok is false if it is damaged.
func (l *ListingOnDisk) At(i int) (f project.File, ok bool) {
	defer l.guard(nil)()
	return l.at(i)
}

func (l *ListingOnDisk) at(i int) (f project.File, ok bool) {
	p, rest := l.pathOf(listedFiles, listedFileSize, listedPaths, i)
	if p == nil {
		return f, false
	}
	return project.File{Path: string(p), Size: int64(binary.LittleEndian.Uint64(rest)), Modified: int64(binary.LittleEndian.Uint64(rest[8:]))}, true
}

// listedGivenUp is set, beside where it stands, if what else there is to say of a file is that it was given up.
const listedGivenUp = 1 << 31

// GivenUp are the files that a parser could not read.
func (l *ListingOnDisk) GivenUp() (files []Listed) {
	defer l.guard(nil)()
	table := l.bytes(listedFiles, 0, l.files*listedFileSize)
	for i := range len(table) / listedFileSize {
		if binary.LittleEndian.Uint32(table[i*listedFileSize+24:])&listedGivenUp != 0 {
			files = append(files, l.noted(i))
		}
	}
	return files
}

// Content is what stands for the text of a file, if it was kept; none if not.
func (l *ListingOnDisk) Content(path string) Content {
	defer l.guard(nil)()
	if i, ok := l.find(listedFiles, listedFileSize, listedPaths, l.files, path); ok {
		return l.noted(i).Content
	}
	return Content{}
}

// usuallyNoted is how many bytes there usually are at most of what else there is to say of a file.
const usuallyNoted = 256

// noted is the ith file with what else there is to say of it.
func (l *ListingOnDisk) noted(i int) (f Listed) {
	f.File, _ = l.at(i)
	b := l.bytes(listedFiles, i*listedFileSize, listedFileSize)
	if b == nil {
		return f
	}
	at := int(binary.LittleEndian.Uint32(b[24:])&^listedGivenUp) - 1
	if at < 0 {
		return f
	}
	rest := l.sections[listedMore].size - at
	for _, size := range []int{min(rest, usuallyNoted), rest} {
		r := byteReader{left: l.bytes(listedMore, at, size)}
		copy(f.Content[:], r.take(uint64(len(f.Content))))
		f.GivenUp, f.Again = string(r.text()), r.number()
		if !r.failed {
			break
		}
	}
	return f
}

// find is the number of the file or folder of a path in a table.
func (l *ListingOnDisk) find(table, size, paths, count int, path string) (int, bool) {
	sought := []byte(path)
	return sort.Find(count, func(i int) int {
		p, _ := l.pathOf(table, size, paths, i)
		return bytes.Compare(sought, p)
	})
}

// File implements project.Below.
func (l *ListingOnDisk) File(path string) (f project.File, ok bool) {
	defer l.guard(nil)()
	if !l.hasFolderOf(path) {
		return f, false
	}
	i, ok := l.find(listedFiles, listedFileSize, listedPaths, l.files, path)
	if !ok {
		return f, false
	}
	return l.at(i)
}

// mostThere is of how many folders it is remembered whether they are there.
const mostThere = 10_000

// hasFolderOf says whether the folder of a path is there, or a file in it: where a header may be, it is looked for in many that are not.
func (l *ListingOnDisk) hasFolderOf(file string) bool {
	at := strings.LastIndexByte(file, '/')
	if at < 0 {
		return true
	}
	folder := file[:at]
	l.mu.Lock()
	defer l.mu.Unlock()
	there, known := l.there[folder]
	if known {
		return there
	}
	_, there = l.find(listedFolders, listedFolderSize, listedFolderPaths, l.folders, folder)
	there = there || l.holds(listedFiles, listedFileSize, listedPaths, l.files, folder) || l.holds(listedFolders, listedFolderSize, listedFolderPaths, l.folders, folder)
	if len(l.there) >= mostThere || l.there == nil {
		l.there = map[string]bool{}
	}
	l.there[strings.Clone(folder)] = there
	return there
}

// holds says whether something in a table is below a folder.
func (l *ListingOnDisk) holds(table, size, paths, count int, folder string) bool {
	i, _ := l.find(table, size, paths, count, folder+"/")
	if i == count {
		return false
	}
	p, _ := l.pathOf(table, size, paths, i)
	return bytes.HasPrefix(p, []byte(folder+"/"))
}

// Has says whether a file was listed.
func (l *ListingOnDisk) Has(path string) bool {
	_, ok := l.File(path)
	return ok
}

// IsFolder implements project.Below.
func (l *ListingOnDisk) IsFolder(path string) (ok bool) {
	defer l.guard(nil)()
	if !l.hasFolderOf(path) {
		return false
	}
	_, ok = l.find(listedFolders, listedFolderSize, listedFolderPaths, l.folders, path)
	return ok
}

// Files implements project.Below.
func (l *ListingOnDisk) Files() iter.Seq[project.File] {
	return func(yield func(project.File) bool) {
		for i := range l.files {
			if f, ok := l.At(i); ok && !yield(f) {
				return
			}
		}
	}
}

// FolderAt is the ith of the folders, in the order of their paths; ok is false if it is damaged.
func (l *ListingOnDisk) FolderAt(i int) (f ListedFolder, ok bool) {
	defer l.guard(nil)()
	p, rest := l.pathOf(listedFolders, listedFolderSize, listedFolderPaths, i)
	if p == nil {
		return f, false
	}
	return ListedFolder{Path: string(p), Modified: int64(binary.LittleEndian.Uint64(rest)), Entries: binary.LittleEndian.Uint64(rest[8:])}, true
}

// FolderCount is how many folders there are.
func (l *ListingOnDisk) FolderCount() int { return l.folders }

// Folders implements project.Below.
func (l *ListingOnDisk) Folders() iter.Seq[string] {
	return func(yield func(string) bool) {
		for i := range l.folders {
			if f, ok := l.FolderAt(i); ok && !yield(f.Path) {
				return
			}
		}
	}
}

// Named implements project.Below.
func (l *ListingOnDisk) Named(base string) (paths []string) {
	defer l.guard(nil)()
	at := func(i int) string {
		p, _ := l.pathOf(listedFiles, listedFileSize, listedPaths, int(l.number(listedNames, i)))
		return string(p)
	}
	for i := sort.Search(l.files, func(i int) bool { return path.Base(at(i)) >= base }); i < l.files; i++ {
		p := at(i)
		if path.Base(p) != base {
			break
		}
		paths = append(paths, p)
	}
	return paths
}

// Beside are the files beside the listing.
func (l *ListingOnDisk) Beside() (files []project.File) {
	defer l.guard(nil)()
	r := byteReader{left: l.bytes(listedBeside, 0, l.sections[listedBeside].size)}
	for len(r.left) > 0 && !r.failed {
		files = append(files, project.File{Path: string(r.text()), Size: int64(r.count()), Modified: r.number()})
	}
	return files
}

// Same says whether another listing is of the same files and folders, as they were.
func (l *ListingOnDisk) Same(other *Listing) bool {
	if l.files != len(other.Files) || l.folders != len(other.Folders) {
		return false
	}
	defer l.guard(nil)()
	for i := range other.Files {
		if f := l.noted(i); f != other.Files[i] {
			return false
		}
	}
	for i := range other.Folders {
		if f, ok := l.FolderAt(i); !ok || f.Path != other.Folders[i].Path || f.Modified != other.Folders[i].Modified {
			return false
		}
	}
	beside := l.Beside()
	return slices.EqualFunc(beside, other.Beside, func(f project.File, o Listed) bool { return f == o.File }) && !l.Damaged()
}
