package scout

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Wide, Regexp, Words, Case, Keep, Edited, It, Again, Next key.Binding
}{
	Wide:   keymap.On("only this kind of answer; again, all", "tab"),
	Regexp: keymap.Letters.Pattern.On("text: a regular expression"),
	Words:  keymap.Letters.Words.On("text: whole words"),
	Case:   keymap.Letters.Case.On("text: the same case"),
	Keep:   keymap.Letters.Keep.On("keep all places of the text as a sweep"),
	Edited: keymap.Letters.Edited.On("with nothing typed: only where something was changed"),
	It:     keymap.Letters.It.On("the name under the caret"),
	Again:  keymap.On("choose the next, round at the end", "ctrl+space"),
	Next:   keymap.On("with nothing typed: the next of the recent files", "space"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "scout", keymap.Of(on, keymap.Moves, keymap.Ends)
}
