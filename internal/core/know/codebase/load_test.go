package codebase

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func opened(t *testing.T, files map[string]string) *Base {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range files {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
	w := New(root)
	require.NoError(t, w.Read(context.Background()))
	return w
}

func TestFilesThatAreLeftAsText(t *testing.T) {
	w := opened(t, map[string]string{
		"large.py": "x = 1\n" + strings.Repeat("# long\n", largestNamed/7+1),
		"deep.py":  strings.Repeat("(", 20000) + strings.Repeat(")", 20000),
		"nul.py":   "x\x00",
	})
	reasons := map[string]string{}
	for _, l := range w.Progress().LeftOut {
		reasons[l.Path] = l.Reason.Error()
	}
	assert.Len(t, reasons, 3)
	assert.Contains(t, reasons["large.py"], "too large")
	assert.Contains(t, reasons["deep.py"], "too deeply")
	assert.Contains(t, reasons["nul.py"], "binary")
	f, err := w.Load(context.Background(), "deep.py")
	require.NoError(t, err)
	assert.Nil(t, f.Facts)
}

func TestAChangedFileIsReadAnew(t *testing.T) {
	w := opened(t, map[string]string{"a.py": "one = 1\n"})
	first, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	again, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	assert.Same(t, first, again)
	require.NoError(t, os.WriteFile(w.Absolute("a.py"), []byte("another = 22\n"), 0o644))
	changed, err := w.Load(context.Background(), "a.py")
	require.NoError(t, err)
	assert.Equal(t, "another = 22", string(changed.Text.Line(1)))
}

func TestTheCacheStaysWithinItsBounds(t *testing.T) {
	files := map[string]string{}
	for i := range mostCached + 20 {
		files[fmt.Sprint(i, ".txt")] = "text"
	}
	w := opened(t, files)
	for p := range files {
		_, err := w.Load(context.Background(), p)
		require.NoError(t, err)
	}
	assert.Equal(t, mostCached, w.loaded.files.Len())
	assert.Equal(t, 4*mostCached, w.loaded.bytes)
}
