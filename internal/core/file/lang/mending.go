package lang

import "rooktrail/internal/core/file/place"

// Mending is how code of a language is mended.
type Mending struct {
	// Lacking reads of what a compiler says which type lacks the methods of which interface; ok is false if it says something else.
	// nil where compilers are not asked.
	Lacking func(said string) (typ, iface string, ok bool)
	// Stub writes a method that does nothing yet; nil where none is written. Of it, Head is the beginning of the method as it is
	// declared, without its body; Type is that of the type that is to have it, Indent what the members of that stand in by.
	Stub func(s Stub) string
	// Inside says that methods stand in the type they belong to, and not behind it.
	Inside bool
	// Spare reads of what a compiler says that a variable is not used; nil where none says that.
	Spare func(said string) (name string, ok bool)
	// Drop gives the edits by which a variable that nothing uses goes, whose name stands at an offset; ok is false if that cannot be
	// told. What gives it a value stays if it may do something.
	Drop func(text []byte, at int) (edits []Replaced, ok bool)
	// Failing gives what can be done about a call, around an offset, whose last result says whether it failed and is not looked at;
	// signature is the beginning of the function that is called, as it is written. Several, the best first; none if there is nothing.
	Failing func(text []byte, at int, signature string) []Handling
	// Calls gives where the name of what is called stands in the call around an offset that is a statement, or gives its results
	// names; ok is false if there is none. nil where it is not the custom to look whether calls have failed.
	Calls func(text []byte, at int) (name place.Range, ok bool)
}

// NoMending is for languages of which code is mended by names and imports alone.
var NoMending = &Mending{}

// Stub is a method that is to be written.
type Stub struct {
	Type, Name, Head, Indent string
	// From is the package in which it is declared, as it is named where it is to stand; "" for the same.
	From string
	// Text is that of the file with the type, from which one sees how its other methods are written.
	Text []byte
}

// Replaced is a part of a text that is to read otherwise.
type Replaced struct {
	At  place.Range
	New string
}

// Handling is what can be done about a call that may fail.
type Handling struct {
	Title string
	Edits []Replaced
	// Imports are what has to be imported for it, if that is not yet.
	Imports []string
}
