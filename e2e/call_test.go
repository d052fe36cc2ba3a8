package e2e

import (
	"encoding/json"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// called runs a command beside the program, in a folder.
func called(dir string, args ...string) (status int, out string) {
	cmd := exec.Command(program, args...)
	cmd.Dir = dir
	said, _ := cmd.CombinedOutput() // the status says it
	return cmd.ProcessState.ExitCode(), string(said)
}

// Another program leads to a place, asks where one is, and costs nobody a keystroke of their work.
func TestOtherProgramsCallThisOne(t *testing.T) {
	t.Parallel()
	dir := broken(t)
	status, out := called(dir, "here")
	assert.Equal(t, 1, status, out)
	assert.Contains(t, out, "no full-screen program is open")
	term := start(t, 100, 30, filepath.Join(dir, "hut", "hut.go"))
	term.see("hut.go")
	status, out = called(filepath.Join(dir, "hut"), "go", "hut.go:9:9")
	require.Equal(t, 0, status, out)
	term.see("hut.go ▸ steps", "line 9 column 9", "trail  hut.go 1 ── [hut.go 9]")
	status, out = called(dir, "here")
	assert.Equal(t, 0, status)
	assert.Equal(t, "hut/hut.go:9:9\n", out)

	term.press("w").see("WRITE").press("End").write(" // loud").see("n * 3 // loud")
	status, out = called(dir, "go", "hut/hut_test.go:6")
	require.Equal(t, 0, status, out)
	assert.Contains(t, out, "somebody types")
	term.see("hut_test.go is called for", "WRITE").write("er").see("n * 3 // louder").press("Escape").see("hut_test.go ▸ TestRing", "line 6 column 2", "roam")
	term.press("b").see("n * 3 // louder")
	_, out = called(dir, "here", "--json")
	var at struct {
		Path, Root, Symbol string
		Line, Stop         int
		Unsaved            bool
	}
	require.NoError(t, json.Unmarshal([]byte(out), &at), out)
	root, err := filepath.EvalSymlinks(dir)
	require.NoError(t, err)
	assert.Equal(t, []any{"hut/hut.go", root, "steps", 9, true}, []any{at.Path, at.Root, at.Symbol, at.Line, at.Unsaved})
	assert.Positive(t, at.Stop)

	status, out = called(dir, "go", "hut/nowhere.go:3")
	assert.Equal(t, 2, status)
	assert.Contains(t, out, "no such file")
	require.NoError(t, syscall.Kill(programOn(t, dir), syscall.SIGKILL))
	term.see("[ended with 137]")
	status, out = called(dir, "go", "hut/hut.go:1")
	assert.Equal(t, 1, status)
	assert.Equal(t, 1, strings.Count(out, "\n"), out)
}
