package keyboard

import (
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"
)

// named are the keys that have a name, as Bubble Tea writes it.
var named = map[string]rune{
	"enter": tea.KeyEnter, "esc": tea.KeyEscape, "tab": tea.KeyTab, "backspace": tea.KeyBackspace,
	"up": tea.KeyUp, "down": tea.KeyDown, "left": tea.KeyLeft, "right": tea.KeyRight, "pgup": tea.KeyPgUp, "pgdown": tea.KeyPgDown,
	"home": tea.KeyHome, "end": tea.KeyEnd, "insert": tea.KeyInsert, "delete": tea.KeyDelete, "space": tea.KeySpace,
}

// Press is the pressing of a key by its name, as Bubble Tea writes it: "r", "alt+k", "ctrl+pgup", "f4".
func Press(name string) tea.KeyPressMsg {
	k := tea.KeyPressMsg{}
	for mod, bit := range map[string]tea.KeyMod{"ctrl+": tea.ModCtrl, "alt+": tea.ModAlt, "shift+": tea.ModShift} {
		if at := strings.Index(name, mod); at >= 0 && len(name) > at+len(mod) {
			name = name[:at] + name[at+len(mod):]
			k.Mod |= bit
		}
	}
	if code, ok := named[name]; ok {
		k.Code = code
		if code == tea.KeySpace && k.Mod == 0 {
			k.Text = " "
		}
		return k
	}
	if n, err := strconv.Atoi(strings.TrimPrefix(name, "f")); err == nil && len(name) > 1 && name[0] == 'f' {
		k.Code = tea.KeyF1 + rune(n-1)
		return k
	}
	for _, r := range name {
		k.Code = r
		if k.Mod == 0 {
			k.Text = string(r)
		}
	}
	return k
}
