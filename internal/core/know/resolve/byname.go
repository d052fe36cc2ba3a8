package resolve

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/index"
)

// byName offers the definitions that have the name of a use which could not be
// resolved, those first that are likeliest: of the same language, of a kind
// that suits the use, near.
func (q *question) byName(src *source, use facts.Use, res *Result) {
	type candidate struct {
		index.Symbol
		rank int
	}
	var all []candidate
	for _, s := range q.code.Named(use.Name) {
		if s.Kind == facts.Section || s.Kind == facts.TypeParameter {
			continue // a title is no name, and a parameter none outside of what it belongs to
		}
		other := q.family(s.Path) != q.family(src.path)
		rank := distance(src.path, s.Path)
		if other {
			rank += 1000
		}
		rank += 100 * misfits(use, s)
		all = append(all, candidate{s, rank})
	}
	slices.SortFunc(all, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(a.rank, b.rank), cmp.Compare(a.Path, b.Path), cmp.Compare(a.Offset, b.Offset))
	})
	for _, c := range all {
		at := place.Range{Start: uint32(c.Offset), End: uint32(c.Offset + len(c.Name))}
		res.Answers = append(res.Answers, Answer{Path: c.Path, At: at, Name: c.Name, Container: c.Container, Kind: c.Kind, Certainty: ByName, Built: !c.Aside})
	}
}

// misfits counts what speaks against a symbol being meant by a use.
func misfits(use facts.Use, s index.Symbol) int {
	n := 0
	if (use.Base != facts.NoExpr) != (s.Container != "") {
		n++
	}
	switch use.Role {
	case facts.Call:
		if !s.Kind.IsCallable() && !s.Kind.IsType() {
			n++
		}
	case facts.TypeUse:
		if !s.Kind.IsType() {
			n += 2
		}
	}
	return n
}

// family tells apart the languages that can name each other's things.
func (q *question) family(file string) string { return q.code.Languages().Family(file) }

// distance is how far apart two files are; 0 is the same file.
func distance(a, b string) int {
	if a == b {
		return 0
	}
	return 1 + place.Distance(a, b)
}

// namedWhere are the symbols of a name in the files that are wanted.
func (q *question) namedWhere(name string, wanted func(file string) bool) []index.Symbol {
	return slices.DeleteFunc(q.code.Named(name), func(s index.Symbol) bool { return !wanted(s.Path) })
}
