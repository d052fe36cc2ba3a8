package runs

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that do not go to what is run while one is inside.
var on = struct{ Out, Shell, Up, Down key.Binding }{
	keymap.On("back to the code; what runs goes on", "f6"), keymap.On("close the shell, which goes on", "f4"),
	keymap.On("back in what was printed", "shift+pgup"), keymap.On("on again", "shift+pgdown"),
}

// Keys are those that work inside, and what to call them on the page of keys.
func (m *Model) Keys() (name string, all []key.Binding) { return "in a run", keymap.Of(on) }
