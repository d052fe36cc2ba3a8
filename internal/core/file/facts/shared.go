package facts

import (
	"strings"

	"rooktrail/internal/core/file/place"
)

// Realm is what names are of that files of several languages share, though no language resolves them.
type Realm uint8

// The realms.
const (
	NoRealm     Realm = iota
	StyleClass        // of elements, styled by sheets
	Element           // the id of one on a page
	Data              // an attribute of elements that begins with data-
	Template          // a template, by its name or its file
	Slot              // a part of a template that others fill
	Entry             // a key of configuration, and what a field is called there
	Environment       // a variable of the environment
	Route             // an address that a server answers
	Stored            // a table, view or column of a database
)

var realmNames = [...]string{"", "class", "id", "data attribute", "template", "template block", "key", "environment variable", "route", "table or column"}

// String names the realm as people do.
func (r Realm) String() string { return realmNames[r] }

// Built stands in the name of a shared one for what is put together only when the program runs.
const Built = "*"

// Shared is a place where such a name stands.
type Shared struct {
	Realm Realm
	// Name is the name; in the place of what is not known before the program runs stands Built.
	Name string
	At   place.Range
	// Given says that the name is given there, as a class is by a sheet, and not only used.
	Given bool
	// Import is which entry of Imports leads to where it is given, counted from 1; 0 if that may be anywhere.
	Import int
}

// Keys are the words by which files with the name are found, those in which it is given apart from those in which it is used:
// each file with a shared name that Meets it has one of them.
func (s *Shared) Keys(given bool) []string {
	prefix := s.Realm.String() + " "
	if given {
		prefix += "= "
	}
	if !s.Realm.built() {
		return []string{prefix + s.Name}
	}
	words := strings.FieldsFunc(s.Name, func(r rune) bool { return strings.ContainsRune("-_/", r) })
	var keys []string
	for _, i := range []int{0, len(words) - 1} {
		if i >= 0 && i < len(words) && !strings.Contains(words[i], Built) && (len(keys) == 0 || keys[0] != prefix+words[i]) {
			keys = append(keys, prefix+words[i])
		}
	}
	return keys
}

// built says whether names of the realm may be put together.
func (r Realm) built() bool { return r == StyleClass || r == Element || r == Data || r == Route }

// Meets says whether two names of a realm may be the same one. One of them that is not known at all meets none.
func (s *Shared) Meets(o *Shared) bool {
	if s.Realm != o.Realm || s.Realm == Route && strings.Count(s.Name, "/") != strings.Count(o.Name, "/") {
		return false // each part of an address stands for itself
	}
	return s.Name == o.Name || strings.Contains(s.Name, Built) && fits(s.Name, o.Name) || strings.Contains(o.Name, Built) && fits(o.Name, s.Name)
}

// fits says whether a name, itself perhaps with what is built in it, can come of a pattern.
func fits(pattern, name string) bool {
	parts := strings.Split(pattern, Built)
	first, last := parts[0], parts[len(parts)-1]
	if !strings.HasPrefix(name, first) || len(name) < len(first)+len(last) || !strings.HasSuffix(name, last) {
		return false
	}
	name = name[len(first) : len(name)-len(last)]
	for _, p := range parts[1 : len(parts)-1] {
		i := strings.Index(name, p)
		if i < 0 {
			return false
		}
		name = name[i+len(p):]
	}
	return true
}

// SharedAt returns the shared names that hold an offset; there may be two for a name that is written in two ways.
func (f *File) SharedAt(offset int) (all []Shared) {
	for i := range f.Shared {
		if f.Shared[i].At.Holds(offset) {
			all = append(all, f.Shared[i])
		}
	}
	return all
}
