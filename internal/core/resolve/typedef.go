package resolve

import "rooktrail/internal/core/facts"

// TypeDefinition finds the definition of the type that the value at an offset
// is of: of a function, of what it gives; of a list or map, of what it holds;
// of a type, the type itself.
func (r *Resolver) TypeDefinition(path string, offset int) Result {
	q := r.ask()
	res := q.definition(path, offset)
	if len(res.Answers) == 0 {
		return res
	}
	certainty := res.Answers[0].Certainty
	from := q.refAt(res.Answers[0])
	res.Answers, res.Here = nil, false
	if !from.ok() {
		return res
	}
	t := q.typeOfRef(from, 0)
	if d := from.def(); d.Kind.IsCallable() {
		if t = q.typeNamed(from.src, d.Type, 0); d.Kind == facts.Constructor {
			t = Type{named: q.owner(from)}
		}
	}
	if t = q.held(t, 0); t.named.ok() {
		res.Answers = []Answer{answer(t.named, certainty)}
		res.Outside = ""
	} else if t.outside != "" {
		res.Outside = t.outside
	}
	return res
}

// held is the named type that a list, a map, a promise or a function is about.
func (q *question) held(t Type, depth int) Type {
	for ; t.src != nil && depth < deepest; depth++ {
		e := t.src.Exprs[t.shape]
		switch {
		case e.Kind == facts.TupleOf && len(e.Args) > 0:
			t = q.typeNamed(t.src, e.Args[0], depth)
		case e.Kind == facts.GenericOf:
			t = q.argument(t.src, e, false, depth)
		case e.Base != facts.NoExpr:
			t = q.typeNamed(t.src, e.Base, depth)
		default:
			return Type{}
		}
	}
	return t
}
