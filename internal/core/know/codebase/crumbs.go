package codebase

import (
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Crumb is one step on the way from the outside of a file to a place in it.
type Crumb struct {
	Name string
	Kind facts.Kind
	At   place.Range
}

// Crumbs names the definitions around a byte offset, from the outermost in.
// A method that stands outside its type has that type in front.
func Crumbs(f *File, offset int) []Crumb {
	if f == nil || f.Facts == nil {
		return nil
	}
	var crumbs []Crumb
	for _, id := range f.Facts.Around(offset) {
		d := &f.Facts.Defs[id]
		if d.Parent == facts.NoDef && d.Container != "" {
			crumbs = append(crumbs, Crumb{Name: d.Container, Kind: facts.Type})
		}
		crumbs = append(crumbs, Crumb{Name: d.Name, Kind: d.Kind, At: d.At})
	}
	return crumbs
}

// Surrounds is what a place stands in, by its name: the function or type whose comment holds it, or else the
// innermost definition around it. ok is false if there is none.
func Surrounds(f *File, offset int) (at place.Range, name string, ok bool) {
	if f == nil || f.Facts == nil {
		return at, "", false
	}
	for i := range f.Facts.Defs {
		if d := &f.Facts.Defs[i]; d.Doc.Len() > 0 && d.Doc.Holds(offset) && (d.Kind.IsCallable() || d.Kind.IsType()) && d.At.Len() > 0 {
			return d.At, d.Name, true
		}
	}
	crumbs := Crumbs(f, offset)
	for i := len(crumbs) - 1; i >= 0; i-- {
		if c := crumbs[i]; c.At.Len() > 0 {
			return c.At, c.Name, true
		}
	}
	return at, "", false
}

// SymbolAround is the qualified name of what a place stands in.
func SymbolAround(f *File, line, col int) string {
	var names []string
	for _, c := range Crumbs(f, f.Text.Offset(line, max(col, 1))) {
		names = append(names, c.Name)
	}
	return strings.Join(names, ".")
}

// SymbolAt is the qualified name of what a place of a file stands in, without the
// package; "" if it is in nothing.
func SymbolAt(f *File, line, col int) string {
	var names []string
	for _, c := range Crumbs(f, f.Text.Offset(line, max(col, 1))) {
		if c.Kind != facts.Package && c.Kind != facts.Section {
			names = append(names, c.Name)
		}
	}
	return strings.Join(names, ".")
}
