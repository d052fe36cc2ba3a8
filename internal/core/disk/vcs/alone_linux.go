package vcs

import (
	"os/exec"
	"syscall"
	"time"

	"golang.org/x/sys/unix"
)

// alone has a command end with everything it has started: with the context, and with the program,
// however that ends.
func alone(cmd *exec.Cmd) {
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) }
	cmd.WaitDelay = time.Second
}

// limit bounds the memory of a process.
func limit(pid int, bytes uint64) {
	// A process that is not bounded is no reason not to ask it.
	_ = unix.Prlimit(pid, unix.RLIMIT_DATA, &unix.Rlimit{Cur: bytes, Max: bytes}, nil)
}
