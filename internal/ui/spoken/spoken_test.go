package spoken_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/spoken"
)

func trimmed(rows []string) (out []string) {
	for _, r := range rows {
		if r = strings.TrimRight(r, " "); r != "" {
			out = append(out, r)
		}
	}
	return out
}

func TestARowIsSaidWithoutWhatIsDrawn(t *testing.T) {
	for row, want := range map[string]string{
		" ▌  method  Roster.Assign    dispatch/roster.go 59 ":   "method, Roster.Assign, dispatch/roster.go 59",
		"── Enter go there ─ ↑↓ choose ─ Esc back as it was ──": "Enter go there, Up Down choose, Esc back as it was",
		" ▪ kept as the sweep":                    "kept as the sweep",
		" trail  README.md 1 ── [roster.go 42 ✎]": "trail, README.md 1, [roster.go 42 changed,]",
		"────────────":                            "",
	} {
		assert.Equal(t, want, spoken.Said(row), row)
	}
}

func TestTheScreenInWords(t *testing.T) {
	s := spoken.Screen{Where: []string{"tarnwell", "roster.go", "Assign", "line 59"}, Line: "func Assign() {", Column: 5, Ways: "r 3", Message: "tip"}
	rows, x, y := s.Rows(40, 8)
	assert.Equal(t, []string{"tip", "func Assign() {", "tarnwell, roster.go, Assign, line 59", "r 3"}, trimmed(rows))
	assert.Equal(t, [2]int{5, 1}, [2]int{x, y}, "the cursor is at the caret")
	assert.Len(t, rows, 8)

	s.Over, s.Typed, s.At = []string{"  find  rost", "  symbols  2", " ▌  struct  Roster    roster.go 16", "    field  roster", "── Esc back ──"}, true, 12
	rows, x, y = s.Rows(40, 8)
	assert.Equal(t, []string{"tip", "  find  rost", "struct, Roster, roster.go 16", "Esc back"}, trimmed(rows))
	assert.Equal(t, [2]int{12, 1}, [2]int{x, y}, "it is where one types")

	s.Typed = false
	_, x, y = s.Rows(40, 8)
	assert.Equal(t, [2]int{0, 1}, [2]int{x, y}, "or at what is chosen")

	far := spoken.Screen{Line: strings.Repeat("snow ", 40), Column: 150}
	rows, x, _ = far.Rows(40, 4)
	assert.Less(t, x, 40)
	assert.Equal(t, byte('s'), rows[0][x])
}
