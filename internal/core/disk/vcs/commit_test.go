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

func git(t *testing.T, dir string, args ...string) {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=n", "-c", "user.email=n@example.org", "-c", "protocol.file.allow=always"}, args...)...)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
}

func write(t *testing.T, dir, file, body string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, file)), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, file), []byte(body), 0o644))
}

func TestCommits(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	_, err := vcs.Resolve(ctx, dir, "")
	assert.ErrorIs(t, err, vcs.ErrNoRepository)
	git(t, dir, "init", "-q", "-b", "main")
	_, err = vcs.Resolve(ctx, dir, "")
	assert.ErrorIs(t, err, vcs.ErrNoCommit)
	write(t, dir, "a.txt", "one\n")
	git(t, dir, "add", ".")
	git(t, dir, "commit", "-qm", "first")
	git(t, dir, "tag", "v1")
	git(t, dir, "checkout", "-qb", "storm")
	write(t, dir, "a.txt", "two\n")
	git(t, dir, "commit", "-qam", "second")
	git(t, dir, "checkout", "-q", "main")
	write(t, dir, "b.txt", "main\n")
	git(t, dir, "add", ".")
	git(t, dir, "commit", "-qm", "third")
	git(t, dir, "checkout", "-q", "--detach", "storm")

	tag, err := vcs.Resolve(ctx, dir, "v1")
	require.NoError(t, err)
	left, err := vcs.Resolve(ctx, dir, "main...")
	require.NoError(t, err)
	assert.Equal(t, tag.ID, left.ID)
	assert.Equal(t, "where this branch has left main", left.Words)
	head, err := vcs.Resolve(ctx, dir, "")
	require.NoError(t, err)
	assert.NotEqual(t, tag.ID, head.ID)
	for _, wrong := range []string{"nowhere", "nowhere...", "--all", "-1", "v1:a.txt"} {
		_, err := vcs.Resolve(ctx, dir, wrong)
		assert.Error(t, err, wrong)
	}
	old, err := vcs.Blob(ctx, dir, tag, "a.txt")
	require.NoError(t, err)
	assert.Equal(t, "one\n", string(old))
	_, err = vcs.Blob(ctx, dir, tag, "b.txt")
	assert.ErrorIs(t, err, vcs.ErrNotThere)
	write(t, dir, "a.txt", "three\n")
	git(t, dir, "add", ".")
	staged, err := vcs.Blob(ctx, dir, vcs.Commit{ID: vcs.Staged}, "a.txt")
	require.NoError(t, err)
	assert.Equal(t, "three\n", string(staged))
}

func TestDifferences(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	git(t, dir, "init", "-q", "-b", "main")
	for _, f := range []string{"kept.txt", "edited.txt", "gone.txt", "in/old.txt", "staged.txt"} {
		write(t, dir, f, f+"\nwith some lines\nso that it is known\nagain\n")
	}
	git(t, dir, "add", ".")
	git(t, dir, "commit", "-qm", "first")
	write(t, dir, "edited.txt", "other\n")
	write(t, dir, "new.txt", "new\n")
	write(t, dir, "staged.txt", "staged\n")
	write(t, dir, "added.txt", "added\n")
	git(t, dir, "mv", "in/old.txt", "in/moved.txt")
	git(t, dir, "add", "staged.txt", "added.txt")
	require.NoError(t, os.Remove(filepath.Join(dir, "gone.txt")))
	head, err := vcs.Resolve(ctx, dir, "")
	require.NoError(t, err)
	all, err := vcs.Differences(ctx, dir, head)
	require.NoError(t, err)
	assert.ElementsMatch(t, []vcs.Difference{{Path: "edited.txt", Was: "edited.txt"}, {Path: "gone.txt", Was: "gone.txt", Gone: true}, {Path: "new.txt"},
		{Path: "staged.txt", Was: "staged.txt"}, {Path: "added.txt"}, {Path: "in/moved.txt", Was: "in/old.txt"}}, all)
	all, err = vcs.Differences(ctx, dir, vcs.Commit{ID: vcs.Staged})
	require.NoError(t, err)
	assert.ElementsMatch(t, []vcs.Difference{{Path: "edited.txt", Was: "edited.txt"}, {Path: "gone.txt", Was: "gone.txt", Gone: true}, {Path: "new.txt"}}, all)
}

// In the middle of a merge or of a rebase, in a work tree, in a shallow clone and with a submodule it is asked as ever.
func TestOddRepositories(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	git(t, dir, "init", "-q", "-b", "main")
	write(t, dir, "a.txt", "one\n")
	git(t, dir, "add", ".")
	git(t, dir, "commit", "-qm", "first")
	git(t, dir, "checkout", "-qb", "storm")
	write(t, dir, "a.txt", "storm\n")
	git(t, dir, "commit", "-qam", "second")
	git(t, dir, "checkout", "-q", "main")
	write(t, dir, "a.txt", "calm\n")
	git(t, dir, "commit", "-qam", "third")

	tree := filepath.Join(t.TempDir(), "tree")
	git(t, dir, "worktree", "add", "-q", tree, "storm")
	shallow := filepath.Join(t.TempDir(), "shallow")
	git(t, dir, "clone", "-q", "--depth", "1", "file://"+dir, shallow)
	git(t, dir, "submodule", "add", "-q", "file://"+shallow, "sub")
	git(t, dir, "commit", "-qm", "with a submodule")                                                                        // else it is not merged at all
	_ = exec.Command("git", "-C", dir, "-c", "user.name=n", "-c", "user.email=n@example.org", "merge", "-q", "storm").Run() // which stops at a conflict
	require.ErrorIs(t, vcs.Stage(ctx, dir, "a.txt", []byte("x\n")), vcs.ErrUnmerged)

	rebased := filepath.Join(t.TempDir(), "rebased")
	git(t, dir, "worktree", "add", "-q", "-b", "wind", rebased, "storm")
	_ = exec.Command("git", "-C", rebased, "-c", "user.name=n", "-c", "user.email=n@example.org", "rebase", "-q", "main").Run() // which stops at a conflict

	for _, one := range []string{dir, tree, shallow, rebased} {
		head, err := vcs.Resolve(ctx, one, "")
		require.NoError(t, err, one)
		write(t, one, "a.txt", "now\n")
		all, err := vcs.Differences(ctx, one, head)
		require.NoError(t, err, one)
		assert.Contains(t, all, vcs.Difference{Path: "a.txt", Was: "a.txt"}, one)
		old, err := vcs.Blob(ctx, one, head, "a.txt")
		require.NoError(t, err, one)
		assert.NotEmpty(t, old)
	}
}

// The commits that have changed a line are told, also before the file was renamed.
func TestHistoryOfLines(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	git(t, dir, "init", "-q", "-b", "main")
	write(t, dir, "in/a.txt", "one\ntwo\nthree\n")
	git(t, dir, "add", ".")
	git(t, dir, "commit", "-qm", "first")
	write(t, dir, "in/a.txt", "zero\none\nTWO\nthree\n")
	git(t, dir, "commit", "-qam", "louder")
	git(t, dir, "mv", "in/a.txt", "in/b.txt")
	git(t, dir, "commit", "-qm", "moved")
	write(t, dir, "in/b.txt", "zero\none\nTWO\nthree, four\n")
	git(t, dir, "commit", "-qam", "longer")
	in := filepath.Join(dir, "in")
	head, err := vcs.Resolve(ctx, in, "")
	require.NoError(t, err)
	all, err := vcs.History(ctx, in, head, "b.txt", 3, 3)
	require.NoError(t, err)
	type told struct {
		summary, path string
		first         int
	}
	var got []told
	for _, r := range all {
		got = append(got, told{r.Summary, r.Path, r.First})
		assert.Equal(t, "n", r.Author)
		assert.Len(t, r.ID, 40)
	}
	assert.Equal(t, []told{{"louder", "a.txt", 3}, {"first", "a.txt", 2}}, got)
	_, err = vcs.History(ctx, in, head, "../x", 1, 1)
	assert.Error(t, err)
	_, err = vcs.History(ctx, in, head, "b.txt", 90, 90)
	assert.Error(t, err)
}
