package keymap

import (
	"reflect"
	"slices"
	"strings"

	"charm.land/bubbles/v2/key"
)

// On is a key of a surface: what it does, and the keys that do it, as Bubble Tea writes them, of which
// the first is shown. It matches what is pressed, and stands in foot lines, on the page of keys and in
// the docs.
func On(does string, keys ...string) key.Binding {
	label := Label(keys[0])
	if len(keys) > 1 && len(keys[0]) == len(keys[1]) && strings.HasPrefix(keys[1], "alt+") {
		label += " " + Label(keys[1])
	}
	return key.NewBinding(key.WithKeys(keys...), key.WithHelp(label, does))
}

// pressed is the name of a key that was pressed.
type pressed string

func (p pressed) String() string { return string(p) }

// Is says whether a key that was pressed, by its name, is one of a binding.
func Is(name string, b key.Binding) bool { return key.Matches(pressed(name), b) }

// Hint is a binding for a foot line: its key, and what it does, in other words if there are any.
func Hint(b key.Binding, words ...string) [2]string {
	does := b.Help().Desc
	if len(words) > 0 {
		does = words[0]
	}
	return [2]string{b.Help().Key, does}
}

// Hints are several of them.
func Hints(all ...key.Binding) (hints [][2]string) {
	for _, b := range all {
		hints = append(hints, Hint(b))
	}
	return hints
}

// Moves are for choosing in a list, as all lists have them.
var Moves = struct{ Down, Up, PageDown, PageUp, First, Last key.Binding }{
	On("choose the next", "down", "ctrl+n"), On("choose the one before", "up", "ctrl+p"),
	On("a page on", "pgdown"), On("a page back", "pgup"), On("to the first", "home"), On("to the last", "end"),
}

// Step is by how many rows a key of Moves moves the choice in a list of so many rows, with pages of so
// many; ok is false for any other key.
func Step(name string, page, all int) (rows int, ok bool) {
	switch page = max(page, 1); {
	case Is(name, Moves.Down):
		return 1, true
	case Is(name, Moves.Up):
		return -1, true
	case Is(name, Moves.PageDown):
		return page, true
	case Is(name, Moves.PageUp):
		return -page, true
	case Is(name, Moves.First):
		return -all, true
	case Is(name, Moves.Last):
		return all, true
	}
	return 0, false
}

// Ends are how one leaves a list or a question.
var Ends = struct{ Take, Close key.Binding }{On("go there, or do it", "enter"), On("put everything back as it was", "esc")}

// Both stands for two bindings in a foot line, such as up and down.
func Both(a, b key.Binding, words string) [2]string {
	first, second := a.Help().Key, b.Help().Key
	if i := strings.LastIndexByte(first, '+') + 1; strings.HasPrefix(second, first[:i]) {
		second = second[i:]
	}
	return [2]string{first + second, words}
}

// Of are the bindings in structs of bindings, in the order of their fields.
func Of(structs ...any) (all []key.Binding) {
	for _, s := range structs {
		v := reflect.ValueOf(s)
		for i := range v.NumField() {
			all = append(all, v.Field(i).Interface().(key.Binding))
		}
	}
	return all
}

// With is the map with the keys of a surface in a group of their own, apart from those that all lists
// have.
func (m Map) With(group string, all []key.Binding) Map {
	out := slices.Clone(m)
	for _, b := range all {
		if group == Sheet || !slices.ContainsFunc(Of(Moves, Ends), func(c key.Binding) bool { return c.Help() == b.Help() }) {
			out = append(out, Binding{Keys: b.Keys(), Title: b.Help().Desc, Group: group, Silent: true})
		}
	}
	return out
}

// IsAny is Is for any of several bindings.
func IsAny(name string, all ...key.Binding) bool { return key.Matches(pressed(name), all...) }
