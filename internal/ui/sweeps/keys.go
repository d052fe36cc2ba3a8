package sweeps

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Tick, Aside, File, Folder, Note, Only, Again, Rename, Sweeps, Copy key.Binding
}{
	Tick:   keymap.Letters.Tick.On("done, or not after all"),
	Aside:  keymap.Letters.Away.On("set aside, or bring back; a sweep: forget"),
	File:   keymap.Letters.File.On("set the file aside"),
	Folder: keymap.Letters.Folder.On("set the folder aside"),
	Note:   keymap.Letters.Note.On("note"),
	Only:   keymap.On("only to do, done, aside, in turn", "tab"),
	Again:  keymap.Letters.Again.On("ask again"),
	Rename: keymap.Letters.Rename.On("a sweep: rename"),
	Sweeps: keymap.Letters.Shelf.On("other sweeps; again, the present one"),
	Copy:   keymap.Letters.Copy.On("copy as a checklist"),
}

// keep is the key that keeps a list as a sweep.
var keep = keymap.Letters.Keep.On("").Help().Key

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "sweep", keymap.Of(on, keymap.Moves, keymap.Ends)
}
