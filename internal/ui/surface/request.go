package surface

import (
	"context"
	"time"

	"rooktrail/internal/core/work"

	tea "charm.land/bubbletea/v2"
)

// Asker asks questions that are answered beside the screen, one at a time: with the next one, and
// with Cancel, the answer to the one before is no longer wanted, its context is cancelled and the
// work ends with it.
type Asker struct {
	owner   Surface // nil for the program itself
	life    context.Context
	number  int // of the question that was asked last
	ctx     context.Context
	cancel  context.CancelFunc
	waiting int // how many answers to it are still to come
	doing   int // how much work is under way that is done whatever is asked
	timed   int // the number of the question that is said to be slow if it is
	latest  map[string]*Latest
}

// NewAsker makes an asker all of whose work ends with a context; owner is the surface that asks, nil
// for the program itself.
func NewAsker(life context.Context, owner Surface) *Asker {
	return &Asker{owner: owner, life: life}
}

// Waiting says whether the question that was asked last has no answer yet.
func (a *Asker) Waiting() bool { return a.waiting > 0 }

// Busy says whether anything is under way.
func (a *Asker) Busy() bool { return a.waiting+a.doing > 0 }

// Cancel says that no answer is wanted any more.
func (a *Asker) Cancel() {
	a.number++
	a.waiting = 0
	if a.cancel != nil {
		a.cancel()
		a.ctx, a.cancel = nil, nil
	}
}

// begin makes room for the next question.
func (a *Asker) begin() {
	a.Cancel()
	a.ctx, a.cancel = context.WithCancel(a.life)
}

// Answer is the message that brings what work beside the screen has found out, for whoever asked.
type Answer struct {
	asker  *Asker
	number int // of the question; 0 for what is wanted in any case
	take   func() Intent
}

// From is the surface that asked; nil if the program itself did.
func (a Answer) From() Surface { return a.asker.owner }

// Deliver hands the answer to whoever asked, if it is still wanted, and says what is to be done then.
func (a Answer) Deliver() (todo Intent, wanted bool) {
	switch {
	case a.number == 0:
		a.asker.doing--
	case a.number != a.asker.number:
		return Intent{}, false
	default:
		a.asker.waiting--
	}
	return a.take(), true
}

// Ask begins to answer a question, which takes the place of the one before. work is done beside the
// screen, and take is called with what it gives when the program next has time, unless by then the
// answer is not wanted any more.
func Ask[T any](a *Asker, work func(ctx context.Context) T, take func(T) Intent) tea.Cmd {
	a.begin()
	return More(a, work, take)
}

// More is Ask for more that belongs to the question that was asked last.
func More[T any](a *Asker, work func(ctx context.Context) T, take func(T) Intent) tea.Cmd {
	if a.cancel == nil {
		a.begin()
	}
	a.waiting++
	ctx, number := a.ctx, a.number
	return func() tea.Msg {
		found := work(ctx)
		return Answer{a, number, func() Intent { return take(found) }}
	}
}

// After asks what to do as soon as so much time has passed.
func After(a *Asker, long time.Duration, take func() Intent) tea.Cmd {
	return Ask(a, pause(long), func(struct{}) Intent { return take() })
}

// Later does something as soon as so much time has passed, whatever else is asked meanwhile.
func Later(a *Asker, long time.Duration, take func() Intent) tea.Cmd {
	return Do(a, pause(long), func(struct{}) Intent { return take() })
}

func pause(long time.Duration) func(ctx context.Context) struct{} {
	return func(ctx context.Context) struct{} {
		work.Pause(ctx, long)
		return struct{}{}
	}
}

// slow is how long a question may be without an answer before something is said of it.
const slow = 400 * time.Millisecond

// Slow says that the question that was asked last takes its time, if it does, and nothing is said to be waited for by then. It is to
// be called whenever something may have been asked; beside is an asker for what is done whatever is asked.
func (a *Asker) Slow(beside *Asker, waiting *string) tea.Cmd {
	number := a.number
	if a.waiting == 0 || a.timed == number {
		return nil
	}
	a.timed = number
	return Later(beside, slow, func() Intent {
		if a.number != number || a.waiting == 0 || *waiting != "" {
			return Intent{}
		}
		return Intent{Wait: "working it out; Esc gives up"}
	})
}

// Do begins work that is done whatever else is asked or closed meanwhile: it only ends early with the
// program. take may be nil if there is nothing to be done after it.
func Do[T any](a *Asker, work func(ctx context.Context) T, take func(T) Intent) tea.Cmd {
	a.doing++
	return func() tea.Msg {
		found := work(a.life)
		return Answer{a, 0, func() Intent {
			if take == nil {
				return Intent{}
			}
			return take(found)
		}}
	}
}
