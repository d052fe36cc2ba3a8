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
		env := r.env
		for i, a := range e.Args {
			if p := parameterType(d, i); p != facts.NoExpr && len(r.typeParams()) > 0 {
				env = q.unify(r.src, p, q.typeOf(src, a, depth+1), env, depth+1)
			}
		}
		if t := subst(q.typeNamed(r.src, declared, depth+1), env); t.known() {
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
	types := []Type{}
	if e := src.Exprs[x.Type]; e.Kind == facts.Taken {
		types = q.argumentTypes(src, e, 0)
	} else {
		types = append(types, q.typeNamed(src, x.Type, 0))
	}
	for _, t := range types {
		if e := t.expr(); e.Kind == facts.FuncOf {
			continue
		}
		all = append(all, q.memberOfType(t, name, 0).refs...)
	}
	return all
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
