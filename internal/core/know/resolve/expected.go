package resolve

import (
	"rooktrail/internal/core/file/facts"
)

// argumentTypes are the types that what is called takes for an argument: one for each of those it may be.
func (q *question) argumentTypes(src *source, e facts.Expr, depth int) (all []Type) {
	if depth > deepest {
		return nil
	}
	for _, r := range q.takers(preferred(q.callee(src, e.Base, depth+1).refs, true)) {
		d := r.def()
		declared := parameterType(d, int(e.Arg))
		if declared == facts.NoExpr {
			continue
		}
		env := bind(r, q.typeArguments(src, e.Base, depth), r.env)
		for i, a := range e.Args {
			if p := parameterType(d, i); p != facts.NoExpr && len(r.typeParams()) > 0 {
				env = q.unify(r.src, p, q.typeOf(src, a, depth+1), env, depth+1)
			}
		}
		t := subst(q.typeNamed(r.src, declared, depth+1), env)
		if variable(t) && t.named.def().Type != facts.NoExpr { // what it is bound to may rest on the arguments before it
			t = subst(q.typeNamed(t.named.src, t.named.def().Type, depth+1), env)
		}
		if t.known() {
			all = append(all, t)
		}
	}
	if len(all) == 0 {
		if t := q.taken(q.typeOf(src, e.Base, depth+1), int(e.Arg), depth+1); t.known() {
			all = append(all, t)
		}
	}
	if len(all) == 0 {
		if t := q.takenByContainer(src, e, depth+1); t.known() {
			all = append(all, t)
		}
	}
	return all
}

// expected are the members of the types that an object is to be of, by the name of one of its own.
func (q *question) expected(src *source, x facts.Expectation, name string) (all []ref) {
	if x.Function {
		return nil
	}
	for _, t := range q.wantedTypes(src, x, 0) {
		if e := t.expr(); e.Kind == facts.FuncOf {
			continue
		}
		all = append(all, q.memberOfType(t, name, 0).refs...)
	}
	return all
}

// wantedTypes are the types of which one an object or a function is to be.
func (q *question) wantedTypes(src *source, x facts.Expectation, depth int) []Type {
	if e := src.Exprs[x.Type]; e.Kind == facts.Taken {
		return q.argumentTypes(src, e, depth+1)
	}
	return []Type{q.typeNamed(src, x.Type, depth+1)}
}

// wantedMember is the member that the name in an object that is written out stands for, of the type that is expected there.
func (q *question) wantedMember(src *source, id facts.DefID) []ref {
	d := &src.Defs[id]
	x, ok := src.wanted[src.Scopes[d.Scope].At.Start]
	if !ok || src.Scopes[d.Scope].Kind != facts.TypeScope || d.Kind != facts.Property && d.Kind != facts.Method {
		return nil
	}
	return unique(q.expected(src, x, d.Name))
}

// wantedOf is the type of a parameter of a function by the type that is expected of that.
func (q *question) wantedOf(src *source, e facts.Expr, depth int) Type {
	x, ok := src.wanted[e.At.Start]
	if !ok || !x.Function || depth > deepest {
		return Type{}
	}
	if of := src.Exprs[x.Type]; of.Kind == facts.TypeOf { // a member that is a function
		for _, r := range q.meaning(src, of.Base, depth+1).refs {
			if p := parameterType(r.def(), int(e.Part)); r.def().Kind.IsCallable() && p != facts.NoExpr {
				return subst(q.typeNamed(r.src, p, depth+1), r.env)
			}
		}
	}
	for _, t := range q.wantedTypes(src, x, depth+1) {
		if p := q.taken(t, int(e.Part), depth+1); p.known() {
			return p
		}
	}
	return Type{}
}

// written are the members of a name of objects that are to be of the types of some members, by where these are
// defined; and the other way round.
type written struct {
	of, by map[definedAt][]ref
	// together are those that one use means at once, of whichever of several types its value is.
	together [][]ref
}

// together finds the uses of a name in a file that mean members of several types at once.
func (q *question) together(src *source, name string) (all [][]ref) {
	if !src.lang.Members.Prototypes.Is() {
		return nil
	}
	for _, u := range src.Uses {
		if u.Name != name || u.Base == facts.NoExpr {
			continue
		}
		if f := q.meant(src, u); f.several || f.unsure && len(f.refs) > 1 {
			all = append(all, f.refs)
		}
	}
	return all
}

// written finds the objects with a member of a name, and of which types they are to be.
func (q *question) written(name, family string) (w written) {
	w.of, w.by = map[definedAt][]ref{}, map[definedAt][]ref{}
	for _, p := range q.code.Mentioning(name) {
		if q.ctx.Err() != nil {
			break
		}
		if q.family(p) != family {
			continue
		}
		src := q.source(p)
		if src == nil {
			continue
		}
		w.together = append(w.together, q.together(src, name)...)
		for _, x := range src.Expected {
			scope := src.ScopeAt(int(x.At))
			for _, id := range src.scoped[scopedName{scope, name}] {
				own := src.ref(id)
				for _, m := range q.expected(src, x, name) {
					if m.at() != own.at() {
						w.of[m.at()] = append(w.of[m.at()], own)
						w.by[own.at()] = append(w.by[own.at()], m)
					}
				}
			}
		}
	}
	return w
}
