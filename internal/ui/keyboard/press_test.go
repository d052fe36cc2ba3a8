package keyboard_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/keyboard"
)

// A press is called by the name by which it was asked for.
func TestPress(t *testing.T) {
	for _, name := range []string{"r", "R", "?", "alt+k", "alt+?", "ctrl+s", "ctrl+pgup", "shift+left", "shift+tab", "f1", "f12", "space", "ctrl+space", "enter", "esc", "alt+up", "delete", "+", "é"} {
		assert.Equal(t, name, keyboard.Press(name).String())
	}
	assert.Equal(t, "r", keyboard.Press("r").Text)
	assert.Equal(t, " ", keyboard.Press("space").Text)
	assert.Empty(t, keyboard.Press("alt+r").Text, "nothing is typed")
}
