package resolve

import (
	"cmp"
	"path"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// memberOf finds the member name of the expression base.
func (q *question) memberOf(src *source, base facts.ExprID, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	if src.Exprs[base].Kind == facts.PropsOf {
		return q.propOf(src, src.Exprs[base], name, depth+1)
	}
	f := q.meaning(src, base, depth+1)
	if isPath(src, f) {
		return q.pathStep(src, f, name, depth+1)
	}
	if in, ok := q.memberOfNamespace(src, f, name); ok && !in.empty() {
		return in
	}
	for _, m := range f.modules {
		if in := q.inModule(src.lang, m, name, depth+1); !in.empty() {
			return in
		}
	}
	for _, r := range f.refs {
		if added := added(r, name); len(added) > 0 {
			return found{refs: added}
		}
	}
	if f.outside != "" && !isGivenPart(src, base) && !q.isPart(src, base, depth+1) {
		return found{outside: f.outside}
	}
	t := q.typeOf(src, base, depth+1)
	if src.sees() == lang.SeesIncludes && len(t.args) > 0 && src.lang.Types.Transparent[t.name] { // it points to that
		if in := q.memberOfType(t.args[0], name, depth+1); len(in.refs) > 0 {
			return in
		}
	}
	if t.pending || f.pending {
		return found{pending: true}
	}
	if t.outside != "" && t.other == nil {
		return q.outsideMember(src, t, name)
	}
	if arms := q.narrowed(src, base, t, depth+1); arms != nil {
		return q.ofArms(arms, name, depth)
	}
	in := q.memberOfType(t, name, depth+1)
	for i := 1; i < len(f.refs) && len(in.refs) == 0; i++ { // what shares its name, such as an object beside a class
		if other := q.memberOfType(q.typeOfRef(f.refs[i], depth+1), name, depth+1); len(other.refs) > 0 {
			in = other
		}
	}
	if in.empty() && variable(t) { // which may be bound where it is used, by the same name
		f := q.lookup(src, t.named.def().Name, src.Exprs[base].Scope, int(src.Exprs[base].At.Start), depth+1)
		if len(f.refs) > 0 && f.refs[0].def().Kind == facts.TypeParameter && f.refs[0].at() != t.named.at() {
			in = q.memberOfType(Type{named: f.refs[0]}, name, depth+1)
		}
	}
	if root := src.lang.Members.Root; in.empty() && t.named.ok() && src.lang.Members.Everyone[name] {
		if r := q.fullType(src, root, depth+1); r.ok() {
			return q.members(r, name, map[*facts.Def]bool{}, depth+1)
		}
		return found{outside: root}
	}
	if in.empty() && src.sees() == lang.SeesTypes {
		if r := q.fullType(src, dotted(src, base)+"."+name, depth+1); r.ok() {
			in.refs = []ref{r}
		}
	}
	return in
}

// isPart says whether an expression is one of several values that come at once.
func (q *question) isPart(src *source, id facts.ExprID, depth int) bool {
	e := src.Exprs[id]
	return e.Kind == facts.Member && parts[e.Name] > 0 && q.typeOf(src, e.Base, depth+1).name == together
}

// isGivenPart says whether an expression may name one of the members that a component has by the class of a library.
func isGivenPart(src *source, id facts.ExprID) bool {
	e := src.Exprs[id]
	_, ok := src.lang.Values.Components.Members[e.Name]
	return ok && e.Kind == facts.Member
}

// added are the members of the name that code outside a function, a variable or
// a class gives it.
func added(r ref, name string) (members []ref) {
	if !r.src.lang.Members.Prototypes.Is() {
		return nil
	}
	for _, id := range r.src.scoped[scopedName{0, name}] {
		if m := &r.src.Defs[id]; m.Container == r.def().Name && m.Container != "" && m.Parent == facts.NoDef {
			members = append(members, r.src.ref(id))
		}
	}
	return members
}

// dotted writes an expression of names with dots between them; "" for any
// other.
func dotted(src *source, id facts.ExprID) string {
	switch e := src.Exprs[id]; e.Kind {
	case facts.Name:
		return e.Name
	case facts.Member:
		if before := dotted(src, e.Base); before != "" {
			return before + "." + e.Name
		}
	}
	return ""
}

// meaning finds what an expression names: a definition or a module. It is
// empty for an expression that only has a value.
func (q *question) meaning(src *source, id facts.ExprID, depth int) found {
	if depth > deepest {
		return found{}
	}
	key := exprKey{src, id}
	if f, ok := q.means[key]; ok {
		return f
	}
	q.means[key] = found{} // what leads back here by a circle knows nothing yet
	var f found
	switch e := src.Exprs[id]; e.Kind {
	case facts.Name:
		f = q.lookupPath(src, e.Name, e.Scope, e.At, depth+1)
		if e.Name == "exports" && len(f.refs) == 0 && src.lang.Members.Prototypes.Is() {
			f = found{modules: []string{src.path}}
		}
	case facts.Member:
		if e.Name == "exports" && src.Exprs[e.Base].Name == "module" && src.lang.Members.Prototypes.Is() {
			f = found{modules: []string{src.path}}
			break
		}
		if (e.Name == "this" || e.Name == "super") && src.lang.Members.Self[e.Name] { // Outer.this
			f = q.meaning(src, e.Base, depth+1)
			break
		}
		f = q.memberOf(src, e.Base, e.Name, depth+1)
	case facts.GenericOf, facts.Index:
		f = q.meaning(src, e.Base, depth+1)
	case facts.ModuleOf:
		f = q.imported(src, facts.Imported{Path: e.Name, Alias: "_", At: e.At}, depth+1)
	}
	q.means[key] = f
	return f
}

// memberOfType finds a member of a type: its own, or one of what it stands
// for or is derived from.
func (q *question) memberOfType(t Type, name string, depth int) found {
	if t.other == nil {
		f := q.memberOfFirst(t, name, depth)
		f.unsure = f.unsure || t.loose && valuesOf(t).Passed.Is()
		return f
	}
	f := q.ofArms(t.each(), name, depth)
	f.unsure = f.unsure || t.loose && valuesOf(t).Passed.Is()
	return f
}

// valuesOf is how values come to be of a type in the language of one.
func valuesOf(t Type) lang.Values {
	switch {
	case t.named.ok():
		return t.named.src.lang.Values
	case t.src != nil:
		return t.src.lang.Values
	}
	return lang.Declared
}

// outsideMember answers for a member of a value of a type that lies outside: whether that has it is known for the types of
// the language itself alone.
func (q *question) outsideMember(src *source, t Type, name string) found {
	f := found{outside: t.outside}
	if has, known := src.lang.Values.Known[t.name]; known && t.outside == src.itself() {
		if !has[name] {
			return found{}
		}
	} else {
		f.vague = src.lang.Values.Passed.Is()
	}
	return f
}

// memberOfFirst finds a member of a type, whatever else a value may be.
func (q *question) memberOfFirst(t Type, name string, depth int) found {
	if depth > deepest {
		return found{}
	}
	if e := t.expr(); e.Kind == facts.Shape {
		return q.inShape(t, name, depth+1)
	} else if e.Kind == facts.EitherOf {
		return q.ofEither(t, name, depth+1)
	}
	if !t.named.ok() {
		if t.src != nil { // a list, a function: what they can do is the language's own
			return found{outside: t.src.itself()}
		}
		return found{}
	}
	owner := t.named
	owner.env = q.bindingsOf(t)
	if t.above {
		return q.membersAbove(owner, name, depth)
	}
	f := q.members(owner, name, map[*facts.Def]bool{}, depth)
	if len(f.refs) == 0 && owner.src.lang.Values.Bare.Is() {
		if refs := q.reopened(owner, name); len(refs) > 0 {
			return found{refs: refs}
		}
	}
	if len(f.refs) == 0 && owner.src.sees() == lang.SeesIncludes {
		if pointed := q.pointedTo(owner, depth+1); pointed.known() {
			return q.memberOfType(pointed, name, depth+1)
		}
	}
	if len(f.refs) == 0 && (f.outside == "" || f.vague) && owner.src.lang.Values.Passed.Is() {
		if below := q.membersBelow(owner, name, depth); len(below.refs) > 0 {
			return below
		}
	}
	return f
}

// pointing are the operators by which a value stands for another one.
var pointing = []string{"operator->", "operator*"}

// pointedTo is the type of what a value of a type stands for, by an operator that it has for that.
func (q *question) pointedTo(owner ref, depth int) Type {
	if depth > deepest {
		return Type{}
	}
	for _, operator := range pointing {
		for _, r := range q.members(owner, operator, map[*facts.Def]bool{}, depth+1).refs {
			if t := r.def().Type; t != facts.NoExpr && r.def().Parameters == 1 { // with one it multiplies
				if is := subst(q.typeNamed(r.src, t, depth+1), r.env); is.known() && (!is.named.ok() || is.named.at() != owner.at()) {
					return is
				}
			}
		}
	}
	return Type{}
}

// reopened finds a member of a type, or what is in a module, in the files that open it once more; the nearest first.
func (q *question) reopened(owner ref, name string) (refs []ref) {
	line := []ref{owner}
	for _, a := range q.linear(owner, 0) {
		if a.ok() && a.at() != owner.at() {
			line = append(line, a.ref)
		}
	}
	for _, of := range line {
		for _, sym := range q.code.Named(name) {
			if sym.Container != of.def().Name || q.family(sym.Path) != q.family(owner.src.path) {
				continue
			}
			if src := q.source(sym.Path); src != nil {
				if id := src.DefNamed(sym.Offset, sym.Name); id != facts.NoDef && src.Defs[id].Name == name {
					refs = append(refs, src.ref(id))
				}
			}
		}
		if len(refs) > 0 {
			slices.SortStableFunc(refs, func(a, b ref) int {
				return cmp.Compare(distance(owner.src.path, a.src.path), distance(owner.src.path, b.src.path))
			})
			return refs
		}
	}
	return nil
}

// inShape finds a member of a type or an object without a name.
func (q *question) inShape(t Type, name string, depth int) (f found) {
	e := t.expr()
	scope := t.src.ScopeAt(int(e.At.Start))
	for _, id := range t.src.scoped[scopedName{scope, name}] {
		f.refs = append(f.refs, ref{t.src, id, t.env})
	}
	for i := len(e.Args) - 1; i >= 0 && len(f.refs) == 0; i-- {
		f = q.memberOfType(q.typeOf(t.src, e.Args[i], depth+1), name, depth+1)
	}
	return f
}

// ofEither finds a member of one of several types that a value may be of. It is
// not sure which if they do not share it.
func (q *question) ofEither(t Type, name string, depth int) (all found) {
	return q.ofArms(q.arms(t, depth), name, depth)
}

func (q *question) ofArms(arms []Type, name string, depth int) (all found) {
	seen := map[definedAt]bool{}
	for _, a := range arms {
		f := q.memberOfType(a, name, depth+10)
		if len(f.refs) == 0 {
			if f.outside != "" {
				all.outside = f.outside
			}
			continue
		}
		for _, r := range f.refs {
			if !seen[r.at()] {
				seen[r.at()] = true
				all.refs = append(all.refs, r)
			}
		}
	}
	all.several = len(all.refs) > 1
	if len(all.refs) > 0 {
		all.outside = ""
	}
	return all
}

// arms are the types of which a value may be.
func (q *question) arms(t Type, depth int) (arms []Type) {
	for _, a := range t.expr().Args {
		arms = append(arms, q.inside(t, a, depth+1))
	}
	return arms
}

// members finds the members of a name that a type has: its own, or those of
// what it is derived from or stands for. Where members are told apart by their
// parameters, those of all are given, its own first.
func (q *question) members(owner ref, name string, visited map[*facts.Def]bool, depth int) found {
	d := owner.def()
	if visited[d] || depth > deepest {
		return found{}
	}
	isOther := d.Type != facts.NoExpr && d.Kind.IsType() // it stands for another type
	if owner.src.lang.Values.Passed.Is() && !isOther {
		return q.membersInOrder(owner, name, depth)
	}
	visited[d] = true
	var all found
	if all.refs = q.own(owner, name); len(all.refs) > 0 && !(owner.src.lang.Members.Overloads.Is() && all.refs[0].def().Kind == facts.Method) {
		return all
	}
	supers := q.supers(owner)
	if isOther {
		supers = append(supers[:len(supers):len(supers)], super{owner.src, d.Type})
	}
	for _, s := range supers {
		t := subst(q.typeNamed(s.src, s.id, depth+1), owner.env)
		f := found{outside: t.outside}
		if t.named.ok() {
			above := t.named
			above.env = q.bindingsOf(t)
			f = q.members(above, name, visited, depth+1)
		} else if e := t.expr(); e.Kind == facts.EitherOf {
			f = q.ofEither(t, name, depth+1)
			all.unsure, all.several = all.unsure || f.unsure, all.several || f.several
		}
		if len(all.refs) == 0 && f.outside != "" {
			all.outside = f.outside
		}
		if len(f.refs) == 0 {
			continue
		}
		all.refs = append(all.refs, f.refs...)
		all.outside = ""
		if !owner.src.lang.Members.Overloads.Is() {
			break
		}
	}
	return all
}

// own are the members of the name that exactly this type has, or has from another one by saying so.
func (q *question) own(owner ref, name string) []ref {
	own := q.ownOf(owner, name)
	if owner.src.sees() != lang.SeesIncludes {
		return own
	}
	if own = active(own); !slices.ContainsFunc(own, func(r ref) bool { return r.def().Kind == facts.Import }) {
		return own
	}
	var all []ref
	for _, r := range own {
		if r.def().Kind != facts.Import || q.bringing[r.at()] {
			all = append(all, r)
			continue
		}
		if q.bringing == nil {
			q.bringing = map[definedAt]bool{}
		}
		q.bringing[r.at()] = true
		for _, f := range q.follow(r, 0).refs {
			if !slices.ContainsFunc(all, func(o ref) bool { return o.at() == f.at() }) {
				all = append(all, f)
			}
		}
		delete(q.bringing, r.at())
	}
	return all
}

func (q *question) ownOf(owner ref, name string) (own []ref) {
	d := owner.def()
	if d.Body != 0 {
		for _, id := range owner.src.scoped[scopedName{d.Body, name}] {
			m := &owner.src.Defs[id]
			if owner.src.Scopes[d.Body].Kind == facts.FunctionScope && m.Container != d.Name {
				continue // a function that makes objects when it is called with new
			}
			if d.Kind.IsSpace() && m.Container != "" && m.Container != d.Name {
				continue // a member of a type in there, written out away from it
			}
			if m.Echo && len(own) > 0 {
				continue
			}
			if m.Kind == facts.Constructor && m.Name == d.Name {
				continue // it shares the name of the class, which is what is meant
			}
			if m.Kind != facts.TypeParameter && m.Kind != facts.Parameter {
				own = append(own, ref{owner.src, id, owner.env})
			}
		}
	}
	if len(own) > 0 {
		if owner.src.lang.Members.Apart == lang.Everywhere && owner.src.sees() == lang.SeesModules && !own[0].def().Kind.IsCallable() { // a method may have the name of a field
			return append(own, q.methodsElsewhere(owner, name)...)
		}
		return own
	}
	if own = added(owner, name); len(own) > 0 {
		return own
	}
	if own = q.ownOfParts(owner, name); len(own) > 0 {
		return own
	}
	own = q.methodsElsewhere(owner, name)
	for i, m := range own {
		own[i].env = rebind(owner, m)
	}
	return own
}

// ownOfParts are the members of the name in the other declarations of a type, where several make one, as a class and an
// interface of one name do.
func (q *question) ownOfParts(owner ref, name string) (own []ref) {
	d := owner.def()
	if !owner.src.lang.Members.Prototypes.Is() || !d.Kind.IsType() || d.Kind == facts.TypeParameter {
		return nil
	}
	for _, id := range owner.src.scoped[scopedName{d.Scope, d.Name}] {
		part := owner.src.ref(id)
		if id == owner.id || !part.def().Kind.IsType() || part.def().Body == 0 {
			continue
		}
		env := rebind(owner, part)
		for _, m := range owner.src.scoped[scopedName{part.def().Body, name}] {
			if k := owner.src.Defs[m].Kind; k != facts.TypeParameter && k != facts.Parameter {
				own = append(own, ref{owner.src, m, env})
			}
		}
	}
	return own
}

// rebind says what the type parameters of a method that stands outside its type
// stand for, which has names of its own for those of the type.
func rebind(owner, method ref) *bindings {
	var args []Type
	for _, id := range owner.typeParams() {
		t, _ := owner.env.find(&owner.src.Defs[id])
		args = append(args, t)
	}
	return bind(method, args, owner.env)
}

// methodsElsewhere finds a method that stands outside the type it belongs to.
func (q *question) methodsElsewhere(owner ref, name string) []ref {
	switch owner.src.lang.Members.Apart {
	case lang.InPackage:
		return q.methodsInFolder(owner, name)
	case lang.InFile, lang.Everywhere:
		return q.membersApart(owner, name)
	}
	return nil
}

// methodsInFolder finds the methods of a type in all files of its package.
func (q *question) methodsInFolder(owner ref, name string) []ref {
	var refs []ref
	for _, sym := range q.namedIn(path.Dir(owner.src.path), name) {
		if sym.Container != owner.def().Name || path.Dir(sym.Path) != path.Dir(owner.src.path) {
			continue
		}
		src := q.source(sym.Path)
		if src == nil || src.Package != owner.src.Package {
			continue
		}
		for _, id := range src.scoped[scopedName{0, name}] {
			if src.Defs[id].Container == owner.def().Name {
				refs = append(refs, src.ref(id))
				break
			}
		}
	}
	return forBuild(refs, owner.src)
}

// membersApart finds the members that stand outside their type, in the file of
// the type or else in the nearest ones.
func (q *question) membersApart(owner ref, name string) (refs []ref) {
	nearest := -1
	for _, sym := range q.namedIn(path.Dir(owner.src.path), name) {
		if sym.Container != owner.def().Name || q.family(sym.Path) != q.family(owner.src.path) {
			continue
		}
		if sym.Path != owner.src.path && q.seesIncludes(sym.Path) && !q.reachesFrom(sym.Path, owner.src.path) {
			continue
		}
		src := q.source(sym.Path)
		if src == nil || src != owner.src && src.lang.Members.Apart == lang.InFile {
			continue
		}
		id := src.DefNamed(sym.Offset, sym.Name)
		if id == facts.NoDef || src.Defs[id].Kind == facts.Constructor && src.sees() == lang.SeesIncludes || src == owner.src && src.Defs[id].Scope == owner.def().Body {
			continue
		}
		if o := src.Scopes[src.Defs[id].Scope].Owner; o != facts.NoDef && src.Defs[o].Kind.IsType() && (sharesNames(src) || src.Defs[o].Name != owner.def().Name) {
			continue // it is a member of another type, which may have the same name
		}
		switch d := distance(owner.src.path, sym.Path); {
		case nearest < 0 || d < nearest:
			nearest, refs = d, []ref{src.ref(id)}
		case d == nearest:
			refs = append(refs, src.ref(id))
		}
	}
	if owner.src.sees() == lang.SeesModules { // several modules may have a type of the name
		refs = slices.DeleteFunc(refs, func(r ref) bool {
			o := q.owner(r)
			return o.ok() && o.def().Kind.IsType() && o.def().Name == owner.def().Name && o.at() != owner.at()
		})
	}
	return refs
}

// preferred keeps those definitions that can be called, or those that cannot,
// where there are any: in some languages a field and a method may share a name.
func preferred(refs []ref, callable bool) []ref {
	if len(refs) > 0 && (refs[0].src.lang.Members.Prototypes.Is() || refs[0].src.lang.Values.Passed.Is()) {
		return refs // a function is a value there, like any other
	}
	var kept []ref
	for _, r := range refs {
		if k := r.def().Kind; (k.IsCallable() || callable && k.IsType()) == callable {
			kept = append(kept, r)
		}
	}
	if len(kept) == 0 {
		return refs
	}
	return kept
}

// fitting puts those overloads first that take so many arguments, counted as
// in facts.Use.
func fitting(refs []ref, arguments int) []ref {
	if len(refs) < 2 || arguments == 0 {
		return refs
	}
	var fit, others []ref
	for _, r := range refs {
		if r.def().Takes(arguments) {
			fit = append(fit, r)
		} else {
			others = append(others, r)
		}
	}
	return append(fit, others...)
}
