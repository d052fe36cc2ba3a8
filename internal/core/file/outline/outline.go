// Package outline is the inside of a file as people see it: its symbols as a
// tree, and the ways from one of them to the next. It works on the facts of the
// file alone, so for every language that has any.
package outline

import (
	"cmp"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Entry is a symbol, a section or an import of a file.
type Entry struct {
	Name string
	Kind facts.Kind
	// Depth is how many entries stand around it.
	Depth int
	// At is the name, Full all of it, in bytes.
	At, Full place.Range
}

// Entries are the symbols, the sections and the imports of a file, in their
// order. A section made by a comment holds what follows it up to the next one
// beside it.
func Entries(f *facts.File) []Entry {
	var all []Entry
	full := Extents(f)
	for _, id := range f.Symbols() {
		d := &f.Defs[id]
		all = append(all, Entry{Name: d.Name, Kind: d.Kind, At: d.At, Full: full[id]})
	}
	for i := range f.Imports {
		imp := &f.Imports[i]
		name := strings.Repeat(".", imp.Level) + imp.Path
		if imp.Name != "" && imp.Name != "*" {
			name += " " + imp.Name
		}
		all = append(all, Entry{Name: name, Kind: facts.Import, At: imp.At, Full: imp.At})
	}
	slices.SortStableFunc(all, func(a, b Entry) int {
		return cmp.Or(cmp.Compare(a.Full.Start, b.Full.Start), cmp.Compare(b.Full.End, a.Full.End), cmp.Compare(a.At.Start, b.At.Start))
	})
	nest(all)
	return all
}

// Extents are what belongs to the definitions of a file: mostly all of them,
// but a section without a body of its own ends at the next one in its scope, or
// with the scope.
func Extents(f *facts.File) []place.Range {
	all := make([]place.Range, len(f.Defs))
	next := map[facts.ScopeID]uint32{} // where the next section of a scope begins
	for i := len(f.Defs) - 1; i >= 0; i-- {
		d := &f.Defs[i]
		all[i] = d.Full
		if d.Kind != facts.Section || d.Body != 0 {
			continue
		}
		end, ok := next[d.Scope]
		if !ok {
			end = f.Scopes[d.Scope].At.End
		}
		all[i].End = max(end, d.Full.End)
		next[d.Scope] = d.Full.Start
	}
	return all
}

// nest finds out how deep each entry stands in those around it.
func nest(all []Entry) {
	var around []int
	for i := range all {
		for len(around) > 0 && all[around[len(around)-1]].Full.End < all[i].Full.End ||
			len(around) > 0 && all[around[len(around)-1]].Full == all[i].Full {
			around = around[:len(around)-1]
		}
		for len(around) > 0 && all[around[len(around)-1]].Full.End <= all[i].Full.Start {
			around = around[:len(around)-1]
		}
		all[i].Depth = len(around)
		around = append(around, i)
	}
}

// Innermost is the number of the innermost entry that holds an offset; -1 if
// there is none.
func Innermost(all []Entry, offset int) int {
	best := -1
	for i, e := range all {
		if int(e.Full.Start) > offset {
			break
		}
		if offset <= int(e.Full.End) && (best < 0 || e.Full.Len() <= all[best].Full.Len()) {
			best = i
		}
	}
	return best
}

// Choice is which kinds of entries are shown.
type Choice uint8

// The choices.
const (
	Everything Choice = iota
	Types
	Functions
	Values
	Sections
	Imports
	choices
)

// String says in a few words what is shown.
func (c Choice) String() string {
	return [...]string{"all but imports", "types", "functions and methods", "fields and values", "sections and keys", "imports"}[c]
}

// Next is the choice after this one, and after the last the first.
func (c Choice) Next() Choice { return (c + 1) % choices }

// Holds says whether entries of the kind are shown. Imports are only shown when
// they are asked for.
func (c Choice) Holds(k facts.Kind) bool {
	switch c {
	case Types:
		return k.IsType() || k.IsSpace() || k == facts.Table || k == facts.Service
	case Functions:
		return k.IsCallable() || k == facts.Macro || k == facts.Procedure || k == facts.Target
	case Values:
		return k.IsValue()
	case Sections:
		return k == facts.Section || k == facts.Key || k == facts.Rule || k == facts.ID || k == facts.Block || k == facts.Stage
	case Imports:
		return k == facts.Import
	}
	return k != facts.Import
}
