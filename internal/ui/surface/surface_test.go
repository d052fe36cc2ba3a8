package surface_test

import (
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/change/filing"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func TestWhatAFileLacks(t *testing.T) {
	var here surface.Here
	assert.Equal(t, "no file is shown; Space finds one", uitest.Said(here.Lack("it has no 100% of it")))
	here.View.Place.Path = "hut.go"
	assert.Equal(t, "it has no 100% of it", here.Lack("it has no 100% of it").Say)
}

// Of two intents, nothing of the first is lost but what the second says in its stead.
func TestIntentsOneAfterTheOther(t *testing.T) {
	first := surface.Intent{
		Say: "one", Wait: "one", Close: true, Leave: true, Stay: true, LookBack: true, Go: &surface.Visit{Path: "a"}, Quit: true,
		Do: keymap.Keys, Named: true, Copy: &surface.Copy{Text: "a"}, Edit: "a", Desktop: "a", Moved: filing.Moved{From: "a", To: "b"},
		Follow: &trail.View{Top: 1}, Keep: true, Caret: true, Slid: true, Arrange: true, Unkey: true, Folder: "a", Anew: true, Marked: true,
	}
	assert.Equal(t, first, first.And(surface.Intent{}))
	assert.Equal(t, first, surface.Intent{}.And(first))
	second := surface.Intent{Say: "two", Go: &surface.Visit{Path: "b"}, Look: &surface.Visit{Path: "c"}}
	both := first.And(second)
	assert.Equal(t, "two", both.Say)
	assert.Equal(t, "one", both.Wait)
	assert.Equal(t, "b", both.Go.Path)
	assert.Equal(t, "c", both.Look.Path)
	assert.False(t, both.LookBack, "what is looked at last counts")
}

// What is to be done then is done for both, and so is the work of both.
func TestTheWorkOfBothIsDone(t *testing.T) {
	done := 0
	work := func() tea.Msg { done++; return nil }
	then := func() surface.Intent { done += 10; return surface.Intent{} }
	uitest.Carry(surface.Intent{Cmd: work, Then: then}.And(surface.Intent{Cmd: work, Then: then}))
	assert.Equal(t, 22, done)
	uitest.Carry(surface.Intent{Then: then}.And(surface.Intent{Cmd: work}))
	assert.Equal(t, 33, done)
}
