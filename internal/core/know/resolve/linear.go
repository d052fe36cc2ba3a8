package resolve

import (
	"slices"

	"rooktrail/internal/core/file/facts"
)

// Where a type may be derived from several others, each of which may be derived from the same one, its members are looked
// for in an order in which no type comes before one that is derived from it.

// ancestor is a type that another one is derived from: one of the project or of a library whose source is there, or one
// outside of which no more than a name is known.
type ancestor struct {
	ref
	outside Type
	src     *source // which says so
}

// linear are a type and all that it is derived from, in the order in which members are looked for.
func (q *question) linear(t ref, depth int) []ancestor {
	if known, ok := q.lines[t.at()]; ok {
		return known
	}
	if q.lines == nil {
		q.lines = map[definedAt][]ancestor{}
	}
	q.lines[t.at()] = []ancestor{{ref: t}} // what is derived from itself is not gone round
	all := q.inherited(t, depth, map[definedAt]bool{})
	last := map[definedAt]int{}
	for i, a := range all {
		if a.ok() {
			last[a.at()] = i
		}
	}
	var line []ancestor
	for i, a := range all {
		if !a.ok() || last[a.at()] == i {
			line = append(line, a)
		}
	}
	q.lines[t.at()] = line
	return line
}

// mostAncestors bounds how many steps are followed upwards.
const mostAncestors = 500

func (q *question) inherited(t ref, depth int, within map[definedAt]bool) (all []ancestor) {
	all = []ancestor{{ref: t}}
	if within[t.at()] || depth > deepest {
		return all
	}
	within[t.at()] = true
	for _, s := range q.supers(t) {
		super := subst(q.typeNamed(s.src, s.id, depth+1), t.env)
		if !super.named.ok() {
			all = append(all, ancestor{outside: super, src: s.src})
			continue
		}
		for _, one := range super.each() {
			if one.named.ok() && len(all) < mostAncestors {
				all = append(all, q.inherited(one.named, depth+10, within)...)
			}
		}
	}
	delete(within, t.at())
	return all
}

// membersInOrder are the members of a name of the first type in the line of one that has some.
func (q *question) membersInOrder(owner ref, name string, depth int) found {
	line := q.linear(owner, depth+1)
	f := q.firstInLine(line, name)
	if len(f.refs) > 0 && f.refs[0].givenLater() {
		return q.withMethod(line, f)
	}
	return q.rather(owner, f, depth)
}

// givenLater says whether a member is one that only a method gives a value, not what makes the object.
func (r ref) givenLater() bool {
	d := r.def()
	if d.Kind != facts.Property && d.Kind != facts.Field {
		return false
	}
	around := r.src.Scopes[r.src.functionAround(r.src.ScopeAt(int(d.At.Start)))].Owner
	return around != facts.NoDef && r.src.Defs[around].Kind == facts.Method
}

// withMethod puts in front of a member that is given a value some time the method of that name which is there until then.
func (q *question) withMethod(line []ancestor, f found) found {
	for _, a := range line {
		if !a.ok() {
			continue
		}
		for _, r := range q.own(a.ref, f.refs[0].def().Name) {
			if r.def().Kind == facts.Method {
				return found{refs: unique(append([]ref{r}, f.refs...)), several: true, unsure: f.unsure}
			}
		}
	}
	return f
}

// rather puts those members first that the types below one have, if the one that was found only says that they have to.
func (q *question) rather(owner ref, f found, depth int) found {
	if len(f.refs) == 0 || !f.refs[0].def().Abstract {
		return f
	}
	name := f.refs[0].def().Name
	written := slices.DeleteFunc(q.membersBelow(owner, name, depth).refs, func(r ref) bool { return r.def().Abstract })
	if len(written) == 0 {
		return f
	}
	return found{refs: unique(append(written, f.refs...)), several: true, unsure: len(written) > 1}
}

// membersAbove are the members of a name that a type has from what it is derived from.
func (q *question) membersAbove(owner ref, name string, depth int) found {
	if f := q.firstInLine(q.linear(owner, depth+1)[1:], name); len(f.refs) > 0 {
		return f
	}
	// What is mixed into other types may be before one of those that these are derived from.
	var all found
	for _, t := range q.typesBelow(owner) {
		line := q.linear(t, depth+1)
		for i, a := range line {
			if a.ok() && a.at() == owner.at() {
				all.refs = append(all.refs, q.firstInLine(line[i+1:], name).refs...)
			}
		}
	}
	if all.refs = unique(all.refs); len(all.refs) > 0 {
		all.several = len(all.refs) > 1
		return all
	}
	return q.firstInLine(q.linear(owner, depth+1)[1:], name)
}

func (q *question) firstInLine(line []ancestor, name string) (f found) {
	for _, a := range line {
		if !a.ok() {
			if out := q.outsideMember(a.src, a.outside, name); f.outside == "" {
				f.outside, f.vague = out.outside, out.vague
			}
			continue
		}
		if own := q.own(a.ref, name); len(own) > 0 {
			return found{refs: own}
		}
	}
	return f
}

// membersBelow are the members of a name that the types have that are derived from one, by which it alone can be meant.
func (q *question) membersBelow(owner ref, name string, depth int) (f found) {
	for _, t := range q.typesBelow(owner) {
		f.refs = append(f.refs, q.firstInLine(q.linear(t, depth+1), name).refs...)
	}
	f.refs = unique(f.refs)
	f.several = len(f.refs) > 1
	f.unsure = f.several // which of them it is depends on what runs
	return f
}

// typesBelow are the types that are derived from one.
func (q *question) typesBelow(owner ref) []ref {
	if !owner.def().Kind.IsType() || owner.def().Kind == facts.TypeParameter {
		return nil
	}
	if known, ok := q.below[owner.at()]; ok {
		return known
	}
	if q.below == nil {
		q.below = map[definedAt][]ref{}
	}
	q.below[owner.at()] = nil
	q.below[owner.at()] = q.reach(owner, All, q.subtypes)
	return q.below[owner.at()]
}
