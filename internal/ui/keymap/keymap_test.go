package keymap

import (
	"os"
	"regexp"
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
	rows, lines := Default().Page(140, 140, 0, &palette.Plain)
	page := regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(strings.Join(rows, "\n"), "")
	assert.Less(t, lines, 140)
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
