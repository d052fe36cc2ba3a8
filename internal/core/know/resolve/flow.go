package resolve

import (
	"slices"
	"sort"

	"rooktrail/internal/core/file/facts"
)

// Where values need not say of which type they are, a name has the type of what it was given last, and of all that it
// may have been given last where code goes one of several ways. A member has that of all it is given anywhere.

// arrivals are the values that a name may have at an offset in a scope, the last given first.
func (s *source) arrivals(id facts.DefID, scope facts.ScopeID, offset int) (values []facts.Setting) {
	all := s.valuesGiven(id)
	d := &s.Defs[id]
	if len(all) < 2 {
		return all
	}
	if s.functionAround(scope) != s.functionAround(d.Scope) || s.Scopes[d.Scope].Kind == facts.TypeScope {
		return all // it is not known when that is done
	}
	return s.lastGiven(all, offset)
}

// valuesGiven are all values that a definition is given under its bare name, in the order in which they stand.
func (s *source) valuesGiven(id facts.DefID) (all []facts.Setting) {
	d := &s.Defs[id]
	if d.Init != facts.NoExpr || d.Body != 0 && d.Kind.IsValue() { // an object that is written out has no other value at first
		all = append(all, facts.Setting{At: d.At.Start, From: max(d.At.End, d.From), Value: d.Init})
	}
	for _, g := range s.set[d.Name] {
		if g.Base == facts.NoExpr && g.Of == d.Scope {
			all = append(all, g)
		}
	}
	return all
}

// functionAround is the scope of the innermost function around a scope, or that of the file.
func (s *source) functionAround(scope facts.ScopeID) facts.ScopeID {
	for scope != 0 && s.Scopes[scope].Kind != facts.FunctionScope {
		scope = s.Scopes[scope].Parent
	}
	return scope
}

// lastGiven are those of several values that may be there at an offset.
func (s *source) lastGiven(all []facts.Setting, offset int) (values []facts.Setting) {
	here := s.branchesAround(offset)
	armsOf := map[uint32]map[uint32]bool{} // by the statement, the branches that give a value
	end := sort.Search(len(all), func(i int) bool { return int(all[i].At) >= offset })
	stoppedAt := -1
	for i := end - 1; i >= 0; i-- {
		if int(all[i].From) > offset {
			continue // it is being worked out
		}
		off, inner := s.leaves(all[i].At, here)
		if off == nil {
			values, stoppedAt = append(values, all[i]), int(all[i].At)
			break
		}
		if off.Whole.Holds(offset) && offset >= int(off.At.End) && offset < int(off.Whole.End) && !off.Beside {
			continue // in another branch of the same statement
		}
		if off.Leaves && offset >= int(off.Whole.End) {
			continue
		}
		values = append(values, all[i])
		if off.Arms > 0 && inner {
			if armsOf[off.Whole.Start] == nil {
				armsOf[off.Whole.Start] = map[uint32]bool{}
			}
			armsOf[off.Whole.Start][off.At.Start] = true
			if len(armsOf[off.Whole.Start]) == off.Arms {
				stoppedAt = int(off.Whole.Start)
				break
			}
		}
	}
	for _, b := range here { // what the round before has left
		if !b.Loop || b.At.Holds(stoppedAt) && stoppedAt >= 0 {
			continue
		}
		for _, g := range all[end:] {
			if b.At.Holds(int(g.At)) && !slices.Contains(values, g) {
				values = append(values, g)
			}
		}
	}
	return values
}

// branchesAround are the branches that hold an offset, the innermost first.
func (s *source) branchesAround(offset int) (around []*facts.Branch) {
	n := sort.Search(len(s.Branches), func(i int) bool { return int(s.Branches[i].At.Start) > offset })
	for i := n - 1; i >= 0; i-- {
		if b := &s.Branches[i]; int(b.At.End) > offset {
			around = append(around, b)
		}
	}
	return around
}

// leaves is the outermost branch that holds an offset and is none of those; inner says that no other one lies in it
// around the offset.
func (s *source) leaves(at uint32, here []*facts.Branch) (off *facts.Branch, inner bool) {
	for i, b := range s.branchesAround(int(at)) {
		if slices.Contains(here, b) {
			break
		}
		off, inner = b, i == 0
	}
	return off, inner
}

// typeAt is the type of the value that a name has where an expression uses it.
func (q *question) typeAt(r ref, e facts.Expr, depth int) Type {
	d := r.def()
	if d.Type != facts.NoExpr || !flows(d) || len(r.src.set[d.Name]) == 0 || q.stubOf(r).ok() {
		return q.typeOfRef(r, depth+1)
	}
	return q.holding(r, q.ofValues(r, r.src.arrivals(r.id, e.Scope, int(e.At.Start)), depth+1))
}

// flows says whether a definition is one of a value that may be given others.
func flows(d *facts.Def) bool {
	return d.Kind.IsValue() || d.Kind == facts.Parameter
}

// ofValues is the type of one of several values of a definition.
func (q *question) ofValues(r ref, values []facts.Setting, depth int) Type {
	var all []Type
	for _, v := range values {
		if v.Value == facts.NoExpr {
			all = append(all, Type{named: r})
			continue
		}
		t := q.typeOf(r.src, v.Value, depth+1)
		if v.Value == r.def().Init {
			t = q.part(t, r.def().Part, depth+1)
		}
		all = append(all, t)
	}
	if r.def().Kind == facts.Parameter && (len(values) == 0 || slices.ContainsFunc(values, func(v facts.Setting) bool { return v.Value == r.def().Init }) || r.def().Init == facts.NoExpr) {
		all = append(all, q.passed(r, depth+1))
	}
	if len(all) == 1 {
		return all[0]
	}
	return oneOf(all)
}

// typeOfGiven is the type of a variable or a member by all values that it is given.
func (q *question) typeOfGiven(r ref, depth int) Type {
	at := r.at()
	if t, ok := q.giving[at]; ok {
		return t
	}
	if q.giving == nil {
		q.giving = map[definedAt]Type{}
	}
	q.giving[at] = Type{pending: true}
	d := r.def()
	values := r.src.valuesGiven(r.id)
	if ofType(r) {
		for _, g := range r.src.set[d.Name] {
			if g.Base != facts.NoExpr && q.belongs(r, g.Base, depth+1) {
				values = append(values, g)
			}
		}
	}
	t := q.holding(r, q.ofValues(r, values, depth+1))
	q.giving[at] = t
	return t
}

func ofType(r ref) bool {
	d := r.def()
	return (d.Kind == facts.Field || d.Kind == facts.Property) && d.Container != ""
}

// belongs says whether a member is one of the type of an expression.
func (q *question) belongs(member ref, base facts.ExprID, depth int) bool {
	owner := q.owner(member)
	t := q.typeOf(member.src, base, depth+1)
	if !owner.ok() {
		return false
	}
	for _, t := range t.each() {
		if t.named.ok() && (t.named.at() == owner.at() || q.asType(t, owner, depth+1).known() || q.asType(Type{named: owner}, t.named, depth+1).known()) {
			return true
		}
	}
	return false
}

// each are the types that a value may be of.
func (t Type) each() []Type {
	if t.other == nil {
		return []Type{t}
	}
	one := t
	one.other, one.loose = nil, false
	return append([]Type{one}, *t.other...)
}

// mostTypes bounds how many types a value may be of.
const mostTypes = 12

// oneOf is the type of a value that is of one of several, those that the project defines before others.
func oneOf(types []Type) (best Type) {
	var all []Type
	loose, pending := false, false
	for _, t := range types {
		pending = pending || t.pending
		loose = loose || t.loose || !t.known() && !t.pending || t.outside != "" && t.name == ""
		for _, t := range t.each() {
			if t.named.ok() || t.src != nil || len(t.args) > 0 {
				if !slices.ContainsFunc(all, func(o Type) bool { return alikeTypes(o, t) }) {
					all = append(all, t)
				}
			} else if !best.known() {
				best = t
			}
		}
	}
	if len(all) == 0 {
		best.pending = pending && !best.known()
		return best
	}
	if best = all[0]; len(all) > 1 {
		rest := slices.Clone(all[1:min(len(all), mostTypes)])
		best.other = &rest
	}
	best.loose, best.pending = loose, false
	return best
}

// alikeTypes says whether two types are the same, as far as that can be told without a question.
func alikeTypes(a, b Type) bool {
	if a.named.ok() && b.named.ok() {
		return a.named.at() == b.named.at() && len(a.args) == len(b.args) && a.above == b.above
	}
	return a.named.ok() == b.named.ok() && a.src == b.src && a.shape == b.shape && a.name == b.name && a.outside == b.outside && len(a.args) == 0 && len(b.args) == 0
}

// holding notes of a list or a map in which definition it was first, if what it holds is not known.
func (q *question) holding(r ref, t Type) Type {
	if len(r.src.puts) == 0 || t.holder.ok() || t.named.ok() || !t.known() {
		return t
	}
	t.holder = r
	return t
}

// putInto is the type of what is put into a list or a map, or of the keys.
func (q *question) putInto(holder ref, key bool, depth int) Type {
	var all []Type
	for _, p := range holder.src.puts[holder.def().Name] {
		value := p.Value
		if key {
			value = p.Key
		}
		if value == facts.NoExpr || depth > deepest {
			continue
		}
		if f := q.meaning(holder.src, p.Into, depth+1); !slices.ContainsFunc(f.refs, func(r ref) bool { return r.at() == holder.at() }) {
			continue
		}
		all = append(all, q.typeOf(holder.src, value, depth+1))
	}
	if len(all) == 0 {
		return Type{pending: true}
	}
	return oneOf(all)
}

// putIntoNamed is the type of what is put into values of a type that is derived from a list or a map of the language.
func (q *question) putIntoNamed(t ref, key bool, depth int) Type {
	if len(t.src.Puts) == 0 || !q.isContainer(t, depth+1) {
		return Type{}
	}
	kind := definedAt{t.src.path, t.def().At.Start}
	if key {
		kind.start = t.def().At.End
	}
	if held, ok := q.heldIn[kind]; ok {
		return held
	}
	if q.heldIn == nil {
		q.heldIn = map[definedAt]Type{}
	}
	q.heldIn[kind] = Type{}
	var all []Type
	for _, p := range t.src.Puts {
		value := p.Value
		if key {
			value = p.Key
		}
		if value == facts.NoExpr {
			continue
		}
		for _, into := range q.typeOf(t.src, p.Into, depth+1).each() {
			if into.named.ok() && into.named.at() == t.at() {
				all = append(all, q.typeOf(t.src, value, depth+1))
			}
		}
	}
	q.heldIn[kind] = oneOf(all)
	return q.heldIn[kind]
}

// isContainer says whether a type is derived from one of the language that holds others.
func (q *question) isContainer(t ref, depth int) bool {
	for _, a := range q.linear(t, depth+1) {
		if !a.ok() && a.outside.outside == t.src.itself() && t.src.lang.Values.Holds[a.outside.name] {
			return true
		}
	}
	return false
}
