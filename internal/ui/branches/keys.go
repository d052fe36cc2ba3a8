package branches

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Open, Shut, Turn, Tests, Keep, Back key.Binding
}{
	Open:  keymap.On("open what is behind it, and go into it", "right"),
	Shut:  keymap.On("close it, or out to what it is below", "left"),
	Turn:  keymap.On("calls the other way round", "tab"),
	Tests: keymap.On("without tests", "alt+t"),
	Keep:  keymap.On("keep as a sweep", "alt+k"),
	Back:  keymap.On("take a letter back", "backspace"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "trees", keymap.Of(on, keymap.Moves, keymap.Ends)
}
