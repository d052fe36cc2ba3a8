package resolve

import (
	"strings"

	"rooktrail/internal/core/file/facts"
)

// topType finds a type of a package that a file names, in the project or outside. Of
// several packages of one name, the nearest counts.
func (q *question) topType(from *source, pkg, name string) ref {
	for _, sym := range q.namedNear(from, name) {
		if sym.Container != "" || !sym.Kind.IsType() {
			continue
		}
		if src := q.source(sym.Path); src != nil && src.lang == from.lang && src.Package == pkg {
			if r := src.typeNamed(name); r.ok() {
				return r
			}
		}
	}
	if file := q.resolver.importsOf(from.lang).Type(pkg, name); file != "" {
		if src := q.source(file); src != nil {
			return src.typeNamed(name)
		}
	}
	return ref{}
}

// typeNamed is the type of a name on the outermost level of a file.
func (s *source) typeNamed(name string) ref {
	for _, id := range s.scoped[scopedName{0, name}] {
		if s.Defs[id].Kind.IsType() {
			return s.ref(id)
		}
	}
	return ref{}
}

// fullType finds a type by its full name, such as a.b.Outer.Inner.
func (q *question) fullType(from *source, full string, depth int) ref {
	pkg, name := "", full
	if i := strings.LastIndexByte(full, '.'); i >= 0 {
		pkg, name = full[:i], full[i+1:]
	}
	if r := q.topType(from, pkg, name); r.ok() || pkg == "" || depth > deepest {
		return r
	}
	if outer := q.fullType(from, pkg, depth+1); outer.ok() {
		for _, r := range q.members(outer, name, map[*facts.Def]bool{}, depth+1).refs {
			if r.def().Kind.IsType() {
				return r
			}
		}
	}
	return ref{}
}

// typeImport finds what an import by a full name brings in: a type, or with a name
// one of the static members of a type, or of the types of a package.
func (q *question) typeImport(src *source, imp facts.Imported, depth int) found {
	t := q.fullType(src, imp.Path, depth+1)
	if imp.Name == "" {
		if t.ok() {
			return found{refs: []ref{t}}
		}
		return found{outside: imp.Path}
	}
	if t.ok() {
		return q.members(t, imp.Name, map[*facts.Def]bool{}, depth+1)
	}
	if r := q.topType(src, imp.Path, imp.Name); r.ok() {
		return found{refs: []ref{r}}
	}
	if imp.Alias != "" { // it was named, so it must be there
		return found{outside: imp.Path}
	}
	return found{}
}
