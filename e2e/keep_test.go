package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// git runs git in a folder.
func git(t *testing.T, dir string, args ...string) {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=a", "-c", "user.email=a@b.example", "-c", "commit.gpgsign=false"}, args...)...)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s", out)
}

// edit changes a text in a file of a project, as another program would.
func edit(t *testing.T, dir, file, from, to string) {
	t.Helper()
	full := filepath.Join(dir, file)
	data, err := os.ReadFile(full)
	require.NoError(t, err)
	require.Contains(t, string(data), from)
	require.NoError(t, os.WriteFile(full, []byte(strings.Replace(string(data), from, to, 1)), 0o644))
}

// A bookmark with a letter stays with its line: through an edit above it, a branch on which
// the file has another name, and back.
func TestABookmarkAcrossBranches(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	git(t, dir, "stash", "-q")
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("Down", "Down", "Down").see("line 62").press("M").see("a letter or a digit").press("d").see("d is roster.go 62, Roster.Assign now", "d   ")
	edit(t, dir, "dispatch/roster.go", "// RestTime is", "// Teams rest.\n//\n// RestTime is")
	term.see("has changed on disk", "line 64", "d  64").press("b").see("README.md", "line 1").press(`\;`).see("d  line", "roster.go 64").press("d").see("line 64", "free := r.nearest")
	git(t, dir, "checkout", "-q", "--", ".")
	git(t, dir, "checkout", "-q", "-b", "renamed")
	git(t, dir, "mv", "dispatch/roster.go", "dispatch/duty.go")
	edit(t, dir, "dispatch/duty.go", "package dispatch\n", "// Package dispatch gives out call-outs.\npackage dispatch\n")
	git(t, dir, "commit", "-q", "-a", "-m", "Call it duty")
	term.press("b").see("README.md").press(`\;`).see("duty.go 63").press("d").see("dispatch ▸ duty.go", "line 63", "free := r.nearest")
	git(t, dir, "checkout", "-q", "-")
	term.press("b").see("README.md").press(`\;`).see("roster.go 62").press("d").see("dispatch ▸ roster.go", "line 62", "free := r.nearest").press("C-q").ended(0)

	term = start(t, 142, 42, dir)
	term.see("1 bookmark", "roster.go").press("Space").write("README").see("tarnwell").press("Enter").see("README.md").press(`\;`, "d").see("line 62", "free := r.nearest").press("C-q").ended(0)
}

// A list is shared through the repository, and read where that is cloned.
func TestASharedList(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("m").see("a bookmark on roster.go 59").press("B", "n").see("note on this bookmark").write("begin reading here").press("Enter").see("the note is written down")
	term.press("B", "s").see("lists of bookmarks").press("M-r").see("name of this list").press("C-u").write("first day").press("Enter").see("first day").press("M-y").see("written to .rooktrail/bookmarks/first-day.toml", "shared").press("Escape").seeNot("lists of bookmarks").press("C-q").ended(0)
	git(t, dir, "add", ".rooktrail")
	git(t, dir, "commit", "-q", "-m", "Share where to begin")
	clone := filepath.Join(filepath.Dir(dir), "clone")
	git(t, dir, "clone", "-q", dir, clone)
	edit(t, clone, "dispatch/roster.go", "package dispatch\n", "// Package dispatch gives out call-outs.\npackage dispatch\n")
	term = start(t, 142, 42, clone)
	term.see("[README.md 1]").press(`\;`).see("first day, shared in .rooktrail/bookmarks/first-day.toml", "begin reading here", "Roster.Assign").press("M-d").see("a shared list is only read").press("Enter").see("Roster ▸ Assign", "begin reading here").press("C-q").ended(0)
}

// What one trail tells is walked by somebody else, in code that has changed meanwhile.
func TestAGuidedWalkFromAFile(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("Down", "Down", "Down").see("line 62").press("d").see("[nearest 50]")
	term.press("A", "n").see("note on this stop").write("sorts by distance").press("Enter").see("is written down").press("A", "A").see("sorts by distance").press("M-h").see("write it to the file").press("C-u").write("hunt.json").press("Enter").see("3 stops are written to hunt.json").press("Escape").seeNot("letters of a file").press("C-q").ended(0)
	walk := filepath.Join(t.TempDir(), "hunt.json")
	require.NoError(t, os.Rename(filepath.Join(dir, "hunt.json"), walk))

	other := unpacked(t)
	edit(t, other, "dispatch/roster.go", "package dispatch\n", "// Package dispatch gives out call-outs.\npackage dispatch\n")
	term = start(t, 142, 42, "walk", "--root", other, walk)
	term.see("walk: trail of", "1 of 3", "README.md").press("n").see("2 of 3", "Roster.Assign", "line 63", "symbol: ro.as").press("n").see("3 of 3", "Roster.nearest", "sorts by distance", "line 51").press("p").see("2 of 3", "line 63").press("Escape").see("is over").press("b").see("[nearest").press("C-q").ended(0)

	out, err := exec.Command(program, "trail", "--root", other, "--as", "markdown").Output()
	require.NoError(t, err)
	assert.Contains(t, string(out), "](dispatch/roster.go#L51)")
	out, err = exec.Command(program, "trail", "--root", other, "--import", walk, "--name", "the hunt").CombinedOutput()
	require.NoError(t, err, "%s", out)
	out, err = exec.Command(program, "trail", "--root", other, "--list").Output()
	require.NoError(t, err)
	assert.Contains(t, string(out), "3 stops\tthe hunt")
}

// A project that is moved takes its trail and bookmarks along.
func TestAProjectThatIsMoved(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("m").see("a bookmark on roster.go 59").press("C-q").ended(0)
	moved := dir + "-moved"
	require.NoError(t, os.Rename(dir, moved))
	term = start(t, 142, 42, moved)
	term.see("1 bookmark", "README.md 1 ── [Assign roster.go 59]", "this project was in").press("C-q").ended(0)
}
