//go:build !linux

package run

import "golang.org/x/sys/unix"

// adopt does nothing where a process cannot become the parent of what loses its own.
func adopt() {}

// below are the command itself, if it still runs, and the processes of its group.
func below(_, pid int) []int {
	if unix.Kill(-pid, 0) != nil {
		return nil
	}
	return []int{-pid}
}
