package snippet_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/snippet"
)

func TestKeepingAndReading(t *testing.T) {
	st := snippet.NewStore(t.TempDir() + "/snippets")
	all, err := st.Of("Go")
	require.NoError(t, err)
	assert.Empty(t, all)
	require.NoError(t, st.Keep("Go", snippet.Snippet{Word: "alarm", Text: "if {cond} {\n\t\"ring\"\n}\n", About: "ring if"}))
	require.NoError(t, os.WriteFile(st.File("Go"), append([]byte("# mine\n"), must(os.ReadFile(st.File("Go")))...), 0o644))
	require.NoError(t, st.Keep("Go", snippet.Snippet{Word: "bell", Text: "'''\\"}))
	require.NoError(t, st.Keep(snippet.All, snippet.Snippet{Word: "bell", Text: "of all"}))
	require.NoError(t, st.Keep(snippet.All, snippet.Snippet{Word: "horn", Text: "of all"}))
	all, err = st.Of("Go")
	require.NoError(t, err)
	assert.Equal(t, []snippet.Snippet{{Word: "alarm", About: "ring if", Text: "if {cond} {\n\t\"ring\"\n}"}, {Word: "bell", Text: "'''\\"}, {Word: "horn", Text: "of all"}}, all)
	assert.Contains(t, string(must(os.ReadFile(st.File("Go")))), "# mine\n", "what else is in the file stays")
	assert.ErrorIs(t, st.Keep("Go", snippet.Snippet{Word: "bell", Text: "x"}), snippet.ErrThere)
	assert.ErrorIs(t, st.Keep("Go", snippet.Snippet{Word: "two words", Text: "x"}), snippet.ErrWord)
	assert.Equal(t, "c++.toml", st.File("C++")[len(st.File("C++"))-8:])
}

func must(data []byte, _ error) []byte { return data }

// A file that is not well formed is named, with the line; the others are there all the same, and nothing is lost.
func TestAFileThatIsNotWellFormed(t *testing.T) {
	st := snippet.NewStore(t.TempDir())
	require.NoError(t, os.WriteFile(st.File("Go"), []byte("[bell]\ntext = \n"), 0o644))
	require.NoError(t, st.Keep(snippet.All, snippet.Snippet{Word: "horn", Text: "x"}))
	all, err := st.Of("Go")
	assert.ErrorContains(t, err, "go.toml:2:")
	assert.Len(t, all, 1)
	assert.Error(t, st.Keep("Go", snippet.Snippet{Word: "new", Text: "x"}))
	assert.Equal(t, "[bell]\ntext = \n", string(must(os.ReadFile(st.File("Go")))))
	require.NoError(t, os.WriteFile(st.File("Go"), []byte("[bell]\nabout = \"no text\"\n[horn]\ntext = \"h\"\n"), 0o644))
	all, err = st.Of("Go")
	assert.ErrorContains(t, err, "[bell] has no text")
	assert.Len(t, all, 1)
}
