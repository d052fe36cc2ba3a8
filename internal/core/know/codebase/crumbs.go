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
