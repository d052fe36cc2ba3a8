package sheet

import (
	"fmt"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

func drawn(m *Model, width, height int) []string {
	rows := m.Rows(width, height, &palette.Plain)
	for i, r := range rows {
		rows[i] = regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(r, "")
	}
	return rows
}

func many(n int) (rows []Row) {
	for i := range n {
		rows = append(rows, Row{What: "file", Name: fmt.Sprintf("name%d.go", i), Where: fmt.Sprintf("some/folder/%d/", i), Value: i})
	}
	return rows
}

func TestChoosing(t *testing.T) {
	var m Model
	_, _, ok := m.Chosen()
	assert.False(t, ok)
	m.Set([]Section{{Title: "one", Rows: many(2)}, {Title: "two", Rows: many(3)}}, 0)
	m.Move(3)
	row, n, _ := m.Chosen()
	assert.Equal(t, [2]any{1, 3}, [2]any{row.Value, n})
	assert.Equal(t, "two", m.Section())
	m.Move(99)
	m.Wrap()
	assert.Equal(t, "one", m.Section())
	m.Move(-99)
	m.Update([]Section{{Rows: many(1)}})
	_, n, ok = m.Chosen()
	assert.True(t, ok && n == 0)
}

func TestTheChosenRowIsInSight(t *testing.T) {
	var m Model
	m.Set([]Section{{Title: "files", Note: "300", Rows: many(300)}}, 0)
	assert.Contains(t, drawn(&m, 60, 5)[0], "files  300")
	for range 310 {
		m.Move(1)
		row, _, _ := m.Chosen()
		view := strings.Join(drawn(&m, 60, 5), "\n")
		assert.Contains(t, view, "▌ ")
		assert.Contains(t, view, row.Name)
	}
	for range 310 {
		m.Move(-1)
	}
	assert.Contains(t, drawn(&m, 60, 5)[0], "files", "and the heading comes back")
}

func TestRowsKeepToTheWidth(t *testing.T) {
	var m Model
	m.Set([]Section{{Rows: []Row{
		{What: "a very long word for a kind", Name: strings.Repeat("name", 40), At: []int{0, 80}, Where: strings.Repeat("folder/", 30), WhereAt: []int{3, 200}, Key: "Ctrl+Q"},
		{What: "file", Name: "雪崩.go", Where: "x/"},
	}}}, 0)
	for width := 12; width < 150; width++ {
		for _, r := range drawn(&m, width, 4) {
			assert.Equal(t, width, ink.Width(r), "%q", r)
		}
		assert.Equal(t, width, ink.Width(regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(Edge(width, [][2]string{{"Enter", "go there"}}, &palette.Plain), "")))
	}
	cut, at := frontCut("dispatch/deep/roster", []int{0, 14, 15}, 10)
	assert.Equal(t, "…ep/roster", cut)
	assert.Equal(t, "ro", cut[at[0]:at[1]+1])
}

func TestNumbers(t *testing.T) {
	assert.Equal(t, "1 file", Count(1, "file", "files"))
	assert.Equal(t, "12,345 files", Count(12345, "file", "files"))
	assert.Equal(t, "-1,000", Number(-1000))
	assert.Equal(t, "100", Number(100))
}

func TestLinesAroundRows(t *testing.T) {
	var m Model
	var rows []Row
	for i := range 40 {
		rows = append(rows, Row{What: "code", Name: fmt.Sprintf("row %d.", i), Above: fmt.Sprintf("above %d.", i), Below: fmt.Sprintf("below %d.", i)})
	}
	m.Set([]Section{{Title: "one", Rows: rows[:20]}, {Title: "two", Rows: rows[20:]}}, 0)
	assert.Equal(t, 122, m.Lines())
	for i := range 40 {
		drawn := m.Rows(60, 9, &palette.Palette{})
		assert.Len(t, drawn, 9)
		text := strings.Join(drawn, "\n")
		assert.Contains(t, text, fmt.Sprintf("row %d.", i), "the chosen row is in sight")
		assert.Equal(t, 1, strings.Count(text, "▌"))
		m.Move(1)
	}
	m.Move(-100)
	assert.Contains(t, strings.Join(m.Rows(60, 9, &palette.Palette{}), "\n"), "above 0.")
}
