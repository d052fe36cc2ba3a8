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
	Word:   keymap.Letters.It.On("the word under the caret"),
	Words:  keymap.Letters.Words.On("words"),
	Case:   keymap.Letters.Case.On("case"),
	Regexp: keymap.Letters.Pattern.On("regexp"),
}

// Keys implements surface.Surface.
func (*Search) Keys() (name string, all []key.Binding) {
	return "find in this file", keymap.Of(on, keymap.Ends)
}
