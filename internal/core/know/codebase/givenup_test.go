package codebase

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A file that a parser gave up is not given to it again until it changes, not even by the next
// program, and it is said each time.
func TestWhatWasGivenUpIsRemembered(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	file := filepath.Join(root, "deep.py")
	require.NoError(t, os.WriteFile(file, []byte("def ring(): pass\nx = "+strings.Repeat("(", 20000)+strings.Repeat(")", 20000)+"\n"), 0o644))
	open := func() *Base {
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
		assert.Equal(t, "nested too deeply", w.whyGivenUp(w.languages.Of(f.Path), f.Path, f.Text), "the parser is not asked")
		assert.Empty(t, w.Index().Search(t.Context(), fuzzy.Parse("ring"), 10))
	}
	require.NoError(t, os.WriteFile(file, []byte("def ring(): pass\n"), 0o644))
	w := open()
	assert.Empty(t, w.Progress().LeftOut)
	assert.Len(t, w.Index().Search(t.Context(), fuzzy.Parse("ring"), 10), 1)
}

// What took too long is tried again when some time has passed, be it that the machine was busy.
func TestWhatTookTooLongIsTriedAgain(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.py"), []byte("def ring(): pass\n"), 0o644))
	now := time.Now()
	open := func() *Base {
		w := New(root)
		w.now = func() time.Time { return now }
		w.KeepIndex(t.Context(), indexes)
		require.NoError(t, w.Read(t.Context()))
		return w
	}
	w := open()
	file, _ := w.Listing().File("hut.py")
	k := index.Known{Size: file.Size, Modified: file.Modified, Content: w.symbols.Confirm([]project.File{file})[0].Content}
	k.Summary = &index.Summary{GivenUp: "took too long to parse", Again: now.Add(tryAgain).Unix()}
	require.NoError(t, w.ForgetIndex())

	w = New(root)
	w.KeepIndex(t.Context(), indexes)
	_, err := w.store().segments.Add(t.Context(), map[string]index.Known{"hut.py": k})
	require.NoError(t, err)
	require.NoError(t, w.Close())

	w = open()
	require.Len(t, w.Progress().LeftOut, 1)
	assert.Empty(t, w.Index().Search(t.Context(), fuzzy.Parse("ring"), 10))
	require.NoError(t, w.Close())

	now = now.Add(tryAgain + time.Hour)
	for range 2 { // once it was read, that is known
		w = open()
		assert.Empty(t, w.Progress().LeftOut)
		assert.Len(t, w.Index().Search(t.Context(), fuzzy.Parse("ring"), 10), 1)
		require.NoError(t, w.Close())
	}
}
