package resolve

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Where a module is a file, or a part of one between braces, names are looked up
// in the innermost module only; from another they come by a path, which may begin
// with words for the module itself, the one above and the one with which the
// package begins, or with the name of a package.

// pathModule is a module: the file it is or stands in, and its definition if it
// stands in a file with others, else NoDef.
type pathModule struct {
	src    *source
	inline facts.DefID
}

// scope is where the names of the module are defined.
func (m pathModule) scope() facts.ScopeID {
	if m.inline == facts.NoDef {
		return 0
	}
	return m.src.Defs[m.inline].Body
}

// isWithin says whether a scope is another one or lies in it.
func (s *source) isWithin(scope, other facts.ScopeID) bool {
	for scope != other && scope != 0 {
		scope = s.Scopes[scope].Parent
	}
	return scope == other
}

// found is the module as the outcome of a look-up.
func (m pathModule) found() found {
	if m.inline == facts.NoDef {
		return found{modules: []string{m.src.path}}
	}
	return found{refs: []ref{m.src.ref(m.inline)}}
}

// moduleAround is the innermost module that holds a scope.
func moduleAround(src *source, scope facts.ScopeID) pathModule {
	for ; scope != 0; scope = src.Scopes[scope].Parent {
		if o := src.Scopes[scope].Owner; o != facts.NoDef && src.Defs[o].Kind == facts.Module {
			return pathModule{src, o}
		}
	}
	return pathModule{src, facts.NoDef}
}

// lookupInModule finds what a bare name means at an offset in a scope.
func (q *question) lookupInModule(src *source, name string, scope facts.ScopeID, offset, depth int) found {
	module := moduleAround(src, scope)
	if f, ok := q.pathWord(module, name, offset, depth); ok {
		return f
	}
	if r := q.selfType(src, name, scope, depth+1); r.ok() {
		return found{refs: []ref{r}}
	}
	path := src.goesOn(offset + len(name)) // what has a value is none
	for s := scope; ; s = src.Scopes[s].Parent {
		if r := q.inScope(src, name, s, s == scope, offset); r.ok() && !(path && onlyValue(r.def().Kind)) {
			return q.followAll(q.namesakes(r, name, s), depth+1)
		}
		if s == module.scope() {
			break
		}
	}
	if f := q.starred(module, name, scope, depth+1); !f.empty() {
		return f
	}
	f := q.beyondModule(module, name, depth+1)
	if f.empty() && src.goesOn(offset+len(name)) && q.tree(src).Needs(src.path, name) {
		f.outside = name
	}
	return f
}

// onlyValue says whether what is defined is neither a type nor a module.
func onlyValue(k facts.Kind) bool {
	return k.IsValue() || k == facts.Parameter || k == facts.Macro || k == facts.Function
}

// pathWord answers the words a path may begin with.
func (q *question) pathWord(module pathModule, name string, offset, depth int) (found, bool) {
	words := module.src.lang.Scopes.Paths
	switch name {
	case words.Root:
		if root := q.tree(module.src).Root(module.src.path); root != "" {
			return found{modules: []string{root}}, true
		}
	case words.Above:
		return q.above(module), true
	case words.Here:
		if module.src.goesOn(offset + len(name)) {
			return module.found(), true
		}
	}
	return found{}, false
}

// goesOn says whether a name that ends at an offset is one of a path that goes on behind it.
func (s *source) goesOn(end int) bool {
	return bytes.HasPrefix(s.text[min(len(s.text), end):], []byte(s.lang.Scopes.Paths.Between))
}

// tree knows how the modules of a file's language lie in files.
func (q *question) tree(src *source) lang.Tree {
	return q.resolver.importsOf(src.lang).(lang.Tree)
}

// above is the module that holds one.
func (q *question) above(m pathModule) found {
	if m.inline != facts.NoDef {
		return moduleAround(m.src, m.src.Defs[m.inline].Scope).found()
	}
	if p := q.tree(m.src).Above(m.src.path); p != "" && q.source(p) != nil {
		return found{modules: []string{p}}
	}
	return found{}
}

// starred finds a name among those that a module brings in by a star, or a block in it that holds the scope.
func (q *question) starred(m pathModule, name string, scope facts.ScopeID, depth int) found {
	for _, imp := range m.src.Imports {
		if imp.Name != "*" {
			continue
		}
		at := m.src.ScopeAt(int(imp.At.Start))
		if moduleAround(m.src, at) != m || at != m.scope() && !m.src.isWithin(scope, at) {
			continue
		}
		imp.Name = name
		if f := q.pathImport(m.src, imp, depth+1); len(f.refs) > 0 || len(f.modules) > 0 {
			return f
		}
	}
	return found{}
}

// beyondModule finds a name that needs no import: another package, a macro of this
// one, or what the library of the language offers everywhere.
func (q *question) beyondModule(m pathModule, name string, depth int) found {
	tree, words := q.tree(m.src), m.src.lang.Scopes.Paths
	if at := tree.Named(m.src.path, name); at != "" {
		return found{modules: []string{at}}
	}
	if macros := q.packageMacros(m.src, name); len(macros) > 0 {
		return found{refs: macros, unsure: len(macros) > 1}
	}
	if std := tree.Named(m.src.path, words.Library); std != "" {
		prelude := facts.Imported{Path: words.Prelude, Name: name}
		if f := q.pathImport(m.src, prelude, depth+1); len(f.refs) > 0 {
			return f
		}
		if macros := q.offered(q.source(std), name, depth+1); len(macros.refs) > 0 && macros.refs[0].def().Kind == facts.Macro {
			return macros
		}
	}
	if m.src.lang.Scopes.Builtin[name] {
		return found{outside: m.src.itself()}
	}
	return found{}
}

// packageMacros are the macros of the name in the package of a file, which code of
// that package can name without a path.
func (q *question) packageMacros(from *source, name string) (macros []ref) {
	tree := q.tree(from)
	for _, sym := range q.namedIn(path.Dir(from.path), name) {
		if sym.Kind != facts.Macro || tree.Package(sym.Path) != tree.Package(from.path) {
			continue
		}
		if src := q.source(sym.Path); src != nil && src.lang == from.lang {
			if id := src.DefNamed(sym.Offset, sym.Name); id != facts.NoDef {
				macros = append(macros, src.ref(id))
			}
		}
	}
	return macros
}

// pathImport finds what the path of an import leads to.
func (q *question) pathImport(src *source, imp facts.Imported, depth int) found {
	if depth > deepest {
		return found{}
	}
	at := src.ScopeAt(int(imp.At.Start))
	if path.Ext(imp.Path) != "" { // a module whose file is named in front of it
		if p := q.resolver.importsOf(src.lang).Module(src.path, imp); p != "" {
			return found{modules: []string{p}}
		}
		return found{}
	}
	module, words := moduleAround(src, at), src.lang.Scopes.Paths
	if name, ok := strings.CutPrefix(imp.Path, words.Declared); ok {
		return q.declaredModule(module, name)
	}
	steps := strings.Split(strings.TrimPrefix(imp.Path, words.Between), words.Between)
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
		if f = q.pathStep(src, f, strings.TrimSpace(s), depth+1); f.empty() {
			break
		}
	}
	return f
}

// pathAt answers for a name in the path of an import, which leads to what the path
// up to that name means.
func (q *question) pathAt(src *source, imp facts.Imported, offset int) Result {
	words, all := src.lang.Scopes.Paths, imp.At.In(src.text)
	start, end := text.WordAround(all, offset-int(imp.At.Start))
	whole := imp.Path
	if imp.Name != "" && imp.Name != "*" {
		whole = strings.TrimPrefix(whole+words.Between+imp.Name, words.Between)
	}
	written, _, _ := strings.Cut(string(all), " "+words.As+" ")
	before := strings.TrimSuffix(whole, strings.TrimSpace(written))
	to := facts.Imported{Path: before + string(all[:end]), Alias: imp.Alias, At: imp.At}
	if strings.HasPrefix(imp.Path, words.Declared) || path.Ext(imp.Path) != "" {
		start, end, to.Path = 0, len(all), imp.Path
	}
	if start >= end {
		return Result{}
	}
	res := Result{Name: string(all[start:end]), At: place.Range{Start: imp.At.Start + uint32(start), End: imp.At.Start + uint32(end)}}
	res.take(q.pathImport(src, to, 0), Inferred)
	return res
}

// pathStart is what the first name of an import's path means. The import itself
// does not count there, as in use log::log.
func (q *question) pathStart(m pathModule, name string, imp facts.Imported, at facts.ScopeID, depth int) found {
	words := m.src.lang.Scopes.Paths
	switch name {
	case words.Root, words.RootInMacro:
		if root := q.tree(m.src).Root(m.src.path); root != "" {
			return found{modules: []string{root}}
		}
		return found{}
	case words.Here:
		return m.found()
	case words.Above:
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
	if c := q.tree(m.src).Named(m.src.path, name); c != "" {
		return found{modules: []string{c}}
	}
	if imp.Name != "*" && depth < deepest/2 {
		for _, star := range m.src.Imports {
			if star.Name != "*" || star.Path == imp.Path {
				continue
			}
			star.Name = name
			if f := q.pathImport(m.src, star, depth+20); len(f.modules) > 0 || len(f.refs) > 0 {
				return f
			}
		}
	}
	return found{outside: name}
}

// pathStep is what a name means behind a path.
func (q *question) pathStep(src *source, f found, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	words := src.lang.Scopes.Paths
	if name == words.Above {
		for _, m := range f.modules {
			return q.above(pathModule{q.source(m), facts.NoDef})
		}
	}
	if name == words.Here {
		return f
	}
	for _, m := range f.modules {
		if in := q.inModule(src.lang, m, name, depth+1); !in.empty() {
			return in
		}
	}
	for _, r := range f.refs {
		if r.def().Kind == facts.Module {
			if in := q.inInlineModule(pathModule{r.src, r.id}, name, depth+1); !in.empty() {
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
func (q *question) inInlineModule(m pathModule, name string, depth int) found {
	if name == m.src.lang.Scopes.Paths.Above {
		return q.above(m)
	}
	var refs []ref
	for _, id := range m.src.scoped[scopedName{m.scope(), name}] {
		refs = append(refs, m.src.ref(id))
	}
	if len(refs) > 0 {
		return q.followAll(refs, depth+1)
	}
	return q.starred(m, name, m.scope(), depth+1)
}

// declaredModule is the file of a module that another one says to have.
func (q *question) declaredModule(m pathModule, name string) found {
	var inside []string
	for at := m; at.inline != facts.NoDef; at = moduleAround(m.src, m.src.Defs[at.inline].Scope) {
		inside = append(inside, m.src.Defs[at.inline].Name)
	}
	slices.Reverse(inside)
	if p := q.tree(m.src).Declared(m.src.path, inside, name); p != "" {
		return found{modules: []string{p}}
	}
	return found{}
}

// isPath says whether an expression is a path to a module whose names are
// not looked up as members of a value are.
func isPath(src *source, f found) bool {
	if src.sees() != lang.SeesModules {
		return false
	}
	return len(f.modules) > 0 || len(f.refs) > 0 && f.refs[0].def().Kind == facts.Module
}
