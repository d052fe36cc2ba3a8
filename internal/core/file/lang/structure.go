package lang

import (
	"strings"

	"rooktrail/internal/core/file/syntax"
)

// Structure is how code of a language is built, as far as one has to know it to take a part of it out and put another
// one in its place.
type Structure struct {
	// Grammar reads a text; nil says that parts of code of the language are not moved.
	Grammar *syntax.Grammar
	// Parts says what the nodes of the grammar are, by their types.
	Parts map[string]Part
	// Once are the fields of a loop that are evaluated once, before it begins.
	Once Words
	// Self are the types of the nodes that stand for what a method was called on, without being a variable.
	Self Words
	// Numbers are types whose values become those of another one by themselves.
	Numbers Words
	// Own are names that mean something of the function that they are used in.
	Own Words
	// Place says whether a node stands for a place in what is around it, and not for the value that is there: it is
	// written, or its address is taken.
	Place func(around, node syntax.Node) bool
	// Typed says that what a function takes has to have types that are written.
	Typed bool
	// Plainly is the type of a value that says it by itself, such as a number; "" for others. nil where it is not needed.
	Plainly func(n syntax.Node) string
	// Around says whether a value has types only from where it stands, so that it has others elsewhere; nil where none has.
	Around func(n syntax.Node) bool
	// Type is how the type of an expression is written, as far as that can be told from the types that are declared:
	// declared gives that of what a name means, or what a name gives that is called. nil where no types are needed.
	Type func(n syntax.Node, declared func(name syntax.Node) string) string
	// Writer writes code.
	Writer Writer
}

// NoStructure is for languages no parts of whose code are moved.
var NoStructure = &Structure{}

// Part is what a node of a syntax tree is; it can be several things.
type Part uint64

// What nodes are.
const (
	Value     Part = 1 << iota // gives a value
	Loose                      // needs brackets around it among others
	Plain                      // evaluating it does nothing, and cannot fail, if the same holds for what is in it
	Short                      // what is in it behind the first may not be evaluated
	Reach                      // goes into its first part, as a.b and a[b] do
	Statement                  // is a statement
	Block                      // holds statements
	Function                   // is run when it is called
	Loop                       // is run again and again
	Choice                     // is what a break leaves, besides a loop
	Branch                     // goes one of several ways
	Holder                     // holds functions
	Returns                    // leaves the function
	Throws                     // leaves it with an error
	Breaks                     // leaves a loop or choice
	Continues                  // goes on with the next turn of a loop
	Jumps                      // goes elsewhere, or has to do with the function that it is in
	Awaits                     // waits
	Invokes                    // calls something
	Literal                    // is a text in which blanks count
	Splice                     // stands for several arguments
	ByName                     // is an argument with its name
	Parameter                  // is a parameter
	Many                       // is a parameter that stands for any number of arguments
	Optional                   // is a parameter that may be left out
	Name                       // is a name that stands for itself
	Member                     // names something in what stands in front
	Brackets                   // is another value in brackets
	Several                    // is several values, or one of what could be several
	Composite                  // makes a value of values in braces
	Untyped                    // has its type only from where it stands
	Later                      // is decided by what stands behind its first part
	Open                       // is a function that has the self of what is around it
	Gives                      // gives the variables in it their values
	Alone                      // is a statement that is one value
	Ends                       // is a statement that ends with the sign for it, if there is one
	Tries                      // is where errors are caught
	Clause                     // is one of several ways, each with its condition
	Else                       // is the way that is left
	Finally                    // is what is done whichever way one goes
	Nothing                    // is the value of all types that stands for none
	Delegates                  // calls another constructor of the same object
)

// PartsOf turns types of nodes, by what they are and separated by blanks, into what each type is.
func PartsOf(types map[Part]string) map[string]Part {
	all := map[string]Part{}
	for part, names := range types {
		for name := range strings.FieldsSeq(names) {
			all[name] |= part
		}
	}
	return all
}

// Of is what a node is.
func (s *Structure) Of(n syntax.Node) Part { return s.Parts[n.Type()] }

// Is says whether a node is one of some things.
func (s *Structure) Is(n syntax.Node, any Part) bool { return s.Of(n)&any != 0 }

// Variable is one that is written into code.
type Variable struct {
	Name string
	// Type is how its type is written; "" where the language needs none, or it is not known.
	Type string
	// Constant says that the value has no type yet, so that a variable might get another one than it has where it
	// stands.
	Constant bool
	// New says that it is not there before, Changes that another value is given to it later.
	New, Changes bool
	// Address says that it is handed over by its address.
	Address bool
}

// Routine is a function to be written, and the call of it.
type Routine struct {
	Name string
	// Method says that it belongs to the type that the one does from which it was taken; Static that it is called
	// on no value of it. Receiver is what that one says of the value it is called on, as it is written, On what that
	// is called inside.
	Method, Static bool
	Receiver, On   string
	// Generic are its type parameters as they are written, with their brackets, and Types their names.
	Generic string
	Types   []string
	// Marks is what stands in front of the one it was taken from and must stand in front of it, too.
	Marks string
	// Throws says what errors it may leave with, where the language wants that.
	Throws string
	Awaits bool
	// Params are what it takes, Results what it gives back.
	Params, Results []Variable
	// Body are its lines, without indentation; Gives is how the type of what its own return statements give is written,
	// if Returns says that it is left by these alone, or its body is a value.
	Body    string
	Returns bool
	Gives   string
	// Indent is one step of indentation, End the sign behind a statement.
	Indent, End string
}

// Writer writes code of a language. What it writes has no indentation but that of its lines among each other.
type Writer interface {
	// Variable declares one with a value; with none if value is "".
	Variable(v Variable, value, end string) string
	// Routine writes a function, Call the call of it, and Take the statement that calls it and takes what it gives.
	Routine(r *Routine) string
	Call(r *Routine) string
	Take(r *Routine) string
	// Return gives some variables back.
	Return(values []Variable, end string) string
	// Argument is how an argument is written that is given by the name of its parameter; "" if there is no such thing.
	Argument(name, value string) string
	// Wrap puts statements where there is room for one alone; behind them a value is given, if it is not "".
	Wrap(statements, value, indent string) string
	// Blank is how many lines stand between functions that are not methods, and between methods.
	Blank(method bool) int
}

// Kept stands at the beginning of a line whose blanks count, so that it gets no others.
const Kept = "\x00"

// Lines puts indentation in front of all lines of a text that are not empty, but for those that are kept as they are.
func Lines(text, indent string) string {
	lines := strings.Split(text, "\n")
	for i, l := range lines {
		if l != "" && !strings.HasPrefix(l, Kept) {
			lines[i] = indent + l
		}
	}
	return strings.Join(lines, "\n")
}

// NamesOf are the names of variables, with commas between them.
func NamesOf(all []Variable) string {
	names := make([]string, len(all))
	for i, v := range all {
		names[i] = v.Name
	}
	return strings.Join(names, ", ")
}
