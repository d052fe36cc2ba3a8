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
	assert.Equal(t, "F9 is unused code from now on", uitest.Last(uitest.Press(s, "f9", "enter")).Say)
	assert.Equal(t, "[keys]\nunused = [\"F9\", \"W u\"]\n", kept())
	got, _ := m.Of("f9")
	assert.Equal(t, keymap.Unused, got)
	assert.Contains(t, uitest.Of(s, 120, 20), "F9")

	uitest.Press(s, "alt+l", "c", "enter")
	assert.Contains(t, uitest.Of(s, 120, 20), "c is now: callers; Enter takes it from there")
	uitest.Press(s, "esc")
	got, _ = m.Of("c")
	assert.Equal(t, keymap.Callers, got, "it was left there")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+l", "c", "enter", "enter")).Say, "c is unused code from now on")
	got, _ = m.Of("c")
	assert.Equal(t, keymap.Unused, got)
	assert.Empty(t, m.Name(keymap.Callers))

	uitest.Press(s, "alt+l", "V")
	assert.Contains(t, uitest.Of(s, 120, 20), "V … press the key for")
	assert.Contains(t, uitest.Last(uitest.Press(s, "u", "enter")).Say, "V u is unused code")
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
}

// A key can hold only where letters are typed, only in files of an ending, or in a list; all can be taken back.
func TestWhereAKeyHolds(t *testing.T) {
	file := filepath.Join(t.TempDir(), "keys.toml")
	s, m := openedWith(file)
	kept := func() string {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		return string(data)
	}
	uitest.Press(s, "dead code", "alt+l", "f9")
	assert.Contains(t, uitest.Of(s, 120, 20), "F9: Enter everywhere; w only where letters are typed; f only in *.go; Esc not")
	assert.Equal(t, "F9 is unused code from now on, in *.go files", uitest.Last(uitest.Press(s, "f")).Say)
	assert.Equal(t, "F7 is unused code from now on, where letters are typed", uitest.Last(uitest.Press(s, "alt+l", "f7", "w")).Say)
	uitest.Press(s, "alt+l", "ctrl+s", "w")
	assert.Contains(t, uitest.Of(s, 120, 20), "Ctrl+S is now: save", "what it is there is asked about first")
	uitest.Press(s, "esc", "alt+l", "c", "f")
	assert.Contains(t, uitest.Of(s, 120, 20), "c is now: callers; Enter takes it from there")
	uitest.Press(s, "esc")
	uitest.Press(s, "esc", "what a key does", "alt+l", "alt+l")
	assert.Contains(t, uitest.Of(s, 120, 20), "Alt+L is now: give the chosen command a key")
	uitest.Press(s, "esc", "alt+l")
	assert.Contains(t, uitest.Of(s, 120, 20), "press the key for: Tab in the list: page of keys")
	assert.Contains(t, uitest.Last(uitest.Press(s, "f9")).Say, "F9 stands for Tab from now on, in the list: page of keys")
	assert.Equal(t, "[files.\"*.go\"]\nunused = [\"F9\"]\n\n[write]\nunused = [\"F7\"]\n\n[lists.\"page of keys\"]\nF9 = \"Tab\"\n", kept())
	own, problems := keymap.LoadOwn(file)
	assert.Empty(t, problems)
	a, ok := own.InFile("dispatch/desk.go", "f9")
	assert.True(t, ok && a == keymap.Unused)
	_, ok = own.InFile("risk/model.py", "f9")
	assert.False(t, ok)
	assert.Equal(t, "tab", own.InList("page of keys", "f9"))

	_, ok = m.Of("f9")
	assert.False(t, ok, "elsewhere it does nothing")
	uitest.Press(s, "esc", "alt+d")
	assert.Contains(t, uitest.Of(s, 120, 20), "all keys as they are delivered?")
	assert.Contains(t, uitest.Last(uitest.Press(s, "enter")).Say, "all keys are as they are delivered")
	own, _ = keymap.LoadOwn(file)
	assert.Empty(t, own.Keys)
	assert.Empty(t, own.Lists)
}

// What cannot be of the keys of the user's own is told.
func TestLoadingKeys(t *testing.T) {
	k := &keyspage.Keeper{Keys: keymap.Default(), Own: &keymap.Owned{Keys: keymap.Own{keymap.Back: {"V"}}}}
	problems := k.Load("keys.toml")
	require.Len(t, problems, 1)
	assert.Contains(t, problems[0], "V begins V ")
}
