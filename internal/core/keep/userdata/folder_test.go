package userdata_test

import (
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/keep/userdata"
)

func clone(t *testing.T, from, to string) {
	t.Helper()
	out, err := exec.Command("git", "clone", "-q", from, to).CombinedOutput()
	require.NoError(t, err, string(out))
}

// within is where something of a part lies: the part's file, or one in its folder.
func within(f userdata.Folder, part userdata.Part) string {
	if file := f.Path(part); filepath.Ext(file) == ".json" {
		return file
	}
	return filepath.Join(f.Path(part), "x")
}

// put keeps something in every part.
func put(t *testing.T, f userdata.Folder, words string) {
	t.Helper()
	for _, part := range userdata.Parts {
		require.NoError(t, atomicfile.Write(within(f, part), []byte(words), 0o600))
	}
}

// kept is what put has put there; "" if nothing of any part is there, and in disagreement what
// is of each.
func kept(f userdata.Folder) string {
	words := map[string]bool{}
	for _, part := range userdata.Parts {
		data, _ := os.ReadFile(within(f, part)) // "" if nothing is there
		words[string(data)] = true
	}
	return strings.Join(slices.Sorted(maps.Keys(words)), ", ")
}

func TestAProjectThatMoves(t *testing.T) {
	data := t.TempDir()
	for _, git := range []bool{false, true} {
		dir := t.TempDir()
		origin, one := filepath.Join(dir, "origin"), filepath.Join(dir, "one")
		if git {
			out, err := exec.Command("git", "init", "-q", origin).CombinedOutput()
			require.NoError(t, err, string(out))
			out, err = exec.Command("git", "-C", origin, "-c", "user.name=a", "-c", "user.email=a@b.example", "commit", "-q", "--allow-empty", "-m", "x").CombinedOutput()
			require.NoError(t, err, string(out))
			clone(t, origin, one)
		} else {
			require.NoError(t, os.Mkdir(one, 0o755))
		}
		f, from, err := userdata.Open(data, one)
		require.NoError(t, err)
		assert.Empty(t, from)
		put(t, f, "of one")

		two := filepath.Join(dir, "two")
		require.NoError(t, os.Rename(one, two))
		f, from, err = userdata.Open(data, two)
		require.NoError(t, err)
		assert.Equal(t, one, from)
		assert.Equal(t, "of one", kept(f), "it goes with the project")

		if git { // a copy elsewhere, and another clone, are projects of their own
			out, err := exec.Command("cp", "-a", two, one).CombinedOutput()
			require.NoError(t, err, string(out))
			f, from, err = userdata.Open(data, one)
			require.NoError(t, err)
			assert.Empty(t, from+kept(f))
			three := filepath.Join(dir, "three")
			clone(t, origin, three)
			f, from, err = userdata.Open(data, three)
			require.NoError(t, err)
			assert.Empty(t, from+kept(f))
		}
		f, _, err = userdata.Open(data, two)
		require.NoError(t, err)
		assert.Equal(t, "of one", kept(f))
		require.NoError(t, os.RemoveAll(one))
		require.NoError(t, os.RemoveAll(two))
	}
	// Another folder in the place of one that is gone is no former project.
	f, from, err := userdata.Open(data, t.TempDir())
	require.NoError(t, err)
	assert.Empty(t, from+kept(f))
}

func TestADataFolderThatCannotBeWritten(t *testing.T) {
	_, _, err := userdata.Open("/dev/null/x", t.TempDir())
	assert.ErrorContains(t, err, "goes on in memory")
}
