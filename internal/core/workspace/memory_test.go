package workspace

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reopened reads the project of a workspace anew, with an index in the folder.
func reopened(t *testing.T, root, folder string) *Workspace {
	w := New(root)
	w.Remember(context.Background(), folder)
	t.Cleanup(func() { assert.NoError(t, w.Close()) })
	require.NoError(t, w.Read(context.Background()))
	return w
}

func TestNothingIsParsedTwice(t *testing.T) {
	folder := t.TempDir()
	root := opened(t, map[string]string{"a.py": "def one():\n    pass\n", "b.go": "package b\n\nfunc Two() {}\n", "c.txt": "text"}).Root()
	assert.Equal(t, 2, reopened(t, root, folder).Progress().Parsed)
	w := reopened(t, root, folder)
	assert.Equal(t, 0, w.Progress().Parsed)
	assert.Equal(t, 2, w.Progress().Symbols)
	assert.Equal(t, 3, w.Named("Two")[0].Line)

	require.NoError(t, os.Rename(filepath.Join(root, "a.py"), filepath.Join(root, "moved.py")))
	require.NoError(t, os.WriteFile(filepath.Join(root, "b.go"), []byte("package b\n\nfunc Three() {}\n"), 0o644))
	w = reopened(t, root, folder)
	assert.Equal(t, 1, w.Progress().Parsed, "what only moved is known by its content")
	assert.Equal(t, "moved.py", w.Named("one")[0].Path)
	assert.Empty(t, w.Named("Two"))
	require.NoError(t, os.WriteFile(filepath.Join(root, "b.go"), []byte("package b\n\nfunc Two() {}\n"), 0o644))
	w = reopened(t, root, folder)
	assert.Equal(t, 0, w.Progress().Parsed, "and what was there before is known again")
	assert.NotEmpty(t, w.Named("Two"))
}

func TestWithoutADiskItGoesOn(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	root := opened(t, map[string]string{"a.py": "def one():\n    pass\n"}).Root()
	w := reopened(t, root, file)
	assert.Len(t, w.Named("one"), 1)
	require.Len(t, w.Progress().Notes, 1)
	assert.Contains(t, w.Progress().Notes[0], "the index is not kept on disk")
	path, _ := w.Kept()
	assert.Empty(t, path)
}
