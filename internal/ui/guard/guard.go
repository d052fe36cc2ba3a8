// Package guard ends the program in order if it fails: the terminal is given back, and a report says where it failed.
package guard

import (
	"runtime/debug"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/work"
)

// Guard writes the report. The zero Guard is ready once it knows where.
type Guard struct{ report work.Report }

// ReportTo says in which folder a report is written if the program fails.
func (g *Guard) ReportTo(folder string) { g.report.Folder = folder }

// Failure says what went wrong and where the report of it is; "" if nothing did.
func (g *Guard) Failure() string { return g.report.Words() }

// Fail notes that work beside the screen has failed; the program is to be ended then.
func (g *Guard) Fail(failed *work.Panic) { g.report.Write(failed, nil) }

// Failed notes with what the program has failed, where it has.
func (g *Guard) Failed(reason any) { g.report.Write(reason, debug.Stack()) }

// Ending is the message that ends the program, since it failed.
type Ending struct{}

// Guarded is a command that, if it fails, ends the program in order.
func (g *Guard) Guarded(cmd tea.Cmd) tea.Cmd {
	if cmd == nil {
		return nil
	}
	return func() (msg tea.Msg) {
		defer func() {
			if r := recover(); r != nil {
				g.Failed(r)
				msg = Ending{}
			}
		}()
		msg = cmd()
		if all, ok := msg.(tea.BatchMsg); ok {
			for i := range all {
				all[i] = g.Guarded(all[i])
			}
		}
		return msg
	}
}
