package cli

import (
	"context"
	"io"
	"os"
	"os/signal"
	"sync"
	"syscall"
	"time"

	"github.com/charmbracelet/x/term"

	"rooktrail/internal/core/work"
	"rooktrail/internal/ui/keyboard"
)

// endWithin is how long the program has to end in order once it was told to end. After that it
// ends whatever it is doing.
const endWithin = 2 * time.Second

// ending ends the program when the system says so.
type ending struct {
	mu      sync.Mutex
	restore func()      // gives the terminal back; nil if it was not taken
	lent    func() bool // whether another program has the terminal
}

type endingKey struct{}

// endingOf is that of a context; nil if it has none.
func endingOf(ctx context.Context) *ending {
	e, _ := ctx.Value(endingKey{}).(*ending)
	return e
}

// untilEnded gives a context that ends when the program is to end.
func untilEnded() (ctx context.Context, stop func()) {
	e := &ending{}
	ctx, cancel := context.WithCancel(context.WithValue(context.Background(), endingKey{}, e))
	signals := make(chan os.Signal, 1)
	signal.Notify(signals, os.Interrupt, syscall.SIGTERM, syscall.SIGHUP)
	done := make(chan struct{})
	var listening work.Group
	listening.Go(func() {
		for {
			select {
			case s := <-signals:
				if s == os.Interrupt && e.isLent() {
					continue // it is meant for the program that has the terminal
				}
				cancel()
				select {
				case <-time.After(endWithin):
					e.now(s)
				case <-done:
				}
				return
			case <-done:
				return
			}
		}
	})
	return ctx, func() {
		signal.Stop(signals)
		close(done)
		cancel()
		listening.Wait()
	}
}

func (e *ending) isLent() bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	return e.lent != nil && e.lent()
}

// now ends the program in the middle of what it is doing.
func (e *ending) now(s os.Signal) {
	e.mu.Lock()
	if e.restore != nil {
		e.restore()
	}
	number, _ := s.(syscall.Signal)
	os.Exit(128 + int(number))
}

// plainScreen takes back what a full-screen program asks of a terminal: the other screen, the
// hidden caret, marked pastes, colours.
const plainScreen = "\x1b[?1049l\x1b[?25h\x1b[?2004l\x1b[0 q\x1b[0m\r\n"

// guard has the terminal given back if the program has to end in the middle; undo ends that.
func (e *ending) guard(in *keyboard.Reader, out *os.File) (undo func()) {
	state, err := term.GetState(in.Fd())
	e.mu.Lock()
	defer e.mu.Unlock()
	e.lent = in.Lent
	e.restore = func() {
		_, _ = io.WriteString(out, plainScreen) // there is nobody left to tell
		if err == nil {
			_ = term.Restore(in.Fd(), state)
		}
	}
	return func() {
		e.mu.Lock()
		defer e.mu.Unlock()
		e.restore, e.lent = nil, nil
	}
}
