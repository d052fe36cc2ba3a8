package facts

import (
	"slices"

	"rooktrail/internal/core/file/place"
)

// Origin leads from a text that was read to the one that is written.
type Origin interface {
	// Origin is where a range is written; exact says that it is written there just so.
	Origin(place.Range) (at place.Range, exact bool)
	// Inactive says whether an offset of what is written lies in a branch of conditional
	// code that a common compiler would not take.
	Inactive(offset uint32) bool
}

// WrittenAt moves all that was collected to where it is written, in a text of the
// length. A name that is not written so, but comes of something else, is no use; a
// definition of one has its name where that is written of which it comes.
func (b *Builder) WrittenAt(o Origin, length int) {
	f := &b.file
	at := func(r place.Range) place.Range {
		if r == (place.Range{}) {
			return r
		}
		r, _ = o.Origin(r)
		return r
	}
	start := func(offset uint32) uint32 { return at(place.Range{Start: offset, End: offset + 1}).Start }
	for i := range f.Scopes {
		f.Scopes[i].At = at(f.Scopes[i].At)
	}
	f.Scopes[0].At = place.Range{End: uint32(length)}
	for i := range f.Defs {
		d := &f.Defs[i]
		d.At, d.Full, d.Head, d.Doc = at(d.At), at(d.Full), at(d.Head), at(d.Doc)
		if d.From != 0 {
			d.From = start(d.From)
		}
		d.Inactive = d.Inactive || o.Inactive(d.At.Start)
	}
	f.Uses = slices.DeleteFunc(f.Uses, func(u Use) bool {
		_, exact := o.Origin(u.At)
		return !exact
	})
	for i := range f.Uses {
		f.Uses[i].At = at(f.Uses[i].At)
	}
	for i := range f.Imports {
		f.Imports[i].At = at(f.Imports[i].At)
	}
	for i := range f.Exprs {
		f.Exprs[i].At = at(f.Exprs[i].At)
	}
	for i := range f.Narrowed {
		f.Narrowed[i].At = at(f.Narrowed[i].At)
	}
	for i := range f.Settings {
		f.Settings[i].At, f.Settings[i].From = start(f.Settings[i].At), start(f.Settings[i].From)
	}
	for i := range f.Puts {
		f.Puts[i].At = start(f.Puts[i].At)
	}
	for i := range f.Branches {
		f.Branches[i].At, f.Branches[i].Whole = at(f.Branches[i].At), at(f.Branches[i].Whole)
	}
	for i := range f.Expected {
		f.Expected[i].At = start(f.Expected[i].At)
	}
}
