package sweep

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"github.com/gofrs/flock"
	"github.com/google/renameio/v2"
)

// Version is that of the form in which sweeps are kept.
const Version = 1

// Store keeps the sweeps of a project in a folder, one file each. Several programs may
// use it at the same time.
type Store struct {
	folder string

	mu      sync.Mutex
	removed map[string]bool // by this program: what is still to be saved of them is not
}

// NewStore keeps sweeps in a folder, which is made when the first is saved.
func NewStore(folder string) *Store { return &Store{folder: folder, removed: map[string]bool{}} }

func (st *Store) isRemoved(id string) bool {
	st.mu.Lock()
	defer st.mu.Unlock()
	return st.removed[id]
}

// Load reads all sweeps, the one used last first. Of files that cannot be read the
// error tells; they are left alone, and the others are there all the same.
func (st *Store) Load() ([]*Sweep, error) {
	entries, err := os.ReadDir(st.folder)
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading the sweeps: %w", err)
	}
	var all []*Sweep
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
	slices.SortFunc(all, func(a, b *Sweep) int { return cmp.Or(b.Used.Compare(a.Used), strings.Compare(a.ID, b.ID)) })
	return all, errors.Join(wrong...)
}

func (st *Store) file(id string) string { return filepath.Join(st.folder, id+".json") }

// read reads one sweep; its error names the file, and the line where it is wrong.
func (st *Store) read(id string) (*Sweep, error) {
	data, err := os.ReadFile(st.file(id))
	if err != nil {
		return nil, fmt.Errorf("reading a sweep: %w", err)
	}
	s := &Sweep{}
	if err := json.Unmarshal(data, s); err != nil {
		where := ""
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			where = fmt.Sprintf(" in line %d", 1+strings.Count(string(data[:min(int(syntax.Offset), len(data))]), "\n"))
		}
		return nil, fmt.Errorf("the sweep in %s is not well formed%s: %w; mend it or remove it", st.file(id), where, err)
	}
	if s.Version > Version {
		return nil, fmt.Errorf("the sweep in %s was kept by a later version of this program and is left alone", st.file(id))
	}
	s.ID = id
	return s, nil
}

// Save keeps a sweep, with what another program has changed in it since: the given one
// is brought up to date, too. One that was removed is not brought back.
func (st *Store) Save(s *Sweep) error {
	unlock, err := st.lock()
	if err == nil {
		defer unlock()
		if st.isRemoved(s.ID) {
			return nil
		}
		if other, readErr := st.read(s.ID); readErr == nil {
			s.Merge(other)
		} else if !errors.Is(readErr, os.ErrNotExist) {
			return readErr // not to be written over
		}
		var data []byte
		if data, err = json.MarshalIndent(s, "", " "); err == nil {
			err = renameio.WriteFile(st.file(s.ID), data, 0o600)
		}
	}
	if err != nil {
		return fmt.Errorf("keeping the sweep %q: %w", s.Name, err)
	}
	return nil
}

// Remove deletes a sweep.
func (st *Store) Remove(id string) error {
	unlock, err := st.lock()
	if err != nil {
		return fmt.Errorf("removing a sweep: %w", err)
	}
	defer unlock()
	st.mu.Lock()
	st.removed[id] = true
	st.mu.Unlock()
	if err := os.Remove(st.file(id)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing a sweep: %w", err)
	}
	return nil
}

// lock lets one program at a time change what is in the folder.
func (st *Store) lock() (unlock func(), err error) {
	if err := os.MkdirAll(st.folder, 0o700); err != nil {
		return nil, err
	}
	l := flock.New(filepath.Join(st.folder, ".lock"))
	if err := l.Lock(); err != nil {
		return nil, err
	}
	return func() { l.Unlock() }, nil
}
