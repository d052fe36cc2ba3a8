package e2e

import "testing"

// A fork is walked along both ways, and the next time as well.
func TestTheTrailAcrossARestart(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("Down", "Down", "Down").see("line 62").press("d").see("[nearest 50]")
	term.press("b").see("line 62").press("Space").write("file.go").see("package store").press("Enter").see("[file.go 1]").press("b").see("roster.go 62]", "nearest", "file.go").press("C-q").ended(0)

	term = start(t, 142, 42, dir)
	term.see("roster.go 62]", "README.md 1", "─┬─").press("F").see("ways on from roster.go 62").press("Down", "Enter").see("[nearest 50]").press("b").see("line 62").press("F").see("ways on").press("Down", "Enter").see("[file.go 1]").press("b", "b").see("[README.md 1]").press("C-q").ended(0)
}
