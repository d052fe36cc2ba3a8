package keyspage

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Down, Up, PageDown, PageUp, First, Last, Take, Give, Away, Press, Typed, Files, Close, Again key.Binding
}{
	Down:     keymap.On("scroll down, or choose the next", "down"),
	Up:       keymap.On("scroll up, or choose the one before", "up"),
	PageDown: keymap.On("a page on", "pgdown"),
	PageUp:   keymap.On("a page back", "pgup"),
	First:    keymap.On("to the first", "home"),
	Last:     keymap.On("to the last", "end"),
	Take:     keymap.On("do what is chosen", "enter"),
	Give:     keymap.Letters.Letter.On("give the chosen command a key, by pressing it"),
	Away:     keymap.Letters.Away.On("the keys it is delivered with; with nothing typed, all of them"),
	Press:    keymap.On("what a key does: press it then", "tab"),
	Typed:    keymap.On("when a key is given: only where letters are typed", "w"),
	Files:    keymap.On("when a key is given: only in files like this one", "f"),
	Close:    keymap.On("all keys, then close the page", "esc"),
	Again:    keymap.On("close the page, with nothing typed", "?"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "page of keys", keymap.Of(on) }
