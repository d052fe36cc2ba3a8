package restructure

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/know/resolve"
)

// variable is one of a function: all that is known by one name in one scope.
type variable struct {
	scope facts.ScopeID
	name  string
	// def is where it is defined first.
	def *facts.Def
	// all are the places where its name stands, in order.
	all []occurrence
}

// occurrence is a place where the name of a variable stands.
type occurrence struct {
	at            place.Range
	defines       bool
	reads, writes bool
	inner         int // the nested function it is in, by the number of its node; -1 for none
}

// names are the variables of a function, and what else its names mean.
type names struct {
	variables map[scoped]*variable
	// at are the variables by where their names stand.
	at map[uint32]*variable
	// outer are the meanings of the other names.
	outer map[uint32]resolve.Answer
}

type scoped struct {
	scope facts.ScopeID
	name  string
}

// names finds out what the names in a range mean; those are local that are defined in it.
func (s *scene) names(within place.Range) *names {
	n := &names{variables: map[scoped]*variable{}, at: map[uint32]*variable{}, outer: map[uint32]resolve.Answer{}}
	f := s.file.Facts
	put := func(d *facts.Def, o occurrence) {
		key := scoped{d.Scope, d.Name}
		v := n.variables[key]
		if v == nil {
			v = &variable{scope: d.Scope, name: d.Name, def: d}
			n.variables[key] = v
		}
		o.inner = s.innerFunction(within, o.at)
		v.all = append(v.all, o)
		n.at[o.at.Start] = v
	}
	for i := range f.Defs {
		d := &f.Defs[i]
		if within.Start <= d.At.Start && d.At.End <= within.End && s.local(d) && d.At.Len() > 0 {
			put(d, occurrence{at: d.At, defines: true, writes: true})
		}
	}
	var offsets []int
	var uses []facts.Use
	for _, u := range f.Uses {
		if within.Start <= u.At.Start && u.At.End <= within.End {
			offsets, uses = append(offsets, int(u.At.Start)), append(uses, u)
		}
	}
	for i, a := range s.resolver.Meanings(s.ctx, s.path, offsets) {
		u := uses[i]
		if id := s.defAt(a); id != facts.NoDef {
			if d := &f.Defs[id]; s.local(d) && within.Start <= d.At.Start && d.At.End <= within.End {
				if n.at[u.At.Start] == nil {
					put(d, occurrence{at: u.At, reads: u.Role != facts.Write, writes: u.Role == facts.Write || u.Role == facts.ReadWrite})
				}
				continue
			}
		}
		n.outer[u.At.Start] = a
	}
	for _, v := range n.variables {
		slices.SortFunc(v.all, func(a, b occurrence) int { return cmp.Compare(a.at.Start, b.at.Start) })
	}
	return n
}

// defAt is the definition in this file that an answer is about.
func (s *scene) defAt(a resolve.Answer) facts.DefID {
	if a.Path != s.path {
		return facts.NoDef
	}
	return s.file.Facts.DefAt(int(a.At.Start))
}

// innerFunction numbers the innermost function around a range that lies within another range and is not the outermost
// one there; -1 if there is none.
func (s *scene) innerFunction(within, at place.Range) int {
	inner, depth := -1, 0
	for _, n := range s.tree.Around(at) {
		if r := n.Range(); s.Is(n, lang.Function) && within.Start <= r.Start && r.End <= within.End {
			if depth++; depth > 1 {
				inner = n.Index()
			}
		}
	}
	return inner
}

// inside says whether a place is in a range.
func inside(at, within place.Range) bool { return within.Start <= at.Start && at.End <= within.End }

// around are the nodes around a range, outermost first; the last is the largest value that stands for exactly the range,
// or the smallest node that does if there is none.
func (s *scene) around(at place.Range) []syntax.Node {
	all := s.tree.Around(at)
	for i, n := range all {
		if n.Range() == at && s.Is(n, lang.Value) {
			return all[:i+1]
		}
	}
	for len(all) > 1 && !all[len(all)-1].Named() {
		all = all[:len(all)-1]
	}
	return all
}

// host are the outermost function around a range, or whatever it stands in, which stands among the members of a type
// or at the top of the file, and the number of the node among those around.
func (s *scene) host(chain []syntax.Node) (node syntax.Node, number int) {
	for i := len(chain) - 2; i >= 0; i-- {
		if !s.Is(chain[i], lang.Holder) {
			continue
		}
		if next := chain[i+1]; s.Is(next, lang.Block) && i+2 < len(chain) { // of a class whose body is a block
			return chain[i+2], i + 2
		} else if !s.Is(next, lang.Block) || i+2 < len(chain) {
			return next, i + 1
		}
	}
	return syntax.Node{}, 0
}
