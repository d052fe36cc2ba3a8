package resolve

import "rooktrail/internal/core/file/facts"

// agree says whether two types can be the same: it is false only where they are
// known to differ. A type parameter agrees with any type.
func (q *question) agree(a *source, x facts.ExprID, b *source, y facts.ExprID) bool {
	if x == facts.NoExpr || y == facts.NoExpr {
		return x == y || !a.lang.Types.Written.Is()
	}
	e, f := a.Exprs[x], b.Exprs[y]
	if names(e) || names(f) {
		s, t := q.typeNamed(a, x, 0), q.typeNamed(b, y, 0)
		switch {
		case variable(s) || variable(t):
			return true
		case s.named.ok() && t.named.ok():
			return s.named.at() == t.named.at()
		case s.named.ok() != t.named.ok() && (s.outside != "" || t.outside != ""):
			return false
		case a.lang.Types.Written.Is() && (s.named.ok() && t.src != nil || t.named.ok() && s.src != nil):
			return false
		}
		return !names(e) || !names(f) || e.Name == f.Name || e.Name == "any" || f.Name == "any"
	}
	if e.Kind == facts.GenericOf && f.Kind != facts.GenericOf {
		return q.agree(a, e.Base, b, y)
	}
	if f.Kind == facts.GenericOf && e.Kind != facts.GenericOf {
		return q.agree(a, x, b, f.Base)
	}
	if e.Kind != f.Kind || len(e.Args) != len(f.Args) || e.Kind == facts.Literal && e.Name != f.Name {
		return false
	}
	for i := range e.Args {
		if !q.agree(a, e.Args[i], b, f.Args[i]) {
			return false
		}
	}
	return q.agree(a, e.Base, b, f.Base)
}

func names(e facts.Expr) bool { return e.Kind == facts.Name || e.Kind == facts.Member }

// variable says whether a type is a type parameter.
func variable(t Type) bool { return t.named.ok() && t.named.def().Kind == facts.TypeParameter }
