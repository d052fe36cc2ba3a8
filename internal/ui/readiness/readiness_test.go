package readiness_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/readiness"
	"rooktrail/internal/ui/surface"
)

// Where nothing is, what cannot be done says why, and what can be done has nothing to say.
func TestWhereNothingIs(t *testing.T) {
	all := readiness.Of(readiness.World{Asked: true}, keymap.Default())
	for a, why := range map[keymap.Action]string{
		keymap.Definition: "no file is shown", keymap.SaveFile: "no file is shown", keymap.Back: "this is where the trail begins",
		keymap.Reopen: "no file was closed", keymap.SideLeft: "there is only one view", keymap.SweepDone: "there is no sweep", keymap.Next: "nothing is being looked for",
	} {
		assert.Equal(t, why, all[a].Lack, a)
	}
	for _, a := range []keymap.Action{keymap.Quit, keymap.Keys, keymap.Tree, keymap.Bookmarks, keymap.Settings, keymap.Sweep} {
		assert.Empty(t, all[a], a)
	}
}

// In a file the commands say what they would act on.
func TestInAFile(t *testing.T) {
	f := &codebase.File{Path: "dispatch/roster.go", Text: text.NewDocument([]byte("a\nb\n"))}
	w := readiness.World{
		Here: surface.Here{File: f, View: trail.View{Place: place.Place{Path: f.Path, Line: 2}}, Crumbs: []codebase.Crumb{{Name: "Roster"}, {Name: "Assign"}}},
		Name: "free", Asked: true, Unsaved: 2, Changed: true, Views: 2, Files: 2, Open: 3, Closed: true, Leaf: true, Back: true, Forward: true, Edited: true, Marks: true, Sweep: true, Listed: true,
	}
	all := readiness.Of(w, keymap.Default())
	for a, on := range map[keymap.Action]string{
		keymap.References: "of free", keymap.Solo: "Assign", keymap.CopyLine: "dispatch/roster.go:2", keymap.Bookmark: "line 2", keymap.SaveFile: "roster.go", keymap.SaveAll: "2 files with changes",
	} {
		assert.Equal(t, on, all[a].On, a)
	}
	for a, s := range all {
		assert.Empty(t, s.Lack, a)
	}
	w.Around = true
	all = readiness.Of(w, keymap.Default())
	assert.Equal(t, "of free", all[keymap.References].On)
	assert.Equal(t, "there is no name under the caret", all[keymap.Definition].Lack)
	w.Name, w.Changed = "", false
	all = readiness.Of(w, keymap.Default())
	assert.Equal(t, "there is no name here, and nothing around it has one", all[keymap.References].Lack)
	assert.Equal(t, "roster.go has no changes to save", all[keymap.SaveFile].Lack)
}
