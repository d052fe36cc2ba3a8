// Package door is how files are read that somebody else has put where they are: what a project
// brings is not trusted to be a file, to end, to answer, or to lie in the project.
package door

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
	"syscall"
)

// ErrNotRegular is wrapped by the error for a pipe, a socket, a device or a folder.
var ErrNotRegular = errors.New("not a regular file")

// ErrTooLarge is wrapped by the error for a file of more bytes than are read.
var ErrTooLarge = errors.New("it is too large")

// ErrOutside is wrapped by the error for a path that leads out of the project.
var ErrOutside = errors.New("it leads out of the project")

// LargestSettings is how many bytes are read of a file that says how a project is set up.
const LargestSettings = 16 << 20

// Inside says whether a path that somebody else wrote, relative to the root of a project and with
// forward slashes, stays below it as far as its words tell; see Within for links.
func Inside(p string) bool {
	if p == "" || path.IsAbs(p) || strings.ContainsRune(p, 0) {
		return false
	}
	clean := path.Clean(p)
	return clean != ".." && !strings.HasPrefix(clean, "../")
}

// Within is where a path below a root leads with all links followed, as an absolute path; the
// error wraps ErrOutside if that is not below the root.
func Within(root, p string) (string, error) {
	if !Inside(p) {
		return "", fmt.Errorf("%s: %w", p, ErrOutside)
	}
	real, err := filepath.EvalSymlinks(filepath.Join(root, filepath.FromSlash(p)))
	if err != nil {
		return "", err
	}
	base, err := filepath.EvalSymlinks(root)
	if err != nil {
		return "", err
	}
	if real != base && !strings.HasPrefix(real, strings.TrimSuffix(base, string(filepath.Separator))+string(filepath.Separator)) {
		return "", fmt.Errorf("%s: %w", p, ErrOutside)
	}
	return real, nil
}

// Open opens a regular file without ever waiting for it, as one would for the other end of a
// pipe. Whether it is regular is asked of what was opened, not of what stood there before.
func Open(file string) (*os.File, fs.FileInfo, error) {
	f, err := os.OpenFile(file, os.O_RDONLY|syscall.O_NONBLOCK|syscall.O_NOCTTY, 0)
	if err != nil {
		if errors.Is(err, syscall.ENXIO) { // a socket
			err = fmt.Errorf("opening %s: %w", file, ErrNotRegular)
		}
		return nil, nil, err
	}
	info, err := f.Stat()
	if err == nil && !info.Mode().IsRegular() {
		err = fmt.Errorf("opening %s: %w", file, ErrNotRegular)
	}
	if err != nil {
		f.Close() // nothing was written
		return nil, nil, err
	}
	return f, info, nil
}

// Read reads a regular file of at most so many bytes, however many its size says.
func Read(file string, most int64) ([]byte, error) {
	f, info, err := Open(file)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	if info.Size() > most {
		return nil, fmt.Errorf("reading %s: %w", file, ErrTooLarge)
	}
	data, err := io.ReadAll(io.LimitReader(f, most+1))
	if err == nil && int64(len(data)) > most {
		err = fmt.Errorf("reading %s: %w", file, ErrTooLarge)
	}
	if err != nil {
		return nil, err
	}
	return data, nil
}

// ReadWithin is Read for a file of a project, a path below its root, which must not lead out of it.
func ReadWithin(root, p string, most int64) ([]byte, error) {
	real, err := Within(root, p)
	if err != nil {
		return nil, err
	}
	return Read(real, most)
}

// ReadSettings reads a file that says how a project or a package is set up, an absolute path. If
// it is below the root it must not lead out of that.
func ReadSettings(root, file string) ([]byte, error) {
	if rel, err := filepath.Rel(root, file); err == nil && Inside(filepath.ToSlash(rel)) {
		return ReadWithin(root, filepath.ToSlash(rel), LargestSettings)
	}
	return Read(file, LargestSettings)
}

// Below is all that lies below a root. No link leads out of it, and only regular files can be opened, without waiting.
func Below(root string) fs.FS { return below(root) }

type below string

// Open implements fs.FS.
func (b below) Open(name string) (fs.File, error) {
	if !fs.ValidPath(name) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrInvalid}
	}
	at, err := Within(string(b), name)
	if err != nil {
		return nil, err
	}
	f, _, err := Open(at)
	return f, err
}

// ReadDir implements fs.ReadDirFS.
func (b below) ReadDir(name string) ([]fs.DirEntry, error) {
	if !fs.ValidPath(name) {
		return nil, &fs.PathError{Op: "readdir", Path: name, Err: fs.ErrInvalid}
	}
	at, err := Within(string(b), name)
	if err != nil {
		return nil, err
	}
	return os.ReadDir(at)
}
