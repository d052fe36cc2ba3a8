package entry_test

import (
	"fmt"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
)

func TestKeysThatDeleteWordsAreHarmless(t *testing.T) {
	for _, text := range []string{"", " ", "ab ", "ab  cd  "} {
		in := entry.New()
		in.SetValue(text)
		for position := range len(text) + 1 {
			in.SetCursor(position)
			for _, k := range []tea.KeyPressMsg{{Code: 'd', Mod: tea.ModAlt}, {Code: tea.KeyDelete, Mod: tea.ModAlt}} {
				assert.NotPanics(t, func() { in.Edit(k) }, "%q at %d", text, position)
			}
		}
		in.CursorEnd()
		for range len(text) + 1 {
			in.Edit(tea.KeyPressMsg{Code: 'w', Mod: tea.ModCtrl})
		}
		assert.Empty(t, in.Value())
	}
}

func TestEditing(t *testing.T) {
	in := entry.New()
	assert.True(t, in.Edit(tea.KeyPressMsg{Code: 'a', Text: "a"}))
	assert.False(t, in.Edit(tea.KeyPressMsg{Code: tea.KeyLeft}))
	assert.True(t, in.Edit(tea.PasteMsg{Content: "snow "}))
	assert.Equal(t, "snow a", in.Value())
	assert.False(t, in.Edit(tea.KeyPressMsg{Code: 'v', Mod: tea.ModCtrl}), "the clipboard is not for a line to fetch")
	in.Put("hut")
	in.Edit(tea.KeyPressMsg{Code: 's', Text: "s"})
	assert.Equal(t, "huts", in.Value())
}

// Wherever the caret stands in what is typed, it is in sight, on the character it stands on in
// the text.
func TestTheCaretIsInSight(t *testing.T) {
	for _, text := range []string{"", "hut", "internal/dispatch/roster.go", strings.Repeat("雪山", 12), "ab" + strings.Repeat("é", 30), "日a本b語c小d屋e雪f崩g山h"} {
		for columns := 8; columns < 40; columns++ {
			in := entry.New()
			in.SetValue(text)
			runes := []rune(text)
			for position := range len(runes) + 1 {
				in.SetCursor(position)
				part, caret := in.Shown(columns)
				what := fmt.Sprintf("%q at %d in %d columns: %q, %d", text, position, columns, part, caret)
				assert.Less(t, ink.Width(part), columns, what)
				require.True(t, caret >= 0 && caret < columns, what)
				if ink.Width(text) < columns {
					assert.Equal(t, text, part, what)
				}
				rest, next := behind(part, caret), string(runes[position:])
				if rest != "" && rest != "…" {
					assert.Equal(t, []rune(next)[0], []rune(rest)[0], what)
				} else if rest == "" {
					assert.Empty(t, next, what)
				}
			}
		}
	}
}

// behind is what stands in a text from a column on.
func behind(text string, column int) string {
	at := 0
	for i, r := range text {
		if at >= column {
			return text[i:]
		}
		at += ink.Width(string(r))
	}
	return ""
}

func TestALineBehindAPrompt(t *testing.T) {
	in := entry.New()
	in.Put("roster.go")
	part, column := in.Behind("  look for  ", 40)
	assert.Equal(t, "roster.go", part)
	assert.Equal(t, 12+9, column)
	part, column = in.Behind("  look for  ", 20)
	assert.Equal(t, "…ter.go", part)
	assert.Equal(t, 12+7, column)
	in.CursorStart()
	part, column = in.Behind("  look for  ", 20)
	assert.Equal(t, 12, column)
	assert.True(t, strings.HasPrefix(part, "ro"), part)
}
