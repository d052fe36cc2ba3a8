package resolve

import (
	"cmp"
	"path"
	"slices"
	"sort"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// deepest bounds every recursion, whatever circle the code runs in.
const deepest = 200

// lookup finds what a bare name means at an offset in a scope.
func (q *question) lookup(src *source, name string, scope facts.ScopeID, offset, depth int) found {
	return q.lookupAmong(src, name, scope, offset, depth, nil)
}

// lookupCalled finds what a bare name means that is called, which in some languages
// may be the name of a variable as well.
func (q *question) lookupCalled(src *source, name string, scope facts.ScopeID, offset, depth int) found {
	if !src.lang.Scopes.CallsApart.Is() {
		return q.lookup(src, name, scope, offset, depth)
	}
	return q.lookupAmong(src, name, scope, offset, depth, func(d *facts.Def) bool { return !d.Kind.IsValue() && d.Kind != facts.Parameter })
}

// lookupPath finds what a bare name means in a path that goes on, which is no value
// where there are namespaces.
func (q *question) lookupPath(src *source, name string, scope facts.ScopeID, at place.Range, depth int) found {
	if !src.lang.Scopes.Namespaces.Is() || !src.goesOn(int(at.End)) {
		return q.lookup(src, name, scope, int(at.Start), depth)
	}
	return q.lookupAmong(src, name, scope, int(at.Start), depth, func(d *facts.Def) bool { return d.Kind.IsType() || d.Kind.IsSpace() || d.Kind == facts.Import })
}

// lookupAmong looks among those definitions that suit, if that is not nil.
func (q *question) lookupAmong(src *source, name string, scope facts.ScopeID, offset, depth int, suits func(*facts.Def) bool) found {
	if depth > deepest {
		return found{}
	}
	if src.sees() == lang.SeesModules {
		return q.lookupInModule(src, name, scope, offset, depth+1)
	}
	if r := q.selfType(src, name, scope, depth+1); r.ok() {
		return found{refs: []ref{r}}
	}
	inherited := "" // from outside, by a type around
	for s := scope; ; s = src.Scopes[s].Parent {
		if r := q.inScope(src, name, s, s == scope, offset); r.ok() && (suits == nil || suits(r.def())) {
			return q.followAll(q.namesakesAt(r, name, s, scope, offset), depth+1)
		}
		if around := q.typeAround(src, s); around.ok() && src.lang.Members.Named == lang.Anywhere {
			f := q.members(around, name, map[*facts.Def]bool{}, depth+1)
			if suits != nil {
				f.refs = slices.DeleteFunc(f.refs, func(r ref) bool { return !suits(r.def()) })
			}
			if len(f.refs) > 0 {
				return f
			}
			inherited = f.outside
		}
		if s == 0 {
			break
		}
	}
	f := q.beyondFile(src, name, scope, depth+1)
	if f.empty() {
		f.outside = inherited
	}
	return f
}

// typeAround is the type of which a scope is the inside, or that of a method.
func (q *question) typeAround(src *source, scope facts.ScopeID) ref {
	if owner := src.Scopes[scope].Owner; owner != facts.NoDef && src.Scopes[scope].Kind == facts.TypeScope {
		return src.ref(owner)
	}
	return q.typeOfMethod(src, scope)
}

// selfType answers this and super, which name the class around them and the
// one it is derived from.
func (q *question) selfType(src *source, name string, scope facts.ScopeID, depth int) ref {
	if !src.lang.Members.Self[name] {
		return ref{}
	}
	return q.ownType(src, name, scope, depth+1)
}

// superOfCall is what a call of super stands for where that is a function.
func (q *question) superOfCall(src *source, callee facts.ExprID, depth int) Type {
	e := src.Exprs[callee]
	if words := src.lang.Members; e.Kind != facts.Name || !words.Super[e.Name] || words.Self[e.Name] {
		return Type{}
	}
	own := q.ownType(src, "", e.Scope, depth+1)
	return Type{named: own, above: own.ok()}
}

// ownType is the type around a scope, or the one that it is derived from, by the word
// for it.
func (q *question) ownType(src *source, name string, scope facts.ScopeID, depth int) ref {
	own := false // a function was left that has them of its own
	for s := scope; s != 0; s = src.Scopes[s].Parent {
		owner := src.Scopes[s].Owner
		own = own || src.Scopes[s].Kind == facts.FunctionScope && !src.Scopes[s].Open
		if t := q.typeOfMethod(src, s); t.ok() {
			if supers := t.def().Supers; src.lang.Members.Super[name] && len(supers) > 0 {
				return q.typeNamed(t.src, supers[0], depth+1).named
			}
			return t
		}
		if src.Scopes[s].Kind != facts.TypeScope || owner == facts.NoDef {
			if r := q.selfOfFunction(src, s, owner); r.ok() {
				return r
			}
			continue
		}
		if d := &src.Defs[owner]; d.Kind.IsSpace() || !own && !d.Kind.IsType() && src.lang.Members.Prototypes.Is() {
			continue // an object does not change what they mean outside of its functions
		}
		if supers := src.Defs[owner].Supers; src.lang.Members.Super[name] && len(supers) > 0 {
			return q.typeNamed(src, supers[0], depth+1).named
		}
		return src.ref(owner)
	}
	return ref{}
}

// typeOfMethod is the type that a method belongs to which stands outside of it, if
// the scope is the inside of one.
func (q *question) typeOfMethod(src *source, scope facts.ScopeID) ref {
	owner := src.Scopes[scope].Owner
	if owner == facts.NoDef || src.lang.Members.Apart < lang.InFile || src.Scopes[scope].Kind != facts.FunctionScope {
		return ref{}
	}
	d := &src.Defs[owner]
	if d.Container == "" || src.Scopes[d.Scope].Owner != facts.NoDef && src.Scopes[d.Scope].Kind == facts.TypeScope && !src.Defs[src.Scopes[d.Scope].Owner].Kind.IsSpace() {
		return ref{}
	}
	return q.owner(src.ref(owner))
}

// selfOfFunction is what this means in a function that makes objects, or that is
// given to one outside of it.
func (q *question) selfOfFunction(src *source, scope facts.ScopeID, owner facts.DefID) ref {
	if owner == facts.NoDef || !src.lang.Members.Prototypes.Is() || src.Scopes[scope].Kind != facts.FunctionScope {
		return ref{}
	}
	d := &src.Defs[owner]
	if d.Container == "" || d.Container == wholeModule {
		if d.Kind == facts.Function && src.makes(owner) {
			return src.ref(owner)
		}
		return ref{}
	}
	if d.Scope != 0 {
		return ref{}
	}
	return q.inScope(src, d.Container, 0, true, len(src.text))
}

// makes says whether a function gives members to this.
func (s *source) makes(function facts.DefID) bool {
	body := s.Defs[function].Body
	for i := int(function) + 1; i < len(s.Defs) && s.Defs[i].At.Start < s.Defs[function].Full.End; i++ {
		if d := &s.Defs[i]; d.Scope == body && d.Kind == facts.Property && d.Container == s.Defs[function].Name {
			return true
		}
	}
	return false
}

// inScope finds a name among those of one scope. Of several definitions it is
// the last that comes before the offset, or else the first. first says that
// the name is used directly in this scope.
func (q *question) inScope(src *source, name string, scope facts.ScopeID, first bool, offset int) ref {
	ids := src.scoped[scopedName{scope, name}]
	if len(ids) > fewDefinitions {
		return q.amongMany(src, scopedName{scope, name}, ids, first, offset)
	}
	var best ref
	for _, id := range ids {
		d := &src.Defs[id]
		if int(d.From) > offset && d.From > 0 || !q.seen(src, d, scope, first) {
			continue
		}
		if !best.ok() || d.From > 0 && !d.Echo || best.def().Inactive && !d.Inactive || best.def().Echo && !d.Echo {
			best = src.ref(id)
		}
	}
	return best
}

// fewDefinitions is up to how many definitions of one name in one scope are gone through at each
// of its uses.
const fewDefinitions = 32

// amongMany is inScope for a name with many definitions.
func (q *question) amongMany(src *source, name scopedName, ids []facts.DefID, first bool, offset int) ref {
	byFrom := src.byFrom(name, ids)
	for i := sort.Search(len(byFrom), func(i int) bool { return int(src.Defs[byFrom[i]].From) > offset }) - 1; i >= 0; i-- {
		if q.seen(src, &src.Defs[byFrom[i]], name.scope, first) {
			return src.ref(byFrom[i])
		}
	}
	for _, id := range ids {
		if d := &src.Defs[id]; d.From == 0 && q.seen(src, d, name.scope, first) {
			return src.ref(id)
		}
	}
	return ref{}
}

// seen says whether a definition can be named without anything in front of it,
// which the members of a type mostly cannot.
func (q *question) seen(src *source, d *facts.Def, scope facts.ScopeID, first bool) bool {
	s := src.Scopes[scope]
	if s.Kind != facts.TypeScope {
		return d.Container == "" // a method that stands outside its type is no name of the file
	}
	if d.Kind == facts.TypeParameter || d.Kind == facts.Parameter {
		return true // what a template or a class is made with
	}
	if s.Owner != facts.NoDef && src.Defs[s.Owner].Kind.IsSpace() {
		return d.Container == "" || d.Container == src.Defs[s.Owner].Name // and no member of a type in there
	}
	return src.lang.Members.Named == lang.InBody && first
}

// namesakes are the definitions that share a name with one in the same scope, as
// a type and a value may in TypeScript.
func (q *question) namesakes(r ref, name string, scope facts.ScopeID) []ref {
	if r.src.sees() == lang.SeesIncludes && scope == 0 {
		return q.declaredAgain(r, name)
	}
	if !sharesNames(r.src) {
		return []ref{r}
	}
	all := []ref{r}
	local := r.src.Scopes[scope].Kind != facts.FileScope && r.src.Scopes[scope].Kind != facts.TypeScope
	for _, id := range r.src.scoped[scopedName{scope, name}] {
		if o := &r.src.Defs[id]; id != r.id && o.Container == r.def().Container && (!local || o.Kind.IsType() != r.def().Kind.IsType()) {
			all = append(all, r.src.ref(id))
		}
	}
	return all
}

// namesakesAt are the definitions that a name may have at an offset in a scope, of those in one around it.
func (q *question) namesakesAt(r ref, name string, in, scope facts.ScopeID, offset int) []ref {
	ids := r.src.scoped[scopedName{in, name}]
	if len(ids) < 2 || !r.src.lang.Values.Passed.Is() {
		return q.namesakes(r, name, in)
	}
	if r.src.functionAround(scope) != r.src.functionAround(in) {
		offset = int(r.src.Scopes[in].At.End) // all of it was done before
	}
	var all []facts.Setting
	for _, id := range ids {
		d := &r.src.Defs[id]
		if d.Echo && len(all) > 0 { // those stand last
			break
		}
		if d.Container == "" || r.src.Scopes[in].Kind == facts.TypeScope {
			all = append(all, facts.Setting{At: d.At.Start, From: d.At.End, Of: facts.ScopeID(id)})
		}
	}
	var refs []ref
	for _, g := range r.src.lastGiven(all, offset) {
		refs = append(refs, r.src.ref(facts.DefID(g.Of)))
	}
	if len(refs) == 0 {
		return []ref{r}
	}
	slices.SortFunc(refs, byPlace)
	return refs
}

// declaredAgain are the definitions of a name on the outermost level of a file,
// and in what it includes where the file only makes it known.
func (q *question) declaredAgain(r ref, name string) (all []ref) {
	for _, id := range r.src.scoped[scopedName{0, name}] {
		if r.src.Defs[id].Container == "" {
			all = append(all, r.src.ref(id))
		}
	}
	return active(all)
}

// followAll is follow for several definitions.
func (q *question) followAll(refs []ref, depth int) (all found) {
	if len(refs) == 1 {
		return q.follow(refs[0], depth)
	}
	for _, r := range refs {
		f := q.follow(r, depth)
		all.refs = append(all.refs, f.refs...)
		all.modules = append(all.modules, f.modules...)
		if all.outside == "" {
			all.outside = f.outside
		}
	}
	all.refs = unique(all.refs)
	return all
}

// sharesNames says whether in a language types and values may have the same name.
func sharesNames(src *source) bool { return src.lang.Scopes.Shared.Is() }

// valued puts what has a value before what is only a type, as values may share
// their names with types in TypeScript.
func valued(refs []ref) []ref {
	if len(refs) < 2 || !sharesNames(refs[0].src) {
		return refs
	}
	return byRank(refs, func(d *facts.Def) bool {
		return d.Kind != facts.Interface && d.Kind != facts.Type && d.Kind != facts.Module
	})
}

// typed puts types before what only has a value.
func typed(refs []ref) []ref {
	if len(refs) < 2 || !sharesNames(refs[0].src) {
		return refs
	}
	return byRank(refs, func(d *facts.Def) bool { return d.Kind.IsType() || d.Kind.IsSpace() })
}

func byRank(refs []ref, first func(*facts.Def) bool) (ordered []ref) {
	var others []ref
	for _, r := range refs {
		if first(r.def()) {
			ordered = append(ordered, r)
		} else {
			others = append(others, r)
		}
	}
	return append(ordered, others...)
}

// follow goes through a name that an import or an export brought in to what
// it stands for.
func (q *question) follow(r ref, depth int) found {
	d := r.def()
	if d.Kind != facts.Import || depth > deepest {
		return found{refs: []ref{r}}
	}
	if d.Import > 0 {
		return q.imported(r.src, r.src.Imports[d.Import-1], depth+1)
	}
	if d.Init != facts.NoExpr {
		if f := q.meaning(r.src, d.Init, depth+1); !f.empty() {
			return f
		}
		if first := r.src.first(d.Init); r.src.sees() == lang.SeesIncludes && first != "" { // of what nothing here defines
			return found{outside: first}
		}
	}
	return found{refs: []ref{r}}
}

// first is the name that a path begins with.
func (s *source) first(id facts.ExprID) string {
	e := s.Exprs[id]
	for e.Kind == facts.Member || e.Kind == facts.GenericOf {
		e = s.Exprs[e.Base]
	}
	return e.Name
}

// beyondFile finds a name that nothing in the file defines.
func (q *question) beyondFile(src *source, name string, scope facts.ScopeID, depth int) found {
	switch src.sees() {
	case lang.SeesFolder:
		if refs := q.inPackage(path.Dir(src.path), src, src.lang, name); len(refs) > 0 {
			return found{refs: refs}
		}
	case lang.SeesIncludes:
		refs := q.inHeaders(src, name, q.spacesAround(src, scope))
		if len(refs) == 0 {
			return found{outside: q.missingHeader(src, name)}
		}
		return found{refs: refs}
	case lang.SeesTypes:
		for _, pkg := range append([]string{src.Package}, src.lang.Scopes.Implied...) {
			if r := q.topType(src, pkg, name); r.ok() {
				return found{refs: []ref{r}}
			}
		}
	case lang.SeesPackage, lang.SeesProject:
		for _, pkg := range append([]string{src.Package}, src.lang.Scopes.Implied...) {
			if refs := q.topLevel(src, pkg, name, src.around(scope)); len(refs) > 0 {
				return found{refs: refs}
			}
		}
	}
	for _, imp := range src.Imports {
		if imp.Name != "*" {
			continue
		}
		f := q.imported(src, facts.Imported{Path: imp.Path, Name: name, Level: imp.Level, At: imp.At}, depth)
		if len(f.refs) > 0 || len(f.modules) > 0 {
			return f
		}
	}
	if src.lang.Scopes.Builtin[name] {
		return found{outside: src.itself()}
	}
	return found{}
}

// itself is where the names lie that the language itself defines.
func (s *source) itself() string { return s.lang.Name + " itself" }

// inPackage finds a name of a package that is a folder: its files say the same
// package name as the file from which it is used. For one that is imported, from
// is nil, and its tests do not count.
func (q *question) inPackage(dir string, from *source, l *lang.Language, name string) []ref {
	var refs []ref
	for _, sym := range q.namedIn(dir, name) {
		if sym.Container != "" || path.Dir(sym.Path) != dir || from == nil && q.code.Languages().HoldsTests(sym.Path) {
			continue
		}
		src := q.source(sym.Path)
		if src == nil || src.lang != l || from != nil && src.Package != from.Package {
			continue
		}
		for _, id := range src.scoped[scopedName{0, name}] {
			if src.Defs[id].Container == "" {
				refs = append(refs, src.ref(id))
				break
			}
		}
	}
	return forBuild(refs, from)
}

// forBuild orders definitions of one name that stand in files for different
// systems: those first that belong to a build together with the file from
// which the name is used, and of these those for the system this runs on.
func forBuild(refs []ref, from *source) []ref {
	if len(refs) < 2 {
		return refs
	}
	rank := func(r ref) int {
		switch {
		case r.src == from:
			return 0
		case from != nil && r.src.condition() == from.condition() && !from.builds():
			return 1
		case r.src.builds():
			return 2
		}
		return 3
	}
	slices.SortStableFunc(refs, func(a, b ref) int { return cmp.Compare(rank(a), rank(b)) })
	return refs
}

// condition says under which condition a file belongs to a build, and builds
// whether it belongs to one for the system this runs on.
func (s *source) condition() string { return s.lang.Scopes.Builds.Condition(s.path, s.Build) }
func (s *source) builds() bool      { return s.lang.Scopes.Builds.Here(s.path, s.Build) }
