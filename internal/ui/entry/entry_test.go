package entry_test

import (
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/entry"
)

func TestKeysThatDeleteWordsAreHarmless(t *testing.T) {
	for _, text := range []string{"", " ", "ab ", "ab  cd  "} {
		in := entry.New()
		in.SetValue(text)
		for position := range len(text) + 1 {
			in.SetCursor(position)
			for _, k := range []tea.KeyPressMsg{{Code: 'd', Mod: tea.ModAlt}, {Code: tea.KeyDelete, Mod: tea.ModAlt}} {
				assert.NotPanics(t, func() { in, _ = in.Update(k) }, "%q at %d", text, position)
			}
		}
		in.CursorEnd()
		for range len(text) + 1 {
			in, _ = in.Update(tea.KeyPressMsg{Code: 'w', Mod: tea.ModCtrl})
		}
		assert.Empty(t, in.Value())
	}
}
