package trail

import (
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
	"github.com/google/renameio/v2"

	"rooktrail/internal/core/place"
)

// Version is that of the form in which trails are kept.
const Version = 1

// Kept is a trail as it lies on disk: the stops, each behind the one it came from, and
// the ways on from one in the order in which they were last taken.
type Kept struct {
	Version int        `json:"version"`
	Stops   []KeptStop `json:"stops"`
	// Here is the number of the present stop, counted from 0; -1 if there is none.
	Here int `json:"here"`
	// Recent are the files one was in, the latest first.
	Recent []string `json:"recent,omitempty"`
}

// KeptStop is a stop as it lies on disk.
type KeptStop struct {
	// Parent is the number of the stop it came from; -1 for the first.
	Parent int `json:"parent"`
	place.Anchor
	Top    int         `json:"top,omitempty"`
	Left   int         `json:"left,omitempty"`
	Came   place.Place `json:"came"`
	How    string      `json:"how,omitempty"`
	Symbol string      `json:"name,omitempty"`
	At     time.Time   `json:"at"`
}

// Keep is the trail in the form that lies on disk.
func (t *Trail) Keep() Kept {
	k := Kept{Version: Version, Here: -1}
	type open struct {
		stop   *Stop
		parent int
	}
	var todo []open
	if t.first != nil {
		todo = append(todo, open{t.first, -1})
	}
	for len(todo) > 0 {
		last := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		s, number := last.stop, len(k.Stops)
		anchor := s.Anchor
		anchor.Path, anchor.Line, anchor.Col = s.View.Place.Path, s.View.Place.Line, s.View.Place.Col
		k.Stops = append(k.Stops, KeptStop{Parent: last.parent, Anchor: anchor, Top: s.View.Top, Left: s.View.Left, Came: s.Came, How: s.How, Symbol: s.Symbol, At: s.At})
		if s == t.here {
			k.Here = number
		}
		for _, w := range slices.Backward(s.ways) {
			todo = append(todo, open{w, number})
		}
	}
	return k
}

// errShape says that what was read is no tree of stops.
var errShape = errors.New("a stop names one it came from that is not before it, or the present stop is not there; mend it or remove it")

// Trail makes the trail that was kept.
func (k *Kept) Trail() (Trail, error) {
	var t Trail
	stops := make([]*Stop, len(k.Stops))
	for i := range k.Stops {
		s := &k.Stops[i]
		stops[i] = &Stop{View: View{Place: s.Place(), Top: s.Top, Left: s.Left}, Came: s.Came, How: s.How, Symbol: s.Symbol, At: s.At, Anchor: s.Anchor}
		if i == 0 && s.Parent == -1 {
			t.first = stops[0]
			continue
		}
		if s.Parent < 0 || s.Parent >= i {
			return Trail{}, fmt.Errorf("stop %d: %w", i, errShape)
		}
		parent := stops[s.Parent]
		stops[i].parent = parent
		parent.ways = append(parent.ways, stops[i])
	}
	if len(stops) == 0 {
		return t, nil
	}
	if k.Here < 0 || k.Here >= len(stops) {
		return Trail{}, fmt.Errorf("present stop %d: %w", k.Here, errShape)
	}
	t.here = stops[k.Here]
	return t, nil
}

// Store keeps the trails of a project in a folder, one file for each. A program that
// runs has one for itself, so that two do not write over each other.
type Store struct {
	folder string

	mu   sync.Mutex
	id   string // of the trail this program has; "" before Open
	lock *flock.Flock
}

// NewStore keeps trails in a folder, which is made when it is opened.
func NewStore(folder string) *Store { return &Store{folder: folder} }

// Open takes the trail that was walked last and that no other program has, to go on with
// it; there may be none. Files that are not well formed are named by the error and left
// alone; what is returned is good to go on with all the same.
func (st *Store) Open() (Kept, error) {
	st.mu.Lock()
	defer st.mu.Unlock()
	if err := os.MkdirAll(st.folder, 0o700); err != nil {
		return Kept{Here: -1}, fmt.Errorf("the trail is not kept on disk: %w", err)
	}
	files, err := st.latest()
	if err != nil {
		return Kept{Here: -1}, fmt.Errorf("the trail is not kept on disk: %w", err)
	}
	var wrong []error
	for _, id := range files {
		if !st.take(id) {
			continue // another program is on it
		}
		k, err := st.read(id)
		if err == nil {
			return k, errors.Join(wrong...)
		}
		wrong = append(wrong, err)
		st.release()
	}
	st.take(strings.ToLower(rand.Text()[:10]))
	return Kept{Here: -1}, errors.Join(wrong...)
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
		id, ok := strings.CutSuffix(e.Name(), ".json")
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
	l := flock.New(filepath.Join(st.folder, id+".lock"))
	if ok, err := l.TryLock(); err != nil || !ok {
		return false
	}
	st.id, st.lock = id, l
	return true
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

func (st *Store) file(id string) string { return filepath.Join(st.folder, id+".json") }

func (st *Store) read(id string) (Kept, error) {
	data, err := os.ReadFile(st.file(id))
	if err != nil {
		return Kept{}, fmt.Errorf("reading the trail: %w", err)
	}
	var k Kept
	if err := json.Unmarshal(data, &k); err != nil {
		where := ""
		var syntax *json.SyntaxError
		if errors.As(err, &syntax) {
			where = fmt.Sprintf(" in line %d", 1+strings.Count(string(data[:min(int(syntax.Offset), len(data))]), "\n"))
		}
		return k, fmt.Errorf("the trail in %s is not well formed%s: %w; mend it or remove it, a new one is begun", st.file(id), where, err)
	}
	if k.Version > Version {
		return k, fmt.Errorf("the trail in %s was kept by a later version of this program and is left alone", st.file(id))
	}
	if _, err := k.Trail(); err != nil {
		return k, fmt.Errorf("the trail in %s is not well formed: %w", st.file(id), err)
	}
	return k, nil
}

// Save keeps the trail of this program in place of what it was.
func (st *Store) Save(k Kept) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	if st.id == "" {
		return nil // said when it was opened
	}
	data, err := json.MarshalIndent(k, "", " ")
	if err == nil {
		err = renameio.WriteFile(st.file(st.id), data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping the trail: %w", err)
	}
	return nil
}
