package resolve

import (
	"path"

	"rooktrail/internal/core/facts"
)

// memberOf finds the member name of the expression base.
func (q *question) memberOf(src *source, base facts.ExprID, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	f := q.meaning(src, base, depth+1)
	for _, m := range f.modules {
		if in := q.inModule(m, name, depth+1); !in.empty() {
			return in
		}
	}
	if f.outside != "" {
		return found{outside: f.outside}
	}
	t := q.typeOf(src, base, depth+1)
	if t.outside != "" {
		return found{outside: t.outside}
	}
	in := q.memberOfType(t, name, depth+1)
	if in.empty() && src.Language == "Java" && t.named.ok() && objectMembers[name] {
		if object := q.javaTopLevel("java.lang", "Object"); object.ok() {
			return q.members(object, name, map[*facts.Def]bool{}, depth+1)
		}
		return found{outside: "java.lang.Object"}
	}
	if in.empty() && src.Language == "Java" {
		if r := q.javaType(dotted(src, base)+"."+name, depth+1); r.ok() { // a full name, such as java.util.List
			in.refs = []ref{r}
		}
	}
	return in
}

// dotted writes an expression of names with dots between them; "" for any
// other.
func dotted(src *source, id facts.ExprID) string {
	switch e := src.Exprs[id]; e.Kind {
	case facts.Name:
		return e.Name
	case facts.Member:
		if before := dotted(src, e.Base); before != "" {
			return before + "." + e.Name
		}
	}
	return ""
}

// meaning finds what an expression names: a definition or a module. It is
// empty for an expression that only has a value.
func (q *question) meaning(src *source, id facts.ExprID, depth int) found {
	if depth > deepest {
		return found{}
	}
	key := exprKey{src, id}
	if f, ok := q.means[key]; ok {
		return f
	}
	q.means[key] = found{} // what leads back here by a circle knows nothing yet
	var f found
	switch e := src.Exprs[id]; e.Kind {
	case facts.Name:
		f = q.lookup(src, e.Name, e.Scope, int(e.At.Start), depth+1)
	case facts.Member:
		f = q.memberOf(src, e.Base, e.Name, depth+1)
	case facts.GenericOf, facts.Index:
		f = q.meaning(src, e.Base, depth+1)
	}
	q.means[key] = f
	return f
}

// memberOfType finds a member of a type: its own, or one of what it stands
// for or is derived from.
func (q *question) memberOfType(t Type, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	if !t.named.ok() {
		if t.src != nil { // a list, a function: what they can do is the language's own
			return found{outside: t.src.Language + " itself"}
		}
		return found{}
	}
	return q.members(t.named, name, map[*facts.Def]bool{}, depth)
}

func (q *question) members(owner ref, name string, visited map[*facts.Def]bool, depth int) found {
	d := owner.def()
	if visited[d] || depth > deepest {
		return found{}
	}
	visited[d] = true
	if d.Body != 0 {
		var own []ref // more than one, if it is overloaded
		for _, id := range owner.src.scoped[scopedName{d.Body, name}] {
			m := &owner.src.Defs[id]
			if m.Kind == facts.Constructor && m.Name == d.Name {
				continue // it shares the name of the class, which is what is meant
			}
			if m.Kind != facts.TypeParameter && m.Kind != facts.Parameter {
				own = append(own, owner.src.ref(id))
			}
		}
		if len(own) > 0 {
			return found{refs: own}
		}
	}
	if refs := q.methodsElsewhere(owner, name); len(refs) > 0 {
		return found{refs: refs}
	}
	outside := ""
	for _, super := range d.Supers {
		t := q.typeNamed(owner.src, super, depth+1)
		if t.named.ok() {
			if f := q.members(t.named, name, visited, depth+1); len(f.refs) > 0 {
				return f
			} else if f.outside != "" {
				outside = f.outside
			}
		}
		if t.outside != "" {
			outside = t.outside
		}
	}
	if d.Type != facts.NoExpr && d.Kind.IsType() {
		if t := q.typeNamed(owner.src, d.Type, depth+1); t.named.ok() {
			return q.members(t.named, name, visited, depth+1)
		} else if t.outside != "" {
			outside = t.outside
		}
	}
	return found{outside: outside}
}

// methodsElsewhere finds a method that stands outside the type it belongs to,
// as methods in Go do.
func (q *question) methodsElsewhere(owner ref, name string) []ref {
	if owner.src.Language != "Go" {
		return nil
	}
	var refs []ref
	for _, sym := range q.code.Named(name) {
		if sym.Container != owner.def().Name || path.Dir(sym.Path) != path.Dir(owner.src.path) {
			continue
		}
		src := q.source(sym.Path)
		if src == nil || src.Package != owner.src.Package {
			continue
		}
		for _, id := range src.scoped[scopedName{0, name}] {
			if src.Defs[id].Container == owner.def().Name {
				refs = append(refs, src.ref(id))
				break
			}
		}
	}
	return forBuild(refs, owner.src)
}

// preferred keeps those definitions that can be called, or those that cannot,
// where there are any: in some languages a field and a method may share a name.
func preferred(refs []ref, callable bool) []ref {
	var kept []ref
	for _, r := range refs {
		if k := r.def().Kind; (k.IsCallable() || callable && k.IsType()) == callable {
			kept = append(kept, r)
		}
	}
	if len(kept) == 0 {
		return refs
	}
	return kept
}

// fitting puts those overloads first that take so many arguments, counted as
// in facts.Use.
func fitting(refs []ref, arguments int) []ref {
	if len(refs) < 2 || arguments == 0 {
		return refs
	}
	var fit, others []ref
	for _, r := range refs {
		if r.def().Takes(arguments) {
			fit = append(fit, r)
		} else {
			others = append(others, r)
		}
	}
	return append(fit, others...)
}
