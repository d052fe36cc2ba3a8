package demo

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func unpacked(t *testing.T) string {
	dir := filepath.Join(t.TempDir(), Name)
	require.NoError(t, Unpack(context.Background(), dir))
	return dir
}

func run(t *testing.T, dir, name string, args ...string) string {
	cmd := exec.Command(name, args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off", "PYTHONDONTWRITEBYTECODE=1", "GOCACHE="+goCache(t),
		"GIT_AUTHOR_NAME=Test", "GIT_AUTHOR_EMAIL=test@tarnwell.example", "GIT_COMMITTER_NAME=Test", "GIT_COMMITTER_EMAIL=test@tarnwell.example")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s %s: %s", name, strings.Join(args, " "), out)
	return string(out)
}

func goCache(t *testing.T) string {
	out, err := exec.Command("go", "env", "GOCACHE").Output()
	require.NoError(t, err)
	return strings.TrimSpace(string(out))
}

func TestItIsRealCode(t *testing.T) {
	dir := unpacked(t)
	run(t, dir, "go", "vet", "./...")
	run(t, dir, "go", "test", "./...")
	assert.Empty(t, run(t, dir, "gofmt", "-l", "."))
	if _, err := exec.LookPath("python3"); err == nil {
		run(t, dir, "python3", "-m", "unittest", "discover", "-s", "risk/tests", "-t", ".")
	}
	if _, err := exec.LookPath("cc"); err == nil {
		sources, err := filepath.Glob(filepath.Join(dir, "station", "*.c"))
		require.NoError(t, err)
		out := filepath.Join(t.TempDir(), "station_test")
		run(t, dir, "cc", append([]string{"-std=c11", "-Wall", "-Wextra", "-Werror", "-o", out}, sources...)...)
		assert.Contains(t, run(t, dir, out), "the station works")
	}
	if _, err := exec.LookPath("javac"); err == nil {
		sources, err := filepath.Glob(filepath.Join(dir, "gateway", "src", "*", "java", "tarn", "gateway", "*.java"))
		require.NoError(t, err)
		out := t.TempDir()
		run(t, dir, "javac", append([]string{"-Xlint:all", "-Werror", "-d", out}, sources...)...)
		run(t, dir, "java", "-ea", "-cp", out, "tarn.gateway.FrameParserTest")
	}
}

func TestItsHistory(t *testing.T) {
	dir := unpacked(t)
	assert.Equal(t, len(commits), strings.Count(run(t, dir, "git", "log", "--oneline"), "\n"))
	assert.Equal(t, "2026-01-12", strings.TrimSpace(run(t, dir, "git", "log", "--reverse", "--format=%as", "--max-parents=0")))
	status := run(t, dir, "git", "status", "--porcelain")
	assert.Contains(t, status, " M dispatch/callout.go")
	assert.Contains(t, status, "?? docs/on-call.md")
	assert.LessOrEqual(t, strings.Count(status, "\n"), 4)
	assert.Contains(t, run(t, dir, "git", "show", "HEAD~6:weather/history.go"), "fallen += list[i].Snow - list[i-1].Snow")
}

// The history of a good team compiles at every step.
func TestEveryCommitCompiles(t *testing.T) {
	if testing.Short() {
		t.Skip("builds the demo many times")
	}
	dir := unpacked(t)
	run(t, dir, "git", "stash", "--quiet", "--include-untracked")
	for _, id := range strings.Fields(run(t, dir, "git", "rev-list", "HEAD")) {
		run(t, dir, "git", "checkout", "--quiet", id)
		run(t, dir, "go", "vet", "./...") // which compiles the tests, too
	}
}

func TestUnpackTwiceInOnePlace(t *testing.T) {
	dir := unpacked(t)
	assert.Error(t, Unpack(context.Background(), filepath.Join(dir, "README.md")))
}
