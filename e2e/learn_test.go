package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// learner is a terminal with an own record of what was learned.
func learner(t *testing.T, columns, rows int, arguments string) (*terminal, string) {
	t.Helper()
	data := t.TempDir()
	habits := filepath.Join(data, "rooktrail", "habits.json")
	require.NoError(t, os.MkdirAll(filepath.Dir(habits), 0o700))
	require.NoError(t, os.WriteFile(habits, []byte(`{"outline": {"keyed": 1}}`), 0o600))
	return startShell(t, columns, rows, fmt.Sprintf("XDG_DATA_HOME=%s %s %s", quote(data), quote(program), arguments)), data
}

// All lessons can be done, one after the other, by who does what they say, at 80 columns.
func TestTheLessons(t *testing.T) {
	t.Parallel()
	term, _ := learner(t, 80, 24, "learn")
	term.see("task 1 of 5: find what one half remembers", "Space opens the scout; type rost")
	term.press("Space").write("rost").see("files", "symbols").press("Enter").see("done ── task 2 of 5")
	term.press("Space").write("callout").see("struct").press("Enter").see("task 3 of 5")
	term.press("Space").write("same valley").see("call-…").press("Enter").see("task 4 of 5")
	term.press("Space").write("roster.go").see("dispatch/").press("Enter").see("▸ roster.go").press("o").see("by name").write("rel").see("Release").press("Enter").see("task 5 of 5")
	term.press("/").write("Lock").see("places").press("Enter").press("n").see("lessons: a few minutes each", "done")

	term.press("Enter").see("task 1 of 5: see where one is", "line 62")
	term.press(".").see("beside").write("rel").see("Release").press("Enter").see("task 2 of 5")
	term.press("[", "[", "[", "[").see("task 3 of 5").press("S", "b").see("task 4 of 5").press("S", "o").see("task 5 of 5")
	term.press("g").see("folders").write("frame.go").see("radio").press("Enter").see("see where one is              done")

	term.press("Enter").see("task 1 of 5: follow a name", "line 62 column 12").press("d").see("task 2 of 5", "line 50").press("b").see("task 3 of 5")
	term.press("D").see("task 4 of 5").press("Escape").seeNot("turn back").press("[").see("line 59").press("u").see("task 5 of 5", "assigner.go")
	term.press("r").see("references").press("Enter").see("follow a name                 done")

	term.press("Enter").see("task 1 of 5: keep one's place", "[callout.go 47]").press("m").see("task 2 of 5").press("B", "n").see("note").write("how long is too long").press("Enter").see("task 3 of 5")
	term.press("Space").write("probe.h").see("station/").press("Enter").see("task 4 of 5").press("B", "B").see("how long is too long").press("Down", "Enter").see("task 5 of 5").press("A", "A")
	term.see("lessons: a few minutes each", "keep one's place              done")

	term.press("Enter").see("task 1 of 3: work through places", "[team.go 9]").press("r").see("Skill").press("M-k").see("task 2 of 3")
	term.press("n").see("1 of 23").press("N").see("2 of 23").press("N").see("task 3 of 3").press("W", "W").see("lessons: a few minutes each")

	term.press("Enter").see("task 1 of 6: change a line", "[roster.go 86]").press("w").see("task 2 of 6", "WRITE").press("End")
	for range len("Out == c.Valley {") {
		term.press("BSpace")
	}
	term.write("Name == c.Team {").see("task 3 of 6").press("Escape").seeNot("WRITE").press("C-s").see("task 4 of 6")
	term.press("Space").write("probe.h").see("station/").press("Enter").see("task 5 of 6").press("e").see("task 6 of 6").press("W", "e")
	term.see("lessons: a few minutes each", "change a line                 done")

	term.press("Enter").see("task 1 of 4: arrange the screen").press("_").see("task 2 of 4").press("\\").press("!").see("task 3 of 4")
	term.press("Space").write("theme").see("light or dark").press("Enter").see("task 4 of 4")
	term.press("?").see("that was the last lesson")
	term.press("Escape").seeNot("keys for").press("C-q").ended(0)
}

// A lesson goes on where one stopped, a task can be skipped, and a lesson ended.
func TestALessonIsStoppedAndTakenUp(t *testing.T) {
	t.Parallel()
	term, data := learner(t, 142, 42, "learn follow")
	term.see("task 1 of 5: follow a name", "62").press("F1").see("skip it", "go on with it").press("Down", "Enter").see("task 2 of 5").press("C-q").ended(0)

	term = startShell(t, 142, 42, fmt.Sprintf("XDG_DATA_HOME=%s %s learn follow", quote(data), quote(program)))
	term.see("task 2 of 5: follow a name", "line 50").press("F1").see("end it").press("Down", "Down", "Down", "Enter").seeNot("task 2 of 5").see("F1 goes on with the lessons")
	term.press("C-q").ended(0)
}

// Who walks by arrows to the next function is told its key, once.
func TestATip(t *testing.T) {
	t.Parallel()
	term, _ := learner(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("pinned.go").see("dispatch/").press("Enter").see("▸ pinned.go")
	term.press("#").see("line").write("12").press("Enter").see("line 12 ")
	for range 10 {
		term.press("Down")
	}
	term.see("line 22 ", "tip: ] goes to the next function or type (Delete ends tips)")
	term.press("Up").seeNot("tip:")
	term.press("Down").press("#").see("line").write("37").press("Enter").see("line 37 ")
	for range 8 {
		term.press("Right")
	}
	term.see("tip: Ctrl+→ goes on by words").press("DC").see("no more tips; the setting “tips” brings them back")
	term.press("C-q").ended(0)
}
