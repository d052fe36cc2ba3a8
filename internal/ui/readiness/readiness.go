// Package readiness says of each command what it would act on just now, or why it cannot be done.
package readiness

import (
	"path"
	"strconv"

	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// World is what there is on the screen and around it.
type World struct {
	// Here is what is on the screen.
	Here surface.Here
	// Name is that under the caret, or of what one is in; Asked says that it is known if there is one.
	Name  string
	Asked bool
	// Around says that there is no name under the caret: Name is that of what one is in.
	Around bool
	// Unsaved is how many files have changes that are not saved, and Changed whether the one on the screen
	// does.
	Unsaved int
	Changed bool
	// Views is how many parts the screen has, Files how many files are open in the present one, Open how
	// many in all; Closed says that one was closed, Leaf that something is laid beside the code.
	Views, Files, Open int
	Closed, Leaf       bool
	// Back and Forward say that one can go back and forward on the trail, Edited that something was
	// changed, Marks that there are bookmarks, Sweep that there is a sweep, Found that something else is
	// gone through.
	Back, Forward, Edited, Marks, Sweep, Found bool
	// Listed says that there was a list that can be shown again.
	Listed bool
}

// All are the standings of commands that have one.
type All map[keymap.Action]surface.Standing

// Of says how the commands of a key map stand.
func Of(w World, keys keymap.Map) All {
	all := All{}
	w.file(all)
	w.name(all)
	w.views(all)
	w.lists(all)
	if w.Here.File == nil {
		for _, b := range keys {
			if needsFile(b) {
				all[b.Action] = surface.Standing{Lack: "no file is shown"}
			}
		}
	}
	return all
}

// lack says why some commands cannot be done, if that is so.
func (s All) lack(so bool, why string, actions ...keymap.Action) {
	for _, a := range actions {
		if so {
			s[a] = surface.Standing{Lack: why}
		}
	}
}

// on says what some commands act on.
func (s All) on(what string, actions ...keymap.Action) {
	for _, a := range actions {
		s[a] = surface.Standing{On: what}
	}
}

// needsFile says that a command acts on the file that is shown.
func needsFile(b keymap.Binding) bool {
	switch b.Action {
	case keymap.SaveAll, keymap.Unsaved, keymap.OutlineBeside, keymap.BookmarkFolder, keymap.BookmarkUndo, keymap.BookmarkLists, keymap.Bookmarks,
		keymap.BookmarkNext, keymap.BookmarkPrevious:
		return false
	case keymap.Outline, keymap.InFile, keymap.GoLine, keymap.Close, keymap.CloseOthers, keymap.SplitBeside, keymap.SplitBelow:
		return true
	}
	switch b.Group {
	case keymap.Go, keymap.Leaf, keymap.Marks, keymap.Move, keymap.Hop, keymap.Fold, keymap.Hand, keymap.Writing:
		return true
	}
	return false
}

// file is about the file that is shown.
func (w *World) file(all All) {
	p := w.Here.View.Place
	if p.Path == "" {
		return
	}
	name, line := path.Base(p.Path), "line "+strconv.Itoa(p.Line)
	all.on(name, keymap.Outline, keymap.InFile, keymap.Close, keymap.SaveFile, keymap.SaveAs, keymap.Edit, keymap.OpenOutside, keymap.BookmarkFile,
		keymap.FoldAll, keymap.FoldBodies, keymap.FoldComments, keymap.Write)
	all.on(line, keymap.Bookmark, keymap.BookmarkLetter, keymap.LineDelete, keymap.LineCopy, keymap.LineUp, keymap.LineDown, keymap.Comment)
	all.on(p.Path, keymap.CopyPath)
	all.on(p.Path+":"+strconv.Itoa(p.Line), keymap.CopyLine)
	all.lack(!w.Changed, name+" has no changes to save", keymap.SaveFile)
	all.on(sheet.Count(w.Unsaved, "file", "files")+" with changes", keymap.SaveAll)
	all.lack(w.Unsaved == 0, "no file has changes to save", keymap.SaveAll)
	if n := len(w.Here.Crumbs); n > 0 {
		all.on(w.Here.Crumbs[n-1].Name, keymap.SymbolStart, keymap.SymbolEnd, keymap.Solo, keymap.BookmarkSymbol)
	}
}

// named are the ways that only a name has.
var named = []keymap.Action{keymap.Follow, keymap.Definition, keymap.TypeDefinition, keymap.LeafDefinition, keymap.LeafType,
	keymap.LeafImplementations, keymap.LeafReferences}

// ways are the others, from a name or from what one is in.
var ways = []keymap.Action{keymap.Implementations, keymap.Supers, keymap.References,
	keymap.Callers, keymap.Called, keymap.Values, keymap.Tests, keymap.Family, keymap.CallTree, keymap.Docs, keymap.AllWays}

// name is about the name under the caret, or the function or type one is in.
func (w *World) name(all All) {
	if w.Name != "" {
		all.on("of "+w.Name, ways...)
		all.on("of "+w.Name, named...)
	}
	all.lack(w.Asked && (w.Name == "" || w.Around), "there is no name under the caret", named...)
	all.lack(w.Asked && w.Name == "", "there is no name here, and nothing around it has one", ways...)
}

// views is about what is open.
func (w *World) views(all All) {
	all.lack(w.Views < 2, "there is only one view", keymap.OtherSide, keymap.SideLeft, keymap.SideRight, keymap.SideUp, keymap.SideDown,
		keymap.SendOver, keymap.Larger, keymap.Smaller)
	all.lack(w.Files < 2, "no other file is open in this view", keymap.NextView, keymap.PreviousView, keymap.CloseOthers)
	all.lack(w.Open == 0, "no file is open", keymap.CloseAll, keymap.Views)
	all.lack(!w.Closed, "no file was closed", keymap.Reopen)
	all.lack(!w.Leaf, "nothing is laid beside the code", keymap.LeafInto, keymap.LeafNext, keymap.LeafPrevious, keymap.LeafGo, keymap.LeafPin)
}

// lists is about the places that are kept.
func (w *World) lists(all All) {
	all.lack(!w.Back, "this is where the trail begins", keymap.Back)
	all.lack(!w.Forward, "nothing was gone back from", keymap.Forward)
	all.lack(!w.Edited, "nothing was changed yet", keymap.EditBack, keymap.EditForward)
	all.lack(!w.Listed, "there was no list yet", keymap.LastList)
	all.lack(!w.Marks, "there is no bookmark", keymap.BookmarkNext, keymap.BookmarkPrevious)
	all.lack(!w.Sweep, "there is no sweep", keymap.SweepDone, keymap.SweepTick, keymap.SweepAside, keymap.SweepFile, keymap.SweepFolder, keymap.SweepNote, keymap.SweepRefresh)
	all.lack(!w.Sweep && !w.Found, "nothing is being looked for", keymap.Next, keymap.Previous)
}
