package reading

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Down, Up, Word, Words, Case, Regexp key.Binding
}{
	Down:   keymap.On("the next place", "down", "ctrl+n"),
	Up:     keymap.On("the place before", "up", "ctrl+p"),
	Word:   keymap.On("the word under the caret", "tab"),
	Words:  keymap.On("words", "alt+w"),
	Case:   keymap.On("case", "alt+c"),
	Regexp: keymap.On("regular", "alt+r"),
}

// Keys implements surface.Surface.
func (*Search) Keys() (name string, all []key.Binding) {
	return "find in this file", keymap.Of(on, keymap.Ends)
}
