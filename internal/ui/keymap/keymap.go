// Package keymap is what the keys do: one list of actions from which the
// program takes its keys, the scout its commands and the keys page its text.
package keymap

import "slices"

// Action is something the program can be told to do.
type Action string

// The actions.
const (
	Scout          Action = "scout"
	Follow         Action = "follow"
	Definition     Action = "definition"
	Back           Action = "back"
	Forward        Action = "forward"
	Fork           Action = "fork"
	Up             Action = "up"
	Down           Action = "down"
	Left           Action = "left"
	Right          Action = "right"
	WordLeft       Action = "word-left"
	WordRight      Action = "word-right"
	PageUp         Action = "page-up"
	PageDown       Action = "page-down"
	HalfUp         Action = "half-up"
	HalfDown       Action = "half-down"
	LineStart      Action = "line-start"
	LineEnd        Action = "line-end"
	FileStart      Action = "file-start"
	FileEnd        Action = "file-end"
	Outline        Action = "outline"
	InFile         Action = "in-file"
	NextHit        Action = "next-hit"
	PreviousHit    Action = "previous-hit"
	PreviousSymbol Action = "previous-symbol"
	NextSymbol     Action = "next-symbol"
	SymbolStart    Action = "symbol-start"
	SymbolEnd      Action = "symbol-end"
	Parent         Action = "parent"
	Imports        Action = "imports"
	Counterpart    Action = "counterpart"
	Bracket        Action = "bracket"
	Keys           Action = "keys"
	Close          Action = "close"
	Palette        Action = "palette"
	Quit           Action = "quit"
)

// Binding is an action with its keys.
type Binding struct {
	// Action is "" for a key that only a list knows.
	Action Action
	// Keys are the keys that do it in roam, as Bubble Tea writes them; the
	// first is shown.
	Keys []string
	// Title is what it does, in a few words.
	Title string
	// Group is the part of the keys page it stands in.
	Group string
	// Anywhere says that the key works where letters are typed, too.
	Anywhere bool
	// Silent leaves it out of the commands, where it would make no sense.
	Silent bool
}

// The groups, in the order of the keys page.
const (
	Find  = "find"
	Sheet = "in a list"
	Go    = "follow"
	Trail = "trail"
	Move  = "move"
	Hop   = "move by meaning"
	Other = "program"
)

// Groups lists the groups in order.
func Groups() []string { return []string{Find, Sheet, Go, Trail, Move, Hop, Other} }

// Default is the key map as delivered.
func Default() Map {
	return Map{
		{Scout, []string{"space", "ctrl+space"}, "find a file, a symbol, a command or a text", Find, true, false},
		{Outline, []string{"o"}, "outline: what is in this file", Find, false, false},
		{InFile, []string{"/"}, "find in this file", Find, false, false},
		{NextHit, []string{"n"}, "the next place of what was found in it", Find, false, false},
		{PreviousHit, []string{"p"}, "the place before", Find, false, false},
		{"", []string{"up", "down"}, "choose; the code is shown beneath", Sheet, false, true},
		{"", []string{"enter"}, "go there", Sheet, false, true},
		{"", []string{"tab"}, "only this lane; again, all lanes", Sheet, false, true},
		{"", []string{"alt+w", "alt+c"}, "text: whole words, the same case", Sheet, false, true},
		{"", []string{"alt+r"}, "text: a regular expression", Sheet, false, true},
		{"", []string{"esc"}, "put everything back as it was", Sheet, false, true},
		{Follow, []string{"enter"}, "follow the name, or the import, under the caret", Go, false, false},
		{Definition, []string{"d"}, "go to the definition", Go, false, false},
		{Back, []string{"b"}, "back to the stop one came from", Trail, false, false},
		{Forward, []string{"f"}, "forward to where one last went", Trail, false, false},
		{Fork, []string{"F"}, "choose a way at a fork", Trail, false, false},
		{Up, []string{"up", "k"}, "up a line", Move, false, true},
		{Down, []string{"down", "j"}, "down a line", Move, false, true},
		{Left, []string{"left", "h"}, "left a character", Move, false, true},
		{Right, []string{"right", "l"}, "right a character", Move, false, true},
		{WordLeft, []string{"ctrl+left", "alt+left"}, "back a word", Move, false, true},
		{WordRight, []string{"ctrl+right", "alt+right"}, "on a word", Move, false, true},
		{PageUp, []string{"pgup"}, "up a screen", Move, false, true},
		{PageDown, []string{"pgdown"}, "down a screen", Move, false, true},
		{HalfUp, []string{"ctrl+u"}, "up half a screen", Move, false, true},
		{HalfDown, []string{"ctrl+d"}, "down half a screen", Move, false, true},
		{LineStart, []string{"home"}, "to the beginning of the line", Move, false, true},
		{LineEnd, []string{"end"}, "to the end of the line", Move, false, true},
		{FileStart, []string{"ctrl+home"}, "to the first line", Move, false, false},
		{FileEnd, []string{"ctrl+end"}, "to the last line", Move, false, false},
		{PreviousSymbol, []string{"["}, "the function or type before", Hop, false, false},
		{NextSymbol, []string{"]"}, "the next function or type", Hop, false, false},
		{SymbolStart, []string{"("}, "to the beginning of this one", Hop, false, false},
		{SymbolEnd, []string{")"}, "to its end", Hop, false, false},
		{Parent, []string{"backspace"}, "out to what is around it", Hop, false, false},
		{Bracket, []string{"="}, "to the other end of the bracket", Hop, false, false},
		{Imports, []string{","}, "to the imports of the file, and back", Hop, false, false},
		{Counterpart, []string{"&"}, "to the other half: header, source, style", Hop, false, false},
		{Keys, []string{"?"}, "show the keys", Other, false, false},
		{Palette, nil, "switch between the dark and the light palette", Other, false, false},
		{Close, []string{"q"}, "close; twice leaves the program", Other, false, true},
		{Quit, []string{"ctrl+q"}, "leave the program", Other, true, false},
	}
}

// Map is a list of bindings.
type Map []Binding

// Of finds what a key does in roam; ok is false for a key without a binding.
func (m Map) Of(key string) (Action, bool) {
	for _, b := range m {
		if b.Action != "" && slices.Contains(b.Keys, key) {
			return b.Action, true
		}
	}
	return "", false
}

// Commands are the bindings that make sense as commands.
func (m Map) Commands() []Binding {
	var out []Binding
	for _, b := range m {
		if !b.Silent && b.Action != Scout {
			out = append(out, b)
		}
	}
	return out
}

// Label writes a key as it stands on the keyboard.
func Label(key string) string {
	names := map[string]string{
		"space": "Space", "ctrl+space": "Ctrl+Space", "enter": "Enter", "up": "↑", "down": "↓", "left": "←", "right": "→",
		"tab": "Tab", "esc": "Esc", "backspace": "Backspace", "pgup": "PgUp", "pgdown": "PgDn", "home": "Home", "end": "End",
	}
	if n, ok := names[key]; ok {
		return n
	}
	for prefix, label := range map[string]string{"ctrl+": "Ctrl+", "alt+": "Alt+"} {
		if len(key) > len(prefix) && key[:len(prefix)] == prefix {
			rest := key[len(prefix):]
			if len(rest) == 1 {
				return label + string(rest[0]-'a'+'A')
			}
			return label + Label(rest)
		}
	}
	return key
}

// Labels writes all keys of a binding, or of the first n.
func (b Binding) Labels(n int) string {
	s := ""
	for i, k := range b.Keys {
		if i >= n {
			break
		}
		if i > 0 {
			s += " "
		}
		s += Label(k)
	}
	return s
}
