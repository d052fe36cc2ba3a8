package linecolors_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/linecolors"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// painter counts how often it was asked about a line.
type painter map[place.Place]int

func (p painter) Colors(_ context.Context, path string, line int) highlight.Spans {
	p[place.Place{Path: path, Line: line}]++
	if path == "plain.txt" {
		return nil
	}
	return highlight.Spans{{Start: 0, End: 4}}
}

func TestColorsInTheOrderOfTheList(t *testing.T) {
	p := painter{}
	c := linecolors.New(surface.NewAsker(context.Background(), nil), p)
	all := []place.Place{{Path: "plain.txt", Line: 1, Col: 3}}
	for i := range 130 {
		all = append(all, place.Place{Path: "hut.go", Line: i + 1, Col: 7})
	}
	uitest.Carry(surface.Begin(c.Find(all)))
	assert.NotNil(t, c.Of("hut.go", 130), "those behind the first come, too")
	assert.Nil(t, c.Of("other.go", 1))
	uitest.Carry(surface.Begin(c.Find(all)))
	assert.Equal(t, 1, p[place.Place{Path: "hut.go", Line: 1}], "what is known is not asked for again")
	assert.Equal(t, 1, p[place.Place{Path: "plain.txt", Line: 1}], "nor what has no colours")
	c.Forget()
	assert.Nil(t, c.Of("hut.go", 130))
	work := c.Find(all)
	c.Cancel()
	uitest.Carry(surface.Begin(work))
	assert.Nil(t, c.Of("hut.go", 1), "what is not wanted any more is not taken")
}
