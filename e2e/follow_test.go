package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Through an interface to what implements it, and back.
func TestFollowThroughAnInterface(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("desk.go:42").see("desk.go 42").press("Enter").see("dispatch ▸ desk.go ▸ Desk ▸ Assign", "line 42")
	term.press("/").write("assigner.Assign").see("of 1").press("Enter").press("M-Right").see("Assign finds", "definition  assigner.go 5")
	term.see("implemented by  4").press("i").see("what implements or overrides Assign", "roster.go", "pinned.go").write("roster").see("▌  method    func (r *Roster) Assign", "dispatch ▸ roster.go ▸ Roster ▸ Assign")
	term.press("Enter").see("[Assign roster.go 59]", "up  Assigner.Assign").press("u").see("dispatch ▸ assigner.go").press("b").see("[Assign roster.go 59]").press("b").see("desk.go ▸ Desk ▸ Assign", "line 42")
}

// The references of a field, of which only those that write are listed.
func TestReferencesThatWrite(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("Callout.Status").see("▌  field").press("Enter").see("[Status callout.go 40]", "9 in 3 files", "2 writes, 7 reads")
	before := term.still()
	term.press("Enter").see("references of Status  9 of 9   in 3 files", "dispatch/desk_test.go  2", "in Callout.assign, line 57")
	term.press("Tab").see("only: read").press("Tab").see("2 of 9", "only: write", "▌  write     c.Status = StatusAssigned", "dispatch ▸ callout.go ▸ Callout ▸ assign")
	term.press("Escape").until("the screen as it was", func(string) bool { return assert.ObjectsAreEqual(codeIn(before), codeIn(term.rows())) })
	term.press("r").see("9 of 9").press("M-t").see("without tests").seeNot("desk_test.go").press("Down", "Enter").see("[assign 57]", "line 57")
	term.press("b").see("[Status callout.go 40]").press("a").see("ways from Status", "references", "9 in 3 files: 2 writes, 7 reads", "set in 2 places").press("v").see("where the value of Status comes from")
	term.press("Escape").until("the list is gone", func(s string) bool { return !strings.Contains(s, "comes from and goes to") }).press("C-q").ended(0)
}

// Names in a narrow window, where one line has to do.
func TestWaysOnOneLine(t *testing.T) {
	t.Parallel()
	term := start(t, 80, 24, "demo")
	term.see("README.md").press("Space").write("Callout.Status").see("▌  field").press("Enter").see("Status  field", "t  r 9  ", "  s 2").press("t").see("type Status int").press("b").see("callout.go 40").press("C-q").ended(0)
}
