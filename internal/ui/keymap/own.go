package keymap

import (
	"errors"
	"fmt"
	"os"
	"path"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"rooktrail/internal/core/disk/settings"
)

// Own are keys of the user's own, by action: they do it instead of those that are delivered.
type Own map[Action][]string

// Owned is all of a user's own: keys, and commands.
type Owned struct {
	// Keys hold in roam, and those of actions of write where letters are typed.
	Keys Own
	// Write hold only where letters are typed, Files only in roam in files of some names, the first that has a
	// key before the others.
	Write Own
	Files []OfFiles
	// Lists are keys of lists: what stands for which other key there, by the name of the list, "" for all.
	Lists map[string]map[string]string
	// Commands are the user's own.
	Commands []Command
}

// OfFiles are keys that hold in files whose names match a pattern.
type OfFiles struct {
	Pattern string
	Keys    Own
}

// Command is a command of the user's own: a sequence of others, or a text to insert.
type Command struct {
	Name string
	Keys []string
	// Does are the names of commands, or keys, in their order.
	Does []string
	// Text is inserted where one writes; {} and {name} in it are places to fill in.
	Text string
}

// ownPrefix is before the name of a command of the user's own in its action.
const ownPrefix = "own:"

// Action is by what the command is known.
func (c *Command) Action() Action { return Action(ownPrefix + c.Name) }

// Mine is the group of the user's own commands.
const Mine = "your own commands"

// Bindings are the user's own commands.
func (o *Owned) Bindings() (all Map) {
	for i := range o.Commands {
		c := &o.Commands[i]
		title := "do: " + strings.Join(c.Does, ", ")
		if c.Text != "" {
			title = "insert: " + strings.Join(strings.Fields(c.Text), " ")
		}
		all = append(all, Binding{Action: c.Action(), Keys: slices.Clone(c.Keys), Title: title, Group: Mine})
	}
	return all
}

// AllKeys are the keys of the user's own in roam, with those of their commands.
func (o *Owned) AllKeys() Own {
	all := Own{}
	for a, keys := range o.Keys {
		all[a] = keys
	}
	for i := range o.Commands {
		if c := &o.Commands[i]; len(c.Keys) > 0 && all[c.Action()] == nil {
			all[c.Action()] = c.Keys
		}
	}
	return all
}

// InFile is what a key does in a file of a path, if that is something else than in others.
func (o *Owned) InFile(file, key string) (Action, bool) {
	for _, f := range o.Files {
		if !matches(f.Pattern, file) {
			continue
		}
		if a, ok := f.Keys.of(key); ok {
			return a, true
		}
	}
	return "", false
}

// matches says whether the path of a file, or its name, matches a pattern.
func matches(pattern, file string) bool {
	whole, _ := doublestar.Match(pattern, file)
	name, _ := doublestar.Match(pattern, path.Base(file))
	return whole || name
}

// InWrite is what a key does where letters are typed, if the user has said so.
func (o *Owned) InWrite(key string) (Action, bool) { return o.Write.of(key) }

func (o Own) of(key string) (Action, bool) {
	for a, keys := range o {
		if slices.Contains(keys, key) {
			return a, true
		}
	}
	return "", false
}

// Give gives an action a key besides those it has, and takes it from others.
func (o Own) Give(a Action, key string) {
	for other, keys := range o {
		o[other] = slices.DeleteFunc(slices.Clone(keys), func(k string) bool { return k == key })
	}
	o[a] = append([]string{key}, o[a]...)
}

// GiveInFiles is Give for files whose names match a pattern; it returns the keys that the action has there.
func (o *Owned) GiveInFiles(pattern string, a Action, key string) []string {
	i := slices.IndexFunc(o.Files, func(f OfFiles) bool { return f.Pattern == pattern })
	if i < 0 {
		i = len(o.Files)
		o.Files = append(o.Files, OfFiles{pattern, Own{}})
	}
	o.Files[i].Keys.Give(a, key)
	return o.Files[i].Keys[a]
}

// GiveInList has a key stand for another one in a list.
func (o *Owned) GiveInList(list, key, stands string) {
	if o.Lists == nil {
		o.Lists = map[string]map[string]string{}
	}
	if o.Lists[list] == nil {
		o.Lists[list] = map[string]string{}
	}
	o.Lists[list][key] = stands
}

// InList is what stands for a key in a list, or that key.
func (o *Owned) InList(list, key string) string {
	for _, l := range []string{list, ""} {
		if to, ok := o.Lists[l][key]; ok {
			return to
		}
	}
	return key
}

// LoadOwn reads what is the user's own from their file; one that is not there has none. What is wrong in it
// is told with its place and left out.
func LoadOwn(file string) (own Owned, problems []settings.Problem) {
	own.Keys = Own{}
	data, err := os.ReadFile(file)
	if err != nil {
		if !errors.Is(err, os.ErrNotExist) {
			problems = append(problems, settings.Problem{File: file, Line: 1, Col: 1, Words: "the keys cannot be read: " + err.Error()})
		}
		return own, problems
	}
	entries, problems := settings.Entries(data)
	for _, commands := range []bool{true, false} { // first, so that keys can name them
		for _, e := range entries {
			if (len(e.Key) > 0 && e.Key[0] == "commands") != commands {
				continue
			}
			if err := own.take(e); err != nil {
				problems = append(problems, settings.Problem{Line: e.Line, Col: e.Col, Words: err.Error()})
			}
		}
	}
	for i := range problems {
		problems[i].File = file
	}
	return own, problems
}

// take takes over an entry of the file: keys.references = ["r", "F2"].
func (o *Owned) take(e settings.Entry) error {
	switch n := len(e.Key); {
	case n == 2 && e.Key[0] == "keys":
		return o.keys(o.Keys, e)
	case n == 2 && e.Key[0] == "write":
		if o.Write == nil {
			o.Write = Own{}
		}
		return o.keys(o.Write, e)
	case n == 3 && e.Key[0] == "files":
		i := slices.IndexFunc(o.Files, func(f OfFiles) bool { return f.Pattern == e.Key[1] })
		if i < 0 {
			if !doublestar.ValidatePattern(e.Key[1]) {
				return fmt.Errorf("%q is no pattern of names of files, such as \"*.md\"", e.Key[1])
			}
			i = len(o.Files)
			o.Files = append(o.Files, OfFiles{e.Key[1], Own{}})
		}
		return o.keys(o.Files[i].Keys, e)
	case n >= 2 && n <= 3 && e.Key[0] == "lists":
		return o.list(strings.Join(e.Key[1:n-1], ""), e)
	case n == 3 && e.Key[0] == "commands":
		return o.command(e)
	}
	return fmt.Errorf("%s is not known; there are the tables [keys], [write], [files.\"*.md\"], [lists.places] and [commands.\"a name\"]", strings.Join(e.Key, "."))
}

// keys reads the keys of an action.
func (o *Owned) keys(into Own, e settings.Entry) error {
	action := Action(e.Key[len(e.Key)-1])
	if !o.knows(action) {
		return fmt.Errorf("there is no command %q; rooktrail keys --json prints all", action)
	}
	keys, err := readKeys(string(action), e.Value)
	if err == nil {
		into[action] = keys
	}
	return err
}

// knows says whether there is such a command, of the program or of the user's own.
func (o *Owned) knows(a Action) bool {
	_, known := namings[a]
	return known || slices.ContainsFunc(o.Commands, func(c Command) bool { return c.Action() == a })
}

func readKeys(of string, value any) ([]string, error) {
	list, ok := value.([]any)
	if !ok {
		return nil, fmt.Errorf("the keys of %s are a list: [\"r\", \"F2\"]", of)
	}
	keys := []string{}
	for _, one := range list {
		text, _ := one.(string)
		key, err := ReadKey(text)
		if err != nil {
			return nil, err
		}
		keys = append(keys, key)
	}
	return keys, nil
}

// list reads what a key of a list stands for: lists.places."Ctrl+R" = "Alt+T".
func (o *Owned) list(name string, e settings.Entry) error {
	from, err := ReadKey(e.Key[len(e.Key)-1])
	if err != nil {
		return err
	}
	text, _ := e.Value.(string)
	to, err := ReadKey(text)
	if err != nil {
		return fmt.Errorf("what %s stands for in lists is a key of theirs: %w", Label(from), err)
	}
	o.GiveInList(name, from, to)
	return nil
}

// command reads a part of a command of the user's own.
func (o *Owned) command(e settings.Entry) (err error) {
	i := slices.IndexFunc(o.Commands, func(c Command) bool { return c.Name == e.Key[1] })
	if i < 0 {
		i = len(o.Commands)
		o.Commands = append(o.Commands, Command{Name: e.Key[1]})
	}
	c := &o.Commands[i]
	switch e.Key[2] {
	case "keys":
		c.Keys, err = readKeys(c.Name, e.Value)
	case "does":
		list, _ := e.Value.([]any)
		for _, one := range list {
			text, _ := one.(string)
			if _, known := namings[Action(text)]; !known {
				if _, err := ReadKey(text); err != nil {
					return fmt.Errorf("%q is no command, nor a key; rooktrail keys --json prints all commands", text)
				}
			}
			c.Does = append(c.Does, text)
		}
	case "text":
		c.Text, _ = e.Value.(string)
	default:
		return fmt.Errorf("%s is not known; a command has keys, and does a list of commands, or inserts a text", strings.Join(e.Key, "."))
	}
	return err
}

// KeepOwn writes the keys of an action into the user's file, in a table such as "keys" or "files" and a pattern;
// nil takes them out of it.
func KeepOwn(file string, table []string, a Action, keys []string) error {
	path := append(slices.Clone(table), string(a))
	if name, own := strings.CutPrefix(string(a), ownPrefix); own && table[0] == "keys" {
		path = []string{"commands", name, "keys"}
	}
	if keys == nil {
		return settings.PutAt(file, path, nil)
	}
	var labels []string
	for _, k := range keys {
		labels = append(labels, Label(k))
	}
	return settings.PutAt(file, path, labels)
}

// KeepInList writes what a key stands for in a list.
func KeepInList(file, list, from, to string) error {
	return settings.PutAt(file, []string{"lists", list, Label(from)}, Label(to))
}

// ForgetOwn takes all keys of the user's own out of their file; their own commands stay, with their keys.
func ForgetOwn(file string) error {
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("taking the keys of one's own back: %w", err)
	}
	entries, _ := settings.Entries(data)
	for _, e := range entries {
		if e.Key[0] == "commands" {
			continue
		}
		if err := settings.PutAt(file, e.Key, nil); err != nil {
			return err
		}
	}
	return nil
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

// Deliver gives all actions the keys with which they are delivered; those of the user's own keep theirs.
func (m Map) Deliver() {
	for i := range m {
		if m[i].Action != "" && !strings.HasPrefix(string(m[i].Action), ownPrefix) {
			m[i].Keys = slices.Clone(Delivered(m[i].Action))
		}
	}
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
