package work

import (
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"sync"
	"time"
)

// Report is written when the program fails: of the first failure, which is the one that counts.
type Report struct {
	// Folder is where it is written.
	Folder string

	once  sync.Once
	mu    sync.Mutex
	words string
}

// Words say what went wrong and where the report of it is; "" if nothing did.
func (r *Report) Words() string {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.words
}

// Write writes the report of a panic, with the stack of where it was noticed. If it is one of work
// that was started in this package, the stack is that of where it failed.
func (r *Report) Write(reason any, stack []byte) {
	if p, ok := reason.(*Panic); ok {
		stack = p.Stack
	}
	r.once.Do(func() {
		words := fmt.Sprintf("the program failed: %v", reason)
		file := filepath.Join(r.Folder, "failure-"+time.Now().Format("20060102-150405.000")+".txt")
		build, _ := debug.ReadBuildInfo() // only for the version, which may be missing
		report := fmt.Sprintf("%s\n\n%s %s/%s %v\n\n%s", words, runtime.Version(), runtime.GOOS, runtime.GOARCH, build, stack)
		err := os.MkdirAll(r.Folder, 0o700)
		if err == nil {
			err = os.WriteFile(file, []byte(report), 0o600)
		}
		if err == nil {
			words += "; the report is in " + file
		} else {
			words += fmt.Sprintf("; the report could not be written: %v\n%s", err, stack)
		}
		r.mu.Lock()
		r.words = words
		r.mu.Unlock()
	})
}
