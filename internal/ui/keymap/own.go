package keymap

import (
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/settings"
)

// Own are keys of the user's own, by action: they do it instead of those that are delivered.
type Own map[Action][]string

// LoadOwn reads the keys of the user's own from their file; one that is not there has none. What is wrong in it
// is told with its place and left out.
func LoadOwn(file string) (own Own, problems []settings.Problem) {
	data, err := os.ReadFile(file)
	if err != nil {
		if !errors.Is(err, os.ErrNotExist) {
			problems = append(problems, settings.Problem{File: file, Line: 1, Col: 1, Words: "the keys cannot be read: " + err.Error()})
		}
		return nil, problems
	}
	entries, problems := settings.Entries(data)
	own = Own{}
	for _, e := range entries {
		action, keys, err := entry(e)
		if err != nil {
			problems = append(problems, settings.Problem{Line: e.Line, Col: e.Col, Words: err.Error()})
			continue
		}
		own[action] = keys
	}
	for i := range problems {
		problems[i].File = file
	}
	return own, problems
}

// entry reads an entry of the file: keys.references = ["r", "F2"].
func entry(e settings.Entry) (Action, []string, error) {
	if len(e.Key) != 2 || e.Key[0] != "keys" {
		return "", nil, fmt.Errorf("%s is not known; keys stand in the table [keys], by the names of their commands", strings.Join(e.Key, "."))
	}
	action := Action(e.Key[1])
	if _, known := namings[action]; !known {
		return "", nil, fmt.Errorf("there is no command %q; rooktrail keys --json prints all", action)
	}
	list, ok := e.Value.([]any)
	if !ok {
		return "", nil, fmt.Errorf("the keys of %s are a list: [\"r\", \"F2\"]", action)
	}
	keys := []string{}
	for _, one := range list {
		text, _ := one.(string)
		key, err := ReadKey(text)
		if err != nil {
			return "", nil, err
		}
		keys = append(keys, key)
	}
	return action, keys, nil
}

// KeepOwn writes the keys of an action into the user's file; nil takes them out of it.
func KeepOwn(file string, a Action, keys []string) error {
	if keys == nil {
		return settings.Put(file, "keys."+string(a), nil)
	}
	var labels []string
	for _, k := range keys {
		labels = append(labels, Label(k))
	}
	return settings.Put(file, "keys."+string(a), labels)
}

// namedKeys are those that have a name, as it stands on the keyboard and as Bubble Tea writes it.
var namedKeys = map[string]string{
	"space": "space", "tab": "tab", "backspace": "backspace", "delete": "delete", "insert": "insert", "home": "home", "end": "end",
	"pgup": "pgup", "pgdn": "pgdown", "pgdown": "pgdown", "up": "up", "down": "down", "left": "left", "right": "right", "enter": "enter",
	"↑": "up", "↓": "down", "←": "left", "→": "right",
}

// ReadKey reads a key as it stands on the keyboard, or two of them with a blank between: "r", "Ctrl+O", "V a", "F2".
func ReadKey(text string) (string, error) {
	parts := strings.Split(text, " ")
	if len(parts) > 2 || text == "" {
		return "", fmt.Errorf("%q is no key, nor two of them with a blank between", text)
	}
	for i, p := range parts {
		key, err := readOne(p)
		if err != nil {
			return "", err
		}
		parts[i] = key
	}
	return strings.Join(parts, " "), nil
}

func readOne(text string) (string, error) {
	front, last := "", text
	for {
		mod, rest, found := strings.Cut(last, "+")
		if lower := strings.ToLower(mod); found && rest != "" && slices.Contains([]string{"ctrl", "alt", "shift"}, lower) {
			front, last = front+lower+"+", rest
			continue
		}
		break
	}
	lower := strings.ToLower(last)
	switch name, named := namedKeys[lower]; {
	case lower == "esc":
		return "", errors.New("Esc always leads back, and can be nothing else")
	case named:
		return front + name, nil
	case len(lower) > 1 && lower[0] == 'f' && strings.Trim(lower[1:], "0123456789") == "":
		return front + lower, nil
	case len([]rune(last)) != 1:
		return "", fmt.Errorf("%q is no key", text)
	case front != "":
		return front + lower, nil
	}
	return last, nil
}

// Delivered are the keys that an action has when nothing is set.
func Delivered(a Action) []string {
	for _, b := range Default() {
		if b.Action == a {
			return b.Keys
		}
	}
	return nil
}

// Take gives actions keys of the user's own, in this map and in all that share its bindings; who had such a key
// loses it. It says what could not be.
func (m Map) Take(own Own) (problems []string) {
	for i := range m {
		if keys, is := own[m[i].Action]; is {
			m[i].Keys = slices.Clone(keys)
		}
	}
	for i := range m {
		if own[m[i].Action] != nil {
			for _, k := range own[m[i].Action] {
				if why := m.Refuses(m[i].Action, k); why != "" {
					m[i].Keys = slices.DeleteFunc(m[i].Keys, func(have string) bool { return have == k })
					problems = append(problems, why)
				}
			}
			continue
		}
		m[i].Keys = slices.DeleteFunc(slices.Clone(m[i].Keys), func(have string) bool { return m.taken(own, m[i], have) })
	}
	return problems
}

// taken says whether a key of one binding is what the user has given to another of the same stance.
func (m Map) taken(own Own, b Binding, key string) bool {
	return slices.ContainsFunc(m, func(o Binding) bool {
		return o.Action != b.Action && sameStance(o, b) && slices.Contains(own[o.Action], key)
	})
}

// sameStance says whether two bindings could get in each other's way.
func sameStance(a, b Binding) bool {
	inWrite := func(b Binding) bool { return b.Group == Writing && !inRoam(b.Action) }
	return inWrite(a) == inWrite(b) || a.Anywhere || b.Anywhere
}

// Refuses says why a key cannot be given to an action; "" if it can, though others may lose it.
func (m Map) Refuses(a Action, key string) string {
	first, _, two := strings.Cut(key, " ")
	for _, b := range m {
		for _, k := range b.Keys {
			begin, _, pair := strings.Cut(k, " ")
			switch {
			case b.Action == a || !pair && !two:
			case pair && !two && begin == key:
				return fmt.Sprintf("%s begins %s, so it cannot be %s by itself", Label(key), Label(k), a.Naming().Name)
			case !pair && two && k == first:
				return fmt.Sprintf("%s is %s, so it cannot begin %s", Label(first), b.Action.Naming().Name, Label(key))
			}
		}
	}
	return ""
}

// Holder is whatever else a key does now where an action would have it; ok is false if it is free.
func (m Map) Holder(a Action, key string) (b Binding, ok bool) {
	own, _ := m.binding(a)
	for _, b := range m {
		if b.Action != a && sameStance(own, b) && slices.Contains(b.Keys, key) {
			return b, true
		}
	}
	return Binding{}, false
}

func (m Map) binding(a Action) (b Binding, ok bool) {
	i := slices.IndexFunc(m, func(b Binding) bool { return b.Action == a })
	if i < 0 {
		return Binding{}, false
	}
	return m[i], true
}
