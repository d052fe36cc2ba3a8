package topline_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/topline"
	"rooktrail/internal/ui/uitest"
)

func drawn(l topline.Line, width int) string {
	return uitest.Text([]string{l.Row(width, uitest.Plain)})
}

func TestWhatStaysWhereThereIsLittleRoom(t *testing.T) {
	l := topline.Line{
		Project: "tarnwell", Path: "dispatch/roster.go",
		Crumbs: []codebase.Crumb{{Name: "dispatch", Kind: facts.Package}, {Name: "Roster", Kind: facts.Struct}, {Name: "Assign", Kind: facts.Method}},
		Words:  []topline.Word{{Text: "line 62 column 4", Rank: 6}, {Text: "3 bookmarks", Rank: 3}, {Text: "WRITE"}},
	}
	wide := drawn(l, 140)
	for _, part := range []string{" tarnwell ", "dispatch ▸ roster.go ▸ Roster ▸ Assign", "line 62 column 4   3 bookmarks   WRITE"} {
		assert.Contains(t, wide, part)
	}
	narrow := drawn(l, 60)
	assert.Contains(t, narrow, "… ▸ ", "the beginning of the path goes")
	assert.Contains(t, narrow, "Assign")
	assert.NotContains(t, narrow, "line 62", "what matters least goes first")
	for width := 40; width < 160; width++ {
		row := drawn(l, width)
		assert.Len(t, []rune(row), width)
		assert.Contains(t, row, "WRITE", "%d columns", width)
		assert.Contains(t, row, "Assign", "%d columns", width)
	}
	assert.True(t, strings.HasSuffix(drawn(topline.Line{Project: "tarnwell", Words: l.Words}, 60), "WRITE "))
	assert.Contains(t, drawn(topline.Line{Project: "tarnwell", Path: "/usr/lib/time.go"}, 80), "/ ▸ usr ▸ lib ▸ time.go")
}
