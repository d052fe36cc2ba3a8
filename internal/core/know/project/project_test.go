package project

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tree makes files, named one a line, each holding what stands behind "=".
func tree(t *testing.T, files string) string {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for _, line := range strings.Split(strings.TrimSpace(files), "\n") {
		name, text, _ := strings.Cut(strings.TrimSpace(line), "=")
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(strings.ReplaceAll(text, "|", "\n")), 0o644))
	}
	return root
}

func listed(t *testing.T, root string) (string, Report) {
	var names []string
	report, err := List(context.Background(), root, false, func(batch []File) {
		for _, f := range batch {
			names = append(names, f.Path)
		}
	})
	require.NoError(t, err)
	sort.Strings(names)
	assert.Equal(t, len(names), report.Files)
	return strings.Join(names, " "), report
}

func git(t *testing.T, dir string, args ...string) {
	cmd := exec.Command("git", args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Test", "GIT_AUTHOR_EMAIL=t@example.test", "GIT_COMMITTER_NAME=Test", "GIT_COMMITTER_EMAIL=t@example.test")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s", out)
}

const sample = `
	.gitignore=*.log|build/|!keep.log
	a.go=
	b.log=
	keep.log=
	build/out.go=
	sub/.gitignore=/local.txt|*.tmp
	sub/local.txt=
	sub/deep/local.txt=
	sub/deep/x.tmp=
	sub/deep/y.txt=`

const kept = ".gitignore a.go keep.log sub/.gitignore sub/deep/local.txt sub/deep/y.txt"

func TestWalkHonoursIgnoreFiles(t *testing.T) {
	names, report := listed(t, tree(t, sample))
	assert.Equal(t, kept, names)
	assert.False(t, report.Git)
}

func TestGitListsTheSame(t *testing.T) {
	root := tree(t, sample)
	git(t, root, "init", "--quiet")
	names, report := listed(t, root)
	assert.Equal(t, kept, names)
	assert.True(t, report.Git)

	git(t, root, "add", "--force", "a.go", "b.log")
	require.NoError(t, os.Remove(filepath.Join(root, "a.go")))
	names, _ = listed(t, root)
	assert.Equal(t, ".gitignore b.log keep.log sub/.gitignore sub/deep/local.txt sub/deep/y.txt", names, "tracked counts though ignored; deleted does not")

	names, report = listed(t, filepath.Join(root, "sub"))
	assert.Equal(t, ".gitignore deep/local.txt deep/y.txt", names)
	assert.True(t, report.Git)
	names, report = listed(t, filepath.Join(root, "build"))
	assert.Equal(t, "out.go", names, "an ignored folder that was asked for is listed all the same")
	assert.False(t, report.Git)
}

func TestARepositoryInsideIsListed(t *testing.T) {
	root := tree(t, "a.go=\nlib/b.go=\nlib/.gitignore=c.go\nlib/c.go=")
	git(t, filepath.Join(root, "lib"), "init", "--quiet")
	git(t, root, "init", "--quiet")
	names, _ := listed(t, root)
	assert.Equal(t, "a.go lib/.gitignore lib/b.go", names)
}

func TestNothingOfTheRepositoryIsRun(t *testing.T) {
	root := tree(t, "a.go=")
	git(t, root, "init", "--quiet")
	git(t, root, "add", "a.go")
	witness := filepath.Join(t.TempDir(), "was-run")
	script := filepath.Join(root, "run.sh")
	require.NoError(t, os.WriteFile(script, []byte("#!/bin/sh\ntouch "+witness+"\n"), 0o755))
	git(t, root, "config", "core.fsmonitor", script)
	git(t, root, "config", "core.hooksPath", root)
	git(t, root, "config", "filter.evil.clean", script)
	require.NoError(t, os.WriteFile(filepath.Join(root, ".gitattributes"), []byte("* filter=evil\n"), 0o644))
	names, report := listed(t, root)
	assert.Equal(t, ".gitattributes a.go run.sh", names)
	assert.True(t, report.Git)
	assert.NoFileExists(t, witness)
}

func TestLinksAndFoldersThatCannotBeRead(t *testing.T) {
	root := tree(t, "a/b.go=\nlocked/c.go=")
	require.NoError(t, os.Symlink(root, filepath.Join(root, "a", "loop")))
	require.NoError(t, os.Symlink("b.go", filepath.Join(root, "a", "link.go")))
	require.NoError(t, os.Symlink("nowhere", filepath.Join(root, "a", "broken")))
	if os.Getuid() != 0 {
		require.NoError(t, os.Chmod(filepath.Join(root, "locked"), 0))
		t.Cleanup(func() { _ = os.Chmod(filepath.Join(root, "locked"), 0o700) })
	}
	names, report := listed(t, root)
	assert.Equal(t, 1, report.LinkedFolders)
	if os.Getuid() != 0 {
		assert.Equal(t, "a/b.go a/link.go", names)
		assert.Equal(t, 1, report.Unreadable)
	} else {
		assert.Equal(t, "a/b.go a/link.go locked/c.go", names)
	}
}

func TestListingIsHandedOverInParts(t *testing.T) {
	var files strings.Builder
	for i := range 3*batchSize + 1 {
		fmt.Fprintf(&files, "d%d/f%d.go=\n", i%50, i)
	}
	root := tree(t, files.String())
	parts := 0
	_, err := List(context.Background(), root, false, func([]File) { parts++ })
	require.NoError(t, err)
	assert.Equal(t, 4, parts)
	ctx, cancel := context.WithCancel(context.Background())
	_, err = List(ctx, root, false, func([]File) { cancel() })
	assert.ErrorIs(t, err, context.Canceled)
}

func TestRoot(t *testing.T) {
	root := tree(t, "go.mod=\nin/side/x.go=\nin/package.json=")
	for from, want := range map[string]string{".": root, "in": filepath.Join(root, "in"), "in/side": filepath.Join(root, "in")} {
		got, err := Root(filepath.Join(root, from), []string{"go.mod", "package.json"})
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	_, err := Root(filepath.Join(root, "nothing"), nil)
	assert.ErrorContains(t, err, "no such file")
	_, err = Root(filepath.Join(root, "go.mod"), nil)
	assert.ErrorIs(t, err, ErrNoFolder)
}

// Where nothing tells what the project is, it is the folder in which one is, if the file lies in that.
func TestRootAround(t *testing.T) {
	root := tree(t, "in/side/x.c=\nin/top/go.mod=\nin/top/deep/y.c=\nother/z.c=")
	for _, c := range []struct{ dir, present, want string }{
		{"in/side", ".", "."}, {"in/side", "in", "in"}, {"in/side", "in/side", "in/side"}, {"in/side", "other", "in/side"},
		{"in/side", "nothing", "in/side"}, {"in/top/deep", ".", "in/top"},
	} {
		got, err := RootAround(filepath.Join(root, c.dir), filepath.Join(root, c.present), []string{"go.mod"})
		require.NoError(t, err)
		assert.Equal(t, filepath.Join(root, c.want), got, c)
	}
	t.Setenv("HOME", filepath.Join(root, "in"))
	got, err := RootAround(filepath.Join(root, "in/side"), filepath.Join(root, "in"), nil)
	require.NoError(t, err)
	assert.Equal(t, filepath.Join(root, "in/side"), got)
}

func TestPaths(t *testing.T) {
	assert.Equal(t, "a/b.go", Relative("/r", "/r/a/b.go"))
	assert.Equal(t, "/other/b.go", Relative("/r", "/other/b.go"))
	assert.Equal(t, "/r2/b.go", Relative("/r", "/r2/b.go"))
	assert.Equal(t, "/r/a/b.go", Absolute("/r", "a/b.go"))
	assert.Equal(t, "/other/b.go", Absolute("/r", "/other/b.go"))
}

// What git's index and links say of paths outside of the project is left out.
func TestWhatLeadsOut(t *testing.T) {
	outside := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(outside, "secret.txt"), []byte("secret"), 0o644))
	root := tree(t, "a.go=\nin/secret.txt=")
	require.NoError(t, os.Symlink(filepath.Join(outside, "secret.txt"), filepath.Join(root, "link.txt")))
	names, report := listed(t, root)
	assert.Equal(t, "a.go in/secret.txt", names)
	assert.Equal(t, 1, report.Outside)

	git(t, root, "init", "--quiet")
	git(t, root, "add", ".")
	require.NoError(t, os.RemoveAll(filepath.Join(root, "in")))
	require.NoError(t, os.Symlink(outside, filepath.Join(root, "in")))
	names, report = listed(t, root)
	assert.True(t, report.Git)
	assert.Equal(t, "a.go", names, "the folder of a file that git knows is a link by now")
	assert.Positive(t, report.Outside)
}

// A file is as it is listed, where a link leads to one as well.
func TestStatOfALink(t *testing.T) {
	root, outside := t.TempDir(), t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "a.go"), []byte("package a\n"), 0o600))
	require.NoError(t, os.WriteFile(filepath.Join(outside, "b.go"), []byte("package b\n"), 0o600))
	require.NoError(t, os.Symlink("a.go", filepath.Join(root, "link.go")))
	require.NoError(t, os.Symlink(filepath.Join(outside, "b.go"), filepath.Join(root, "out.go")))
	f, ok := Stat(root, "link.go")
	assert.True(t, ok)
	assert.Equal(t, int64(10), f.Size)
	for _, none := range []string{"out.go", "gone.go"} {
		_, ok = Stat(root, none)
		assert.False(t, ok, none)
	}
}

// Where ignore files leave next to nothing, it is said which leave out how much, and all can be taken in.
func TestAProjectThatIsLeftOut(t *testing.T) {
	root := t.TempDir()
	for p, text := range map[string]string{".gitignore": "/*\n!/sub/\n", "a.go": "", "in/b.go": "", "in/c.go": "", "sub/.ignore": "*.py\n", "sub/x.py": "", "sub/kept.go": ""} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(root, p)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(root, p), []byte(text), 0o600))
	}
	count := func(everything bool) (int, Report) {
		n := 0
		report, err := List(t.Context(), root, everything, func(files []File) { n += len(files) })
		require.NoError(t, err)
		return n, report
	}
	n, report := count(false)
	assert.Equal(t, 2, n)
	assert.Equal(t, []Ignored{{".gitignore", 4}, {"sub/.ignore", 1}}, report.Ignored)
	n, report = count(true)
	assert.Equal(t, 7, n)
	assert.Empty(t, report.Ignored)
}
