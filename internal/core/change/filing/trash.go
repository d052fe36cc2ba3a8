package filing

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"syscall"
	"time"

	"rooktrail/internal/core/know/project"
)

// Trash is where deleted things go: a folder laid out as the trash specification
// of the free desktops says, so that they can be brought back with the tools of
// the desktop, too.
type Trash struct {
	// Folder holds the folders files and info.
	Folder string
}

// trashed is something in the trash.
type trashed struct{ file, info string }

// put moves a file or folder, an absolute path, to the trash.
func (t Trash) put(path string, now time.Time) (trashed, error) {
	if t.Folder == "" {
		return trashed{}, errors.New("there is no folder for deleted things")
	}
	for _, sub := range []string{"files", "info"} {
		if err := os.MkdirAll(filepath.Join(t.Folder, sub), 0o700); err != nil {
			return trashed{}, fmt.Errorf("making the trash: %w", err)
		}
	}
	in, err := t.reserve(path, now)
	if err != nil {
		return trashed{}, err
	}
	if err := move(path, in.file); err != nil {
		_ = os.Remove(in.info) // what was reserved is not needed; the failure above is what matters
		return trashed{}, err
	}
	return in, nil
}

// reserve takes a name in the trash that nobody else has, by writing what is
// known of the thing there.
func (t Trash) reserve(path string, now time.Time) (trashed, error) {
	words := "[Trash Info]\nPath=" + (&url.URL{Path: path}).EscapedPath() + "\nDeletionDate=" + now.Format("2006-01-02T15:04:05") + "\n"
	for n := 1; ; n++ {
		name := filepath.Base(path)
		if n > 1 {
			name += "." + strconv.Itoa(n)
		}
		in := trashed{filepath.Join(t.Folder, "files", name), filepath.Join(t.Folder, "info", name+".trashinfo")}
		f, err := os.OpenFile(in.info, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
		if errors.Is(err, fs.ErrExist) {
			continue
		}
		if err == nil {
			_, err = f.WriteString(words)
			err = errors.Join(err, f.Close())
		}
		if err != nil {
			return trashed{}, fmt.Errorf("writing to the trash: %w", err)
		}
		if _, err := os.Lstat(in.file); errors.Is(err, fs.ErrNotExist) {
			return in, nil
		}
		_ = os.Remove(in.info) // somebody left the thing without a note: take another name
	}
}

// back moves something from the trash to a path that is free.
func (in trashed) back(path string) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return fmt.Errorf("making %s again: %w", filepath.Dir(path), err)
	}
	if err := move(in.file, path); err != nil {
		return err
	}
	_ = os.Remove(in.info) // a note about nothing does no harm
	return nil
}

// move renames, or copies and removes where the two are on different disks. What
// is at from stays unless all of it has arrived.
func move(from, to string) error {
	err := os.Rename(from, to)
	if err == nil {
		return nil
	}
	if !errors.Is(err, syscall.EXDEV) {
		return fmt.Errorf("moving %s: %w", from, project.WithoutPath(err))
	}
	if err := copyAll(from, to); err != nil {
		_ = os.RemoveAll(to) // half a copy is of no use; the original is still there
		return fmt.Errorf("moving %s: %w", from, err)
	}
	if err := os.RemoveAll(from); err != nil {
		return fmt.Errorf("removing %s, which is copied to %s: %w", from, to, err)
	}
	return nil
}

// copyAll copies files, folders and links with their modes and times.
func copyAll(from, to string) error {
	info, err := os.Lstat(from)
	if err != nil {
		return err
	}
	switch mode := info.Mode(); {
	case mode&fs.ModeSymlink != 0:
		target, err := os.Readlink(from)
		if err != nil {
			return err
		}
		return os.Symlink(target, to)
	case mode.IsDir():
		return copyFolder(from, to, info)
	case mode.IsRegular():
		return copyFile(from, to, info)
	}
	return fmt.Errorf("%s is a pipe, a socket or a device", from)
}

func copyFolder(from, to string, info fs.FileInfo) error {
	if err := os.Mkdir(to, 0o700); err != nil {
		return err
	}
	entries, err := os.ReadDir(from)
	if err != nil {
		return err
	}
	for _, e := range entries {
		if err := copyAll(filepath.Join(from, e.Name()), filepath.Join(to, e.Name())); err != nil {
			return err
		}
	}
	return sameAs(to, info)
}

func copyFile(from, to string, info fs.FileInfo) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	if err = errors.Join(err, out.Sync(), out.Close()); err != nil {
		return err
	}
	return sameAs(to, info)
}

func sameAs(path string, info fs.FileInfo) error {
	return errors.Join(os.Chmod(path, info.Mode().Perm()), os.Chtimes(path, time.Time{}, info.ModTime()))
}
