package hunk_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/workspace/workspacetest"
)

// A file that was checked out with other line ends differs in what is written in it alone; of one that the commit does
// not have, all lines are added. The project is a folder of the repository.
func TestFilesOfACommit(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	git := func(args ...string) {
		out, err := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=n", "-c", "user.email=e@example.org"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	ws := workspacetest.Open(t, map[string]string{"in/a.txt": "one\ntwo\n"})
	dir = ws.Code.Root()
	git("init", "-q")
	git("add", ".")
	git("commit", "-qm", "first")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in", "a.txt"), []byte("one\r\n2\r\n"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in", "new.txt"), []byte("x\ny\n"), 0o644))
	ws.Code.Refresh(ctx)
	head, err := ws.Changes.Hunks.Commit(ctx, "")
	require.NoError(t, err)
	for file, want := range map[string][]hunk.Hunk{
		"in/a.txt":   {{Was: hunk.Lines{First: 2, Count: 1}, Now: hunk.Lines{First: 2, Count: 1}}},
		"in/new.txt": {{Was: hunk.Lines{First: 1}, Now: hunk.Lines{First: 1, Count: 2}}},
	} {
		f, err := ws.Code.Load(ctx, file)
		require.NoError(t, err)
		d, err := ws.Changes.Hunks.File(ctx, head, file, f)
		require.NoError(t, err)
		assert.Equal(t, want, d.Hunks, file)
	}
	f, err := ws.Code.Load(ctx, "in/a.txt")
	require.NoError(t, err)
	d, err := ws.Changes.Hunks.File(ctx, head, "in/a.txt", f)
	require.NoError(t, err)
	assert.Equal(t, "two\r\n", string(d.Old(d.Hunks[0])), "what is put back has the line ends of the file")
}
