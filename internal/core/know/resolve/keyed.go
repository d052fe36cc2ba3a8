package resolve

import (
	"rooktrail/internal/core/file/facts"
)

// keyed are the members that the name between quotes stands for, by the type that is wanted there.
func (q *question) keyed(src *source, e facts.Expr, name string) (all []ref) {
	for _, t := range q.wantedTypes(src, facts.Expectation{Type: e.Base}, 0) {
		all = append(all, q.keysNamed(t, name, 0)...)
	}
	return all
}

// keysNamed are the members of a name of the types whose keys a type consists of.
func (q *question) keysNamed(t Type, name string, depth int) (all []ref) {
	if depth > deepest {
		return nil
	}
	switch e := t.expr(); {
	case t.named.ok():
		if of := t.named.def().Type; of != facts.NoExpr && t.named.def().Kind.IsType() { // what it stands for, or is bound to
			return q.keysNamed(subst(q.typeNamed(t.named.src, of, depth+1), q.bindingsOf(t)), name, depth+1)
		}
	case e.Kind == facts.KeyOf:
		return q.memberOfType(q.inside(t, e.Base, depth+1), name, depth+1).refs
	case e.Kind == facts.EitherOf:
		for _, arm := range q.arms(t, depth) {
			all = append(all, q.keysNamed(arm, name, depth+1)...)
		}
	}
	return all
}
