package door

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestInside(t *testing.T) {
	for p, want := range map[string]bool{"a": true, "a/b": true, "a/../b": true, ".": true, "..a": true, "": false, "/etc": false, "..": false, "../a": false, "a/../../b": false, "a\x00b": false} {
		assert.Equal(t, want, Inside(p), p)
	}
}

// Whatever stands in the place of a file, reading it comes to an end, and takes no more than is
// allowed.
func TestReadingWhatIsNoFile(t *testing.T) {
	root, outside := t.TempDir(), t.TempDir()
	at := func(name string) string { return filepath.Join(root, name) }
	require.NoError(t, os.WriteFile(at("plain"), []byte("plain"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(outside, "secret"), []byte("secret"), 0o644))
	require.NoError(t, os.Symlink("plain", at("link")))
	require.NoError(t, os.Symlink(filepath.Join(outside, "secret"), at("out")))
	require.NoError(t, os.Symlink(outside, at("folder")))
	require.NoError(t, os.Symlink("/dev/zero", at("zero")))
	require.NoError(t, os.Symlink("loop", at("loop")))
	require.NoError(t, syscall.Mkfifo(at("pipe"), 0o644))
	require.NoError(t, os.WriteFile(at("large"), []byte(strings.Repeat("x", 101)), 0o644))
	for name, want := range map[string]error{
		"plain": nil, "link": nil, "out": ErrOutside, "folder/secret": ErrOutside, "../x": ErrOutside, "zero": ErrOutside, "pipe": ErrNotRegular,
		"large": ErrTooLarge, "loop": nil, "none": os.ErrNotExist, ".": ErrNotRegular,
	} {
		data, err := ReadWithin(root, name, 100)
		switch {
		case name == "loop":
			assert.Error(t, err)
		case want == nil:
			assert.NoError(t, err, name)
			assert.Equal(t, "plain", string(data), name)
		default:
			assert.ErrorIs(t, err, want, name)
		}
	}
	_, err := Read("/dev/zero", 100)
	assert.ErrorIs(t, err, ErrNotRegular)
	if _, err := os.Stat("/proc/kallsyms"); err == nil { // regular, of size 0, and long
		_, err = Read("/proc/kallsyms", 100)
		assert.ErrorIs(t, err, ErrTooLarge)
	}
	_, err = ReadSettings(root, at("out"))
	assert.ErrorIs(t, err, ErrOutside)
	data, err := ReadSettings(root, filepath.Join(outside, "secret"))
	require.NoError(t, err)
	assert.Equal(t, "secret", string(data))
}

func TestBelow(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(root, "a/b"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(root, "a/b/c.json"), []byte("{}"), 0o600))
	require.NoError(t, os.Symlink("/etc", filepath.Join(root, "out")))
	disk := Below(root)
	data, err := fs.ReadFile(disk, "a/b/c.json")
	require.NoError(t, err)
	assert.Equal(t, "{}", string(data))
	entries, err := fs.ReadDir(disk, "a/b")
	require.NoError(t, err)
	assert.Len(t, entries, 1)
	for _, name := range []string{"out/passwd", "../x", "/etc/passwd", "a/../../x", "gone"} {
		_, err := disk.Open(name)
		assert.Error(t, err, name)
		_, err = fs.ReadDir(disk, name)
		assert.Error(t, err, name)
	}
	_, err = fs.ReadDir(disk, "out")
	assert.ErrorIs(t, err, ErrOutside)
}
