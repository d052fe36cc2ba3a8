package vcs

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHunks(t *testing.T) {
	for _, c := range []struct {
		name, was, now string
		want           []Hunk
	}{
		{"nothing", "a\nb\n", "a\nb\n", nil},
		{"a line changed", "a\nb\nc\n", "a\nB\nc\n", []Hunk{{Line: 2, Added: 1, Removed: 1}}},
		{"lines added and removed", "a\nb\nc\nd\n", "new\na\nb\nd\n", []Hunk{{Line: 1, Added: 1}, {Line: 4, Removed: 1}}},
		{"without a last line end", "a\nb", "a\nb\nc", []Hunk{{Line: 2, Added: 2, Removed: 1}}},
		{"all removed", "a\n", "", []Hunk{{Line: 1, Removed: 1}}},
	} {
		assert.Equal(t, c.want, hunks(c.was, c.now), c.name)
	}
}

func TestHunksOfAFile(t *testing.T) {
	dir := t.TempDir()
	git := func(args ...string) {
		out, err := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=n", "-c", "user.email=e@example.org"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	git("init", "-q")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "in"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in", "a.txt"), []byte("one\ntwo\n"), 0o644))
	git("add", ".")
	git("commit", "-qm", "first")
	got, err := Hunks(context.Background(), filepath.Join(dir, "in"), "a.txt", []byte("one\r\n2\r\n"))
	require.NoError(t, err)
	assert.Equal(t, []Hunk{{Line: 2, Added: 1, Removed: 1}}, got)
	got, err = Hunks(context.Background(), dir, "new.txt", []byte("x\ny\n"))
	require.NoError(t, err)
	assert.Equal(t, []Hunk{{Line: 1, Added: 2}}, got)
}
