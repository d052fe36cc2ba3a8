package sweeps

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Tick, Aside, File, Folder, Note, Only, Again, Sweeps, Copy key.Binding
}{
	Tick:   keymap.On("done, or not after all", "alt+d"),
	Aside:  keymap.On("set aside, or bring back", "alt+a"),
	File:   keymap.On("set the file aside", "alt+f"),
	Folder: keymap.On("set the folder aside", "alt+o"),
	Note:   keymap.On("note", "alt+n"),
	Only:   keymap.On("only left, done, aside, in turn", "tab"),
	Again:  keymap.On("ask again; a sweep: rename", "alt+r"),
	Sweeps: keymap.On("other sweeps; again, the present one", "alt+s"),
	Copy:   keymap.On("copy as a checklist", "alt+x"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "sweep", keymap.Of(on, keymap.Moves, keymap.Ends)
}
