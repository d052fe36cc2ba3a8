package making

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gofrs/flock"

	"rooktrail/internal/core/disk/atomicfile"
)

// Version is that of the form in which changes are kept.
const Version = 1

// Bounds on the changes that are kept to be undone.
const (
	mostKept  = 50
	mostBytes = 256 << 20
	forgotten = 60 * 24 * time.Hour
)

// state is how a change stands, as the ending of its file says.
type state string

const (
	begun   state = ".begun"   // being made, or broken off while it was
	made    state = ".made"    // all of it
	undoing state = ".undoing" // being taken back, or broken off while it was
	undone  state = ".undone"  // taken back
)

// journal is where changes are written down: a file each.
type journal struct {
	folder string
	disk   Disk
}

// header is the first line of a file; behind it come the bytes of all steps, before and after.
type header struct {
	Version int       `json:"version"`
	Title   string    `json:"title"`
	At      time.Time `json:"at"`
	Steps   []sized   `json:"steps"`
}

type sized struct {
	Step
	Before int `json:"before"`
	After  int `json:"after"`
}

func (j *journal) file(c *Change, s state) string { return filepath.Join(j.folder, c.id+string(s)) }

// lockWithin is how long is waited for another program that is making a change.
const lockWithin = 10 * time.Second

// lock keeps other programs from making changes in the project.
func (j *journal) lock(ctx context.Context) (unlock func(), err error) {
	if j.folder == "" {
		return func() {}, nil
	}
	if err := os.MkdirAll(j.folder, 0o700); err != nil {
		return nil, fmt.Errorf("making a folder for what is changed: %w", err)
	}
	l := flock.New(filepath.Join(j.folder, "lock"))
	ctx, cancel := context.WithTimeout(ctx, lockWithin)
	defer cancel()
	if ok, err := l.TryLockContext(ctx, 20*time.Millisecond); !ok {
		if err == nil || errors.Is(err, context.DeadlineExceeded) {
			err = ErrBusy
		}
		return nil, err
	}
	return func() { l.Unlock() }, nil
}

// begin writes a change down before it is made.
func (j *journal) begin(c *Change) error {
	c.id = fmt.Sprintf("%016x-%x", c.At.UnixNano(), os.Getpid())
	if j.folder == "" {
		return nil
	}
	h := header{Version: Version, Title: c.Title, At: c.At}
	size := 0
	for _, s := range c.Steps {
		h.Steps = append(h.Steps, sized{s, len(s.Before), len(s.After)})
		size += len(s.Before) + len(s.After)
	}
	data, err := json.Marshal(h)
	if err != nil {
		return err
	}
	data = append(slices.Grow(data, size+1), '\n')
	for _, s := range c.Steps {
		data = append(append(data, s.Before...), s.After...)
	}
	return j.disk.WriteWhole(j.file(c, begun), data)
}

// move notes that a change has come to another state.
func (j *journal) move(c *Change, from, to state) error {
	if j.folder == "" {
		return nil
	}
	if err := j.disk.Rename(j.file(c, from), j.file(c, to)); err != nil {
		return err
	}
	_ = j.disk.SyncFolder(j.folder) // the files tell how it stands, too
	if to == made {
		j.forget()
	}
	return nil
}

// remove forgets a change.
func (j *journal) remove(c *Change, s state) error {
	if j.folder == "" {
		return nil
	}
	if err := j.disk.Remove(j.file(c, s)); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return nil
}

// in are the names of the files of changes in a state, the latest first.
func (j *journal) in(s state) []string {
	files, _ := filepath.Glob(filepath.Join(escape(j.folder), "*"+string(s))) // the pattern is well formed
	slices.Sort(files)
	slices.Reverse(files)
	return files
}

// read reads a change.
func (j *journal) read(file string) (*Change, error) {
	failed := func(err error) (*Change, error) {
		return nil, fmt.Errorf("reading the change that is kept in %s: %w", file, err)
	}
	data, err := j.disk.ReadFile(file)
	if err != nil {
		return failed(err)
	}
	first, rest, _ := bytes.Cut(data, []byte("\n"))
	var h header
	if err := json.Unmarshal(first, &h); err != nil {
		return failed(fmt.Errorf("it is not well formed: %w", err))
	}
	if h.Version > Version {
		return failed(errors.New("it was kept by a later version of this program and is left alone"))
	}
	id := filepath.Base(file)
	c := &Change{Title: h.Title, At: h.At, id: strings.TrimSuffix(id, filepath.Ext(id))}
	for _, s := range h.Steps {
		if s.Before < 0 || s.After < 0 || s.Before+s.After > len(rest) {
			return failed(errors.New("it is cut off"))
		}
		s.Step.Before, s.Step.After = rest[:s.Before], rest[s.Before:s.Before+s.After]
		rest = rest[s.Before+s.After:]
		c.Steps = append(c.Steps, s.Step)
	}
	return c, nil
}

// forget removes the changes that nobody will undo any more.
func (j *journal) forget() {
	atomicfile.Clear(j.folder, string(begun))
	files, size := append(j.in(made), j.in(undone)...), int64(0)
	slices.SortFunc(files, func(a, b string) int { return cmp.Compare(b, a) })
	for i, f := range files {
		info, err := os.Stat(f)
		if err != nil {
			continue
		}
		size += info.Size()
		if i > 0 && (i >= mostKept || size > mostBytes || time.Since(info.ModTime()) > forgotten) {
			_ = os.Remove(f) // another time, if not now
		}
	}
}
