package frame

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/panes"
)

// Rows draws the sides, each in its place.
func (f *Frame) Rows(plan Plan, p *palette.Palette) []string {
	layout, height := plan.Layout(), plan.Room().Height
	rows := make([]string, height)
	rule := ink.NewRow(1).Put("│", palette.On(p.Rule, p.Ground)).String(palette.On(p.Rule, p.Ground))
	drawn := make([]int, height) // how many columns of each row
	for _, number := range inOrder(layout) {
		s, r := f.By(number), layout[number]
		var part []string
		if plan.Headed() {
			part = append(part, f.header(s, r.Width, p))
		}
		part = append(part, s.Code.Rows(p)...)
		for i := 0; i < r.Height && i < len(part) && r.Y+i < height; i++ {
			if drawn[r.Y+i] < r.X {
				rows[r.Y+i] += rule
			}
			rows[r.Y+i] += part[i]
			drawn[r.Y+i] = r.X + r.Width
		}
	}
	return rows
}

// inOrder are the sides of a layout from left to right.
func inOrder(layout map[int]panes.Rect) []int {
	return slices.SortedFunc(maps.Keys(layout), func(a, b int) int {
		return cmp.Or(cmp.Compare(layout[a].X, layout[b].X), cmp.Compare(layout[a].Y, layout[b].Y))
	})
}

// header names what a side shows, where there are several.
func (f *Frame) header(s *Side, width int, p *palette.Palette) string {
	rule, quiet := palette.On(p.Rule, p.Ground), palette.On(p.Quiet, p.Ground)
	name, where := s.Header()
	style := quiet
	if s == f.Side {
		style = palette.On(p.Here, p.Ground).Strong()
	}
	r := ink.NewRow(width).Put("── ", rule).Put(ink.Cut(name, width-8), style).Put(" ", quiet)
	if where != "" && r.Left() > ink.Width(where)+6 {
		r.Put("· "+where+" ", quiet)
	}
	return r.Put(strings.Repeat("─", max(r.Left(), 0)), rule).String(rule)
}
