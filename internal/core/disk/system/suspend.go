package system

import (
	"bytes"
	"os"
	"strconv"

	"golang.org/x/sys/unix"
)

// process is what decides whether a program can be suspended.
type process struct{ parent, group, session int }

// CanSuspend says whether a shell is around the program that can have it go on again. Where there
// is none, as when a terminal, a multiplexer or a container runs it directly, a suspended program
// would stay so for good.
func CanSuspend() bool { return shellAround(os.Getpid(), look) }

// shellAround looks for a process further up in the same session that is in another group than
// the program: only a shell that minds its jobs puts them into groups of their own.
func shellAround(pid int, look func(pid int) (process, bool)) bool {
	own, ok := look(pid)
	for at := own; ok; {
		if at.parent <= 1 {
			return false
		}
		above, known := look(at.parent)
		if !known || above.session != own.session {
			return false
		}
		if above.group != own.group {
			return true
		}
		at = above
	}
	return false
}

func look(pid int) (p process, ok bool) {
	group, err := unix.Getpgid(pid)
	if err != nil {
		return p, false
	}
	session, err := unix.Getsid(pid)
	if err != nil {
		return p, false
	}
	return process{parentOf(pid), group, session}, true
}

// parentOf is the process that has started another one; 0 if that is not known.
func parentOf(pid int) int {
	if pid == os.Getpid() {
		return os.Getppid()
	}
	stat, err := os.ReadFile("/proc/" + strconv.Itoa(pid) + "/stat")
	if err != nil {
		return 0
	}
	// The name of the program stands in brackets and may hold anything.
	fields := bytes.Fields(stat[bytes.LastIndexByte(stat, ')')+1:])
	if len(fields) < 2 {
		return 0
	}
	parent, _ := strconv.Atoi(string(fields[1]))
	return parent
}
