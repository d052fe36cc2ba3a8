package tree

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Right, Left, Only, Back, New, Rename, Delete, Undo, Path, Editor, Shut, Whole, Desktop key.Binding
}{
	Right:   keymap.On("open a folder, go into it", "right"),
	Left:    keymap.On("close it, go out of it", "left"),
	Only:    keymap.On("only what differs from the last commit; again, everything", "tab"),
	Back:    keymap.On("take a letter back", "backspace"),
	New:     keymap.On("something new: a file, or with / a folder", "alt+n"),
	Rename:  keymap.On("rename, move", "alt+r"),
	Delete:  keymap.On("delete, to the trash", "alt+d"),
	Undo:    keymap.On("undo", "alt+u"),
	Path:    keymap.On("copy the path", "alt+p"),
	Editor:  keymap.On("hand it to your editor", "alt+e"),
	Shut:    keymap.On("close all", "alt+c"),
	Whole:   keymap.On("copy the whole path", "alt+a"),
	Desktop: keymap.On("hand it to the desktop", "alt+x"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "folders", keymap.Of(on, keymap.Moves, keymap.Ends)
}
