package library_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/library"
)

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
