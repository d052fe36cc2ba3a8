package trail

import (
	"bytes"
	"cmp"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gofrs/flock"

	"rooktrail/internal/core/disk/atomicfile"
)

// Store keeps the trails of a project in a folder, one file for each. A program that
// runs has one for itself, so that two do not write over each other.
type Store struct {
	folder string

	mu      sync.Mutex
	id      string       // of the trail this program has; "" before Open
	lock    *flock.Flock // on it
	pending bytes.Buffer // what is still to be written to it
	broken  bool         // its file may end in the middle of an entry
}

// NewStore keeps trails in a folder, which is made when it is opened.
func NewStore(folder string) *Store { return &Store{folder: folder} }

// ending is that of the names of the files.
const ending = ".jsonl"

// Open takes the trail that was walked last and that no other program has, to go on with
// it; there may be none. Files that are not well formed are named by the error and left
// alone; what is returned is good to go on with all the same.
func (st *Store) Open() (*Kept, error) {
	st.mu.Lock()
	defer st.mu.Unlock()
	if err := os.MkdirAll(st.folder, 0o700); err != nil {
		return &Kept{}, fmt.Errorf("the trail is not kept on disk: %w", err)
	}
	ids, err := st.latest()
	if err != nil {
		return &Kept{}, fmt.Errorf("the trail is not kept on disk: %w", err)
	}
	var wrong []error
	for _, id := range ids {
		if !st.take(id) {
			continue // another program is on it
		}
		k, err := st.read(id)
		if err == nil {
			return k, errors.Join(append(wrong, st.tidy(k))...)
		}
		wrong = append(wrong, err)
		st.release()
	}
	return &Kept{}, errors.Join(append(wrong, st.begin())...)
}

// begin has a trail that is new for this program.
func (st *Store) begin() error {
	if !st.take(strings.ToLower(rand.Text()[:10])) {
		return fmt.Errorf("the trail is not kept on disk: no file can be locked in %s", st.folder)
	}
	return nil
}

// tidy writes a journal anew that says most things more than once, or whose end was cut
// off.
func (st *Store) tidy(k *Kept) error {
	whole := k.Trail.Whole()
	if k.entries < 2*len(whole.entries)+100 && !k.CutOff {
		return nil
	}
	whole.entries = append(whole.entries, entry{Recent: k.Recent})
	return st.rewrite(whole)
}

func (st *Store) rewrite(d Delta) error {
	var b bytes.Buffer
	err := d.write(&b)
	if err == nil {
		err = atomicfile.Write(st.file(st.id), b.Bytes(), 0o600)
	}
	if err != nil {
		return fmt.Errorf("tidying up the trail: %w", err)
	}
	return nil
}

// latest are the trails there are, the one that was changed last first.
func (st *Store) latest() ([]string, error) {
	entries, err := os.ReadDir(st.folder)
	if err != nil {
		return nil, err
	}
	changed := map[string]time.Time{}
	var ids []string
	for _, e := range entries {
		id, ok := strings.CutSuffix(e.Name(), ending)
		info, err := e.Info()
		if !ok || err != nil || strings.HasPrefix(id, ".") {
			continue
		}
		ids, changed[id] = append(ids, id), info.ModTime()
	}
	slices.SortFunc(ids, func(a, b string) int { return changed[b].Compare(changed[a]) })
	return ids, nil
}

// take has a trail for this program alone; it is false if another one has it.
func (st *Store) take(id string) bool {
	l := st.locked(id)
	if l == nil {
		return false
	}
	st.id, st.lock, st.broken = id, l, false
	st.pending.Reset()
	return true
}

// locked holds a trail, unless another program does; nil then.
func (st *Store) locked(id string) *flock.Flock {
	l := flock.New(filepath.Join(st.folder, id+".lock"))
	if ok, err := l.TryLock(); err != nil || !ok {
		return nil
	}
	return l
}

func (st *Store) release() {
	if st.lock != nil {
		st.lock.Unlock()
	}
	st.id, st.lock = "", nil
}

// Close gives the trail back, for the next program to go on with.
func (st *Store) Close() {
	st.mu.Lock()
	defer st.mu.Unlock()
	st.release()
}

func (st *Store) file(id string) string { return filepath.Join(st.folder, id+ending) }

func (st *Store) read(id string) (*Kept, error) {
	data, err := os.ReadFile(st.file(id))
	if err != nil {
		return nil, fmt.Errorf("reading the trail: %w", err)
	}
	k, err := Read(data)
	if errors.Is(err, errLater) {
		return nil, fmt.Errorf("the trail in %s is not gone on with: %w", st.file(id), err)
	}
	if err != nil {
		return nil, fmt.Errorf("the trail of last time cannot be read: %w, in %s; mend it or remove it, another is taken meanwhile", err, st.file(id))
	}
	return k, nil
}

// Save adds what is new to the trail of this program. What cannot be written is kept for
// the next time.
func (st *Store) Save(d Delta, recent []Visit) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	if st.id == "" {
		return nil // said when it was opened
	}
	d.entries = append(d.entries, entry{Recent: recent})
	if err := d.write(&st.pending); err != nil {
		return err
	}
	if err := st.flush(); err != nil {
		return fmt.Errorf("the trail goes on in memory, it cannot be kept: %w", err)
	}
	return nil
}

// flush writes what is pending to the file.
func (st *Store) flush() error {
	f, err := os.OpenFile(st.file(st.id), os.O_WRONLY|os.O_APPEND|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	before, err := f.Seek(0, 2)
	if err != nil {
		f.Close()
		return err
	}
	if st.broken { // a part of an entry may stand there
		if _, err := f.Write([]byte("\n")); err != nil {
			f.Close()
			return err
		}
	}
	if _, err := f.Write(st.pending.Bytes()); err != nil {
		st.broken = f.Truncate(before) != nil
		f.Close()
		return err
	}
	if err := f.Close(); err != nil {
		return err
	}
	st.pending.Reset()
	st.broken = false
	return nil
}

// About tells of a trail without opening it.
type About struct {
	ID, Name string
	Stops    int
	Made     time.Time
	Used     time.Time // when it was last walked
	// Present says that this program has it, Taken that another one does.
	Present, Taken bool
	// Err says why it cannot be gone on with, or is nil.
	Err error
}

// List tells of all trails, the one walked last first.
func (st *Store) List() ([]About, error) {
	st.mu.Lock()
	defer st.mu.Unlock()
	ids, err := st.latest()
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("listing the trails: %w", err)
	}
	all := make([]About, 0, len(ids))
	for _, id := range ids {
		a := About{ID: id, Present: id == st.id}
		if info, err := os.Stat(st.file(id)); err == nil {
			a.Used = info.ModTime()
		}
		if !a.Present {
			if l := st.locked(id); l != nil {
				l.Unlock()
			} else {
				a.Taken = true
			}
		}
		k, err := st.read(id)
		if a.Err = err; err == nil {
			a.Name, a.Made, a.Stops = k.Trail.Name, k.Trail.Made, k.Trail.Count()
		}
		all = append(all, a)
	}
	slices.SortStableFunc(all, func(a, b About) int { return cmp.Compare(btoi(b.Present), btoi(a.Present)) })
	return all, nil
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Look reads a trail without going on with it.
func (st *Store) Look(id string) (*Kept, error) {
	st.mu.Lock()
	defer st.mu.Unlock()
	return st.read(id)
}

// ErrTaken says that another program is on a trail.
var ErrTaken = errors.New("another program is on that trail; leave it there first")

// Switch goes on with another trail in place of the present one.
func (st *Store) Switch(id string) (*Kept, error) {
	st.mu.Lock()
	defer st.mu.Unlock()
	l := st.locked(id)
	if l == nil {
		return nil, ErrTaken
	}
	k, err := st.read(id)
	if err != nil {
		l.Unlock()
		return nil, err
	}
	st.release()
	st.id, st.lock, st.broken = id, l, false
	st.pending.Reset()
	now := time.Now()
	os.Chtimes(st.file(id), now, now) // so that the next start goes on with it; it does without
	return k, st.tidy(k)
}

// Begin goes on with a trail that is new, in place of the present one.
func (st *Store) Begin(whole Delta, recent []Visit) error {
	st.mu.Lock()
	st.release()
	err := os.MkdirAll(st.folder, 0o700)
	if err == nil {
		err = st.begin()
	}
	st.mu.Unlock()
	if err != nil {
		return err
	}
	return st.Save(whole, recent)
}

// Remove deletes a trail, but not the present one and none that another program is on.
func (st *Store) Remove(id string) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	if id == st.id {
		return errors.New("removing the trail: one is on it; choose another first")
	}
	l := st.locked(id)
	if l == nil {
		return fmt.Errorf("removing the trail: %w", ErrTaken)
	}
	defer l.Unlock()
	if err := os.Remove(st.file(id)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing the trail: %w", err)
	}
	os.Remove(filepath.Join(st.folder, id+".lock")) // it is of no use any more
	return nil
}

// Rename gives a trail a name that no program is on.
func (st *Store) Rename(id, name string) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	l := st.locked(id)
	if l == nil {
		return fmt.Errorf("naming the trail: %w", ErrTaken)
	}
	defer l.Unlock()
	f, err := os.OpenFile(st.file(id), os.O_WRONLY|os.O_APPEND, 0o600)
	if err != nil {
		return fmt.Errorf("naming the trail: %w", err)
	}
	defer f.Close()
	line, err := json.Marshal(entry{Version: Version, Name: &name})
	if err == nil {
		_, err = f.Write(append(line, '\n'))
	}
	if err != nil {
		return fmt.Errorf("naming the trail: %w", err)
	}
	return nil
}
