// Package keymap is what the keys do: one list of actions from which the
// program takes its keys, the scout its commands and the keys page its text.
package keymap

import (
	"slices"
	"strings"
)

// Action is something the program can be told to do.
type Action string

// The actions.
const (
	Scout            Action = "scout"
	Follow           Action = "follow"
	Definition       Action = "definition"
	TypeDefinition   Action = "type-definition"
	Implementations  Action = "implementations"
	Supers           Action = "supers"
	References       Action = "references"
	Callers          Action = "callers"
	Called           Action = "called"
	Values           Action = "values"
	Tests            Action = "tests"
	Family           Action = "family"
	CallTree         Action = "call-tree"
	DrawImports      Action = "draw-imports"
	DrawFile         Action = "draw-file"
	DrawFamily       Action = "draw-family"
	DrawCalled       Action = "draw-called"
	DrawCallers      Action = "draw-callers"
	DrawWays         Action = "draw-ways"
	DrawValues       Action = "draw-values"
	DrawTrail        Action = "draw-trail"
	DrawTogether     Action = "draw-together"
	Charts           Action = "charts"
	AllWays          Action = "all-ways"
	Back             Action = "back"
	Forward          Action = "forward"
	Fork             Action = "fork"
	EditBack         Action = "edit-back"
	EditForward      Action = "edit-forward"
	TrailTree        Action = "trail"
	StopStar         Action = "stop-star"
	StopNote         Action = "stop-note"
	StopName         Action = "stop-name"
	Trails           Action = "trails"
	Bookmark         Action = "bookmark"
	BookmarkLetter   Action = "bookmark-letter"
	Bookmarks        Action = "bookmarks"
	BookmarkNext     Action = "bookmark-next"
	BookmarkPrevious Action = "bookmark-previous"
	BookmarkSymbol   Action = "bookmark-symbol"
	BookmarkFile     Action = "bookmark-file"
	BookmarkFolder   Action = "bookmark-folder"
	BookmarkNote     Action = "bookmark-note"
	BookmarkLists    Action = "bookmark-lists"
	BookmarkUndo     Action = "bookmark-undo"
	Up               Action = "up"
	Down             Action = "down"
	Left             Action = "left"
	Right            Action = "right"
	WordLeft         Action = "word-left"
	WordRight        Action = "word-right"
	PageUp           Action = "page-up"
	PageDown         Action = "page-down"
	HalfUp           Action = "half-up"
	HalfDown         Action = "half-down"
	LineStart        Action = "line-start"
	LineEnd          Action = "line-end"
	FileStart        Action = "file-start"
	FileEnd          Action = "file-end"
	Outline          Action = "outline"
	InFile           Action = "in-file"
	GoLine           Action = "go-line"
	LastList         Action = "last-list"
	Next             Action = "next"
	Previous         Action = "previous"
	Sweep            Action = "sweep"
	Sweeps           Action = "sweeps"
	SweepDone        Action = "sweep-done"
	SweepTick        Action = "sweep-tick"
	SweepAside       Action = "sweep-aside"
	SweepFile        Action = "sweep-file"
	SweepFolder      Action = "sweep-folder"
	SweepNote        Action = "sweep-note"
	SweepRefresh     Action = "sweep-refresh"
	ReadReport       Action = "read-report"
	ChangedPlaces    Action = "changed-places"
	Unused           Action = "unused"
	Problems         Action = "problems"
	ProblemNext      Action = "problem-next"
	ProblemPrevious  Action = "problem-previous"
	Importers        Action = "importers"
	Imported         Action = "imported"
	PreviousSymbol   Action = "previous-symbol"
	NextSymbol       Action = "next-symbol"
	SymbolStart      Action = "symbol-start"
	SymbolEnd        Action = "symbol-end"
	Parent           Action = "parent"
	Imports          Action = "imports"
	Related          Action = "related"
	Bracket          Action = "bracket"
	Crumbs           Action = "crumbs"
	OutlineBeside    Action = "outline-beside"
	Docs             Action = "docs"
	SignpostSize     Action = "signpost-size"

	LeafDefinition      Action = "leaf-definition"
	LeafType            Action = "leaf-type"
	LeafImplementations Action = "leaf-implementations"
	LeafReferences      Action = "leaf-references"
	LeafInto            Action = "leaf-into"
	LeafNext            Action = "leaf-next"
	LeafPrevious        Action = "leaf-previous"
	LeafUp              Action = "leaf-up"
	LeafDown            Action = "leaf-down"
	LeafGo              Action = "leaf-go"
	LeafPin             Action = "leaf-pin"

	Tree           Action = "tree"
	SlideUp        Action = "slide-up"
	SlideDown      Action = "slide-down"
	SlideLeft      Action = "slide-left"
	SlideRight     Action = "slide-right"
	Wrap           Action = "wrap"
	ToCaret        Action = "to-caret"
	Grow           Action = "grow"
	Shrink         Action = "shrink"
	FoldHere       Action = "fold-here"
	FoldParent     Action = "fold-parent"
	FoldAll        Action = "fold-all"
	FoldBodies     Action = "fold-bodies"
	FoldComments   Action = "fold-comments"
	FoldLevel      Action = "fold-level"
	FoldNone       Action = "fold-none"
	Solo           Action = "solo"
	NextView       Action = "next-view"
	PreviousView   Action = "previous-view"
	Views          Action = "views"
	Reopen         Action = "reopen"
	CloseOthers    Action = "close-others"
	CloseAll       Action = "close-all"
	SplitBeside    Action = "split-beside"
	SplitBelow     Action = "split-below"
	OtherSide      Action = "other-side"
	SideLeft       Action = "side-left"
	SideRight      Action = "side-right"
	SideUp         Action = "side-up"
	SideDown       Action = "side-down"
	SendOver       Action = "send-over"
	Larger         Action = "larger"
	Smaller        Action = "smaller"
	WiderColumn    Action = "wider-column"
	NarrowerColumn Action = "narrower-column"
	Full           Action = "full"
	Quiet          Action = "quiet"
	CopyPath       Action = "copy-path"
	CopyAbsolute   Action = "copy-absolute"
	CopyLine       Action = "copy-line"
	CopyText       Action = "copy-text"
	Edit           Action = "edit"
	OpenOutside    Action = "open-outside"
	Keys           Action = "keys"
	Settings       Action = "settings"
	Learned        Action = "learned"
	Lessons        Action = "lessons"
	SkipTask       Action = "skip-task"
	TakeInAll      Action = "take-in-all"
	Close          Action = "close"
	Palette        Action = "palette"
	Quit           Action = "quit"

	Rename        Action = "rename"
	InOrder       Action = "in-order"
	MakeVariable  Action = "make-variable"
	MakeFunction  Action = "make-function"
	PutInPlace    Action = "put-in-place"
	Parameters    Action = "parameters"
	Replace       Action = "replace"
	ReplaceHere   Action = "replace-here"
	ReplaceSweep  Action = "replace-sweep"
	Proposal      Action = "proposal"
	HunkNext      Action = "hunk-next"
	HunkPrevious  Action = "hunk-previous"
	HunkOld       Action = "hunk-old"
	HunkBack      Action = "hunk-back"
	HunkLine      Action = "hunk-line"
	HunkFile      Action = "hunk-file"
	Proposals     Action = "proposals"
	ReadDiff      Action = "read-diff"
	HunkStage     Action = "hunk-stage"
	BothSides     Action = "both-sides"
	HunkAgainst   Action = "hunk-against"
	LineHistory   Action = "line-history"
	SymbolHistory Action = "symbol-history"
	ChangeUndo    Action = "change-undo"
	ChangeAgain   Action = "change-again"

	Mend         Action = "mend"
	MendBest     Action = "mend-best"
	TestHere     Action = "test-here"
	TestFile     Action = "test-file"
	TestFolder   Action = "test-folder"
	TestReaching Action = "test-reaching"
	TestFailed   Action = "test-failed"
	TestWatch    Action = "test-watch"
	TestSaid     Action = "test-said"
	Covered      Action = "covered"
	BareNext     Action = "bare-next"
	BareBefore   Action = "bare-before"

	RunAgain   Action = "run-again"
	RunCommand Action = "run-command"
	RunChoose  Action = "run-choose"
	RunInto    Action = "run-into"
	Shell      Action = "shell"
	RunStop    Action = "run-stop"
	RunOutput  Action = "run-output"
	RunKeep    Action = "run-keep"
	RunCopy    Action = "run-copy"
	RunHide    Action = "run-hide"
	RunLarger  Action = "run-larger"
	RunSmaller Action = "run-smaller"
	RunUp      Action = "run-up"
	RunDown    Action = "run-down"
)

// Binding is an action with its keys.
type Binding struct {
	// Action is "" for a key that only a list knows.
	Action Action
	// Keys are the keys that do it in roam, as Bubble Tea writes them; the
	// first is shown. Two keys, to be pressed one after the other, stand with a
	// blank between them.
	Keys []string
	// Title is what it does, in a few words.
	Title string
	// Group is the part of the keys page it stands in.
	Group string
	// Anywhere says that the key works where letters are typed, too.
	Anywhere bool
	// Silent leaves it out of the commands, where it would make no sense.
	Silent bool
}

// The groups, in the order of the keys page.
const (
	// HereAndNow begins the name of the group of what can be done where one is.
	HereAndNow = "here and now"

	Find  = "find"
	Sheet = "in every list"
	Go    = "follow"
	Trail = "trail"
	// Drawn is about drawings and charts.
	Drawn = "draw"
	// Leaf is about what is laid beside the code.
	Leaf = "look beside"
	// Sweeping is about sweeps.
	Sweeping = "sweep"
	// Changing is about changes over many files.
	Changing = "change"
	// Trying is about runs and tests.
	Trying = "run and test"
	// Marks is about bookmarks.
	Marks = "bookmarks"
	Move  = "move"
	Hop   = "move by meaning"
	Fold  = "see less"
	Sides = "views"
	Hand  = "hand on this place"
	Other = "program"
)

// Groups lists the groups in order.
func Groups() []string {
	return []string{Find, Sheet, Go, Drawn, Leaf, Sweeping, Trail, Marks, Writing, Changing, Trying, Move, Hop, Fold, Sides, Hand, Other}
}

// Default is the key map as delivered.
func Default() Map {
	return append(Map{
		{Scout, []string{"space", "ctrl+space"}, "find a file, a symbol, a command or a text", Find, true, false},
		{Outline, []string{"o"}, "outline: what is in this file", Find, false, false},
		{OutlineBeside, []string{"O"}, "keep the outline beside the code, or not", Find, false, false},
		{Crumbs, []string{"."}, "breadcrumbs: what is beside and around this", Find, false, false},
		{Tree, []string{"g"}, "the folders, and the files beside this one", Find, false, false},
		{InFile, []string{"/"}, "find in this file", Find, false, false},
		{LastList, []string{"z"}, "the last list again, where one was in it", Find, false, false},
		{GoLine, []string{"#"}, "go to a line by its number", Find, false, false},
		{Next, []string{"n"}, "the next place of what was found, or listed", Find, false, false},
		{Previous, []string{"p"}, "the place before", Find, false, false},
		{Follow, []string{"enter"}, "follow the name; on its definition, its uses", Go, false, false},
		{AllWays, []string{"a"}, "all ways from here, with their keys", Go, false, false},
		{Definition, []string{"d"}, "go to the definition", Go, false, false},
		{TypeDefinition, []string{"t"}, "to the definition of its type", Go, false, false},
		{Implementations, []string{"i"}, "to what implements or overrides it", Go, false, false},
		{Supers, []string{"u"}, "up: what it is derived from or overrides", Go, false, false},
		{References, []string{"r"}, "its references: read, written, called", Go, false, false},
		{Callers, []string{"c"}, "the calls of it", Go, false, false},
		{Called, []string{"x"}, "what it calls", Go, false, false},
		{Values, []string{"v"}, "where its value comes from, and goes to", Go, false, false},
		{Tests, []string{"s"}, "its tests, or what this test is for", Go, false, false},
		{Family, []string{"U"}, "its family as a tree: above, below, beside", Go, false, false},
		{CallTree, []string{"X"}, "calls as a tree, of it or by it", Go, false, false},
		{Docs, []string{"y"}, "read all about this: signature and words", Go, false, false},
		{DrawImports, []string{"G G"}, "draw which folders import which", Drawn, false, false},
		{DrawFile, []string{"G f"}, "draw what this file imports, and who it", Drawn, false, false},
		{DrawFamily, []string{"G u"}, "draw its family: above, below, beside", Drawn, false, false},
		{DrawCalled, []string{"G x"}, "draw what it calls", Drawn, false, false},
		{DrawCallers, []string{"G c"}, "draw what calls it", Drawn, false, false},
		{DrawWays, []string{"G b"}, "draw the ways between two functions", Drawn, false, false},
		{DrawValues, []string{"G v"}, "draw where its value comes from, and goes", Drawn, false, false},
		{DrawTrail, []string{"G a"}, "draw the trail", Drawn, false, false},
		{DrawTogether, []string{"G e"}, "draw what is changed together with this", Drawn, false, false},
		{Charts, []string{"G n"}, "charts: of time, size, changes …", Drawn, false, false},
		{LeafDefinition, []string{"D"}, "lay the definition beside the code", Leaf, false, false},
		{LeafType, []string{"T"}, "lay the definition of its type there", Leaf, false, false},
		{LeafImplementations, []string{"I"}, "lay what implements or overrides it there", Leaf, false, false},
		{LeafReferences, []string{"R"}, "lay its references there", Leaf, false, false},
		{LeafInto, []string{"tab"}, "into the leaf, and back to the code", Leaf, false, false},
		{LeafNext, []string{"}"}, "the next answer on the leaf", Leaf, false, false},
		{LeafPrevious, []string{"{"}, "the answer before", Leaf, false, false},
		{LeafDown, []string{"alt+down"}, "scroll the leaf down", Leaf, false, true},
		{LeafUp, []string{"alt+up"}, "scroll the leaf up", Leaf, false, true},
		{LeafGo, []string{"L L"}, "go there for good", Leaf, false, false},
		{LeafPin, []string{"L p"}, "pin the leaf: it stays as you read on", Leaf, false, false},
		{"", []string{"esc"}, "turn the leaf back", Leaf, false, true},
		{SweepDone, []string{"N"}, "tick this place, and on to the next", Sweeping, false, false},
		{Sweep, []string{"W W"}, "show the sweep: what is left and done", Sweeping, false, false},
		{Sweeps, []string{"W s"}, "choose among the sweeps", Sweeping, false, false},
		{SweepTick, []string{"W v"}, "this place is done, or not after all", Sweeping, false, false},
		{SweepAside, []string{"W d"}, "set this place aside, or bring it back", Sweeping, false, false},
		{SweepFile, []string{"W f"}, "set this file aside, or bring it back", Sweeping, false, false},
		{SweepFolder, []string{"W o"}, "set this folder aside, or bring it back", Sweeping, false, false},
		{SweepNote, []string{"W n"}, "write a note on this place", Sweeping, false, false},
		{SweepRefresh, []string{"W a"}, "ask for the places again: what is new", Sweeping, false, false},
		{ReadReport, nil, "read a report or a list of places from a file", Sweeping, false, false},
		{ChangedPlaces, []string{"W e"}, "list what differs from the last commit", Sweeping, false, false},
		{Unused, []string{"W u"}, "list what nothing in this folder refers to", Sweeping, false, false},
		{Problems, []string{"W %"}, "list what is wrong in this project", Sweeping, false, false},
		{ProblemNext, []string{"%"}, "the next place where something is wrong", Sweeping, false, false},
		{ProblemPrevious, []string{"$"}, "the one before; n and p go on from there", Sweeping, false, false},
		{Importers, []string{"W r"}, "list who imports this file", Sweeping, false, false},
		{Imported, []string{"W x"}, "list what this file imports", Sweeping, false, false},
		{Back, []string{"b"}, "back to the stop one came from", Trail, false, false},
		{Forward, []string{"f"}, "forward to where one last went", Trail, false, false},
		{Fork, []string{"F"}, "choose a way at a fork", Trail, false, false},
		{EditBack, []string{"e"}, "to the last place one changed, and before", Trail, false, false},
		{EditForward, []string{"E"}, "to the place one changed after that", Trail, false, false},
		{TrailTree, []string{"A A"}, "show the trail: all stops as a tree", Trail, false, false},
		{StopStar, []string{"A v"}, "star this stop, or not any more", Trail, false, false},
		{StopName, []string{"A r"}, "give this stop a name", Trail, false, false},
		{StopNote, []string{"A n"}, "write a note on this stop", Trail, false, false},
		{Trails, []string{"A s"}, "choose among the trails, begin another", Trail, false, false},
		{Bookmark, []string{"m"}, "a bookmark on this line, or not any more", Marks, false, false},
		{BookmarkLetter, []string{"M"}, "and with a letter or digit", Marks, false, false},
		{Bookmarks, []string{";", "B B"}, "show the bookmarks; a letter goes at once", Marks, false, false},
		{"", []string{"0", "9"}, "a digit: to the bookmark that has it", Marks, false, true},
		{BookmarkNext, []string{"'"}, "to the next bookmark of the list", Marks, false, false},
		{BookmarkPrevious, []string{"\""}, "to the bookmark before", Marks, false, false},
		{BookmarkSymbol, []string{"B i"}, "a bookmark on this function or type", Marks, false, false},
		{BookmarkFile, []string{"B f"}, "a bookmark on this file", Marks, false, false},
		{BookmarkFolder, []string{"B o"}, "a bookmark on this folder", Marks, false, false},
		{BookmarkNote, []string{"B n"}, "write a note on the bookmark here", Marks, false, false},
		{BookmarkLists, []string{"B s"}, "choose among the lists of bookmarks", Marks, false, false},
		{BookmarkUndo, []string{"B u"}, "bring back the bookmark taken away last", Marks, false, false},
		{Up, []string{"up", "k"}, "up a line", Move, false, true},
		{Down, []string{"down", "j"}, "down a line", Move, false, true},
		{Left, []string{"left", "h"}, "left a character", Move, false, true},
		{Right, []string{"right", "l"}, "right a character", Move, false, true},
		{WordLeft, []string{"ctrl+left", "alt+left"}, "back a word", Move, false, true},
		{WordRight, []string{"ctrl+right", "alt+right"}, "on a word", Move, false, true},
		{PageUp, []string{"pgup"}, "up a screen", Move, false, true},
		{PageDown, []string{"pgdown"}, "down a screen", Move, false, true},
		{HalfUp, []string{"ctrl+u"}, "up half a screen", Move, false, true},
		{HalfDown, []string{"ctrl+d"}, "down half a screen", Move, false, true},
		{LineStart, []string{"home"}, "to the beginning of the line", Move, false, true},
		{LineEnd, []string{"end"}, "to the end of the line", Move, false, true},
		{FileStart, []string{"ctrl+home"}, "to the first line", Move, false, false},
		{FileEnd, []string{"ctrl+end"}, "to the last line", Move, false, false},
		{SlideUp, []string{"ctrl+up"}, "scroll up, the caret stays", Move, false, true},
		{SlideDown, []string{"ctrl+down"}, "scroll down, the caret stays", Move, false, true},
		{SlideLeft, []string{"shift+left"}, "scroll left, the caret stays", Move, false, true},
		{SlideRight, []string{"shift+right"}, "scroll right, the caret stays", Move, false, true},
		{ToCaret, []string{"V c"}, "bring the caret back in sight", Move, false, false},
		{PreviousSymbol, []string{"["}, "the function or type before", Hop, false, false},
		{NextSymbol, []string{"]"}, "the next function or type", Hop, false, false},
		{SymbolStart, []string{"("}, "to the beginning of this one", Hop, false, false},
		{SymbolEnd, []string{")"}, "to its end", Hop, false, false},
		{Parent, []string{"backspace"}, "out to what is around it", Hop, false, false},
		{Bracket, []string{"="}, "to the other end of the bracket", Hop, false, false},
		{Imports, []string{","}, "to the imports of the file, and back", Hop, false, false},
		{Related, []string{"&"}, "files that go with this: test, header, style", Hop, false, false},
		{Grow, []string{"+"}, "select the next larger piece", Hop, false, false},
		{Shrink, []string{"-"}, "select the smaller piece again", Hop, false, false},
		{Solo, []string{"S S"}, "this function or type alone, or all again", Fold, false, false},
		{FoldHere, []string{"*", "S f"}, "fold here, or open the fold", Fold, false, false},
		{FoldAll, []string{"S a"}, "fold everything; again, open it", Fold, false, false},
		{FoldParent, []string{"S u"}, "fold what is around this", Fold, false, false},
		{FoldBodies, []string{"S b"}, "fold the bodies: signatures are left", Fold, false, false},
		{FoldComments, []string{"S c"}, "fold the comments", Fold, false, false},
		{FoldLevel, []string{"S 1", "S 2", "S 3", "S 4", "S 5", "S 6", "S 7", "S 8", "S 9"}, "fold what is deeper than so many levels", Fold, false, false},
		{FoldNone, []string{"S o"}, "open all folds", Fold, false, false},
		{NextView, []string{">"}, "the next open file", Sides, false, false},
		{PreviousView, []string{"<"}, "the open file before", Sides, false, false},
		{Views, []string{"V V"}, "list the open files", Sides, false, false},
		{Close, []string{"q"}, "close this file; the last one: leave", Sides, false, false},
		{Reopen, []string{"Q"}, "open again what was closed last", Sides, false, false},
		{CloseOthers, []string{"V o"}, "close the other files of this view", Sides, false, false},
		{CloseAll, []string{"V a"}, "close all files", Sides, false, false},
		{SplitBeside, []string{"|"}, "a second view beside this one", Sides, false, false},
		{SplitBelow, []string{"_"}, "a second view below this one", Sides, false, false},
		{OtherSide, []string{"\\"}, "go to the other view, and on in turn", Sides, false, false},
		{SideLeft, []string{"V left"}, "go to the view on the left", Sides, false, false},
		{SideRight, []string{"V right"}, "go to the view on the right", Sides, false, false},
		{SideUp, []string{"V up"}, "go to the view above", Sides, false, false},
		{SideDown, []string{"V down"}, "go to the view below", Sides, false, false},
		{SendOver, []string{"V s"}, "send this file to the other view", Sides, false, false},
		{Larger, []string{"V +"}, "make this view larger", Sides, false, false},
		{Smaller, []string{"V -"}, "make this view smaller", Sides, false, false},
		{WiderColumn, []string{"V >"}, "widen what stands beside the code", Sides, false, false},
		{NarrowerColumn, []string{"V <"}, "narrow what stands beside the code", Sides, false, false},
		{SignpostSize, []string{"V w"}, "signpost: wide, narrow, one line in turn", Sides, false, false},
		{Wrap, []string{"V l"}, "break long lines, or let them run off", Sides, false, false},
		{Full, []string{"!"}, "only this view, or all again", Sides, false, false},
		{Quiet, []string{"V h"}, "hide everything but the code, or show it", Sides, false, false},
		{CopyPath, []string{"P P"}, "copy the path from the root of the project", Hand, false, false},
		{CopyAbsolute, []string{"P a"}, "copy the whole path", Hand, false, false},
		{CopyLine, []string{"P l"}, "copy the path with the line", Hand, false, false},
		{CopyText, []string{"P t"}, "copy the selection, or the line", Hand, false, false},
		{Edit, []string{"P e"}, "hand it to your editor, $EDITOR", Hand, false, false},
		{OpenOutside, []string{"P o"}, "open it with the desktop's program", Hand, false, false},
		{RunAgain, []string{"Y Y", "f5"}, "run the last command again, or one", Trying, false, false},
		{RunCommand, []string{"Y space"}, "type a command and run it", Trying, false, false},
		{RunChoose, []string{"Y s"}, "choose: runs, and what the project proposes", Trying, false, false},
		{RunInto, []string{"f6", "Y down"}, "into the run, to answer it, and back", Trying, false, false},
		{Shell, []string{"f4", "Y enter"}, "open a shell in the project, and close it", Trying, false, false},
		{TestHere, []string{"Y t"}, "run the test the caret is in", Trying, false, false},
		{TestReaching, []string{"Y r"}, "run the tests that reach this function", Trying, false, false},
		{TestFile, []string{"Y f"}, "run the tests of this file", Trying, false, false},
		{TestFolder, []string{"Y o"}, "run the tests of this folder", Trying, false, false},
		{TestFailed, []string{"Y a"}, "run those again that failed last", Trying, false, false},
		{TestWatch, []string{"Y v"}, "run the tests that a saved change reaches", Trying, false, false},
		{TestSaid, []string{"Y y"}, "what the test here expected, and got", Trying, false, false},
		{Covered, []string{"Y l"}, "mark lines that no test ran, or not", Trying, false, false},
		{BareNext, []string{"Y n"}, "the next line that no test ran", Trying, false, false},
		{BareBefore, []string{"Y b"}, "the one before", Trying, false, false},
		{RunStop, []string{"Y d"}, "end what runs", Trying, false, false},
		{RunOutput, []string{"Y h"}, "show what it printed as a file", Trying, false, false},
		{RunKeep, []string{"Y k"}, "keep the places it names as a sweep", Trying, false, false},
		{RunCopy, []string{"Y p"}, "copy what it printed", Trying, false, false},
		{RunHide, []string{"Y q"}, "put the run out of the way; it goes on", Trying, false, false},
		{RunUp, []string{"Y pgup"}, "back in what it printed", Trying, false, true},
		{RunDown, []string{"Y pgdown"}, "on again", Trying, false, true},
		{RunLarger, []string{"Y +"}, "more rows for the run", Trying, false, false},
		{RunSmaller, []string{"Y -"}, "fewer rows for it", Trying, false, false},
		{Mend, []string{"~"}, "what can be done about this, to choose from", Changing, false, false},
		{MendBest, []string{"C enter"}, "do the best of that at once", Changing, false, false},
		{Rename, []string{"C r"}, "another name for this, wherever it is used", Changing, false, false},
		{Replace, []string{"C space"}, "another text, in all files", Changing, false, false},
		{MakeVariable, []string{"C v"}, "a variable for this expression", Changing, false, false},
		{MakeFunction, []string{"C m"}, "make a function of what is selected", Changing, false, false},
		{PutInPlace, []string{"C p"}, "what this stands for, put in its place", Changing, false, false},
		{Parameters, []string{"C t"}, "what this function takes, and its calls give", Changing, false, false},
		{InOrder, []string{"C o"}, "put in order: the form, the imports", Changing, false, false},
		{ReplaceHere, []string{"C /"}, "in this file, or in what is selected", Changing, false, false},
		{ChangeUndo, []string{"C u"}, "take back the last change over files", Changing, false, false},
		{ChangeAgain, []string{"C a"}, "make it again", Changing, false, false},
		{Proposal, []string{"C C"}, "show what is proposed once more", Changing, false, false},
		{HunkNext, []string{"C down"}, "the next place that differs from the commit", Changing, false, false},
		{HunkPrevious, []string{"C up"}, "the one before; n and p go on from there", Changing, false, false},
		{HunkOld, []string{"C ="}, "lay the text as it was beside this", Changing, false, false},
		{HunkBack, []string{"C backspace"}, "put this hunk back as it was", Changing, false, false},
		{HunkLine, []string{"C -"}, "put this line back as it was", Changing, false, false},
		{HunkFile, []string{"C f"}, "propose to put the whole file back", Changing, false, false},
		{HunkStage, []string{"C n"}, "this hunk into the next commit, or out of it", Changing, false, false},
		{BothSides, []string{"C |"}, "the whole file beside what it was", Changing, false, false},
		{HunkAgainst, []string{"C s"}, "what to compare with: a commit, a branch", Changing, false, false},
		{LineHistory, []string{"C ?"}, "who changed this line, when and why", Changing, false, false},
		{SymbolHistory, []string{"C i"}, "the same for all of this function or type", Changing, false, false},
		{Proposals, nil, "choose among the proposals that are kept", Changing, false, false},
		{ReadDiff, nil, "read a proposal from a file with a diff", Changing, false, false},
		{ReplaceSweep, []string{"C k"}, "in the places that are left of the sweep", Changing, false, false},
		{Keys, []string{"?"}, "show the keys", Other, false, false},
		{Learned, nil, "which keys one knows, and which to learn next", Other, false, false},
		{Lessons, []string{"f1"}, "lessons: a few minutes each", Other, false, false},
		{SkipTask, nil, "skip this task of the lesson", Other, false, false},
		{Settings, nil, "all that can be set, with what it does", Other, false, false},
		{TakeInAll, nil, "take in all files, whatever ignore files leave out", Other, false, false},
		{Palette, nil, "switch between the dark and the light palette", Other, false, false},
		{Quit, []string{"ctrl+q"}, "leave the program", Other, true, false},
	}, writing()...)
}

// Map is a list of bindings.
type Map []Binding

// Of finds what a key does in roam; ok is false for a key without a binding.
func (m Map) Of(key string) (Action, bool) {
	for _, b := range m {
		if b.Action != "" && (b.Group != Writing || inRoam(b.Action)) && slices.Contains(b.Keys, key) {
			return b.Action, true
		}
	}
	return "", false
}

// Name is the first key that does something in roam, as Bubble Tea writes it; "" if there is none.
func (m Map) Name(a Action) string {
	for _, b := range m {
		if b.Action == a && len(b.Keys) > 0 {
			return b.Keys[0]
		}
	}
	return ""
}

// Key is the key that does something in roam, as it stands on the keyboard; "" if there
// is none.
func (m Map) Key(a Action) string {
	for _, b := range m {
		if b.Action == a && len(b.Keys) > 0 {
			return Label(b.Keys[0])
		}
	}
	return ""
}

// Asks says that an action is about what stands in the text, and not only about where one is in it: its
// answer must be of the text as it was written last.
func (m Map) Asks(a Action) bool {
	switch a {
	case Outline, Crumbs, LastList, Next, Previous:
		return true
	case FoldLevel:
		return false // which takes a digit along
	}
	return slices.ContainsFunc(m, func(b Binding) bool {
		return b.Action == a && slices.Contains([]string{Go, Leaf, Hop, Fold}, b.Group)
	})
}

// InGroup says whether an action stands in a part of the page of keys.
func (m Map) InGroup(a Action, group string) bool {
	return slices.ContainsFunc(m, func(b Binding) bool { return b.Action == a && b.Group == group })
}

// Begins says whether a key is the first of two in roam.
func (m Map) Begins(key string) bool { return len(m.After(key, false)) > 0 }

// After are the bindings whose first key of two is this one, in write or in roam.
func (m Map) After(key string, write bool) (all []Binding) {
	for _, b := range m {
		if (write || b.Group != Writing || inRoam(b.Action)) && len(b.Keys) > 0 && strings.HasPrefix(b.Keys[0], key+" ") {
			all = append(all, b)
		}
	}
	return all
}

// Hint says in a word or two what a binding does whose first key was pressed.
func (b Binding) Hint() string {
	if b.Group == Mine {
		return b.Action.Naming().Name
	}
	return hints[b.Action]
}

// hints are for the actions that take two keys.
var hints = map[Action]string{
	Solo: "alone", FoldHere: "fold", FoldAll: "all", FoldParent: "around", LeafGo: "go there", LeafPin: "pin", FoldBodies: "bodies", FoldComments: "comments", FoldLevel: "level", FoldNone: "open",
	Sweep: "list", Sweeps: "sweeps", SweepTick: "done", SweepAside: "aside", SweepFile: "file", SweepFolder: "folder", SweepNote: "note", SweepRefresh: "again",
	ChangedPlaces: "changes", Unused: "unused", Problems: "problems", Importers: "importers", Imported: "imports",
	MakeVariable: "variable", MakeFunction: "function", PutInPlace: "in place", InOrder: "order", Parameters: "takes",
	Rename: "name", Replace: "text", ReplaceHere: "here", ReplaceSweep: "in the sweep", Proposal: "proposal", ChangeUndo: "take back", ChangeAgain: "again",
	HunkNext: "differs", HunkPrevious: "before", HunkOld: "as it was", HunkBack: "put back", HunkLine: "line", HunkFile: "file", HunkAgainst: "versus", HunkStage: "stage", BothSides: "both", LineHistory: "who", SymbolHistory: "who, all of it",
	SaveAll: "save all", SaveAs: "save as", LineUpBlock: "up", LineDownBlock: "down", WriteEarlier: "earlier", WriteLater: "later", WriteClips: "copies", Snippets: "own text", SnippetKeep: "keep as own", Unsaved: "left unsaved", Unlock: "unlock", CaretAll: "all", CaretSymbol: "uses", CaretFound: "found", CaretLines: "lines", CaretAbove: "above", CaretBelow: "below", CaretBox: "box",
	LineDelete: "delete", LineCopy: "copy", LineJoin: "join", LineSort: "sort", Comment: "comment", Upper: "large", Lower: "small",
	MendBest: "mend", TestHere: "test", TestFile: "of the file", TestFolder: "of the folder", TestReaching: "reaching", TestFailed: "failed", TestWatch: "on saving", TestSaid: "said", Covered: "lines not run", BareNext: "next", BareBefore: "before",
	RunAgain: "again", RunCommand: "a command", RunChoose: "runs", RunInto: "into it", Shell: "shell", RunStop: "end it", RunOutput: "as a file", RunKeep: "keep", RunCopy: "copy", RunHide: "put away", RunUp: "back", RunDown: "", RunLarger: "larger", RunSmaller: "",
	TrailTree: "stops", StopStar: "star", StopNote: "note", StopName: "name", Trails: "trails",
	BookmarkSymbol: "symbol", BookmarkFile: "file", BookmarkFolder: "folder", BookmarkNote: "note", BookmarkLists: "lists", BookmarkUndo: "bring back",
	Views: "list", ToCaret: "caret", Wrap: "long lines", Quiet: "hide", SignpostSize: "signpost", CloseOthers: "close others", CloseAll: "close all", SideLeft: "go", SideRight: "", SideUp: "", SideDown: "",
	SendOver: "send over", Larger: "larger", Smaller: "smaller", WiderColumn: "column", NarrowerColumn: "",
	CopyPath: "path", CopyAbsolute: "whole path", CopyLine: "with line", CopyText: "text", Edit: "editor", OpenOutside: "desktop",
}

// Commands are the bindings that make sense as commands.
func (m Map) Commands() []Binding {
	var out []Binding
	for _, b := range m {
		if !b.Silent {
			out = append(out, b)
		}
	}
	return out
}

// Label writes a key as it stands on the keyboard.
func Label(key string) string {
	if first, second, ok := strings.Cut(key, " "); ok {
		return Label(first) + " " + Label(second)
	}
	names := map[string]string{
		"space": "Space", "ctrl+space": "Ctrl+Space", "enter": "Enter", "up": "↑", "down": "↓", "left": "←", "right": "→",
		"tab": "Tab", "esc": "Esc", "backspace": "Backspace", "pgup": "PgUp", "pgdown": "PgDn", "shift+tab": "Shift+Tab", "home": "Home", "end": "End", "delete": "Delete",
	}
	if n, ok := names[key]; ok {
		return n
	}
	if len(key) > 1 && key[0] == 'f' && strings.Trim(key[1:], "0123456789") == "" {
		return strings.ToUpper(key)
	}
	for prefix, label := range map[string]string{"ctrl+": "Ctrl+", "alt+": "Alt+", "shift+": "Shift+"} {
		if len(key) > len(prefix) && key[:len(prefix)] == prefix {
			rest := key[len(prefix):]
			if len(rest) == 1 {
				return label + strings.ToUpper(rest)
			}
			return label + Label(rest)
		}
	}
	return key
}

// Labels writes all keys of a binding, or of the first n; a row of digits as its
// ends.
func (b Binding) Labels(n int) string {
	if b.Action == FoldLevel && len(b.Keys) > 1 {
		return Label(b.Keys[0]) + "…" + b.Keys[len(b.Keys)-1][len("Z "):]
	}
	s := ""
	for i, k := range b.Keys {
		if i >= n {
			break
		}
		if i > 0 && strings.Contains(k, " ") {
			s += ", "
		} else if i > 0 {
			s += " "
		}
		s += Label(k)
	}
	return s
}
