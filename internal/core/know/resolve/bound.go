package resolve

import (
	"cmp"
	"context"
	"maps"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// Bound is all that has one name because it has to: what is defined, wherever that is said, and what uses it
// by that name.
type Bound struct {
	Result
	Kind facts.Kind
	// Definitions are where it is defined, that which was asked about first.
	Definitions []Answer
	// References are the uses that are written with its name.
	References []Reference
	// Family are other methods of the same name that it overrides, or that override it, and that are not among the
	// definitions, since they were not asked for.
	Family []Answer
	// Elsewhere are definitions that say that they override something which is not in the project.
	Elsewhere []Answer
	// Alias says that it is another name that an import gives to something in one file.
	Alias bool
}

// Bound finds all that is to be written otherwise when what the name at a byte offset means is given another
// name. With family, that is every method that overrides or is overridden by it, too.
func (r *Resolver) Bound(ctx context.Context, path string, offset int, family bool) Bound {
	q := r.ask(ctx)
	res := q.definition(path, offset)
	b := Bound{Result: res}
	if alias := q.aliasAt(path, res); alias.ok() {
		return q.boundAlias(b, alias)
	}
	res = q.named(path, res)
	t := q.target(path, res, Scope{Value: true, Unsure: true})
	if t == nil || !t.best.ok() {
		return b
	}
	b.Name, b.Kind = t.written(), t.best.def().Kind
	definitions := q.closure(t, family, &b)
	if !family && overrides(t.best.def()) {
		b.Family = q.familyOf(t)
	}
	t.alone = q.alone(t)
	b.References = q.usesByName(t, &definitions)
	for _, d := range definitions {
		certainty := Inferred
		if book := q.code.Checked(d.src.lang); book != nil && book.Declares(d.src.path, int(d.def().At.Start)) {
			certainty = Exact
		}
		b.Definitions = append(b.Definitions, answer(d, certainty))
	}
	slices.SortStableFunc(b.Definitions[1:], byAnswerPlace)
	return b
}

func byAnswerPlace(a, b Answer) int {
	return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
}

// named leads from what has its name from something else to that: from a constructor to its type, from a member
// that is embedded to the type it is of.
func (q *question) named(path string, res Result) Result {
	if len(res.Answers) == 0 {
		return res
	}
	r := q.refAt(res.Answers[0])
	if !r.ok() {
		return res
	}
	if r.def().Kind == facts.Constructor {
		if owner := q.owner(r); owner.ok() && owner.def().Name == r.def().Name {
			res.Answers = []Answer{answer(owner, res.Answers[0].Certainty)}
		}
	}
	if use, ok := r.src.UseAt(int(r.def().At.Start)); ok && use.At == r.def().At && use.Role == facts.TypeUse && r.def().Kind == facts.Field {
		q.resolveUse(r.src, use, &res)
		res.Answers = slices.DeleteFunc(res.Answers, func(a Answer) bool { return a.At == r.def().At && a.Path == r.src.path })
	}
	return res
}

// closure adds to a target all definitions that must have its name, and gives them in their order; what belongs to
// the family and is not asked for goes into b.
func (q *question) closure(t *target, family bool, b *Bound) (all []ref) {
	add := func(refs ...ref) {
		for _, r := range refs {
			if r.ok() && r.def().Name == t.name && !slices.ContainsFunc(all, func(o ref) bool { return o.at() == r.at() }) {
				all = append(all, r)
				t.same[r.at()] = true
			}
		}
	}
	add(t.best)
	for at := range t.same {
		if src := q.source(at.path); src != nil {
			if id := src.DefAt(int(at.start)); id != facts.NoDef {
				add(src.ref(id))
			}
		}
	}
	var objects written
	if len(all) > 0 && isMember(all[0]) {
		objects = q.written(t.name, q.family(all[0].src.path))
	}
	for i := 0; i < len(all) && q.ctx.Err() == nil; i++ {
		add(objects.of[all[i].at()]...)
		add(objects.by[all[i].at()]...)
		for _, refs := range objects.together {
			if slices.ContainsFunc(refs, func(r ref) bool { return r.at() == all[i].at() }) {
				add(refs...)
			}
		}
		add(q.again(all[i])...)
		add(q.constructorsOf(all[i])...)
		if !overrides(all[i].def()) || all[i].def().Container == "" && !isMember(all[i]) {
			continue
		}
		above := q.overridden(all[i])
		if len(above) == 0 && all[i].saysOverrides() {
			b.Elsewhere = append(b.Elsewhere, answer(all[i], Inferred))
		}
		if family {
			add(append(above, q.overriding(all[i])...)...)
			add(q.alike(all[i])...)
		}
	}
	return all
}

// isMember says whether a definition is one of a type or an object.
func isMember(r ref) bool { return r.src.Scopes[r.def().Scope].Kind == facts.TypeScope }

// familyOf are the methods that would be renamed with those of a target, besides them.
func (q *question) familyOf(t *target) (all []Answer) {
	whole := *t
	whole.same = maps.Clone(t.same)
	for _, r := range q.closure(&whole, true, &Bound{}) {
		if !t.same[r.at()] {
			all = append(all, answer(r, Inferred))
		}
	}
	return all
}

// saysOverrides says whether it is written before a method that it overrides another.
func (r ref) saysOverrides() bool {
	word, d := r.src.lang.Names.Overrides, r.def()
	if word == lang.NoLetters || d.Full.Start >= d.At.Start {
		return false
	}
	return slices.Contains(strings.Fields(string(r.src.text[d.Full.Start:d.At.Start])), word)
}

// constructorsOf are the constructors of a type that are called as it is.
func (q *question) constructorsOf(r ref) (all []ref) {
	d := r.def()
	if !d.Kind.IsType() || d.Body == 0 {
		return nil
	}
	for _, id := range r.src.scoped[scopedName{d.Body, d.Name}] {
		if r.src.Defs[id].Kind == facts.Constructor {
			all = append(all, r.src.ref(id))
		}
	}
	for _, sym := range q.code.Named(d.Name) { // those that stand outside of it
		if sym.Kind != facts.Constructor || sym.Container != d.Name {
			continue
		}
		src := q.source(sym.Path)
		if src == nil {
			continue
		}
		if id := src.DefNamed(sym.Offset, sym.Name); id != facts.NoDef && src.Defs[id].Kind == facts.Constructor {
			if owner := q.owner(src.ref(id)); owner.ok() && owner.at() == r.at() {
				all = append(all, src.ref(id))
			}
		}
	}
	return all
}

// written is the name as it stands in the code.
func (t *target) written() string {
	if t.best.def().Kind == facts.Label {
		return strings.TrimSuffix(t.name, ":")
	}
	return t.name
}

// usesByName are the uses of a target that are written with its name. Where a type is embedded, it is a member of
// that name as well, which is added to the definitions, and whose uses are among them.
func (q *question) usesByName(t *target, definitions *[]ref) (all []Reference) {
	var mu sync.Mutex
	seen := map[definedAt]bool{}
	for {
		var embedded []ref
		q.uses(t, func(some []Reference) bool {
			mu.Lock()
			defer mu.Unlock()
			for _, u := range some {
				at := definedAt{u.Path, u.At.Start}
				src := q.source(u.Path)
				if src == nil || string(u.At.In(src.text)) != t.written() || t.same[at] || seen[at] {
					continue
				}
				seen[at] = true
				all = append(all, u)
				if u.Access == facts.TypeUse || u.Access == facts.Read {
					if id := src.DefAt(int(u.At.Start)); id != facts.NoDef && src.Defs[id].At == u.At && src.Defs[id].Kind == facts.Field {
						embedded = append(embedded, src.ref(id))
					}
				}
			}
			return true
		})
		if len(embedded) == 0 || q.ctx.Err() != nil {
			break
		}
		for _, e := range embedded {
			t.same[e.at()] = true
		}
		*definitions = append(*definitions, embedded...)
		all = slices.DeleteFunc(all, func(u Reference) bool { return t.same[definedAt{u.Path, u.At.Start}] })
	}
	slices.SortFunc(all, func(a, b Reference) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.At.Start, b.At.Start))
	})
	return all
}

// aliasAt is the import by which what was asked about has another name in its file than where it is defined.
func (q *question) aliasAt(path string, res Result) ref {
	src := q.source(path)
	if src == nil || res.Name == "" {
		return ref{}
	}
	if id := src.DefAt(int(res.At.Start)); id != facts.NoDef && src.Defs[id].At == res.At {
		if src.isAlias(&src.Defs[id]) {
			return src.ref(id)
		}
		if src.Defs[id].Kind != facts.Import {
			return ref{}
		}
	}
	use, ok := src.UseAt(int(res.At.Start))
	if !ok || use.At != res.At || use.Base != facts.NoExpr || string(use.At.In(src.text)) != use.Name {
		return ref{}
	}
	if r := q.importOf(src, use); r.ok() && src.isAlias(r.def()) {
		return r
	}
	return ref{}
}

// isAlias says whether a definition is another name that an import gives to something.
func (s *source) isAlias(d *facts.Def) bool {
	return d.Kind == facts.Import && d.Import > 0 && s.Imports[d.Import-1].Alias == d.Name && s.Imports[d.Import-1].Name != d.Name && d.At.Len() > 0
}

// importOf is the import that brought in what a bare name means; none if it was defined in the file.
func (q *question) importOf(src *source, use facts.Use) ref {
	for s := use.Scope; ; s = src.Scopes[s].Parent {
		if r := q.inScope(src, use.Name, s, s == use.Scope, int(use.At.Start)); r.ok() {
			if r.def().Kind == facts.Import {
				return r
			}
			return ref{}
		}
		if s == 0 {
			return ref{}
		}
	}
}

// boundAlias is what has the name that an import gives to something.
func (q *question) boundAlias(b Bound, alias ref) Bound {
	src, name := alias.src, alias.def().Name
	b.Name, b.Kind, b.Alias = name, facts.Import, true
	b.Definitions = []Answer{answer(alias, Inferred)}
	for _, u := range src.Uses {
		if u.Name != name || u.Base != facts.NoExpr || u.At == alias.def().At || string(u.At.In(src.text)) != name {
			continue
		}
		if r := q.importOf(src, u); r.ok() && r.at() == alias.at() {
			b.References = append(b.References, Reference{Path: src.path, At: u.At, Name: name, Access: u.Role, Certainty: Inferred, In: q.around(src, int(u.At.Start))})
		}
	}
	return b
}
