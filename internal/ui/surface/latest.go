package surface

import (
	"context"
	"sync"

	tea "charm.land/bubbletea/v2"
)

// Latest keeps something as it is at a time, again and again. Commands may run in any
// order, so what was begun earlier is never done after what was begun later. The zero
// value is ready.
type Latest struct {
	begun int // numbers what is begun, by whom alone it is called

	mu   sync.Mutex
	done int // the latest that was done
}

// Next begins to keep it as it is now: what it gives does so, or nothing if by then it
// was kept as it was later.
func (l *Latest) Next(keep func() error) func() error {
	l.begun++
	number := l.begun
	return func() error {
		l.mu.Lock()
		defer l.mu.Unlock()
		if number < l.done {
			return nil
		}
		l.done = number
		return keep()
	}
}

// Keep is Do for what keeps one of several things as it is now, or removes it, by a name for each
// thing; see Latest.
func Keep(a *Asker, of string, keep func() error, take func(error) Intent) tea.Cmd {
	if a.latest == nil {
		a.latest = map[string]*Latest{}
	}
	if a.latest[of] == nil {
		a.latest[of] = &Latest{}
	}
	next := a.latest[of].Next(keep)
	return Do(a, func(context.Context) error { return next() }, take)
}
