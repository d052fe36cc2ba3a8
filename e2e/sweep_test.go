package e2e

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"rooktrail/demo"
)

// unpacked is a copy of the demo project that stays.
func unpacked(t *testing.T) string {
	dir, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	dir = filepath.Join(dir, "tarnwell")
	require.NoError(t, demo.Unpack(context.Background(), dir))
	return dir
}

// A list of references is worked through; the code changes in between, and the program
// is closed and opened.
func TestSweepOverAChangeAndARestart(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("Callout.Status").see("▌  field").press("Enter").see("[Status callout.go 40]", "9 in 3 files")
	term.press("r").see("references of Status  9 of 9").press("M-k").see("kept as the sweep", "sweep 9 to do")
	term.press("n").see("1 of 9, 9 to do", "line 49").press("N").see("2 of 9, 8 to do", "line 57").press("W").see("aside", "note").press("d").see("set aside: 7 of 9 to do")
	term.press("W", "n").see("note on this place:").write("ask the desk").press("Enter").see("letters of a file", "ask the desk").press("Escape").seeNot("letters of a file").press("n").see("3 of 9, 7 to do", "line 63")

	file := filepath.Join(dir, "dispatch", "callout.go")
	code, err := os.ReadFile(file)
	require.NoError(t, err)
	changed := strings.Replace(string(code), "// assign marks", "// A line more.\n// And one more.\n\n// assign marks", 1)
	changed = strings.Replace(changed, "\tc.Status = StatusClosed\n", "", 1)
	require.NotEqual(t, string(code), changed)
	require.NoError(t, os.WriteFile(file, []byte(changed), 0o644))
	term.see("has changed on disk", "sweep 6 to do").press("n").see("4 of 9, 6 to do", "line 67").press("n").see("6 of 9, 6 to do", "line 75").press("W", "v").see("done: 5 of 9 to do").press("C-q").ended(0)

	term = start(t, 142, 42, dir)
	term.see("sweep 5 to do", "line 75").press("W", "W").see("references of Status", "5 to do, 2 done, 1 set aside, 1 gone", "ask the desk").press("Tab", "Tab").see("only: done", "line 49").press("Escape").seeNot("only: done")
	term.press("n").see("7 of 9, 5 to do", "desk.go").press("p").see("6 of 9, 5 to do, done", "line 75")
	term.press("W", "a").see("0 new, 0 no longer among the answers").press("C-q").ended(0)
}

// What a test run or a compiler prints is walked through.
func TestSweepFromAPipe(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	list := filepath.Join(t.TempDir(), "list.txt")
	require.NoError(t, os.WriteFile(list, []byte("# tarnwell\n./dispatch/desk.go:42:15: too many variables\nroster_test.go:30: got 2, want 3\nelsewhere.go:1:1: not here\n"), 0o600))
	term := startShell(t, 142, 42, "cd "+quote(dir)+"; cat "+quote(list)+" | "+quote(program)+" sweep --name 'what broke'")
	term.see("desk.go ▸ Desk ▸ Assign", "1 of 2, 2 to do: too many variables").press("N").see("roster_test.go", "2 of 2, 1 to do: got 2, want 3").press("N").see("nothing is left to do in what broke").press("C-q")
	term.see("[ended with 0]")
}

// A leaf on a leaf, and back to the code as it was.
func TestLeafOnALeaf(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("desk.go:42").see("desk.go 42").press("Enter").see("dispatch ▸ desk.go ▸ Desk ▸ Assign", "line 42")
	term.press("/").write("assigner.Assign").see("of 1").press("Enter").press("M-Right").see("Assign finds", "implemented by")
	before := term.still()
	term.press("I").see("implementation of Assign", "1 of 4", "[desk.go 42]").press("}").see("2 of 4").press("{", "Tab").see("in the leaf", "to the code")
	term.press("d").see("is defined here").press("M-Right", "M-Right", "Enter").see("leaf 2", "definition of Callout").press("Escape").see("implementation of Assign").seeNot("leaf 2")
	term.press("Escape").seeNot("implementation of Assign").until("the screen as it was", func(string) bool {
		return strings.Join(codeIn(before), "\n") == strings.Join(codeIn(term.rows()), "\n")
	})
	term.press("D").see("definition of Assign", "assigner.go").press("L", "L").see("[Assign assigner.go 5]").press("b").see("[desk.go 42]").press("C-q").ended(0)
}

// A tree of calls, three levels deep.
func TestCallTreeThreeLevelsDeep(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("Roster.free").see("▌  method").press("Enter").see("[free roster.go 39]").press("X").see("what calls free", "+ Roster.Assign")
	term.press("Right").see("– Roster.Assign", "+ Pinned.Assign").press("Down", "Down", "Right").see("– Pinned.Assign", "return p.Fallback.Assign(c)").press("Down", "Down").see("▌  method", "+ Desk.Assign").press("Right").see("– Desk.Assign", "team, err := d.assigner.Assign(c)").press("Down", "Enter").see("desk.go ▸ Desk ▸ Assign", "line 42")
	term.press("b").see("[free roster.go 39]").press("X").see("what calls free").press("Tab").see("what free calls").press("Escape").seeNot("what free calls").press("C-q").ended(0)
}
