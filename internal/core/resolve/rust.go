package resolve

import (
	"bytes"
	"path"
	"slices"
	"strings"
	"unicode"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/place"
)

// A module of Rust is a file, or a part of one between braces. Names are looked
// up in the innermost module only; from another they come by a path, which may
// begin with crate, self, super or the name of a crate.

// rustModule is a module: the file it is or stands in, and its definition if it
// stands in a file with others, else NoDef.
type rustModule struct {
	src    *source
	inline facts.DefID
}

// scope is where the names of the module are defined.
func (m rustModule) scope() facts.ScopeID {
	if m.inline == facts.NoDef {
		return 0
	}
	return m.src.Defs[m.inline].Body
}

// found is the module as the outcome of a look-up.
func (m rustModule) found() found {
	if m.inline == facts.NoDef {
		return found{modules: []string{m.src.path}}
	}
	return found{refs: []ref{m.src.ref(m.inline)}}
}

// rustModuleAround is the innermost module that holds a scope.
func rustModuleAround(src *source, scope facts.ScopeID) rustModule {
	for ; scope != 0; scope = src.Scopes[scope].Parent {
		if o := src.Scopes[scope].Owner; o != facts.NoDef && src.Defs[o].Kind == facts.Module {
			return rustModule{src, o}
		}
	}
	return rustModule{src, facts.NoDef}
}

// lookupRust finds what a bare name means at an offset in a scope.
func (q *question) lookupRust(src *source, name string, scope facts.ScopeID, offset, depth int) found {
	module := rustModuleAround(src, scope)
	if f, ok := q.rustKeyword(module, name, offset, depth); ok {
		return f
	}
	if r := q.selfType(src, name, scope, depth+1); r.ok() {
		return found{refs: []ref{r}}
	}
	for s := scope; ; s = src.Scopes[s].Parent {
		if r := q.inScope(src, name, s, s == scope, offset); r.ok() {
			return q.followAll(q.namesakes(r, name, s), depth+1)
		}
		if s == module.scope() {
			break
		}
	}
	if f := q.starred(module, name, depth+1); !f.empty() {
		return f
	}
	f := q.beyondRustModule(module, name, depth+1)
	if behind := src.text[min(len(src.text), offset+len(name)):]; f.empty() && bytes.HasPrefix(behind, []byte("::")) && q.dependsOn(src.path, name) {
		f.outside = name
	}
	return f
}

// rustKeyword answers the words a path may begin with.
func (q *question) rustKeyword(module rustModule, name string, offset, depth int) (found, bool) {
	switch name {
	case "crate":
		if root := q.crateRoot(module.src.path); root != "" {
			return found{modules: []string{root}}, true
		}
	case "super":
		return q.above(module), true
	case "self":
		if behind := module.src.text[min(len(module.src.text), offset+len(name)):]; bytes.HasPrefix(behind, []byte("::")) {
			return module.found(), true
		}
	}
	return found{}, false
}

// above is the module that holds one.
func (q *question) above(m rustModule) found {
	if m.inline != facts.NoDef {
		return rustModuleAround(m.src, m.src.Defs[m.inline].Scope).found()
	}
	dir, base := path.Dir(m.src.path), path.Base(m.src.path)
	if base == "mod.rs" {
		dir = path.Dir(dir)
	} else if isCrateRoot(m.src.path) {
		return found{}
	}
	for _, p := range []string{path.Join(dir, "mod.rs"), dir + ".rs", path.Join(dir, "lib.rs"), path.Join(dir, "main.rs")} {
		if p != m.src.path && q.has(p) && q.source(p) != nil {
			return found{modules: []string{p}}
		}
	}
	return found{}
}

// starred finds a name among those that a module brings in by a star.
func (q *question) starred(m rustModule, name string, depth int) found {
	for _, imp := range m.src.Imports {
		at := m.src.ScopeAt(int(imp.At.Start))
		if imp.Name != "*" || rustModuleAround(m.src, at) != m {
			continue
		}
		imp.Name = name
		if f := q.rustImport(m.src, imp, depth+1); len(f.refs) > 0 || len(f.modules) > 0 {
			return f
		}
	}
	return found{}
}

// beyondRustModule finds a name that needs no import: another crate, a macro of this
// one, or what the language's own library offers everywhere.
func (q *question) beyondRustModule(m rustModule, name string, depth int) found {
	if at := q.crate(m.src.path, name); at != "" {
		return found{modules: []string{at}}
	}
	if macros := q.crateMacros(m.src.path, name); len(macros) > 0 {
		return found{refs: macros, unsure: len(macros) > 1}
	}
	if std := q.crate(m.src.path, "std"); std != "" {
		prelude := facts.Imported{Path: "std::prelude::v1", Name: name}
		if f := q.rustImport(m.src, prelude, depth+1); len(f.refs) > 0 {
			return f
		}
		if macros := q.offered(q.source(std), name, depth+1); len(macros.refs) > 0 && macros.refs[0].def().Kind == facts.Macro {
			return macros
		}
	}
	if rules(m.src).builtin[name] {
		return found{outside: m.src.Language + " itself"}
	}
	return found{}
}

// crateMacros are the macros of the name in the crate of a file, which code of that
// crate can name without a path.
func (q *question) crateMacros(file, name string) (macros []ref) {
	symbols := q.code.Named(name)
	if path.IsAbs(file) {
		symbols = q.namedIn(path.Dir(file), name)
	}
	for _, sym := range symbols {
		if sym.Kind != facts.Macro || crateFolder(q, sym.Path) != crateFolder(q, file) {
			continue
		}
		if src := q.source(sym.Path); src != nil && src.Language == "Rust" {
			if id := src.DefAt(sym.Offset); id != facts.NoDef {
				macros = append(macros, src.ref(id))
			}
		}
	}
	return macros
}

// rustImport finds what the path of an import leads to.
func (q *question) rustImport(src *source, imp facts.Imported, depth int) found {
	if depth > deepest {
		return found{}
	}
	at := src.ScopeAt(int(imp.At.Start))
	if strings.HasSuffix(imp.Path, ".rs") { // a module whose file is named in front of it
		if p := path.Join(path.Dir(src.path), imp.Path); q.has(p) {
			return found{modules: []string{p}}
		}
		return found{}
	}
	module := rustModuleAround(src, at)
	if name, ok := strings.CutPrefix(imp.Path, "mod "); ok {
		return q.rustFile(module, name)
	}
	steps := strings.Split(strings.TrimPrefix(imp.Path, "::"), "::")
	if imp.Path == "" {
		steps = nil
	}
	if imp.Name != "" && imp.Name != "*" {
		steps = append(steps, imp.Name)
	}
	if len(steps) == 0 {
		return found{}
	}
	f := q.pathStart(module, steps[0], imp, at, depth+1)
	for _, s := range steps[1:] {
		if f.outside != "" {
			return found{outside: imp.Path}
		}
		if f = q.pathStep(f, strings.TrimSpace(s), depth+1); f.empty() {
			break
		}
	}
	return f
}

// rustPathAt answers for a name in the path of an import, which leads to what the path
// up to that name means.
func (q *question) rustPathAt(src *source, imp facts.Imported, offset int) Result {
	text := string(imp.At.In(src.text))
	at := min(offset-int(imp.At.Start), len(text))
	isWord := func(r rune) bool { return r == '_' || unicode.IsLetter(r) || unicode.IsDigit(r) }
	start := strings.LastIndexFunc(text[:at], func(r rune) bool { return !isWord(r) }) + 1
	end := at + len(text[at:]) - len(strings.TrimLeftFunc(text[at:], isWord))
	whole := imp.Path
	if imp.Name != "" && imp.Name != "*" {
		whole = strings.TrimPrefix(whole+"::"+imp.Name, "::")
	}
	written, _, _ := strings.Cut(text, " as ")
	before := strings.TrimSuffix(whole, strings.TrimSpace(written))
	to := facts.Imported{Path: before + text[:end], Alias: imp.Alias, At: imp.At}
	if strings.HasPrefix(imp.Path, "mod ") || strings.HasSuffix(imp.Path, ".rs") {
		start, end, to.Path = 0, len(text), imp.Path
	}
	if start >= end {
		return Result{}
	}
	res := Result{Name: text[start:end], At: place.Range{Start: imp.At.Start + uint32(start), End: imp.At.Start + uint32(end)}}
	res.take(q.rustImport(src, to, 0), Inferred)
	return res
}

// pathStart is what the first name of an import's path means. The import itself
// does not count there, as in use log::log.
func (q *question) pathStart(m rustModule, name string, imp facts.Imported, at facts.ScopeID, depth int) found {
	switch name {
	case "crate", "$crate":
		if root := q.crateRoot(m.src.path); root != "" {
			return found{modules: []string{root}}
		}
		return found{}
	case "self":
		return m.found()
	case "super":
		return q.above(m)
	}
	for s := at; ; s = m.src.Scopes[s].Parent {
		for _, id := range m.src.scoped[scopedName{s, name}] {
			d := &m.src.Defs[id]
			if d.Container != "" && m.src.Scopes[s].Owner == facts.NoDef || d.Import > 0 && m.src.Imports[d.Import-1].At == imp.At {
				continue
			}
			if f := q.follow(m.src.ref(id), depth+1); !f.empty() {
				return f
			}
		}
		if s == m.scope() || s == 0 {
			break
		}
	}
	if c := q.crate(m.src.path, name); c != "" {
		return found{modules: []string{c}}
	}
	if imp.Name != "*" && depth < deepest/2 {
		for _, star := range m.src.Imports {
			if star.Name != "*" || star.Path == imp.Path {
				continue
			}
			star.Name = name
			if f := q.rustImport(m.src, star, depth+20); len(f.modules) > 0 || len(f.refs) > 0 {
				return f
			}
		}
	}
	return found{outside: name}
}

// pathStep is what a name means behind a path.
func (q *question) pathStep(f found, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	if name == "super" {
		for _, m := range f.modules {
			return q.above(rustModule{q.source(m), facts.NoDef})
		}
	}
	if name == "self" {
		return f
	}
	for _, m := range f.modules {
		if in := q.inModule(m, name, depth+1); !in.empty() {
			return in
		}
	}
	for _, r := range f.refs {
		if r.def().Kind == facts.Module {
			if in := q.inInlineModule(rustModule{r.src, r.id}, name, depth+1); !in.empty() {
				return in
			}
			continue
		}
		if t := q.typeOfRef(r, depth+1); t.known() {
			if in := q.memberOfType(t, name, depth+1); !in.empty() {
				return in
			}
		}
	}
	return found{}
}

// inInlineModule finds a name among those of a module between braces.
func (q *question) inInlineModule(m rustModule, name string, depth int) found {
	if name == "super" {
		return q.above(m)
	}
	var refs []ref
	for _, id := range m.src.scoped[scopedName{m.scope(), name}] {
		refs = append(refs, m.src.ref(id))
	}
	if len(refs) > 0 {
		return q.followAll(refs, depth+1)
	}
	return q.starred(m, name, depth+1)
}

// rustFile is the file of a module that another one says to have.
func (q *question) rustFile(m rustModule, name string) found {
	dir := path.Dir(m.src.path)
	if base := path.Base(m.src.path); base != "mod.rs" && !isCrateRoot(m.src.path) {
		dir = path.Join(dir, strings.TrimSuffix(base, ".rs"))
	}
	var inside []string
	for at := m; at.inline != facts.NoDef; at = rustModuleAround(m.src, m.src.Defs[at.inline].Scope) {
		inside = append(inside, m.src.Defs[at.inline].Name)
	}
	slices.Reverse(inside)
	dir = path.Join(append([]string{dir}, inside...)...)
	for _, p := range []string{path.Join(dir, name+".rs"), path.Join(dir, name, "mod.rs"), path.Join(path.Dir(m.src.path), name+".rs"), path.Join(path.Dir(m.src.path), name, "mod.rs")} {
		if p != m.src.path && q.has(p) {
			return found{modules: []string{p}}
		}
	}
	return found{}
}

// isCrateRoot says whether a file is one with which a crate begins.
func isCrateRoot(file string) bool {
	dir, base := path.Split(file)
	if base == "lib.rs" || base == "main.rs" || base == "build.rs" {
		return true
	}
	switch path.Base(path.Clean("/" + dir)) {
	case "bin", "tests", "examples", "benches":
		return base != "mod.rs"
	}
	return false
}

// crateFolder is the folder of the package that a file belongs to: the nearest one
// above with a Cargo.toml, or else the one above src.
func crateFolder(q *question, file string) string {
	for dir := path.Dir(file); ; dir = path.Dir(dir) {
		if q.has(path.Join(dir, "Cargo.toml")) {
			return dir
		}
		if dir == "." || dir == "/" {
			return dir
		}
	}
}

// crateRoot is the file with which the crate of a file begins.
func (q *question) crateRoot(file string) string {
	if isCrateRoot(file) {
		return file
	}
	for dir := path.Dir(file); ; dir = path.Dir(dir) {
		for _, base := range []string{"lib.rs", "main.rs"} {
			if p := path.Join(dir, base); q.has(p) {
				return p
			}
		}
		if dir == "." || dir == "/" || q.has(path.Join(dir, "Cargo.toml")) {
			break
		}
	}
	for p := path.Dir(file); p != "." && p != "/"; p = path.Dir(p) { // of a test or a program of its own
		if q.has(p + ".rs") {
			if isCrateRoot(p + ".rs") {
				return p + ".rs"
			}
		}
	}
	return ""
}

// crate is the file with which a crate begins that code of a file can name; ""
// if it is not on the machine.
func (q *question) crate(file, name string) string {
	folder := crateFolder(q, file)
	if lib := q.libraryCrate(folder, name); lib != "" {
		return lib
	}
	for _, manifest := range q.code.FilesNamed("Cargo.toml") {
		if dir := path.Dir(manifest); dir != folder && q.packageName(dir) == name {
			if lib := path.Join(dir, "src/lib.rs"); q.has(lib) {
				return lib
			}
		}
	}
	if q.code.Library() == nil {
		return ""
	}
	return q.code.Library().RustCrate(file, name)
}

// libraryCrate is the library of a package, which its own programs and tests name
// as they do any other.
func (q *question) libraryCrate(folder, name string) string {
	if lib := path.Join(folder, "src/lib.rs"); q.packageName(folder) == name && q.has(lib) {
		return lib
	}
	return ""
}

// dependsOn says whether the package of a file names a crate among those it needs.
func (q *question) dependsOn(file, name string) bool {
	src := q.source(path.Join(crateFolder(q, file), "Cargo.toml"))
	if src == nil {
		return false
	}
	for line := range strings.Lines(string(src.text)) {
		line = strings.ReplaceAll(strings.Trim(strings.TrimSpace(line), "[]"), "-", "_")
		key, _, _ := strings.Cut(line, "=")
		if key = strings.TrimSpace(key); key == name || strings.HasSuffix(key, "dependencies."+name) {
			return true
		}
	}
	return false
}

// packageName is the name by which code knows the package in a folder.
func (q *question) packageName(folder string) string {
	src := q.source(path.Join(folder, "Cargo.toml"))
	if src == nil {
		return ""
	}
	section := ""
	for line := range strings.Lines(string(src.text)) {
		line = strings.TrimSpace(line)
		if strings.HasPrefix(line, "[") {
			section = strings.Trim(line, "[] ")
		}
		if key, value, ok := strings.Cut(line, "="); ok && section == "package" && strings.TrimSpace(key) == "name" {
			return strings.ReplaceAll(strings.Trim(strings.TrimSpace(value), `"'`), "-", "_")
		}
	}
	return ""
}

// isPath says whether an expression is a path to a module of Rust, whose names are
// not looked up as members of a value are.
func isPath(src *source, f found) bool {
	if src.Language != "Rust" {
		return false
	}
	return len(f.modules) > 0 || len(f.refs) > 0 && f.refs[0].def().Kind == facts.Module
}
