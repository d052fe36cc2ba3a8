package frame_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/surface"
)

func wide() frame.Plan { return frame.Plan{Width: 140, Height: 40, Tree: panes.One(0)} }

func with(p frame.Plan, change func(*frame.Plan)) frame.Plan {
	change(&p)
	return p
}

func split(stacked bool) func(p *frame.Plan) {
	return func(p *frame.Plan) {
		p.Tree = panes.One(0)
		p.Tree.Split(0, stacked, 1)
	}
}

func TestColumnAndRoom(t *testing.T) {
	for what, c := range map[string]struct {
		plan         frame.Plan
		column, room int // columns
		height       int
	}{
		"all of it":                 {wide(), 39, 101, 36},
		"quiet":                     {with(wide(), func(p *frame.Plan) { p.Quiet = true }), 0, 140, 40},
		"quiet with a message":      {with(wide(), func(p *frame.Plan) { p.Quiet, p.Said = true, true }), 0, 140, 39},
		"full":                      {with(wide(), func(p *frame.Plan) { p.Full = true }), 0, 140, 36},
		"80 columns":                {with(wide(), func(p *frame.Plan) { p.Width = 80 }), 0, 80, 36},
		"a narrow signpost":         {with(wide(), func(p *frame.Plan) { p.Signpost = frame.Narrow }), frame.LeastColumn, 116, 36},
		"a line":                    {with(wide(), func(p *frame.Plan) { p.Signpost = frame.OneLine }), 0, 140, 36},
		"a line with the outline":   {with(wide(), func(p *frame.Plan) { p.Signpost, p.Outline = frame.OneLine, true }), 39, 101, 36},
		"as asked for":              {with(wide(), func(p *frame.Plan) { p.Column = 60 }), 60, 80, 36},
		"more than leaves a view":   {with(wide(), func(p *frame.Plan) { p.Column = 100 }), 0, 140, 36},
		"split beside":              {with(wide(), split(false)), 0, 140, 36},
		"split below":               {with(wide(), split(true)), 39, 101, 36},
		"under a sheet":             {with(wide(), func(p *frame.Plan) { p.Over = 16 }), 39, 101, 20},
		"beside a leaf":             {with(wide(), func(p *frame.Plan) { p.Leaf = true }), 70, 70, 36},
		"above a leaf":              {with(wide(), func(p *frame.Plan) { p.Leaf, p.Width = true, 80 }), 0, 80, 18},
		"with no room above a leaf": {with(wide(), func(p *frame.Plan) { p.Leaf, p.Width, p.Over = true, 80, 30 }), 0, 80, 1},
	} {
		assert.Equal(t, c.column, c.plan.ColumnWidth(), what)
		assert.Equal(t, panes.Rect{Width: c.room, Height: c.height}, c.plan.Room(), what)
	}
}

func TestSheets(t *testing.T) {
	for _, c := range []struct{ height, sheet, tall, taller int }{
		{10, 3, 3, 3}, {24, 9, 12, 17}, {40, 16, 21, 33}, {60, 30, 33, 53},
	} {
		p := frame.Plan{Width: 100, Height: c.height, Tree: panes.One(0)}
		assert.Equal(t, c.sheet, p.SheetHeight(surface.Sheet), "%d rows", c.height)
		assert.Equal(t, c.tall, p.SheetHeight(surface.Tall), "%d rows", c.height)
		assert.Equal(t, c.taller, p.SheetHeight(surface.Taller), "%d rows", c.height)
		assert.Equal(t, p.Body(), p.SheetHeight(surface.Whole))
		assert.Equal(t, 1, p.SheetHeight(surface.Line))
	}
}

// Whatever the size, the parts never overlap and never leave the screen.
func TestNothingLeavesTheScreen(t *testing.T) {
	for _, change := range []func(*frame.Plan){func(*frame.Plan) {}, split(false), split(true), func(p *frame.Plan) { p.Leaf = true }, func(p *frame.Plan) { p.Quiet = true }, func(p *frame.Plan) { p.Outline, p.Column = true, 50 }} {
		for width := 1; width < 230; width += 7 {
			for height := 1; height < 70; height += 3 {
				p := with(frame.Plan{Width: width, Height: height, Tree: panes.One(0)}, change)
				p.Over = min(p.SheetHeight(surface.Sheet), p.Body()-1)
				columns := 0
				for _, r := range p.Layout() {
					columns = max(columns, r.X+r.Width)
					assert.LessOrEqual(t, r.Y+r.Height, max(p.Room().Height, 1), "%dx%d", width, height)
				}
				assert.LessOrEqual(t, columns+p.ColumnWidth(), width, "%dx%d", width, height)
			}
		}
	}
}

func TestHeadersAndSides(t *testing.T) {
	p := with(wide(), split(false))
	assert.True(t, p.Headed())
	assert.Len(t, p.Layout(), 2)
	p.Present, p.Full = 1, true
	assert.False(t, p.Headed())
	assert.Equal(t, map[int]panes.Rect{1: {Width: 140, Height: 36}}, p.Layout())
	p.Full, p.Leaf = false, true
	assert.False(t, p.Headed())
	assert.Contains(t, p.Layout(), 1)
	assert.True(t, frame.Plan{Width: 39, Height: 40}.TooSmall())
	assert.False(t, frame.Plan{Width: 40, Height: 10}.TooSmall())
}
