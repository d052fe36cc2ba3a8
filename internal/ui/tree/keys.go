package tree

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Right, Left, Only, Back, New, Rename, Delete, Undo, Path, Hand, Shut key.Binding
}{
	Right:  keymap.On("open a folder, go into it", "right"),
	Left:   keymap.On("close it, go out of it", "left"),
	Only:   keymap.On("only what differs from the last commit; again, everything", "tab"),
	Back:   keymap.On("take a letter back", "backspace"),
	New:    keymap.Letters.Begin.On("something new: a file, or with / a folder"),
	Rename: keymap.Letters.Rename.On("rename, move"),
	Delete: keymap.Letters.Away.On("delete, to the trash"),
	Undo:   keymap.Letters.Undo.On("undo"),
	Path:   keymap.Letters.Copy.On("copy the path; again, the whole path"),
	Hand:   keymap.Letters.Hand.On("hand it to your editor, or to the desktop"),
	Shut:   keymap.On("close all", "alt+left"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "folders", keymap.Of(on, keymap.Moves, keymap.Ends)
}
