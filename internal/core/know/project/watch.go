package project

import (
	"context"
	"errors"
	"path/filepath"
	"syscall"
	"time"

	"github.com/fsnotify/fsnotify"
)

// Changes are waited for until they have come to rest for a moment, since a
// switch of branches touches thousands of files, but not for longer than a
// while. Where the system's watches run out, the project is looked at anew
// every few seconds.
const (
	restAfter = 30 * time.Millisecond // after a few changes
	manyAfter = 150 * time.Millisecond
	many      = 20
	atMost    = 2 * time.Second
	pollEvery = 3 * time.Second
	// checkEvery is after how long it is looked whether it is time for something.
	checkEvery = time.Second
	// pollShare is how many times as long as looking takes it waits before it looks again.
	pollShare = 20
)

// Watcher tells when something in the folders of a project changes.
type Watcher struct {
	root    string
	system  *fsnotify.Watcher // nil if the project is polled
	watched map[string]bool
	looked  time.Time // when all was looked at the last time, where it is polled
	// Wrong says that something else has gone wrong, so that all is to be looked at; it is asked every few seconds. nil for never.
	Wrong func() bool
	// Took is how long it took to look at the project the last time.
	Took time.Duration
	// Asked has all be looked at again when something comes from it; nil for never.
	Asked <-chan struct{}
}

// NewWatcher begins to watch the project at root. It cannot fail: without the
// system's help it polls.
func NewWatcher(root string) *Watcher {
	w := &Watcher{root: root, watched: map[string]bool{}}
	if system, err := fsnotify.NewWatcher(); err == nil {
		w.system = system
	}
	return w
}

// Add watches more folders, given relative to the root. Folders that are
// watched already cost nothing.
func (w *Watcher) Add(folders []string) {
	for _, f := range folders {
		if w.system == nil {
			return
		}
		if w.watched[f] {
			continue
		}
		w.watched[f] = true
		if err := w.system.Add(filepath.Join(w.root, filepath.FromSlash(f))); err != nil {
			delete(w.watched, f)
			if errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EMFILE) || errors.Is(err, fsnotify.ErrEventOverflow) {
				w.Close() // the system's watches have run out
			}
		}
	}
}

// Close ends the watching; what is left is polling.
func (w *Watcher) Close() {
	if w.system != nil {
		_ = w.system.Close() // nothing is lost by it
		w.system = nil
	}
}

// Change is what has changed on disk.
type Change struct {
	// Paths are relative to the root.
	Paths []string
	// All says that anything may have changed, not only those.
	All bool
}

// Polls says that the system does not watch the project: all of it is looked at every few seconds.
func (w *Watcher) Polls() bool { return w.system == nil }

// Wait returns when something has changed, or may have; ok is false if ctx was
// cancelled first.
func (w *Watcher) Wait(ctx context.Context) (c Change, ok bool) {
	for {
		tick := time.After(checkEvery)
		if c, ok, ticked := w.wait(ctx, tick); !ticked {
			return c, ok
		}
		if w.Wrong != nil && w.Wrong() {
			return Change{All: true}, true
		}
	}
}

// wait is Wait until the tick.
func (w *Watcher) wait(ctx context.Context, tick <-chan time.Time) (c Change, ok, ticked bool) {
	if w.system == nil {
		select {
		case <-tick:
			if time.Since(w.looked) < max(pollEvery, pollShare*w.Took) {
				return Change{}, true, true
			}
			w.looked = time.Now()
			return Change{All: true}, true, false
		case <-w.Asked:
			return Change{All: true}, true, false
		case <-ctx.Done():
			return Change{}, false, false
		}
	}
	select {
	case e, ok := <-w.system.Events:
		w.note(e, ok, &c)
	case <-w.system.Errors: // events were lost
		c.All = true
	case <-w.Asked:
		return Change{All: true}, true, false
	case <-tick:
		return Change{}, true, true
	case <-ctx.Done():
		return Change{}, false, false
	}
	return c, w.settle(ctx, &c), false
}

// settle waits until the changes have come to rest.
func (w *Watcher) settle(ctx context.Context, c *Change) bool {
	end := time.After(atMost)
	for w.system != nil {
		rest := restAfter
		if c.All || len(c.Paths) > many {
			rest = manyAfter
		}
		select {
		case e, ok := <-w.system.Events:
			w.note(e, ok, c)
		case <-w.system.Errors:
			c.All = true
		case <-time.After(rest):
			return true
		case <-end:
			return true
		case <-ctx.Done():
			return false
		}
	}
	return true
}

// mostNoted is how many changes are told apart.
const mostNoted = 1000

// note takes an event into a change; without one, the watching has ended. A
// folder that went away can be watched anew if it comes back.
func (w *Watcher) note(e fsnotify.Event, ok bool, c *Change) {
	if !ok {
		w.system, c.All = nil, true
		return
	}
	path := Relative(w.root, e.Name)
	if e.Has(fsnotify.Remove) || e.Has(fsnotify.Rename) {
		delete(w.watched, path)
	}
	if len(c.Paths) == mostNoted {
		c.All = true
		return
	}
	c.Paths = append(c.Paths, path)
}
