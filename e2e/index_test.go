package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Two programs read one project for the first time and one of them is killed:
// the other goes on, and the next is right.
func TestAKilledProgramLeavesTheIndexRight(t *testing.T) {
	root, cache := t.TempDir(), t.TempDir()
	for i := range 4000 {
		code := fmt.Sprintf("package p\n\n// F%d does.\nfunc F%d() int { return F%d() }\n", i, i, (i+1)%4000)
		require.NoError(t, os.WriteFile(filepath.Join(root, fmt.Sprintf("f%d.go", i)), []byte(code), 0o600))
	}
	command := func() *exec.Cmd {
		cmd := exec.Command(program, "definition", "--root", root, "f3999.go:4:27")
		cmd.Env = append(os.Environ(), "XDG_CACHE_HOME="+cache)
		return cmd
	}
	const want = "f0.go:4:6: func F0() int { return F1() }\n"
	for delay := 20 * time.Millisecond; delay < time.Second; delay *= 2 {
		killed, other := command(), command()
		require.NoError(t, killed.Start())
		time.AfterFunc(delay, func() { _ = killed.Process.Kill() })
		out, err := other.Output()
		require.NoError(t, err)
		assert.Equal(t, want, string(out))
		_ = killed.Wait()
	}
	out, err := command().Output()
	require.NoError(t, err)
	assert.Equal(t, want, string(out))
}
