package askline_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func TestAsking(t *testing.T) {
	s := &askline.Surface{}
	var got string
	todo := s.Ask("name of this stop:", "hut", func(answer string) surface.Intent { got = answer; return surface.Say("it is %s", answer) })
	assert.Same(t, s, todo.Open)
	assert.Contains(t, uitest.Of(s, 80, 1), "name of this stop: hut")
	x, _, typed := s.Cursor()
	assert.True(t, typed)
	assert.Equal(t, len("  name of this stop: hut"), x)
	last := uitest.Last(uitest.Press(s, "backspace", "g", "enter"))
	assert.True(t, last.Close)
	assert.Equal(t, "hug", got)
	assert.Equal(t, "it is hug", last.Say)
	assert.Equal(t, surface.Close(), uitest.Last(uitest.Press(s, "esc")), "nothing is done")
}

// A path is often longer than the line: what one changes in it is in sight, with the caret on it.
func TestALongAnswer(t *testing.T) {
	s := &askline.Surface{}
	s.Ask("save it as:", "stations/arnfirst/huts/upper/readings/of/snow.txt", func(string) surface.Intent { return surface.Intent{} })
	text := uitest.Of(s, 60, 1)
	x, _, _ := s.Cursor()
	assert.Equal(t, "snow.txt", string([]rune(text)[x-8:x]))
	uitest.Press(s, "home")
	text = uitest.Of(s, 60, 1)
	x, _, _ = s.Cursor()
	assert.Equal(t, "stations/", text[x:x+9])
}
