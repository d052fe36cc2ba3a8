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
	Note:   keymap.Letters.Note.On("note"),
	Name:   keymap.Letters.Rename.On("a name; of a trail, too"),
	Star:   keymap.Letters.Tick.On("star"),
	Cut:    keymap.Letters.Away.On("cut away; a trail: forget"),
	Uncut:  keymap.Letters.Undo.On("bring back what was cut away"),
	Trails: keymap.Letters.Shelf.On("the trails; again, the stops"),
	Guide:  keymap.Letters.Guide.On("walk through"),
	Export: keymap.Letters.Hand.On("write to a file"),
	Unfold: keymap.On("open a side path", "right"),
	Fold:   keymap.On("fold a side path", "left"),
	Begin:  keymap.Letters.Begin.On("begin another trail here"),
	Join:   keymap.Letters.Join.On("take a trail into this one"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "trail", keymap.Of(on, keymap.Moves, keymap.Ends)
}
