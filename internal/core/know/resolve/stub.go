package resolve

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// stubOf is what declares the type of a definition in a file beside its own that is there for nothing else; none if there is no
// such file, or nothing of that name in it.
func (q *question) stubOf(r ref) ref {
	stub := r.src.lang.Values.Stub
	if stub == lang.NoLetters || !q.code.Has(r.src.path+stub) {
		return ref{}
	}
	in := q.source(r.src.path + stub)
	if in == nil {
		return ref{}
	}
	d := r.def()
	if d.Kind != facts.Parameter {
		return declaredIn(in, d)
	}
	owner := r.src.Scopes[d.Scope].Owner
	if owner == facts.NoDef {
		return ref{}
	}
	function := declaredIn(in, &r.src.Defs[owner])
	if !function.ok() || function.def().Body == 0 {
		return ref{}
	}
	for _, id := range in.scoped[scopedName{function.def().Body, d.Name}] {
		return in.ref(id)
	}
	return ref{}
}

// declaredIn is the definition in a file of the same name in the same type.
func declaredIn(in *source, d *facts.Def) ref {
	for i := range in.Defs {
		if o := &in.Defs[i]; o.Name == d.Name && o.Container == d.Container && o.Kind.IsCallable() == d.Kind.IsCallable() && !in.Local(o) {
			return in.ref(facts.DefID(i))
		}
	}
	return ref{}
}
