package surface

import (
	"context"

	tea "charm.land/bubbletea/v2"
)

// Queue does work beside the screen one piece after the other, in the order in which it was added: changes to
// one file, say, of which each reads what the one before has written. The zero Queue is not good to use.
type Queue struct {
	asker   *Asker
	waiting []func() error
	busy    bool
}

// NewQueue makes one whose work is begun with an asker.
func NewQueue(asker *Asker) *Queue { return &Queue{asker: asker} }

// Add adds work, which is done in any case; what goes wrong is said.
func (q *Queue) Add(work func() error) tea.Cmd {
	q.waiting = append(q.waiting, work)
	return q.next()
}

func (q *Queue) next() tea.Cmd {
	if q.busy || len(q.waiting) == 0 {
		return nil
	}
	work := q.waiting[0]
	q.waiting, q.busy = q.waiting[1:], true
	return Do(q.asker, func(context.Context) error { return work() }, func(err error) Intent {
		q.busy = false
		return SayError(err).And(Begin(q.next()))
	})
}
