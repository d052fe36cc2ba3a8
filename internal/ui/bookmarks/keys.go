package bookmarks

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Letter, Note, Remove, Undo, Up, Down, Move, Lists, ByFile, Guide, Export, Rename, Join, Share, Copy, Filter, Close, Unletter key.Binding
}{
	Letter:   keymap.On("give it a letter", "alt+l"),
	Note:     keymap.On("note; in the lists: a new one", "alt+n"),
	Remove:   keymap.On("take away; a list: forget", "alt+d"),
	Undo:     keymap.On("bring back what was taken away", "alt+u"),
	Up:       keymap.On("up in the order", "alt+up"),
	Down:     keymap.On("down in the order", "alt+down"),
	Move:     keymap.On("to another list", "alt+m"),
	Lists:    keymap.On("the lists; again, the bookmarks", "alt+s"),
	ByFile:   keymap.On("in the order of the files, or its own", "alt+o"),
	Guide:    keymap.On("walk through", "alt+g"),
	Export:   keymap.On("write to a file", "alt+x"),
	Rename:   keymap.On("a list: rename", "alt+r"),
	Join:     keymap.On("a list: join to the present one", "alt+j"),
	Share:    keymap.On("a list: share it in the repository", "alt+h"),
	Copy:     keymap.On("a list: copy it", "alt+c"),
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
