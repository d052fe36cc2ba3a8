package e2e

import (
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// broken is a module whose test fails, with a makefile that says how things are run.
func broken(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range map[string]string{
		"go.mod":          "module tarnwell.example/rescue\n\ngo 1.24\n",
		"hut/hut.go":      "package hut\n\n// Ring gives how often it rings.\nfunc Ring(n int) int {\n\treturn steps(n) + 1\n}\n\nfunc steps(n int) int {\n\treturn n * 3\n}\n",
		"hut/hut_test.go": "package hut\n\nimport \"testing\"\n\nfunc TestRing(t *testing.T) {\n\tif got := Ring(2); got != 5 {\n\t\tt.Errorf(\"rang %d times, want 5\", got)\n\t}\n}\n\nfunc TestSilence(t *testing.T) {}\n",
		"Makefile":        "# what is loud\ncheck:\n\t@echo 'hut/hut.go:9:2: too loud'; exit 1\n",
	} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	return dir
}

// Run, fail, walk to the failure, mend, run again, all without leaving.
func TestFromATestThatFailsToOneThatPasses(t *testing.T) {
	t.Parallel()
	dir := broken(t)
	term := start(t, 120, 34, filepath.Join(dir, "hut", "hut_test.go")+":6")
	term.see("hut_test.go ▸ TestRing").press("Y", "t").see("TestRing: 1 failed; 1 place to do: n goes to the first", "5 ✗", "1 failed")
	term.press("n").see("line 7 column 1", "rang 7 times, want 5", "1 problem")
	term.press("Y", "y").see("TestRing", "failed,", "rang 7 times, want 5").press("q").see("line 7")
	term.press("Space").write("hut.go:9").press("Enter").see("hut.go ▸ steps", "9")
	term.press("w").see("WRITE").press("End", "BSpace").write("2").press("C-s").see("return n * 2", "hut.go is saved").press("Escape").see("roam")
	term.press("Y", "r").see("what reaches steps: 1 passed").press("Y", "f").see("hut_test.go: 2 passed")
	term.press("Y", "a").see("no test has failed").press("Y", "s").see("make check", "what is loud", "go vet ./...").press("Escape").seeNot("letters narrow").seeNot("1 to do")
	term.press("<").see("5 ✓", "11 ✓").press("o").see("TestRing", "✓ passed").press("Escape").seeNot("letters of a name")
	term.press("C-q").ended(0)
}

// A command of the project's own is chosen, its places are walked; another one asks, and is answered.
func TestACommandIsRunAndAnswered(t *testing.T) {
	t.Parallel()
	dir := broken(t)
	term := start(t, 80, 24, filepath.Join(dir, "hut", "hut.go"))
	term.see("hut.go").press("Y", "s").see("make check").write("check").press("Enter").see("make check: failed with 2", "› hut/hut.go:9:2: too loud", "1 place to do")
	term.press("n").see("9:2").press("N").see("nothing is left to do in make check")
	term.press("Y", "Space").write(`printf 'which hut? '; read hut; echo "the $hut hut, $(tput cols) wide"`).press("Enter").see("which hut?", "running")
	term.press("F6").write("upper").press("Enter").see("the upper hut, 78 wide", "done")
	term.press("Y", "h").see("the upper hut, 78 wide", "outside the project").press("q")
	term.press("Y", "Space").write("no-such-command").press("Enter").see("no such command")
	term.press("Y", "Space").write(`printf '\033]0;stolen\007\033]52;c;aGk=\007'; stty raw -echo; echo "r""aw of all"`).press("Enter").see("raw of all").seeNot("running")
	term.press("Y", "q").see("hut.go").press("C-q").ended(0)
}

// running says whether a process is there, and no more than a body without a soul.
func running(pid int) bool {
	stat, err := os.ReadFile("/proc/" + strconv.Itoa(pid) + "/stat")
	if err != nil {
		return false
	}
	rest := string(stat[strings.LastIndexByte(string(stat), ')')+1:])
	return !strings.HasPrefix(strings.TrimSpace(rest), "Z")
}

// programOn is the process of the program that has a file of a folder open.
func programOn(t *testing.T, dir string) (pid int) {
	t.Helper()
	all, err := filepath.Glob("/proc/[0-9]*/cmdline")
	require.NoError(t, err)
	for _, file := range all {
		words, err := os.ReadFile(file)
		if err == nil && strings.HasPrefix(string(words), program+"\x00"+dir) {
			pid, err = strconv.Atoi(filepath.Base(filepath.Dir(file)))
			require.NoError(t, err)
		}
	}
	require.NotZero(t, pid, "the program is not there")
	return pid
}

// started waits for a command to write its number, and those of what it has begun, into a file.
func started(t *testing.T, file string, n int) (pids []int) {
	t.Helper()
	require.Eventually(t, func() bool {
		data, _ := os.ReadFile(file)
		return len(strings.Fields(string(data))) == n
	}, patience, 20*time.Millisecond)
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	for _, f := range strings.Fields(string(data)) {
		pid, err := strconv.Atoi(f)
		require.NoError(t, err)
		pids = append(pids, pid)
	}
	return pids
}

// A shell is opened and put away with one key. Leaving asks, and leaves no process behind, nor does a kill.
func TestNoProcessIsLeft(t *testing.T) {
	t.Parallel()
	if _, err := os.Stat("/proc/self/stat"); err != nil {
		t.Skip("what runs is not told here by files")
	}
	dir := broken(t)
	file := filepath.Join(dir, "pids")
	stubborn := `trap '' TERM HUP; echo $$ > pids; (trap '' TERM HUP; sleep 500 & echo $! >> pids; wait) & setsid sleep 501 & echo $! >> pids; wait`
	term := start(t, 100, 30, filepath.Join(dir, "hut", "hut.go"))
	term.see("hut.go").press("F4").see("shell  running").write("echo in $(basename $PWD)").press("Enter").see("in " + filepath.Base(dir))
	term.press("F4").seeNot("shell  running").press("F4").see("shell  running", "in "+filepath.Base(dir)).write("exit").press("Enter").seeNot("shell  running")
	term.press("Y", "Space").write(stubborn).press("Enter").see("running")
	pids := started(t, file, 3)
	term.press("C-q").see("1 command is still running", "stay").press("Enter").see("running").press("C-q").see("leave").press("Down", "Enter").ended(0)
	for _, pid := range pids {
		assert.False(t, running(pid), "it left %d behind", pid)
	}

	require.NoError(t, os.Remove(file))
	term = start(t, 100, 30, filepath.Join(dir, "hut", "hut.go"))
	term.see("hut.go").press("Y", "Space").write(stubborn).press("Enter").see("running")
	pids = started(t, file, 3)
	require.NoError(t, syscall.Kill(programOn(t, dir), syscall.SIGKILL))
	for _, pid := range pids {
		assert.Eventually(t, func() bool { return !running(pid) }, patience, 20*time.Millisecond, "killed, it left %d behind", pid)
	}
}
