package code

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
)

// wrapping is a view of so many columns of text, in which long lines are broken.
func wrapping(content string, line, columns, height int) *Model {
	m := shown(content, line, 1, columns+9, height)
	m.SetLook(Look{Wrap: true, Margin: 1})
	return m
}

const prose = "one\nthe team goes out to the upper hut\nthree\nfour\n"

func TestLongLinesGoOnInTheNextRow(t *testing.T) {
	m := wrapping(prose, 2, 12, 6)
	assert.Equal(t, []string{"    1   one", "    2   the team", "          goes out", "          to the", "          upper hut", "    3   three"}, screen(m))
	m.LineEnd()
	x, y, ok := m.Cursor()
	assert.Equal(t, [3]any{19, 4, true}, [3]any{x, y, ok})
	m.SetLook(Look{})
	assert.Equal(t, "    2 ‹ r hut", screen(m)[1], "and off it again")
}

func TestUpAndDownGoByRowsWhereLinesAreBroken(t *testing.T) {
	m := wrapping(prose, 1, 12, 6)
	m.Side(2)
	for _, want := range [][2]int{{2, 3}, {2, 10}, {2, 19}, {2, 26}, {3, 3}, {4, 3}} {
		m.Move(1)
		assert.Equal(t, want, caret(m))
	}
	for _, want := range [][2]int{{3, 3}, {2, 26}, {2, 19}, {2, 10}, {2, 3}, {1, 3}} {
		m.Move(-1)
		assert.Equal(t, want, caret(m))
	}
	to, _ := m.Vertical(2, 2, -1)
	assert.Equal(t, len("one\nthe team "), to)
	to, _ = m.Vertical(2, -1, -1)
	assert.Equal(t, 0, to, "above the first row is the beginning")
	to, _ = m.Vertical(len(prose)-3, 1, -1)
	assert.Equal(t, len(prose), to, "below the last row is the end")
}

// A line of many screens is read row by row, and the caret stays on the screen.
func TestALineLongerThanTheScreen(t *testing.T) {
	for _, content := range []string{strings.Repeat("to the hut ", 300), strings.Repeat("snow", 200_000)} {
		m := wrapping("one\n"+content+"\nthree", 1, 20, 7)
		for range 40 {
			m.Move(1)
			require.True(t, m.InSight())
		}
		assert.Equal(t, 2, m.line)
		assert.Equal(t, 2, m.top)
		assert.Positive(t, m.part)
		m.Slide(7)
		assert.False(t, m.InSight())
		m.ToCaret()
		assert.True(t, m.InSight())
		m.Line(3)
		assert.Equal(t, [2]int{3, 1}, caret(m), "a line is a line, however many rows it takes")
		assert.Equal(t, "    3   three", screen(m)[6])
		m.Page(-1)
		assert.Equal(t, 2, m.line)
	}
}

func TestFoldedLinesAreNotBroken(t *testing.T) {
	m := wrapping(strings.Repeat("the team goes out to the hut and brings down whoever is there\n", 6), 1, 40, 5)
	m.SetFolds(fold.NewSet([]fold.Region{{Line: 2, Last: 4, Depth: 1, Kind: fold.Body}}))
	m.Folds().FoldIf(fold.All)
	m.Refold()
	assert.Equal(t, []string{"    1   the team goes out to the hut and brings", "          down whoever is there",
		"    2 ≡ the team goes out to the hut ›  ≡ 2 lines", "    5   the team goes out to the hut and brings", "          down whoever is there"}, screen(m))
}

func TestScrollingToTheSide(t *testing.T) {
	m := shown(strings.Repeat("0123456789", 5)+"\nshort\n", 1, 1, 29, 3)
	m.SlideAside(8)
	assert.Equal(t, "    1 ‹ 89012345678901234567›", screen(m)[0])
	m.SlideAside(800)
	assert.Equal(t, "    1 ‹ 01234567890123456789", screen(m)[0], "no further than there is something")
	m.SlideAside(-800)
	assert.Equal(t, "    1   01234567890123456789›", screen(m)[0])
}

func TestTabsAndMargin(t *testing.T) {
	m := shown("\tone\n"+lines(40), 1, 1, 40, 12)
	m.SetLook(Look{Tabs: 8, Margin: 1})
	assert.Equal(t, "    1           one", screen(m)[0])
	m.Line(12)
	assert.Equal(t, 11, m.Row(), "nothing stays in sight below the caret")
	m.SetLook(Look{Margin: 100})
	m.Line(20)
	assert.Equal(t, 6, m.Row(), "at most half of the screen")
	m.Show(m.File(), trail.View{Place: place.Place{Line: 30, Col: 1}})
	m.ToRow(2)
	assert.Equal(t, 5, m.Row())
}
