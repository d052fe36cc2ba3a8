package crumbs

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Left, Right key.Binding
}{
	Left:  keymap.On("the crumb before", "left"),
	Right: keymap.On("the next crumb, or into a folder", "right"),
}

// Keys implements surface.Surface.
func (*Model) Keys() (name string, all []key.Binding) {
	return "breadcrumbs", keymap.Of(on, keymap.Moves, keymap.Ends)
}
