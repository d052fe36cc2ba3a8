// Package making changes any number of files as one: every file is changed, or none is. What is to be done is
// written down before anything is touched, so that after a crash it can be finished or taken back, and it is kept
// after it is done, so that it can be undone as one as long as the files are as it left them.
package making

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/text"
)

// Step is what becomes of one file. A file that is made has no From, one that is taken away no To; one that is
// moved has two different ones. Paths are relative to the root of the project, with forward slashes.
type Step struct {
	From string `json:"from,omitempty"`
	To   string `json:"to,omitempty"`
	// Before and After are all bytes of the file.
	Before []byte `json:"-"`
	After  []byte `json:"-"`
	// Mode is that of a file that is taken away, to be made again with it.
	Mode fs.FileMode `json:"mode,omitempty"`
}

// Path is where the file is, or where it will be.
func (s *Step) Path() string {
	if s.To != "" {
		return s.To
	}
	return s.From
}

// Change is a number of steps that are made as one.
type Change struct {
	// Title says what it does, in a few words.
	Title string
	At    time.Time
	Steps []Step

	id string
}

// Moved are the paths that files have now by those they had; "" stands for a file that was not or is not there.
func (c *Change) Moved(back bool) (all [][2]string) {
	for _, s := range c.Steps {
		if s.From != s.To {
			pair := [2]string{s.From, s.To}
			if back {
				pair = [2]string{s.To, s.From}
			}
			all = append(all, pair)
		}
	}
	return all
}

// FileError says of which file something is the matter.
type FileError struct {
	Path string
	Err  error
}

// Error implements error.
func (e *FileError) Error() string { return e.Path + ": " + e.Err.Error() }

// Unwrap is what is the matter.
func (e *FileError) Unwrap() error { return e.Err }

// The errors that say why a change is not made.
var (
	// ErrDiffers says that a file is not as it was when the change was proposed, or not as the change left it.
	ErrDiffers = errors.New("it is not as it was")
	// ErrTaken says that there is a file where one is to be made.
	ErrTaken = errors.New("there is something of this name already")
	// ErrHalf says that a change was broken off and could not be taken back either.
	ErrHalf = errors.New("the change is half made, since it could not be taken back either; what all files were is kept, and it can be finished or taken back when the program is started again")
	// ErrNothing says that there is nothing to undo, or to do again.
	ErrNothing = errors.New("no change over several files is left to take back")
	// ErrBusy says that another program is making a change in the same project.
	ErrBusy = errors.New("another program is making a change in this project; try again in a moment")
)

// Maker makes changes in one project. It may be used by several goroutines.
type Maker struct {
	root string
	disk Disk
	log  journal

	mu sync.Mutex
}

// New makes changes in the project at root, an absolute path, and keeps what it needs to take them back in
// a folder of the user's own; if that is "", changes are made and cannot be taken back after a crash or at all.
func New(root, folder string) *Maker { return NewOn(System{}, root, folder) }

// NewOn is New on another disk.
func NewOn(disk Disk, root, folder string) *Maker {
	return &Maker{root: root, disk: disk, log: journal{folder: folder, disk: disk}}
}

// Make makes a change. If that cannot be, all files are as they were, unless the error wraps ErrHalf.
func (m *Maker) Make(ctx context.Context, c *Change) error {
	c.At = time.Now()
	return m.whole(ctx, c, func() error {
		for i := range c.Steps {
			if err := m.begins(&c.Steps[i]); err != nil {
				return err
			}
		}
		if err := m.log.begin(c); err != nil {
			return fmt.Errorf("writing down what is to be done: %w", err)
		}
		return m.carry(ctx, c, begun, made)
	})
}

// whole does something to a change while no other program does anything of the kind.
func (m *Maker) whole(ctx context.Context, c *Change, do func() error) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	unlock, err := m.log.lock(ctx)
	if err == nil {
		defer unlock()
		err = do()
	}
	if err != nil {
		return fmt.Errorf("%s: %w", c.Title, err)
	}
	return nil
}

// carry has all files of a change that is written down as under way become what they are to be, and notes that; if
// one cannot, all become again what they were.
func (m *Maker) carry(ctx context.Context, c *Change, from, to state) error {
	back := to == undone
	err := m.all(ctx, c, back)
	if err == nil {
		if err = m.log.move(c, from, to); err != nil {
			err = fmt.Errorf("noting that it is done: %w", err)
		}
	}
	if err == nil {
		m.clear(c)
		return nil
	}
	if again := m.all(context.WithoutCancel(ctx), c, !back); again != nil {
		return errors.Join(ErrHalf, err, again)
	}
	m.clear(c)
	if back {
		return errors.Join(err, m.log.move(c, from, made))
	}
	return errors.Join(err, m.log.remove(c, from))
}

// all has all files of a change become what they are to be after it, or before if back. What can be made ready
// is made ready first, so that a full disk is noticed while nothing is touched.
func (m *Maker) all(ctx context.Context, c *Change, back bool) (err error) {
	ready := make([]*text.Prepared, len(c.Steps))
	defer func() {
		for _, p := range ready {
			if p != nil && err != nil {
				err = errors.Join(err, p.Drop())
			}
		}
	}()
	for i := range c.Steps {
		if err := ctx.Err(); err != nil {
			return err
		}
		s := c.Steps[i].toward(back)
		if ready[i], err = m.prepare(c, i, &s); err != nil {
			return &FileError{s.Path(), err}
		}
	}
	for i := range c.Steps { // from here on it is not given up
		s := c.Steps[i].toward(back)
		if err := m.take(c, i, &s, ready[i]); err != nil {
			ready[i] = nil
			return &FileError{s.Path(), err}
		}
		ready[i] = nil
	}
	return nil
}

// toward is the step, or the one that takes it back.
func (s Step) toward(back bool) Step {
	if back {
		s.From, s.To, s.Before, s.After = s.To, s.From, s.After, s.Before
	}
	return s
}

func (m *Maker) full(p string) string { return filepath.Join(m.root, filepath.FromSlash(p)) }

// begins says whether a file is as it has to be for its step to be made.
func (m *Maker) begins(s *Step) error {
	for _, p := range []string{s.From, s.To} {
		if p != "" && !door.Inside(p) || p == ".git" || strings.HasPrefix(p, ".git/") {
			return &FileError{p, errors.New("it is not a file of this project")}
		}
	}
	switch at, err := m.where(s); {
	case err != nil:
		return &FileError{s.Path(), err}
	case at != old:
		return &FileError{s.Path(), ErrDiffers}
	}
	if s.From != "" {
		if info, err := m.disk.Stat(m.full(s.From)); err == nil {
			s.Mode = info.Mode().Perm()
		}
	}
	return nil
}

// stage is how far a step has come.
type stage uint8

const (
	old     stage = iota // the file is as it was
	moved                // it has its other path, and reads as before
	written              // it has the path it had, and reads as it is to
	done                 // it is all that it is to be
	other                // it is something else
)

// where says how far a step has come, by what the files are.
func (m *Maker) where(s *Step) (stage, error) {
	at, err := m.reads(s.To)
	if err != nil {
		return other, err
	}
	from := at
	if s.From != s.To {
		if from, err = m.reads(s.From); err != nil {
			return other, err
		}
	}
	is := func(has *[]byte, path string, want []byte) bool {
		return path == "" || has != nil && bytes.Equal(*has, want)
	}
	gone := func(has *[]byte, path string) bool { return path == "" || has == nil }
	switch {
	case s.From == s.To:
		if is(at, s.To, s.Before) {
			return old, nil
		}
		if is(at, s.To, s.After) {
			return done, nil
		}
	case is(from, s.From, s.Before) && gone(at, s.To):
		return old, nil
	case is(at, s.To, s.After) && gone(from, s.From):
		return done, nil
	case s.From != "" && s.To != "" && is(at, s.To, s.Before) && gone(from, s.From):
		return moved, nil
	case s.From != "" && s.To != "" && is(from, s.From, s.After) && gone(at, s.To):
		return written, nil // as when a move is taken back that was broken off
	case s.From != "" && at != nil && s.To != "" && from != nil:
		return other, ErrTaken
	}
	return other, nil
}

// reads is what a file holds; nil if it is not there, or the path is "".
func (m *Maker) reads(p string) (*[]byte, error) {
	if p == "" {
		return nil, nil
	}
	data, err := m.disk.ReadFile(m.full(p))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &data, nil
}

// prepare makes ready what becomes of a file, as far as that can be.
func (m *Maker) prepare(c *Change, number int, s *Step) (*text.Prepared, error) {
	at, err := m.where(s)
	switch {
	case err != nil:
		return nil, err
	case at == done || s.To == "":
		return nil, nil
	case at == other:
		return nil, ErrDiffers
	case at != moved && s.From != s.To, bytes.Equal(s.Before, s.After):
		return nil, nil // it has to be moved first
	}
	return m.ready(c, number, s)
}

// ready writes what a file is to be beside it.
func (m *Maker) ready(c *Change, number int, s *Step) (*text.Prepared, error) {
	to := m.full(s.To)
	return text.Prepare(naming{m.disk, c.id, number}, to, s.After, text.StampOf(m.disk, to))
}

// take has one file become what it is to be.
func (m *Maker) take(c *Change, number int, s *Step, ready *text.Prepared) error {
	if ready != nil {
		_, err := ready.Commit()
		return err
	}
	at, err := m.where(s)
	switch {
	case err != nil:
		return err
	case at == done:
		return nil
	case at == other:
		return ErrDiffers
	case s.To == "":
		return m.leave(m.full(s.From), m.disk.Remove(m.full(s.From)))
	}
	to := m.full(s.To)
	if err := m.disk.MkdirAll(filepath.Dir(to), 0o755); err != nil {
		return err
	}
	if at != moved && s.From != "" {
		if err := m.leave(m.full(s.From), m.disk.Rename(m.full(s.From), to)); err != nil {
			return err
		}
	}
	if at == written || s.From != "" && bytes.Equal(s.Before, s.After) {
		return nil
	}
	if ready, err = m.ready(c, number, s); err == nil {
		_, err = ready.Commit()
	}
	if err == nil && s.From == "" && s.Mode != 0 {
		err = m.disk.Chmod(to, s.Mode)
	}
	return err
}

// leave removes the folders that are empty since a file has left them.
func (m *Maker) leave(file string, err error) error {
	for dir := filepath.Dir(file); err == nil && len(dir) > len(m.root); dir = filepath.Dir(dir) {
		if m.disk.Remove(dir) != nil { // something is in it
			break
		}
	}
	return err
}

// clear removes what a program that was killed has left lying ready.
func (m *Maker) clear(c *Change) {
	folders := map[string]bool{}
	for _, s := range c.Steps {
		folders[filepath.Dir(m.full(s.Path()))] = true
	}
	for folder := range folders {
		left, _ := filepath.Glob(filepath.Join(escape(folder), lying(c.id)+"*")) // the pattern is well formed
		for _, file := range left {
			_ = m.disk.Remove(file) // it is in nobody's way
		}
	}
}

// escape has the letters of a path stand for themselves in a pattern.
func escape(p string) string {
	return strings.NewReplacer(`\`, `\\`, "*", `\*`, "?", `\?`, "[", `\[`).Replace(p)
}
