package resolve

import (
	"rooktrail/internal/core/facts"
)

// Type is what is known of the type of a value: the definition of a named
// type, or a shape such as a list, written as an expression in some file.
type Type struct {
	named   ref
	src     *source
	shape   facts.ExprID
	outside string // what it belongs to, if that is outside the project
}

// typeOf works out the type of an expression's value.
func (q *question) typeOf(src *source, id facts.ExprID, depth int) Type {
	if id == facts.NoExpr || depth > deepest {
		return Type{}
	}
	key := exprKey{src, id}
	if t, ok := q.types[key]; ok {
		return t
	}
	q.types[key] = Type{} // what leads back here by a circle knows nothing yet
	t := q.workOutType(src, id, depth)
	q.types[key] = t
	return t
}

func (q *question) workOutType(src *source, id facts.ExprID, depth int) Type {
	e := src.Exprs[id]
	switch e.Kind {
	case facts.Name, facts.Member:
		return q.typeOfFound(q.meaning(src, id, depth+1), depth+1)
	case facts.CallOf:
		return q.typeOfCall(src, e, depth+1)
	case facts.Value:
		return q.typeNamed(src, e.Base, depth+1)
	case facts.Index, facts.Each:
		return q.element(q.typeOf(src, e.Base, depth+1), false, depth+1)
	case facts.EachKey:
		return q.element(q.typeOf(src, e.Base, depth+1), true, depth+1)
	case facts.Awaited:
		return q.promised(q.typeOf(src, e.Base, depth+1), depth+1)
	case facts.Literal:
		return Type{outside: src.Language + " itself"}
	}
	return Type{src: src, shape: id}
}

func (q *question) typeOfFound(f found, depth int) Type {
	if len(f.refs) == 0 {
		return Type{outside: f.outside}
	}
	return q.typeOfRef(preferred(f.refs, false)[0], depth)
}

// typeOfRef is the type of the value that a definition stands for; for a type
// it is that type, so that its members can be named behind it.
func (q *question) typeOfRef(r ref, depth int) Type {
	d := r.def()
	switch {
	case d.Kind.IsType() || d.Kind.IsSpace():
		return Type{named: r}
	case d.Kind.IsCallable():
		return Type{}
	case d.Type != facts.NoExpr:
		return q.typeNamed(r.src, d.Type, depth+1)
	case d.Init != facts.NoExpr:
		return q.part(q.typeOf(r.src, d.Init, depth+1), d.Part, depth+1)
	case d.Body != 0:
		return Type{named: r} // an object whose members are known
	}
	return Type{}
}

// part is one of several results. What is not a tuple is its own first part,
// as in v, ok := m[k].
func (q *question) part(t Type, part, depth int) Type {
	if part == 0 {
		return t
	}
	if t.src != nil && t.src.Exprs[t.shape].Kind == facts.TupleOf {
		if args := t.src.Exprs[t.shape].Args; part <= len(args) {
			return q.typeNamed(t.src, args[part-1], depth+1)
		}
		return Type{}
	}
	if part == 1 {
		return t
	}
	return Type{}
}

// typeOfCall is the type of the result of a call, or of the value that calling
// a type makes.
func (q *question) typeOfCall(src *source, e facts.Expr, depth int) Type {
	f := q.meaning(src, e.Base, depth+1)
	for _, r := range preferred(f.refs, true) {
		d := r.def()
		switch {
		case d.Kind.IsType():
			return Type{named: r}
		case d.Kind.IsCallable():
			return q.typeNamed(r.src, d.Type, depth+1)
		}
	}
	if f.outside != "" {
		return Type{outside: f.outside}
	}
	t := q.typeOf(src, e.Base, depth+1)
	if t.src != nil {
		if shape := t.src.Exprs[t.shape]; shape.Kind == facts.FuncOf || shape.Kind == facts.Func {
			return q.typeNamed(t.src, shape.Base, depth+1)
		}
	}
	return Type{outside: t.outside}
}

// typeNamed reads an expression that is a type.
func (q *question) typeNamed(src *source, id facts.ExprID, depth int) Type {
	if id == facts.NoExpr || depth > deepest {
		return Type{}
	}
	e := src.Exprs[id]
	switch e.Kind {
	case facts.Name, facts.Member:
		f := q.meaning(src, id, depth+1)
		for _, r := range f.refs {
			if d := r.def(); d.Kind.IsType() || d.Kind.IsSpace() {
				return Type{named: r}
			}
			// typeof x, or a class kept in a variable.
			return q.typeOfRef(r, depth+1)
		}
		return Type{outside: f.outside}
	case facts.GenericOf:
		t := q.typeNamed(src, e.Base, depth+1)
		if t.named.ok() {
			return t
		}
		return Type{src: src, shape: id, outside: ""}
	case facts.EitherOf:
		outside := ""
		for _, a := range e.Args {
			t := q.typeNamed(src, a, depth+1)
			if t.named.ok() || t.src != nil {
				return t
			}
			outside = t.outside
		}
		return Type{outside: outside}
	case facts.Literal:
		return Type{outside: src.Language + " itself"}
	}
	return Type{src: src, shape: id}
}

// element is the type of what a list or map holds, or of its keys.
func (q *question) element(t Type, key bool, depth int) Type {
	if t.named.ok() {
		// A named type for a list or map, or a container class with a
		// declared element.
		d := t.named.def()
		if d.Type == facts.NoExpr || depth > deepest {
			return Type{}
		}
		return q.element(q.typeNamed(t.named.src, d.Type, depth+1), key, depth+1)
	}
	if t.src == nil {
		return Type{outside: t.outside}
	}
	e := t.src.Exprs[t.shape]
	switch e.Kind {
	case facts.ListOf:
		if key {
			return Type{outside: t.src.Language + " itself"}
		}
		return q.typeNamed(t.src, e.Base, depth+1)
	case facts.MapOf:
		if key {
			return q.typeNamed(t.src, e.Args[0], depth+1)
		}
		return q.typeNamed(t.src, e.Base, depth+1)
	case facts.GenericOf:
		return q.argument(t.src, e, key, depth+1)
	case facts.TupleOf:
		if len(e.Args) > 0 {
			return q.typeNamed(t.src, e.Args[0], depth+1)
		}
	}
	return Type{}
}

// argument is the type argument of a container that stands for its elements:
// the last one, as in dict[str, Hut] and Array<Hut>; for keys the first.
func (q *question) argument(src *source, e facts.Expr, key bool, depth int) Type {
	if len(e.Args) == 0 {
		return Type{}
	}
	if key {
		return q.typeNamed(src, e.Args[0], depth+1)
	}
	return q.typeNamed(src, e.Args[len(e.Args)-1], depth+1)
}

// promised is the type of what one gets by waiting for a value.
func (q *question) promised(t Type, depth int) Type {
	if t.src == nil || t.src.Exprs[t.shape].Kind != facts.GenericOf {
		return t
	}
	return q.argument(t.src, t.src.Exprs[t.shape], false, depth+1)
}
