package library_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/library"
)

func TestLists(t *testing.T) {
	root := t.TempDir()
	write := func(name, text string) {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
	write("hut.lock", "outer")
	write("valley/hut.lock", "inner")
	m := library.New(root, "")
	var lists library.Lists
	reads := 0
	read := func(data []byte) map[string]string { reads++; return map[string]string{"is": string(data)} }
	assert.Equal(t, "inner", lists.Above(m, "valley/deep/a.x", "hut.lock", read)["is"])
	assert.Equal(t, "outer", lists.Above(m, "ridge/a.x", "hut.lock", read)["is"])
	assert.Equal(t, "outer", lists.Above(m, "a.x", "hut.lock", read)["is"])
	assert.Equal(t, 2, reads, "each is read once")
	assert.Nil(t, lists.Above(m, "a.x", "none.lock", read))
	assert.NotPanics(t, func() { lists.Above(m, "/", "none.lock", read); lists.Above(m, "//a//b", "none.lock", read) })
}

func TestFolders(t *testing.T) {
	root := t.TempDir()
	for _, d := range []string{"lib3.1", "lib3.2"} {
		require.NoError(t, os.Mkdir(filepath.Join(root, d), 0o755))
	}
	require.NoError(t, os.WriteFile(filepath.Join(root, "lib3.9"), nil, 0o644))
	m := library.New(root, "")
	slashed := filepath.ToSlash(root)
	assert.Equal(t, []string{slashed + "/lib3.2", slashed + "/lib3.1"}, library.Folders(filepath.Join(root, "lib3*"), filepath.Join(root, "lib3.1")))
	assert.True(t, m.Has(slashed+"/lib3.1") && m.HasFile(slashed+"/lib3.9"))
	assert.False(t, m.HasFile(slashed+"/lib3.1") || m.Has(slashed+"/none"))
	assert.Empty(t, library.Installed("no-such-program-is-installed"))
}
