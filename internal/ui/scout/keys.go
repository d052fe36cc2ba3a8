package scout

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Wide, Regexp, Words, Case, Keep, Edited, Again, Next key.Binding
}{
	Wide:   keymap.On("only this lane; again, all lanes", "tab"),
	Regexp: keymap.On("text: a regular expression", "alt+r"),
	Words:  keymap.On("text: whole words", "alt+w"),
	Case:   keymap.On("text: the same case", "alt+c"),
	Keep:   keymap.On("keep all places of the text as a sweep", "alt+k"),
	Edited: keymap.On("with nothing typed: only where something was changed", "alt+e"),
	Again:  keymap.On("choose the next, round at the end", "ctrl+space"),
	Next:   keymap.On("with nothing typed: the next of the recent files", "space"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "scout", keymap.Of(on, keymap.Moves, keymap.Ends)
}
