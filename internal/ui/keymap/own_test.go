package keymap

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestReadingKeys(t *testing.T) {
	for text, want := range map[string]string{
		"r": "r", "R": "R", "Ctrl+O": "ctrl+o", "ctrl+o": "ctrl+o", "Alt+R": "alt+r", "V a": "V a", "F2": "f2", "Ctrl+←": "ctrl+left",
		"PgDn": "pgdown", "Space": "space", "Shift+Tab": "shift+tab", "+": "+", "V +": "V +", "Ctrl+E PgUp": "ctrl+e pgup", "é": "é",
	} {
		got, err := ReadKey(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "Esc", "snow", "a b c", "Ctrl+", "V  a"} {
		_, err := ReadKey(text)
		assert.Error(t, err, text)
	}
	for _, b := range Default() { // what is shown can be written
		for _, k := range b.Keys {
			if b.Action != "" {
				got, err := ReadKey(Label(k))
				require.NoError(t, err, k)
				assert.Equal(t, k, got)
			}
		}
	}
}

// A key map is kept and read again; what is wrong in its file is told, and the rest counts.
func TestKeysOfOnesOwn(t *testing.T) {
	file := filepath.Join(t.TempDir(), "keys.toml")
	own, problems := LoadOwn(file)
	assert.Empty(t, own.Keys)
	assert.Empty(t, problems)
	require.NoError(t, os.WriteFile(file, []byte("# mine\n[keys]\nreferences = [\"F2\"] # as elsewhere\n"), 0o600))
	require.NoError(t, KeepOwn(file, []string{"keys"}, Callers, []string{"ctrl+r", "V x"}))
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "# mine\n[keys]\nreferences = [\"F2\"] # as elsewhere\ncallers = [\"Ctrl+R\", \"V x\"]\n", string(data))
	own, problems = LoadOwn(file)
	assert.Empty(t, problems)
	assert.Equal(t, Own{References: {"f2"}, Callers: {"ctrl+r", "V x"}}, own.Keys)
	require.NoError(t, KeepOwn(file, []string{"keys"}, Callers, nil))
	own, _ = LoadOwn(file)
	assert.Len(t, own.Keys, 1)
	require.NoError(t, os.WriteFile(file, []byte("[keys]\nsnow = [\"x\"]\nback = \"b\"\nforward = [\"Esc\"]\nfork = [\"f\"]\n"), 0o600))
	own, problems = LoadOwn(file)
	assert.Equal(t, Own{Fork: {"f"}}, own.Keys)
	require.Len(t, problems, 3)
	assert.ErrorContains(t, problems[0], `keys.toml:2:1: there is no command "snow"`)
	assert.ErrorContains(t, problems[1], "are a list")
	assert.ErrorContains(t, problems[2], "Esc always leads back")
}

// Who had a key that the user gives away loses it; what would hide a family is refused.
func TestTakingKeysOfOnesOwn(t *testing.T) {
	m := Default()
	shared := m
	assert.Empty(t, m.Take(Own{References: {"c", "f2"}, TrailTree: {"A A", "A x"}}))
	for key, want := range map[string]Action{"c": References, "f2": References, "A x": TrailTree} {
		got, ok := shared.Of(key)
		assert.True(t, ok, key)
		assert.Equal(t, want, got, key)
	}
	_, ok := m.Of("r")
	assert.False(t, ok, "it is not that any more")
	assert.Empty(t, m.Name(Callers))
	assert.Equal(t, "c shows them", m.Fill(Marked("{references} shows them"), false))
	assert.Equal(t, []string{"c"}, Delivered(Callers), "what is delivered stays known")
	problems := m.Take(Own{Back: {"V"}, Forward: {"d x"}})
	require.Len(t, problems, 2)
	assert.Contains(t, problems[0], "V begins V ")
	holder, ok := Default().Holder(References, "c")
	assert.True(t, ok)
	assert.Equal(t, Callers, holder.Action)
	_, ok = Default().Holder(References, "f2")
	assert.False(t, ok)
	_, ok = Default().Holder(LineUp, "alt+down")
	assert.True(t, ok)
}

// Keys that hold somewhere only, and commands of one's own, are read; what is wrong with them is told.
func TestAllThatIsOnesOwn(t *testing.T) {
	file := filepath.Join(t.TempDir(), "keys.toml")
	require.NoError(t, os.WriteFile(file, []byte(`[keys]
"own:all done" = ["F8"]

[write]
definition = ["F12"]

[files."*.md"]
outline = ["F2"]

[lists]
"Ctrl+J" = "↓"
[lists.places]
"Ctrl+R" = "Alt+T"

[commands."all done"]
does = ["save-all", "close-all", "Ctrl+Q"]

[commands.note]
keys = ["F9"]
text = "// NOTE: {}"
`), 0o600))
	own, problems := LoadOwn(file)
	require.Empty(t, problems)
	a, _ := own.InWrite("f12")
	assert.Equal(t, Definition, a)
	a, _ = own.InFile("docs/overview.md", "f2")
	assert.Equal(t, Outline, a)
	assert.Equal(t, "alt+t", own.InList("places", "ctrl+r"))
	assert.Equal(t, "down", own.InList("places", "ctrl+j"))
	assert.Equal(t, "ctrl+r", own.InList("outline", "ctrl+r"))

	m := append(Default(), own.Bindings()...)
	assert.Empty(t, m.Take(own.AllKeys()))
	for key, name := range map[string]string{"f8": "all done", "f9": "note"} {
		a, ok := m.Of(key)
		assert.True(t, ok)
		assert.Equal(t, name, a.Naming().Name)
	}
	assert.Contains(t, m.Finder().Named("all done")[0].Title, "save-all, close-all")

	for text, want := range map[string]string{
		"[snow]\nx = 1\n":                       "snow.x is not known",
		"[files.\"[\"]\nback = [\"x\"]\n":       "is no pattern",
		"[lists]\nx = \"snowfall\"\n":           "is a key of theirs",
		"[commands.a]\ndoes = [\"snowfall\"]\n": "is no command, nor a key",
		"[commands.a]\ncolour = \"red\"\n":      "a command has keys",
		"[keys]\n\"own:climb\" = [\"F3\"]\n":    "there is no command",
		"[commands.a]\nkeys = [\"Esc\"]\n":      "Esc always leads back",
		"[write]\nbold = [\"F3\"]\n":            "there is no command",
	} {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		_, problems := LoadOwn(file)
		require.Len(t, problems, 1, text)
		assert.ErrorContains(t, problems[0], want)
	}
}
