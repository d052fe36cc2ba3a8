package resolve

import (
	"context"
	"slices"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Level says how far along a hierarchy an answer goes.
type Level bool

// The levels: one step, or all there are.
const (
	Direct Level = false
	All    Level = true
)

// Supertypes finds what the type at an offset is derived from or implements; of
// a method, the methods that it overrides or implements. The nearest come
// first.
func (r *Resolver) Supertypes(ctx context.Context, path string, offset int, level Level) Result {
	return r.climb(ctx, path, offset, func(q *question, from ref) []ref {
		if from.def().Kind.IsType() {
			return q.reach(from, level, q.supertypes)
		}
		return q.nearest(q.overridden(from), level)
	})
}

// Subtypes finds the types derived from the one at an offset, interfaces that
// extend it among them; of a method, the methods that override or implement
// it.
func (r *Resolver) Subtypes(ctx context.Context, path string, offset int, level Level) Result {
	return r.climb(ctx, path, offset, func(q *question, from ref) []ref {
		if from.def().Kind.IsType() {
			return q.reach(from, level, q.subtypes)
		}
		return q.overridingIn(from, level)
	})
}

// Implementations finds the types, other than interfaces, that implement or
// extend the one at an offset, however many steps away; of a method, the
// methods in them that implement or override it. If there are interfaces
// alone, they are what is found. What could be among them, but is derived from
// something that was not resolved, is possible.
func (r *Resolver) Implementations(ctx context.Context, path string, offset int) Result {
	var possible []Answer
	res := r.climb(ctx, path, offset, func(q *question, from ref) []ref {
		var found []ref
		if from.def().Kind == facts.Field {
			return q.heldFunctions(from)
		}
		defer func() { possible = q.possiblyBelow(from, found) }()
		if from.def().Kind.IsType() {
			found = q.reach(from, All, q.subtypes)
		} else {
			found = q.overridingIn(from, All)
		}
		work := slices.DeleteFunc(slices.Clone(found), func(r ref) bool {
			if r.def().Kind.IsType() {
				return isInterface(r)
			}
			owner := q.owner(r)
			return owner.ok() && isInterface(owner) && !q.hasBody(r)
		})
		if len(work) == 0 {
			return found
		}
		return work
	})
	res.Possible = possible
	return res
}

// mostPossiblyBelow is how many methods of a name are looked at.
const mostPossiblyBelow = 500

// possiblyBelow are the types that say that they are derived from something of the name of a type, of which it was not found
// what it is; of a method, those of its name in types that are derived from something unknown.
func (q *question) possiblyBelow(from ref, known []ref) (all []Answer) {
	if q.exactly {
		return nil // a compiler has named them all
	}
	family, seen := q.family(from.src.path), map[definedAt]bool{from.at(): true}
	for _, r := range known {
		seen[r.at()] = true
	}
	add := func(r ref) {
		if !seen[r.at()] {
			seen[r.at()] = true
			all = append(all, answer(r, ByName))
		}
	}
	if from.def().Kind.IsType() {
		for _, p := range q.code.Mentioning(from.def().Name) {
			if src := q.source(p); src != nil && q.family(p) == family && q.ctx.Err() == nil {
				for _, r := range q.unresolvedHeirs(src, from.def().Name) {
					add(r)
				}
			}
		}
		return all
	}
	if !overrides(from.def()) || !q.owner(from).ok() {
		return nil
	}
	for i, sym := range q.code.Named(from.def().Name) {
		if i >= mostPossiblyBelow {
			break
		}
		src := q.source(sym.Path)
		if src == nil || q.family(sym.Path) != family || sym.Container == "" || q.ctx.Err() != nil {
			continue
		}
		id := src.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || !overrides(&src.Defs[id]) || !src.Defs[id].Takes(from.def().Parameters) {
			continue
		}
		if owner := q.owner(src.ref(id)); owner.ok() && q.isDerivedFromUnknown(owner) {
			add(src.ref(id))
		}
	}
	return all
}

// unresolvedHeirs are the types of a file that are derived from something of a name that was not resolved.
func (q *question) unresolvedHeirs(src *source, name string) (found []ref) {
	for i := range src.Defs {
		for _, s := range src.Defs[i].Supers {
			e := src.Exprs[s]
			for e.Kind == facts.GenericOf {
				e = src.Exprs[e.Base]
			}
			if t := q.typeNamed(src, s, 0); e.Name == name && !t.named.ok() && t.outside == "" {
				found = append(found, src.ref(facts.DefID(i)))
				break
			}
		}
	}
	return found
}

// isDerivedFromUnknown says whether a type, or one that it is derived from, is derived from something of which it is not known
// what it is.
func (q *question) isDerivedFromUnknown(t ref) bool {
	for _, above := range append([]ref{t}, q.reach(t, All, q.supertypes)...) {
		for _, s := range q.supers(above) {
			if of := q.typeNamed(s.src, s.id, 0); !of.named.ok() && of.outside == "" {
				return true
			}
		}
	}
	return false
}

// isInterface says whether a type has no values of its own.
func isInterface(r ref) bool {
	k := r.def().Kind
	return k == facts.Interface || k == facts.Trait
}

// climb resolves the name at an offset and asks for what is related to it.
func (r *Resolver) climb(ctx context.Context, path string, offset int, related func(q *question, from ref) []ref) Result {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	if len(res.Answers) == 0 {
		return res
	}
	certainty := max(res.Answers[0].Certainty, Inferred)
	from := q.refAt(res.Answers[0])
	res.Answers, res.Here = nil, false
	if !from.ok() {
		return res
	}
	if from.def().Kind == facts.Constructor {
		if owner := q.owner(from); owner.ok() {
			from = owner
		}
	}
	found := related(q, from)
	if q.exactly && certainty == Inferred {
		certainty = Exact
	}
	for _, f := range found {
		res.Answers = append(res.Answers, answer(f, certainty))
	}
	return res
}

// owner is the type that a member belongs to.
func (q *question) owner(r ref) ref {
	d := r.def()
	for s := d.Scope; s != 0; s = r.src.Scopes[s].Parent {
		o := r.src.Scopes[s].Owner
		if r.src.Scopes[s].Kind != facts.TypeScope || o == facts.NoDef {
			continue
		}
		if around := &r.src.Defs[o]; !around.Kind.IsSpace() || d.Container == "" || d.Container == around.Name {
			return r.src.ref(o)
		}
	}
	if d.Container == "" {
		return ref{}
	}
	if o := q.inScope(r.src, d.Container, 0, true, len(r.src.text)); o.ok() && (o.def().Kind.IsType() || r.src.lang.Members.Apart == lang.InFile) {
		return o
	}
	f := q.lookup(r.src, d.Container, d.Scope, int(d.At.Start), 0)
	for _, o := range f.refs {
		if o.def().Kind.IsType() {
			return o
		}
	}
	if r.src.sees() == lang.SeesIncludes {
		return q.onlyTag(r.src, d.Container)
	}
	return ref{}
}

// supertypes are the types that one is directly derived from.
func (q *question) supertypes(t ref) (found []ref) {
	d := t.def()
	for _, s := range q.supers(t) {
		if s := q.typeNamed(s.src, s.id, 0); s.named.ok() {
			found = append(found, s.named)
		}
	}
	if d.Kind == facts.Type && d.Type != facts.NoExpr {
		if s := q.typeNamed(t.src, d.Type, 0); s.named.ok() && s.named != t {
			found = append(found, s.named)
		}
	}
	if t.src.lang.Types.Satisfied.Is() && d.Kind != facts.Interface {
		embedded := len(found) > 0
		found = append(found, q.satisfied(t)...)
		q.exactly = q.exactly && !embedded // that was our own resolution
	}
	return unique(found)
}

// unique leaves out what is there already.
func unique(refs []ref) (kept []ref) {
	seen := map[definedAt]bool{}
	for _, r := range refs {
		if !seen[r.at()] {
			seen[r.at()] = true
			kept = append(kept, r)
		}
	}
	return kept
}

// subtypes are the types directly derived from one.
func (q *question) subtypes(t ref) (found []ref) {
	if t.src.lang.Types.Satisfied.Is() && t.def().Kind == facts.Interface {
		return q.satisfying(t)
	}
	if q.exactly {
		return nil // a compiler has named all that implement it already
	}
	var mu sync.Mutex
	name := t.def().Name
	family := q.family(t.src.path)
	q.inFiles(q.code.Mentioning(name), func(w *question, path string) bool {
		if w.family(path) != family {
			return true
		}
		src := w.source(path)
		if src == nil {
			return true
		}
		heirs := w.heirs(src, t)
		mu.Lock()
		defer mu.Unlock()
		found = append(found, heirs...)
		return true
	})
	slices.SortFunc(found, byPlace)
	return found
}

// heirs are the types of a file that are directly derived from t.
func (q *question) heirs(src *source, t ref) (found []ref) {
	for i := range src.Defs {
		d := &src.Defs[i]
		for _, s := range d.Supers {
			if e := src.Exprs[s]; !mayName(src, e, t.def().Name) {
				continue
			}
			if s := q.typeNamed(src, s, 0); s.named.ok() && s.named.at() == t.at() {
				found = append(found, src.ref(facts.DefID(i)))
				break
			}
		}
	}
	for _, d := range src.Derived {
		if !mayName(src, src.Exprs[d.Super], t.def().Name) || !q.isThat(src, d.Super, t) {
			continue
		}
		if of := q.typeNamed(src, d.Of, 0); of.named.ok() && of.named.def().Kind != facts.TypeParameter {
			found = append(found, of.named)
		}
	}
	return found
}

// mayName says whether an expression of a type can stand for one of that name,
// which an import may have brought in under another one.
func mayName(src *source, e facts.Expr, name string) bool {
	for e.Kind == facts.GenericOf || e.Kind == facts.CallOf {
		e = src.Exprs[e.Base]
	}
	if e.Name == name {
		return true
	}
	for _, imp := range src.Imports {
		if imp.Alias == e.Name && imp.Name != e.Name {
			return true
		}
	}
	return false
}

// reach follows steps from a definition, one or all, nearest first. A circle is
// gone round once.
func (q *question) reach(from ref, level Level, step func(ref) []ref) (found []ref) {
	seen := map[definedAt]bool{from.at(): true}
	for next := []ref{from}; len(next) > 0 && q.ctx.Err() == nil; {
		var further []ref
		for _, t := range next {
			for _, s := range step(t) {
				if !seen[s.at()] {
					seen[s.at()] = true
					further = append(further, s)
				}
			}
		}
		found = append(found, further...)
		if next = further; level == Direct {
			break
		}
	}
	return found
}

// overridden are the members, in the types that the one of r is derived from,
// which r overrides or implements; the nearest first.
func (q *question) overridden(r ref) (found []ref) {
	owner := q.owner(r)
	if !owner.ok() || !overrides(r.def()) {
		return nil
	}
	for _, t := range q.reach(owner, All, q.supertypes) {
		found = append(found, q.sameIn(t, r)...)
	}
	return unique(found)
}

// overrides says whether a member is of a kind that can stand in for another.
func overrides(d *facts.Def) bool {
	return (d.Kind == facts.Method || d.Kind == facts.Property || d.Kind == facts.Function) && !d.Static
}

// nearest keeps only the first, unless all are wanted.
func (q *question) nearest(refs []ref, level Level) []ref {
	if level == Direct && len(refs) > 1 {
		return refs[:1]
	}
	return refs
}

// overriding are the members that override or implement r.
func (q *question) overriding(r ref) []ref { return q.overridingIn(r, All) }

func (q *question) overridingIn(r ref, level Level) (found []ref) {
	owner := q.owner(r)
	if !owner.ok() || !overrides(r.def()) {
		return nil
	}
	seen := map[definedAt]bool{owner.at(): true}
	for next := []ref{owner}; len(next) > 0 && q.ctx.Err() == nil; {
		var further []ref
		for _, t := range next {
			for _, s := range q.subtypes(t) {
				if seen[s.at()] {
					continue
				}
				seen[s.at()] = true
				own := q.sameIn(s, r)
				if len(own) == 0 && t.src.lang.Types.Satisfied.Is() && t.def().Kind == facts.Interface {
					own = fitting(q.members(s, r.def().Name, map[*facts.Def]bool{}, 0).refs, r.def().Parameters)
				}
				found = append(found, own...)
				if len(own) == 0 || level == All {
					further = append(further, s)
				}
			}
		}
		next = further
	}
	return unique(found)
}

// sameIn are the members of exactly this type that r overrides or is overridden
// by: of the same name, and with as many parameters where that decides.
func (q *question) sameIn(t ref, r ref) (found []ref) {
	d := r.def()
	for _, m := range q.ownMembers(t, d.Name) {
		o := m.def()
		if o.Static || !overrides(o) {
			continue
		}
		if t.src.lang.Members.Overloads.Is() && !q.sameParameters(m, r) {
			continue
		}
		found = append(found, m)
	}
	return found
}

// sameParameters says whether two callables have the same parameters, as far as
// their number and what is known of their types tell.
func (q *question) sameParameters(a, b ref) bool {
	x, y := a.def(), b.def()
	if x.Parameters != y.Parameters {
		return false
	}
	for i := range min(len(x.Params), len(y.Params)) {
		if !q.agree(a.src, x.Params[i], b.src, y.Params[i]) {
			return false
		}
	}
	return true
}

// ownMembers are the members of the name that exactly this type has, wherever
// they stand.
func (q *question) ownMembers(t ref, name string) (own []ref) {
	if d := t.def(); d.Body != 0 {
		for _, id := range t.src.scoped[scopedName{d.Body, name}] {
			if k := t.src.Defs[id].Kind; k != facts.TypeParameter && k != facts.Parameter {
				own = append(own, t.src.ref(id))
			}
		}
	}
	if len(own) == 0 {
		own = q.methodsElsewhere(t, name)
	}
	return own
}

func byPlace(a, b ref) int {
	switch {
	case a.src.path < b.src.path:
		return -1
	case a.src.path > b.src.path:
		return 1
	}
	return int(a.def().At.Start) - int(b.def().At.Start)
}
