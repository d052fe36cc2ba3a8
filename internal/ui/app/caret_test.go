package app

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
)

// The caret stays where one types, however fast that is.
func TestTheCaretStaysWhereOneTypes(t *testing.T) {
	p := begin(t, place.Place{Path: "README.md"})
	p.see("[README.md 1]")
	p.quiet(nil)
	for _, k := range []string{"w", "down", "enter", "=k"} {
		p.press(k)
	}
	p.see("line 3 column 2")
	p.until(func(string) bool { return p.model.trails.Trail().Here().View.Place.Line == 3 }, "the stop where one types")
	p.quiet(nil)
	line, col := p.model.frame.Code.Caret()
	assert.Equal(t, []int{3, 2}, []int{line, col})
	assert.Equal(t, 3, p.model.trails.Trail().Here().View.Place.Line)
	p.see("[README.md 3 ✎]").press("=!").see("k!")
}
