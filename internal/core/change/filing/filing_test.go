package filing_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/filing"
)

// begin makes a project with a few files and its trash.
func begin(t *testing.T) (f *filing.Filing, root, trash string) {
	root, trash = t.TempDir(), filepath.Join(t.TempDir(), "Trash")
	for name, body := range map[string]string{"a.go": "a", "in/b.go": "b", "in/deep/c d.go": "c"} {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(body), 0o640))
	}
	return filing.New(root, trash), root, trash
}

// tree writes what is below a folder, folders with a slash.
func tree(t *testing.T, root string) string {
	var all []string
	require.NoError(t, filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		rel, _ := filepath.Rel(root, p)
		if d.IsDir() {
			rel += "/"
		} else if body, err := os.ReadFile(p); err == nil && len(body) > 0 && len(body) < 4 {
			rel += "=" + string(body)
		}
		all = append(all, filepath.ToSlash(rel))
		return err
	}))
	slices.Sort(all)
	return strings.Join(all[1:], " ")
}

const asItWas = "a.go=a in/ in/b.go=b in/deep/ in/deep/c d.go=c"

func TestEachStepCanBeUndone(t *testing.T) {
	f, root, trash := begin(t)
	rel, err := f.Create("new/er/x.go")
	require.NoError(t, err)
	assert.Equal(t, "new/er/x.go", rel)
	_, err = f.Create("empty/")
	require.NoError(t, err)
	rel, err = f.Rename("in", "out/./in")
	require.NoError(t, err)
	assert.Equal(t, "out/in", rel)
	require.NoError(t, f.Delete("out/in/deep"))
	require.NoError(t, f.Delete("a.go"))
	assert.Equal(t, "empty/ new/ new/er/ new/er/x.go out/ out/in/ out/in/b.go=b", tree(t, root))
	info, err := os.ReadFile(filepath.Join(trash, "info", "deep.trashinfo"))
	require.NoError(t, err)
	assert.Regexp(t, `^\[Trash Info\]\nPath=/.*/out/in/deep\nDeletionDate=\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\n$`, string(info))
	assert.FileExists(t, filepath.Join(trash, "files", "deep", "c d.go"))

	for _, want := range []struct {
		did   string
		moved filing.Moved
	}{
		{"deleted a.go", filing.Moved{To: "a.go"}},
		{"deleted out/in/deep", filing.Moved{To: "out/in/deep"}},
		{"renamed in to out/in", filing.Moved{From: "out/in", To: "in"}},
		{"created empty", filing.Moved{From: "empty"}},
		{"created new/er/x.go", filing.Moved{From: "new/er/x.go"}},
		{"", filing.Moved{}},
	} {
		did, moved, err := f.Undo()
		require.NoError(t, err)
		assert.Equal(t, want.did, did)
		assert.Equal(t, want.moved, moved)
	}
	assert.Equal(t, asItWas, tree(t, root))
	mode, err := os.Stat(filepath.Join(root, "a.go"))
	require.NoError(t, err)
	assert.Equal(t, fs.FileMode(0o640), mode.Mode().Perm())
}

func TestWhatIsRefused(t *testing.T) {
	f, root, _ := begin(t)
	for _, c := range []struct{ from, to, why string }{
		{"", "a.go", "there is something of this name already"},
		{"", "in/", "there is something of this name already"},
		{"", "a.go/x", "a.go is a file"},
		{"", " ", "it needs a name"},
		{"", "../x", "outside of this project"},
		{"", "/etc/x", "outside of this project"},
		{"", ".git/hooks/x", "belongs to git"},
		{"a.go", "in/b.go", "there is something of this name already"},
		{"a.go", "a.go", "its name already"},
		{"a.go", "in/../../x", "outside of this project"},
		{"in", "in/deep/in", "cannot go into itself"},
		{"none", "x", "no such file"},
	} {
		var err error
		if c.from == "" {
			_, err = f.Create(c.to)
		} else {
			_, err = f.Rename(c.from, c.to)
		}
		assert.ErrorContains(t, err, c.why, "%s to %s", c.from, c.to)
	}
	assert.ErrorContains(t, f.Delete("none"), "no such file")
	assert.ErrorContains(t, f.Delete("."), "it needs a name")
	assert.Equal(t, asItWas, tree(t, root), "nothing has happened")
	did, _, err := f.Undo()
	assert.NoError(t, err)
	assert.Empty(t, did)
}

func TestUndoNeverWritesOver(t *testing.T) {
	f, root, _ := begin(t)
	require.NoError(t, f.Delete("a.go"))
	require.NoError(t, os.WriteFile(filepath.Join(root, "a.go"), []byte("new"), 0o600))
	_, _, err := f.Undo()
	require.ErrorIs(t, err, filing.ErrTaken)
	require.NoError(t, os.Remove(filepath.Join(root, "a.go")))
	did, _, err := f.Undo()
	require.NoError(t, err, "it can be undone later")
	assert.Equal(t, "deleted a.go", did)
	assert.Equal(t, asItWas, tree(t, root))
}

func TestThingsOfOneNameInTheTrash(t *testing.T) {
	f, root, trash := begin(t)
	for _, body := range []string{"1", "2", "3"} {
		require.NoError(t, os.WriteFile(filepath.Join(root, "same"), []byte(body), 0o600))
		require.NoError(t, f.Delete("same"))
	}
	for i, name := range []string{"same", "same.2", "same.3"} {
		body, err := os.ReadFile(filepath.Join(trash, "files", name))
		require.NoError(t, err)
		assert.Equal(t, string("123"[i]), string(body))
	}
	// What was created and written to is not lost by undoing that.
	_, err := f.Create("note")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(root, "note"), []byte("w"), 0o600))
	_, _, err = f.Undo()
	require.NoError(t, err)
	assert.FileExists(t, filepath.Join(trash, "files", "note"))
	assert.Equal(t, asItWas, tree(t, root))
}

func TestLinksAreMovedAsLinks(t *testing.T) {
	f, root, _ := begin(t)
	require.NoError(t, os.Symlink("in", filepath.Join(root, "link")))
	require.NoError(t, f.Delete("link"))
	assert.Equal(t, asItWas, tree(t, root), "what it leads to stays")
	_, _, err := f.Undo()
	require.NoError(t, err)
	target, err := os.Readlink(filepath.Join(root, "link"))
	require.NoError(t, err)
	assert.Equal(t, "in", target)
}

func TestWithoutATrash(t *testing.T) {
	_, root, _ := begin(t)
	blocked := filepath.Join(root, "a.go")
	assert.Error(t, filing.New(root, filepath.Join(blocked, "Trash")).Delete("in"))
	assert.ErrorContains(t, filing.New(root, "").Delete("in"), "no folder for deleted things")
	assert.Equal(t, asItWas, tree(t, root))
}

// The trash may be on another disk: then things are copied, and removed only when
// all of them has arrived.
func TestATrashOnAnotherDisk(t *testing.T) {
	_, root, _ := begin(t)
	other, err := os.MkdirTemp("/dev/shm", "rooktrail-trash-")
	if err != nil {
		t.Skip("there is no other disk here to try it on")
	}
	defer os.RemoveAll(other)
	require.NoError(t, os.Symlink("b.go", filepath.Join(root, "in", "link")))
	f := filing.New(root, filepath.Join(other, "Trash"))
	require.NoError(t, f.Delete("in"))
	assert.Equal(t, "a.go=a", tree(t, root))
	_, _, err = f.Undo()
	require.NoError(t, err)
	require.NoError(t, os.Remove(filepath.Join(root, "in", "link")))
	assert.Equal(t, asItWas, tree(t, root))
}
