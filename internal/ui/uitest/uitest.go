// Package uitest presses keys on surfaces and reads what they draw, for their tests.
package uitest

import (
	"regexp"
	"strings"

	"rooktrail/internal/ui/palette"

	tea "charm.land/bubbletea/v2"
)

// Plain is a palette without colours.
var Plain = &palette.Plain

var escapes = regexp.MustCompile("\x1b\\[[0-9;]*m")

// Text is what rows read, one below the other, without their colours.
func Text(rows []string) string { return escapes.ReplaceAllString(strings.Join(rows, "\n"), "") }

var named = map[string]rune{
	"enter": tea.KeyEnter, "esc": tea.KeyEscape, "tab": tea.KeyTab, "backspace": tea.KeyBackspace,
	"up": tea.KeyUp, "down": tea.KeyDown, "left": tea.KeyLeft, "right": tea.KeyRight, "pgup": tea.KeyPgUp, "pgdown": tea.KeyPgDown,
	"home": tea.KeyHome, "end": tea.KeyEnd, "delete": tea.KeyDelete, "space": tea.KeySpace, "f4": tea.KeyF4, "f7": tea.KeyF7,
}

// Keys are presses: of a key by its name, with alt+ in front or not, or else of each letter of
// what is typed.
func Keys(names ...string) (keys []tea.KeyPressMsg) {
	for _, name := range names {
		k := tea.KeyPressMsg{}
		if rest, ok := strings.CutPrefix(name, "alt+"); ok {
			k.Mod, name = tea.ModAlt, rest
		}
		if code, ok := named[name]; ok {
			k.Code = code
			if code == tea.KeySpace && k.Mod == 0 {
				k.Text = " "
			}
			keys = append(keys, k)
			continue
		}
		for _, r := range name {
			k.Code = r
			if k.Mod == 0 {
				k.Text = string(r)
			}
			keys = append(keys, k)
		}
	}
	return keys
}
