package outline

import (
	"strings"

	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
)

// Beside draws the outline of a file as a column that stays beside the code and
// follows the caret, which stands at an offset. Imports are left out. said says what else is known of an entry, by where it begins
// and ends; nil for nothing.
func Beside(all []outline.Entry, said func(at, end uint32) string, offset, width, height int, p *palette.Palette) []string {
	rule, quiet := palette.On(p.Rule, p.Ground), palette.On(p.Quiet, p.Ground)
	heading := ink.NewRow(width).Put("├─ ", rule).Put("outline ", quiet)
	rows := []string{heading.Put(strings.Repeat("─", max(heading.Left(), 0)), rule).String(rule)}
	present := outline.Innermost(all, offset)
	room := height - len(rows)
	first := top(all, present, room)
	for i := first; i < len(all) && len(rows) < height; i++ {
		e := all[i]
		if !outline.Everything.Holds(e.Kind) {
			continue
		}
		r := ink.NewRow(width).Put("│ ", rule)
		name, kind := palette.On(p.Text, p.Ground), quiet
		if i == present {
			name = palette.On(p.Here, p.Ground).Strong()
			r.Put("▪", name)
		}
		r.To(4+2*min(e.Depth, 8), quiet)
		what := " " + e.Kind.String() + " "
		if said != nil {
			if words := said(e.At.Start, e.Full.End); words != "" {
				what = " " + words + " "
			}
		}
		r.Put(ink.Cut(e.Name, max(r.Left()-ink.Width(what)-1, 6)), name)
		rows = append(rows, r.End(what, kind, quiet).String(quiet))
	}
	if len(all) == 0 {
		rows = append(rows, ink.NewRow(width).Put("│ ", rule).Put(ink.Cut("nothing is known of the inside", width-3), quiet).String(quiet))
	}
	for len(rows) < height {
		rows = append(rows, ink.NewRow(width).Put("│", rule).String(quiet))
	}
	return rows[:height]
}

// top is the first entry to draw, so that the present one stands in the upper
// half of the room and the room is filled.
func top(all []outline.Entry, present, room int) int {
	first := max(present, 0)
	for above := room / 3; above > 0 && first > 0; {
		if first--; outline.Everything.Holds(all[first].Kind) {
			above--
		}
	}
	below := 0
	for i := first; i < len(all) && below < room; i++ {
		if outline.Everything.Holds(all[i].Kind) {
			below++
		}
	}
	for first > 0 && below < room {
		if first--; outline.Everything.Holds(all[first].Kind) {
			below++
		}
	}
	return first
}
