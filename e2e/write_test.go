package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func read(t *testing.T, dir, file string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(dir, file))
	require.NoError(t, err)
	return string(data)
}

// What is typed, undone and saved is on disk to the byte.
func TestEditUndoSave(t *testing.T) {
	t.Parallel()
	dir := smallProject(t)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "alpha_station.txt"), []byte("the bell\r\nrings"), 0o640))
	require.NoError(t, os.Chmod(filepath.Join(dir, "alpha_station.txt"), 0o640))
	term := start(t, 100, 30, dir+"/alpha_station.txt")
	term.see("[alpha_station.txt 1]").press("w").see("WRITE").press("End", "Enter").write("is höher").press("C-w").write("loud").see("is loud", "1 not saved").press("C-s").see("is saved").seeNot("not saved")
	assert.Equal(t, "the bell\r\nis loud\r\nrings", read(t, dir, "alpha_station.txt"))
	info, err := os.Stat(filepath.Join(dir, "alpha_station.txt"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o640), info.Mode().Perm())
	term.press("C-z", "C-z", "C-z", "C-z", "C-z", "C-z").seeNot("loud").press("C-s").see("is saved")
	assert.Equal(t, "the bell\r\nrings", read(t, dir, "alpha_station.txt"))
	term.press("C-y", "C-y", "C-y", "C-y", "C-y", "C-y").see("is loud").press("C-q").see("Ctrl+Q again leaves").press("C-q").ended(0)
}

// Carets at the uses of a name, in a selection and at words that read the same, as one step.
func TestManyCaretsInATerminal(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]").press("Space").write("ro.as").see("nearest free team").press("Enter").see("[Assign roster.go 59]").press("Down", "Down", "Down").press("w").see("WRITE").press("Home", "C-e").see("uses").press("r").see("3 carets").write("idle").see("idle := r.nearest(c.Valley, r.free(c))", "if len(idle) == 0", "r.send(idle[0].Name, c)")
	term.press("C-z").see("free := r.nearest(c.Valley, r.free(c))").press("Escape").seeNot("carets").press("Home", "S-Down", "C-e").see("lines").press("n").see("2 carets").write(" // x").see(" // x").press("C-s").see("is saved")
	assert.Equal(t, 2, strings.Count(read(t, dir, "dispatch/roster.go"), " // x\n"))
	term.press("C-q").ended(0)
}

// The file changes on disk while one writes in it: both are shown, and neither is lost.
func TestAChangeOnDiskInATerminal(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, filepath.Join(dir, "dispatch/roster.go")+":62")
	term.see("[roster.go 62]").press("w").see("WRITE").press("End").write(" // mine").see("// mine", "1 not saved")
	edit(t, dir, "dispatch/roster.go", "// RestTime is", "// Teams rest.\n//\n// RestTime is")
	term.see("has changed on disk while you write in it").press("C-s").see("on disk", "yours", "2 places differ", "Teams rest.", "// mine").press("Enter").see("that stands here now").press("C-s").see("is saved")
	text := read(t, dir, "dispatch/roster.go")
	assert.Contains(t, text, "// Teams rest.\n")
	assert.Contains(t, text, "r.free(c)) // mine\n")
	term.press("C-q").ended(0)
}

// Two programs write one file: nothing of either is lost, and neither takes the other's text
// that is not saved for one that was left behind.
func TestTwoProgramsWriteOneFile(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	file := filepath.Join(dir, "dispatch/roster.go")
	one := start(t, 142, 42, file+":62")
	one.see("[roster.go 62]").press("w").see("WRITE").press("End").write(" // of one").see("// of one", "1 not saved")
	two := start(t, 142, 42, file+":66")
	two.see("line 66").seeNot("was not saved when").press("w").see("WRITE").press("End").write(" // of two").see("// of two", "1 not saved")
	one.press("C-s").see("is saved")
	two.see("has changed on disk while you write in it").press("C-s").see("on disk", "yours", "2 places differ", "// of one", "// of two").press("Enter").see("that stands here now").press("C-s").see("is saved")
	one.see("// of two", "has changed on disk; this is how it is now").press("C-z").see("WRITE").seeNot("// of two").press("C-y").see("// of two")
	text := read(t, dir, "dispatch/roster.go")
	assert.Contains(t, text, "// of one\n")
	assert.Contains(t, text, "// of two\n")
	one.press("C-q").ended(0)
	two.press("C-q").ended(0)
}

// The program is killed in the middle of typing: the text is offered the next time.
func TestKilledWhileWriting(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	for _, signal := range []syscall.Signal{syscall.SIGKILL, syscall.SIGTERM, syscall.SIGHUP} {
		term := start(t, 142, 42, filepath.Join(dir, "dispatch/roster.go")+":62")
		term.see("line 62").press("w").see("WRITE").press("End").write(" // kept?").see("// kept?", "1 not saved")
		term.until("the text kept beside", func(string) bool {
			files, err := filepath.Glob(filepath.Join(os.Getenv("XDG_DATA_HOME"), "rooktrail", "recovery", "*", "*.text"))
			require.NoError(t, err)
			for _, f := range files {
				if data, err := os.ReadFile(f); err == nil && strings.Contains(string(data), "// kept?") && strings.Contains(string(data), "Roster") {
					return true
				}
			}
			return false
		})
		out, err := exec.Command("pkill", "-"+signalName(signal), "-f", "--", program+" "+dir).CombinedOutput()
		require.NoError(t, err, "%s", out)
		term.see("[ended with")
		assert.NotContains(t, read(t, dir, "dispatch/roster.go"), "kept?")
		term = start(t, 142, 42, dir)
		term.see("text was not saved when the program ended", "dispatch/roster.go").press("Enter").see("was not saved when the program ended", "1 place differs", "// kept?").press("Enter").see("1 not saved", "// kept?").press("w").press("C-s").see("is saved")
		assert.Contains(t, read(t, dir, "dispatch/roster.go"), "// kept?")
		git(t, dir, "checkout", "-q", "--", "dispatch/roster.go")
		term.press("C-q").ended(0)
	}
}

func signalName(s syscall.Signal) string {
	return map[syscall.Signal]string{syscall.SIGKILL: "KILL", syscall.SIGTERM: "TERM", syscall.SIGHUP: "HUP"}[s]
}

// The places where one changed something, in three files, are gone through backwards and
// forwards, after a restart as well.
func TestEditPlacesAcrossFiles(t *testing.T) {
	t.Parallel()
	dir := unpacked(t)
	term := start(t, 142, 42, dir)
	term.see("[README.md 1]")
	for _, file := range []string{"desk.go", "team.go", "callout.go"} {
		term.press("Space").write("dispatch/"+file).see("▌  file", file).press("Enter").see("["+file).press("w").see("WRITE").press("End").write(" // "+file).see("// "+file, "✎").press("C-s").see(file + " is saved").press("Escape").see("roam")
	}
	term.press("Space").write("README.md").see("▌  file").press("Enter").see("README.md").press("e").see("// callout.go", "edit place 3 of 3").press("e").see("// team.go", "2 of 3").press("e").see("// desk.go", "1 of 3").press("E").see("// team.go", "2 of 3")
	edit(t, dir, "dispatch/desk.go", "// desk.go", "// desk.go\n// and more")
	term.press("C-q").ended(0)
	term = start(t, 142, 42, dir)
	term.see("// team.go").press("Space").write("README.md").see("▌  file").press("Enter").see("README.md").press("e").see("// callout.go", "3 of 3").press("e", "e").see("// desk.go", "1 of 3").press("C-q").ended(0)
}
