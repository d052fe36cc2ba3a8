package walk_test

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
	guided "rooktrail/internal/ui/walk"
)

// project has every stop but those whose path is gone.go.
type project struct{ written string }

func (p *project) WriteWalk(w *walk.Walk, file string) error {
	if file == "" {
		return errors.New("it needs a name")
	}
	p.written = w.Name + " in " + file
	return nil
}

func (*project) LocateWalk(_ context.Context, w *walk.Walk) (fates []place.Fate) {
	for _, s := range w.Stops {
		fate := place.Same
		if s.Path == "gone.go" {
			fate = place.Gone
		}
		fates = append(fates, fate)
	}
	return fates
}

func (*project) UntilRead(context.Context) bool { return true }

func alarm(context.Context) *walk.Walk {
	from := 0
	return &walk.Walk{Name: "the alarm", Stops: []walk.Stop{
		{Anchor: place.Anchor{Path: "radio.go", Line: 4, Col: 1}, What: "Listen", Note: "here it comes in"},
		{Anchor: place.Anchor{Path: "gone.go", Line: 9, Col: 1}, What: "Ring", Code: []string{"func Ring() {", "}"}, CodeLine: 9},
		{Anchor: place.Anchor{Path: "roster.go", Line: 7, Col: 2}, What: "Assign", From: &from, Note: "who goes"},
	}}
}

func begun(t *testing.T, beside bool) (*guided.Model, surface.Intent) {
	m := guided.New(&uitest.Host{}, &project{}, keymap.Default(), func() bool { return beside })
	todo := uitest.Last(uitest.Carry(m.Start(alarm)))
	assert.True(t, m.Any())
	return m, todo
}

func TestAlongAWalk(t *testing.T) {
	m, todo := begun(t, true)
	assert.Equal(t, "radio.go", todo.Go.Path)
	assert.Equal(t, "walk: the alarm", todo.Go.How)
	assert.Equal(t, "stop 1 of 3 of the walk; n next, p back, Esc ends it", uitest.Said(surface.Intent{Say: todo.Go.After}))
	drawn := uitest.Text(m.Rows(40, 20, uitest.Plain))
	for _, part := range []string{"walk: the alarm", "1 of 3", "here it comes in", "n next", "p back"} {
		assert.Contains(t, drawn, part)
	}
	assert.Equal(t, "this is the first stop of the walk", m.Next(false).Say)
	assert.Contains(t, uitest.Said(m.Next(true)), "is not here any more; n goes on")
	assert.Contains(t, uitest.Text(m.Rows(40, 20, uitest.Plain)), "func Ring() {", "how it was")
	assert.Equal(t, "roster.go", m.Next(true).Go.Path)
	assert.Contains(t, uitest.Text(m.Rows(60, 20, uitest.Plain)), "the path turns back here")
	assert.Equal(t, "this is the last stop of the walk; Esc ends it", m.Next(true).Say)
	for height := 3; height < 20; height++ {
		assert.LessOrEqual(t, len(m.Rows(40, height, uitest.Plain)), height)
	}
	assert.Contains(t, m.End().Say, "the walk the alarm is over")
	assert.False(t, m.Any())
}

// Where there is no room beside the code, the message tells what the column would.
func TestWithoutRoomBeside(t *testing.T) {
	m, todo := begun(t, false)
	assert.Equal(t, "stop 1 of 3 of the walk: here it comes in", uitest.Said(surface.Intent{Say: todo.Go.After}))
	assert.NotNil(t, m.Next(true).Open, "the code as it was")
	assert.Contains(t, m.Next(true).Go.After, "on from stop 1: who goes")
}

func TestWalksInFiles(t *testing.T) {
	p := &project{}
	m := guided.New(&uitest.Host{}, p, keymap.Default(), func() bool { return true })
	assert.Equal(t, "3 stops are written to alarm.md", uitest.Last(uitest.Carry(m.Export("alarm.md", alarm))).Say)
	assert.Equal(t, "the alarm in alarm.md", p.written)
	assert.Equal(t, "it needs a name", uitest.Last(uitest.Carry(m.Export("", alarm))).Say)
	todo := uitest.Last(uitest.Carry(surface.Begin(m.Begin(alarm(context.Background()), []string{"../out.go"}))))
	assert.Contains(t, todo.Go.After, "stops that leave the project are refused: ../out.go")
	none := uitest.Last(uitest.Carry(surface.Begin(m.Begin(&walk.Walk{}, []string{"../out.go"}))))
	assert.Equal(t, "there is no stop on this walk; those that leave the project are refused: ../out.go", none.Say)
}
