package resolve

import (
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// again are the other definitions that declare the same thing: prototypes and
// the function written out, signatures in front of a function, the parts of a
// type that is written in several places.
func (q *question) again(r ref) (more []ref) {
	d := r.def()
	if r.src.sees() == lang.SeesIncludes {
		if d.Kind.IsCallable() {
			return append(q.twins(r, true), q.twins(r, false)...)
		}
		if d.Kind == facts.Namespace {
			return q.openings(r)
		}
		return slices.Concat(q.echoes(r), q.externs(r), q.alternatives(r))
	}
	if !r.src.lang.Scopes.Again.Is() {
		return q.echoes(r)
	}
	for _, id := range r.src.scoped[scopedName{d.Scope, d.Name}] {
		o := &r.src.Defs[id]
		if id != r.id && o.Container == d.Container && o.Kind != facts.Import {
			more = append(more, r.src.ref(id))
		}
	}
	return more
}

// openings are all places where a namespace is opened.
func (q *question) openings(r ref) (all []ref) {
	in, _ := r.src.spaces(r.def())
	for _, sym := range q.code.Named(r.def().Name) {
		file := q.source(sym.Path)
		if sym.Kind != facts.Namespace || file == nil || file.sees() != lang.SeesIncludes {
			continue
		}
		if id := file.DefNamed(sym.Offset, sym.Name); id != facts.NoDef {
			if other, _ := file.spaces(&file.Defs[id]); slices.Equal(other, in) {
				all = append(all, file.ref(id))
			}
		}
	}
	return all
}

// echoes are the other places that only give the same name once more to what is defined beside them: the names of a type that
// are the same word, the signatures that a function may be called by.
func (q *question) echoes(r ref) (more []ref) {
	for _, id := range r.src.scoped[scopedName{r.def().Scope, r.def().Name}] {
		if o := &r.src.Defs[id]; id != r.id && (o.Echo || r.def().Echo) {
			more = append(more, r.src.ref(id))
		}
	}
	return more
}

// alternatives are the other definitions of a type or a macro of which a compiler sees but one, as it is told: those in the
// same file, and for macros those in what includes it or is included.
func (q *question) alternatives(r ref) (more []ref) {
	d := r.def()
	if d.Kind != facts.Macro && !d.Kind.IsType() || d.Scope != 0 {
		return nil
	}
	for _, sym := range q.code.Named(d.Name) {
		file := r.src
		if sym.Kind != d.Kind {
			continue
		}
		if sym.Path != r.src.path {
			if d.Kind != facts.Macro || !q.seesIncludes(sym.Path) || !q.reachesFrom(sym.Path, r.src.path) && !q.reaches(r.src, sym.Path) {
				continue
			}
			if file = q.source(sym.Path); file == nil {
				continue
			}
		}
		if id := file.DefNamed(sym.Offset, sym.Name); id != facts.NoDef && file.ref(id).at() != r.at() && file.Defs[id].Scope == 0 {
			more = append(more, file.ref(id))
		}
	}
	return more
}

// externs are the places where a variable is made known, or defined if it
// is only made known where r is.
func (q *question) externs(r ref) (more []ref) {
	d := r.def()
	if !d.Kind.IsValue() || d.Scope != 0 {
		return nil
	}
	if isExtern(r) {
		more = q.definedElsewhere(r)
	}
	for _, sym := range q.code.Named(d.Name) {
		if !q.seesIncludes(sym.Path) || sym.Path != r.src.path && !q.reaches(r.src, sym.Path) {
			continue
		}
		file := q.source(sym.Path)
		if file == nil {
			continue
		}
		id := file.DefNamed(sym.Offset, sym.Name)
		if id != facts.NoDef && isExtern(file.ref(id)) && (file != r.src || id != r.id) {
			more = append(more, file.ref(id))
		}
	}
	return more
}
