package run

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"sync/atomic"
	"syscall"
	"time"

	"golang.org/x/sys/unix"

	"rooktrail/internal/core/work"
)

// Keep is the argument with which the program is begun anew as a keeper. It is a flag, so that a program that does not know of it, such as
// a test, ends at once rather than does what it does.
const Keep = "--keep-run"

// terminal is the number of the file by which a keeper is given the terminal.
const terminal = 3

// spec is what a keeper is told to start.
type spec struct {
	Args, Env []string
	Dir       string
}

// The words between the program and a keeper, one a line.
const (
	toldStop    = "stop"    // end all that was started, with time to end by itself
	saysStarted = "started" // the command runs
	saysExit    = "exit "   // it ended by itself, with a status
	saysKilled  = "killed " // a signal ended it
	saysFailed  = "failed " // it could not be started
)

// patience is how long what was asked to end has for it.
const patience = 1500 * time.Millisecond

// Serve is the keeper: it starts what it is told to, says what became of it, and ends it when it is told to, or when the program has
// ended. It returns when nothing is left of what it has started.
func Serve(in io.Reader, out io.Writer) error {
	// Taken notice of, and not ignored, since what is ignored here would be by the command, too.
	signal.Notify(make(chan os.Signal, 1), syscall.SIGHUP, syscall.SIGINT, syscall.SIGQUIT, syscall.SIGTERM, syscall.SIGPIPE, syscall.SIGTTOU, syscall.SIGTSTP)
	adopt()
	told := bufio.NewReader(in)
	line, err := told.ReadBytes('\n')
	if err != nil {
		return fmt.Errorf("learning what to run: %w", err)
	}
	var s spec
	if err := json.Unmarshal(line, &s); err != nil {
		return fmt.Errorf("learning what to run: %w", err)
	}
	tty := os.NewFile(terminal, "terminal")
	p, err := os.StartProcess(s.Args[0], s.Args, &os.ProcAttr{
		Dir: s.Dir, Env: s.Env, Files: []*os.File{tty, tty, tty},
		Sys: &syscall.SysProcAttr{Setsid: true, Setctty: true, Ctty: 0},
	})
	tty.Close()
	if err != nil {
		fmt.Fprintln(out, saysFailed+oneLine(err))
		return nil
	}
	fmt.Fprintln(out, saysStarted)
	var ended atomic.Bool
	var listening work.Group
	listening.Go(func() { listen(told, p.Pid, &ended) })
	wait(p.Pid, out)
	ended.Store(true)
	return nil
}

// oneLine is an error without the path of the program, which the user has typed.
func oneLine(err error) string {
	var at *os.PathError
	if errors.As(err, &at) {
		return at.Path + ": " + at.Err.Error()
	}
	return err.Error()
}

// listen ends what was started when it is told to, or when nobody is there any more who could tell.
func listen(told *bufio.Reader, pid int, ended *atomic.Bool) {
	for !ended.Load() {
		line, err := told.ReadString('\n')
		if err == nil && line != toldStop+"\n" {
			continue
		}
		end(pid)
		if err != nil {
			return
		}
	}
}

// end asks all that was started to end, and kills what does not.
func end(pid int) {
	for _, s := range []unix.Signal{unix.SIGHUP, unix.SIGTERM, unix.SIGCONT} {
		signalAll(pid, s)
	}
	for deadline := time.Now().Add(patience); time.Now().Before(deadline); time.Sleep(20 * time.Millisecond) {
		if len(below(os.Getpid(), pid)) == 0 {
			return
		}
	}
	for range 50 { // as some of it may begin more meanwhile
		if len(below(os.Getpid(), pid)) == 0 {
			return
		}
		signalAll(pid, unix.SIGKILL)
		time.Sleep(10 * time.Millisecond)
	}
}

func signalAll(pid int, s unix.Signal) {
	for _, p := range below(os.Getpid(), pid) {
		_ = unix.Kill(p, s) // it may have ended by now
	}
}

// wait waits for all that was started, and says what became of the command itself.
func wait(pid int, out io.Writer) {
	for {
		var status unix.WaitStatus
		p, err := unix.Wait4(-1, &status, 0, nil)
		switch {
		case err == unix.EINTR:
		case err != nil: // nothing is left
			return
		case p != pid:
		case status.Signaled():
			fmt.Fprintln(out, saysKilled+unix.SignalName(status.Signal()))
		case status.Exited():
			fmt.Fprintln(out, saysExit+fmt.Sprint(status.ExitStatus()))
		}
	}
}
