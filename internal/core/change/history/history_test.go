package history_test

import (
	"math/rand"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/history"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
)

// Whatever was done, undone and done again, the kept history leads to the same texts.
func TestKeptHistories(t *testing.T) {
	st := history.NewStore(filepath.Join(t.TempDir(), "history"))
	for seed := range int64(60) {
		r := rand.New(rand.NewSource(seed))
		begun := text.NewDocument([]byte("one two\nthree\n\nfour five six\n"))
		e := write.New(begun, 0, write.Style{})
		for range r.Intn(30) {
			switch r.Intn(6) {
			case 0:
				e.Undo()
			case 1:
				e.Redo()
			case 2:
				e.Put(r.Intn(e.Document().Len() + 1))
			case 3:
				e.Backspace()
			default:
				e.Type(string(rune('a' + r.Intn(26))))
			}
		}
		require.NoError(t, st.Keep("a.txt", e.Document(), e.History()))
		found := st.Find("a.txt", e.Document())
		if e.History() == nil {
			require.Nil(t, found)
			continue
		}
		require.NotNil(t, found)
		again := write.New(text.NewDocument(e.Document().Bytes()), 0, write.Style{})
		require.True(t, again.Resume(found))
		assert.False(t, again.Changed())
		assert.Nil(t, st.Find("b.txt", e.Document()))
		assert.Nil(t, st.Find("a.txt", text.NewDocument([]byte("another"))))
		for _, back := range []func(*write.Editor) bool{(*write.Editor).Undo, (*write.Editor).Redo, (*write.Editor).Earlier, (*write.Editor).Later, (*write.Editor).Undo} {
			for ok := true; ok; {
				ok = back(e)
				require.Equal(t, ok, back(again))
				require.Equal(t, string(e.Document().Bytes()), string(again.Document().Bytes()))
				require.Equal(t, e.Main().At, again.Main().At)
			}
		}
	}
}

// What is on disk is not trusted to be a history, nor to fit the text.
func TestHistoriesThatAreNotSound(t *testing.T) {
	folder := t.TempDir()
	st := history.NewStore(folder)
	doc := text.NewDocument([]byte("text\n"))
	e := write.New(doc, 0, write.Style{})
	e.Type("x")
	require.NoError(t, st.Keep("a.txt", e.Document(), e.History()))
	files, _ := filepath.Glob(filepath.Join(folder, "*.json"))
	require.Len(t, files, 1)
	data, err := os.ReadFile(files[0])
	require.NoError(t, err)
	for _, change := range [][2]string{{`"Start":0`, `"Start":99`}, {`"Here":1`, `"Here":7`}, {`"Parent":0`, `"Parent":1`}, {`"Redo":1`, `"Redo":9`}, {"{", "["}, {`"version":1`, `"version":2`}} {
		require.Contains(t, string(data), change[0])
		require.NoError(t, os.WriteFile(files[0], []byte(strings.Replace(string(data), change[0], change[1], 1)), 0o600))
		if h := st.Find("a.txt", e.Document()); h != nil {
			assert.False(t, write.New(e.Document(), 0, write.Style{}).Resume(h), change[0])
		}
	}
	require.NoError(t, st.Keep("a.txt", e.Document(), nil))
	assert.Nil(t, st.Find("a.txt", e.Document()))
	require.NoError(t, st.KeepCopies([]string{"one", "two"}))
	assert.Equal(t, []string{"one", "two"}, st.Copies())
	assert.Nil(t, history.NewStore(t.TempDir()).Copies())
}
