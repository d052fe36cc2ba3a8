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
	restAfter = 150 * time.Millisecond
	atMost    = 2 * time.Second
	pollEvery = 3 * time.Second
)

// Watcher tells when something in the folders of a project changes.
type Watcher struct {
	root    string
	system  *fsnotify.Watcher // nil if the project is polled
	watched map[string]bool
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

// Wait returns when something has changed, or may have; false if ctx was
// cancelled first.
func (w *Watcher) Wait(ctx context.Context) bool {
	if w.system == nil {
		select {
		case <-time.After(pollEvery):
			return true
		case <-ctx.Done():
			return false
		}
	}
	select {
	case e, ok := <-w.system.Events:
		if !ok {
			w.system = nil
			return true
		}
		w.forget(e)
	case <-w.system.Errors: // events were lost, so anything may have changed
	case <-ctx.Done():
		return false
	}
	return w.settle(ctx)
}

// settle waits until the changes have come to rest.
func (w *Watcher) settle(ctx context.Context) bool {
	end := time.After(atMost)
	for {
		select {
		case e, ok := <-w.system.Events:
			if !ok {
				w.system = nil
				return true
			}
			w.forget(e)
		case <-time.After(restAfter):
			return true
		case <-end:
			return true
		case <-ctx.Done():
			return false
		}
	}
}

// forget lets a folder that went away be watched anew if it comes back.
func (w *Watcher) forget(e fsnotify.Event) {
	if e.Has(fsnotify.Remove) || e.Has(fsnotify.Rename) {
		delete(w.watched, Relative(w.root, e.Name))
	}
}
