package resolve

import (
	"path"
	"strings"

	"rooktrail/internal/core/facts"
)

// imported finds what an import brings in.
func (q *question) imported(src *source, imp facts.Imported, depth int) found {
	if depth > deepest {
		return found{}
	}
	var module string
	switch src.Language {
	case "Go":
		module = q.goPackage(src, imp.Path)
		if module == "" && q.code.Library() != nil {
			module = q.code.Library().GoPackage(src.path, imp.Path)
		}
	case "Python":
		return q.pythonImport(src, imp, depth+1)
	case "Java":
		return q.javaImport(imp, depth+1)
	case "Lua":
		module = q.luaModule(src, imp.Path)
	case "Bash":
		module = q.shellFile(src, imp.Path)
	case "Rust":
		return q.rustImport(src, imp, depth+1)
	case "Kotlin", "C#", "PHP":
		return q.packageImport(src, imp)
	case "C", "C++":
		if module = q.headerFile(src, imp.Path); module == "" {
			return found{} // which of the names are its own is not known
		}
	default:
		module = q.scriptModule(src, imp.Path)
	}
	if module == "" {
		return found{outside: imp.Path}
	}
	switch imp.Name {
	case "", "*":
		return q.whole(module, depth+1)
	case "default":
		if f := q.inModule(module, imp.Name, depth+1); !f.empty() {
			return f
		}
		return q.whole(module, depth+1)
	}
	return q.inModule(module, imp.Name, depth+1)
}

// whole is a module as a whole, which in older JavaScript may be a function or
// a class.
func (q *question) whole(module string, depth int) found {
	f := found{modules: []string{module}}
	if !scriptEnding(module) || !q.has(module) {
		return f
	}
	src := q.source(module)
	if src == nil || !isScript(src) {
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

// inModule finds a name among those a module has to offer. A Go package is its
// folder, a module of any other language its file.
func (q *question) inModule(module, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	key := moduleName{module, name}
	if f, ok := q.exports[key]; ok {
		return f
	}
	q.exports[key] = found{} // modules may export each other's names in a circle
	f := q.lookIntoModule(module, name, depth)
	q.exports[key] = f
	return f
}

func (q *question) lookIntoModule(module, name string, depth int) found {
	if path.Ext(module) == "" || !q.has(module) || path.IsAbs(module) && q.isGoFolder(module) {
		return q.inFolder(module, name)
	}
	src := q.source(module)
	if src == nil {
		return found{}
	}
	if f := q.offered(src, name, depth); !f.empty() {
		return f
	}
	if src.Language == "Lua" {
		return q.ofLuaModule(src, name, depth)
	}
	if src.Language == "Rust" {
		return q.starred(rustModule{src, facts.NoDef}, name, depth)
	}
	for _, imp := range src.Imports {
		if imp.Name != "*" {
			continue
		}
		if f := q.imported(src, facts.Imported{Path: imp.Path, Name: name, Level: imp.Level, At: imp.At}, depth+1); len(f.refs) > 0 || len(f.modules) > 0 {
			return f
		}
	}
	if src.Language == "Python" && path.Base(module) == "__init__.py" {
		if sub := q.pythonFile(path.Join(path.Dir(module), name)); sub != "" {
			return found{modules: []string{sub}}
		}
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
		if !sharesNames(src) {
			refs = refs[:1]
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

// wholeModule is the name under which what older JavaScript modules are, as a
// whole, is kept.
const wholeModule = "module.exports"

// isGoFolder says whether a path outside the project is that of a Go package,
// which may have a dot in its name.
func (q *question) isGoFolder(p string) bool { return q.source(p) == nil }

// inFolder finds a name of a Go package, or a module in a Python package that
// has no __init__ file.
func (q *question) inFolder(folder, name string) found {
	if refs := q.inPackage(folder, nil, true, name); len(refs) > 0 {
		return found{refs: refs}
	}
	if sub := q.pythonFile(path.Join(folder, name)); sub != "" {
		return found{modules: []string{sub}}
	}
	return found{}
}

// goPackage is the folder of a Go package; "" if it is not in the project.
func (q *question) goPackage(src *source, imported string) string {
	best, folder := -1, ""
	for _, m := range q.code.Modules() {
		rest, ok := strings.CutPrefix(imported, m.Path)
		if m.Path == "std" { // the standard library's own packages are imported bare
			rest, ok = "/"+imported, true
		}
		if !ok || rest != "" && rest[0] != '/' || len(m.Path) <= best {
			continue
		}
		if at := path.Join(m.Folder, rest); q.code.Has(at) {
			best, folder = len(m.Path), at
		}
	}
	if best >= 0 {
		return folder
	}
	for dir := path.Dir(src.path); ; dir = path.Dir(dir) {
		if at := path.Join(dir, "vendor", imported); q.code.Has(at) {
			return at
		}
		if dir == "." || dir == "/" {
			return ""
		}
	}
}

// pythonImport finds what a Python import brings in.
func (q *question) pythonImport(src *source, imp facts.Imported, depth int) found {
	bases := pythonBases(src.path, imp.Level)
	if imp.Level == 0 && q.code.Library() != nil {
		bases = append(bases, q.code.Library().PythonPaths()...)
	}
	for _, base := range bases {
		at := path.Join(base, strings.ReplaceAll(imp.Path, ".", "/"))
		if imp.Name == "" && imp.Alias == "" { // import a.b makes a known
			first, _, _ := strings.Cut(imp.Path, ".")
			at = path.Join(base, first)
		}
		module := q.pythonFile(at)
		if module == "" && q.has(at) && at != "." {
			module = at // a package without an __init__ file
		}
		if module == "" {
			continue
		}
		if imp.Name == "" || imp.Name == "*" {
			return found{modules: []string{module}}
		}
		return q.inModule(module, imp.Name, depth+1)
	}
	if imp.Level > 0 {
		return found{}
	}
	return found{outside: imp.Path}
}

// pythonBases are the folders in which a module is looked for: for a relative
// import the one its dots say, else every folder from the file up to the root,
// and their src folders.
func pythonBases(file string, level int) []string {
	dir := path.Dir(file)
	if level > 0 {
		for range level - 1 {
			dir = path.Dir(dir)
		}
		return []string{dir}
	}
	var bases []string
	for ; ; dir = path.Dir(dir) {
		bases = append(bases, dir, path.Join(dir, "src"), path.Join(dir, "lib"))
		if dir == "." || dir == "/" {
			return bases
		}
	}
}

// pythonFile is the file of the module whose path is given without extension.
func (q *question) pythonFile(module string) string {
	for _, end := range []string{".py", "/__init__.py", ".pyi", "/__init__.pyi"} {
		if q.has(module + end) {
			return module + end
		}
	}
	return ""
}

// scriptEndings are tried, in this order, behind the path of a JavaScript or
// TypeScript module.
var scriptEndings = []string{"", ".ts", ".tsx", ".d.ts", ".js", ".jsx", ".mjs", ".cjs", ".mts", ".cts",
	"/index.ts", "/index.tsx", "/index.d.ts", "/index.js", "/index.jsx", "/index.mjs"}

// scriptModule is the file of a JavaScript or TypeScript module; "" if it is
// not in the project.
func (q *question) scriptModule(src *source, imported string) string {
	if strings.HasPrefix(imported, ".") {
		return q.scriptFile(path.Join(path.Dir(src.path), imported))
	}
	if q.code.Library() == nil || path.IsAbs(src.path) {
		return ""
	}
	for _, at := range q.code.Library().ScriptPaths(src.path, imported) {
		if p := q.scriptFile(at); p != "" {
			return p
		}
	}
	return q.code.Library().ScriptPackage(src.path, imported)
}

// scriptFile is the file of a module whose path may lack its ending.
func (q *question) scriptFile(at string) string {
	for _, end := range scriptEndings {
		if p := at + end; path.Ext(p) != "" && q.has(p) && scriptEnding(p) {
			return p
		}
	}
	// TypeScript is imported under the name that its output will have.
	if stem, ok := strings.CutSuffix(at, ".js"); ok {
		for _, end := range []string{".ts", ".tsx", ".d.ts"} {
			if q.has(stem + end) {
				return stem + end
			}
		}
	}
	return ""
}

// scriptEnding says whether a path ends as those of modules do.
func scriptEnding(p string) bool {
	switch path.Ext(p) {
	case ".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".mts", ".cts", ".json", ".vue", ".svelte":
		return true
	}
	return false
}
