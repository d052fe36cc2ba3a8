package resolve

import (
	"rooktrail/internal/core/file/facts"
)

// A component of a page is a function or a class, or what one of the functions of a library makes of those; what it is given
// by attributes is what the function takes first, or what the class is said to be given.

// propOf finds what an attribute of a component means.
func (q *question) propOf(src *source, e facts.Expr, name string, depth int) found {
	t := q.propsOf(src, e, depth+1)
	if f := q.memberOfType(t, name, depth+1); len(f.refs) > 0 {
		return f
	}
	if e.Base == facts.NoExpr || src.lang.Values.Components.Anyway[name] {
		return found{outside: "the elements of a page"}
	}
	for _, r := range q.meaning(src, e.Base, depth+1).refs { // a function that takes apart what it is given, of no type
		if d := r.def(); d.Kind.IsCallable() && d.Body != 0 {
			for _, id := range r.src.scoped[scopedName{d.Body, name}] {
				if r.src.Defs[id].Kind == facts.Parameter {
					return found{refs: []ref{r.src.ref(id)}}
				}
			}
		}
	}
	return found{outside: t.outside}
}

// propsOf is the type of what a component is given.
func (q *question) propsOf(src *source, e facts.Expr, depth int) Type {
	if depth > deepest {
		return Type{}
	}
	if e.Base == facts.NoExpr {
		return q.elementOfPage(src, e.Name, depth+1)
	}
	base := src.Exprs[e.Base]
	if base.Kind == facts.CallOf || base.Kind == facts.Func {
		return q.propsOfValue(src, e.Base, depth+1)
	}
	f := q.meaning(src, e.Base, depth+1)
	for _, r := range f.refs {
		if t := q.propsOfRef(r, depth+1); t.known() {
			return t
		}
	}
	if t := q.taken(q.typeOf(src, e.Base, depth+1), 0, depth+1); t.known() {
		return t
	}
	return Type{outside: f.outside}
}

// propsOfRef is the type of what the component is given that a definition stands for.
func (q *question) propsOfRef(r ref, depth int) Type {
	d := r.def()
	switch {
	case depth > deepest:
		return Type{}
	case d.Kind.IsType():
		return q.propsOfClass(r, depth+1)
	case d.Kind.IsCallable():
		if p := parameterType(d, 0); p != facts.NoExpr {
			return subst(q.typeNamed(r.src, p, depth+1), r.env)
		}
		if d.Body == 0 {
			return Type{}
		}
		return q.wantedOf(r.src, facts.Expr{At: r.src.Scopes[d.Body].At}, depth+1)
	case d.Type != facts.NoExpr:
		return q.taken(q.typeNamed(r.src, d.Type, depth+1), 0, depth+1)
	}
	return q.propsOfValue(r.src, d.Init, depth+1)
}

// propsOfClass is that of a class: the member that says so, or the type argument of the class of the library.
func (q *question) propsOfClass(r ref, depth int) Type {
	for name, at := range r.src.lang.Values.Components.Members {
		if at != 0 {
			continue
		}
		if f := q.members(r, name, map[*facts.Def]bool{}, depth+1); len(f.refs) > 0 {
			return q.typeOfRef(f.refs[0], depth+1)
		}
	}
	return q.givenToComponent(r, 0, depth+1)
}

// givenToComponent is a type argument of the class of a library that a component is derived from.
func (q *question) givenToComponent(r ref, at, depth int) Type {
	if depth > deepest {
		return Type{}
	}
	for _, s := range q.supers(r) {
		t := subst(q.typeNamed(s.src, s.id, depth+1), r.env)
		if t.named.ok() {
			above := t.named
			above.env = q.bindingsOf(t)
			if g := q.givenToComponent(above, at, depth+10); g.known() {
				return g
			}
		} else if at < len(t.args) {
			return t.args[at]
		}
	}
	return Type{}
}

// propsOfValue is that of a component that a call makes of a function or of another component.
func (q *question) propsOfValue(src *source, id facts.ExprID, depth int) Type {
	e := src.Exprs[id]
	switch {
	case id == facts.NoExpr || depth > deepest:
		return Type{}
	case e.Kind == facts.Func || e.Kind == facts.FuncOf:
		return q.taken(Type{src: src, shape: id}, 0, depth+1)
	case e.Kind == facts.Name || e.Kind == facts.Member:
		return q.propsOf(src, facts.Expr{Kind: facts.PropsOf, Base: id, Scope: e.Scope, At: e.At}, depth+1)
	case e.Kind != facts.CallOf:
		return q.taken(q.typeOf(src, id, depth+1), 0, depth+1)
	}
	callee := e.Base
	if src.Exprs[callee].Kind == facts.GenericOf {
		callee = src.Exprs[callee].Base
	}
	if at, ok := src.lang.Values.Components.Makers[src.Exprs[callee].Name]; ok {
		if args := q.typeArguments(src, e.Base, depth+1); at < len(args) {
			return args[at]
		}
	}
	for _, a := range e.Args {
		if t := q.propsOfValue(src, a, depth+10); t.known() {
			return t
		}
	}
	return q.taken(q.typeOf(src, id, depth+1), 0, depth+1)
}

// elementOfPage is the type of what an element of a page is given, as a library has it that the file imports.
func (q *question) elementOfPage(src *source, tag string, depth int) Type {
	for _, imp := range src.Imports {
		if imp.Level > 0 || imp.Path == "" || imp.Path[0] == '.' {
			continue
		}
		module := q.resolver.importsOf(src.lang).Module(src.path, imp)
		lib := q.source(module)
		if lib == nil {
			continue
		}
		for i := range lib.Defs {
			d := &lib.Defs[i]
			if d.Name != src.lang.Values.Components.Elements || !d.Kind.IsType() {
				continue
			}
			if own := q.own(lib.ref(facts.DefID(i)), tag); len(own) > 0 {
				return q.typeOfRef(own[0], depth+1)
			}
		}
	}
	return Type{}
}
