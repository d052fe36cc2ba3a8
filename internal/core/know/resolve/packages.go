package resolve

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/index"
)

// topLevel finds a name that files of a language have on their outermost level,
// in the package, or in a namespace that is also around where it is used. In
// files that say their package by a namespace around all, that is no other. Of several
// packages of one name, as where a project holds a copy of a part of itself, that
// nearest to the file from which it is used comes first.
func (q *question) topLevel(from *source, pkg, name string, around []string) []ref {
	var refs []ref
	packaged := from.sees() == lang.SeesPackage
	deepest := 0 // in how many namespaces around the use the best of them stand
	for _, sym := range q.code.Named(name) {
		src := q.source(sym.Path)
		if src == nil || src.lang != from.lang || packaged && src.Package != pkg {
			continue
		}
		id := src.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || !isName(src.Defs[id].Kind) {
			continue
		}
		in, ok := src.spaces(&src.Defs[id])
		if !ok || !packaged && (len(in) > len(around) || !slices.Equal(in, around[:len(in)])) {
			continue
		}
		if len(in) > deepest {
			refs, deepest = nil, len(in)
		}
		if len(in) == deepest || packaged {
			refs = append(refs, src.ref(id))
		}
	}
	if packaged && len(refs) > 1 {
		slices.SortStableFunc(refs, func(a, b ref) int { return distance(from.path, a.src.path) - distance(from.path, b.src.path) })
	}
	return refs
}

// namedNear are the symbols of a name, those nearest to a file first.
func (q *question) namedNear(from *source, name string) []index.Symbol {
	symbols := q.code.Named(name)
	if len(symbols) < 2 {
		return symbols
	}
	far := make(map[string]int, len(symbols))
	for _, s := range symbols {
		far[s.Path] = distance(from.path, s.Path)
	}
	slices.SortStableFunc(symbols, func(a, b index.Symbol) int { return far[a.Path] - far[b.Path] })
	return symbols
}

// isName says whether code can name what is defined.
func isName(k facts.Kind) bool { return k != facts.Import && k != facts.Section }

// spaces are the namespaces and modules in which a definition stands, from the
// outermost on; ok is false if it stands in anything else.
func (s *source) spaces(d *facts.Def) (names []string, ok bool) {
	if d.Container != "" && d.Parent == facts.NoDef {
		return nil, false // a member that stands outside its type
	}
	for scope := d.Scope; scope != 0; scope = s.Scopes[scope].Parent {
		owner := s.Scopes[scope].Owner
		if owner == facts.NoDef || !s.isSpace(owner, d) {
			return nil, false
		}
		names = append(names, s.Defs[owner].Name)
	}
	slices.Reverse(names)
	return names, true
}

// isSpace says whether a definition is a namespace for what stands in it, which a
// class may be for its constants, classes among them.
func (s *source) isSpace(owner facts.DefID, d *facts.Def) bool {
	k := s.Defs[owner].Kind
	return k.IsSpace() || s.lang.Scopes.ClassSpaces.Is() && k == facts.Class && (d.Kind.IsType() || d.Kind.IsSpace() || d.Kind == facts.Constant)
}

// around are the namespaces and modules around a scope, from the outermost on.
func (s *source) around(scope facts.ScopeID) (names []string) {
	for ; scope != 0; scope = s.Scopes[scope].Parent {
		if owner := s.Scopes[scope].Owner; owner != facts.NoDef && (s.Defs[owner].Kind.IsSpace() || s.lang.Scopes.ClassSpaces.Is() && s.Defs[owner].Kind == facts.Class) {
			names = append(names, s.Defs[owner].Name)
		}
	}
	slices.Reverse(names)
	return names
}

// packageImport finds what an import of a name of a package brings in, or of a
// member of a type.
func (q *question) packageImport(src *source, imp facts.Imported, depth int) found {
	if imp.Name == "" { // a namespace under another name
		return found{outside: imp.Path}
	}
	if refs := q.topLevel(src, imp.Path, imp.Name, nil); len(refs) > 0 {
		return found{refs: refs}
	}
	if t := q.fullType(src, imp.Path, depth+1); t.ok() {
		if f := q.members(t, imp.Name, map[*facts.Def]bool{}, depth+1); len(f.refs) > 0 {
			return f
		}
	}
	if src.lang.Scopes.Relative.Is() {
		if f := q.relativeImport(src, imp, depth+1); len(f.refs) > 0 {
			return f
		}
	}
	if imp.Alias != "" { // it was named, so it must be there
		return found{outside: imp.Path}
	}
	return found{}
}

// relativeImport finds what an import brings in whose path begins with a name that
// is known where it stands: of a type, or of something in the package or in those
// around it.
func (q *question) relativeImport(src *source, imp facts.Imported, depth int) (f found) {
	key := moduleName{src.path + ":" + imp.Path, imp.Name}
	if f, ok := q.exports[key]; ok {
		return f
	}
	q.exports[key] = found{} // the name may be looked for in this very import
	steps := append(strings.Split(imp.Path, "."), imp.Name)
	at := src.ScopeAt(int(imp.At.Start))
	f = q.lookup(src, steps[0], at, int(imp.At.Start), depth+1)
	for _, step := range steps[1:] {
		var in found
		for _, r := range f.refs {
			if in = q.memberOfType(q.typeOfRef(r, depth+1), step, depth+1); len(in.refs) > 0 {
				break
			}
		}
		f = in
	}
	for pkg := src.Package; pkg != "" && len(f.refs) == 0; pkg = pkg[:max(0, strings.LastIndexByte(pkg, '.'))] {
		f.refs = q.topLevel(src, pkg+"."+imp.Path, imp.Name, nil)
	}
	q.exports[key] = f
	return f
}

// bodies puts a function that is written out before one that is only declared,
// looking into the file of the same name beside a header.
func (q *question) bodies(refs []ref) []ref {
	if len(refs) == 0 || refs[0].src.sees() != lang.SeesIncludes {
		return refs
	}
	r := refs[0]
	if r.def().Kind.IsValue() && isExtern(r) {
		return append(q.definedElsewhere(r), refs...)
	}
	if !r.def().Kind.IsCallable() || q.hasBody(r) {
		return refs
	}
	for _, other := range refs[1:] {
		if other.def().Kind.IsCallable() && other.src == r.src && other.def().Scope == r.def().Scope && asMany(other, r) && q.hasBody(other) &&
			(!r.src.lang.Members.Overloads.Is() || sameSignature(other, r)) {
			return []ref{other}
		}
	}
	if len(refs) > 1 && refs[1].def().Kind.IsCallable() && r.src.lang.Members.Overloads.Is() {
		if twins := q.twins(r, true); len(twins) > 0 && sameSignature(twins[0], r) {
			return append(twins[:1:1], refs...)
		}
		return refs
	}
	if twins := q.twins(r, true); len(twins) > 0 {
		return twins[:1]
	}
	return refs
}

// isExtern says whether a variable is only made known.
func isExtern(r ref) bool {
	return r.def().Scope == 0 && r.def().Init == facts.NoExpr && strings.HasPrefix(string(r.def().Head.In(r.src.text)), "extern ")
}

// definedElsewhere finds the variable that a file only makes known, in one that
// includes it.
func (q *question) definedElsewhere(r ref) (found []ref) {
	for _, sym := range q.code.Named(r.def().Name) {
		if !sym.Kind.IsValue() || !q.seesIncludes(sym.Path) || sym.Path != r.src.path && !q.reachesFrom(sym.Path, r.src.path) {
			continue
		}
		file := q.source(sym.Path)
		if file == nil {
			continue
		}
		id := file.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || file.Defs[id].Scope != 0 || isExtern(file.ref(id)) || file.Defs[id].Static {
			continue
		}
		found = append(found, file.ref(id))
	}
	return active(found)
}

// declarations are the prototypes of functions that are written out, which an
// answer names behind them.
func (q *question) declarations(refs []ref) []ref {
	if len(refs) != 1 || refs[0].src.sees() != lang.SeesIncludes || !refs[0].def().Kind.IsCallable() || !q.hasBody(refs[0]) {
		return nil
	}
	return q.twins(refs[0], false)
}

// IsWrittenOut says whether a definition is where a function is written out, not but declared.
func (r *Resolver) IsWrittenOut(ctx context.Context, a Answer) bool {
	q := r.ask(ctx)
	d := q.refAt(a)
	return d.ok() && q.hasBody(d)
}

// WrittenOut are, of the functions that a file only declares, the places where they are written out, by the offsets at which they
// are declared.
func (r *Resolver) WrittenOut(ctx context.Context, path string) map[uint32]Answer {
	q := r.ask(ctx)
	src := q.source(path)
	if src == nil || src.sees() != lang.SeesIncludes {
		return nil
	}
	found := map[uint32]Answer{}
	for id := range src.Defs {
		if d := src.ref(facts.DefID(id)); d.def().Kind.IsCallable() && !q.hasBody(d) && ctx.Err() == nil {
			if bodies := q.twins(d, true); len(bodies) > 0 {
				found[d.def().At.Start] = answer(bodies[0], Inferred)
			}
		}
	}
	return found
}

// otherPlaces are where a function or a variable is written out that is but declared, or the other way round.
func (q *question) otherPlaces(r ref) []ref {
	switch {
	case r.src.sees() != lang.SeesIncludes:
		return nil
	case r.def().Kind.IsCallable():
		return q.twins(r, !q.hasBody(r))
	case r.def().Kind.IsValue() && isExtern(r):
		return q.definedElsewhere(r)
	}
	return nil
}

// twins are the functions written out, or else the prototypes, that stand for
// the same function as r, which is the other of the two: one of
// the files must include the other.
func (q *question) twins(r ref, written bool) (twins []ref) {
	d := r.def()
	for _, sym := range q.code.Named(d.Name) {
		if !sym.Kind.IsCallable() || sym.Container != d.Container || !q.seesIncludes(sym.Path) ||
			sym.Path != r.src.path && !q.reachesFrom(sym.Path, r.src.path) && !q.reaches(r.src, sym.Path) {
			continue
		}
		src := q.source(sym.Path)
		if src == nil {
			continue
		}
		id := src.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || q.hasBody(src.ref(id)) != written || !asMany(r, src.ref(id)) || !src.Defs[id].Kind.IsCallable() {
			continue
		}
		if src == r.src && written && q.hasBody(r) && !d.Inactive && !src.Defs[id].Inactive {
			continue // both are built, so that they differ somehow
		}
		if src != r.src || id != r.id {
			twins = append(twins, src.ref(id))
		}
	}
	slices.SortStableFunc(twins, func(a, b ref) int { return distance(r.src.path, a.src.path) - distance(r.src.path, b.src.path) })
	if same := slices.DeleteFunc(slices.Clone(twins), func(t ref) bool { return !sameSignature(t, r) }); len(same) > 0 {
		return same
	}
	if !r.src.lang.Members.Overloads.Is() {
		return twins
	}
	if q.hasBody(r) == written {
		return nil // another overload
	}
	return slices.DeleteFunc(twins, func(t ref) bool { return q.isOfAnother(t, r) })
}

// isOfAnother says whether a function stands for another overload than r, one that is written as it is.
func (q *question) isOfAnother(twin, r ref) bool {
	d := r.def()
	return slices.ContainsFunc(r.src.scoped[scopedName{d.Scope, d.Name}], func(id facts.DefID) bool {
		return id != r.id && r.src.Defs[id].Kind.IsCallable() && sameSignature(twin, r.src.ref(id))
	})
}

// asMany says whether two functions have as many parameters: of one of them, some may have values already.
func asMany(a, b ref) bool {
	if a.src.lang.Members.Overloads.Is() && b.src.lang.Members.Overloads.Is() {
		return len(a.def().Params) == len(b.def().Params)
	}
	return a.def().Parameters == b.def().Parameters
}

// sameSignature says whether the parameters of two functions are written alike, and whether both may change the same.
func sameSignature(a, b ref) bool {
	return sameParameterTypes(a, b) && slices.Equal(takenBy(a), takenBy(b))
}

func sameParameterTypes(a, b ref) bool {
	x, y := a.def(), b.def()
	if len(x.Params) != len(y.Params) {
		return false
	}
	for i := range x.Params {
		if spelled(a.src, x.Params[i], 0) != spelled(b.src, y.Params[i], 0) {
			return false
		}
	}
	return true
}

// isConst says whether the word stands behind the parameters of a function.
func isConst(r ref) bool {
	head := r.def().Head.In(r.src.text)
	return bytes.Contains(head[bytes.LastIndexByte(head, ')')+1:], []byte("const"))
}

// spelled writes a type without what is in front of its name.
func spelled(src *source, id facts.ExprID, depth int) string {
	e := src.Exprs[id]
	if depth > deepest {
		return ""
	}
	switch e.Kind {
	case facts.Name, facts.Member, facts.Literal:
		return e.Name
	case facts.NoExprKind:
		return ""
	}
	s := fmt.Sprint(e.Kind, "(", spelled(src, e.Base, depth+1))
	for _, a := range e.Args {
		s += "," + spelled(src, a, depth+1)
	}
	return s + ")"
}

// hasBody says whether a function is written out, which its head being shorter
// than the whole tells.
func (q *question) hasBody(r ref) bool {
	d := r.def()
	return int(d.Full.End) <= len(r.src.text) && d.Full.End > d.Head.End && r.src.text[d.Full.End-1] == '}'
}
