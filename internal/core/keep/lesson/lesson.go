// Package lesson is short lessons in the use of the program: tasks, each with how the screen looks when it is
// done, whatever keys were pressed for it; and how far one came with them.
package lesson

import "slices"

// Screen is what is on the screen and around it, as far as tasks ask for it.
type Screen struct {
	// Path is the file that is shown, Line that of the caret, counted from 1; Text is that line, and
	// Symbol the innermost symbol the caret is in.
	Path   string
	Line   int
	Text   string
	Symbol string
	// Has says whether the file that is shown holds some words.
	Has func(words string) bool
	// Over is what lies over the code, by its name on the page of keys; Leaf the file that is laid beside it;
	// "" for nothing.
	Over, Leaf string
	// Writing says that letters are typed, Unsaved how many files are not saved.
	Writing bool
	Unsaved int
	// Found says that places of a text are marked, Folded that something is folded; Views is how many views there
	// are, Full whether only one of them is shown, and Palette what the palette is called.
	Found, Folded bool
	Full          bool
	Views         int
	Palette       string
	// Marks are the bookmarks, Noted how many have a note.
	Marks []Mark
	Noted int
	// Swept is how many places the present sweep has, Ticked how many of them are done.
	Swept, Ticked int
}

// Mark is where a bookmark is.
type Mark struct {
	Path string
	Line int
}

// atMark says whether the caret is on a line with a bookmark.
func (s *Screen) atMark() bool { return slices.Contains(s.Marks, Mark{s.Path, s.Line}) }

// Task is one thing to do.
type Task struct {
	// Do says what is to be done, Hint how, for who does not find it; keys stand in both as the names of their
	// actions in braces.
	Do, Hint string
	// Begin is where the task begins, if one takes up the lesson with it, in the demo.
	Begin Begin
	// Done says whether it is done, from how the screen looked when the task began and looks now.
	Done func(first, now *Screen) bool
}

// Begin is a place of the demo. Line and Col are counted from 1, Col in bytes.
type Begin struct {
	Path      string
	Line, Col int
}

// Lesson is a few tasks that belong together.
type Lesson struct {
	// Name is by what it is kept and asked for, Title what it is about.
	Name, Title string
	// Anywhere says that any project will do; else it is about the demo.
	Anywhere bool
	// Whole says that each task builds on the one before, so that it is begun anew by who stopped in it.
	Whole bool
	Tasks []Task
}

// Named finds a lesson; ok is false if there is none of that name.
func Named(name string) (l Lesson, ok bool) {
	all := All()
	i := slices.IndexFunc(all, func(l Lesson) bool { return l.Name == name })
	if i < 0 {
		return l, false
	}
	return all[i], true
}
