package overlook

import (
	"charm.land/bubbles/v2/key"

	"rooktrail/internal/ui/keymap"
)

// on are the keys that only this surface has.
var on = struct {
	Up, Down, Left, Right, Along, Against, Behind, More, Less, Larger, Smaller, First, Last, PageUp, PageDown, ScrollUp, ScrollDown, ScrollLeft, ScrollRight, Tests, Libraries, Since, Away, Undo, Again, Other, Group, Copy, Hand, Back key.Binding
}{
	Up:          keymap.On("to the box above", "up"),
	Down:        keymap.On("to the box below", "down"),
	Left:        keymap.On("to the box on the left", "left"),
	Right:       keymap.On("to the box on the right", "right"),
	Along:       keymap.On("along a line; again, along the next", "tab"),
	Against:     keymap.On("along the lines the other way round", "shift+tab"),
	Behind:      keymap.On("open or close what lies behind the box", "space"),
	More:        keymap.On("a step deeper", "+"),
	Less:        keymap.On("a step less", "-"),
	Larger:      keymap.On("more in each box", ">"),
	Smaller:     keymap.On("less in each box", "<"),
	First:       keymap.On("to what was asked about", "home"),
	Last:        keymap.On("to the last box", "end"),
	PageUp:      keymap.On("a page up", "pgup"),
	PageDown:    keymap.On("a page down", "pgdown"),
	ScrollUp:    keymap.On("scroll up", "shift+up"),
	ScrollDown:  keymap.On("scroll down", "shift+down"),
	ScrollLeft:  keymap.On("scroll to the left", "shift+left"),
	ScrollRight: keymap.On("scroll to the right", "shift+right"),
	Tests:       keymap.Letters.Tests.On("with tests, without"),
	Libraries:   keymap.On("with libraries, without", "*"),
	Since:       keymap.Letters.Edited.On("of imports: those that are new stand out, or not"),
	Away:        keymap.Letters.Away.On("leave out the folder of the box"),
	Undo:        keymap.Letters.Undo.On("take in again what was left out"),
	Again:       keymap.Letters.Again.On("draw it again"),
	Other:       keymap.Letters.Shelf.On("another drawing, from this box"),
	Group:       keymap.Letters.Order.On("together by file, by folder, by day"),
	Copy:        keymap.Letters.Copy.On("copy the place of the box"),
	Hand:        keymap.Letters.Hand.On("write it to a file"),
	Back:        keymap.On("take a letter back", "backspace"),
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "drawings", keymap.Of(on, keymap.Ends)
}
