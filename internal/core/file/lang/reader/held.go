package reader

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// OneOf keeps the value of one of several expressions, of which those that say nothing do not count.
func (r *Reader) OneOf(all []facts.ExprID, at place.Range) facts.ExprID {
	kept := all[:0:0]
	for _, e := range all {
		if e != facts.NoExpr {
			kept = append(kept, e)
		}
	}
	switch len(kept) {
	case 0:
		return facts.NoExpr
	case 1:
		return kept[0]
	}
	return r.Expr(facts.Expr{Kind: facts.OneOf, Args: kept, At: at})
}

// Collection keeps a value of a type of the language by what it holds: an element, or a key and a value, each as a value.
func (r *Reader) Collection(name string, at place.Range, held ...facts.ExprID) facts.ExprID {
	base := r.Expr(facts.Expr{Kind: facts.Literal, Name: name, At: at})
	of, known := facts.Expr{Kind: facts.GenericOf, Base: base, At: at}, false
	for _, h := range held {
		if h != facts.NoExpr {
			known = true
			h = r.Expr(facts.Expr{Kind: facts.TypeOf, Base: h, At: at})
		}
		of.Args = append(of.Args, h)
	}
	if !known {
		return base
	}
	return r.Expr(facts.Expr{Kind: facts.Value, Base: r.Expr(of), At: at})
}
