package app

import (
	"runtime/debug"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/work"
)

// ReportTo says in which folder a report is written if the program fails.
func (m *Model) ReportTo(folder string) { m.report.Folder = folder }

// Failure says what went wrong and where the report of it is; "" if nothing did.
func (m *Model) Failure() string { return m.report.Words() }

// Fail notes that work beside the screen has failed; the program is to be ended then.
func (m *Model) Fail(failed *work.Panic) { m.report.Write(failed, nil) }

// failedMsg ends the program, since it failed.
type failedMsg struct{}

// guarded is a command that, if it fails, ends the program in order.
func (m *Model) guarded(cmd tea.Cmd) tea.Cmd {
	if cmd == nil {
		return nil
	}
	return func() (msg tea.Msg) {
		defer func() {
			if r := recover(); r != nil {
				m.report.Write(r, debug.Stack())
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
