package outline

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Kind, Order key.Binding
}{
	Kind:  keymap.On("only types, functions, values or imports, in turn", "tab"),
	Order: keymap.Letters.Order.On("by name, or as in the file"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "outline", keymap.Of(on, keymap.Moves, keymap.Ends)
}
