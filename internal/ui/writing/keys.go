package writing

import (
	"strings"

	"charm.land/bubbles/v2/key"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/ui/keymap"
)

// on are the keys of write that no action is bound to.
var on = struct{ Roam, Scout, TakeName, NextName, NameBefore, NoName, NextField key.Binding }{
	keymap.On("one caret, then back to roam", "esc"), keymap.On("the scout", "ctrl+space"),
	keymap.On("take the name that is offered", "tab"), keymap.On("the next name", "ctrl+n"), keymap.On("the name before", "ctrl+p"), keymap.On("no name", "esc"),
	keymap.On("in a text of one's own: the next place to fill in", "tab"),
}

// typed are the keys that are meant for a text even where one cannot write.
var typed = []key.Binding{keymap.On("a new line", "enter"), keymap.On("delete backwards", "backspace"), keymap.On("delete", "delete")}

// field is what text fields do with a key; with Shift, those that move select.
type field struct {
	key.Binding
	do func(e *write.Editor, page int, extend bool)
}

func does(words string, do func(e *write.Editor, page int, extend bool), keys ...string) field {
	return field{keymap.On(words, keys...), do}
}

// deed is a field for what does not move.
func deed(words string, do func(e *write.Editor), keys ...string) field {
	return does(words, func(e *write.Editor, _ int, _ bool) { do(e) }, keys...)
}

// fields are all of them.
var fields = []field{
	does("left a character; with Shift it selects", func(e *write.Editor, _ int, extend bool) { e.Left(extend) }, "left"),
	does("right a character", func(e *write.Editor, _ int, extend bool) { e.Right(extend) }, "right"),
	does("up a line", func(e *write.Editor, _ int, extend bool) { e.Vertical(-1, extend) }, "up"),
	does("down a line", func(e *write.Editor, _ int, extend bool) { e.Vertical(1, extend) }, "down"),
	does("back a word", func(e *write.Editor, _ int, extend bool) { e.WordLeft(extend) }, "ctrl+left", "alt+left"),
	does("on a word", func(e *write.Editor, _ int, extend bool) { e.WordRight(extend) }, "ctrl+right", "alt+right"),
	does("up a screen", func(e *write.Editor, page int, extend bool) { e.Vertical(-page, extend) }, "pgup"),
	does("down a screen", func(e *write.Editor, page int, extend bool) { e.Vertical(page, extend) }, "pgdown"),
	does("to the beginning of the line", func(e *write.Editor, _ int, extend bool) { e.LineStart(extend) }, "home"),
	does("to the end of the line", func(e *write.Editor, _ int, extend bool) { e.LineEnd(extend) }, "end"),
	does("to the first line", func(e *write.Editor, _ int, extend bool) { e.Ends(false, extend) }, "ctrl+home"),
	does("to the last line", func(e *write.Editor, _ int, extend bool) { e.Ends(true, extend) }, "ctrl+end"),
	deed("a new line", (*write.Editor).Newline, "enter"),
	deed("the line feeds of a terminal's own paste", func(e *write.Editor) { e.Type("\n") }, "ctrl+j"),
	deed("a step of indentation", (*write.Editor).Tab, "tab"),
	deed("delete the character before", (*write.Editor).Backspace, "backspace"),
	deed("delete the character behind", (*write.Editor).Delete, "delete"),
	deed("delete the word before", (*write.Editor).BackspaceWord, "ctrl+w", "ctrl+backspace", "alt+backspace"),
	deed("delete the word behind", (*write.Editor).DeleteWord, "ctrl+delete", "alt+delete"),
	deed("a blank", func(e *write.Editor) { e.Type(" ") }, "space"),
}

// Keys are the keys of write besides the actions, and what to call them on the page of keys.
func (m *Model) Keys() (name string, all []key.Binding) {
	all = keymap.Of(on)
	for _, f := range fields {
		all = append(all, f.Binding)
	}
	return "write, as in text fields", all
}

// field does what text fields do with a key; it is false for any other.
func (m *Model) field(e *write.Editor, name string) bool {
	plain := strings.Replace(name, "shift+", "", 1)
	for _, f := range fields {
		if keymap.Is(plain, f.Binding) {
			f.do(e, max(m.frame.Wish.Body()-2, 1), plain != name)
			return true
		}
	}
	return false
}
