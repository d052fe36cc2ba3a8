package listkeys_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/listkeys"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func TestTheKeysOfAListAreFoundByWhatTheyDo(t *testing.T) {
	under := &places.Surface{}
	s := &listkeys.Surface{}
	s.Resize(80, 12)
	s.Over(under)
	assert.Equal(t, surface.Sheet, s.Form())
	text := uitest.Of(s, 80, 12)
	assert.Contains(t, text, "14 of 14 keys")
	uitest.Press(s, "left out")
	text = uitest.Of(s, 80, 12)
	assert.Contains(t, text, "without tests, only tests", "by what the letter stands for")
	assert.NotContains(t, text, "keep as a sweep")
	todo := uitest.Press(s, "enter")[0]
	assert.True(t, todo.Uncover)
	assert.Equal(t, "alt+t", todo.Press)
	todo = uitest.Press(s, "esc")[0]
	assert.True(t, todo.Uncover && todo.Press == "")
}

func TestNothingIsCalledSo(t *testing.T) {
	s := &listkeys.Surface{}
	s.Resize(80, 12)
	s.Over(&places.Surface{})
	uitest.Press(s, "xylophone")
	assert.Contains(t, uitest.Of(s, 80, 12), "0 of 14 keys")
	assert.Equal(t, surface.Intent{}, uitest.Press(s, "enter")[0])
}
