package vcs_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/vcs"
)

func TestChanged(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-c", "user.name=a", "-c", "user.email=a@b.example", "-c", "commit.gpgsign=false"}, args...)...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
	}
	changed := func(below string) (list []string) {
		all, err := vcs.Changed(context.Background(), filepath.Join(dir, below))
		require.NoError(t, err)
		for _, c := range all {
			if c.New {
				c.Path += " (new)"
			}
			list = append(list, c.Path)
		}
		slices.Sort(list)
		return list
	}
	_, err := vcs.Changed(context.Background(), dir)
	require.ErrorContains(t, err, "asking git")
	git("init", "-q")
	write("in/a name.go", "package a\n")
	write("same.go", "package b\n")
	write(".gitignore", "*.log\n")
	git("add", ".")
	assert.Equal(t, []string{".gitignore (new)", "in/a name.go (new)", "same.go (new)"}, changed(""), "nothing is committed yet")
	git("commit", "-qm", "first")
	assert.Empty(t, changed(""))

	write("in/a name.go", "package c\n")
	write("same.go", "package b\n") // another time, the same text
	write("new.go", "package d\n")
	write("left.log", "ignored")
	assert.Equal(t, []string{"in/a name.go", "new.go (new)"}, changed(""))
	assert.Equal(t, []string{"a name.go"}, changed("in"), "relative to the folder")
	git("add", "new.go")
	assert.Equal(t, []string{"in/a name.go", "new.go (new)"}, changed(""), "staged is changed as well")

	// A filter that the repository configures is not run.
	mark := filepath.Join(t.TempDir(), "ran")
	write(".git/config", "[core]\n\trepositoryformatversion = 0\n[filter \"x\"]\n\tclean = touch "+mark+"; cat\n")
	write(".gitattributes", "*.go filter=x\n")
	write("same.go", "package other\n")
	assert.Contains(t, changed(""), "same.go")
	assert.NoFileExists(t, mark)
}
