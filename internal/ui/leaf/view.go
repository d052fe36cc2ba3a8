package leaf

import (
	"fmt"
	"strings"

	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Rows draws the topmost leaf in so many rows.
func (m *Model) Rows(plan frame.Plan, height int, p *palette.Palette) []string {
	l, width := m.top(), plan.LeafRect().Width
	ruleStyle := palette.On(p.Rule, p.Ground)
	own := *p
	own.Ground, own.Present = p.Sheet, p.Chosen
	rule, inside := "", width
	if plan.LeafBeside() {
		rule, inside = ink.NewRow(1).Put("│", ruleStyle).String(ruleStyle), width-1
	}
	rows := []string{rule + m.head(l, inside, &own)}
	blank := ink.NewRow(inside).String(palette.On(own.Quiet, own.Ground))
	for range l.blank {
		rows = append(rows, rule+blank)
	}
	for _, r := range l.Code.Rows(&own) {
		rows = append(rows, rule+r)
	}
	for len(rows) < height-1 {
		rows = append(rows, rule+blank)
	}
	return append(rows[:height-1], rule+sheet.Edge(inside, m.hints(l), &own))
}

// head says what a leaf shows.
func (m *Model) head(l *leaf, width int, p *palette.Palette) string {
	quiet, strong := palette.On(p.Quiet, p.Ground), palette.On(p.Here, p.Ground).Strong()
	var words []string
	if n := len(l.answers); n > 1 {
		words = append(words, fmt.Sprintf("%d of %s", l.number+1, sheet.Number(n)))
	}
	if n := len(m.stack); n > 1 {
		words = append(words, fmt.Sprintf("leaf %d", n))
	}
	if l.pinned {
		words = append(words, "pinned")
	}
	right := strings.Join(words, "  ") + " "
	r := ink.NewRow(width).Put(" "+ink.Cut(l.how, width-ink.Width(right)-3), strong)
	if room := r.Left() - ink.Width(right) - 3; room > 8 {
		r.Put("  "+ink.CutFront(l.Code.Path(), room), quiet)
	}
	return r.End(right, quiet, quiet).String(quiet)
}

// hints are the keys that work on a leaf.
func (m *Model) hints(l *leaf) [][2]string {
	into := "into it"
	if m.frame.InLeaf() {
		into = "to the code"
	}
	keys := [][2]string{{m.keys.Key(keymap.LeafInto), into}, {m.keys.Key(keymap.LeafGo), "go there"}, {keymap.Ends.Close.Help().Key, "turn back"}}
	if len(l.answers) > 1 {
		keys = append(keys, [2]string{m.keys.Key(keymap.LeafPrevious) + " " + m.keys.Key(keymap.LeafNext), "other answers"})
	}
	pin := "pin it"
	if l.pinned {
		pin = "let go"
	}
	return append(keys, [2]string{m.keys.Key(keymap.LeafPin), pin})
}

// Cursor is where the caret stands while it is in the leaf, in cells from the upper left of the body.
func (m *Model) Cursor(plan frame.Plan) (x, y int, ok bool) {
	l := m.top()
	x, y, ok = l.Code.Cursor()
	r := plan.LeafRect()
	x, y = x+r.X, y+r.Y+l.blank+1
	if plan.LeafBeside() {
		x++ // the rule
	}
	return x, y, ok
}
