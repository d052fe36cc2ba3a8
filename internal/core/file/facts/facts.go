// Package facts is what one file says by itself: its scopes, what it defines,
// which names it uses and how, what it imports. Facts depend on that file
// alone, whatever its language; package resolve puts those of several files
// together.
package facts

import (
	"slices"
	"sort"
	"strings"

	"rooktrail/internal/core/file/place"
)

// File holds the facts of one file. The lists are ordered by where their
// entries begin in the text. A File is not changed once it is made.
type File struct {
	Language string
	// Package is the name the file gives to its package, if its language has
	// such a thing.
	Package string
	// Build is the condition under which the file belongs to a build, as Go
	// writes it in a //go:build line; "" for always.
	Build   string
	Scopes  []Scope // the first is the whole file
	Defs    []Def
	Uses    []Use
	Imports []Imported
	Exprs   []Expr // the first stands for "none"
	// Derived says of types, away from their definitions, what they are derived
	// from.
	Derived []Derivation
	// Expected says of objects that are written out of which type they are to be, because of where they stand.
	Expected []Expectation
	// Narrowed says what tests in the code tell about values, ordered by where
	// that holds.
	Narrowed []Narrowing
	// Settings say what values are given after the first, Puts what is put into lists and maps, Branches which parts of
	// the code are done only now and then: all of them ordered by where they begin. They are noted in languages in which
	// values need not say of which type they are.
	Settings []Setting
	Puts     []Put
	Branches []Branch
	// Inner says that functions and types inside of functions are symbols like others, as where a function makes them to hand
	// them on.
	Inner bool
	// Shared are the names that the file has in common with files of other languages, ordered by where they stand.
	Shared []Shared

	nesting nesting
}

// Narrowing is what a test says of a value that may be of one of several types:
// that a member of it has, or has not, one of some values; that it has the member at
// all; or, without a member, that it is of a class.
type Narrowing struct {
	// At is where it holds.
	At place.Range
	// Of is the value, as names with dots between them.
	Of, Member string
	// Literals and Is are the values or the class; a literal without its quotes, and
	// "" for one that is not known.
	Literals []string
	Is       []ExprID
	Has, Not bool
}

// Setting says that something that is defined elsewhere is given another value.
type Setting struct {
	// Name is that of a variable of the scope Of; or, behind Base, of a member.
	Name string
	Of   ScopeID
	Base ExprID
	// At is the offset of the name; the value is there from From on.
	At, From uint32
	Value    ExprID
}

// Put says that a value is put into a list or a map, under a key where that is known.
type Put struct {
	// Name is that of the variable or member Into that holds them.
	Name       string
	Into       ExprID
	Key, Value ExprID
	At         uint32
}

// Branch is a part of the code that is not always done, such as what is behind a condition, or done again and again.
type Branch struct {
	At place.Range
	// Whole is the statement that it belongs to, with its other branches, of which there are Arms in all if one of them
	// is always done; else 0.
	Whole place.Range
	Arms  int
	// Loop says that it may be done again, Beside that the other branches of the statement may be done before it, as those
	// of a try, Leaves that what follows the statement is not done after it.
	Loop, Beside, Leaves bool
}

// Expectation says that the object, or the function, whose scope begins at an offset is to be of a type.
type Expectation struct {
	At       uint32
	Type     ExprID
	Function bool
}

// Derivation says that the type Of, whose name is Name, is derived from Super.
type Derivation struct {
	Name      string
	Of, Super ExprID
}

// ScopeID, DefID and ExprID number the entries of a File. NoDef stands for
// none; the expression 0 for none; scope 0 is the whole file.
type (
	ScopeID int32
	DefID   int32
	ExprID  int32
)

// The numbers that stand for no definition and no expression.
const (
	NoDef  DefID  = -1
	NoExpr ExprID = 0
)

// ScopeKind tells apart the scopes whose names are looked up differently.
type ScopeKind uint8

// The kinds of scopes.
const (
	FileScope ScopeKind = iota
	TypeScope           // the members of a type
	FunctionScope
	BlockScope
)

// Scope is a part of the text in which names are defined.
type Scope struct {
	Kind   ScopeKind
	Parent ScopeID // of scope 0: itself
	At     place.Range
	// Owner is the definition whose inside this is, or NoDef.
	Owner DefID
	// Open says that it is a function in which this and super mean what they mean around it.
	Open bool
}

// Def is a definition.
type Def struct {
	Name string
	Kind Kind
	// Container is the name of the type the definition is a member of, even
	// where that type stands elsewhere.
	Container string
	// Parent is the definition it stands in, or NoDef.
	Parent DefID
	// Scope is where the name is defined, Body what the definition opens; Body
	// is 0 if it opens nothing.
	Scope, Body ScopeID
	// From is the offset from which on the name can be used; 0 for the whole
	// scope.
	From uint32
	// At is the name, Full all of the definition, Head its beginning up to its
	// body, Doc the comment that describes it.
	At, Full, Head, Doc place.Range
	// Type is the declared type; of a callable, of its result.
	Type ExprID
	// Init is what the value is at first, and Part which of several results of
	// it, counted from 1; 0 is the whole. Of a callable it is what it gives back,
	// where no result is declared.
	Init ExprID
	Part int
	// Supers are the types it is derived from, embeds or implements.
	Supers []ExprID
	// Import is which entry of Imports brought the name in, counted from 1; 0
	// for names that are defined here.
	Import int
	// Parameters counts the parameters of something that may be overloaded, from
	// 1 for none; 0 if that is not known. The last of them may stand for any
	// number if it is Variadic.
	Parameters int
	Variadic   bool
	// Params are the declared types of the parameters, in order; NoExpr where
	// none is declared. It may be empty though there are parameters.
	Params []ExprID
	// Inactive says that it stands in a branch of conditional code that a common
	// compiler would not take.
	Inactive bool
	// Echo says that it only gives the same name once more to what is defined
	// right beside it.
	Echo bool
	// Static is a member that belongs to the type rather than to its values.
	Static bool
	// Special says that it is what a template comes to for some of its arguments.
	Special bool
	// Abstract is a member that does nothing but say that what is derived from its
	// type has to have it, where no word of the language has to say so.
	Abstract bool
}

// Local says whether the definition can only be seen inside a function.
func (f *File) Local(d *Def) bool {
	for s := d.Scope; s != 0; s = f.Scopes[s].Parent {
		switch k := f.Scopes[s].Kind; {
		case d.Kind == Test && (f.Scopes[s].Owner == NoDef || f.Defs[f.Scopes[s].Owner].Kind == Test || f.Defs[f.Scopes[s].Owner].Kind == Function):
			// tests stand in others, and in functions that are tests
		case k == FunctionScope || k == BlockScope:
			return true
		}
	}
	return false
}

// Use is a name that is used.
type Use struct {
	Name string
	Role Role
	At   place.Range
	// Scope is where it is used.
	Scope ScopeID
	// Base is the expression in front of it, as a in a.b, or none.
	Base ExprID
	// Arguments counts what it is called with, from 1 for none; 0 if it is not
	// called, or that is not known.
	Arguments int
	// Call is the call, as a CallOf or Value with its arguments, in languages
	// where these decide what is called; else none.
	Call ExprID
}

// Quoted says whether a use stands between quotes, and is one only if the name of a
// member is wanted there.
func (f *File) Quoted(u Use) bool { return u.Base != NoExpr && f.Exprs[u.Base].Kind == Keyed }

// Takes says whether a call with so many arguments, counted as in
// Use.Arguments, suits the definition, as far as is known.
func (d *Def) Takes(arguments int) bool {
	return d.Parameters == 0 || arguments == 0 || arguments == d.Parameters || d.Variadic && arguments >= d.Parameters-1
}

// Imported is one thing an import brings in.
type Imported struct {
	// Path is the package or module, as written.
	Path string
	// Name is the name in that module, "" for the module as a whole and "*"
	// for all its names.
	Name string
	// Alias is the name it has here; "" where the language derives it.
	Alias string
	// At is the path in the text.
	At place.Range
	// Level counts the dots in front of a relative import.
	Level int
}

// ModuleNames are the names under which others may know the module by its path: what stands
// behind the last slash, up to the first dot of it, and behind the last dot.
func (i *Imported) ModuleNames() (file, last string) {
	file = i.Path[strings.LastIndexAny(i.Path, `/\`)+1:]
	last = file[strings.LastIndexByte(file, '.')+1:]
	file, _, _ = strings.Cut(file, ".")
	return file, last
}

// ExprKind tells what an expression is made of.
type ExprKind uint8

// The kinds of expressions. Those whose name ends in Of are types.
const (
	NoExprKind ExprKind = iota
	Name                // a bare name
	Member              // Base.Name
	CallOf              // Base(Args)
	Value               // a value of type Base: a literal of a type, a conversion
	Index               // Base[...]
	Each                // what iterating over Base yields
	EachKey             // the keys that iterating over Base yields
	Awaited             // the value that Base promises
	Literal             // a value of the built-in type Name
	Func                // a function without a name, whose result is Base, or what Args[0] is
	Given               // what Base, when it is called, gives to parameter Part of the function that is its argument Arg; Args are those before it
	Taken               // the type of argument Arg of Base, when it is called, where a type is wanted; Args are those before it
	OneOf               // the value of one of Args
	TypeOf              // the type of the value Base, where a type is wanted
	ModuleOf            // the module that is imported under the path Name
	Joined              // what an operator makes of Args: text, or the larger kind of number
	Shape               // a type or value without a name; its members are in the scope that begins where it does
	ListOf              // many values of type Base
	MapOf               // values of type Base, found by keys of type Args[0]
	FuncOf              // a function from Args to Base
	TupleOf             // values of the types Args
	GenericOf           // Base with the type arguments Args
	EitherOf            // one of the types Args
	Own                 // the type around it, also where a value of it is meant
	PartOf              // number Part of the values that Base gives together
	Labelled            // the argument Base, given to the parameter Name
	PropsOf             // what the component Base is given by attributes, or the element Name of a page if there is none
	KeyOf               // the name of a member of the type Base, as a type
	Keyed               // what the name that stands between quotes is a member of, if the type Base that is wanted there is such a KeyOf; else it names nothing
	WantedOf            // the parameter Part of a function that begins where it does, by the type that is expected there
)

// Expr is an expression as far as it helps to find out a type.
type Expr struct {
	Kind ExprKind
	// Arg and Part count from 0; see Given.
	Arg, Part uint8
	Name      string
	Base      ExprID
	Args      []ExprID
	Scope     ScopeID
	At        place.Range
}

// ScopeAt returns the innermost scope that holds the offset.
func (f *File) ScopeAt(offset int) ScopeID {
	best := ScopeID(0)
	// Scopes begin in order and nest, so the last one that holds the offset is
	// the innermost.
	n := sort.Search(len(f.Scopes), func(i int) bool { return int(f.Scopes[i].At.Start) > offset })
	for i := n - 1; i > 0; i-- {
		if f.Scopes[i].At.Holds(offset) {
			best = ScopeID(i)
			break
		}
	}
	return best
}

// DefAt returns the definition whose name stands at the offset, or NoDef.
func (f *File) DefAt(offset int) DefID {
	n := sort.Search(len(f.Defs), func(i int) bool { return int(f.Defs[i].At.Start) > offset })
	for i := n - 1; i >= 0 && i >= n-8; i-- {
		if f.Defs[i].At.Len() > 0 && f.Defs[i].At.Holds(offset) {
			return DefID(i)
		}
	}
	return NoDef
}

// DefNamed is DefAt for the definition of a name: where a macro stands for several
// things, all of them are defined where it does.
func (f *File) DefNamed(offset int, name string) DefID {
	n := sort.Search(len(f.Defs), func(i int) bool { return int(f.Defs[i].At.Start) > offset })
	for i := n - 1; i >= 0 && i >= n-8; i-- {
		if f.Defs[i].Name == name && f.Defs[i].At.Len() > 0 && f.Defs[i].At.Holds(offset) {
			return DefID(i)
		}
	}
	return NoDef
}

// UseAt returns the use whose name stands at the offset, and whether there is
// one. A use that begins there goes before one that ends there.
func (f *File) UseAt(offset int) (Use, bool) {
	n := sort.Search(len(f.Uses), func(i int) bool { return int(f.Uses[i].At.Start) > offset })
	for i := n - 1; i >= 0 && i >= n-8; i-- {
		if f.Uses[i].At.Holds(offset) {
			return f.Uses[i], true
		}
	}
	return Use{}, false
}

// Around returns the definitions that are not local and whose full text holds
// the offset, from the outermost to the innermost.
func (f *File) Around(offset int) []DefID {
	n := f.nesting.of(f)
	i := sort.Search(len(n.all), func(i int) bool { return int(f.Defs[n.all[i]].Full.Start) > offset }) - 1
	var around []DefID
	for ; i >= 0; i = n.outer[i] {
		if id := n.all[i]; offset <= int(f.Defs[id].Full.End) {
			around = append(around, id)
		}
	}
	slices.Sort(around)
	return around
}

// Outlined says whether the definition is one of those that an overview of
// the file names: not a parameter, nor what an import brings in.
func (d *Def) Outlined() bool {
	switch d.Kind {
	case Parameter, TypeParameter, Import, Package, Label:
		return false
	}
	return d.Name != "" && d.Name != "_" && !d.Echo
}

// Symbols returns the definitions by which people look for code: those in the
// outline that are not local to a function, or that are inner ones.
func (f *File) Symbols() []DefID {
	var out []DefID
	for i := range f.Defs {
		if d := &f.Defs[i]; d.Outlined() && (!f.Local(d) || f.Inner && f.isInner(d)) {
			out = append(out, DefID(i))
		}
	}
	return out
}

// isInner says whether a local definition is one of a function or a type, or of a function in such a type.
func (*File) isInner(d *Def) bool {
	return d.Kind == Class || d.Kind.IsCallable()
}

// Qualified is the name of the definition behind that of its container.
func (d *Def) Qualified() string {
	if d.Container == "" {
		return d.Name
	}
	return d.Container + "." + d.Name
}
