package habit_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/habit"
)

var noon = time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC)

// What two programs have seen is added up, and the latest by name come first.
func TestWhatIsDoneIsAddedUp(t *testing.T) {
	file := filepath.Join(t.TempDir(), "habits.json")
	one, err := habit.Open(file)
	require.NoError(t, err)
	assert.True(t, one.IsNew())
	other, err := habit.Open(file)
	require.NoError(t, err)
	one.Did("references", false, noon)
	one.Did("unused", true, noon)
	other.Did("references", false, noon.Add(time.Hour))
	other.Did("quit", true, noon.Add(time.Hour))
	require.NoError(t, one.Save())
	require.NoError(t, other.Save())
	assert.False(t, other.IsNew())
	require.NoError(t, other.Save(), "nothing is added twice")
	both, err := habit.Open(file)
	require.NoError(t, err)
	assert.Equal(t, habit.Use{Keyed: 2, Last: noon.Add(time.Hour)}, both.Of("references"))
	assert.Equal(t, []string{"quit", "unused"}, both.Recent(9))
	both.Did("unused", true, noon.Add(2*time.Hour))
	assert.Equal(t, []string{"unused"}, both.Recent(1))
	assert.Equal(t, 2, both.Of("unused").Named)
	assert.Zero(t, both.Of("outline"))
}

func TestAFileThatCannotBeRead(t *testing.T) {
	file := filepath.Join(t.TempDir(), "habits.json")
	require.NoError(t, os.WriteFile(file, []byte("{snow"), 0o600))
	b, err := habit.Open(file)
	assert.ErrorContains(t, err, "habits.json")
	b.Did("outline", false, noon)
	require.NoError(t, b.Save())
	b, err = habit.Open(file)
	require.NoError(t, err)
	assert.Equal(t, 1, b.Of("outline").Keyed)
}

// Without a file nothing is kept, and nothing fails.
func TestKeptNowhere(t *testing.T) {
	var b habit.Book
	assert.False(t, b.IsNew(), "nobody knows")
	b.Did("outline", true, noon)
	require.NoError(t, b.Save())
	assert.Equal(t, []string{"outline"}, b.Recent(3))
}
