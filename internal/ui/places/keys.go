package places

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Role, Tests, Folder, Possible, Mentions, Keep key.Binding
}{
	Role:     keymap.On("only what reads, writes, calls, in turn", "tab"),
	Tests:    keymap.Letters.Tests.On("without tests, only tests"),
	Folder:   keymap.Letters.Folder.On("only this project, this folder, those around it"),
	Possible: keymap.Letters.Possible.On("what has the name and could be meant, too"),
	Mentions: keymap.Letters.Mentions.On("mentions, too: in comments, strings, pages"),
	Keep:     keymap.Letters.Keep.On("keep as a sweep"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "places", keymap.Of(on, keymap.Moves, keymap.Ends)
}
