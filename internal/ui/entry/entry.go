// Package entry is the line one types in, as all surfaces have it.
package entry

import (
	"charm.land/bubbles/v2/key"
	"charm.land/bubbles/v2/textinput"
)

// New makes an empty line that takes keys. The terminal's own cursor stands in
// it, which need not be drawn to blink.
func New() textinput.Model {
	in := textinput.New()
	in.Prompt = ""
	in.SetVirtualCursor(false)
	// Deleting a word forward fails where nothing but blanks is left of the text.
	in.KeyMap.DeleteWordForward = key.NewBinding()
	in.Focus()
	return in
}
