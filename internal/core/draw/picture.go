package draw

import (
	"strconv"

	"rooktrail/internal/core/file/text"
)

// Size is how much of a box is shown.
type Size uint8

// Sizes: the name alone; the name and where it is; all there is to it.
const (
	Small Size = iota
	Medium
	Large
)

// Point is a cell.
type Point struct{ X, Y int }

// Frame is a box in a picture, or anything else with four sides: its cells, the frame around it among them.
type Frame struct{ X, Y, W, H int }

// Contains says whether a cell is in it.
func (f Frame) Contains(p Point) bool {
	return f.X <= p.X && p.X < f.X+f.W && f.Y <= p.Y && p.Y < f.Y+f.H
}

// Center is the cell in the middle of it, by which lines come to it.
func (f Frame) Center() Point { return Point{f.X + f.W/2, f.Y + (f.H-1)/2} }

// Route is the way of a line: from cell to cell, by turns level and upright.
type Route struct {
	Points []Point
	// Bundle is the same for lines that begin at the same box and go along together at first.
	Bundle int
	// Back says that it goes against the direction of the picture: its head is at the first of its points.
	Back bool
}

// Band is a group or a floor.
type Band struct {
	Frame
	Title string
	// TitleAt is where its title begins.
	TitleAt Point
}

// Label is a text on a line, from a cell on.
type Label struct {
	At   Point
	Text string
	Line int
}

// Picture is a scene with a place for everything.
type Picture struct {
	*Scene
	Size Size
	// Width and Height are in cells, without title, notes and legend.
	Width, Height int
	// Frames are those of the boxes, Routes those of the lines, in the order of the scene. A route without points is that of a line
	// from a box to itself, which is told in the box.
	Frames []Frame
	Routes []Route
	// Bands are groups and floors that have something in them.
	Bands []Band
	// Texts are what is written into each box, line by line; the first says what it is called.
	Texts [][]string
	// Labels are those on lines that have room for them: what leads to one box and has one label altogether. The others are
	// told where one asks about a line.
	Labels []Label
	names  []int // how many lines of each are its name
	// Crossings is how often lines cross, Length how long they are altogether, in cells.
	Crossings, Length int
}

// widest is how many cells a line in a box has at the most; what is longer is broken.
const widest = 44

// write fills the boxes.
func (p *Picture) write(size Size) {
	p.Size = size
	p.Texts, p.names = make([][]string, len(p.Boxes)), make([]int, len(p.Boxes))
	loops := make([]bool, len(p.Boxes))
	for _, l := range p.Lines {
		loops[l.From] = loops[l.From] || l.From == l.To
	}
	for i := range p.Boxes {
		p.Texts[i], p.names[i] = p.Boxes[i].texts(size, loops[i])
	}
}

// Names is how many of the lines in a box are its name.
func (p *Picture) Names(box int) int { return p.names[box] }

// texts are the lines that stand in a box, and how many of them are its name.
func (b *Box) texts(size Size, loops bool) (lines []string, names int) {
	name := text.Visible(b.Name)
	if loops {
		name += " " + LoopMark
	}
	if b.Badge != "" {
		name += " " + text.Visible(b.Badge)
	}
	if hidden := b.hidden(); hidden != "" {
		name += " " + hidden
	}
	lines = broken(name)
	names = len(lines)
	if size == Small {
		return lines, names
	}
	if about := joined(b.Kind, b.Where); about != "" {
		lines = append(lines, broken(text.Visible(about))...)
	}
	if size == Large {
		for _, d := range b.Details {
			lines = append(lines, broken(text.Visible(d))...)
		}
	}
	return lines, names
}

// LoopMark stands in a box from which a line leads to itself.
const LoopMark = "↺"

func (b *Box) hidden() string {
	switch {
	case b.Hidden < 0:
		return "+"
	case b.Hidden > 0:
		return "+" + strconv.Itoa(b.Hidden)
	}
	return ""
}

func joined(a, b string) string {
	if a == "" || b == "" {
		return a + b
	}
	return a + "  " + b
}

// CellsOf is how many cells a text takes.
func CellsOf(s string) (w int) {
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		w = c.Col + c.Width
		return true
	})
	return w
}

// broken is a text in lines of no more cells than a box has, between words where that can be.
func broken(s string) (lines []string) {
	from, width, blank := 0, 0, -1
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		if width+c.Width > widest && c.Offset > from {
			at, next := c.Offset, c.Offset
			if blank > from {
				at, next = blank, blank+1
			}
			lines = append(lines, s[from:at])
			width, blank, from = CellsOf(s[next:c.Offset]), -1, next
		}
		if s[c.Offset] == ' ' {
			blank = c.Offset
		}
		width += c.Width
		return true
	})
	return append(lines, s[from:])
}

// framed says whether boxes have a frame of their own cells around them.
func (s Size) framed() bool { return s != Small }

// needs is how large the box of some lines is.
func (s Size) needs(lines []string) (w, h int) {
	for _, l := range lines {
		w = max(w, CellsOf(l))
	}
	if s.framed() {
		return w + 4, len(lines) + 2
	}
	return w + 2, len(lines)
}
