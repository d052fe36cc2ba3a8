package index

import (
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"os"
	"path/filepath"
	"slices"
	"strings"

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

// The layout: the word it begins with, a sum of what follows, and that.
const (
	listingWord = "rook trail listing 1 "
	headSize    = len(listingWord) + 4
)

// errListing says that a listing is not as it was written.
var errListing = errors.New("malformed: the listing of the index is not as it was written")

// listingFile is where the listing of the project at root lies in a folder of indexes.
func listingFile(folder, root string) string { return filepath.Join(folder, fileName(root, "listing")) }

// WriteListing keeps a listing for the project at root in a folder of indexes, in place of an earlier one.
func WriteListing(folder, root string, l *Listing) error {
	body := l.encode()
	data := binary.LittleEndian.AppendUint32([]byte(listingWord), crc32.Checksum(body, sums))
	if err := atomicfile.Write(listingFile(folder, root), append(data, body...), 0o600); err != nil {
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

// ReadListing reads the listing of the project at root in a folder of indexes. An
// error that wraps os.ErrNotExist says that there is none.
func ReadListing(folder, root string) (*Listing, error) {
	data, err := os.ReadFile(listingFile(folder, root))
	var l *Listing
	if err == nil {
		l, err = decodeListing(data)
	}
	if err != nil {
		return nil, fmt.Errorf("opening the listing of the index: %w", err)
	}
	return l, nil
}

func (l *Listing) encode() (b []byte) {
	for _, files := range [][]Listed{l.Files, l.Beside} {
		b = binary.AppendUvarint(b, uint64(len(files)))
		for _, f := range files {
			b = appendFile(b, f)
		}
	}
	b = binary.AppendUvarint(b, uint64(len(l.Folders)))
	for _, f := range l.Folders {
		b = appendText(b, f.Path)
		b = binary.AppendVarint(b, f.Modified)
		b = binary.LittleEndian.AppendUint64(b, f.Entries)
	}
	return b
}

func appendFile(b []byte, f Listed) []byte {
	b = binary.AppendVarint(binary.AppendUvarint(appendText(b, f.Path), uint64(f.Size)), f.Modified)
	if f.Content == (Content{}) && f.GivenUp == "" {
		return append(b, 0)
	}
	b = append(append(b, 1), f.Content[:]...)
	return binary.AppendVarint(appendText(b, f.GivenUp), f.Again)
}

func decodeListing(data []byte) (*Listing, error) {
	if len(data) < headSize || string(data[:len(listingWord)]) != listingWord ||
		crc32.Checksum(data[headSize:], sums) != binary.LittleEndian.Uint32(data[len(listingWord):]) {
		return nil, errListing
	}
	r := byteReader{left: data[headSize:], words: string(data[headSize:])}
	l := &Listing{Files: r.files(), Beside: r.files()}
	count := r.count()
	l.Folders = make([]ListedFolder, 0, min(count, uint64(len(r.left))))
	for i := uint64(0); i < count && !r.failed; i++ {
		f := ListedFolder{Path: r.word(), Modified: r.number()}
		if b := r.take(8); b != nil {
			f.Entries = binary.LittleEndian.Uint64(b)
		}
		l.Folders = append(l.Folders, f)
	}
	if r.failed {
		return nil, errListing
	}
	return l, nil
}

func (r *byteReader) files() []Listed {
	count := r.count()
	files := make([]Listed, 0, min(count, uint64(len(r.left))))
	for i := uint64(0); i < count && !r.failed; i++ {
		files = append(files, r.file())
	}
	return files
}

func (r *byteReader) file() (f Listed) {
	f.Path = r.word()
	f.Size, f.Modified = int64(r.count()), r.number()
	if more := r.take(1); len(more) == 1 && more[0] == 1 {
		copy(f.Content[:], r.take(uint64(len(f.Content))))
		f.GivenUp, f.Again = r.word(), r.number()
	}
	return f
}

// Same says whether another listing is of the same files and folders, as they were.
func (l *Listing) Same(other *Listing) bool {
	folder := func(a, b ListedFolder) bool { return a.Path == b.Path && a.Modified == b.Modified }
	return slices.Equal(l.Files, other.Files) && slices.Equal(l.Beside, other.Beside) && slices.EqualFunc(l.Folders, other.Folders, folder)
}

// Has says whether a file was listed. The files must be in the order of their paths.
func (l *Listing) Has(path string) bool {
	_, ok := slices.BinarySearchFunc(l.Files, path, func(f Listed, p string) int { return strings.Compare(f.Path, p) })
	return ok
}
