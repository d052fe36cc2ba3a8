package keymap

import "strings"

// Naming is what a command is called.
type Naming struct {
	// Name is its name, of a few words, which says what it does without anything around it.
	Name string
	// Phrases are what else people say who want it.
	Phrases []string
}

// Naming is what the command of an action is called; it has no name if the action is none.
func (a Action) Naming() Naming {
	if own, is := strings.CutPrefix(string(a), ownPrefix); is {
		return Naming{Name: own, Phrases: []string{"command of your own"}}
	}
	name, phrases, _ := strings.Cut(namings[a], ": ")
	n := Naming{Name: name}
	if phrases != "" {
		n.Phrases = strings.Split(phrases, ", ")
	}
	return n
}

// namings is what commands are called: the name, then what else people say.
var namings = map[Action]string{
	Scout:         "find anything: search everywhere, go to anything, open file, find file, quick open, go to symbol, find symbol, go to class, global search, search text in all files, search in project, find in all files, search everything, full text search, command palette, recent files, switch file",
	GoLine:        "go to line: jump to line, goto line, line number, go to line number, go to row, jump to row",
	Outline:       "outline: list functions, methods, members, symbols in this file, structure, table of contents, functions in file, what is in this file, headings",
	OutlineBeside: "outline beside the code: sidebar, side bar, outline panel, keep outline open, show outline on the side, dock",
	Crumbs:        "breadcrumbs: where am I, siblings, path, navigation bar, current function, what is beside this",
	Tree:          "folders: file tree, explorer, directory, directories, browse files, file browser, project tree, file manager, new file, create file, rename file, move file, delete file, new folder, create folder, reveal in tree, locate file",
	LastList:      "last list again: last search, reopen results, results again, search results, last results, previous list, bring back the list, last references, resume search, repeat last search",
	InFile:        "find in this file: search in file, search this file, find text here, search, incremental search, match, regex, look for",
	Next:          "next place: next match, next result, find next, next hit, next occurrence, next search result, repeat search",
	Previous:      "previous place: previous match, find previous, previous result, previous occurrence, search backwards",
	Follow:        "follow the name: go, open import, open link, follow link, jump, open file under caret, drill down",
	AllWays:       "all ways from here: actions, context menu, menu, what can I do here, where can I go, navigate, options here",

	Definition:      "go to definition: jump to definition, declaration, go to declaration, where is this defined, source, open definition",
	TypeDefinition:  "go to type definition: what type is this, type, jump to type, class of this, show type",
	Implementations: "go to implementations: implementation, who implements this, subclasses, derived classes, subtypes, overrides, overridden by, implementers, children of class",
	Supers:          "go up to supertypes: base class, superclass, super class, parent class, interface of this, parent type, overridden method, inherits from, ancestors, extends",
	References:      "find references: usages, find usages, uses, who uses this, where is this used, occurrences, xref, cross references, users of this, where used, mentions, am I using this",
	Callers:         "callers: who calls this, incoming calls, called by, where is this called, call sites, calls of it",
	Called:          "what it calls: outgoing calls, callees, what does this call, functions it calls, calls from here",
	Values:          "where its value comes from: who writes this, where is this set, assignments, data flow, writes, reads, who sets this, where is this changed, value flow, assigned",
	Tests:           "tests of it: find tests, test for this, go to test, unit tests, is this tested, what does this test, jump to test, specs",
	Family:          "type hierarchy: class hierarchy, inheritance, family, inheritance tree, hierarchy, derived and base types",
	CallTree:        "call hierarchy: call tree, call graph, call stack, tree of callers, who calls whom",
	DrawImports:     "draw imports: dependency graph, dependency diagram, architecture diagram, package diagram, module graph, layers, circular dependencies, import cycles, folder dependencies, structure of the project, map of the code",
	DrawFile:        "draw imports of the file: who imports this file, what does this file import, dependents, dependencies of file, file graph",
	DrawFamily:      "draw family: class diagram, inheritance diagram, type diagram, hierarchy diagram",
	DrawCalled:      "draw calls: call diagram, call graph as a drawing, callees diagram, diagram of calls",
	DrawCallers:     "draw callers: callers diagram, who calls this as a drawing, incoming call graph",
	DrawWays:        "draw ways between: paths between functions, how does it get there, call path, call chain from here to there, reachability",
	DrawValues:      "draw values: data flow diagram, flow of a value, value graph",
	DrawTrail:       "draw trail: map of where I was, navigation map, history diagram, my way as a drawing",
	DrawTogether:    "draw what changes together: co-change, change coupling, files changed together, temporal coupling",
	Charts:          "charts: statistics, metrics, where did my time go, lines of code, size chart, hotspots, churn, longest functions, complexity, bar chart, treemap, who knows this",
	SignpostSize:    "signpost size: hide signpost, show signpost, right column, info panel, side column, narrow signpost, toggle side panel",
	Docs:            "read the documentation: docs, hover, signature, quick info, parameters, parameter info, man page, doc comment, javadoc, docstring, describe, information about this, explain",

	LeafDefinition:      "look at the definition beside: peek definition, preview definition, show definition beside, side by side definition, peek, quick look, glance",
	LeafType:            "look at the type beside: peek type, preview type, show type beside",
	LeafImplementations: "look at implementations beside: peek implementations, preview implementations",
	LeafReferences:      "look at references beside: peek references, preview usages, show usages beside",
	LeafInto:            "into the leaf and back: focus leaf, enter leaf, focus preview, go into peek, leave the leaf",
	LeafNext:            "next answer on the leaf: next peek, next preview",
	LeafPrevious:        "previous answer on the leaf: previous peek, previous preview",
	LeafDown:            "scroll the leaf down: scroll preview down",
	LeafUp:              "scroll the leaf up: scroll preview up",
	LeafGo:              "go to what the leaf shows: open preview, promote, keep the leaf, go there for good, open peeked file",
	LeafPin:             "pin the leaf: pin, keep beside, stick, lock preview, unpin",

	SweepDone:       "tick and go on: mark as done, check off, tick, done and next, finished with this place, next todo",
	Sweep:           "sweep: todo list, checklist, list of places, work list, result list, show sweep, worklist",
	Sweeps:          "choose a sweep: other sweeps, list of sweeps, switch sweep, saved searches, kept searches, saved results",
	SweepTick:       "tick this place: toggle done, untick, uncheck, mark not done",
	SweepAside:      "set this place aside: skip this place, ignore this result, exclude result, dismiss",
	SweepFile:       "set this file aside: skip this file, exclude file, ignore file in results",
	SweepFolder:     "set this folder aside: skip this folder, exclude folder, ignore folder in results",
	Mend:            "mend this: quick fix, fix problem, code action, suggestions, add import, import this name, implement interface, write missing methods, remove unused, did you mean, correct spelling, spell check, handle error, lightbulb",
	MendBest:        "mend at once: apply best fix, auto fix, fix it",
	TestHere:        "test here: run test, run this test, run test under caret, run nearest test, single test",
	TestFile:        "tests of this file: run test file, run file tests, test this file, all tests in file",
	TestFolder:      "tests of this folder: run test suite, run all tests, test package, test directory, run tests in folder",
	TestReaching:    "tests that reach this: run affected tests, run tests for function, run related tests, test this function, impacted tests",
	TestFailed:      "failed tests again: rerun failed tests, run last failed, retry failures",
	TestWatch:       "tests on saving: watch mode, auto test, continuous testing, run tests on save, test watcher",
	TestSaid:        "what the test said: test output, failure message, expected and actual, why did it fail, assertion message",
	Covered:         "lines not run by tests: code coverage, show coverage, load coverage, test coverage, lcov, cover profile, hide coverage, uncovered lines",
	BareNext:        "next line not run: next uncovered line, jump to uncovered, coverage gap",
	BareBefore:      "line not run before: previous uncovered line",
	RunAgain:        "run again: rerun, repeat last command, run last, execute again, build again, run, execute, start",
	RunCommand:      "run a command: execute command, shell command, run make, build, compile, run program, external command, command line, task",
	RunChoose:       "runs: list of runs, tasks, jobs, run task, choose command, makefile targets, npm scripts, scripts, what is running, processes, history of commands, run configuration",
	RunInto:         "into the run: focus terminal, answer the command, type into terminal, go to terminal, input, stdin, focus output, back to the code from terminal",
	Shell:           "shell: terminal, open terminal, console, command prompt, bash, toggle terminal, integrated terminal, close terminal",
	RunStop:         "end what runs: stop, kill, terminate, cancel command, abort, interrupt, kill process, stop build",
	RunOutput:       "output as a file: search output, full output, log of the run, scrollback, view output, open output",
	RunKeep:         "keep the places of the run: sweep of the output, quickfix, errors as list, places in output, compiler errors as list",
	RunCopy:         "copy the output: copy what was printed, copy log, output to clipboard",
	RunHide:         "put the run away: hide terminal, close output, hide output, close panel, close run",
	RunUp:           "back in the output: scroll output up, scroll terminal up, earlier output",
	RunDown:         "on in the output: scroll output down, scroll terminal down, later output",
	RunLarger:       "more rows for the run: larger terminal, bigger output, grow panel, enlarge terminal",
	RunSmaller:      "fewer rows for the run: smaller terminal, shrink panel, shrink output",
	ReadReport:      "read a report: import report, SARIF, JUnit, TAP, linter report, load results, import list, read list of places, open report, static analysis results",
	SweepNote:       "note on this place of the sweep: comment on result, annotate place",
	SweepRefresh:    "refresh the sweep: ask again, search again, rerun search, update results, reload results",
	ChangedPlaces:   "changes since the last commit: git changes, changed lines, modified lines, diff, git diff, uncommitted changes, hunks, what did I change, changed files, modified files, git status, local changes",
	Importers:       "who imports this file: importers, dependents, used by, who includes this, reverse dependencies, files that import this, incoming imports",
	Imported:        "what this file imports: list of imports, outgoing imports, dependencies of this file, what it includes, imported files",
	Problems:        "what is wrong: problems, errors, warnings, list errors, compile errors, diagnostics, lint, broken code, show problems, error list, check the code, vet",
	ProblemNext:     "next problem: next error, next warning, go to next error, jump to error, where is the error, next diagnostic",
	ProblemPrevious: "previous problem: previous error, previous warning, error before, previous diagnostic",
	Unused:          "unused code: dead code, unused functions, not used, unreferenced, never called, find unused, unused symbols, can be deleted",

	Back:        "back: go back, previous location, navigate back, return, jump back, where was I, last position",
	Forward:     "forward: go forward, next location, navigate forward, redo jump",
	Fork:        "choose a way at the fork: branches of history, other way forward, which way did I go, fork",
	EditBack:    "last edit: last change, go to last edit, last edit location, last edited place, where did I edit, where was I typing, previous edit, previous change",
	EditForward: "next edit: next change, later edit, forward in edits",
	TrailTree:   "trail: history, navigation history, where have I been, show history, visited places, recent places, stops",
	StopStar:    "star this stop: favourite stop, important stop, unstar",
	StopName:    "name this stop: rename stop, label this place, give a name",
	StopNote:    "note on this stop: comment on stop, annotate stop, write a note",
	Trails:      "choose a trail: switch trail, new trail, other trails, begin a trail, session, switch task, sessions",

	Bookmark:         "bookmark this line: add bookmark, toggle bookmark, mark this line, set mark, remove bookmark, delete bookmark, pin line, unmark",
	BookmarkLetter:   "bookmark with a letter: named mark, mark with letter, numbered bookmark, assign letter, bookmark with digit, quick bookmark",
	Bookmarks:        "bookmarks: list bookmarks, show marks, favourites, go to bookmark, all bookmarks, marks, saved places",
	BookmarkNext:     "next bookmark: next mark, go to next bookmark",
	BookmarkPrevious: "previous bookmark: previous mark, last bookmark, go to previous bookmark",
	BookmarkSymbol:   "bookmark this function: bookmark symbol, bookmark class, bookmark type, bookmark method",
	BookmarkFile:     "bookmark this file: favourite file, pin file, star file",
	BookmarkFolder:   "bookmark this folder: favourite folder, pin folder",
	BookmarkNote:     "note on the bookmark: comment on bookmark, annotate bookmark, describe bookmark",
	BookmarkLists:    "lists of bookmarks: bookmark groups, bookmark folders, switch bookmark list, new bookmark list, share bookmarks, bookmark collections",
	BookmarkUndo:     "bring back the last bookmark: undo bookmark, restore bookmark, undelete bookmark, removed bookmark",

	Up: "up a line: line up, move up, cursor up", Down: "down a line: line down, move down, cursor down",
	Left: "left a character: move left, cursor left", Right: "right a character: move right, cursor right",
	WordLeft: "back a word: previous word, word left", WordRight: "on a word: next word, word right",
	PageUp: "up a screen: page up, scroll up a page", PageDown: "down a screen: page down, scroll down a page",
	HalfUp: "up half a screen: half page up", HalfDown: "down half a screen: half page down",
	LineStart: "beginning of the line: start of line, home", LineEnd: "end of the line: end of line",
	FileStart: "beginning of the file: top of file, start of file, first line, go to top, top, beginning, begin",
	FileEnd:   "end of the file: bottom of file, last line, go to bottom, go to end, bottom",
	SlideUp:   "scroll up a line: scroll up", SlideDown: "scroll down a line: scroll down",
	SlideLeft: "scroll left: scroll sideways, scroll to the left", SlideRight: "scroll right: scroll sideways, scroll to the right, horizontal scroll",
	Wrap:    "break long lines: wrap, word wrap, line wrap, soft wrap, wrap lines, unwrap, no wrap, toggle wrap, long lines",
	ToCaret: "back to the caret: center, centre, center cursor, recenter, scroll to cursor, show caret, find the cursor, where is the cursor, middle of screen",

	PreviousSymbol: "previous function: previous method, function above, previous symbol, previous heading, previous class",
	NextSymbol:     "next function: next method, function below, next symbol, next heading, next class",
	SymbolStart:    "start of the function: beginning of function, top of function, function header, function start, head of method",
	SymbolEnd:      "end of the function: bottom of function, function end",
	Parent:         "out to what is around: parent, enclosing function, enclosing class, enclosing scope, containing class, go up a level, out",
	Bracket:        "other bracket: matching bracket, matching brace, match parenthesis, closing bracket, opening bracket, matching tag, end of block",
	Imports:        "imports of the file: go to imports, includes, import section, dependencies of file, requires",
	Related:        "related files: header file, switch header source, related file, other half, counterpart, stylesheet of component, companion file, alternate file, header or source, test file, go to test file, story, documentation of this file, generated from, same name, switch between test and code",
	Grow:           "select more: expand selection, grow selection, extend selection, select block, select statement, select function, select enclosing, structural selection, select word",
	Shrink:         "select less: shrink selection, reduce selection, contract selection, smaller selection",
	Solo:           "this function alone: solo, zoom, focus on function, narrow to function, only this function, isolate, hide the rest, focus mode",

	FoldHere:     "fold or open here: collapse, unfold, expand, toggle fold, fold, collapse block, expand block, unfold here",
	FoldAll:      "fold everything: fold all, collapse all, collapse everything",
	FoldParent:   "fold what is around: fold parent, collapse parent, collapse enclosing",
	FoldBodies:   "fold the bodies: only signatures, show only signatures, hide bodies, collapse functions, collapse to definitions, fold functions, overview",
	FoldComments: "fold the comments: hide comments, collapse comments, without comments",
	FoldLevel:    "fold deeper levels: fold to level, fold level, collapse to level",
	FoldNone:     "open all folds: unfold all, expand all, unfold everything, show everything, open folds",

	NextView:       "next open file: next tab, next buffer, next file, cycle files, switch tab, right tab",
	PreviousView:   "previous open file: previous tab, previous buffer, previous file, left tab",
	Views:          "open files: tabs, buffers, list of open files, list tabs, list buffers, switch buffer, switch tab, opened files",
	Close:          "close this file: close file, close tab, close buffer, close window",
	Reopen:         "reopen the closed file: undo close, reopen tab, restore closed file, reopen closed tab, closed by accident",
	CloseOthers:    "close the other files: close others, close other tabs, only this file",
	CloseAll:       "close all files: close all, close everything, close all tabs",
	SplitBeside:    "split beside: split, split right, split vertically, vertical split, side by side, two columns, split view, second window, two files",
	SplitBelow:     "split below: split down, split horizontally, horizontal split, one above the other",
	OtherSide:      "other view: other window, next window, switch window, switch pane, next pane, other split, focus other side, other side",
	SideLeft:       "view on the left: left window, left pane, focus left",
	SideRight:      "view on the right: right window, right pane, focus right",
	SideUp:         "view above: upper window, pane above, focus up",
	SideDown:       "view below: lower window, pane below, focus down",
	SendOver:       "send this file to the other view: move to other window, move tab to other pane, move file over",
	Larger:         "larger view: grow window, increase size, bigger, enlarge pane, resize, widen pane",
	Smaller:        "smaller view: shrink window, decrease size, shrink pane, resize pane",
	WiderColumn:    "wider column: widen sidebar, widen the signpost, larger side column, resize column",
	NarrowerColumn: "narrower column: narrow sidebar, smaller side column",
	Full:           "only this view: maximise, full screen, maximize window, zoom pane, only this window, toggle split",
	Quiet:          "only the code: distraction free, zen, presentation, hide everything, clean screen, hide panels, hide bars, reading mode",

	CopyPath:     "copy the path: copy file name, relative path, path to clipboard, file name",
	CopyAbsolute: "copy the whole path: copy absolute path, full path, absolute path",
	CopyLine:     "copy the path with the line: copy link, copy reference, copy location, path and line number, permalink, link to this line",
	CopyText:     "copy the text: copy selection, copy line, yank, copy to clipboard, copy code",
	Edit:         "hand it to your editor: open in editor, external editor, my editor, edit elsewhere, open in other editor",
	OpenOutside:  "open it with the desktop: open in browser, open externally, reveal in finder, open with, preview image, default application",

	InOrder:       "put this file in order: format, format file, format selection, format changed lines, prettify, tidy, reformat, organise imports, organize imports, optimize imports, add import, missing import, remove unused imports, sort imports, indentation",
	MakeVariable:  "make a variable of the expression: extract variable, introduce variable, extract local, extract constant, name this expression, refactor, pull out expression, new variable",
	MakeFunction:  "make a function of the selection: extract function, extract method, pull out method, refactor selection, new function from lines, split function",
	PutInPlace:    "put what a name stands for in its place: inline variable, inline function, inline method, unfold call, refactor inline, remove variable",
	Parameters:    "change what a function takes: change signature, add parameter, remove parameter, reorder parameters, move parameter, refactor signature, add argument, edit parameters",
	Rename:        "rename the symbol: rename symbol, rename variable, rename function, rename class, refactor, change name, rename everywhere, another name, rename method, rename refactoring",
	Replace:       "replace text in all files: replace, find and replace, search and replace, replace all, substitute, replace everywhere, replace in project, replace in files, global replace, bulk edit, regex replace",
	ReplaceHere:   "replace text in this file: find and replace in file, replace in file, replace in selection, substitute in file, change all occurrences in file",
	ReplaceSweep:  "replace text in the places of the sweep: replace in sweep, replace in list, replace in results",
	HunkNext:      "next hunk: next change, next diff, next modification, go to next change, next difference, what did I change",
	HunkPrevious:  "previous hunk: previous change, previous diff, go to previous change, previous difference",
	HunkOld:       "the text as it was: show diff, diff with head, compare with last commit, old version, show original, what was here before, compare with head, git diff, view changes in this file, side by side diff",
	HunkBack:      "put the hunk back: revert hunk, undo hunk, discard change, revert this change, reset hunk, restore lines, revert selection",
	HunkLine:      "put the line back: revert line, discard line, restore line, undo this line",
	HunkFile:      "put the file back: revert file, discard file, restore file, git checkout file, undo all changes in file, discard changes",
	HunkStage:     "put this hunk into the next commit: stage hunk, unstage hunk, git add, add to index, stage change, stage lines, git reset hunk, partial commit",
	BothSides:     "the file side by side with what it was: side by side diff, diff view, compare file with commit, split diff, show differences, whole file diff",
	HunkAgainst:   "compare with another commit: diff against branch, compare with branch, compare with commit, diff with main, diff base, change diff base, compare with tag",
	LineHistory:   "who changed this line: blame, git blame, annotate, line history, who wrote this, when was this changed, last commit of this line, history of the selection",
	SymbolHistory: "history of this function: function history, method history, git log of function, evolution of this function, commits of this symbol",
	Proposal:      "the proposal once more: show the proposal, preview changes, pending changes, review refactoring, what is proposed",
	Proposals:     "kept proposals: saved proposals, list proposals, changes for later, shelved changes, pending refactorings",
	ReadDiff:      "read a diff: apply patch, apply diff, import diff, open patch, load patch, git apply",
	ChangeUndo:    "take back a change over files: undo rename, undo refactoring, undo replace, undo across files, revert the rename, undo last change everywhere",
	ChangeAgain:   "make a change over files again: redo rename, redo refactoring, redo replace, redo across files",

	Keys:      "show the keys: help, shortcuts, key bindings, keyboard, cheat sheet, hotkeys, which key, keymap, manual, commands, how does this work, list of commands",
	Learned:   "keys you know: what have I learned, my keys, which keys do I know, keys to learn next, shortcuts to learn, statistics, usage, progress, never used",
	Lessons:   "lessons: learn, tutorial, teach me, training, course, introduction, getting started, exercise, guide",
	SkipTask:  "skip this task: next task, skip the task, next step of the lesson",
	Settings:  "settings: preferences, options, configure, configuration, setup, customize, config file, line numbers, tab width, turn off, change settings",
	Palette:   "light or dark: theme, colours, color scheme, dark mode, light mode, palette, background, night mode, skin, appearance, contrast",
	TakeInAll: "show ignored files: include ignored files, files left out, gitignore, open everything, empty project, missing files, no files",
	Quit:      "leave the program: quit, exit, leave, close the program, end, bye, terminate, stop the program, logout",

	Write:         "write: edit, insert, type, start typing, insert mode, edit mode, modify, change text, start editing",
	SaveFile:      "save: save file, write file, save this file, store, save changes, write to disk",
	SaveAll:       "save all files: save all, save everything, write all",
	SaveAs:        "save as: save under another name, save a copy, duplicate file, copy file, save elsewhere",
	Complete:      "complete the name: autocomplete, completion, code completion, suggest, suggestions, expand word",
	WriteUndo:     "undo: revert last change, take back, undo typing, step back",
	WriteRedo:     "redo: do again, undo the undo, repeat change",
	WriteEarlier:  "the text as it was earlier: undo in time, local history, earlier version, time travel, undo tree",
	WriteLater:    "the text as it was later: redo in time, later version",
	WriteCut:      "cut: cut line, move to clipboard, cut selection",
	WriteCopy:     "copy: copy selection, copy line, copy text",
	WritePaste:    "paste: insert from clipboard, put, paste text",
	WriteClips:    "paste something copied earlier: clipboard history, paste history, paste special, earlier copies, clips",
	Snippets:      "insert a text of your own: snippet, snippets, insert snippet, template, abbreviation, boilerplate, live template",
	SnippetKeep:   "keep a text of your own: make snippet, new snippet, create snippet, save selection as snippet, save as template",
	Unsaved:       "texts left unsaved: recover, recovery, restore after crash, lost text, crash recovery, unsaved changes, backup",
	Unlock:        "unlock this file: read only, readonly, make writable, allow editing, why can I not edit, protected",
	WriteAll:      "select all: select everything, select whole file",
	CaretNext:     "one more caret at the next of the same: select next occurrence, multiple cursors, add cursor, multi cursor, next same word, add selection to next match, multiple selections",
	CaretSkip:     "leave this one out and take the next: skip occurrence, skip selection, skip this match",
	CaretAll:      "carets at all of the same: cursor at all occurrences, select all occurrences, change all occurrences, cursors everywhere",
	CaretSymbol:   "carets at all uses of this name: rename in file, edit all uses, local rename, rename variable, change this name, refactor name",
	CaretFound:    "carets at all places found: cursors at matches, replace in file, edit all matches, select all matches, replace, search and replace, find and replace, substitute",
	CaretLines:    "a caret in each selected line: split selection into lines, cursor on each line, cursors at lines",
	CaretAbove:    "a caret in the line above: add cursor above, cursor up too",
	CaretBelow:    "a caret in the line below: add cursor below, cursor down too",
	CaretBox:      "select a rectangle: column selection, block selection, rectangular selection, box selection, column mode, vertical selection",
	LineDelete:    "delete the line: remove line, kill line, erase line",
	LineUp:        "move the line up: swap line up, line up, move lines up, drag line up",
	LineDown:      "move the line down: swap line down, move lines down, drag line down",
	LineUpBlock:   "move the line up in its block: move statement up",
	LineDownBlock: "move the line down in its block: move statement down",
	LineCopy:      "duplicate the line: copy line down, double line, clone line, repeat line, copy line below",
	LineCopyUp:    "duplicate the line upwards: copy line up, copy line above",
	LineJoin:      "join lines: merge lines, join with next line, concatenate lines, put on one line",
	LineSort:      "sort the lines: sort, order lines, alphabetical order, sort selection",
	LineIndent:    "indent: indent more, shift right, move right, tab in",
	LineOutdent:   "indent less: outdent, unindent, dedent, shift left, move left",
	Comment:       "comment or uncomment: toggle comment, comment out, line comment, comment lines, uncomment",
	CommentBlock:  "put a comment around it: block comment, toggle block comment, comment selection",
	Upper:         "large letters: uppercase, upper case, capital letters, capitalise, all caps",
	Lower:         "small letters: lowercase, lower case, no capitals",
	AroundRound:   "round brackets around it: surround with parentheses, wrap in parentheses, parentheses around selection, surround",
	AroundSquare:  "square brackets around it: surround with square brackets, wrap in brackets",
	AroundCurly:   "curly brackets around it: surround with braces, wrap in braces, curly braces",
	AroundDouble:  "double quotes around it: surround with quotes, quote it, put in quotes, wrap in double quotes",
	AroundSingle:  "single quotes around it: surround with single quotes, apostrophes",
	AroundBack:    "backticks around it: surround with backticks, back quotes, code quotes",
}

// mark stands on both sides of an action in a message, where its key is to be.
const mark = "\x00"

// Marked marks the actions that stand in braces in the words of the program, such as "{back} goes back",
// for Fill; what is put into the words afterwards is left alone.
func Marked(words string) string {
	var b strings.Builder
	for {
		before, rest, found := strings.Cut(words, "{")
		b.WriteString(before)
		if !found {
			return b.String()
		}
		name, after, closed := strings.Cut(rest, "}")
		if _, known := namings[Action(name)]; closed && known {
			b.WriteString(mark + name + mark)
			words = after
		} else {
			b.WriteByte('{')
			words = rest
		}
	}
}

// Fill puts the keys of the actions that are marked into a message, as one presses them in roam or in
// write. An action without a key is named as a command.
func (m Map) Fill(words string, write bool) string {
	parts := strings.Split(words, mark)
	for i := 1; i < len(parts); i += 2 {
		parts[i] = m.pressed(Action(parts[i]), write)
	}
	return strings.Join(parts, "")
}

// pressed is what one presses for an action.
func (m Map) pressed(a Action, write bool) string {
	for _, b := range m {
		if b.Action != a || len(b.Keys) == 0 {
			continue
		}
		if write && b.Group != Writing && !b.Anywhere && len([]rune(b.Keys[0])) == 1 {
			return Label("alt+" + b.Keys[0])
		}
		return Label(b.Keys[0])
	}
	return m.pressed(Scout, write) + " and “" + a.Naming().Name + "”"
}
