package trails_test

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/trails"
	"rooktrail/internal/ui/uitest"
)

func drawn(m *trails.Model) string {
	return uitest.Text(m.Rows(150, &palette.Plain))
}

func press(m *trails.Model, keys ...string) (last trails.Event) {
	for _, k := range uitest.Keys(keys...) {
		last = m.Key(k)
	}
	return last
}

// walked is a trail with a side path: from one by two to deep, back, and by three to four.
func walked() *trail.Trail {
	t := &trail.Trail{Name: "the bell", Made: time.Now()}
	stop := func(path string, line int, how string) *trail.Stop {
		return t.Go(trail.View{Place: place.Place{Path: path, Line: line, Col: 1}}, how, "")
	}
	stop("huts/one.go", 10, "the beginning")
	stop("huts/two.go", 20, "definition of ring")
	stop("huts/deep.go", 25, "definition of clapper")
	t.Back()
	t.Back()
	stop("huts/three.go", 30, "text: ring")
	stop("huts/four.go", 40, "references of ring")
	return t
}

func opened() (*trails.Model, *trail.Trail) {
	m, t := trails.New(), walked()
	m.Open(t, "huts/four.go", 16)
	return m, t
}

func TestTheStopsAsATree(t *testing.T) {
	m, walk := opened()
	for _, want := range []string{"the bell  5 of 5", "one.go 10, the beginning", "├─ two.go", "two.go 20, definition of ring", "[four.go]", "references of ring"} {
		assert.Contains(t, drawn(m), want)
	}
	s, ok := m.Chosen()
	assert.True(t, ok)
	assert.Same(t, walk.Here(), s, "the present stop is chosen")
	press(m, "two")
	assert.NotContains(t, drawn(m), "three.go")
	e := press(m, "enter")
	assert.Equal(t, trails.Taken, e.Kind)
	assert.Equal(t, "huts/two.go", e.Stop.View.Place.Path)
	m, _ = opened()
	press(m, "up", "up")
	assert.Equal(t, trails.Selected, press(m, "left").Kind)
	assert.Contains(t, drawn(m), "folded away")
	press(m, "right")
	assert.NotContains(t, drawn(m), "folded away")
	assert.Equal(t, trails.Closed, press(m, "esc").Kind)
}

func TestWhatIsWrittenOnAStop(t *testing.T) {
	m, walk := opened()
	e := press(m, "alt+n", "ask them", "enter")
	assert.Equal(t, []any{trails.Noted, "ask them", walk.Here()}, []any{e.Kind, e.Words, e.Stop})
	walk.SetNote(e.Stop, e.Words)
	m.Refresh()
	assert.Contains(t, drawn(m), "ask them")
	e = press(m, "alt+r", "the crack", "enter")
	assert.Equal(t, []any{trails.Named, "the crack"}, []any{e.Kind, e.Words})
	walk.SetName(e.Stop, e.Words)
	e = press(m, "alt+v")
	walk.SetStarred(e.Stop, true)
	m.Refresh()
	assert.Contains(t, drawn(m), "[the crack] ★")
	press(m, "tab", "tab")
	assert.Contains(t, drawn(m), "only: ")
	m.Ask()
	assert.True(t, press(m, "!", "enter").Done, "nothing but the note was wanted")
}

func TestCuttingAsksFirst(t *testing.T) {
	m, walk := opened()
	press(m, "up")
	assert.Equal(t, trails.Nothing, press(m, "alt+d").Kind)
	assert.Contains(t, drawn(m), "cut this stop away, with 1 stop behind it? Alt+D does")
	press(m, "esc")
	assert.NotContains(t, drawn(m), "cut this stop away, with")
	e := press(m, "alt+d", "alt+d")
	assert.Equal(t, trails.Cut, e.Kind)
	walk.Cut(e.Stop)
	m.Refresh()
	assert.NotContains(t, drawn(m), "four.go")
	assert.Equal(t, trails.Uncut, press(m, "alt+u").Kind)
}

func TestHandingATrailOn(t *testing.T) {
	m, _ := opened()
	e := press(m, "alt+h")
	assert.Equal(t, trails.Nothing, e.Kind)
	assert.Contains(t, drawn(m), "write it to the file (.md or .json): trail.md")
	e = press(m, "enter")
	assert.Equal(t, []any{trails.Exported, "trail.md", 5}, []any{e.Kind, e.Words, len(e.Stops)})
	assert.Len(t, press(m, "alt+g").Stops, 5)
	e = press(m, "alt+b", "another", "enter")
	assert.Equal(t, []any{trails.Begun, "another"}, []any{e.Kind, e.Words})
}

func TestTheTrailsOfTheProject(t *testing.T) {
	m, walk := opened()
	assert.Equal(t, trails.Trails, press(m, "alt+s").Kind)
	m.List(walk, []trail.About{
		{ID: "a", Present: true}, {ID: "b", Name: "snow", Stops: 7, Made: time.Now(), Used: time.Now()},
		{ID: "c", Name: "wind", Taken: true}, {ID: "d", Name: "broken", Err: errors.New("it is not well formed")},
	}, 16)
	assert.True(t, m.Listing())
	for _, want := range []string{"present", "the bell", "snow", "7 stops, begun", "last walked", "another program is on it", "it is not well formed"} {
		assert.Contains(t, drawn(m), want)
	}
	assert.Equal(t, trails.Closed, press(m, "enter").Kind, "one is on it already")
	assert.Equal(t, trails.Nothing, press(m, "alt+d").Kind, "the present one is not forgotten")
	e := press(m, "alt+r", "!", "enter")
	assert.Equal(t, []any{trails.Renamed, "", "the bell!"}, []any{e.Kind, e.ID, e.Words})
	e = press(m, "down", "alt+r", " and ice", "enter")
	assert.Equal(t, []any{trails.Renamed, "b", "snow and ice"}, []any{e.Kind, e.ID, e.Words})
	assert.Equal(t, trails.Event{Kind: trails.Joined, ID: "b"}, press(m, "alt+j"))
	press(m, "alt+d")
	assert.Contains(t, drawn(m), "forget this trail, with its notes? Alt+D does")
	assert.Equal(t, trails.Event{Kind: trails.Removed, ID: "b"}, press(m, "alt+d"))
	assert.Equal(t, trails.Event{Kind: trails.Switched, ID: "b"}, press(m, "enter"))
	press(m, "alt+s")
	assert.False(t, m.Listing(), "the stops again")
}

func TestAnEmptyTrail(t *testing.T) {
	m := trails.New()
	m.Open(&trail.Trail{}, "", 16)
	for _, k := range []string{"enter", "down", "alt+n", "alt+r", "alt+d", "alt+v", "alt+h", "enter", "alt+g", "tab", "left", "alt+b", "esc"} {
		assert.NotPanics(t, func() { press(m, k); drawn(m) }, k)
	}
	m.List(&trail.Trail{}, nil, 16)
	for _, k := range []string{"enter", "down", "alt+n", "alt+r", "alt+d", "alt+j", "esc"} {
		assert.NotPanics(t, func() { press(m, k); drawn(m) }, k)
	}
}
