package settingspage

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Next, Before, Take, Away, Undo, Close key.Binding
}{
	Next:   keymap.On("the next value", "right"),
	Before: keymap.On("the value before", "left"),
	Take:   keymap.On("change it", "enter"),
	Away:   keymap.Letters.Away.On("as it is by default"),
	Undo:   keymap.Letters.Undo.On("undo the last change"),
	Close:  keymap.On("all settings, then close the page", "esc"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "settings", keymap.Of(on, keymap.Moves)
}
