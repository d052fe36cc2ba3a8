package resolve

import (
	"bytes"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/index"
)

// header is the file that an include of another one names; "" if it is not within
// reach.
func (q *question) header(src *source, imp facts.Imported) string {
	return q.resolver.importsOf(src.lang).Module(src.path, imp)
}

// inHeaders finds a name that the files define which one includes, or the file
// itself, on their outermost level or in the namespaces around the use.
func (q *question) inHeaders(src *source, name string, around []string) (refs []ref) {
	if src.lang.Scopes.Namespaces.Is() {
		if refs = q.inNamespaces(src, name, around); len(refs) > 0 {
			return active(unique(refs))
		}
	}
	all := q.included(src)
	for _, sym := range q.namedWhere(name, func(file string) bool { return all[file] }) {
		file := q.source(sym.Path)
		if file == nil || file.sees() != lang.SeesIncludes {
			continue
		}
		for _, id := range file.scoped[scopedName{0, name}] {
			if file.Defs[id].Container == "" {
				refs = append(refs, file.ref(id))
			}
		}
	}
	if len(refs) == 0 {
		refs = q.inSystemHeaders(all, name)
	}
	return active(unique(refs))
}

// missingHeader is the header that a file includes and that is not at hand, which
// a name that nothing in the project defines may come from; of several, how many they are; "" if there is none.
func (q *question) missingHeader(src *source, name string) string {
	for _, sym := range q.code.Named(name) {
		if q.family(sym.Path) == src.lang.Family {
			return ""
		}
	}
	var missing []string
	seen := map[string]bool{}
	for _, p := range append([]string{src.path}, slices.Sorted(maps.Keys(q.included(src)))...) {
		for _, imp := range q.includesOf(p) {
			if imp.Name != openedNamespace && !seen[imp.Path] && q.resolver.importsOf(src.lang).Module(p, imp) == "" {
				seen[imp.Path] = true
				missing = append(missing, imp.Path)
			}
		}
	}
	switch len(missing) {
	case 0:
		return ""
	case 1:
		return missing[0]
	}
	return fmt.Sprintf("one of %d headers, such as %s", len(missing), missing[0])
}

// inSystemHeaders finds a name in those of the files that lie outside the
// project.
func (q *question) inSystemHeaders(included map[string]bool, name string) (refs []ref) {
	for _, p := range slices.Sorted(maps.Keys(included)) {
		if !path.IsAbs(p) || !bytes.Contains(q.code.Text(p), []byte(name)) {
			continue
		}
		if file := q.source(p); file != nil {
			for _, id := range file.scoped[scopedName{0, name}] {
				if file.Defs[id].Container == "" {
					refs = append(refs, file.ref(id))
				}
			}
		}
	}
	return refs
}

// macroFor is the macro of a file that a use means though it looks as if a function of its name were declared within another one,
// as SAME(int, 3) does.
func (s *source) macroFor(refs []ref, use facts.Use) ref {
	if s.sees() != lang.SeesIncludes || len(refs) == 0 || refs[0].src != s || refs[0].def().Kind != facts.Function || refs[0].def().Body != 0 || refs[0].def().Scope == 0 {
		return ref{}
	}
	for _, id := range s.scoped[scopedName{0, use.Name}] {
		if d := &s.Defs[id]; d.Kind == facts.Macro && !d.Inactive && d.At.Start < use.At.Start {
			return s.ref(id)
		}
	}
	return ref{}
}

// inForce leads from a macro of a file to one of its name in a header that is included between that and where it is used.
func (q *question) inForce(src *source, refs []ref, use facts.Use) []ref {
	if src.sees() != lang.SeesIncludes || len(refs) == 0 || refs[0].src != src || refs[0].def().Kind != facts.Macro {
		return refs
	}
	for i := len(src.Imports) - 1; i >= 0; i-- {
		imp := src.Imports[i]
		if imp.At.Start > use.At.Start || imp.Path == "" || imp.Name == openedNamespace {
			continue
		}
		if imp.At.Start < refs[0].def().At.Start {
			break
		}
		if file := q.source(q.header(src, imp)); file != nil {
			for _, id := range file.scoped[scopedName{0, use.Name}] {
				if d := &file.Defs[id]; d.Kind == facts.Macro && !d.Inactive {
					return []ref{file.ref(id)}
				}
			}
		}
	}
	return refs
}

// active puts what a common compiler would see before what it would not, and
// what is written out before what is only made known.
func active(refs []ref) []ref {
	if len(refs) < 2 {
		return refs
	}
	refs = byRank(refs, func(d *facts.Def) bool { return !isTag(d.Kind) || d.Body != 0 })
	refs = byRank(refs, func(d *facts.Def) bool { return !d.Special })
	refs = byRank(refs, func(d *facts.Def) bool { return !d.Inactive })
	if k := refs[0].def().Kind; (k == facts.Macro || k == facts.Import) && !refs[0].def().Inactive { // what is not built is not meant
		refs = slices.DeleteFunc(refs, func(r ref) bool { return r.def().Inactive })
	}
	return refs
}

// tagged puts structs, unions and enumerations first where a use is written with
// that word, and else what has the plain name.
func (q *question) tagged(src *source, use facts.Use, refs []ref) []ref {
	if len(refs) == 0 || src.sees() != lang.SeesIncludes || use.Role != facts.TypeUse || use.Base != facts.NoExpr {
		return refs
	}
	tag := src.hasTag(use)
	refs = byRank(refs, func(d *facts.Def) bool { return isTag(d.Kind) == tag })
	if d := refs[0].def(); src.lang.Scopes.TagsApart.Is() && isTag(d.Kind) != tag && refs[0].src.lang.Scopes.TagsApart.Is() {
		for _, r := range q.inHeaders(src, use.Name, nil) { // a tag alone is no name
			if isTag(r.def().Kind) == tag && r.def().Kind.IsType() {
				return append([]ref{r}, refs...)
			}
		}
	}
	return refs
}

// inactiveAt says whether a use stands in something that is not built either.
func inactiveAt(src *source, use facts.Use) bool {
	for s := use.Scope; s != 0; s = src.Scopes[s].Parent {
		if o := src.Scopes[s].Owner; o != facts.NoDef {
			return src.Defs[o].Inactive
		}
	}
	return false
}

// hasTag says whether a use is written with the word that says what kind of type it is.
func (s *source) hasTag(use facts.Use) bool {
	before := strings.TrimRight(string(s.text[max(0, int(use.At.Start)-20):use.At.Start]), " \t\r\n")
	return strings.HasSuffix(before, "struct") || strings.HasSuffix(before, "union") || strings.HasSuffix(before, "enum") || strings.HasSuffix(before, "class")
}

func isTag(k facts.Kind) bool {
	return k == facts.Struct || k == facts.Union || k == facts.Enum || k == facts.Class
}

// complete finds the struct or union of a name that a header only makes known,
// wherever it is written out; the nearest of several. Those that are members of the
// types around come first.
func (q *question) complete(src *source, name string, around map[string]bool) (best ref) {
	for _, sym := range q.tagsNamed(src, name) {
		file := q.source(sym.Path)
		if file == nil || file.sees() != lang.SeesIncludes {
			continue
		}
		id := file.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || file.Defs[id].Body == 0 {
			continue
		}
		aside := file.Defs[id].Special || file.Defs[id].Inactive
		if best.ok() && aside {
			continue
		}
		member := around[file.Defs[id].Container]
		if _, ok := file.outsideTypes(&file.Defs[id]); !member && !ok {
			continue
		}
		switch {
		case !best.ok(), member && !around[best.def().Container]:
			best = file.ref(id)
		case member == around[best.def().Container] && (best.def().Special || best.def().Inactive):
			best = file.ref(id)
		}
		if !aside && (member || len(around) == 0) {
			return best // all others are farther away
		}
	}
	return best
}

// tagsNamed are the structs, unions and the like of a name, those first that are nearest to a file.
func (q *question) tagsNamed(src *source, name string) []index.Symbol {
	tags := q.namedWhere(name, q.seesIncludes)
	tags = slices.DeleteFunc(tags, func(s index.Symbol) bool { return !isTag(s.Kind) })
	apart := make(map[string]int, len(tags))
	for _, t := range tags {
		if _, known := apart[t.Path]; !known {
			apart[t.Path] = q.apartFrom(src, t.Path)
		}
	}
	slices.SortStableFunc(tags, func(a, b index.Symbol) int { return apart[a.Path] - apart[b.Path] })
	return tags
}

// onlyTag is the only type with members of a name that a file sees, whatever it is a member of; none if there are several.
func (q *question) onlyTag(src *source, name string) (only ref) {
	for _, sym := range q.code.Named(name) {
		if !isTag(sym.Kind) || !q.seesIncludes(sym.Path) || sym.Path != src.path && !q.reaches(src, sym.Path) {
			continue
		}
		file := q.source(sym.Path)
		if file == nil {
			continue
		}
		id := file.DefNamed(sym.Offset, name)
		if id == facts.NoDef || file.Defs[id].Body == 0 || file.Defs[id].Special {
			continue
		}
		if only.ok() {
			return ref{}
		}
		only = file.ref(id)
	}
	return only
}

// madeKnown finds the type of a name that no file says more of which one includes than that there is one.
func (q *question) madeKnown(src *source, use facts.Use, f found) found {
	r := q.complete(src, use.Name, q.typesAround(src, use.Scope))
	if !r.ok() {
		return f
	}
	several := 0
	for _, sym := range q.tagsNamed(src, use.Name) {
		if sym.Aside {
			continue // it is not built
		}
		if file := q.source(sym.Path); file != nil {
			if id := file.DefNamed(sym.Offset, sym.Name); id != facts.NoDef && file.Defs[id].Body != 0 && !file.Defs[id].Special && !file.Defs[id].Inactive {
				several++
			}
		}
		if several > 1 {
			break
		}
	}
	return found{refs: []ref{r}, unsure: several > 1}
}

// apartFrom is how far a file is from another one, those that it includes before all
// others.
func (q *question) apartFrom(src *source, file string) int {
	d := place.Distance(src.path, file)
	if file != src.path && !q.reaches(src, file) {
		d += 1000
	}
	return d
}

// structs puts the types with members before the other names they have.
func structs(refs []ref) []ref {
	if len(refs) < 2 || refs[0].src.sees() != lang.SeesIncludes {
		return refs
	}
	refs = slices.Clone(refs)
	slices.SortStableFunc(refs, func(a, b ref) int { return members(b) - members(a) })
	return refs
}

func members(r ref) int {
	if isTag(r.def().Kind) && r.def().Body != 0 {
		return 1
	}
	return 0
}
