package resolve

import (
	"rooktrail/internal/core/file/facts"
)

// fewestAlike is how many members an interface needs to be taken for one that a type is meant to have the members of,
// though it does not say so.
const fewestAlike = 2

// alike are the members of the same name of interfaces whose members the type of a member has, all of them, without
// saying so; and of the types that have those of its interface. It is for languages in which that makes a type one of
// the interface.
func (q *question) alike(r ref) (all []ref) {
	owner := q.owner(r)
	if !r.src.lang.Members.Prototypes.Is() || !owner.ok() || !overrides(r.def()) {
		return nil
	}
	for _, s := range q.code.Named(r.def().Name) {
		if s.Container == "" || q.ctx.Err() != nil || q.family(s.Path) != q.family(r.src.path) {
			continue
		}
		src := q.source(s.Path)
		if src == nil {
			continue
		}
		id := src.DefNamed(s.Offset, s.Name)
		if id == facts.NoDef || src.Defs[id].Name != r.def().Name {
			continue
		}
		other := src.ref(id)
		o := q.owner(other)
		if !o.ok() || o.at() == owner.at() || !overrides(other.def()) {
			continue
		}
		if o.def().Kind == facts.Interface && q.isLike(owner, o) || owner.def().Kind == facts.Interface && q.isLike(o, owner) {
			all = append(all, other)
		}
	}
	return all
}

// isLike says whether a type has all members that an interface wants.
func (q *question) isLike(t, iface ref) bool {
	wanted := map[string]bool{}
	q.wantedBy(iface, wanted, 0)
	if len(wanted) < fewestAlike {
		return false
	}
	for name := range wanted {
		if len(q.members(t, name, map[*facts.Def]bool{}, 0).refs) == 0 {
			return false
		}
	}
	return true
}

// wantedBy are the names of the members that an interface wants, and those that it is derived from; what may be left out
// is not among them.
func (q *question) wantedBy(iface ref, wanted map[string]bool, depth int) {
	if depth > deepest/10 {
		return
	}
	for i := range iface.src.Defs {
		d := &iface.src.Defs[i]
		if d.Scope != iface.def().Body || d.Scope == 0 || d.Name == "" || !overrides(d) {
			continue
		}
		if int(d.At.End) < len(iface.src.text) && iface.src.text[d.At.End] == '?' {
			continue
		}
		wanted[d.Name] = true
	}
	for _, s := range q.supers(iface) {
		if t := q.typeNamed(s.src, s.id, 0); t.named.ok() && t.named.def().Kind == facts.Interface {
			q.wantedBy(t.named, wanted, depth+1)
		}
	}
}
