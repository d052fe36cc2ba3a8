package places

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Role, Tests, Folder, Mentions, Keep key.Binding
}{
	Role:     keymap.On("only what reads, writes, calls, in turn", "tab"),
	Tests:    keymap.On("without tests, only tests", "alt+t"),
	Folder:   keymap.On("only this folder, then those around it", "alt+f"),
	Mentions: keymap.On("mentions, too: in comments, strings, pages", "alt+m"),
	Keep:     keymap.On("keep as a sweep", "alt+k"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "places", keymap.Of(on, keymap.Moves, keymap.Ends)
}
