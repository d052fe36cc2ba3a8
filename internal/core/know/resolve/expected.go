package resolve

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// argumentTypes are the types that what is called takes for an argument: one for each of those it may be.
func (q *question) argumentTypes(src *source, e facts.Expr, depth int) (all []Type) {
	if depth > deepest {
		return nil
	}
	takers := q.takers(preferred(q.callee(src, e.Base, depth+1).refs, true))
	if len(takers) == 0 {
		takers = q.signatures(q.typeOf(src, e.Base, depth+1), depth+1)
	}
	for _, r := range takers {
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
		if want := src.declaredFor(e.Base); want != facts.NoExpr && len(r.typeParams()) > 0 { // as the result is wanted
			env = q.unify(r.src, d.Type, q.typeNamed(src, want, depth+1), env, depth+1)
		}
		env = q.bindUsual(r, env, depth+1)
		t := q.typeWith(r.src, declared, env, depth+1)
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

// declaredFor is the type that is declared of what a call gives a value, by what is called; NoExpr if there is none.
func (s *source) declaredFor(callee facts.ExprID) facts.ExprID {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.declared == nil {
		s.declared = map[facts.ExprID]facts.ExprID{}
		for i := range s.Defs {
			if d := &s.Defs[i]; d.Type != facts.NoExpr && s.Exprs[d.Init].Kind == facts.CallOf {
				s.declared[s.Exprs[d.Init].Base] = d.Type
			}
		}
	}
	return s.declared[callee]
}

// expected are the members of the types that an object is to be of, by the name of one of its own.
func (q *question) expected(src *source, x facts.Expectation, name string) (all []ref) {
	if x.Function {
		return nil
	}
	for _, t := range q.objectTypes(src, x) {
		all = append(all, q.memberOfType(t, name, 0).refs...)
	}
	return all
}

// objectTypes are the types of which an object is to be one: of several, those that its members fit.
func (q *question) objectTypes(src *source, x facts.Expectation) []Type {
	key := exprKey{src, facts.ExprID(x.At)}
	if known, ok := q.fitting[key]; ok {
		return known
	}
	if q.fitting == nil {
		q.fitting = map[exprKey][]Type{}
	}
	q.fitting[key] = nil // what leads back here by a circle knows nothing yet
	wanted := slices.DeleteFunc(q.wantedTypes(src, x, 0), func(t Type) bool { return t.expr().Kind == facts.FuncOf })
	var choices []Type
	for _, t := range wanted {
		choices = append(choices, q.choices(t, 0)...)
	}
	if len(choices) > 1 && len(choices) <= mostFitted {
		scope := src.ScopeAt(int(x.At))
		fit := slices.DeleteFunc(slices.Clone(choices), func(t Type) bool { return !q.fits(src, scope, t) })
		if len(fit) > 0 && len(fit) < len(choices) {
			wanted = fit
		}
	}
	q.fitting[key] = wanted
	return wanted
}

// mostFitted bounds of how many types it is found out whether an object fits them.
const mostFitted = 60

// fits says whether an object can be of a type, by the names of its members and by the values of those that are written out.
func (q *question) fits(src *source, object facts.ScopeID, t Type) bool {
	for _, id := range src.within(object) {
		d := &src.Defs[id]
		m := q.memberOfType(t, d.Name, 0)
		if len(m.refs) == 0 {
			if m.outside == "" {
				return false
			}
			continue
		}
		if declared := m.refs[0].src.Exprs[m.refs[0].def().Type]; declared.Kind == facts.Literal && (declared.Name == "undefined" || declared.Name == "never") {
			return false
		}
		if d.Kind != facts.Property || d.Init == facts.NoExpr {
			continue
		}
		is := facts.Narrowing{Is: []facts.ExprID{d.Init}}
		switch value := src.Exprs[d.Init]; value.Kind {
		case facts.Literal:
			is = facts.Narrowing{Literals: []string{strings.Trim(string(value.At.In(src.text)), "'\"`")}}
		case facts.Member:
			if v := q.meaning(src, d.Init, 0); len(v.refs) == 0 || v.refs[0].def().Kind != facts.EnumMember {
				continue
			}
		default:
			continue
		}
		if equal, sure := q.equals(src, is, m.refs[0], 0); sure && !equal {
			return false
		}
	}
	return true
}

// within are the definitions in a scope.
func (s *source) within(scope facts.ScopeID) []facts.DefID {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.inside == nil {
		s.inside = map[facts.ScopeID][]facts.DefID{}
		for i := range s.Defs {
			s.inside[s.Defs[i].Scope] = append(s.inside[s.Defs[i].Scope], facts.DefID(i))
		}
	}
	return s.inside[scope]
}

// wantedTypes are the types of which one an object or a function is to be.
func (q *question) wantedTypes(src *source, x facts.Expectation, depth int) []Type {
	if e := src.Exprs[x.Type]; e.Kind == facts.Taken {
		return q.argumentTypes(src, e, depth+1)
	}
	return []Type{q.typeNamed(src, x.Type, depth+1)}
}

// wantedMember is the member that the name in an object that is written out stands for, of the type that is expected there;
// unsure says that it is not known which type that is.
func (q *question) wantedMember(src *source, id facts.DefID) (members []ref, unsure bool) {
	d := &src.Defs[id]
	x, ok := src.wanted[src.Scopes[d.Scope].At.Start]
	if !ok || x.Function || src.Scopes[d.Scope].Kind != facts.TypeScope || d.Kind != facts.Property && d.Kind != facts.Method {
		return nil, false
	}
	members = unique(q.expected(src, x, d.Name))
	return members, len(members) == 0 && !slices.ContainsFunc(q.objectTypes(src, x), Type.isHere)
}

// isHere says whether a type is one whose members are known.
func (t Type) isHere() bool { return t.named.ok() || t.src != nil }

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
