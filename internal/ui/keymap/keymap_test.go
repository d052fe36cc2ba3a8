package keymap

import (
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/palette"
)

func TestEveryKeyDoesOneThing(t *testing.T) {
	seen := map[string]Action{}
	for _, b := range Default() {
		assert.Contains(t, Groups(), b.Group)
		if b.Action == "" {
			continue
		}
		for _, k := range b.Keys {
			stance, of := "roam ", Default().Of
			if b.Group == Writing && b.Action != Write {
				stance, of = "write ", Default().OfWrite
			}
			assert.Empty(t, seen[stance+k], k)
			seen[stance+k] = b.Action
			a, ok := of(k)
			assert.True(t, ok && a == b.Action, k)
		}
	}
	_, ok := Default().Of("alt+t")
	assert.False(t, ok, "what only a list knows is no key of roam")
}

// Some keys cannot be told apart on every terminal, or begin other sequences.
func TestKeysThatEveryTerminalHas(t *testing.T) {
	for _, b := range Default() {
		for _, k := range b.Keys {
			assert.NotRegexp(t, `^(alt\+\[|alt\+O|ctrl\+(i|m|\[|h)|ctrl\+shift\+.*)$`, k)
		}
	}
}

func TestThePageAndTheDocsNameEverything(t *testing.T) {
	docs, err := os.ReadFile("../../../docs/keys.md")
	require.NoError(t, err)
	rows, lines := Default().Page(140, 150, 0, &palette.Plain)
	page := regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(strings.Join(rows, "\n"), "")
	assert.Less(t, lines, 150)
	for _, b := range Default() {
		if len(b.Keys) == 0 {
			continue
		}
		assert.Contains(t, page, b.Title)
		assert.Contains(t, string(docs), Label(b.Keys[0]), b.Title)
	}
	for _, r := range strings.Split(page, "\n") {
		assert.Len(t, []rune(r), 140)
	}
}

func TestLabels(t *testing.T) {
	for key, want := range map[string]string{"space": "Space", "ctrl+q": "Ctrl+Q", "ctrl+left": "Ctrl+←", "F": "F", "alt+r": "Alt+R", "pgdown": "PgDn"} {
		assert.Equal(t, want, Label(key))
	}
}

// A capital is the sister of a small letter that does something, or begins a family of two keys.
func TestCapitals(t *testing.T) {
	m := Default()
	families := map[string]bool{}
	for _, b := range m {
		for _, k := range b.Keys {
			if first, _, two := strings.Cut(k, " "); two && len(first) == 1 {
				families[first] = true
			}
		}
	}
	for _, b := range m {
		for _, k := range b.Keys {
			if len(k) != 1 || k[0] < 'A' || k[0] > 'Z' {
				continue
			}
			assert.False(t, families[k], "%s begins a family", k)
			_, sister := m.Of(strings.ToLower(k))
			assert.True(t, sister, "%s: %s has no small letter beside it", k, b.Title)
		}
	}
	for f := range families {
		assert.Regexp(t, "^[A-Z]$", f)
	}
}

// No key does two things, and the second keys of a family are those of its list.
func TestNoKeyDoesTwoThings(t *testing.T) {
	does := map[string]string{}
	for _, b := range Default() {
		for _, k := range b.Keys {
			if b.Action == "" || b.Group == Writing && !inRoam(b.Action) {
				continue
			}
			assert.Empty(t, does[k], "%s", k)
			does[k] = b.Title
		}
	}
}

// Every command has a name of its own, what it does, and what else people call it.
func TestEveryCommandHasAName(t *testing.T) {
	names := map[string]Action{}
	for _, b := range Default() {
		if b.Action == "" {
			continue
		}
		n := b.Action.Naming()
		assert.NotEmpty(t, n.Name, b.Action)
		assert.NotEmpty(t, n.Phrases, b.Action)
		assert.NotEmpty(t, b.Title, b.Action)
		assert.Empty(t, names[n.Name], "two commands are called %s", n.Name)
		names[n.Name] = b.Action
	}
	for a := range namings {
		assert.True(t, slices.ContainsFunc(Default(), func(b Binding) bool { return b.Action == a }), "%s is no command", a)
	}
}

// Messages name keys as they are; what stands in braces otherwise is left alone.
func TestMessagesNameKeys(t *testing.T) {
	m := Default()
	words := Marked("{back} goes back, {sweep} shows it, {palette} {snow} {")
	assert.Equal(t, "b goes back, W W shows it, Space and “light or dark” {snow} {", m.Fill(words, false))
	assert.Equal(t, "Alt+B goes back", m.Fill(Marked("{back} goes back"), true))
	assert.Equal(t, "Ctrl+S saves", m.Fill(Marked("{save} saves"), true))
	assert.Equal(t, "{back}", m.Fill("{back}", false), "only the words of the program are marked")
}

// A key that does nothing leads on all the same: to what is meant by it, or to where that is found.
func TestAKeyThatDoesNothing(t *testing.T) {
	m := Default()
	assert.Equal(t, "Ctrl+F does nothing here; / is “find in this file”", m.Nothing("ctrl+f", false))
	assert.Equal(t, "Ctrl+F does nothing in write; Alt+/ is “find in this file”", m.Nothing("ctrl+f", true))
	assert.Equal(t, "% does nothing here; Space finds a command by its name, ? shows the keys", m.Nothing("%", false))
	assert.Equal(t, "F9 does nothing in write; Esc leads back to roam", m.Nothing("f9", true))
	for k, a := range guesses {
		_, taken := m.Of(k)
		assert.False(t, taken, k)
		assert.NotEmpty(t, a.Naming().Name, k)
	}
}
