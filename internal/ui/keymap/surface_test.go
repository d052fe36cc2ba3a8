package keymap

import (
	"testing"

	"charm.land/bubbles/v2/key"
	"github.com/stretchr/testify/assert"
)

func TestStepsInAList(t *testing.T) {
	for name, rows := range map[string]int{
		"down": 1, "ctrl+n": 1, "up": -1, "ctrl+p": -1, "pgdown": 8, "pgup": -8, "home": -30, "end": 30,
	} {
		got, ok := Step(name, 8, 30)
		assert.True(t, ok, name)
		assert.Equal(t, rows, got, name)
	}
	got, _ := Step("pgdown", -2, 30)
	assert.Equal(t, 1, got, "a page is never less than a row")
	for _, name := range []string{"enter", "x", "alt+down", ""} {
		_, ok := Step(name, 8, 30)
		assert.False(t, ok, name)
	}
}

// A binding matches what is pressed and says what it is in foot lines.
func TestABindingMatchesAndTells(t *testing.T) {
	b := On("write a note", "alt+n")
	assert.True(t, Is("alt+n", b))
	assert.False(t, Is("n", b))
	assert.True(t, IsAny("esc", b, Ends.Close))
	assert.Equal(t, [2]string{"Alt+N", "write a note"}, Hint(b))
	assert.Equal(t, [2]string{"Alt+N", "note"}, Hint(b, "note"))
	assert.Equal(t, [][2]string{{"Alt+N", "write a note"}, {"Enter", "go there, or do it"}}, Hints(b, Ends.Take))
	assert.Equal(t, [2]string{"↑↓", "choose"}, Both(Moves.Up, Moves.Down, "choose"))
	assert.Equal(t, [2]string{"Alt+NP", "on and back"}, Both(On("", "alt+n"), On("", "alt+p"), "on and back"))
}

// The page shows the keys of a surface in a group of its own, without those that all lists have.
func TestTheKeysOfASurfaceOnThePage(t *testing.T) {
	own := struct{ Note key.Binding }{On("write a note", "alt+n")}
	m := Map{}.With("bells", Of(own, Moves, Ends))
	assert.Equal(t, Map{{Keys: []string{"alt+n"}, Title: "write a note", Group: "bells", Silent: true}}, m)
	assert.Len(t, Map{}.With(Sheet, Of(Moves, Ends)), 8)
}
