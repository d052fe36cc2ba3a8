package firststart_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/firststart"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// A few keys, one line each, as they are in the key map; any key goes on, and is not lost.
func TestTheFirstStart(t *testing.T) {
	keys := keymap.Default()
	keys.Take(keymap.Own{keymap.Definition: {"f4"}})
	s := firststart.New(keys)
	text := uitest.Of(s, 80, s.Lines())
	assert.Contains(t, text, "Space       finds files, symbols, text, and all commands by what you say")
	assert.Contains(t, text, "F4 b        to the definition")
	for _, key := range []string{"enter", "esc", "^"} {
		todo := uitest.Last(uitest.Press(s, key))
		assert.True(t, todo.Close, key)
		assert.Empty(t, todo.Do, key)
	}
	todo := uitest.Last(uitest.Press(s, "space"))
	assert.True(t, todo.Close)
	assert.Equal(t, keymap.Scout, todo.Do)
	s = firststart.New(keys)
	assert.False(t, uitest.Last(uitest.Press(s, "W")).Close, "it begins a key of two")
	assert.Contains(t, uitest.Of(s, 80, s.Lines()), "sweeps")
	todo = uitest.Last(uitest.Press(s, "r"))
	assert.True(t, todo.Close)
	assert.Equal(t, keymap.Importers, todo.Do)
}

// It is shown once.
func TestItIsShownOnce(t *testing.T) {
	file := filepath.Join(t.TempDir(), "habits.json")
	then := func() surface.Intent { return surface.Say("write") }
	habits, err := habit.Open(file)
	require.NoError(t, err)
	assert.NotNil(t, firststart.Begin(habits, keymap.Default(), then).Open)
	assert.Equal(t, "write", firststart.Begin(habits, keymap.Default(), then).Say)
	require.NoError(t, habits.Save())
	habits, err = habit.Open(file)
	require.NoError(t, err)
	assert.Equal(t, "write", firststart.Begin(habits, keymap.Default(), then).Say)
}
