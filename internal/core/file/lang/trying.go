package lang

import (
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/report"
)

// Trying is how code is tried: what files propose to be run, and how tests are run.
type Trying struct {
	// Proposing are names of files that propose commands, and Propose reads one.
	Proposing []string
	Propose   func(name string, text []byte) []Command
	// Runners run tests, the one that is taken first in front.
	Runners []Runner
	// IsTest says whether a definition is a test, or holds tests; head is what stands in front of its name, with the attributes on
	// the lines above. A definition that is one by its kind need not be asked about. nil where there are no others.
	IsTest func(d *facts.Def, head []byte) bool
}

// NoTrying is for what is neither run nor tested.
var NoTrying = &Trying{}

// Command is a command line that a file proposes, for the folder it lies in.
type Command struct {
	Line string
	// What says what it does, as the file has it; "" if it does not say.
	What string
}

// Runner is a program that runs tests.
type Runner struct {
	// Name is what people call it.
	Name string
	// Program is what has to be there: a program, or a file in the folder in which it is run, if it begins with "./".
	Program string
	// Marks are files one of which lies in the folder in which it is run; the nearest around the tests is taken.
	Marks []string
	// Anywhere says that it is run in the folder of the project where none of the marks is found.
	Anywhere bool
	// ByName says that files cannot be chosen, so that all tests in them are named.
	ByName bool
	// Suits says whether the tests of a file are written for it, given what the file that was found of Marks says; Always for all.
	Suits func(test, mark []byte) bool
	// Command is what runs tests.
	Command func(TestsWanted) []string
	// Form is that of what it prints, if that is its report; Reports are otherwise where it writes reports, as a pattern of names
	// from the folder in which it is run; "" for the file that it is told.
	Form    report.Form
	Reports string
}

// Always suits all tests.
func Always([]byte, []byte) bool { return true }

// TestsWanted are the tests that are to be run.
type TestsWanted struct {
	// Files are those with the tests, from the folder in which they are run; Folder is the one that is wanted as a whole, if Files
	// is empty.
	Files  []string
	Folder string
	// Tests are the names of the tests that are wanted, each with those of what is around it, from the outside in, by the number of
	// its file in Files; none for all.
	Tests []TestName
	// Report is where the report is to be written, as an absolute path.
	Report string
}

// TestName is the name of a test.
type TestName struct {
	File int
	// Names are the names of what is around it, and its own.
	Names []string
}
