package resolve

import (
	"path"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// A type may implement an interface by having its methods. Which types might
// is found through the names of the methods; whether they do, by looking for
// each of them.

// satisfying are the types that have all methods of an interface, as far as
// their names and the number of parameters tell, and the interfaces among
// them.
func (q *question) satisfying(iface ref) (found []ref) {
	if book := q.code.Checked(iface.src.lang); book != nil {
		if targets, ok := book.Implementers(path.Dir(iface.src.path), iface.def().Name); ok {
			q.exactly = true
			return q.allDeclared(targets)
		}
	}
	methods := q.interfaceMethods(iface, map[definedAt]bool{})
	if len(methods) == 0 {
		return nil // every type would
	}
	slices.SortStableFunc(methods, func(a, b ref) int { return len(q.code.Named(a.def().Name)) - len(q.code.Named(b.def().Name)) })
	seen := map[definedAt]bool{iface.at(): true}
	for next := q.havingMethod(iface.src.lang, methods[0].def().Name); len(next) > 0; {
		var embedding []ref
		for _, t := range next {
			if seen[t.at()] {
				continue
			}
			seen[t.at()] = true
			if q.hasAll(t, methods) {
				found = append(found, t)
			}
			embedding = append(embedding, q.embedding(t)...)
		}
		next = embedding
	}
	slices.SortFunc(found, byPlace)
	return found
}

// interfaceMethods are the methods of an interface and of those it embeds.
func (q *question) interfaceMethods(iface ref, seen map[definedAt]bool) (methods []ref) {
	if seen[iface.at()] {
		return nil
	}
	seen[iface.at()] = true
	d := iface.def()
	for i := range iface.src.Defs {
		if m := &iface.src.Defs[i]; m.Scope == d.Body && d.Body != 0 && m.Kind == facts.Method {
			methods = append(methods, iface.src.ref(facts.DefID(i)))
		}
	}
	for _, s := range d.Supers {
		if t := q.typeNamed(iface.src, s, 0); t.named.ok() && t.named.def().Kind == facts.Interface {
			methods = append(methods, q.interfaceMethods(t.named, seen)...)
		}
	}
	return methods
}

// havingMethod are the types of a language that declare a method of the name.
func (q *question) havingMethod(l *lang.Language, name string) (types []ref) {
	for _, sym := range q.code.Named(name) {
		if sym.Container == "" || q.code.Languages().Of(sym.Path) != l || sym.Kind != facts.Method {
			continue
		}
		src := q.source(sym.Path)
		if src == nil {
			continue
		}
		if id := src.DefNamed(sym.Offset, sym.Name); id != facts.NoDef {
			if t := q.owner(src.ref(id)); t.ok() {
				types = append(types, t)
			}
		}
	}
	return unique(types)
}

// embedding are the types that embed one.
func (q *question) embedding(t ref) (types []ref) {
	for _, p := range q.code.Mentioning(t.def().Name) {
		if q.code.Languages().Of(p) != t.src.lang {
			continue
		}
		if src := q.source(p); src != nil {
			types = append(types, q.heirs(src, t)...)
		}
	}
	return types
}

// hasAll says whether a type has all of the methods.
func (q *question) hasAll(t ref, methods []ref) bool {
	for _, m := range methods {
		f := q.members(t, m.def().Name, map[*facts.Def]bool{}, 0)
		if len(f.refs) == 0 || f.refs[0].def().Kind != facts.Method || !q.sameParameters(f.refs[0], m) || !q.agree(f.refs[0].src, f.refs[0].def().Type, m.src, m.def().Type) {
			return false
		}
		if n := m.def().Name; m.src.lang.Types.Private(n) && path.Dir(f.refs[0].src.path) != path.Dir(m.src.path) {
			return false
		}
	}
	return true
}

// satisfied are the interfaces of the project that a type has all methods
// of.
func (q *question) satisfied(t ref) (found []ref) {
	if book := q.code.Checked(t.src.lang); book != nil {
		if targets, ok := book.Implemented(path.Dir(t.src.path), t.def().Name); ok {
			q.exactly = true
			return q.allDeclared(targets)
		}
	}
	names := map[string]bool{}
	q.methodNames(t, names, map[definedAt]bool{})
	seen := map[definedAt]bool{}
	for name := range names {
		for _, i := range q.havingMethod(t.src.lang, name) {
			if seen[i.at()] || i.def().Kind != facts.Interface {
				continue
			}
			seen[i.at()] = true
			if methods := q.interfaceMethods(i, map[definedAt]bool{}); len(methods) > 0 && q.hasAll(t, methods) {
				found = append(found, i)
			}
		}
	}
	slices.SortFunc(found, byPlace)
	return found
}

// methodNames collects the names of the methods of a type and of those it
// embeds.
func (q *question) methodNames(t ref, names map[string]bool, seen map[definedAt]bool) {
	if seen[t.at()] {
		return
	}
	seen[t.at()] = true
	for _, p := range q.code.Mentioning(t.def().Name) {
		if path.Dir(p) != path.Dir(t.src.path) || q.code.Languages().Of(p) != t.src.lang {
			continue
		}
		src := q.source(p)
		if src == nil {
			continue
		}
		for i := range src.Defs {
			if d := &src.Defs[i]; d.Kind == facts.Method && d.Container == t.def().Name {
				names[d.Name] = true
			}
		}
	}
	for _, s := range t.def().Supers {
		if s := q.typeNamed(t.src, s, 0); s.named.ok() {
			q.methodNames(s.named, names, seen)
		}
	}
}
