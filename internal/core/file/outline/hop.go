package outline

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// landmark says whether hops stop at a definition: at functions and types, and
// in files without any at headings, rules, keys and the like.
func landmark(d *facts.Def) bool {
	k := d.Kind
	switch k {
	case facts.Macro, facts.Namespace, facts.Module, facts.Section, facts.Rule, facts.Table, facts.View, facts.Procedure,
		facts.Target, facts.Stage, facts.Service, facts.Block:
		return true
	}
	return k.IsCallable() || k.IsType() && k != facts.TypeParameter
}

// Hop is the name of the next function or type behind an offset, or of the one
// before it; ok is false if there is none.
func Hop(f *facts.File, offset int, forward bool) (at place.Range, ok bool) {
	keys := true // a file of nothing but keys is hopped through by those
	for i := range f.Defs {
		keys = keys && !landmark(&f.Defs[i])
	}
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.At.Len() == 0 || !landmark(d) && !(keys && d.Kind == facts.Key) {
			continue
		}
		switch start := int(d.At.Start); {
		case forward && start > offset:
			return d.At, true
		case !forward && start < offset:
			at, ok = d.At, true
		}
	}
	return at, ok
}

// Neighbour is a function or type that one hop leads to.
type Neighbour struct {
	Name string
	At   place.Range
}

// Neighbours are those that a hop back and a hop on lead to; their names are "" where
// there is none.
func Neighbours(f *facts.File, offset int) (before, after Neighbour) {
	name := func(forward bool) Neighbour {
		at, ok := Hop(f, offset, forward)
		if !ok {
			return Neighbour{}
		}
		if id := f.DefAt(int(at.Start)); id != facts.NoDef {
			return Neighbour{f.Defs[id].Qualified(), at}
		}
		return Neighbour{}
	}
	return name(false), name(true)
}

// Around are the functions and types that hold an offset, the innermost first,
// each as its definition.
func Around(f *facts.File, offset int) (ids []facts.DefID) {
	for i := range f.Defs {
		d := &f.Defs[i]
		if int(d.Full.Start) <= offset && offset <= int(d.Full.End) && landmark(d) && d.Kind != facts.Section {
			ids = append(ids, facts.DefID(i))
		}
	}
	for i, j := 0, len(ids)-1; i < j; i, j = i+1, j-1 {
		ids[i], ids[j] = ids[j], ids[i]
	}
	return ids
}

// Parent is the name of the function or type around the one that holds an
// offset; from a name, of what is around that. ok is false on the outermost
// level.
func Parent(f *facts.File, offset int) (at place.Range, ok bool) {
	for _, id := range Around(f, offset) {
		d := &f.Defs[id]
		if !d.At.Holds(offset) {
			return d.At, true
		}
	}
	return place.Range{}, false
}
