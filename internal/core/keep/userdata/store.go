// Package userdata is where what the user keeps of a project lies (Folder), and lists of a kind
// in a folder, one JSON file each, for several programs at the same time
// (Store): what is saved takes over what another has changed since.
package userdata

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"

	"github.com/gofrs/flock"

	"rooktrail/internal/core/disk/atomicfile"
)

// Kind tells of what is kept what a store has to know.
type Kind[T any] struct {
	// What names one in messages, such as "sweep".
	What string
	// Version is that of the form in which they are kept now.
	Version int
	// Form is the version of the one that was read, ID its name among the files, Name
	// what people call it.
	Form     func(*T) int
	ID, Name func(*T) *string
	// Merge takes over into the first what another program has changed in the second.
	Merge func(mine, other *T)
}

// Store keeps them. Several programs may use a folder at the same time.
type Store[T any] struct {
	folder string
	kind   Kind[T]

	mu      sync.Mutex
	removed map[string]bool // by this program: what is still to be saved of them is not
}

// NewStore keeps them in a folder, which is made when the first is saved.
func NewStore[T any](folder string, kind Kind[T]) *Store[T] {
	return &Store[T]{folder: folder, kind: kind, removed: map[string]bool{}}
}

func (st *Store[T]) isRemoved(id string) bool {
	st.mu.Lock()
	defer st.mu.Unlock()
	return st.removed[id]
}

// Load reads all of them, in the order of their files. Of files that cannot be read the
// error tells; they are left alone, and the others are there all the same.
func (st *Store[T]) Load() ([]*T, error) {
	entries, err := os.ReadDir(st.folder)
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading what is kept of each %s: %w", st.kind.What, err)
	}
	var all []*T
	var wrong []error
	for _, e := range entries {
		id, ok := strings.CutSuffix(e.Name(), ".json")
		if !ok || strings.HasPrefix(id, ".") {
			continue
		}
		s, err := st.read(id)
		if err != nil {
			wrong = append(wrong, err)
			continue
		}
		all = append(all, s)
	}
	return all, errors.Join(wrong...)
}

func (st *Store[T]) file(id string) string { return filepath.Join(st.folder, id+".json") }

// read reads one; its error names the file, and the line where it is wrong.
func (st *Store[T]) read(id string) (*T, error) {
	data, err := os.ReadFile(st.file(id))
	if err != nil {
		return nil, fmt.Errorf("reading a %s: %w", st.kind.What, err)
	}
	s := new(T)
	if err := json.Unmarshal(data, s); err != nil {
		where := ""
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			where = fmt.Sprintf(" in line %d", 1+strings.Count(string(data[:min(int(syntax.Offset), len(data))]), "\n"))
		}
		return nil, fmt.Errorf("the %s in %s is not well formed%s: %w; mend it or remove it", st.kind.What, st.file(id), where, err)
	}
	if st.kind.Form(s) > st.kind.Version {
		return nil, fmt.Errorf("the %s in %s was kept by a later version of this program and is left alone", st.kind.What, st.file(id))
	}
	*st.kind.ID(s) = id
	return s, nil
}

// Save keeps one, with what another program has changed in it since: the given one
// is brought up to date, too. One that was removed is not brought back.
func (st *Store[T]) Save(s *T) error {
	id := *st.kind.ID(s)
	unlock, err := st.lock()
	if err == nil {
		defer unlock()
		if st.isRemoved(id) {
			return nil
		}
		if other, readErr := st.read(id); readErr == nil {
			st.kind.Merge(s, other)
		} else if !errors.Is(readErr, os.ErrNotExist) {
			return readErr // not to be written over
		}
		var data []byte
		if data, err = json.MarshalIndent(s, "", " "); err == nil {
			err = atomicfile.Write(st.file(id), data, 0o600)
		}
	}
	if err != nil {
		return fmt.Errorf("keeping the %s %q: %w", st.kind.What, *st.kind.Name(s), err)
	}
	return nil
}

// Remove deletes one.
func (st *Store[T]) Remove(id string) error {
	unlock, err := st.lock()
	if err != nil {
		return fmt.Errorf("removing a %s: %w", st.kind.What, err)
	}
	defer unlock()
	st.mu.Lock()
	st.removed[id] = true
	st.mu.Unlock()
	if err := os.Remove(st.file(id)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing a %s: %w", st.kind.What, err)
	}
	return nil
}

// lock lets one program at a time change what is in the folder.
func (st *Store[T]) lock() (unlock func(), err error) {
	if err := os.MkdirAll(st.folder, 0o700); err != nil {
		return nil, err
	}
	l := flock.New(filepath.Join(st.folder, ".lock"))
	if err := l.Lock(); err != nil {
		return nil, err
	}
	return func() { l.Unlock() }, nil
}
