package resolve

import (
	"path"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// imported finds what an import brings in.
func (q *question) imported(src *source, imp facts.Imported, depth int) found {
	if depth > deepest {
		return found{}
	}
	switch src.sees() {
	case lang.SeesTypes:
		return q.typeImport(src, imp, depth+1)
	case lang.SeesModules:
		return q.pathImport(src, imp, depth+1)
	case lang.SeesPackage:
		return q.packageImport(src, imp, depth+1)
	}
	module := q.resolver.importsOf(src.lang).Module(src.path, imp)
	switch {
	case module == "" && (imp.Level > 0 || src.sees() == lang.SeesIncludes):
		return found{} // it should be there; or which of the names are its own is not known
	case module == "":
		return found{outside: imp.Path}
	}
	switch imp.Name {
	case "", "*":
		return q.whole(src.lang, module, depth+1)
	case "default":
		if f := q.inModule(src.lang, module, imp.Name, depth+1); !f.empty() {
			return f
		}
		return q.whole(src.lang, module, depth+1)
	}
	return q.inModule(src.lang, module, imp.Name, depth+1)
}

// whole is a module as a whole, which may be a function or a class where these
// are values like any other.
func (q *question) whole(l *lang.Language, module string, depth int) found {
	f := found{modules: []string{module}}
	if !l.Members.Prototypes.Is() {
		return f
	}
	src := q.source(module)
	if src == nil {
		return f
	}
	for _, id := range src.scoped[scopedName{0, wholeModule}] {
		if init := src.Defs[id].Init; init != facts.NoExpr {
			if m := q.meaning(src, init, depth+1); len(m.refs) > 0 {
				f.refs = m.refs
			}
		}
	}
	return f
}

// inModule finds a name among those that a module has to offer to code of a
// language. A module is a folder or a file.
func (q *question) inModule(l *lang.Language, module, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	key := moduleName{module, name}
	if f, ok := q.exports[key]; ok {
		return f
	}
	q.exports[key] = found{} // modules may export each other's names in a circle
	f := q.lookIntoModule(l, module, name, depth)
	q.exports[key] = f
	return f
}

func (q *question) lookIntoModule(l *lang.Language, module, name string, depth int) found {
	src := q.source(module)
	if src == nil {
		return q.inFolder(l, module, name)
	}
	if f := q.offered(src, name, depth); !f.empty() {
		return f
	}
	if given := src.lang.Members.Gives(src.text); given != "" {
		value := q.inScope(src, given, 0, true, len(src.text))
		if !value.ok() {
			return found{}
		}
		for _, r := range q.namesakes(value, given, 0) { // such as a function and a namespace
			if f := q.members(r, name, map[*facts.Def]bool{}, depth+1); len(f.refs) > 0 {
				return f
			}
		}
		return found{}
	}
	if src.sees() == lang.SeesModules {
		return q.starred(pathModule{src, facts.NoDef}, name, 0, depth)
	}
	for _, imp := range src.Imports {
		if imp.Name != "*" {
			continue
		}
		if f := q.imported(src, facts.Imported{Path: imp.Path, Name: name, Level: imp.Level, At: imp.At}, depth+1); len(f.refs) > 0 || len(f.modules) > 0 {
			return f
		}
	}
	return q.within(l, module, name)
}

// within is the module of a name that lies in another one.
func (q *question) within(l *lang.Language, module, name string) found {
	if in := q.resolver.importsOf(l).Inside(module, name); in != "" {
		return found{modules: []string{in}}
	}
	return found{}
}

// offered finds a name among those of a file.
func (q *question) offered(src *source, name string, depth int) found {
	var refs []ref
	for _, id := range src.scoped[scopedName{0, name}] {
		if c := src.Defs[id].Container; c == "" || c == wholeModule {
			refs = append(refs, src.ref(id))
		}
	}
	if len(refs) > 0 {
		if src.lang.Values.Passed.Is() {
			refs = q.namesakesAt(refs[0], name, 0, 0, len(src.text)) // what is there when all of it was done
		} else if !sharesNames(src) {
			refs = refs[:1]
		} else if handed := handedOn(refs); len(handed) > 0 {
			refs = handed
		}
		f := q.followAll(refs, depth+1)
		if len(f.refs) > 0 && f.refs[0].def().Kind == facts.Import && f.refs[0].def().Import > 0 {
			return found{} // back to itself, as from . import x leads
		}
		return f
	}
	if whole := src.scoped[scopedName{0, wholeModule}]; len(whole) > 0 && name != wholeModule {
		for _, id := range whole {
			if t := q.typeOf(src, src.Defs[id].Init, depth+1); t.known() {
				if f := q.memberOfType(t, name, depth+1); len(f.refs) > 0 {
					return f
				}
			}
		}
	}
	return found{}
}

// handedOn are those of some definitions by which a file hands on something else under the name, as export { a as b }
// does: these count for others, whatever has that name in the file.
func handedOn(refs []ref) (handed []ref) {
	for _, r := range refs {
		if d := r.def(); d.Kind == facts.Import && d.Import == 0 && d.Init != facts.NoExpr && r.src.Exprs[d.Init].Kind == facts.Name && r.src.Exprs[d.Init].Name != d.Name {
			handed = append(handed, r)
		}
	}
	return handed
}

// wholeModule is the name under which what older modules are, as a whole, is kept.
const wholeModule = "module.exports"

// inFolder finds a name of a package that is a folder, or a module in it.
func (q *question) inFolder(l *lang.Language, folder, name string) found {
	if l.Scopes.Sees == lang.SeesFolder {
		if refs := q.inPackage(path.Clean(folder), nil, l, name); len(refs) > 0 {
			return found{refs: refs}
		}
	}
	return q.within(l, folder, name)
}
