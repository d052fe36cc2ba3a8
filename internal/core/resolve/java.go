package resolve

import (
	"path"
	"strings"

	"rooktrail/internal/core/facts"
)

// objectMembers are what every Java object can do.
var objectMembers = words("toString equals hashCode getClass notify notifyAll wait clone finalize")

// javaTopLevel finds a type of a Java package.
func (q *question) javaTopLevel(pkg, name string) ref {
	for _, sym := range q.code.Named(name) {
		if sym.Container != "" || path.Ext(sym.Path) != ".java" || !sym.Kind.IsType() {
			continue
		}
		if src := q.source(sym.Path); src != nil && src.Package == pkg {
			if r := src.typeNamed(name); r.ok() {
				return r
			}
		}
	}
	if src := q.javaSource(pkg, name); src != nil {
		return src.typeNamed(name)
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

// javaType finds a type by its full name, such as a.b.Outer.Inner.
func (q *question) javaType(full string, depth int) ref {
	pkg, name := "", full
	if i := strings.LastIndexByte(full, '.'); i >= 0 {
		pkg, name = full[:i], full[i+1:]
	}
	if r := q.javaTopLevel(pkg, name); r.ok() || pkg == "" || depth > deepest {
		return r
	}
	if outer := q.javaType(pkg, depth+1); outer.ok() {
		for _, r := range q.members(outer, name, map[*facts.Def]bool{}, depth+1).refs {
			if r.def().Kind.IsType() {
				return r
			}
		}
	}
	return ref{}
}

// javaImport finds what a Java import brings in: a type, or with a name one of
// the static members of a type, or of the types of a package.
func (q *question) javaImport(imp facts.Imported, depth int) found {
	t := q.javaType(imp.Path, depth+1)
	if imp.Name == "" {
		if t.ok() {
			return found{refs: []ref{t}}
		}
		return found{outside: imp.Path}
	}
	if t.ok() {
		return q.members(t, imp.Name, map[*facts.Def]bool{}, depth+1)
	}
	if r := q.javaTopLevel(imp.Path, imp.Name); r.ok() {
		return found{refs: []ref{r}}
	}
	if imp.Alias != "" { // it was named, so it must be there
		return found{outside: imp.Path}
	}
	return found{}
}
