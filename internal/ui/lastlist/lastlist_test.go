package lastlist_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/lastlist"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// code answers with places, and is another after each change.
type code struct {
	all        []answer.Answer
	generation int
	asked      int
}

func (c *code) AskAgain(context.Context, *sweep.Source) ([]answer.Answer, error) {
	c.asked++
	return c.all, nil
}
func (c *code) Generation() int { return c.generation }

// list is one that can be brought back.
type list struct {
	surface.Surface
	left *resume.Last
}

func (l *list) Left() *resume.Last { return l.left }
func (l *list) Again(last resume.Last) surface.Intent {
	return surface.Say("again: %s at %s", last.Title, last.At)
}

func at(path string, line int) answer.Answer {
	return answer.Answer{Answer: resolve.Answer{Path: path}, Line: line, Col: 1}
}

func begin(last *resume.Last) (*lastlist.Model, *code, *list) {
	c, l := &code{all: []answer.Answer{at("a.go", 3), at("a.go", 9), at("b.go", 1)}}, &list{}
	return lastlist.New(&uitest.Host{}, c, map[string]surface.Reopened{"places": l}, last), c, l
}

func next(m *lastlist.Model, forward bool) surface.Intent {
	return uitest.Last(uitest.Carry(m.Next(forward)))
}

func TestTheLastListAgain(t *testing.T) {
	m, _, l := begin(nil)
	again := m.Commands()[keymap.LastList]
	assert.Contains(t, uitest.Said(again()), "there was no list yet: Space searches")
	m.Closed(l)
	assert.Nil(t, m.Last(), "it had nothing in it")
	l.left = &resume.Last{List: "places", Title: "references of snow", At: place.Place{Path: "a.go", Line: 3}}
	m.Closed(l)
	assert.Equal(t, "again: references of snow at a.go:3", again().Say)
	assert.False(t, m.Any(), "its question is not known")
}

// Its places are gone through without it, in their order, until the end; what changed is asked for again.
func TestAlongItsPlaces(t *testing.T) {
	m, c, _ := begin(&resume.Last{List: "places", Title: "references of snow", How: "reference of snow", Source: sweep.Source{Kind: sweep.OfWay}, At: place.Place{Path: "a.go", Line: 3, Col: 1}})
	assert.True(t, m.Any())
	todo := next(m, true)
	assert.Equal(t, 9, todo.Go.Line)
	assert.Equal(t, "2 of 3: references of snow", todo.Go.After)
	assert.True(t, todo.Go.Lead, "all of them are one stop of the trail")
	assert.Equal(t, "b.go", next(m, true).Go.Path)
	assert.Contains(t, uitest.Said(next(m, true)), "this is the last of 3 places: references of snow; z shows all")
	assert.Equal(t, 9, next(m, false).Go.Line)
	assert.Equal(t, 1, c.asked)
	c.generation, c.all = 2, []answer.Answer{at("a.go", 4), at("a.go", 12), at("b.go", 1)}
	assert.Equal(t, 12, next(m, true).Go.Line, "the place one was at has moved")
	assert.Equal(t, 2, c.asked)
	assert.Equal(t, 4, next(m, false).Go.Line)
	assert.Contains(t, uitest.Said(next(m, false)), "this is the first of 3 places")
	c.generation, c.all = 3, nil
	assert.Equal(t, "nothing is left of references of snow", next(m, true).Say)
}
