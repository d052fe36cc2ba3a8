// Package recovery keeps texts that are not saved yet beside the project's other things, so
// that they are there again after a crash, a lost terminal or a kill.
package recovery

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
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
	"rooktrail/internal/core/file/text"
)

// Version is that of the form in which texts are kept.
const Version = 2

// Text is a text that was not saved.
type Text struct {
	// Path is that of its file, from the root of the project.
	Path string `json:"path"`
	// Stamp is that of the file on disk on which it was built, At when it was kept.
	Stamp text.Stamp `json:"stamp"`
	At    time.Time  `json:"at"`
	// Line and Col are where the caret was, from 1.
	Line int `json:"line"`
	Col  int `json:"col"`
	// Body is the text, in UTF-8.
	Body []byte `json:"-"`
	// Base is the text of the file when one began to write, by which what others have done to
	// it since is told from what was written; nil if that is not known.
	Base []byte `json:"-"`

	file string
}

// header is the first line of a file.
type header struct {
	Version int `json:"version"`
	Text
	// Origin names the file beside this one that holds Base: by its content, so that a text
	// never comes together with another one's.
	Origin string `json:"origin,omitempty"`
}

// Store keeps texts in a folder, one file each. A program holds a lock while it runs, by which
// others know that its texts are not left behind.
type Store struct {
	folder string
	own    string // begins the names of this program's files

	mu     sync.Mutex
	lock   *flock.Flock
	latest map[string]time.Time // by path, what was done: what was to be kept before comes too late
	bases  map[string]base      // by path, the one that is on disk
}

// NewStore keeps texts in a folder, which is made when the first is kept.
func NewStore(folder string) *Store {
	return &Store{folder: folder, own: fmt.Sprintf("%d-%d", os.Getpid(), time.Now().UnixNano())}
}

// base is a text that is on disk for as long as what was made of it is not saved.
type base struct {
	text []byte
	name string
}

func (st *Store) file(path string) string {
	return filepath.Join(st.folder, st.own+"."+digest([]byte(path))+".text")
}

func digest(b []byte) string {
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:8])
}

// keepBase writes the text from which one began, if it is not there yet, and gives the name of
// its file.
func (st *Store) keepBase(t *Text) (string, error) {
	if t.Base == nil {
		return "", nil
	}
	was := st.bases[t.Path]
	if was.name != "" && bytes.Equal(was.text, t.Base) {
		return was.name, nil
	}
	name := st.own + "." + digest([]byte(t.Path)) + "." + digest(t.Base) + ".base"
	return name, atomicfile.Write(filepath.Join(st.folder, name), t.Base, 0o600)
}

// useBase notes which text of those from which one began belongs to a path now, and removes the
// one before.
func (st *Store) useBase(path, name string, text []byte) error {
	was := st.bases[path]
	if st.bases == nil {
		st.bases = map[string]base{}
	}
	st.bases[path] = base{text, name}
	if was.name == "" || was.name == name {
		return nil
	}
	return remove(filepath.Join(st.folder, was.name))
}

// Keep keeps a text in place of the one kept before for the same path.
func (st *Store) Keep(t Text) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	if t.At.Before(st.latest[t.Path]) {
		return nil // it was saved meanwhile, or more was typed
	}
	err := st.hold()
	var head []byte
	var origin string
	if err == nil {
		origin, err = st.keepBase(&t)
	}
	if err == nil {
		head, err = json.Marshal(header{Version, t, origin})
	}
	if err == nil {
		err = atomicfile.Write(st.file(t.Path), slices.Concat(head, []byte("\n"), t.Body), 0o600)
	}
	if err != nil {
		return fmt.Errorf("keeping what is not saved of %s: %w; save it soon", t.Path, err)
	}
	st.did(t.Path, t.At)
	return st.useBase(t.Path, origin, t.Base)
}

// hold takes the lock of this program.
func (st *Store) hold() error {
	if st.lock != nil {
		return nil
	}
	if err := os.MkdirAll(st.folder, 0o700); err != nil {
		return err
	}
	l := flock.New(filepath.Join(st.folder, st.own+".lock"))
	if _, err := l.TryLock(); err != nil {
		return err
	}
	st.lock = l
	return nil
}

// Forget removes what was kept for a path, since it is saved or not wanted.
func (st *Store) Forget(path string) error {
	st.mu.Lock()
	defer st.mu.Unlock()
	st.did(path, time.Now())
	return errors.Join(remove(st.file(path)), st.useBase(path, "", nil))
}

func (st *Store) did(path string, at time.Time) {
	if st.latest == nil {
		st.latest = map[string]time.Time{}
	}
	st.latest[path] = at
}

func remove(file string) error {
	if err := os.Remove(file); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("removing a text that was kept: %w", err)
	}
	return nil
}

// Drop removes a text that was left behind.
func (st *Store) Drop(t Text) error {
	bases, _ := filepath.Glob(strings.TrimSuffix(t.file, ".text") + ".*.base") // the pattern is well formed
	errs := []error{remove(t.file)}
	for _, b := range bases {
		errs = append(errs, remove(b))
	}
	return errors.Join(errs...)
}

// Left are the texts that programs left behind which do not run any more, the latest first.
// Files that are not well formed are named by the error and left alone.
func (st *Store) Left() ([]Text, error) {
	atomicfile.Clear(st.folder, ".text", ".base")
	files, _ := filepath.Glob(filepath.Join(st.folder, "*.text")) // the pattern is well formed
	var all []Text
	var wrong []error
	dead := map[string]bool{}
	for _, file := range files {
		owner, _, _ := strings.Cut(filepath.Base(file), ".")
		if owner == st.own {
			continue
		}
		if _, known := dead[owner]; !known {
			dead[owner] = gone(filepath.Join(st.folder, owner+".lock"))
		}
		if !dead[owner] {
			continue
		}
		t, err := read(file)
		if err != nil {
			wrong = append(wrong, err)
			continue
		}
		all = append(all, t)
	}
	slices.SortFunc(all, func(a, b Text) int { return b.At.Compare(a.At) })
	return all, errors.Join(wrong...)
}

// gone says whether the program that held a lock does not run any more.
func gone(lock string) bool {
	if _, err := os.Stat(lock); err != nil {
		return true
	}
	l := flock.New(lock)
	ok, err := l.TryLock()
	if ok {
		l.Unlock()
	}
	return ok || err != nil
}

func read(file string) (Text, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return Text{}, fmt.Errorf("reading a text that was not saved: %w", err)
	}
	first, body, ok := bytes.Cut(data, []byte("\n"))
	var h header
	if !ok {
		err = errors.New("its first line is not there")
	} else {
		err = json.Unmarshal(first, &h)
	}
	switch {
	case err != nil:
		return Text{}, fmt.Errorf("the text that was not saved in %s is not well formed in line 1: %w; what follows that line is the text", file, err)
	case h.Version > Version:
		return Text{}, fmt.Errorf("the text that was not saved in %s was kept by a later version of this program and is left alone", file)
	}
	h.Text.Body, h.Text.file = body, file
	if h.Origin != "" && filepath.Base(h.Origin) == h.Origin {
		// Without it, what was written is still all there.
		h.Text.Base, _ = os.ReadFile(filepath.Join(filepath.Dir(file), h.Origin))
	}
	return h.Text, nil
}

// Close gives up the lock, after which what is still kept counts as left behind.
func (st *Store) Close() {
	st.mu.Lock()
	defer st.mu.Unlock()
	if st.lock != nil {
		st.lock.Unlock()
		os.Remove(st.lock.Path()) // it is of no use any more
		st.lock = nil
	}
}
