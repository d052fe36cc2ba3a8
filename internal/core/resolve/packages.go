package resolve

import (
	"path"
	"strings"

	"rooktrail/internal/core/facts"
)

// packaged are the languages in which a file says which package or namespace
// its top-level names belong to, and sees those of its own without importing
// them. In those for which it is false, all files of the project share one.
var packaged = map[string]bool{"Kotlin": true, "C#": true, "PHP": true, "Swift": false, "Ruby": false}

// topLevel finds a name that files of a language have on their outermost level,
// or in a namespace on it, in the package.
func (q *question) topLevel(language, pkg, name string) []ref {
	var refs []ref
	for _, sym := range q.code.Named(name) {
		src := q.source(sym.Path)
		if src == nil || src.Language != language || packaged[language] && src.Package != pkg {
			continue
		}
		id := src.DefAt(sym.Offset)
		if id == facts.NoDef || src.Defs[id].Kind == facts.Import || !src.outermost(&src.Defs[id]) {
			continue
		}
		refs = append(refs, src.ref(id))
	}
	return refs
}

// outermost says whether a definition stands on the outermost level of its
// file, or in nothing but namespaces and modules.
func (s *source) outermost(d *facts.Def) bool {
	if d.Container != "" && d.Parent == facts.NoDef {
		return false // a member that stands outside its type
	}
	for scope := d.Scope; scope != 0; scope = s.Scopes[scope].Parent {
		owner := s.Scopes[scope].Owner
		if owner == facts.NoDef || !s.Defs[owner].Kind.IsSpace() {
			return false
		}
	}
	return true
}

// packageImport finds what an import of a packaged language brings in.
func (q *question) packageImport(src *source, imp facts.Imported) found {
	if imp.Name == "" { // a namespace under another name
		return found{outside: imp.Path}
	}
	if refs := q.topLevel(src.Language, imp.Path, imp.Name); len(refs) > 0 {
		return found{refs: refs}
	}
	if imp.Alias != "" { // it was named, so it must be there
		return found{outside: imp.Path}
	}
	return found{}
}

// headerFile is the file that an include names: beside the file that includes
// it, in a folder above, or in one of the folders where headers are kept; "" if
// it is not in the project.
func (q *question) headerFile(src *source, included string) string {
	for dir := path.Dir(src.path); ; dir = path.Dir(dir) {
		for _, sub := range []string{"", "include", "src", "inc"} {
			if p := path.Join(dir, sub, included); q.code.Has(p) && !strings.HasPrefix(p, "..") {
				return p
			}
		}
		if dir == "." || dir == "/" {
			return ""
		}
	}
}

// bodies puts a function that is written out before one that is only declared,
// looking into the file of the same name beside a header.
func (q *question) bodies(refs []ref) []ref {
	if len(refs) != 1 || !isCFamily(refs[0].src) {
		return refs
	}
	r := refs[0]
	d := r.def()
	if !d.Kind.IsCallable() || q.hasBody(r) {
		return refs
	}
	for _, sym := range q.code.Named(d.Name) {
		src := q.source(sym.Path)
		if src == nil || !isCFamily(src) || sym.Container != d.Container {
			continue
		}
		id := src.DefAt(sym.Offset)
		if id == facts.NoDef || !q.hasBody(src.ref(id)) || d.Parameters != src.Defs[id].Parameters {
			continue
		}
		if src == r.src || q.includes(src, r.src.path) {
			return []ref{src.ref(id)}
		}
	}
	return refs
}

func isCFamily(src *source) bool { return src.Language == "C" || src.Language == "C++" }

// hasBody says whether a function is written out, which its head being shorter
// than the whole tells.
func (q *question) hasBody(r ref) bool {
	d := r.def()
	return int(d.Full.End) <= len(r.src.text) && d.Full.End > d.Head.End && r.src.text[d.Full.End-1] == '}'
}

// includes says whether a file includes another one itself.
func (q *question) includes(src *source, header string) bool {
	for _, imp := range src.Imports {
		if q.headerFile(src, imp.Path) == header {
			return true
		}
	}
	return false
}
