package run

import (
	"bytes"
	"os"
	"strconv"

	"golang.org/x/sys/unix"
)

// adopt makes the present process the parent of what loses its own, so that whatever was started stays below it.
func adopt() {
	_ = unix.Prctl(unix.PR_SET_CHILD_SUBREAPER, 1, 0, 0, 0) // without it, what goes into the background is not ended with the rest
}

// below are the processes that stand below one, however deep; they are not in any order.
func below(root, _ int) (all []int) {
	entries, err := os.ReadDir("/proc")
	if err != nil {
		return nil
	}
	children := map[int][]int{}
	for _, e := range entries {
		pid, err := strconv.Atoi(e.Name())
		if err != nil {
			continue
		}
		stat, err := os.ReadFile("/proc/" + e.Name() + "/stat")
		if err != nil {
			continue // it has ended
		}
		// The name of the program stands in brackets and may hold anything; behind it are the state and the parent.
		fields := bytes.Fields(stat[bytes.LastIndexByte(stat, ')')+1:])
		if len(fields) < 2 || fields[0][0] == 'Z' {
			continue
		}
		parent, _ := strconv.Atoi(string(fields[1]))
		children[parent] = append(children[parent], pid)
	}
	todo := []int{root}
	for len(todo) > 0 {
		found := children[todo[0]]
		delete(children, todo[0])
		todo = append(todo[1:], found...)
		all = append(all, found...)
	}
	return all
}
