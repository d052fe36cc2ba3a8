package keymap

import "slices"

// The actions of write, the stance in which letters are typed.
const (
	Write         Action = "write"
	SaveFile      Action = "save"
	SaveAll       Action = "save-all"
	SaveAs        Action = "save-as"
	Complete      Action = "complete"
	WriteUndo     Action = "undo"
	WriteRedo     Action = "redo"
	WriteEarlier  Action = "earlier"
	WriteLater    Action = "later"
	WriteCut      Action = "cut"
	WriteCopy     Action = "copy"
	WritePaste    Action = "paste"
	WriteClips    Action = "clips"
	Snippets      Action = "snippets"
	SnippetKeep   Action = "snippet-keep"
	Unsaved       Action = "unsaved"
	Unlock        Action = "unlock"
	WriteAll      Action = "select-all"
	CaretNext     Action = "caret-next"
	CaretSkip     Action = "caret-skip"
	CaretAll      Action = "caret-all"
	CaretSymbol   Action = "caret-symbol"
	CaretFound    Action = "caret-found"
	CaretLines    Action = "caret-lines"
	CaretAbove    Action = "caret-above"
	CaretBelow    Action = "caret-below"
	CaretBox      Action = "caret-box"
	LineDelete    Action = "line-delete"
	LineUp        Action = "line-up"
	LineDown      Action = "line-down"
	LineUpBlock   Action = "line-up-block"
	LineDownBlock Action = "line-down-block"
	LineCopy      Action = "line-copy"
	LineCopyUp    Action = "line-copy-up"
	LineJoin      Action = "line-join"
	LineSort      Action = "line-sort"
	LineIndent    Action = "line-indent"
	LineOutdent   Action = "line-outdent"
	Comment       Action = "comment"
	CommentBlock  Action = "comment-block"
	Upper         Action = "upper"
	Lower         Action = "lower"
	AroundRound   Action = "around-round"
	AroundSquare  Action = "around-square"
	AroundCurly   Action = "around-curly"
	AroundDouble  Action = "around-double"
	AroundSingle  Action = "around-single"
	AroundBack    Action = "around-back"
)

// Writing is the group of what is done in write.
const Writing = "write"

// writing are the bindings of write, beside the keys of every text field.
func writing() []Binding {
	return []Binding{
		{Write, []string{"w"}, "write: letters are typed; Esc leads back", Writing, false, false},
		{SaveFile, []string{"ctrl+s"}, "save this file", Writing, true, false},
		{SaveAll, []string{"ctrl+e s"}, "save all files", Writing, false, false},
		{SaveAs, []string{"ctrl+e w"}, "save this file under another path", Writing, false, false},
		{Complete, []string{"ctrl+n"}, "complete the name; Tab takes what is offered", Writing, false, false},
		{WriteUndo, []string{"ctrl+z"}, "undo; as all of these, in write", Writing, false, false},
		{WriteRedo, []string{"ctrl+y"}, "do it again", Writing, false, false},
		{WriteEarlier, []string{"ctrl+e z"}, "the text as it was before, in time", Writing, false, false},
		{WriteLater, []string{"ctrl+e y"}, "and after, also what was undone", Writing, false, false},
		{WriteCut, []string{"ctrl+x"}, "cut what is selected, or the line", Writing, false, false},
		{WriteCopy, []string{"ctrl+c"}, "copy it", Writing, false, false},
		{WritePaste, []string{"ctrl+v"}, "paste what was cut or copied last", Writing, false, false},
		{WriteClips, []string{"ctrl+e v"}, "choose among what was copied before", Writing, false, false},
		{Snippets, []string{"ctrl+e i"}, "insert a text of one's own, by its word", Writing, false, false},
		{SnippetKeep, []string{"ctrl+e m"}, "keep what is selected as a text of one's own", Writing, false, false},
		{WriteAll, []string{"ctrl+a"}, "select all of the text", Writing, false, false},
		{CaretNext, []string{"ctrl+o"}, "one more caret, at the next of the same", Writing, false, false},
		{CaretSkip, []string{"ctrl+l"}, "leave this one out, on to the next", Writing, false, false},
		{CaretAll, []string{"ctrl+e a"}, "a caret at all of the same", Writing, false, false},
		{CaretSymbol, []string{"ctrl+e r"}, "at all uses of this very name", Writing, false, false},
		{CaretFound, []string{"ctrl+e f"}, "at all places of what was looked for", Writing, false, false},
		{CaretLines, []string{"ctrl+e n"}, "one in each line that is selected", Writing, false, false},
		{CaretAbove, []string{"ctrl+e up"}, "one in the line above", Writing, false, false},
		{CaretBelow, []string{"ctrl+e down"}, "one in the line below", Writing, false, false},
		{CaretBox, []string{"ctrl+e b"}, "make the selection a rectangle", Writing, false, false},
		{LineDelete, []string{"ctrl+e d"}, "delete the line", Writing, false, false},
		{LineUp, []string{"alt+up"}, "move the line up", Writing, false, false},
		{LineDown, []string{"alt+down"}, "move the line down", Writing, false, false},
		{LineUpBlock, []string{"ctrl+e pgup"}, "move it up, within its block", Writing, false, false},
		{LineDownBlock, []string{"ctrl+e pgdown"}, "move it down, within its block", Writing, false, false},
		{LineCopy, []string{"ctrl+e c"}, "copy the line below", Writing, false, false},
		{LineCopyUp, []string{"ctrl+e C"}, "copy the line above", Writing, false, false},
		{LineJoin, []string{"ctrl+e j"}, "join it with the next line", Writing, false, false},
		{LineSort, []string{"ctrl+e o"}, "put the lines in order", Writing, false, false},
		{LineIndent, []string{"ctrl+e right"}, "indent", Writing, false, false},
		{LineOutdent, []string{"shift+tab", "ctrl+e left"}, "one step back", Writing, false, false},
		{Comment, []string{"ctrl+e /"}, "make it a comment, or code again", Writing, false, false},
		{CommentBlock, []string{"ctrl+e *"}, "with a comment around it", Writing, false, false},
		{Upper, []string{"ctrl+e u"}, "large letters", Writing, false, false},
		{Lower, []string{"ctrl+e l"}, "small letters", Writing, false, false},
		{AroundRound, []string{"ctrl+e ("}, "round brackets around it", Writing, false, false},
		{AroundSquare, []string{"ctrl+e ["}, "square brackets", Writing, false, false},
		{AroundCurly, []string{"ctrl+e {"}, "curly brackets", Writing, false, false},
		{AroundDouble, []string{"ctrl+e \""}, "double quotes", Writing, false, false},
		{AroundSingle, []string{"ctrl+e '"}, "single quotes", Writing, false, false},
		{AroundBack, []string{"ctrl+e `"}, "back quotes", Writing, false, false},
		{Unsaved, []string{"ctrl+e x"}, "show texts that were not saved before", Writing, false, false},
		{Unlock, []string{"ctrl+e k"}, "unlock a file that is not of this project", Writing, false, false},
	}
}

// BeginsWriting is the first of two keys for much of what is done in write.
const BeginsWriting = "ctrl+e"

// inRoam are the keys of write that work in roam, too.
func inRoam(a Action) bool {
	return a == Write || a == SaveFile || a == SaveAll || a == SaveAs || a == Unsaved || a == Unlock
}

// IsWriting says whether an action is one of write, or a command of the user's own that may write.
func (m Map) IsWriting(a Action) bool {
	return slices.ContainsFunc(m, func(b Binding) bool { return b.Action == a && b.Group == Writing })
}

// OfWrite finds what a key does in write, apart from those of every text field; ok is false
// for a key without a binding.
func (m Map) OfWrite(key string) (Action, bool) {
	for _, b := range m {
		if b.Group != Writing || b.Action == Write {
			continue
		}
		for _, k := range b.Keys {
			if k == key {
				return b.Action, true
			}
		}
	}
	return "", false
}
