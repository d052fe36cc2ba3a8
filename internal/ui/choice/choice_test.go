package choice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func opened() (*choice.Surface, surface.Intent) {
	s := &choice.Surface{}
	s.Resize(80, 20)
	return s, s.Open("ways on from the hut", "go there", []choice.Row{
		{Row: sheet.Row{What: "way", Name: "to the winch"}, Look: &surface.Visit{Path: "winch.go"}},
		{Row: sheet.Row{What: "way", Name: "down", Key: "d"}, Take: func() surface.Intent { return surface.Say("down it is") }},
		{Row: sheet.Row{What: "stay", Name: "here"}},
	})
}

func TestChoosing(t *testing.T) {
	s, todo := opened()
	assert.Equal(t, "winch.go", todo.Look.Path, "the first is shown at once")
	assert.Contains(t, uitest.Of(s, 80, 20), "ways on from the hut")
	assert.Equal(t, s.Lines(), len(s.Rows(uitest.Plain)))
	assert.Equal(t, "winch.go", uitest.Last(uitest.Press(s, "enter")).Go.Path)
	last := uitest.Last(uitest.Press(s, "down", "enter"))
	assert.True(t, last.Close)
	assert.Equal(t, "down it is", last.Say)
	assert.Equal(t, "down it is", uitest.Last(uitest.Press(s, "d")).Say)
	assert.Equal(t, surface.Close(), uitest.Last(uitest.Press(s, "end", "enter")))
	assert.Equal(t, surface.Intent{}, uitest.Last(uitest.Press(s, "z")), "a key that none has")
}

func TestLeaving(t *testing.T) {
	s, _ := opened()
	s.Left = func() surface.Intent { return surface.Say("later, then") }
	last := uitest.Last(uitest.Press(s, "esc"))
	assert.True(t, last.Close)
	assert.Equal(t, "later, then", last.Say)
	s.Open("another", "do it", nil)
	assert.Empty(t, uitest.Last(uitest.Press(s, "esc")).Say, "that was for the list before")
	assert.Equal(t, surface.Close(), uitest.Last(uitest.Press(s, "enter")), "with nothing to take")
}
