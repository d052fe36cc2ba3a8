// Package keyboard reads the bytes of a terminal as they come, however busy the program is, and
// tells the key Esc from the beginning of a sequence by when its bytes came, not by when somebody
// got round to them.
package keyboard

import (
	"os"
	"sync"
	"time"

	"rooktrail/internal/core/work"

	"golang.org/x/sys/unix"
)

// Reader hands out what is typed on a terminal. It is the input of a Bubble Tea program; reading
// begins with the first call of Read and goes on beside the program until Pause.
type Reader struct {
	// The terminal. It is not shown as a file with a name: whoever knows that waits for its bytes
	// by himself.
	terminal *os.File

	mu      sync.Mutex
	sorted  []byte // not handed out yet
	err     error
	reading bool
	paused  bool
	ready   chan struct{} // holds an entry if there may be something to hand out
	stop    *os.File      // what is written there ends the reading
	stopped chan struct{} // closed when it has ended
}

// New reads from a terminal.
func New(terminal *os.File) *Reader {
	return &Reader{terminal: terminal, ready: make(chan struct{}, 1)}
}

// Fd is the number under which the system knows the terminal.
func (r *Reader) Fd() uintptr { return r.terminal.Fd() }

// Write writes to the terminal.
func (r *Reader) Write(p []byte) (int, error) { return r.terminal.Write(p) }

// Close leaves the terminal open, which is not its own.
func (r *Reader) Close() error { return nil }

// Lend is Pause for a program that is to have the terminal; it gives the terminal.
func (r *Reader) Lend() *os.File {
	r.Pause()
	return r.terminal
}

// Lent says that another program has the terminal.
func (r *Reader) Lent() bool {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.paused
}

// patience is how long Read waits for bytes. It then gives none, so that somebody who does not
// want to read any more can say so.
const patience = 100 * time.Millisecond

// Read gives bytes in which a press of Esc is never the beginning of anything else; none if
// none came for a moment.
func (r *Reader) Read(p []byte) (int, error) {
	if err := r.begin(); err != nil {
		return 0, err
	}
	select {
	case <-r.ready:
	case <-time.After(patience):
		return 0, nil
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	n := copy(p, r.sorted)
	r.sorted = r.sorted[n:]
	if len(r.sorted) > 0 || r.err != nil {
		r.tell()
	}
	if n == 0 {
		return 0, r.err
	}
	return n, nil
}

func (r *Reader) tell() {
	select {
	case r.ready <- struct{}{}:
	default:
	}
}

func (r *Reader) begin() error {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.reading {
		return nil
	}
	wake, stop, err := os.Pipe()
	if err != nil {
		return err
	}
	r.reading, r.paused, r.stop, r.stopped = true, false, stop, make(chan struct{})
	reading := work.Group{Failed: func(failed *work.Panic) { r.add(nil, failed) }} // whoever reads is told
	stopped := r.stopped
	reading.Go(func() { r.listen(wake, stopped) })
	return nil
}

// Pause leaves what is typed from now on to another program, until somebody reads here again.
func (r *Reader) Pause() {
	r.mu.Lock()
	r.paused = true
	if !r.reading {
		r.mu.Unlock()
		return
	}
	r.reading = false
	stop, stopped := r.stop, r.stopped
	r.mu.Unlock()
	stop.Close() // which ends the waiting on the other end
	<-stopped
}

// listen reads until it is told to stop.
func (r *Reader) listen(wake *os.File, stopped chan struct{}) {
	defer close(stopped)
	defer wake.Close()
	var s sorter
	buf := make([]byte, 4096)
	for {
		typed, stop, err := wait(int(r.Fd()), int(wake.Fd()), s.waits())
		var n int
		if err == nil && typed && !stop {
			n, err = unix.Read(int(r.Fd()), buf)
		}
		now := time.Now()
		switch {
		case stop:
			r.add(s.flush(), nil)
			return
		case err == unix.EINTR || err == unix.EAGAIN:
			continue
		case err != nil:
			r.add(s.flush(), err)
			return
		case !typed:
			r.add(s.expire(now), nil)
		case n == 0:
			r.add(s.flush(), errClosed)
			return
		default:
			r.add(s.sort(buf[:n], now), nil)
		}
	}
}

func (r *Reader) add(sorted []byte, err error) {
	if len(sorted) == 0 && err == nil {
		return
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	r.sorted, r.err = append(r.sorted, sorted...), err
	r.tell()
}

// wait waits until there is something to read at one of two files, or for so long; without end if
// that is negative.
func wait(typed, stop int, long time.Duration) (isTyped, isStop bool, err error) {
	var set unix.FdSet
	set.Set(typed)
	set.Set(stop)
	var timeout *unix.Timeval
	if long >= 0 {
		t := unix.NsecToTimeval(max(long, time.Millisecond).Nanoseconds())
		timeout = &t
	}
	n, err := unix.Select(max(typed, stop)+1, &set, nil, nil, timeout)
	if err != nil || n == 0 {
		return false, false, err
	}
	return set.IsSet(typed), set.IsSet(stop), nil
}
