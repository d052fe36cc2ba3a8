package codebase_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/know/codebase"
)

// Files are in the language that the user says they are in; what is known of them is kept apart from what is
// known without that.
func TestLanguagesByFileName(t *testing.T) {
	root, indexes := t.TempDir(), t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.inc"), []byte("def ring(): pass\n"), 0o600))
	read := func(named map[string]string) *codebase.Base {
		b := codebase.New(root)
		b.KnowLibraries("")
		assert.Empty(t, b.NameLanguages(named))
		b.KeepIndex(t.Context(), indexes)
		require.NoError(t, b.Read(t.Context()))
		t.Cleanup(func() { _ = b.Close() })
		return b
	}
	for range 2 { // the second time what was kept is there
		b := read(map[string]string{"*.inc": "python"})
		f, err := b.Load(t.Context(), "hut.inc")
		require.NoError(t, err)
		require.NotNil(t, f.Facts)
		assert.Equal(t, "ring", f.Facts.Defs[0].Name)
		assert.NotEmpty(t, b.Index().In("hut.inc"))
		b = read(nil)
		f, err = b.Load(t.Context(), "hut.inc")
		require.NoError(t, err)
		assert.Nil(t, f.Facts)
		assert.Empty(t, b.Index().In("hut.inc"))
	}
	problems := codebase.New(root).NameLanguages(map[string]string{"*.x": "Snowish", "[": "Python"})
	require.Len(t, problems, 2)
	assert.Contains(t, problems[0]+problems[1], `there is no language "Snowish"`)
	assert.Contains(t, problems[0]+problems[1], "is no pattern")
}
