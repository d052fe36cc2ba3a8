package keyspage_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/keyspage"
	"rooktrail/internal/ui/uitest"
)

// A command is given a key by pressing it; who has that is asked about first. It is kept, and can be taken back.
func TestGivingAKey(t *testing.T) {
	file := filepath.Join(t.TempDir(), "keys.toml")
	s, m := openedWith(file)
	kept := func() string {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		return string(data)
	}
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+l")).Say, "type what the key is to do")
	uitest.Press(s, "dead code", "alt+l")
	assert.Contains(t, uitest.Of(s, 120, 20), "press the key for: unused code")
	assert.Equal(t, "F4 is unused code from now on", uitest.Last(uitest.Press(s, "f4")).Say)
	assert.Equal(t, "[keys]\nunused = [\"F4\", \"W u\"]\n", kept())
	got, _ := m.Of("f4")
	assert.Equal(t, keymap.Unused, got)
	assert.Contains(t, uitest.Of(s, 120, 20), "F4")

	uitest.Press(s, "alt+l", "c")
	assert.Contains(t, uitest.Of(s, 120, 20), "c is now: callers; Enter takes it from there")
	uitest.Press(s, "esc")
	got, _ = m.Of("c")
	assert.Equal(t, keymap.Callers, got, "it was left there")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+l", "c", "enter")).Say, "c is unused code from now on")
	got, _ = m.Of("c")
	assert.Equal(t, keymap.Unused, got)
	assert.Empty(t, m.Name(keymap.Callers))

	uitest.Press(s, "alt+l", "V")
	assert.Contains(t, uitest.Of(s, 120, 20), "V … press the key for")
	assert.Contains(t, uitest.Last(uitest.Press(s, "u")).Say, "V u is unused code")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+d")).Say, "has its delivered keys again")
	assert.Equal(t, "W u", m.Name(keymap.Unused))
	assert.Equal(t, "[keys]\n", kept())
}

// What a key does, here and in lists, is seen by pressing it.
func TestWhatAKeyDoes(t *testing.T) {
	s, _ := openedWith("")
	uitest.Press(s, "tab")
	assert.Contains(t, uitest.Of(s, 120, 20), "press a key, to see what it does")
	uitest.Press(s, "W", "u")
	assert.Contains(t, uitest.Of(s, 120, 20), "list what nothing in this folder refers to")
	uitest.Press(s, "tab", "esc")
	assert.Equal(t, "F7 does nothing, and can be given to a command", uitest.Last(uitest.Press(s, "tab", "f7")).Say)
	uitest.Press(s, "esc", "tab", "alt+d")
	assert.Contains(t, uitest.Of(s, 120, 20), "the keys it is delivered with")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+l")).Say, "where its keys stay as they are")
}

// The keys of the user's own lie beside their settings; what is wrong with them is told.
func TestLoadingKeys(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "keys.toml"), []byte("[keys]\nback = [\"V\"]\nsnow = [\"x\"]\n"), 0o600))
	k := &keyspage.Keeper{Keys: keymap.Default()}
	problems := k.Load(filepath.Join(dir, "settings.toml"))
	require.Len(t, problems, 2)
	assert.Contains(t, problems[0], `there is no command "snow"`)
	assert.Contains(t, problems[1], "V begins V ")
	assert.Empty(t, (&keyspage.Keeper{}).Load(""))
}
