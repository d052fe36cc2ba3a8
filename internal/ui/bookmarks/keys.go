package bookmarks

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Letter, Note, Remove, Undo, Up, Down, Begin, Lists, ByFile, Guide, Export, Rename, Join, Share, Copy, Filter, Close, Unletter key.Binding
}{
	Letter:   keymap.Letters.Letter.On("give it a letter"),
	Note:     keymap.Letters.Note.On("note"),
	Remove:   keymap.Letters.Away.On("take away; a list: forget"),
	Undo:     keymap.Letters.Undo.On("bring back what was taken away"),
	Up:       keymap.On("up in the order", "alt+up"),
	Down:     keymap.On("down in the order", "alt+down"),
	Begin:    keymap.Letters.Begin.On("a list: begin a new one"),
	Lists:    keymap.Letters.Shelf.On("the lists; again, the bookmarks"),
	ByFile:   keymap.Letters.Order.On("in the order of the files, or its own"),
	Guide:    keymap.Letters.Guide.On("walk through"),
	Export:   keymap.Letters.Hand.On("write to a file"),
	Rename:   keymap.Letters.Rename.On("a list: rename"),
	Join:     keymap.Letters.Join.On("to another list; a list: all of it into the present one"),
	Share:    keymap.Letters.Share.On("a list: share it in the repository"),
	Copy:     keymap.Letters.Copy.On("a list: copy it"),
	Filter:   keymap.On("narrow by typing", "/", "space"),
	Close:    keymap.On("close the list", ";"),
	Unletter: keymap.On("at the question for a letter: none", "backspace", "delete"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "bookmarks", keymap.Of(on, keymap.Moves, keymap.Ends)
}

// Keys implements surface.Surface.
func (*letterLine) Keys() (name string, all []key.Binding) {
	return "letter of a bookmark", keymap.Of(struct{ Close key.Binding }{keymap.Ends.Close})
}
