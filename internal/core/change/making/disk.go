package making

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/text"
)

// Disk is what changing files asks of the system, so that each of its steps can be made to fail.
type Disk interface {
	text.Disk
	ReadFile(path string) ([]byte, error) // of a regular file
	MkdirAll(path string, mode fs.FileMode) error
	Chmod(path string, mode fs.FileMode) error
	// CreateAs makes a file to be written, which takes the place of one of that name.
	CreateAs(path string, mode fs.FileMode) (text.Temporary, error)
	// WriteWhole puts data in place of a file of the program's own, or leaves the file as it was.
	WriteWhole(file string, data []byte) error
}

// largest is more bytes than any file has that one would change.
const largest = 1 << 40

// System is the disk of the system.
type System struct{ text.System }

// ReadFile implements Disk.
func (System) ReadFile(path string) ([]byte, error) {
	data, err := door.Read(path, largest)
	var of *fs.PathError
	if errors.As(err, &of) {
		err = of.Err // who asks knows of which file
	}
	return data, err
}

// MkdirAll implements Disk.
func (System) MkdirAll(path string, mode fs.FileMode) error { return os.MkdirAll(path, mode) }

// Chmod implements Disk.
func (System) Chmod(path string, mode fs.FileMode) error { return os.Chmod(path, mode) }

// CreateAs implements Disk.
func (s System) CreateAs(path string, mode fs.FileMode) (text.Temporary, error) {
	if err := os.Remove(path); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	return s.System.CreateAs(path, mode)
}

// WriteWhole implements Disk.
func (System) WriteWhole(file string, data []byte) error { return atomicfile.Write(file, data, 0o600) }

// naming is a disk on which the files that lie ready have names by which those of one change are known.
type naming struct {
	Disk
	id     string
	number int
}

// Create implements text.Disk.
func (d naming) Create(dir string, mode fs.FileMode) (text.Temporary, error) {
	return d.CreateAs(filepath.Join(dir, fmt.Sprintf("%s%d", lying(d.id), d.number)), mode)
}

// lying begins the names of the files of a change that lie ready.
func lying(id string) string { return ".rooktrail-saving-" + id + "-" }
