package text_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

// rowsOf are the rows of a line as they stand on the screen.
func rowsOf(line string, width int, tabs text.Tabs) (rows []string) {
	w := tabs.Ruler([]byte(line)).Wrap(width)
	for row := range w.Rows() {
		end := len(line)
		if row+1 < w.Rows() {
			end = w.Start(row + 1).Offset
		}
		rows = append(rows, strings.Repeat(" ", w.Indent(row))+line[w.Start(row).Offset:end])
	}
	return rows
}

func TestWrap(t *testing.T) {
	for _, c := range []struct {
		line  string
		width int
		want  []string
	}{
		{"", 10, []string{""}},
		{"short", 10, []string{"short"}},
		{"exactly 10", 10, []string{"exactly 10"}},
		{"the team goes out", 10, []string{"the team ", "  goes out"}},
		{"    assign(team, hut)", 16, []string{"    assign(team, ", "      hut)"}},
		{"avalanchewarning", 8, []string{"avalanch", "  ewarni", "  ng"}},
		{"risk avalanchewarnings", 10, []string{"risk ", "  avalanch", "  ewarning", "  s"}},
		{"雪崩雪崩雪崩", 7, []string{"雪崩雪", "  崩雪", "  崩"}},
		{"blanks behind         ", 13, []string{"blanks behind         "}},
	} {
		assert.Equal(t, c.want, rowsOf(c.line, c.width, 0), c.line)
	}
	assert.Equal(t, []string{"\tgo out, all ", "          of you"}, rowsOf("\tgo out, all of you", 20, 8))
}

// Every byte of a line stands in one row, in a column of it, and is found there.
func FuzzWrap(f *testing.F) {
	for _, s := range []string{"the team goes\tout to the hut", "雪崩 e\u0301 \x1b[0m 👩‍🚒 x", strings.Repeat("ab cd ", 900), strings.Repeat("\t雪x", 900), " \t "} {
		f.Add(s, 12, 4)
		f.Add(s, 2, 1)
	}
	f.Fuzz(func(t *testing.T, s string, width, tab int) {
		if strings.ContainsRune(s, '\n') {
			return
		}
		tabs := text.Tabs(tab)
		r := tabs.Ruler([]byte(s))
		w := r.Wrap(width)
		require.Positive(t, w.Rows())
		row, seen := 0, 0
		tabs.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
			at := w.Row(c)
			require.True(t, at == row || at == row+1, "rows follow each other")
			require.Less(t, at, w.Rows())
			row = at
			across := w.Across(c)
			require.GreaterOrEqual(t, across, w.Indent(at))
			require.Equal(t, c.Offset, w.At(at, across).Offset)
			seen++
			return seen < 300
		})
	})
}
