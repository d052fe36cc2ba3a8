// Package settings is what the user has set: a TOML file of their own, and of a project's own only
// what can do no harm. Which settings there are, with what they do and what they may be, is data
// (All), from which the reading, the page of settings, the docs and the schema are made.
package settings

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Kind is what a setting may be.
type Kind uint8

// The kinds.
const (
	// Switch is on or off.
	Switch Kind = iota
	// Choice is one of a few words.
	Choice
	// Number is a whole number.
	Number
	// Texts is a list of texts.
	Texts
	// Words is a table of texts.
	Words
	// Commands is a table of lists, such as commands with their arguments.
	Commands
)

// Setting is something that can be set.
type Setting struct {
	// Key is what it is called in the file, with the name of its table: "look.palette".
	Key string
	// Name is what it is called elsewhere, Does says what it does in a sentence, Phrases are what else
	// people call it.
	Name, Does string
	Phrases    []string
	Kind       Kind
	// Default is what counts when nothing is set: a bool, a string, an int, a []string, or a table.
	Default any
	// Values are what a Choice may be; Least and Most bound a Number.
	Values      []string
	Least, Most int
	// Shared says that a project may say it for all who work on it.
	Shared bool
	// Check says why a value of the right kind is not one all the same; nil for nothing to check.
	Check func(value any) error
}

// Source is where a value was set.
type Source uint8

// The sources, the later before the earlier.
const (
	// ByDefault is set nowhere.
	ByDefault Source = iota
	// ByProject is set in the project's file.
	ByProject
	// ByUser is set in the user's own file.
	ByUser
)

var sources = [...]string{"by default", "by the project", "by you"}

func (s Source) String() string { return sources[s] }

// Settings are what counts. The zero Settings are the defaults. They do not change: With gives others.
type Settings struct {
	layers [2]map[string]any // of the project, and above it of the user
}

// Value is what a setting is, and where that was set.
func (s *Settings) Value(key string) (any, Source) {
	for _, by := range []Source{ByUser, ByProject} {
		if v, ok := s.layers[by-1][key]; ok {
			return v, by
		}
	}
	set, _ := ByKey(key)
	return set.Default, ByDefault
}

// On says whether a Switch is on.
func (s *Settings) On(key string) bool {
	v, _ := s.Value(key)
	on, _ := v.(bool)
	return on
}

// Text is what a Choice is.
func (s *Settings) Text(key string) string {
	v, _ := s.Value(key)
	text, _ := v.(string)
	return text
}

// Number is what a Number is.
func (s *Settings) Number(key string) int {
	v, _ := s.Value(key)
	n, _ := v.(int)
	return n
}

// Texts is what a list is.
func (s *Settings) Texts(key string) []string {
	v, _ := s.Value(key)
	all, _ := v.([]string)
	return all
}

// Words is what a table of texts is.
func (s *Settings) Words(key string) map[string]string {
	v, _ := s.Value(key)
	all, _ := v.(map[string]string)
	return all
}

// Lists is what a table of lists is.
func (s *Settings) Lists(key string) map[string][]string { return s.commands(key) }

func (s *Settings) commands(key string) map[string][]string {
	v, _ := s.Value(key)
	all, _ := v.(map[string][]string)
	return all
}

// With are the settings with one of them set otherwise by a source; nil takes back what it had set.
func (s Settings) With(key string, value any, by Source) Settings {
	out := s
	layer := maps.Clone(s.layers[by-1])
	if layer == nil {
		layer = map[string]any{}
	}
	if layer[key] = value; value == nil {
		delete(layer, key)
	}
	out.layers[by-1] = layer
	return out
}

// ByKey finds a setting.
func ByKey(key string) (Setting, bool) {
	all := All()
	i := slices.IndexFunc(all, func(s Setting) bool { return s.Key == key })
	if i < 0 {
		return Setting{}, false
	}
	return all[i], true
}

// Written is a value as it stands in the file; a table is written as how many entries it has.
func (s *Setting) Written(value any) string {
	switch v := value.(type) {
	case bool:
		if v {
			return "on"
		}
		return "off"
	case []string:
		if len(v) == 0 {
			return "none"
		}
		return strings.Join(v, ", ")
	case map[string]string:
		return entries(len(v))
	case map[string][]string:
		return entries(len(v))
	}
	return fmt.Sprint(value)
}

func entries(n int) string {
	switch n {
	case 0:
		return "none"
	case 1:
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}

// Next is the value after another one, for those that are gone through one by one: the other state of a
// switch, the next choice, the next number; ok is false for those that are written by hand.
func (s *Setting) Next(value any, forward bool) (next any, ok bool) {
	step := 1
	if !forward {
		step = -1
	}
	switch s.Kind {
	case Switch:
		on, _ := value.(bool)
		return !on, true
	case Choice:
		text, _ := value.(string)
		i := slices.Index(s.Values, text)
		return s.Values[(i+step+len(s.Values))%len(s.Values)], true
	case Number:
		n, _ := value.(int)
		return min(max(n+step, s.Least), s.Most), true
	}
	return value, false
}
