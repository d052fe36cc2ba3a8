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

// A method is renamed with its family, made in all files, and taken back after a restart.
func TestRenamingInATerminal(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	before := read(t, dir, "dispatch/pinned.go")
	term := start(t, 142, 42, filepath.Join(dir, "dispatch/roster.go")+":59:18")
	term.see("[roster.go 59]").press("C").see("r name", "u take back").press("r").see("another name for the method Assign:").press("C-u").write("Give").press("Enter")
	term.see("it and 4 others of its family").press("Enter").see("rename Assign to Give", "call        team, err := d.assigner.Assign → Give(c)", "5 left out", "code outside this project")
	term.press("C-s").see("C u takes all of it back").see("func (r *Roster) Give(c Callout)")
	assert.Contains(t, read(t, dir, "dispatch/pinned.go"), "func (p *Pinned) Give(c Callout) (Team, error) {")
	assert.Contains(t, read(t, dir, "dispatch/pinned.go"), "// Assign implements Assigner.")
	term.press("C-q").ended(0)
	term = start(t, 80, 24, filepath.Join(dir, "dispatch/roster.go"))
	term.see("line 59 column").press("C", "u").see("taken back in")
	assert.Equal(t, before, read(t, dir, "dispatch/pinned.go"))
	term.press("C-q").ended(0)
}

// A text that is written and not saved takes part, and is saved with the change.
func TestReplacingWhileWriting(t *testing.T) {
	t.Parallel()
	dir := smallProject(t)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "alpha_station.txt"), []byte("the bell\nrings\n"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "beta_station.txt"), []byte("a Bell\n"), 0o644))
	term := start(t, 100, 30, dir+"/alpha_station.txt")
	term.see("[alpha_station.txt 1]").press("w").see("WRITE").press("End").write(" and bell").see("1 not saved").press("Escape").seeNot("WRITE").press("C", "Space").see("replace")
	term.press("C-u").write("bell").press("Enter").write("horn").see("the bell → horn and bell", "3 of 3", "a Bell → Horn").press("C-s").see("C u takes all of it back").seeNot("not saved")
	assert.Equal(t, "the horn and horn\nrings\n", read(t, dir, "alpha_station.txt"))
	assert.Equal(t, "a Horn\n", read(t, dir, "beta_station.txt"))
	term.press("w").see("WRITE").press("C-z").see("taken back", "the bell and bell").press("Escape").seeNot("WRITE")
	assert.Equal(t, "the bell and bell\nrings\n", read(t, dir, "alpha_station.txt"))
	term.press("C-q").ended(0)
}

// A part of a function becomes one of its own, and what is not imported any more, or not yet, is put in order.
func TestBuildingOtherwiseInATerminal(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	before := read(t, dir, "dispatch/roster.go")
	term := start(t, 80, 24, filepath.Join(dir, "dispatch/roster.go")+":63:5")
	term.see("[roster.go 63]").press("+", "+", "C").see("m function").press("m").see("a name for the function:").write("count").press("Enter")
	term.see("function count", "new function", "if len(free) → count(").press("C-s").see("takes all of it back")
	assert.Contains(t, read(t, dir, "dispatch/roster.go"), "func count(free []Team) int {\n\treturn len(free)\n}")
	term.press("C", "u").see("taken back in 1 file")
	assert.Equal(t, before, read(t, dir, "dispatch/roster.go"))
	term.press("Right", "Right", "Right").see("column 5").press("C", "v").see("a variable for which expression?").press("Escape").seeNot("which expression?")

	edit(t, dir, "dispatch/roster.go", "\t\"cmp\"\n", "\t\"os\"\n")
	term.press("C", "o").see("what is to be put in order?").press("Enter").see("takes all of it back")
	assert.Equal(t, before, read(t, dir, "dispatch/roster.go"))
	term.press("C-q").ended(0)
}

// A folder is renamed with all that imports it, in another project than that of the tours.
func TestMovingAFolderInATerminal(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	for name, body := range map[string]string{"go.mod": "module tarnwell.example/huts\n\ngo 1.24\n", "snow/snow.go": "package snow\n\n// Depth is in cm.\nconst Depth = 1\n", "main.go": "package main\n\nimport \"tarnwell.example/huts/snow\"\n\nfunc main() { println(snow.Depth) }\n"} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(body), 0o644))
	}
	term := start(t, 100, 30, filepath.Join(dir, "snow/snow.go"))
	term.see("[snow.go 1]").press("g").see("snow.go").press("Left").press("M-r").see("rename").press("C-u").write("ice").press("Enter")
	term.see("move snow to ice", "println(snow → ice.Depth", "files that move").press("C-s").see("takes all of it back")
	assert.Contains(t, read(t, dir, "main.go"), "import \"tarnwell.example/huts/ice\"")
	assert.Contains(t, read(t, dir, "ice/snow.go"), "package ice\n")
	term.press("C", "u").see("taken back in 2 files")
	assert.Contains(t, read(t, dir, "snow/snow.go"), "package snow\n")
	term.press("C-q").ended(0)
}

// What differs from the last commit is marked as one types, walked, shown beside and put back.
func TestHunksInATerminal(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-c", "user.name=n", "-c", "user.email=n@example.org"}, args...)...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
	}
	git("add", "-A")
	git("commit", "-qm", "all")
	before := read(t, dir, "dispatch/roster.go")
	edit(t, dir, "store/file.go", "package store", "package store // kept")
	term := start(t, 142, 42, filepath.Join(dir, "dispatch/roster.go")+":62")
	term.see("[roster.go 62]").press("w").see("WRITE").press("End").write(" // nearest").see("62~").press("Enter").write("// new").see("63+").press("C-s").see("is saved").press("Escape").seeNot("WRITE")
	term.press("C-Home").press("C", "Down").see("hunk 1 of 1 here, 1 line changed to 2 lines").press("C", "=").see("as it was in the last commit").press("Escape").seeNot("as it was in")
	term.press("n").see("file 2 of 2 that differ from the last commit").press("p").see("line 62 column").press("C", "BSpace").see("C u takes all of it back").seeNot("63+")
	assert.Equal(t, before, read(t, dir, "dispatch/roster.go"))
	term.press("C-q").ended(0)
}

// From the shell nothing is changed without being told to, and what is printed is what git takes.
func TestChangesFromTheShell(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	before := read(t, dir, "dispatch/roster.go")
	run := func(in string, args ...string) string {
		cmd := exec.Command(program, args...)
		cmd.Dir, cmd.Stdin = dir, strings.NewReader(in)
		out, err := cmd.Output()
		require.NoError(t, err, strings.Join(args, " "))
		return string(out)
	}
	diff := run("", "rename", "dispatch/roster.go:72:18", "dispatched")
	assert.Equal(t, before, read(t, dir, "dispatch/roster.go"))
	apply := exec.Command("git", "apply", "-")
	apply.Dir, apply.Stdin = dir, strings.NewReader(diff)
	out, err := apply.CombinedOutput()
	require.NoError(t, err, string(out))
	assert.Contains(t, read(t, dir, "dispatch/roster.go"), "return r.dispatched(free[0].Name, c)")
	assert.Contains(t, run("", "changes"), "dispatch/roster.go:66:2: return r.dispatched(free[0].Name, c)\n")
	assert.Empty(t, run("", "replace", "--case", "dispatched(", "send(", "--write"))
	assert.Equal(t, before, read(t, dir, "dispatch/roster.go"))
}
