package compare

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Next, Previous, PageDown, PageUp, Left, Right, Both, AllLeft, AllRight, Take, Leave key.Binding
}{
	Next:     keymap.On("the next place", "down", "n", "j"),
	Previous: keymap.On("the place before", "up", "p", "k"),
	PageDown: keymap.On("a page on", "pgdown"),
	PageUp:   keymap.On("a page back", "pgup"),
	Left:     keymap.On("take left", "left"),
	Right:    keymap.On("take right", "right"),
	Both:     keymap.On("both", "b"),
	AllLeft:  keymap.On("all left", "h", "shift+left"),
	AllRight: keymap.On("all right", "l", "shift+right"),
	Take:     keymap.On("let that stand", "enter"),
	Leave:    keymap.On("leave it", "esc", "q"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "comparison", keymap.Of(on) }
