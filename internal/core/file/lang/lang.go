// Package lang says what is to be known of a language: which files are written
// in it, how to get facts from their text, how its names are looked up, and
// where its imports lead. Each language has a folder of its own below, with one
// value that holds all of it; nothing outside of these folders knows a language
// by its name.
package lang

import (
	"context"
	"fmt"
	"strings"
	"unicode"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/shared"
	"rooktrail/internal/core/file/syntax"
)

// Extractor reads the facts from the text of one file. Broken syntax is not an
// error: it gives what can be had.
type Extractor func(ctx context.Context, text []byte) (*facts.File, error)

// Cutter reads the ranges of parts of a text, those with others inside them as
// well, in no particular order. Broken syntax gives what can be had.
type Cutter func(ctx context.Context, text []byte) ([]place.Range, error)

// Language is all that is known of one. Every field has to be said, since what
// is forgotten would be a wrong answer without a word: a test fails for a zero
// value. For what a language does not have there are values that say so, such
// as No, None and NoImports.
type Language struct {
	// Name is what people call it. Languages that differ only in their files may
	// share one.
	Name string
	// Family is shared by the languages that can name each other's things.
	Family string
	Files  Files
	// Facts reads a file.
	Facts Extractor
	// Pieces reads where the expressions, statements and other parts of a file
	// stand.
	Pieces Cutter
	// Wrong is what can be told to be wrong in its files.
	Wrong Wrong
	// Shorthands reads where a name stands for a member and for the value of the
	// same name at once, as in { depth }.
	Shorthands Cutter
	// Shared finds the names that its files have in common with those of other languages; shared.Nothing where there are none.
	Shared shared.Reader
	// Signs are those of comments and strings.
	Signs *lexical.Signs
	Names Names
	// Keywords are words in front of a round bracket that call nothing.
	Keywords Words
	Tests    Tests
	// Generated is how files are known that a program has written.
	Generated Generated
	// Code says that it holds code, whose names are resolved, and not data or
	// prose.
	Code    Says
	Scopes  Scopes
	Members Members
	Types   Types
	Values  Values
	Outside Outside
	// Imports finds what its imports lead to, in one project.
	Imports func(Project) Imports
	// Surroundings know what files say of others; NoSurroundings where they say nothing.
	Surroundings func(*Language, Project) Surroundings
	// Importing changes what its files import.
	Importing Importing
	// Checker asks a compiler.
	Checker Checker
	// Units asks a compiler about files one by one.
	Units Units
	// Structure is how its code is built.
	Structure *Structure
	// Mending is how its code is mended.
	Mending *Mending
	// Trying is how its code is run and tested.
	Trying *Trying
	// Format puts a text into the form that is usual for all who write the
	// language; an error if the text is not well formed.
	Format func(text []byte) ([]byte, error)
}

// Wrong is what can be told for sure to be wrong in the files of a language. A false alarm costs more than a miss.
type Wrong struct {
	// Syntax finds where a text does not follow the rules of the language; NoSyntax where that cannot be told from the text
	// alone.
	Syntax func(ctx context.Context, text []byte) ([]syntax.Fault, error)
	// Bare says whether a name with nothing in front of it is wrong if nothing defines it; NoBare where that cannot be told.
	Bare func(u facts.Use, text []byte) bool
	// Wanting says whether a name is wrong that means nothing but what could be imported; NoWanting where that cannot be told, or
	// Bare tells.
	Wanting func(u facts.Use, text []byte) bool
	// Leads says whether an import has to lead to a file of the project; NoLeads where that cannot be told.
	Leads func(i facts.Imported, text []byte) bool
	// Unused says that an import is wrong that nothing uses, Slips that a name is that nothing defines and that is but a letter away
	// from another.
	Unused, Slips Says
}

// NoBare, NoWanting and NoLeads are for what cannot be told; AllWanting is for names that are all known.
var (
	NoBare     = func(facts.Use, []byte) bool { return false }
	NoWanting  = func(facts.Use, []byte) bool { return false }
	AllWanting = func(facts.Use, []byte) bool { return true }
	NoLeads    = func(facts.Imported, []byte) bool { return false }
)

// NoSyntax finds nothing.
func NoSyntax(context.Context, []byte) ([]syntax.Fault, error) { return nil, nil }

// OnlySyntax is for languages in which nothing is told to be wrong but that they cannot be read.
func OnlySyntax(find func(ctx context.Context, text []byte) ([]syntax.Fault, error)) Wrong {
	return Wrong{Syntax: find, Bare: NoBare, Wanting: NoWanting, Leads: NoLeads, Unused: No, Slips: No}
}

// ID is what the Language Server Protocol calls a language, for nearly all: its name in small letters, without signs.
func (l *Language) ID() string {
	return strings.NewReplacer("+", "p", "#", "sharp").Replace(strings.ToLower(l.Name))
}

// Read reads all facts of a file, with the names that it shares with others.
func (l *Language) Read(ctx context.Context, text []byte) (*facts.File, error) {
	f, err := l.Facts(ctx, text)
	if err == nil {
		f.Shared = shared.Sort(l.Shared(text, f))
	}
	return f, err
}

// Says is an answer that has to be given.
type Says uint8

// The answers.
const (
	unsaid Says = iota
	No
	Yes
)

// Is turns it into a truth value.
func (s Says) Is() bool { return s == Yes }

// Files are those of a language.
type Files struct {
	// Extensions have the dot, in small letters; Names are those of files that
	// need none.
	Extensions, Names []string
	// Front are the files in which a folder says what it is for, the likeliest
	// first; * stands for the name of the folder.
	Front []string
	// Halves are what a file of one name and several endings may be half of.
	Halves []Half
	// Tops are files at the top of a module or package.
	Tops []string
	// Installed are folders in which its tools put what others have written.
	Installed []string
}

// Half is a part that a thing kept in several files of one name has in files
// with some endings, such as the style of a component.
type Half struct {
	// Of is the kind of thing, Part which part of it; files of different parts are
	// halves of each other.
	Of, Part string
	Endings  []string
}

// Names are what the names are like that one gives to things.
type Names struct {
	// Reserved are words that no name may be.
	Reserved Words
	// Also are the characters that names may have besides letters, digits and _; NoLetters for none.
	Also string
	// Argument stands behind the name of a parameter where a call says which argument is for which; NoLetters where
	// none can.
	Argument string
	// Overrides is the word in front of a method that says that it overrides another; NoLetters where there is none.
	Overrides string
	// Files says how the names of files go with what is in them.
	Files Following
}

// NoLetters says that there are none: no others in names, or no such sign or word.
const NoLetters = " "

// FreeNames are names that may be anything that a word may be, and -.
var FreeNames = Names{Reserved: Words{}, Also: "-", Argument: NoLetters, Overrides: NoLetters, Files: NoFiles}

// Following says how the name of a file goes with that of the type in it.
type Following uint8

// How it goes.
const (
	_          Following = iota
	NoFiles              // not at all
	MayFollow            // by habit, if they are the same
	MustFollow           // the file of a type that all may name is called as it is
)

// Allows says whether something may have a name; if not, why.
func (n *Names) Allows(name string) (why string, ok bool) {
	for i, r := range name {
		if r != '_' && !unicode.IsLetter(r) && (i == 0 || !unicode.IsDigit(r)) && (!strings.ContainsRune(n.Also, r) || r == ' ') {
			return fmt.Sprintf("a name cannot hold %q here", r), false
		}
	}
	switch {
	case name == "":
		return "it needs a name", false
	case n.Reserved[name]:
		return name + " is a word of the language", false
	}
	return "", true
}

// Tests are how those of a language are named.
type Tests struct {
	// Files are patterns for the names of files that hold nothing but tests; see
	// path.Match. Capitals count in those that have any.
	Files []string
	// Functions are what the names of functions that are tests begin with.
	Functions []string
}

// The values for what a language does not have.
var (
	// None is no word.
	None = []string{}
	// NoHalves is for files that are whole.
	NoHalves = []Half{}
	// NoTests is for what is not tested.
	NoTests = Tests{Files: None, Functions: None}
)

// NoCuts is a Cutter for languages without such parts.
func NoCuts(context.Context, []byte) ([]place.Range, error) { return nil, nil }

// AsWritten leaves a text in the form it has.
func AsWritten(text []byte) ([]byte, error) { return text, nil }
