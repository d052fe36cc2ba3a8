// Package filing creates, renames, moves and deletes the files and folders of a
// project, so that each of these can be undone. Nothing is ever written over, and
// what is deleted goes to the trash.
package filing

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"time"

	"rooktrail/internal/core/know/project"
)

// Filing is at work in one project. It may be used by several goroutines.
type Filing struct {
	root  string
	trash Trash

	mu   sync.Mutex
	done []step
}

// New begins filing in the project at root, an absolute path. Deleted things go
// to a trash folder.
func New(root, trash string) *Filing { return &Filing{root: root, trash: Trash{trash}} }

// step is something that was done and can be undone.
type step struct {
	did      string // in words
	from, to string // paths in the project; created: only to; deleted: only from
	in       trashed
	made     []string // folders that were made on the way, the outermost first
}

// Moved tells which path a file or folder had and has now; one of the two is ""
// for what was created or deleted.
type Moved struct{ From, To string }

// ErrTaken says that there is something at a path already.
var ErrTaken = errors.New("there is something of this name already")

// clean checks a path that was typed, relative to the root with forward slashes.
func (f *Filing) clean(path string) (full, rel string, err error) {
	rel = filepath.ToSlash(filepath.Clean(filepath.FromSlash(strings.TrimSpace(path))))
	switch {
	case strings.TrimSpace(path) == "" || rel == ".":
		return "", "", errors.New("it needs a name")
	case filepath.IsAbs(path) || rel == ".." || strings.HasPrefix(rel, "../"):
		return "", "", fmt.Errorf("%s is outside of this project", path)
	case strings.ContainsRune(rel, 0):
		return "", "", fmt.Errorf("%q is no name that a file can have", rel)
	case rel == ".git" || strings.HasPrefix(rel, ".git/"):
		return "", "", errors.New("what is in .git belongs to git")
	}
	return filepath.Join(f.root, filepath.FromSlash(rel)), rel, nil
}

// free says whether nothing is at a path.
func free(full string) error {
	switch _, err := os.Lstat(full); {
	case err == nil:
		return ErrTaken
	case errors.Is(err, fs.ErrNotExist) || errors.Is(err, syscall.ENOTDIR): // what is in the way is told later
		return nil
	default:
		return project.WithoutPath(err)
	}
}

// Create makes an empty file, or a folder if the path ends with a slash, with the
// folders on the way. It returns the path as the project writes it.
func (f *Filing) Create(path string) (rel string, err error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	full, rel, err := f.clean(path)
	if err == nil {
		err = free(full)
	}
	if err != nil {
		return "", fmt.Errorf("creating %s: %w", path, err)
	}
	made, err := f.folders(filepath.Dir(full))
	if err != nil {
		return "", fmt.Errorf("creating %s: %w", rel, err)
	}
	if strings.HasSuffix(strings.TrimSpace(path), "/") {
		err = os.Mkdir(full, 0o755)
	} else {
		var file *os.File
		if file, err = os.OpenFile(full, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644); err == nil {
			err = file.Close()
		}
	}
	if err != nil {
		f.unmake(made)
		return "", fmt.Errorf("creating %s: %w", rel, project.WithoutPath(err))
	}
	f.done = append(f.done, step{did: "created " + rel, to: rel, made: made})
	return rel, nil
}

// Rename gives a file or folder another path, with the folders on the way. It
// returns the new path as the project writes it.
func (f *Filing) Rename(from, to string) (rel string, err error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	failed := func(err error) (string, error) { return "", fmt.Errorf("renaming %s to %s: %w", from, to, err) }
	old, from, err := f.clean(from)
	if err != nil {
		return failed(err)
	}
	full, rel, err := f.clean(to)
	switch {
	case err != nil:
		return failed(err)
	case rel == from:
		return failed(errors.New("that is its name already"))
	case strings.HasPrefix(rel, from+"/"):
		return failed(errors.New("a folder cannot go into itself"))
	}
	if err := free(full); err != nil && !onlyCase(old, full) {
		return failed(err)
	}
	made, err := f.folders(filepath.Dir(full))
	if err != nil {
		return failed(err)
	}
	if err := os.Rename(old, full); err != nil {
		f.unmake(made)
		return failed(project.WithoutPath(err))
	}
	f.done = append(f.done, step{did: "renamed " + from + " to " + rel, from: from, to: rel, made: made})
	return rel, nil
}

// onlyCase says that two paths name the same thing, as on disks that do not tell
// capitals apart.
func onlyCase(a, b string) bool {
	x, err := os.Lstat(a)
	y, err2 := os.Lstat(b)
	return err == nil && err2 == nil && os.SameFile(x, y) && strings.EqualFold(a, b)
}

// Delete moves a file or folder to the trash.
func (f *Filing) Delete(path string) error {
	f.mu.Lock()
	defer f.mu.Unlock()
	full, rel, err := f.clean(path)
	if err != nil {
		return fmt.Errorf("deleting %s: %w", path, err)
	}
	in, err := f.trash.put(full, time.Now())
	if err != nil {
		return fmt.Errorf("deleting %s: %w", rel, err)
	}
	f.done = append(f.done, step{did: "deleted " + rel, from: rel, in: in})
	return nil
}

// Undo takes back the latest of what was done and was not undone yet. It says
// what that was, and what has moved by undoing it. did is "" if there is nothing
// to undo. What cannot be undone stays to be undone later.
func (f *Filing) Undo() (did string, moved Moved, err error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	n := len(f.done) - 1
	if n < 0 {
		return "", Moved{}, nil
	}
	s := f.done[n]
	from, to := filepath.Join(f.root, filepath.FromSlash(s.from)), filepath.Join(f.root, filepath.FromSlash(s.to))
	switch {
	case s.from == "": // created: it may have been written to since
		_, err = f.trash.put(to, time.Now())
		moved = Moved{From: s.to}
	case s.to == "": // deleted
		if err = free(from); err == nil {
			err = s.in.back(from)
		}
		moved = Moved{To: s.from}
	default:
		if err = free(from); err == nil {
			if err = os.MkdirAll(filepath.Dir(from), 0o755); err == nil {
				err = os.Rename(to, from)
			}
		}
		moved = Moved{From: s.to, To: s.from}
	}
	if err != nil {
		return s.did, Moved{}, fmt.Errorf("undoing that one %s: %w", s.did, project.WithoutPath(err))
	}
	f.unmake(s.made)
	f.done = f.done[:n]
	return s.did, moved, nil
}

// folders makes the folders on the way to a path that are not there, and returns
// them, the outermost first.
func (f *Filing) folders(dir string) (made []string, err error) {
	var missing []string
	for ; len(dir) > len(f.root); dir = filepath.Dir(dir) {
		info, err := os.Stat(dir)
		if err == nil && !info.IsDir() {
			return nil, fmt.Errorf("%s is a file", filepath.Base(dir))
		}
		if err == nil {
			break
		}
		missing = append(missing, dir)
	}
	for i := len(missing) - 1; i >= 0; i-- {
		if err := os.Mkdir(missing[i], 0o755); err != nil {
			f.unmake(made)
			return nil, project.WithoutPath(err)
		}
		made = append(made, missing[i])
	}
	return made, nil
}

// unmake removes folders that were made and are empty again.
func (f *Filing) unmake(made []string) {
	for i := len(made) - 1; i >= 0; i-- {
		if os.Remove(made[i]) != nil {
			return // something else is in it now
		}
	}
}
