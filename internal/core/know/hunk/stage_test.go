package hunk_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/workspace/workspacetest"
)

// A hunk is staged without the others of its file, and taken out again; no hook and no filter of the repository is run.
func TestStaging(t *testing.T) {
	ctx := t.Context()
	ws := workspacetest.Open(t, map[string]string{"in/a.txt": "1\n2\n3\n4\n5\n6\n"})
	dir := ws.Code.Root()
	git := func(args ...string) string {
		out, err := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=n", "-c", "user.email=e@example.org"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
		return string(out)
	}
	write := func(name, body string) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(body), 0o644))
		ws.Code.Refresh(ctx)
	}
	git("init", "-q")
	git("add", ".")
	git("commit", "-qm", "first")
	ran := filepath.Join(dir, "ran")
	for _, hook := range []string{"post-index-change", "pre-commit"} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, ".git/hooks", hook), []byte("#!/bin/sh\ntouch '"+ran+"'\n"), 0o755))
	}
	git("config", "filter.x.clean", "touch '"+ran+"'; cat")
	write(".git/info/attributes", "*.txt filter=x\n")
	write("in/a.txt", "one\n2\n3\n4\n5\nsix\n")
	stage := func(line int) (hunk.Hunk, bool, error) {
		f, err := ws.Code.Load(ctx, "in/a.txt")
		require.NoError(t, err)
		return ws.Changes.Hunks.Stage(ctx, f, line)
	}
	_, in, err := stage(6)
	require.NoError(t, err)
	assert.True(t, in)
	assert.Equal(t, "1\n2\n3\n4\n5\nsix\n", git("show", ":in/a.txt"))
	_, in, err = stage(1)
	require.NoError(t, err)
	assert.True(t, in)
	assert.Equal(t, "one\n2\n3\n4\n5\nsix\n", git("show", ":in/a.txt"))
	_, in, err = stage(6)
	require.NoError(t, err)
	assert.False(t, in, "it is taken out again")
	assert.Equal(t, "one\n2\n3\n4\n5\n6\n", git("show", ":in/a.txt"))
	_, _, err = stage(3)
	require.ErrorIs(t, err, hunk.ErrNothingToStage)
	assert.NoFileExists(t, ran)

	write("in/new.txt", "x\n")
	f, err := ws.Code.Load(ctx, "in/new.txt")
	require.NoError(t, err)
	_, in, err = ws.Changes.Hunks.Stage(ctx, f, 1)
	require.NoError(t, err)
	assert.True(t, in)
	assert.Equal(t, "x\n", git("show", ":in/new.txt"))
	_, in, err = ws.Changes.Hunks.Stage(ctx, f, 1)
	require.NoError(t, err)
	assert.False(t, in)
	assert.Empty(t, git("ls-files", "in/new.txt"), "a file that is new is not staged at all then")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in/new.txt"), []byte("y\n"), 0o644))
	_, _, err = ws.Changes.Hunks.Stage(ctx, f, 1)
	require.ErrorContains(t, err, "save it first")
}
