package proposals

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Make, Aside, Function, File, Folder, Mentions, Only, Hand, Diff, Keep, Case, Word, Pattern, Other key.Binding
}{
	Make:     keymap.On("make the change, all of it", "ctrl+s"),
	Aside:    keymap.Letters.Away.On("leave this place out, or take it in again"),
	Function: keymap.Letters.It.On("the same for the function it is in"),
	File:     keymap.Letters.File.On("for the file"),
	Folder:   keymap.Letters.Folder.On("for the folder"),
	Mentions: keymap.Letters.Mentions.On("for all mentions in comments, strings, pages"),
	Only:     keymap.On("only one kind of place, in turn", "tab"),
	Other:    keymap.On("replacing: type what, or by what", "shift+tab"),
	Keep:     keymap.Letters.Shelf.On("keep it for another day, among the others"),
	Case:     keymap.Letters.Case.On("replacing: any case, kept or not, or the same"),
	Word:     keymap.Letters.Words.On("replacing: whole words"),
	Pattern:  keymap.Letters.Pattern.On("replacing: a regular expression, with $1"),
	Hand:     keymap.On("write the line by hand", "ctrl+e"),
	Diff:     keymap.Letters.Hand.On("write it to a file as a unified diff"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "proposal", keymap.Of(on, keymap.Moves, keymap.Ends)
}
