package app

import (
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"sync"
	"time"

	"rooktrail/internal/core/work"

	tea "charm.land/bubbletea/v2"
)

// failure is what is known of a panic: only the first counts.
type failure struct {
	folder string // where reports are written
	once   sync.Once
	mu     sync.Mutex
	words  string // what went wrong, and where the report is; "" if nothing did
}

// ReportTo says in which folder a report is written if the program fails.
func (m *Model) ReportTo(folder string) { m.failure.folder = folder }

// Failure says what went wrong and where the report of it is; "" if nothing did.
func (m *Model) Failure() string {
	m.failure.mu.Lock()
	defer m.failure.mu.Unlock()
	return m.failure.words
}

// Fail notes that work beside the screen has failed; the program is to be ended then.
func (m *Model) Fail(failed *work.Panic) { m.fail(failed, failed.Stack) }

// failedMsg ends the program, since it failed.
type failedMsg struct{}

// fail writes the report of a panic.
func (m *Model) fail(reason any, stack []byte) {
	if p, ok := reason.(*work.Panic); ok {
		stack = p.Stack // of where it failed, not of where it was waited for
	}
	m.failure.once.Do(func() {
		words := fmt.Sprintf("the program failed: %v", reason)
		file := filepath.Join(m.failure.folder, "failure-"+time.Now().Format("20060102-150405.000")+".txt")
		build, _ := debug.ReadBuildInfo() // only for the version, which may be missing
		report := fmt.Sprintf("%s\n\n%s %s/%s %v\n\n%s", words, runtime.Version(), runtime.GOOS, runtime.GOARCH, build, stack)
		err := os.MkdirAll(m.failure.folder, 0o700)
		if err == nil {
			err = os.WriteFile(file, []byte(report), 0o600)
		}
		if err == nil {
			words += "; the report is in " + file
		} else {
			words += fmt.Sprintf("; the report could not be written: %v\n%s", err, stack)
		}
		m.failure.mu.Lock()
		m.failure.words = words
		m.failure.mu.Unlock()
	})
}

// guarded is a command that, if it fails, ends the program in order.
func (m *Model) guarded(cmd tea.Cmd) tea.Cmd {
	if cmd == nil {
		return nil
	}
	return func() (msg tea.Msg) {
		defer func() {
			if r := recover(); r != nil {
				m.fail(r, debug.Stack())
				msg = failedMsg{}
			}
		}()
		msg = cmd()
		if all, ok := msg.(tea.BatchMsg); ok {
			for i := range all {
				all[i] = m.guarded(all[i])
			}
		}
		return msg
	}
}

// Rescue keeps what is not saved, whatever commands were still under way. It is for after the
// program has run.
func (m *Model) Rescue() error { return m.writing.Desk().Rescue() }
