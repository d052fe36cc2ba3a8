package run

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/creack/pty"

	uv "github.com/charmbracelet/ultraviolet"

	"rooktrail/internal/core/report"
	"rooktrail/internal/core/work"
)

// Command is what is to be run.
type Command struct {
	// Line is a command line, as one types it at a shell. If Args is set, these are run without a shell, and Line is how they are
	// called.
	Line string
	Args []string
	// Dir is the folder it runs in, an absolute path.
	Dir string
	// Title is what it is called; "" for Line.
	Title string
	// Shell says that it is a shell to type in.
	Shell bool
	// Each is given each line that is printed, beside the screen, and gives what is to be shown in its place; nil to show it as it is.
	Each func(line string) (shown string, replaced bool)
	// Self is the program that is begun anew as a keeper; "" for this one.
	Self string
}

// State says how far a run is.
type State uint8

// The states.
const (
	Running State = iota
	Ended         // by itself, with a status
	Killed        // by a signal
	Refused       // it could not be started
)

// Run is a command that runs or has run. It may be used by several goroutines.
type Run struct {
	Command Command
	// Begun is when it was started.
	Begun time.Time

	keeper  *exec.Cmd
	control io.WriteCloser
	tty     *os.File
	group   work.Group
	keys    chan []byte
	gone    chan struct{} // closed once nothing is left of it
	drained chan struct{} // closed once there is no more to be read from its terminal

	mu      sync.Mutex
	screen  *screen
	state   State
	status  int    // with which it ended
	why     string // the signal, or why it could not be started
	ended   time.Time
	stopped bool // it was asked to end
	alive   bool // something of it is still there
	found   []report.Finding
	partial []byte // the line that is being printed
	raw     []byte // what was printed, as it was
	taken   int    // how many bytes were printed
	changes chan struct{}
}

// Start starts a command in a terminal of so many columns and rows. It only fails if no terminal can be had; that a command could
// not be started is the state of the run.
func Start(c Command, width, height int) (*Run, error) {
	width, height = max(width, 2), max(height, 1)
	tty, slave, err := pty.Open()
	if err != nil {
		return nil, fmt.Errorf("opening a terminal for %s: %w", c.Line, err)
	}
	defer slave.Close()
	_ = pty.Setsize(tty, &pty.Winsize{Cols: uint16(width), Rows: uint16(height)}) // else it has the usual size
	r := &Run{Command: c, Begun: time.Now(), tty: tty, screen: newScreen(width, height), alive: true, changes: make(chan struct{}, 1), keys: make(chan []byte, 256), gone: make(chan struct{}), drained: make(chan struct{})}
	says, err := r.begin(slave)
	if err != nil {
		tty.Close()
		return nil, fmt.Errorf("running %s: %w", c.Line, err)
	}
	r.group.Go(func() { r.listen(says) })
	r.group.Go(r.read)
	r.group.Go(r.answer)
	r.group.Go(r.handOn)
	return r, nil
}

// begin starts the keeper, and tells it what to start.
func (r *Run) begin(slave *os.File) (says io.Reader, err error) {
	self := r.Command.Self
	if self == "" {
		if self, err = os.Executable(); err != nil {
			return nil, err
		}
	}
	r.keeper = exec.Command(self, Keep)
	r.keeper.ExtraFiles = []*os.File{slave}
	r.keeper.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if r.control, err = r.keeper.StdinPipe(); err != nil {
		return nil, err
	}
	if says, err = r.keeper.StdoutPipe(); err != nil {
		return nil, err
	}
	s := spec{Args: r.Command.Args, Dir: r.Command.Dir, Env: environment()}
	if len(s.Args) == 0 {
		s.Args = []string{shell(), "-c", r.Command.Line}
		if r.Command.Shell {
			s.Args = s.Args[:1]
		}
	}
	if found, err := exec.LookPath(s.Args[0]); err == nil {
		s.Args = append([]string{found}, s.Args[1:]...)
	}
	line, err := json.Marshal(s)
	if err != nil {
		return nil, err
	}
	if err := r.keeper.Start(); err != nil {
		return nil, err
	}
	_, err = r.control.Write(append(line, '\n'))
	return says, err
}

// shell is that of the user.
func shell() string {
	if s := os.Getenv("SHELL"); filepath.IsAbs(s) {
		return s
	}
	return "/bin/sh"
}

// environment is that of the program, for a terminal of the kind that is drawn here.
func environment() []string {
	env := slices.DeleteFunc(os.Environ(), func(v string) bool {
		name, _, _ := strings.Cut(v, "=")
		return slices.Contains([]string{"TERM", "COLORTERM", "LINES", "COLUMNS", "TMUX", "TMUX_PANE", "STY", "TERM_PROGRAM"}, name)
	})
	return append(env, "TERM=xterm-256color", "COLORTERM=truecolor")
}

// listen takes note of what the keeper says, until nothing is left of the command. That it has ended is said once all that it has
// printed was taken in, since whoever hears it looks at that.
func (r *Run) listen(says io.Reader) {
	in := bufio.NewScanner(says)
	for in.Scan() {
		if e, over := endOf(in.Text()); over {
			r.awaitPrinted()
			r.end(e)
		}
		r.changed()
	}
	_ = r.keeper.Wait() // what it ended with was said
	gone := outcome{state: Killed, at: time.Now(), why: "its keeper was ended"}
	select {
	case <-r.drained:
	case <-time.After(mostSettling): // what does not let itself be ended may have the terminal
	}
	if r.Standing().State == Running {
		r.end(gone)
	}
	r.mu.Lock()
	r.alive = false
	r.mu.Unlock()
	r.control.Close()
	close(r.gone)
	r.changed()
}

// outcome is what became of a command, and when.
type outcome struct {
	state  State
	status int
	why    string
	at     time.Time
}

// endOf is the end of which the keeper speaks in a line, if it does.
func endOf(line string) (e outcome, over bool) {
	e.at = time.Now()
	word, rest, _ := strings.Cut(line, " ")
	switch word + " " {
	case saysExit:
		e.state = Ended
		e.status, _ = strconv.Atoi(rest)
	case saysKilled:
		e.state, e.why = Killed, rest
	case saysFailed:
		e.state, e.why = Refused, rest
	default:
		return outcome{}, false
	}
	return e, true
}

// end notes what became of the command.
func (r *Run) end(e outcome) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.line(nil)
	r.state, r.status, r.why, r.ended = e.state, e.status, e.why, e.at
}

// While something that a command has begun still has the terminal, all is taken to be printed when nothing came for the time of
// settling, and at most that of mostSettling is waited for it.
const (
	settling     = 60 * time.Millisecond
	mostSettling = time.Second
)

// awaitPrinted waits until all that was printed has arrived: to the end of what can be read, if nobody has the terminal any more.
func (r *Run) awaitPrinted() {
	for most := time.After(mostSettling); ; {
		r.mu.Lock()
		before := r.taken
		r.mu.Unlock()
		select {
		case <-r.drained:
			return
		case <-most:
			return
		case <-time.After(settling):
		}
		r.mu.Lock()
		quiet := r.taken == before
		r.mu.Unlock()
		if quiet {
			return
		}
	}
}

// read takes in what is printed.
func (r *Run) read() {
	buf := make([]byte, 32<<10)
	for {
		n, err := r.tty.Read(buf)
		if n > 0 {
			r.take(buf[:n])
			r.changed()
		}
		if err != nil {
			r.mu.Lock()
			r.tty.Close()
			r.screen.close()
			r.mu.Unlock()
			close(r.drained)
			return
		}
	}
}

// take takes in some bytes that were printed.
func (r *Run) take(p []byte) {
	if r.Command.Each == nil {
		r.show(p)
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	r.taken += len(p)
	if r.Command.Each == nil { // else whoever takes each line has them
		r.raw = append(r.raw, p[:min(len(p), max(mostRaw-len(r.raw), 0))]...)
	}
	for len(p) > 0 {
		end := slices.Index(p, '\n')
		if end < 0 {
			if room := mostOfLine - len(r.partial); room > 0 {
				r.partial = append(r.partial, p[:min(room, len(p))]...)
			}
			return
		}
		r.line(p[:end])
		p = p[end+1:]
	}
}

// show has the terminal take in some bytes, a piece at a time, so that whoever draws it does not wait for all of them.
func (r *Run) show(p []byte) {
	r.mu.Lock()
	defer r.mu.Unlock()
	p = r.screen.skip(p)
	for len(p) > 0 {
		n := min(len(p), piece)
		r.screen.write(p[:n])
		p = p[n:]
		r.mu.Unlock()
		r.mu.Lock()
	}
}

// mostOfLine is how much of a line is looked at, in bytes.
const mostOfLine = 64 << 10

// mostRaw is how much is kept of what was printed as it was, in bytes: reports are read from that.
const mostRaw = 8 << 20

// mostFound is how many places are kept.
const mostFound = report.Most

// line takes in the rest of a line.
func (r *Run) line(rest []byte) {
	if room := mostOfLine - len(r.partial); room > 0 {
		r.partial = append(r.partial, rest[:min(room, len(rest))]...)
	}
	line := strings.TrimRight(string(r.partial), "\r")
	r.partial = r.partial[:0]
	if r.Command.Each != nil {
		shown, replaced := r.Command.Each(line)
		if !replaced && line != "" {
			shown = line + "\n"
		}
		line = strings.TrimRight(shown, "\n")
		r.screen.write([]byte(strings.ReplaceAll(shown, "\n", "\r\n")))
	}
	if i := strings.LastIndexByte(line, '\r'); i >= 0 {
		line = line[i+1:] // what was written over is not there any more
	}
	if f, ok := report.Line(line); ok && len(r.found) < mostFound && !r.Command.Shell {
		r.found = append(r.found, f)
	}
}

// answer hands on what the terminal answers to what the command asks it.
func (r *Run) answer() {
	buf := make([]byte, 4096)
	for {
		n, err := r.screen.vt.Read(buf)
		if n > 0 {
			r.send(slices.Clone(buf[:n]))
		}
		if err != nil {
			return
		}
	}
}

// send keeps what is to be typed; what a command does not read for long is lost, as it is at any terminal.
func (r *Run) send(p []byte) {
	select {
	case r.keys <- p:
	default:
	}
}

// handOn hands on what is typed.
func (r *Run) handOn() {
	for {
		select {
		case p := <-r.keys:
			_, _ = r.tty.Write(p) // it may end just now
		case <-r.gone:
			return
		}
	}
}

func (r *Run) changed() {
	select {
	case r.changes <- struct{}{}:
	default:
	}
}

// Changes is sent something when something has changed.
func (r *Run) Changes() <-chan struct{} { return r.changes }

// Key has a key be typed.
func (r *Run) Key(k uv.Key) {
	r.mu.Lock()
	defer r.mu.Unlock()
	switch {
	case !r.alive:
	case k.Text != "" && k.Mod&(uv.ModAlt|uv.ModCtrl) == 0:
		r.screen.vt.SendText(k.Text)
	default:
		r.screen.vt.SendKey(uv.KeyPressEvent(k))
	}
}

// Paste has a text be typed.
func (r *Run) Paste(s string) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.alive {
		r.screen.vt.Paste(s)
	}
}

// Resize gives its terminal another size.
func (r *Run) Resize(width, height int) {
	width, height = max(width, 2), max(height, 1)
	r.mu.Lock()
	defer r.mu.Unlock()
	if !r.alive || r.screen.vt.Width() == width && r.screen.vt.Height() == height {
		return
	}
	r.screen.resize(width, height)
	_ = pty.Setsize(r.tty, &pty.Winsize{Cols: uint16(width), Rows: uint16(height)}) // it may end just now
}

// Stop asks it to end; what does not is killed after a moment.
func (r *Run) Stop() {
	r.mu.Lock()
	r.stopped = true
	r.mu.Unlock()
	_, _ = io.WriteString(r.control, toldStop+"\n") // it may have ended
}

// End ends it, and waits until nothing of it is left.
func (r *Run) End() {
	r.Stop()
	r.control.Close()
	r.group.Wait()
}

// Standing is how a run stands.
type Standing struct {
	State State
	// Status is that with which it ended; Why is the signal that ended it, or why it could not be started.
	Status int
	Why    string
	// Took is how long it ran, or has run so far.
	Took time.Duration
	// Stopped says that it was asked to end; Left that it has ended, but something that it began has not.
	Stopped, Left bool
	// Found is how many places were found in what it printed.
	Found int
}

// lingering is how long something that a command began may be there after it has ended before that is worth a word.
const lingering = 400 * time.Millisecond

// Standing says how it stands.
func (r *Run) Standing() Standing {
	r.mu.Lock()
	defer r.mu.Unlock()
	s := Standing{State: r.state, Status: r.status, Why: r.why, Took: time.Since(r.Begun), Stopped: r.stopped, Left: r.alive && r.state != Running && time.Since(r.ended) > lingering, Found: len(r.found)}
	if r.state != Running {
		s.Took = r.ended.Sub(r.Begun)
	}
	return s
}

// Alive says whether anything of it is still there.
func (r *Run) Alive() bool {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.alive
}

// Found are the places that were found in what it has printed, from a number on.
func (r *Run) Found(from int) []report.Finding {
	r.mu.Lock()
	defer r.mu.Unlock()
	return slices.Clone(r.found[min(from, len(r.found)):])
}

// View is what is to be seen of a run.
type View struct {
	Rows []Row
	// X and Y are where the caret of its terminal is, from 0; Y is -1 if it is not to be seen.
	X, Y int
	// Above is how many rows there are above.
	Above int
	// Full says that the command uses all of the screen, as an editor does.
	Full bool
}

// View gives the rows that are seen in a window of so many, if one has scrolled back by so many.
func (r *Run) View(height, back int) View {
	r.mu.Lock()
	defer r.mu.Unlock()
	shown := r.screen.shown()
	at := r.screen.vt.CursorPosition()
	v := View{X: at.X, Y: -1, Full: r.screen.vt.IsAltScreen()}
	past := r.screen.past
	if v.Full {
		past = nil
	} else if used := r.screen.used(shown, at.Y); used < len(shown) {
		shown = shown[:used]
	}
	back = min(max(back, 0), max(len(past)+len(shown)-height, 0))
	end := len(past) + len(shown) - back
	start := max(end-height, 0)
	v.Above = start
	for i := start; i < end; i++ {
		if i < len(past) {
			v.Rows = append(v.Rows, past[i])
		} else {
			v.Rows = append(v.Rows, shown[i-len(past)])
		}
	}
	if y := len(past) + at.Y - start; y >= 0 && y < height && back == 0 && r.alive {
		v.Y = y
	}
	return v
}

// Text is all that it has printed, as far as it was kept.
func (r *Run) Text() string {
	r.mu.Lock()
	defer r.mu.Unlock()
	var b strings.Builder
	if r.screen.gone > 0 {
		fmt.Fprintf(&b, "… the first rows are not kept: %d\n", r.screen.gone)
	}
	shown := r.screen.shown()
	for _, row := range append(slices.Clone(r.screen.past), shown[:r.screen.used(shown, 0)]...) {
		b.WriteString(row.Text() + "\n")
	}
	return b.String()
}

// Printed is what it has printed as it was, or the beginning of it: not as the terminal shows it.
func (r *Run) Printed() []byte {
	r.mu.Lock()
	defer r.mu.Unlock()
	return bytes.ReplaceAll(r.raw, []byte("\r\n"), []byte("\n"))
}
