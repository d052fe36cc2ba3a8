package branches

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Open, Shut, Turn, Tests, Here, Keep, Back key.Binding
}{
	Open:  keymap.On("open it, and go into it", "right"),
	Shut:  keymap.On("close it, or out to what it is below", "left"),
	Turn:  keymap.On("the other way round, in turn", "tab"),
	Tests: keymap.Letters.Tests.On("without tests"),
	Here:  keymap.Letters.Folder.On("without what is outside the project"),
	Keep:  keymap.Letters.Keep.On("keep as a sweep"),
	Back:  keymap.On("take a letter back", "backspace"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "trees", keymap.Of(on, keymap.Moves, keymap.Ends)
}
