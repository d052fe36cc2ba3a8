package resolve

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// A namespace may be opened again and again, in one file and in those that it
// includes; a file sees what all of these put into it.

// inNamespaces finds a name that files define which one includes, or the file itself,
// in a namespace of those around the use, the innermost first, or in one that a
// using directive opens.
func (q *question) inNamespaces(src *source, name string, around []string) (refs []ref) {
	opened := q.opened(src)
	deepest := -1
	q.eachSeen(src, name, func(r ref, in []string) {
		depth := len(in)
		if !(depth <= len(around) && slices.Equal(in, around[:depth])) {
			if !opened[strings.Join(in, "::")] {
				return
			}
			depth = 0
		}
		if depth > deepest {
			refs, deepest = nil, depth
		}
		if depth == deepest {
			refs = append(refs, r)
		}
	})
	return refs
}

// inNamespace finds a name in exactly one namespace, or in those between braces
// without a name or inline within it.
func (q *question) inNamespace(src *source, space []string, name string) (refs []ref) {
	q.eachSeen(src, name, func(r ref, in []string) {
		if slices.Equal(in, space) {
			refs = append(refs, r)
		}
	})
	return active(unique(refs))
}

// eachSeen goes through the definitions of a name outside of types and functions that
// a file sees, the nearest first, with the namespaces around each.
func (q *question) eachSeen(src *source, name string, visit func(r ref, in []string)) {
	all := q.included(src)
	for _, sym := range q.namedWhere(name, func(file string) bool { return all[file] || file == src.path }) {
		file := q.source(sym.Path)
		if file == nil || file.sees() != lang.SeesIncludes {
			continue
		}
		id := file.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || file.Defs[id].Name != name || file.Defs[id].Kind == facts.Import {
			continue
		}
		if in, ok := file.outsideTypes(&file.Defs[id]); ok {
			visit(file.ref(id), in)
		}
	}
}

// outsideTypes are the namespaces around a definition; ok is false if it is a member of
// a type, even one that stands away from it.
func (s *source) outsideTypes(d *facts.Def) (in []string, ok bool) {
	in, ok = s.spaces(d)
	return in, ok && (d.Container == "" || len(in) > 0 && d.Container == in[len(in)-1])
}

// opened are the namespaces that using directives open, in a file or in those it
// includes. They are gathered once in a question.
func (q *question) opened(src *source) map[string]bool {
	if spaces, ok := q.usings[src]; ok {
		return spaces
	}
	spaces := map[string]bool{}
	q.usings[src] = spaces
	add := func(all []facts.Imported) {
		for _, imp := range all {
			if imp.Name == openedNamespace {
				spaces[imp.Path] = true
			}
		}
	}
	add(src.Imports)
	for p := range q.included(src) {
		switch {
		case !q.seesIncludes(p):
		case !path.IsAbs(p):
			add(q.includesOf(p))
		case bytes.Contains(q.code.Text(p), []byte("namespace")):
			if file := q.source(p); file != nil {
				add(file.Imports)
			}
		}
	}
	return spaces
}

// spacesAround are the namespaces around a scope, or around the type whose
// method is written out away from it.
func (q *question) spacesAround(src *source, scope facts.ScopeID) []string {
	around := src.around(scope)
	for s := scope; s != 0; s = src.Scopes[s].Parent {
		if t := q.typeOfMethod(src, s); t.ok() {
			if in, ok := t.src.spaces(t.def()); ok && len(in) > len(around) {
				return in
			}
		}
	}
	return around
}

// typesAround are the names of the types around a scope, of a method's too that
// is written out away from its type.
func (q *question) typesAround(src *source, scope facts.ScopeID) map[string]bool {
	if !src.lang.Scopes.Namespaces.Is() {
		return nil
	}
	names := map[string]bool{}
	for s := scope; s != 0; s = src.Scopes[s].Parent {
		o := src.Scopes[s].Owner
		if o == facts.NoDef || src.Defs[o].Kind.IsSpace() {
			continue
		}
		if d := &src.Defs[o]; src.Scopes[s].Kind == facts.TypeScope {
			names[d.Name] = true
		} else if d.Container != "" && !names[d.Container] {
			names[d.Container] = true
		}
	}
	delete(names, "")
	return names
}

// memberOfNamespace finds a name behind that of a namespace; ok is false if what was
// found is none.
func (q *question) memberOfNamespace(src *source, f found, name string) (in found, ok bool) {
	if src.sees() != lang.SeesIncludes || len(f.refs) == 0 || f.refs[0].def().Kind != facts.Namespace {
		return found{}, false
	}
	for range mostOtherNames {
		r := f.refs[0]
		around, _ := r.src.spaces(r.def())
		in.refs = q.inNamespace(src, append(around, r.def().Name), name)
		if len(in.refs) > 0 || r.def().Type == facts.NoExpr {
			break
		}
		if f = q.meaning(r.src, r.def().Type, 0); len(f.refs) == 0 || f.refs[0].def().Kind != facts.Namespace { // another name of that
			break
		}
	}
	return in, true
}

// mostOtherNames bounds how often a namespace may be another name of one that is another name.
const mostOtherNames = 8

// openedNamespace is the name of what a using directive brings in.
const openedNamespace = "::"
