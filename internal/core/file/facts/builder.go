package facts

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/file/place"
)

// Builder collects the facts of a file while its syntax tree is walked. It
// keeps the scope and the definition that the walk is in.
type Builder struct {
	file   File
	scope  ScopeID
	inside DefID
	named  map[scopedName]DefID // the first definition of each name in each scope
	// sections wait until all scopes are known.
	sections []Def
	inactive bool
	// inactiveUntil is the offset up to which all is.
	inactiveUntil uint32
}

type scopedName struct {
	scope ScopeID
	name  string
}

// NewBuilder begins the facts of a text of the given length in bytes.
func NewBuilder(language string, length int) *Builder {
	b := &Builder{inside: NoDef, named: map[scopedName]DefID{}}
	b.file.Language = language
	b.file.Scopes = []Scope{{Kind: FileScope, At: place.Range{End: uint32(length)}, Owner: NoDef}}
	b.file.Exprs = make([]Expr, 1, 64)
	return b
}

// Inactive says whether the walk is in a branch of conditional code that a
// common compiler would not take.
func (b *Builder) Inactive() bool { return b.inactive }

// SetInactive says whether what follows is in such a branch, and tells what was
// said before.
func (b *Builder) SetInactive(inactive bool) (before bool) {
	before, b.inactive = b.inactive, inactive
	return before
}

// InactiveUntil says that all up to an offset is in such a branch.
func (b *Builder) InactiveUntil(end uint32) { b.inactiveUntil = max(b.inactiveUntil, end) }

// Scope is the scope the walk is in.
func (b *Builder) Scope() ScopeID { return b.scope }

// Facts are the facts collected so far, which are not in order yet.
func (b *Builder) Facts() *File { return &b.file }

// SetInner says that functions and types inside of functions are symbols.
func (b *Builder) SetInner() { b.file.Inner = true }

// SetPackage notes the name of the file's package.
func (b *Builder) SetPackage(name string) { b.file.Package = name }

// SetBuild notes the condition under which the file belongs to a build.
func (b *Builder) SetBuild(condition string) { b.file.Build = condition }

// In calls walk inside a new scope, which belongs to the definition owner; if
// that is NoDef, to the definition the walk is in.
func (b *Builder) In(kind ScopeKind, at place.Range, owner DefID, walk func()) {
	scope, inside := b.scope, b.inside
	b.scope = ScopeID(len(b.file.Scopes))
	if owner != NoDef {
		b.inside = owner
		b.file.Defs[owner].Body = b.scope
	}
	b.file.Scopes = append(b.file.Scopes, Scope{Kind: kind, Parent: scope, At: at, Owner: owner})
	walk()
	b.scope, b.inside = scope, inside
}

// Open begins a scope inside a definition whose end is not known yet; Shut ends
// it. Scopes are shut in the reverse order of opening.
func (b *Builder) Open(kind ScopeKind, start uint32, owner DefID) ScopeID {
	s := ScopeID(len(b.file.Scopes))
	b.file.Scopes = append(b.file.Scopes, Scope{Kind: kind, Parent: b.scope, At: place.Range{Start: start, End: start}, Owner: owner})
	b.file.Defs[owner].Body = s
	b.scope, b.inside = s, owner
	return s
}

// Shut ends a scope that Open began.
func (b *Builder) Shut(scope ScopeID, end uint32) {
	s := &b.file.Scopes[scope]
	s.At.End = end
	b.scope, b.inside = s.Parent, b.file.Defs[s.Owner].Parent
}

// Inner calls walk inside a scope that exists already, as when the members of
// a type are written in two places.
func (b *Builder) Inner(scope ScopeID, walk func()) {
	was := b.scope
	b.scope = scope
	walk()
	b.scope = was
}

// Def adds a definition to the present scope. Scope and Parent are filled in,
// and so is Container if the scope holds the members of a type.
func (b *Builder) Def(d Def) DefID {
	d.Scope, d.Parent, d.Inactive = b.scope, b.inside, b.inactive || d.At.Start < b.inactiveUntil
	if s := b.file.Scopes[b.scope]; s.Kind == TypeScope && d.Container == "" && s.Owner != NoDef {
		d.Container = b.file.Defs[s.Owner].Name
	}
	id := DefID(len(b.file.Defs))
	b.file.Defs = append(b.file.Defs, d)
	if at := (scopedName{b.scope, d.Name}); b.Defined(at.scope, at.name) == NoDef {
		b.named[at] = id
	}
	return id
}

// At gives access to a definition that was added.
func (b *Builder) At(id DefID) *Def { return &b.file.Defs[id] }

// Owner is the definition that the innermost scope of the kind belongs to, or
// NoDef.
func (b *Builder) Owner(kind ScopeKind) DefID {
	for s := b.scope; s != 0; s = b.file.Scopes[s].Parent {
		if b.file.Scopes[s].Kind == kind {
			return b.file.Scopes[s].Owner
		}
	}
	return NoDef
}

// Enclosing is the innermost scope, from the present one outwards, that is of
// one of the kinds; scope 0 if there is none.
func (b *Builder) Enclosing(kinds ...ScopeKind) ScopeID {
	s := b.scope
	for s != 0 && !slices.Contains(kinds, b.file.Scopes[s].Kind) {
		s = b.file.Scopes[s].Parent
	}
	return s
}

// Defined returns the first definition of the name in exactly this scope, or
// NoDef.
func (b *Builder) Defined(scope ScopeID, name string) DefID {
	if id, ok := b.named[scopedName{scope, name}]; ok {
		return id
	}
	return NoDef
}

// Known returns the first definition of the name in the present scope or in
// the blocks around it, up to the function, type or file they stand in; NoDef
// if there is none.
func (b *Builder) Known(name string) DefID {
	for s := b.scope; ; s = b.file.Scopes[s].Parent {
		if id := b.Defined(s, name); id != NoDef || b.file.Scopes[s].Kind != BlockScope {
			return id
		}
	}
}

// Visible returns the first definition of the name in the innermost scope that
// has one, from the present scope outwards; NoDef if there is none.
func (b *Builder) Visible(name string) DefID {
	for s := b.scope; ; s = b.file.Scopes[s].Parent {
		if id := b.Defined(s, name); id != NoDef || s == 0 {
			return id
		}
	}
}

// Use adds a use in the present scope.
func (b *Builder) Use(name string, role Role, at place.Range, base ExprID) {
	b.file.Uses = append(b.file.Uses, Use{Name: name, Role: role, At: at, Scope: b.scope, Base: base})
}

// Call adds a use that is called with so many arguments.
func (b *Builder) Call(name string, at place.Range, base ExprID, arguments int) {
	b.Use(name, Call, at, base)
	b.file.Uses[len(b.file.Uses)-1].Arguments = arguments + 1
}

// CallWith adds a use that is called in the way that a call expression says.
func (b *Builder) CallWith(name string, at place.Range, base, call ExprID) {
	b.Call(name, at, base, len(b.file.Exprs[call].Args))
	b.file.Uses[len(b.file.Uses)-1].Call = call
}

// An expression may be kept once for itself and once for each that it stands in. In long chains
// these would be as many as the square of its length, so of a text of n bytes no more are kept
// than exprsPerByte*n + fewExprs: more than several times what code comes to.
const (
	exprsPerByte = 2
	fewExprs     = 1000
)

// Expr adds an expression in the present scope; it is NoExpr if there are too many already.
func (b *Builder) Expr(e Expr) ExprID {
	if len(b.file.Exprs) > exprsPerByte*int(b.file.Scopes[0].At.End)+fewExprs {
		return NoExpr
	}
	e.Scope = b.scope
	b.file.Exprs = append(b.file.Exprs, e)
	return ExprID(len(b.file.Exprs) - 1)
}

// Import adds an import and returns its number for Def.Import.
func (b *Builder) Import(i Imported) int {
	b.file.Imports = append(b.file.Imports, i)
	return len(b.file.Imports)
}

// Embed takes in the facts of another language, read from a part of the text
// that begins at offset. What it defines on its outermost level is defined in
// the present scope.
func (b *Builder) Embed(f *File, offset uint32) {
	scopes, defs, exprs, imports := ScopeID(len(b.file.Scopes))-1, DefID(len(b.file.Defs)), ExprID(len(b.file.Exprs))-1, len(b.file.Imports)
	shift := func(r place.Range) place.Range {
		if r == (place.Range{}) {
			return r
		}
		return place.Range{Start: r.Start + offset, End: r.End + offset}
	}
	scope := func(s ScopeID) ScopeID {
		if s == 0 {
			return b.scope
		}
		return s + scopes
	}
	expr := func(e ExprID) ExprID {
		if e == NoExpr {
			return e
		}
		return e + exprs
	}
	def := func(d DefID) DefID {
		if d == NoDef {
			return b.inside
		}
		return d + defs
	}
	for _, s := range f.Scopes[1:] {
		s.Parent, s.At = scope(s.Parent), shift(s.At)
		if s.Owner != NoDef {
			s.Owner += defs
		}
		b.file.Scopes = append(b.file.Scopes, s)
	}
	for _, d := range f.Defs {
		d.At, d.Full, d.Head, d.Doc = shift(d.At), shift(d.Full), shift(d.Head), shift(d.Doc)
		d.Scope, d.Parent = scope(d.Scope), def(d.Parent)
		d.Type, d.Init = expr(d.Type), expr(d.Init)
		if d.Body != 0 {
			d.Body += scopes
		}
		if d.From != 0 {
			d.From += offset
		}
		if d.Import != 0 {
			d.Import += imports
		}
		d.Supers = slices.Clone(d.Supers)
		for i := range d.Supers {
			d.Supers[i] = expr(d.Supers[i])
		}
		d.Params = slices.Clone(d.Params)
		for i := range d.Params {
			d.Params[i] = expr(d.Params[i])
		}
		b.file.Defs = append(b.file.Defs, d)
	}
	for _, u := range f.Uses {
		u.At, u.Scope, u.Base, u.Call = shift(u.At), scope(u.Scope), expr(u.Base), expr(u.Call)
		b.file.Uses = append(b.file.Uses, u)
	}
	for _, i := range f.Imports {
		i.At = shift(i.At)
		b.file.Imports = append(b.file.Imports, i)
	}
	for _, e := range f.Exprs[1:] {
		e.Base, e.Scope, e.At = expr(e.Base), scope(e.Scope), shift(e.At)
		e.Args = slices.Clone(e.Args)
		for i := range e.Args {
			e.Args[i] = expr(e.Args[i])
		}
		b.file.Exprs = append(b.file.Exprs, e)
	}
	for _, d := range f.Derived {
		b.Derived(Derivation{Name: d.Name, Of: expr(d.Of), Super: expr(d.Super)})
	}
	for _, n := range f.Narrowed {
		n.At, n.Is = shift(n.At), slices.Clone(n.Is)
		for i := range n.Is {
			n.Is[i] = expr(n.Is[i])
		}
		b.Narrow(n)
	}
	for _, s := range f.Settings {
		s.Of, s.Base, s.At, s.From, s.Value = scope(s.Of), expr(s.Base), s.At+offset, s.From+offset, expr(s.Value)
		b.Set(s)
	}
	for _, p := range f.Puts {
		p.Into, p.Key, p.Value, p.At = expr(p.Into), expr(p.Key), expr(p.Value), p.At+offset
		b.Put(p)
	}
	for _, br := range f.Branches {
		br.At, br.Whole = shift(br.At), shift(br.Whole)
		b.Branch(br)
	}
}

// Set notes that something is given another value.
func (b *Builder) Set(s Setting) { b.file.Settings = append(b.file.Settings, s) }

// Put notes that a value is put into a list or a map.
func (b *Builder) Put(p Put) { b.file.Puts = append(b.file.Puts, p) }

// Branch notes a part of the code that is not always done.
func (b *Builder) Branch(br Branch) {
	if br.At.Len() > 0 {
		b.file.Branches = append(b.file.Branches, br)
	}
}

// Narrow notes what a test says of a value.
func (b *Builder) Narrow(n Narrowing) { b.file.Narrowed = append(b.file.Narrowed, n) }

// Expect notes of which type an object is to be.
func (b *Builder) Expect(e Expectation) { b.file.Expected = append(b.file.Expected, e) }

// Derived notes what a type is derived from, away from its definition.
func (b *Builder) Derived(d Derivation) { b.file.Derived = append(b.file.Derived, d) }

// Section adds a section: its title, and all of the comment that sets it
// apart. Sections are added in their order in the text.
func (b *Builder) Section(title string, at, full place.Range) {
	b.sections = append(b.sections, Def{Name: title, Kind: Section, Parent: NoDef, At: at, Full: full, Head: at})
}

// File puts the facts in order and hands them over; the Builder is then spent.
func (b *Builder) File() *File {
	b.sortScopes()
	b.placeSections()
	b.sortDefs()
	slices.SortStableFunc(b.file.Narrowed, func(x, y Narrowing) int { return cmp.Compare(x.At.Start, y.At.Start) })
	slices.SortStableFunc(b.file.Settings, func(x, y Setting) int { return cmp.Compare(x.At, y.At) })
	slices.SortStableFunc(b.file.Puts, func(x, y Put) int { return cmp.Compare(x.At, y.At) })
	slices.SortStableFunc(b.file.Branches, func(x, y Branch) int {
		return cmp.Or(cmp.Compare(x.At.Start, y.At.Start), cmp.Compare(y.At.End, x.At.End))
	})
	slices.SortStableFunc(b.file.Uses, func(x, y Use) int { return cmp.Compare(x.At.Start, y.At.Start) })
	return &b.file
}

// sortScopes puts the scopes in the order in which they begin, outer ones
// first, for walks that did not meet them in that order.
func (b *Builder) sortScopes() {
	f := &b.file
	less := func(x, y Scope) int {
		return cmp.Or(cmp.Compare(x.At.Start, y.At.Start), cmp.Compare(y.At.End, x.At.End))
	}
	if slices.IsSortedFunc(f.Scopes, less) {
		return
	}
	order, renamed := permutation(f.Scopes, less)
	f.Scopes = order
	for i := range f.Scopes {
		f.Scopes[i].Parent = ScopeID(renamed[f.Scopes[i].Parent])
	}
	for i := range f.Defs {
		d := &f.Defs[i]
		d.Scope, d.Body = ScopeID(renamed[d.Scope]), ScopeID(renamed[d.Body])
	}
	for i := range f.Uses {
		f.Uses[i].Scope = ScopeID(renamed[f.Uses[i].Scope])
	}
	for i := range f.Exprs {
		f.Exprs[i].Scope = ScopeID(renamed[f.Exprs[i].Scope])
	}
	for i := range f.Settings {
		f.Settings[i].Of = ScopeID(renamed[f.Settings[i].Of])
	}
}

// placeSections puts each section into the innermost scope around it, which
// takes one pass over the scopes, as they nest and are in order.
func (b *Builder) placeSections() {
	f := &b.file
	open, next := []ScopeID{0}, 1
	for _, d := range b.sections {
		for ; next < len(f.Scopes) && f.Scopes[next].At.Start <= d.At.Start; next++ {
			open = append(open, ScopeID(next))
		}
		for len(open) > 1 && f.Scopes[open[len(open)-1]].At.End < d.At.End {
			open = open[:len(open)-1]
		}
		d.Scope = open[len(open)-1]
		if owner := f.Scopes[d.Scope].Owner; owner != NoDef {
			d.Parent = owner
		}
		f.Defs = append(f.Defs, d)
	}
}

// sortDefs puts the definitions in the order of their names in the text.
func (b *Builder) sortDefs() {
	f := &b.file
	less := func(x, y Def) int { return cmp.Compare(x.At.Start, y.At.Start) }
	if slices.IsSortedFunc(f.Defs, less) {
		return
	}
	order, renamed := permutation(f.Defs, less)
	f.Defs = order
	for i := range f.Defs {
		if p := f.Defs[i].Parent; p != NoDef {
			f.Defs[i].Parent = DefID(renamed[p])
		}
	}
	for i := range f.Scopes {
		if o := f.Scopes[i].Owner; o != NoDef {
			f.Scopes[i].Owner = DefID(renamed[o])
		}
	}
}

// permutation sorts a list stably and tells for each old index the new one.
func permutation[T any](list []T, compare func(x, y T) int) (sorted []T, renamed []int32) {
	order := make([]int32, len(list))
	for i := range order {
		order[i] = int32(i)
	}
	slices.SortStableFunc(order, func(i, j int32) int { return compare(list[i], list[j]) })
	sorted, renamed = make([]T, len(list)), make([]int32, len(list))
	for to, from := range order {
		sorted[to], renamed[from] = list[from], int32(to)
	}
	return sorted, renamed
}
