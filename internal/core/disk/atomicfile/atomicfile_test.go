package atomicfile_test

import (
	"errors"
	"io"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/atomicfile"
)

func names(t *testing.T, folder string) (all []string) {
	t.Helper()
	entries, err := os.ReadDir(folder)
	require.NoError(t, err)
	for _, e := range entries {
		all = append(all, e.Name())
	}
	return all
}

func TestAFileIsWrittenWithItsFolder(t *testing.T) {
	for _, c := range []struct{ file, folder os.FileMode }{{0o600, 0o700}, {0o644, 0o755}, {0o444, 0o755}} {
		file := filepath.Join(t.TempDir(), "hut", "log.json")
		require.NoError(t, atomicfile.Write(file, []byte("one"), c.file))
		require.NoError(t, atomicfile.Write(file, []byte("two"), c.file), "in place of the one before")
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, "two", string(data))
		info, err := os.Stat(file)
		require.NoError(t, err)
		assert.Equal(t, c.file, info.Mode().Perm())
		info, err = os.Stat(filepath.Dir(file))
		require.NoError(t, err)
		assert.Equal(t, c.folder, info.Mode().Perm())
		assert.Equal(t, []string{"log.json"}, names(t, filepath.Dir(file)))
	}
}

// What the user has not saved is not to lie in a folder of everybody's, even for a moment.
func TestNothingIsWrittenInTheFolderForTemporaryFiles(t *testing.T) {
	temp, folder := t.TempDir(), t.TempDir()
	require.NoError(t, os.Chmod(temp, 0o500))
	was, err := os.Stat(temp)
	require.NoError(t, err)
	t.Setenv("TMPDIR", temp)
	require.NoError(t, atomicfile.Write(filepath.Join(folder, "a.text"), []byte("typed"), 0o600))
	is, err := os.Stat(temp)
	require.NoError(t, err)
	assert.Equal(t, was.ModTime(), is.ModTime(), "nothing was made or removed in it")
}

func TestAFileThatCannotBeWrittenStaysAsItWas(t *testing.T) {
	folder := t.TempDir()
	file := filepath.Join(folder, "a")
	require.NoError(t, os.Mkdir(file, 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(file, "inside"), nil, 0o600))
	assert.Error(t, atomicfile.Write(file, []byte("x"), 0o600))
	assert.Error(t, atomicfile.Write(filepath.Join(file, "inside", "b"), []byte("x"), 0o600), "a file is no folder")
	assert.Equal(t, []string{"a"}, names(t, folder), "nothing half written is left")
}

func TestWhatWasLeftHalfWrittenIsCleared(t *testing.T) {
	folder := t.TempDir()
	atomicfile.Clear(filepath.Join(folder, "nowhere"), ".json")
	old := time.Now().Add(-2 * time.Hour)
	for _, name := range []string{".a.json123", ".a.json", "a.json", "a.json123", ".lock", ".notes7", ".b.text99"} {
		file := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(file, nil, 0o600))
		require.NoError(t, os.Chtimes(file, old, old))
	}
	require.NoError(t, os.WriteFile(filepath.Join(folder, ".c.json5"), nil, 0o600)) // somebody is writing it
	require.NoError(t, os.Mkdir(filepath.Join(folder, ".d.json6"), 0o700))
	atomicfile.Clear(folder, ".json", ".text")
	assert.Equal(t, []string{".a.json", ".c.json5", ".d.json6", ".lock", ".notes7", "a.json", "a.json123"}, names(t, folder))
}

func TestWhatIsWrittenBitByBitIsThereAsAWhole(t *testing.T) {
	file := filepath.Join(t.TempDir(), "made", "hut.txt")
	ring := func(to io.Writer) error {
		_, err := io.WriteString(to, "ring")
		return err
	}
	require.NoError(t, atomicfile.WriteFrom(file, 0o644, ring))
	err := atomicfile.WriteFrom(file, 0o644, func(to io.Writer) error { return errors.Join(ring(to), ring(to), errors.New("it cracked")) })
	assert.EqualError(t, err, "it cracked")
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "ring", string(data))
	assert.Equal(t, []string{"hut.txt"}, names(t, filepath.Dir(file)))
}
