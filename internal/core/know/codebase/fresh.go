package codebase

import (
	"sync"
	"time"

	"rooktrail/internal/core/know/project"
)

// tickOfDisk is how far apart two changes of a file must be at the most to have different times.
const tickOfDisk = 50 * time.Millisecond

// fresh are the files that were read so soon after they changed that they may have changed again without having another time.
type fresh struct {
	mu    sync.Mutex
	paths map[string]bool
}

// note notes whether a file that is read now is one of them.
func (f *fresh) note(file project.File, now time.Time) (is bool) {
	is = now.UnixNano()-file.Modified < int64(tickOfDisk)
	f.mu.Lock()
	defer f.mu.Unlock()
	if is {
		if f.paths == nil {
			f.paths = map[string]bool{}
		}
		f.paths[file.Path] = true
	} else {
		delete(f.paths, file.Path)
	}
	return is
}

func (f *fresh) has(path string) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	return f.paths[path]
}
