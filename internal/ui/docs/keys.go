package docs

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Down, Up, PageDown, PageUp, First, Last, Go, Close key.Binding
}{
	Down:     keymap.On("a line on", "down", "j"),
	Up:       keymap.On("a line back", "up", "k"),
	PageDown: keymap.On("a page on", "pgdown", "space"),
	PageUp:   keymap.On("a page back", "pgup"),
	First:    keymap.On("to the beginning", "home"),
	Last:     keymap.On("to the end", "end"),
	Go:       keymap.On("go to its definition", "enter", "d"),
	Close:    keymap.On("close it", "esc", "q", "y"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "documentation", keymap.Of(on) }
