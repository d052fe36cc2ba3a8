package resolve

import (
	"context"

	"rooktrail/internal/core/file/facts"
)

// TypeDefinition finds the definition of the type that the value at an offset
// is of: of a function, of what it gives; of a list or map, of what it holds;
// of a type, the type itself.
func (r *Resolver) TypeDefinition(ctx context.Context, path string, offset int) Result {
	q := r.ask(ctx)
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
	if d := from.def(); d.Kind == facts.Constructor {
		t = Type{named: q.owner(from)}
	} else if d.Kind.IsCallable() {
		t = q.declaredResult(from, 0)
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
	for ; !t.named.ok() && depth < deepest; depth++ {
		e := t.expr()
		switch {
		case e.Kind == facts.TupleOf && len(e.Args) > 0:
			t = q.inside(t, e.Args[0], depth)
		case len(t.args) > 0:
			t = argument(t, false)
		case t.src != nil && e.Base != facts.NoExpr:
			t = q.inside(t, e.Base, depth)
		default:
			return t
		}
	}
	return t
}
