package outline

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// Solo is a function or type as it is shown alone.
type Solo struct {
	// Name is its name, All the whole of it with the comment that describes it.
	Name, All place.Range
}

// solo is a definition with its comment.
func solo(d *facts.Def, full place.Range) Solo {
	all := full
	if d.Doc.Len() > 0 && d.Doc.Start < all.Start {
		all.Start = d.Doc.Start
	}
	return Solo{Name: d.At, All: all}
}

// Piece is the innermost function or type around an offset, or the one whose
// comment holds it; in files without any, the section. ok is false if there is
// none.
func Piece(f *facts.File, offset int) (all place.Range, ok bool) {
	extents, best := Extents(f), Solo{}
	for i := range f.Defs {
		d := &f.Defs[i]
		if !landmark(d) || d.At.Len() == 0 || d.Kind == facts.Section && hasCode(f) {
			continue
		}
		s := solo(d, extents[i])
		if s.All.Holds(offset) && (!ok || s.All.Len() <= best.All.Len()) {
			best, ok = s, true
		}
	}
	return best.All, ok
}

// hasCode says whether a file has functions or types, rather than headings
// alone.
func hasCode(f *facts.File) bool {
	for i := range f.Defs {
		if k := f.Defs[i].Kind; k.IsCallable() || k.IsType() && k != facts.TypeParameter {
			return true
		}
	}
	return false
}

// NextPiece is the neighbour of a piece that is shown alone: the next function or
// type behind it, or the one before, that does not hold it and is not inside it;
// of the members of a type that is the next member, and behind the last of them
// whatever follows the type. ok is false at the end.
func NextPiece(f *facts.File, alone place.Range, forward bool) (next Solo, ok bool) {
	extents, code := Extents(f), hasCode(f)
	for i := range f.Defs {
		d := &f.Defs[i]
		if !landmark(d) || d.At.Len() == 0 || d.Kind == facts.Section && code || f.Local(d) {
			continue
		}
		s := solo(d, extents[i])
		switch {
		case forward && s.All.Start >= alone.End && s.All != alone:
			return s, true
		case !forward && s.All.End <= alone.Start && (!ok || s.All.End > next.All.End || s.All.End == next.All.End && s.All.Start > next.All.Start):
			next, ok = s, true
		}
	}
	return next, ok
}
