// Package uitest presses keys on surfaces and reads what they draw, for their tests.
package uitest

import (
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/spoken"
)

// Plain is a palette without colours.
var Plain = &palette.Plain

// Text is what rows read, one below the other, without their colours.
func Text(rows []string) string { return strings.Join(spoken.Plain(rows), "\n") }

// Keys are presses: of a key by its name, or else of each letter of what is typed.
func Keys(names ...string) (keys []tea.KeyPressMsg) {
	for _, name := range names {
		k := keyboard.Press(name)
		if k.String() == name || len(name) == 1 {
			keys = append(keys, k)
			continue
		}
		for _, r := range name {
			keys = append(keys, tea.KeyPressMsg{Code: r, Text: string(r)})
		}
	}
	return keys
}
