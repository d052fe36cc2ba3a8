package vcs_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/vcs"
)

func TestRenamed(t *testing.T) {
	dir := t.TempDir()
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-c", "user.name=a", "-c", "user.email=a@b.example", "-c", "commit.gpgsign=false"}, args...)...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
	}
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	where := func(file string) string { return vcs.Renamed(context.Background(), dir, file)[file] }
	assert.Empty(t, where("a.go"), "there is no repository")
	git("init", "-q")
	write("a[1].go", "one\ntwo\nthree\nfour\n")
	write("gone.go", "nothing\nlike\nit\n")
	git("add", ".")
	git("commit", "-qm", "first")

	require.NoError(t, os.Rename(filepath.Join(dir, "a[1].go"), filepath.Join(dir, "b.go")))
	write("b.go", "zero\none\ntwo\nthree\nfour\n")
	write("other.go", "quite\nanother\n")
	assert.Equal(t, "b.go", where("a[1].go"), "not committed yet, and changed")
	git("add", "-A")
	assert.Equal(t, "b.go", where("a[1].go"), "staged")
	git("commit", "-qm", "renamed")
	assert.Equal(t, "b.go", where("a[1].go"))
	git("mv", "b.go", "c.go")
	git("commit", "-qm", "again")
	assert.Equal(t, "c.go", where("a[1].go"), "from one to the next")
	write("deep/c.go", "zero\none\ntwo\nthree\nfour\n")
	require.NoError(t, os.Remove(filepath.Join(dir, "c.go")))
	assert.Equal(t, "deep/c.go", where("a[1].go"), "and on to one that is not committed")
	git("rm", "-q", "gone.go")
	git("commit", "-qm", "removed")
	assert.Empty(t, where("gone.go"))
	assert.Empty(t, where("never.go"))
}
