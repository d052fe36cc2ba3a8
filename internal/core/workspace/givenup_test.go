package workspace

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A file that a parser gave up is not given to it again until it changes, not even by the next
// program, and it is said each time.
func TestWhatWasGivenUpIsRemembered(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	file := filepath.Join(root, "deep.py")
	require.NoError(t, os.WriteFile(file, []byte("def ring(): pass\nx = "+strings.Repeat("(", 20000)+strings.Repeat(")", 20000)+"\n"), 0o644))
	open := func() *Workspace {
		w := New(root)
		w.KeepIndex(t.Context(), indexes)
		require.NoError(t, w.Read(t.Context()))
		t.Cleanup(func() { assert.NoError(t, w.Close()) })
		return w
	}
	for range 2 {
		w := open()
		pr := w.Progress()
		require.Len(t, pr.LeftOut, 1)
		assert.Equal(t, "nested too deeply", pr.LeftOut[0].Reason.Error())
		f, err := w.OnDisk(t.Context(), "deep.py")
		require.NoError(t, err)
		assert.Nil(t, f.Facts)
		assert.Equal(t, "nested too deeply", w.whyGivenUp("Python", f.Text), "the parser is not asked")
		assert.Empty(t, w.Symbols(t.Context(), "ring", 10))
	}
	require.NoError(t, os.WriteFile(file, []byte("def ring(): pass\n"), 0o644))
	w := open()
	assert.Empty(t, w.Progress().LeftOut)
	assert.Len(t, w.Symbols(t.Context(), "ring", 10), 1)
}
