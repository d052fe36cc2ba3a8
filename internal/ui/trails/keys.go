package trails

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Only, Note, Name, Star, Cut, Uncut, Trails, Guide, Export, Unfold, Fold, Begin, Join key.Binding
}{
	Only:   keymap.On("only starred, edited, of this file, in turn", "tab"),
	Note:   keymap.On("note", "alt+n"),
	Name:   keymap.On("a name; of a trail, too", "alt+r"),
	Star:   keymap.On("star", "alt+a"),
	Cut:    keymap.On("cut away; a trail: forget", "alt+d"),
	Uncut:  keymap.On("bring back what was cut away", "alt+u"),
	Trails: keymap.On("the trails; again, the stops", "alt+s"),
	Guide:  keymap.On("walk through", "alt+g"),
	Export: keymap.On("write to a file", "alt+x"),
	Unfold: keymap.On("open a side path", "right"),
	Fold:   keymap.On("fold a side path", "left"),
	Begin:  keymap.On("begin another trail here", "alt+b"),
	Join:   keymap.On("take a trail into this one", "alt+j"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "trail", keymap.Of(on, keymap.Moves, keymap.Ends)
}
