// Package frame is how the screen is divided: the sides in which code is shown, the files that are
// open in them, and where everything else has its room.
package frame

import (
	"strconv"
	"strings"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/surface"
)

// The smallest terminal that anything useful fits into, and the width from
// which on the signpost has a column of its own.
const (
	LeastWidth    = 40
	LeastHeight   = 10
	SignpostWidth = 110
)

// The rows that are not the code's: the top line, the line for messages, and
// the two of the strip.
const framing = 4

// The column beside the code holds the signpost and, if asked for, the outline.
// It needs a wide window, and leaves every view so much.
const (
	LeastColumn = 24
	leastView   = 56
)

// LeafFrame is how many rows a leaf has besides its text: what it shows, and its keys.
const LeafFrame = 2

// The sizes of the signpost besides all of it, which is "".
const (
	Narrow  = "narrow"
	OneLine = "line"
)

// Plan is how the screen is to be divided; its methods say where everything is. It is a value that
// depends on nothing else.
type Plan struct {
	Width, Height int // of the screen, in cells
	Quiet         bool
	NoStrip       bool        // the trail is not drawn at the foot
	Full          bool        // only the present side is shown
	Outline       bool        // the outline stays beside the code
	Column        int         // the width asked for what stands beside the code; 0 for the usual
	Signpost      string      // how much of it is shown
	Tree          *panes.Tree // of the sides
	Present       int         // the number of the side of the code that has the keys
	Leaf          bool        // a leaf is laid beside the code
	Said          bool        // something stands in the line above the strip
	Over          int         // how many lines a sheet lies over the code
	Below         int         // how many lines at the very foot are for something else
	Run           int         // how many lines below the code are for what is run
}

// TooSmall says that nothing useful fits onto the screen.
func (p Plan) TooSmall() bool { return p.Width < LeastWidth || p.Height < LeastHeight }

// SaysTooSmall says so.
func (p Plan) SaysTooSmall() string {
	if p.Width == 0 {
		return ""
	}
	words := "This window is " + strconv.Itoa(p.Width) + " columns by " + strconv.Itoa(p.Height) +
		" rows. Rook Trail needs " + strconv.Itoa(LeastWidth) + " by " + strconv.Itoa(LeastHeight) + "."
	lines := ink.Wrap(words, p.Width)
	lines = lines[:min(len(lines), p.Height)]
	for i, l := range lines {
		lines[i] = ink.Fit(l, p.Width)
	}
	return strings.Join(lines, "\n")
}

// Top is how many rows are above the code, apart from a sheet.
func (p Plan) Top() int {
	if p.Quiet {
		return 0
	}
	return 1
}

// Foot is how many rows are below the code, apart from the strip: in quiet, only that of a message.
func (p Plan) Foot() int {
	if p.Quiet && !p.Said {
		return 0
	}
	return 1
}

// unframed is how many rows the strip leaves to the code where it is not drawn.
func (p Plan) unframed() int {
	if p.NoStrip {
		return 2
	}
	return 0
}

// Body is how many rows lie between the top line and the line above the strip, or what is run.
func (p Plan) Body() int {
	if p.Quiet {
		return max(p.Height-p.Foot()-p.Below-p.Run, 1)
	}
	return max(p.Height-framing+p.unframed()-p.Below-p.Run, 1)
}

// SheetHeight is how many lines a surface of a form may take.
func (p Plan) SheetHeight(form surface.Form) int {
	body := p.Body()
	most := max(body-3, 3)
	switch form {
	case surface.Tall:
		return min(max(body*3/5, 8), most)
	case surface.Taller:
		return most
	case surface.Whole:
		return body
	case surface.Line, surface.Seek:
		return 1
	}
	const enoughCode = 26 // rows of it beneath a list; on a high screen the list has the rest
	return min(max(body*9/20, 8, body-enoughCode), most)
}

// LeafBeside says whether there is room for a leaf beside the code; else it comes up
// from below.
func (p Plan) LeafBeside() bool { return p.Width >= SignpostWidth }

// LeafRect is where a leaf lies, in cells from the upper left of the body.
func (p Plan) LeafRect() panes.Rect {
	height := p.Body()
	if p.LeafBeside() {
		width := p.Width / 2
		return panes.Rect{X: p.Width - width, Width: width, Height: height}
	}
	below := height / 2
	return panes.Rect{Y: height - below, Width: p.Width, Height: below}
}

// LeafWidth is how many columns a leaf has for its text; beside the code a rule takes
// one.
func (p Plan) LeafWidth() int {
	if p.LeafBeside() {
		return max(p.LeafRect().Width-1, 1)
	}
	return max(p.Width, 1)
}

// ColumnWidth is the width of what stands beside the code; 0 if there is nothing.
func (p Plan) ColumnWidth() int {
	if p.Leaf {
		if p.LeafBeside() {
			return p.LeafRect().Width
		}
		return 0
	}
	if p.Quiet || p.Full || p.Width < SignpostWidth || p.Signpost == OneLine && !p.Outline {
		return 0
	}
	column := p.Column
	switch {
	case p.Signpost == Narrow && !p.Outline:
		column = LeastColumn
	case column == 0:
		column = min(max(p.Width*28/100, 36), 52)
	}
	for _, r := range p.Tree.Layout(panes.Rect{Width: p.Width - column, Height: p.Body()}, p.Present) {
		if r.Width < leastView {
			return 0
		}
	}
	return column
}

// Room is where the sides are.
func (p Plan) Room() panes.Rect {
	height := p.Body() - p.Over
	if p.Leaf && !p.LeafBeside() {
		height = max(height-p.LeafRect().Height, 1)
	}
	return panes.Rect{Width: p.Width - p.ColumnWidth(), Height: height}
}

// Layout says where each side is, by their numbers; those that are not shown are left out.
func (p Plan) Layout() map[int]panes.Rect {
	room := p.Room()
	if p.Full || p.Leaf {
		return map[int]panes.Rect{p.Present: room}
	}
	return p.Tree.Layout(room, p.Present)
}

// Headed says whether each side has a line above it that names what it shows.
func (p Plan) Headed() bool { return p.Tree.Parts != nil && !p.Full && !p.Leaf }
