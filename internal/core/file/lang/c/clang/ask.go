package clang

import (
	"bytes"
	"context"
	"encoding/gob"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"syscall"
	"time"

	"rooktrail/internal/core/file/check"
)

// Request is a question about one file that is compiled by itself.
type Request struct {
	// Library is the path of libclang.
	Library string
	// Root is the folder of the project, File the file in it, both absolute and with links followed.
	Root, File string
	// Arguments are those of a compiler, as Arguments lets them through.
	Arguments []string
}

// Command is the argument with which the program is begun anew to answer one Request.
const Command = "ask-libclang"

// askedMark is set in the surroundings of a process that is begun so: should it be a program that does something else when it is begun, such
// as a test, it does not begin itself over and over.
const askedMark = "ROOKTRAIL_ASKED"

// The limits of a process that asks: of time, of memory, and of what it may answer, in bytes.
const (
	longest    = 2 * time.Minute
	mostMemory = 4 << 30
	mostAnswer = 256 << 20
)

// Ask answers a request in a process of its own, so that a library that crashes, hangs or wants all memory costs that one file.
// program is the path of this program, which is begun anew.
func Ask(ctx context.Context, program string, r *Request) (*check.Unit, error) {
	if os.Getenv(askedMark) != "" {
		return nil, fmt.Errorf("asking libclang about %s: this process was begun to answer, and asks nobody", r.File)
	}
	var question bytes.Buffer
	if err := gob.NewEncoder(&question).Encode(r); err != nil {
		return nil, fmt.Errorf("asking libclang about %s: %w", r.File, err)
	}
	ctx, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	cmd := exec.CommandContext(ctx, program, Command)
	cmd.Env = []string{"LC_ALL=C", "PATH=/nowhere", askedMark + "=1"} // nothing of the surroundings adds headers or arguments
	cmd.Dir = "/"
	cmd.Stdin = &question
	answer := &limited{}
	cmd.Stdout = answer
	cmd.WaitDelay = time.Second
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Run(); err != nil {
		if ctx.Err() == nil || errors.Is(ctx.Err(), context.DeadlineExceeded) {
			return nil, fmt.Errorf("libclang failed on %s: %w", r.File, err)
		}
		return nil, ctx.Err()
	}
	said := &check.Unit{}
	if err := gob.NewDecoder(&answer.Buffer).Decode(said); err != nil {
		return nil, fmt.Errorf("libclang failed on %s: its answer is cut off: %w", r.File, err)
	}
	return said, nil
}

// limited takes in a bounded answer.
type limited struct{ bytes.Buffer }

var errTooMuch = errors.New("it answers more than can be meant")

func (l *limited) Write(p []byte) (int, error) {
	if l.Len()+len(p) > mostAnswer {
		return 0, errTooMuch
	}
	return l.Buffer.Write(p)
}

// Serve answers one request, in a process that was begun with Command.
func Serve(in io.Reader, out io.Writer) error {
	limit := syscall.Rlimit{Cur: mostMemory, Max: mostMemory}
	_ = syscall.Setrlimit(syscall.RLIMIT_AS, &limit) // where there is no such limit, time is one
	noCore := syscall.Rlimit{}
	_ = syscall.Setrlimit(syscall.RLIMIT_CORE, &noCore)
	var r Request
	if err := gob.NewDecoder(in).Decode(&r); err != nil {
		return fmt.Errorf("reading what is asked: %w", err)
	}
	version, err := load(r.Library)
	said := &check.Unit{Version: version}
	if err != nil {
		said.Failure = err.Error()
	} else if r.File != "" {
		said = parse(&r)
		said.Version = version
	}
	if err := gob.NewEncoder(out).Encode(said); err != nil {
		return fmt.Errorf("answering: %w", err)
	}
	return nil
}
