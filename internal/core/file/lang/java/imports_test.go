package java_test

import (
	"archive/zip"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/lang/java"
	"rooktrail/internal/core/file/lang/langtest"
)

func TestSourcesOfTheLibrary(t *testing.T) {
	home := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(home, "lib"), 0o755))
	out, err := os.Create(filepath.Join(home, "lib", "src.zip"))
	require.NoError(t, err)
	w := zip.NewWriter(out)
	for _, name := range []string{"java.base/java/util/List.java", "../../escape.java"} {
		e, err := w.Create(name)
		require.NoError(t, err)
		_, err = e.Write([]byte("package java.util; public interface List<E> {}"))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	require.NoError(t, out.Close())
	t.Setenv("JAVA_HOME", home)
	t.Setenv("PATH", "")
	p := langtest.New(t, nil)
	i := java.Language.Imports(p)
	list := i.Type("java.util", "List")
	require.NotEmpty(t, list)
	text, err := os.ReadFile(list)
	require.NoError(t, err)
	assert.Contains(t, string(text), "interface List")
	assert.Empty(t, i.Type("java.util", "Nothing"))
	assert.Empty(t, i.Type("....", "escape"), "nothing is unpacked outside the cache")
	p.Outside = library.New(p.Root, "")
	assert.Empty(t, java.Language.Imports(p).Type("java.util", "List"), "without a cache nothing is")
}
