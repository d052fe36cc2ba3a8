package choice

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Down, Up, PageDown, PageUp, First, Last, Take, Close key.Binding
}{
	Down:     keymap.On("choose the next", "down", "j"),
	Up:       keymap.On("choose the one before", "up", "k"),
	PageDown: keymap.On("a page on", "pgdown"),
	PageUp:   keymap.On("a page back", "pgup"),
	First:    keymap.On("to the first", "home"),
	Last:     keymap.On("to the last", "end"),
	Take:     keymap.On("do it", "enter"),
	Close:    keymap.On("back as it was", "esc", "q"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "short lists", keymap.Of(on) }
