package keymap

import (
	"slices"
	"strings"

	"rooktrail/internal/core/know/lexicon"
)

// Finder finds bindings by their keys, by what they do, and by what people call that.
type Finder struct {
	keys    Map
	lexicon *lexicon.Lexicon
}

// Finder makes one of the bindings.
func (m Map) Finder() *Finder {
	var all []lexicon.Entry
	for _, b := range m {
		e := lexicon.Entry{Title: b.Title}
		if n := b.Action.Naming(); n.Name != "" {
			e.Phrases = append(n.Phrases, n.Name)
		}
		all = append(all, e)
	}
	return &Finder{m, lexicon.New(all)}
}

// Named are the bindings of the key that is typed, then the one of that name, then those whose words hold all words that are typed, and
// then those that people call so.
func (f *Finder) Named(typed string) (found Map) {
	words := strings.Fields(strings.ToLower(typed))
	taken := make([]bool, len(f.keys))
	take := func(i int) {
		if !taken[i] {
			taken[i] = true
			found = append(found, f.keys[i])
		}
	}
	for i, b := range f.keys {
		if slices.ContainsFunc(b.Keys, func(k string) bool { return Label(k) == typed }) {
			take(i)
		}
	}
	for i, b := range f.keys {
		if strings.EqualFold(b.Action.Naming().Name, typed) {
			take(i)
		}
	}
	for i, b := range f.keys {
		all := strings.ToLower(b.Title + " " + b.Group + " " + b.Labels(9))
		if !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(all, w) }) {
			take(i)
		}
	}
	for _, h := range f.lexicon.Find(typed) {
		take(h.Index)
	}
	return found
}

// WithKeys are the bindings that have a key.
func (m Map) WithKeys() Map {
	return slices.DeleteFunc(slices.Clone(m), func(b Binding) bool { return len(b.Keys) == 0 })
}
