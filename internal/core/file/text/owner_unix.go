//go:build unix

package text

import (
	"io/fs"
	"os"
	"syscall"
)

// linked says whether a file has other names as well.
func linked(info fs.FileInfo) bool {
	s, ok := info.Sys().(*syscall.Stat_t)
	return ok && s.Nlink > 1
}

// takeOwner gives a file the owner and the group of another, as far as that is allowed.
func takeOwner(f *os.File, as fs.FileInfo) {
	if s, ok := as.Sys().(*syscall.Stat_t); ok {
		if f.Chown(int(s.Uid), int(s.Gid)) != nil {
			_ = f.Chown(-1, int(s.Gid)) // else it is one's own
		}
	}
}
