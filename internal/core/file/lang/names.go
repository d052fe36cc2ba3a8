package lang

import (
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// Words are some, to be looked up.
type Words map[string]bool

// WordsOf are those in a list with blanks between them.
func WordsOf(list string) Words {
	w := Words{}
	for _, word := range strings.Fields(list) {
		w[word] = true
	}
	return w
}

// Sees is what the code of a file can name without importing it, beside what
// the file itself defines.
type Sees uint8

// What files see.
const (
	_            Sees = iota
	SeesItself        // nothing else
	SeesFolder        // the files in the same folder that say the same package
	SeesTypes         // the types of the package that it says it belongs to
	SeesPackage       // all that belongs to the same package or namespace, in whatever file
	SeesProject       // what all files of the project have on their outermost level
	SeesIncludes      // what the files define that it includes, and those they include
	SeesModules       // nothing else; each part of a file between braces that is a module sees itself alone, and others by paths
)

// Scopes are how names are looked up that have nothing in front of them.
type Scopes struct {
	Sees Sees
	// Implied are packages whose names are known everywhere.
	Implied []string
	// Paths are what paths of names are made of, where that is SeesModules; where there
	// are only namespaces, it is what stands between their names.
	Paths Paths
	// Namespaces says that namespaces may be opened again and again, in one file
	// and in those that it includes.
	Namespaces Says
	// ClassSpaces says that a class is a namespace for its constants, classes among
	// them.
	ClassSpaces Says
	// TagsApart says that the name of a structure is none without the word for it.
	TagsApart Says
	// CallsApart says that what is called and what has a value may share a name.
	CallsApart Says
	// Shared says that types and values may share a name.
	Shared Says
	// Relative says that the path of an import may begin with any name that is known
	// where it stands.
	Relative Says
	// Again says that a name that a scope defines again is still the same thing.
	Again Says
	// Builtin are the names that the language itself defines.
	Builtin Words
	// Builds tells which files belong to a build.
	Builds Builds
}

// Paths are what paths to names are made of.
type Paths struct {
	// Between stands between the names of a path, As before another name that an import
	// gives to what it leads to.
	Between, As string
	// Root is the module with which a package begins, and so is RootInMacro; Above
	// is the module around, Here the module itself.
	Root, RootInMacro, Above, Here string
	// Library is the package whose macros are known everywhere, Prelude the module
	// of it all of whose names are.
	Library, Prelude string
	// Declared stands in front of a module that is said to have a file of its own.
	Declared string
}

// NoPaths is for languages without them.
var NoPaths = Paths{}

// Named is where code can name members without anything in front of them.
type Named uint8

// Where members are named so.
const (
	_         Named = iota
	Qualified       // nowhere
	InBody          // in the body of a class, but in no function in it
	Anywhere        // in all code inside a type, and those that the type inherits
)

// Apart is where members may stand that are written outside of their type.
type Apart uint8

// Where members stand.
const (
	_          Apart = iota
	Within           // in their type only
	InPackage        // in the files of the same folder
	InFile           // in the same file; what they belong to may be a value
	Everywhere       // in any file
)

// Members are how names are looked up that stand behind a value or a type.
type Members struct {
	// Reached is what may stand between a value or a type and a member of it.
	Reached []string
	// Self are the names by which the inside of a type names it, Super those for
	// the type that it is derived from; a word that is Super alone is a function.
	Self, Super Words
	Named       Named
	Apart       Apart
	// Overloads says that members of one name are told apart by their parameters.
	Overloads Says
	// Constructors are the names of what makes a value of a type, beside the name of
	// the type itself.
	Constructors []string
	// Prototypes says that functions are values to which any code may give members.
	Prototypes Says
	// Root is the full name of the type that all others are derived from, with what
	// its members are called; Everyone is empty if there is none.
	Root     string
	Everyone Words
	// OfLists are the members of lists that no definition stands for, with their
	// types.
	OfLists map[string]string
	// Gives is the name of the value that a module gives to those who need it; ""
	// if it gives all its names.
	Gives func(text []byte) string
}

// GivesNames is for modules that give all their names.
func GivesNames([]byte) string { return "" }

// Types are how types relate.
type Types struct {
	// Satisfied says that a type implements an interface by having its methods,
	// without saying so.
	Satisfied Says
	// Private says whether a method of that name can only be implemented by types of
	// the same package.
	Private func(name string) bool
	// Written says that where no type is written, there is none.
	Written Says
	// DerivedApart says that a type may be said to be derived from another one away
	// from its definition.
	DerivedApart Says
	// Transparent are generic types that have the members of their first argument.
	Transparent Words
	// KeysFirst are the methods of maps whose function gets the key first.
	KeysFirst Words
}

// Values are how values come to be of a type where they need not say so.
type Values struct {
	// Passed says that they need not, so that a parameter is of the type of what is passed for it.
	Passed Says
	// Itself are the names by which the functions of a class call the class itself.
	Itself []string
	// Known are the members of the types of the language itself, by their names, where all of them are known.
	Known map[string]Words
	// Holds are those of them that hold others.
	Holds Words
	// Gives are what functions of the language and its library give, by their names.
	Gives map[string]Result
	// Components are the parts of a page, which are given values by attributes.
	Components Components
	// Whole are the functions that give the function behind them the very value that they are called on.
	Whole Words
	// Bare says that to call a function and to name a property are written alike.
	Bare Says
	// Makers are the methods of a type by which values of it are made, where these are called something else than its
	// constructors.
	Makers Words
	// Stub is put behind the path of a file for that of another one which only declares types for it; NoLetters for none.
	Stub string
	// Pairs are those that hold others of which keys and values come together when one goes through them.
	Pairs Words
	// Together are the generic types of several values of different types.
	Together Words
	// Iterators are the methods by which one goes through what a type holds.
	Iterators []Iterator
}

// Declared is for languages in which values say of which type they are, or where that is not looked at.
var Declared = Values{Passed: No, Itself: None, Known: map[string]Words{}, Holds: Words{}, Gives: map[string]Result{}, Components: NoComponents, Pairs: Words{}, Whole: Words{}, Bare: No, Makers: Words{}, Together: Words{}, Stub: NoLetters,
	Iterators: []Iterator{}}

// Components are known by the types and functions of a library: which of their type arguments, counted from 0, says what a
// component is given.
type Components struct {
	// Types are those of components, Makers the functions that make one of a function or of another component.
	Types, Makers map[string]int
	// Members are those that a component has of its own, by the type arguments of the class that it is derived from.
	Members map[string]int
	// Elements is the type whose members are the elements of a page, Of the types that stand for what a component is given.
	Elements string
	Of       Words
	// Anyway are the attributes that each component may have.
	Anyway Words
}

// NoComponents is for languages without them.
var NoComponents = Components{Types: map[string]int{}, Makers: map[string]int{}, Members: map[string]int{}, Elements: NoLetters, Of: Words{},
	Anyway: Words{}}

// Result says what a function of a library gives.
type Result struct {
	What Given
	// Argument is the one that it is about, counted from 0.
	Argument int
	// Name is that of the type that it gives, Keys says that of a map it takes the keys.
	Name string
	Keys bool
}

// Given is how what a function gives follows from its arguments.
type Given uint8

// How it follows.
const (
	AType         Given = iota // always of one type
	TheSame                    // the argument
	AnElement                  // one of what it holds
	ListOfThem                 // all of what it holds
	Numbered                   // each of what it holds behind its number
	SideBySide                 // what all arguments hold, one of each at a time
	ListOfResults              // what the argument makes of others
	MapOfResults               // the same, by keys
	Written                    // the type that is written behind it
	Holding                    // what holds the arguments, or values of the types that are written behind it
)

// Iterator is a method by which one goes through what a type holds: it gives one after the other, or, with Steps, what
// gives them.
type Iterator struct {
	Method string
	Steps  bool
}

// Outside is what code outside of the project may do with its names.
type Outside struct {
	// Unused says that a definition to which nothing refers may be one too many.
	Unused Says
	// Visible says whether other code can name a symbol.
	Visible func(Symbol) bool
	// Entries are the names that are used from outside of all code.
	Entries Words
	// Called are methods that the library of the language is likely to call, each
	// with a slash and how many parameters it has, or without, for any number.
	Called Words
	// Marks begin what may stand before a definition so that something finds it by
	// that; Unmarked are those among them that say nothing of the kind.
	Marks, Unmarked []string
}

// Symbol is a definition, with what can be seen of it in its file.
type Symbol struct {
	*facts.Def
	// Path is that of the file, Package the one it says it belongs to.
	Path, Package string
	// Modifiers are the words in front of the name.
	Modifiers []string
}

// Has says whether one of the words stands in front of the name.
func (s Symbol) Has(words ...string) bool {
	return slices.ContainsFunc(s.Modifiers, func(m string) bool { return slices.Contains(words, m) })
}

// The values of a language without code, whose names are those of the file
// alone.
var (
	PlainScopes = Scopes{Sees: SeesItself, Implied: None, Paths: NoPaths, Namespaces: No, ClassSpaces: No, TagsApart: No, CallsApart: No,
		Shared: No, Relative: No, Again: No, Builtin: Words{}, Builds: AllBuilt{}}
	PlainMembers = Members{Reached: None, Self: Words{}, Super: Words{}, Named: Qualified, Apart: Within, Overloads: No, Constructors: None, Prototypes: No,
		Root: NoRoot, Everyone: Words{}, OfLists: map[string]string{}, Gives: GivesNames}
	PlainTypes   = Types{Satisfied: No, Private: NonePrivate, Written: No, DerivedApart: No, Transparent: Words{}, KeysFirst: Words{}}
	PlainOutside = Outside{Unused: No, Visible: func(Symbol) bool { return true }, Entries: Words{}, Called: Words{}, Marks: None, Unmarked: None}
)

// Data completes what is said of a language that holds data or prose, or code whose
// names mean something in their file alone: of all that is not said of it, it has
// nothing, and its imports are paths.
func Data(l Language) *Language {
	if l.Code == unsaid {
		l.Code = No
	}
	if l.Imports == nil {
		l.Imports = Beside
	}
	if l.Generated.Says == nil {
		l.Generated = Generated{Files: None, Says: SaysGenerated}
	}
	if l.Trying == nil {
		l.Trying = NoTrying
	}
	l.Family, l.Shorthands, l.Names, l.Keywords, l.Tests = l.Name, NoCuts, FreeNames, Words{}, NoTests
	l.Scopes, l.Members, l.Types, l.Outside = PlainScopes, PlainMembers, PlainTypes, PlainOutside
	l.Values = Declared
	l.Surroundings, l.Importing, l.Checker, l.Units, l.Structure, l.Mending, l.Format = NoSurroundings, NoImporting, NoChecker, NoUnits, NoStructure, NoMending, AsWritten
	return &l
}

// NonePrivate is for languages in which every method can be implemented anywhere.
func NonePrivate(string) bool { return false }

// NoRoot is for languages whose types have no common root.
const NoRoot = "-"

// Builds tells which files of a project belong to one build.
type Builds interface {
	// Condition is under which condition a file belongs to a build; files with the
	// same one belong together. said is what the file says about it.
	Condition(file, said string) string
	// Here says whether a file belongs to a build for the system this runs on.
	Here(file, said string) bool
}

// AllBuilt is for languages whose files all belong to every build.
type AllBuilt struct{}

// Condition implements Builds.
func (AllBuilt) Condition(string, string) string { return "" }

// Here implements Builds.
func (AllBuilt) Here(string, string) bool { return true }
