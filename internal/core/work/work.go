// Package work starts work beside whoever asks for it. Everything that is started so has an owner
// who waits for it, and a panic in it reaches that owner, who knows how to end decently: by
// itself it would end the process where it stands, with a terminal left as it is and texts that
// are saved nowhere.
package work

import (
	"context"
	"fmt"
	"runtime/debug"
	"sync"
	"time"
)

// Panic is what some work failed with.
type Panic struct {
	Reason any
	// Stack is that of the goroutine that failed.
	Stack []byte
}

// Error implements error.
func (p *Panic) Error() string { return fmt.Sprint(p.Reason) }

// Try does some work and gives back what it failed with; nil if it did not.
func Try(do func()) (failed *Panic) {
	defer func() {
		if r := recover(); r != nil {
			failed = panicOf(r)
		}
	}()
	do()
	return nil
}

// panicOf keeps the stack of where it failed first.
func panicOf(r any) *Panic {
	if p, ok := r.(*Panic); ok {
		return p
	}
	return &Panic{r, debug.Stack()}
}

// Group is work under way that has one owner. The zero Group is ready to use.
type Group struct {
	// Failed, if it is set before the first work is started, is called as soon as some of it fails,
	// in its goroutine, so that the rest can end early.
	Failed func(*Panic)

	wg     sync.WaitGroup
	mu     sync.Mutex
	failed *Panic // the first
}

// Go does some work in a goroutine of its own.
func (g *Group) Go(do func()) {
	g.wg.Go(func() {
		failed := Try(do)
		if failed == nil {
			return
		}
		g.mu.Lock()
		if g.failed == nil {
			g.failed = failed
		}
		g.mu.Unlock()
		if g.Failed != nil {
			g.Failed(failed)
		}
	})
}

// Wait waits until all work is done. If some of it failed, Wait fails with the same, as a *Panic.
func (g *Group) Wait() {
	if failed := g.End(); failed != nil {
		panic(failed)
	}
}

// Pause waits for so long, and says whether the context has not ended meanwhile.
func Pause(ctx context.Context, long time.Duration) bool {
	timer := time.NewTimer(long)
	defer timer.Stop()
	select {
	case <-timer.C:
		return true
	case <-ctx.Done():
		return false
	}
}

// End waits as Wait does and gives back what failed first; nil if nothing did.
func (g *Group) End() *Panic {
	g.wg.Wait()
	g.mu.Lock()
	defer g.mu.Unlock()
	return g.failed
}

// EndWithin is End for an owner who has no more than so long; ended is false if some of the work
// goes on.
func (g *Group) EndWithin(long time.Duration) (failed *Panic, ended bool) {
	done := make(chan struct{})
	go func() {
		g.wg.Wait()
		close(done)
	}()
	select {
	case <-done:
		return g.End(), true
	case <-time.After(long):
		return nil, false
	}
}
