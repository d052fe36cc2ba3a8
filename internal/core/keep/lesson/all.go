package lesson

import "strings"

const (
	roster  = "dispatch/roster.go"
	callout = "dispatch/callout.go"
)

// at says that the caret is in a symbol of a file, and that nothing lies over the code.
func at(path, symbol string) func(first, now *Screen) bool {
	return func(_, now *Screen) bool { return now.Path == path && now.Symbol == symbol && now.Over == "" }
}

// over says that something lies over the code.
func over(name string) func(first, now *Screen) bool {
	return func(_, now *Screen) bool { return now.Over == name }
}

// elsewhere says that one is in another file than when the task began.
func elsewhere(first, now *Screen) bool {
	return now.Path != first.Path && now.Path != "" && now.Over == ""
}

// All are the lessons, in the order in which work goes.
func All() []Lesson {
	return []Lesson{find(), where(), follow(), keep(), through(), change(), arrange()}
}

func find() Lesson {
	return Lesson{Name: "find", Title: "find what one half remembers", Tasks: []Task{
		{Do: "Open the file roster.go, wherever it is: {scout} opens the scout; type rost, and Enter goes there.", Hint: "Esc closes whatever lies over the code, {scout} opens the scout again.", Begin: Begin{Path: "README.md"},
			Done: func(_, now *Screen) bool { return now.Path == roster && now.Over == "" }},
		{Do: "Symbols are found in the same way: go to the type Callout.", Hint: "{scout}, then callout; ↓ chooses another answer, and Enter goes there.", Begin: Begin{Path: roster},
			Done: at(callout, "Callout")},
		{Do: "Text, too: somewhere it says “same valley”. Go there.", Hint: "{scout}, then same valley, and Enter on the line in README.md.", Begin: Begin{Path: callout},
			Done: func(_, now *Screen) bool { return strings.Contains(now.Text, "same valley") && now.Over == "" }},
		{Do: "Go to roster.go once more, and there with {outline}, the outline of the file, to Release.", Hint: "In the outline, too, letters narrow the list: {outline}, then rel, Enter.", Begin: Begin{Path: roster},
			Done: at(roster, "Release")},
		{Do: "{in-file} finds within the file: look for Lock, Enter, and go on to the next place with {next}.", Hint: "{in-file}, then Lock, Enter; then {next}.", Begin: Begin{Path: roster, Line: 82},
			Done: func(first, now *Screen) bool {
				return now.Found && now.Over == "" && strings.Contains(now.Text, "Lock") && now.Line != first.Line
			}},
	}}
}

func where() Lesson {
	return Lesson{Name: "where", Title: "see where one is", Tasks: []Task{
		{Do: "{crumbs} opens the line at the top, which says where you are: go to Release, which stands beside this.", Hint: "{crumbs} shows what stands beside Assign; ↓ chooses, Enter goes there.", Begin: Begin{roster, 62, 7},
			Done: at(roster, "Release")},
		{Do: "{previous-symbol} and {next-symbol} go by functions and types. Go with them to nearest.", Hint: "{previous-symbol}, as often as it takes.", Begin: Begin{roster, 82, 18},
			Done: at(roster, "nearest")},
		{Do: "{fold-bodies} folds the bodies of all functions: what is left reads as a list.", Hint: "They are two keys, one after the other.", Begin: Begin{roster, 50, 18},
			Done: func(_, now *Screen) bool { return now.Folded }},
		{Do: "{fold-none} opens all folds again; {fold-here} would open only the one at the caret.", Begin: Begin{roster, 50, 18},
			Done: func(_, now *Screen) bool { return !now.Folded }},
		{Do: "{tree} shows the folders, at this file. Open frame.go in the folder radio.", Hint: "In the folders, letters jump to a name: frame, then Enter.", Begin: Begin{roster, 50, 18},
			Done: func(_, now *Screen) bool { return now.Path == "radio/frame.go" && now.Over == "" }},
	}}
}

func follow() Lesson {
	return Lesson{Name: "follow", Title: "follow a name", Tasks: []Task{
		{Do: "The caret is on nearest, in line 62 of roster.go. {definition} goes to where that is defined.", Hint: "If the caret is elsewhere: {go-line} and 62:12 bring it back.", Begin: Begin{roster, 62, 12},
			Done: at(roster, "nearest")},
		{Do: "{back} goes back to where you came from.", Begin: Begin{roster, 50, 18},
			Done: func(_, now *Screen) bool { return now.Path == roster && now.Line == 62 }},
		{Do: "{leaf-definition} lays the definition beside the code instead: nothing to come back from.", Begin: Begin{roster, 62, 12},
			Done: func(_, now *Screen) bool { return now.Leaf != "" }},
		{Do: "Esc turns the leaf back. Then go to Assign with {previous-symbol}, and up to what it implements: {supers}.", Hint: "With the caret in line 59, {supers} goes to the interface in assigner.go.", Begin: Begin{roster, 62, 12},
			Done: func(_, now *Screen) bool { return now.Path == "dispatch/assigner.go" && now.Over == "" }},
		{Do: "{references} lists all places that use it; the chosen one shows beneath. Enter goes there.", Hint: "{references}, then ↓ and Enter.", Begin: Begin{"dispatch/assigner.go", 5, 2},
			Done: func(first, now *Screen) bool {
				return now.Over == "" && strings.Contains(now.Text, "Assign") && (now.Path != first.Path || now.Line != first.Line)
			}},
	}}
}

func keep() Lesson {
	return Lesson{Name: "keep", Title: "keep one's place", Anywhere: true, Whole: true, Tasks: []Task{
		{Do: "{bookmark} puts a bookmark on the line of the caret, which stays with the line.", Begin: Begin{callout, 47, 1},
			Done: func(_, now *Screen) bool { return now.atMark() }},
		{Do: "{bookmark-note} writes a note on it: why you set it.", Hint: "They are two keys; type the note, and Enter.", Begin: Begin{callout, 47, 1},
			Done: func(first, now *Screen) bool { return now.Noted > first.Noted }},
		{Do: "Now go far away: to any other file.", Hint: "{scout} lists files as soon as you type; {tree} shows the folders.", Begin: Begin{callout, 47, 1},
			Done: elsewhere},
		{Do: "{bookmarks} lists the bookmarks. Go to the one you have set.", Hint: "{bookmarks}, ↓ until it is chosen, Enter.",
			Done: func(_, now *Screen) bool { return now.atMark() && now.Over == "" }},
		{Do: "All the ways you went are kept: the strip at the foot shows them, {trail} all of it.",
			Done: over("trail")},
	}}
}

func through() Lesson {
	return Lesson{Name: "sweep", Title: "work through places", Whole: true, Tasks: []Task{
		{Do: "The caret is on the type Skill. {references} lists its uses: keep the list as a sweep, with Alt+K.", Hint: "If the caret is elsewhere: {scout}, skill, Enter. Then {references}, Alt+K.", Begin: Begin{"dispatch/team.go", 9, 6},
			Done: func(_, now *Screen) bool { return now.Swept > 1 }},
		{Do: "{next} goes to the next place that is to do; {sweep-done} ticks the one you are at. Tick two.", Hint: "{next}, then {sweep-done} twice.",
			Done: func(_, now *Screen) bool { return now.Ticked > 1 }},
		{Do: "{sweep} shows the sweep: what is to do, and what is done. It is still there tomorrow.",
			Done: over("sweep")},
	}}
}

func change() Lesson {
	wrong := Begin{roster, 86, 3}
	return Lesson{Name: "change", Title: "change a line", Whole: true, Tasks: []Task{
		{Do: "Release, in line 86 of roster.go, brings back any team of the valley. {write} begins to write.", Hint: "{go-line} and 86 go to the line, if you are elsewhere; then {write}.", Begin: wrong,
			Done: func(_, now *Screen) bool { return now.Writing && now.Path == roster }},
		{Do: "Letters are typed now. Make it the team of the call-out: if r.teams[i].Name == c.Team {", Hint: "End goes to the end of the line, Backspace deletes, and Ctrl+Z undoes.", Begin: wrong,
			Done: func(_, now *Screen) bool { return now.Has != nil && now.Has("r.teams[i].Name == c.Team {") }},
		{Do: "Esc leads back to roam, where letters are keys. {save} saves.", Begin: wrong,
			Done: func(_, now *Screen) bool {
				return !now.Writing && now.Unsaved == 0 && now.Over == "" && now.Has != nil && now.Has("c.Team {")
			}},
		{Do: "Go to any other file.", Hint: "{scout} and some letters of its name.", Begin: wrong,
			Done: elsewhere},
		{Do: "{edit-back} brings you back to where you last changed something.", Hint: "In roam; Esc leads there.",
			Done: func(first, now *Screen) bool { return now.Path == roster && now.Path != first.Path }},
		{Do: "{changed-places} lists all that differs from the last commit, as a sweep to go through.", Hint: "They are two keys, one after the other. It needs git.",
			Done: func(_, now *Screen) bool { return now.Swept > 0 && now.Over != "" }},
	}}
}

func arrange() Lesson {
	return Lesson{Name: "arrange", Title: "arrange the screen", Anywhere: true, Whole: true, Tasks: []Task{
		{Do: "{split-beside} puts a second view beside this one, {split-below} one below it.", Begin: Begin{Path: roster},
			Done: func(_, now *Screen) bool { return now.Views > 1 }},
		{Do: "{other-side} goes to the other view; {full} leaves only the one you are in, and again brings all back.", Hint: "{split-beside} or {split-below} if there is only one view; then {full}.", Begin: Begin{Path: roster},
			Done: func(_, now *Screen) bool { return now.Full }},
		{Do: "No key has to be remembered: {scout} finds commands and settings by what people call them. Find “theme”.", Hint: "{scout}, theme, and Enter on “light or dark”, or on the setting “palette”.",
			Done: func(first, now *Screen) bool { return now.Palette != first.Palette || now.Over == "settings" }},
		{Do: "{keys} shows all keys. Type what you want to do there, and see the key.", Hint: "Esc closes what lies over the code; then {keys}.",
			Done: over("page of keys")},
	}}
}
