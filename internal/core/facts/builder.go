package facts

import (
	"cmp"
	"slices"

	"rooktrail/internal/core/place"
)

// Builder collects the facts of a file while its syntax tree is walked. It
// keeps the scope and the definition that the walk is in.
type Builder struct {
	file   File
	scope  ScopeID
	inside DefID
	named  map[scopedName]DefID // the first definition of each name in each scope
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

// Scope is the scope the walk is in.
func (b *Builder) Scope() ScopeID { return b.scope }

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
	d.Scope, d.Parent = b.scope, b.inside
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

// Use adds a use in the present scope.
func (b *Builder) Use(name string, role Role, at place.Range, base ExprID) {
	b.file.Uses = append(b.file.Uses, Use{Name: name, Role: role, At: at, Scope: b.scope, Base: base})
}

// Call adds a use that is called with so many arguments.
func (b *Builder) Call(name string, at place.Range, base ExprID, arguments int) {
	b.Use(name, Call, at, base)
	b.file.Uses[len(b.file.Uses)-1].Arguments = arguments + 1
}

// Expr adds an expression in the present scope.
func (b *Builder) Expr(e Expr) ExprID {
	e.Scope = b.scope
	b.file.Exprs = append(b.file.Exprs, e)
	return ExprID(len(b.file.Exprs) - 1)
}

// Import adds an import and returns its number for Def.Import.
func (b *Builder) Import(i Imported) int {
	b.file.Imports = append(b.file.Imports, i)
	return len(b.file.Imports)
}

// File puts the facts in order and hands them over; the Builder is then spent.
func (b *Builder) File() *File {
	b.sortScopes()
	b.sortDefs()
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
