package place_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

func doc(lines ...string) *text.Document {
	return text.NewDocument([]byte(strings.Join(lines, "\n") + "\n"))
}

// A place is found on either branch, though what stands there on one is like nothing on the
// other.
func TestToAndFroBetweenBranches(t *testing.T) {
	one := doc("func open() {", "\tread the gauge at the hut", "\twrite it down", "}")
	two := doc("// new", "func open() {", "\tread the gauge of each hut in turn", "\twrite it down", "}")
	m := place.Remember(place.NewAnchor(place.Place{Path: "a", Line: 2, Col: 2}, one, "open"))
	find := func(d *text.Document) (int, place.Fate) {
		at, fate := place.NewFinder(d, nil).Recall(&m)
		if fate != place.Gone {
			m.Found(place.NewAnchor(at, d, "open"))
		}
		return at.Line, fate
	}
	line, fate := find(two)
	assert.Equal(t, []any{3, place.Changed}, []any{line, fate})
	line, fate = find(one)
	assert.Equal(t, []any{2, place.Same}, []any{line, fate}, "as it was at first")
	_, _ = find(two)
	_, _ = find(two)
	line, _ = find(one)
	assert.Equal(t, 2, line)
	_, fate = find(doc("nothing", "is", "left"))
	assert.Equal(t, place.Gone, fate)
}

func TestFormerPaths(t *testing.T) {
	m := place.Remember(place.Anchor{Path: "a"})
	m.MoveTo("a")
	assert.Empty(t, m.Former)
	m.MoveTo("b")
	m.MoveTo("a")
	m.MoveTo("b")
	assert.Equal(t, []string{"a"}, m.Former)
	for _, p := range strings.Split("c d e f g h i j k l", " ") {
		m.MoveTo(p)
	}
	assert.Len(t, m.Former, 8)
}

func TestIsInside(t *testing.T) {
	for p, inside := range map[string]bool{"a.go": true, "a/b": true, "a/../b": true, "..x": true, "": false, "/a": false, "..": false, "../a": false, "a/../../b": false, `a\b`: false, "c:/x": false, "a\x00": false} {
		assert.Equal(t, inside, place.IsInside(p), p)
	}
}
