package code

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

func shown(content string, line, col, width, height int) *Model {
	m := &Model{}
	m.Resize(width, height)
	m.Show(&codebase.File{Path: "a.txt", Text: text.NewDocument([]byte(content))}, trail.View{Place: place.Place{Line: line, Col: col}})
	return m
}

func screen(m *Model) []string {
	rows := m.Rows(&palette.Plain)
	for i, r := range rows {
		rows[i] = strings.TrimRight(escapes.ReplaceAllString(r, ""), " ")
	}
	return rows
}

func caret(m *Model) [2]int {
	line, col := m.Caret()
	return [2]int{line, col}
}

func TestDrawing(t *testing.T) {
	m := shown("one\n\ttwo\n雪 three\n", 2, 1, 30, 5)
	assert.Equal(t, []string{"    1   one", "    2       two", "    3   雪 three", "", ""}, screen(m))
	x, y, ok := m.Cursor()
	assert.Equal(t, [3]any{8, 1, true}, [3]any{x, y, ok})
	m.Side(1)
	x, _, _ = m.Cursor()
	assert.Equal(t, 12, x, "behind the tab")
}

func TestTheCaretKeepsToItsColumn(t *testing.T) {
	m := shown("long line here\nab\n雪雪雪 wide\nlast one\n", 1, 9, 60, 10)
	m.Move(1)
	assert.Equal(t, [2]int{2, 3}, caret(m), "the end of a short line")
	m.Move(1)
	assert.Equal(t, [2]int{3, 12}, caret(m), "column 8 lies behind three wide characters, a blank and a letter")
	m.Move(1)
	assert.Equal(t, [2]int{4, 9}, caret(m))
	m.Move(99)
	m.Move(-99)
	assert.Equal(t, [2]int{1, 9}, caret(m))
}

func TestMovingOverTheEndsOfLines(t *testing.T) {
	m := shown("ab\ne\u0301f\n", 1, 3, 60, 10)
	m.Side(1)
	assert.Equal(t, [2]int{2, 1}, caret(m))
	m.Side(1)
	assert.Equal(t, [2]int{2, 4}, caret(m), "a letter with its accent is one step")
	m.Side(-2)
	assert.Equal(t, [2]int{1, 3}, caret(m))
	m.Side(-9)
	assert.Equal(t, [2]int{1, 1}, caret(m))
}

func TestWords(t *testing.T) {
	m := shown("\tif free_now(bjørn) {\n}\n", 1, 1, 60, 10)
	var stops []int
	for range 5 {
		m.Word(true)
		_, col := m.Caret()
		stops = append(stops, col)
	}
	assert.Equal(t, []int{2, 5, 14, 23, 1}, stops)
	m = shown("\tif free_now(bjørn) {\n}\n", 1, 23, 60, 10)
	m.Word(false)
	m.Word(false)
	assert.Equal(t, [2]int{1, 5}, caret(m))
	m.LineStart()
	assert.Equal(t, [2]int{1, 2}, caret(m))
	m.LineStart()
	assert.Equal(t, [2]int{1, 1}, caret(m))
	m.LineEnd()
	assert.Equal(t, [2]int{1, 23}, caret(m))
}

func TestTheCaretStaysInSight(t *testing.T) {
	m := shown(strings.Repeat("some line that is rather long, to scroll sideways in\n", 500), 1, 1, 40, 12)
	for range 700 {
		m.Move(1)
		_, y, ok := m.Cursor()
		assert.True(t, ok && y < 12)
	}
	m.Page(-0.5)
	m.LineEnd()
	x, _, ok := m.Cursor()
	assert.True(t, ok && x < 40)
	assert.True(t, strings.Contains(screen(m)[3], "‹"), "what is scrolled away is hinted at")
	m.Resize(20, 4)
	_, _, ok = m.Cursor()
	assert.True(t, ok)
	m.Line(1 << 30)
	assert.Equal(t, 500, caret(m)[0])
}

func TestOneVeryLongLine(t *testing.T) {
	m := shown(strings.Repeat("\tx雪", 1_000_000), 1, 1, 80, 10)
	m.LineEnd()
	for range 50 {
		m.Side(-1)
		for _, r := range screen(m) {
			assert.LessOrEqual(t, ink.Width(r), 80)
		}
	}
	_, _, ok := m.Cursor()
	assert.True(t, ok)
}

func TestWhatCannotBeShown(t *testing.T) {
	m := shown("\x00binary", 1, 1, 60, 9)
	assert.Contains(t, strings.Join(screen(m), "\n"), "a.txt is a binary file of 7 bytes.")
	_, _, ok := m.Cursor()
	assert.False(t, ok)
	m.ShowNote("gone.txt", "gone.txt is gone")
	for _, move := range []func(){func() { m.Move(3) }, func() { m.Side(2) }, func() { m.Word(true) }, func() { m.Page(1) }, m.LineEnd, m.LineStart} {
		move()
		assert.Contains(t, strings.Join(screen(m), "\n"), "gone.txt is gone")
	}
	for size, words := range map[int64]string{0: "0 bytes", 1: "1 byte", 999: "999 bytes", 1500: "1.5 kB", 999_949: "999.9 kB", 999_950: "1.0 MB", 999_950_000: "1.0 GB", 2e9: "2.0 GB"} {
		assert.Equal(t, words, Bytes(size))
	}
}
