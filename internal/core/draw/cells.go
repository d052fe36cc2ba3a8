package draw

import (
	"rooktrail/internal/core/file/text"
)

// Part is what a cell belongs to.
type Part uint8

// Parts of a picture.
const (
	Empty   Part = iota
	Rule         // between groups
	Heading      // the title of a group or floor
	OfLine
	OfFrame
	Name
	About // what else stands in a box
)

// Cell is one cell of a picture in characters.
type Cell struct {
	// Text is what stands in it; "" for the second one of a wide letter.
	Text string
	Part Part
	Look Look
	// Box is the one it belongs to; -1 for none.
	Box int
	// Lit says that it is of a line of the box that was to be lit.
	Lit bool
}

// Arms of the pieces of lines in a cell.
const (
	up = 1 << iota
	right
	down
	left
)

// strokes are pieces of lines by their arms: light, heavy, and broken ones.
var strokes = [3][16]string{
	{"", "│", "─", "╰", "│", "│", "╭", "├", "─", "╯", "─", "┴", "╮", "┤", "┬", "┼"},
	{"", "┃", "━", "┗", "┃", "┃", "┏", "┣", "━", "┛", "━", "┻", "┓", "┫", "┳", "╋"},
	{"", "╎", "╌", "╰", "╎", "╎", "╭", "├", "╌", "╯", "╌", "┴", "╮", "┤", "┬", "┼"},
}

func (l Look) strokes() *[16]string {
	switch l {
	case Marked:
		return &strokes[1]
	case Faint, Indirect:
		return &strokes[2]
	}
	return &strokes[0]
}

// frames are the signs of a frame: corners from the upper left on, clockwise, then level and upright.
var frames = map[Look][6]string{
	Usual:    {"╭", "╮", "╯", "╰", "─", "│"},
	Present:  {"┏", "┓", "┛", "┗", "━", "┃"},
	Marked:   {"╔", "╗", "╝", "╚", "═", "║"},
	Faint:    {"┌", "┐", "┘", "└", "╌", "╎"},
	Indirect: {"╭", "╮", "╯", "╰", "╌", "╎"},
	Edited:   {"╭", "╮", "╯", "╰", "─", "│"},
}

// piece is what one bundle has in a cell.
type piece struct {
	bundle int
	arms   int
	// to is the box that the line leads to after no more than one turn, from where on it may be together with others; -1 if
	// it does not.
	to   int
	look Look
	lit  bool
}

// pen draws a part of a picture.
type pen struct {
	*Picture
	view   Frame
	lit    int
	rows   [][]Cell
	pieces map[Point][]piece
}

// Cells are the rows of a part of a picture. One box is lit, and its
// lines, which lie over others; -1 for none.
func (p *Picture) Cells(view Frame, lit int) [][]Cell {
	d := &pen{Picture: p, view: view, lit: lit, rows: make([][]Cell, view.H), pieces: map[Point][]piece{}}
	for y := range d.rows {
		d.rows[y] = make([]Cell, view.W)
		for x := range d.rows[y] {
			d.rows[y][x] = Cell{Text: " ", Box: -1}
		}
	}
	for _, b := range p.Bands {
		d.band(b)
	}
	for i := range p.Lines {
		d.line(i)
	}
	d.strokes()
	for i := range p.Lines {
		d.head(i)
	}
	for _, l := range p.Labels {
		d.write(l.At.X, l.At.Y, l.Text, Cell{Part: About, Look: p.Lines[l.Line].Look, Box: -1, Lit: d.isLit(l.Line)})
	}
	for i := range p.Boxes {
		d.box(i)
	}
	for _, b := range p.Bands {
		d.heading(b)
	}
	return d.rows
}

// heading writes the title of a band once more where it begins in sight, if there is room.
func (d *pen) heading(b Band) {
	at := Point{max(b.TitleAt.X, d.view.X), max(b.TitleAt.Y, min(d.view.Y, b.Y+b.H-1))}
	if at == b.TitleAt {
		return
	}
	for x := at.X; x <= at.X+CellsOf(b.Title); x++ {
		if i, j := at.Y-d.view.Y, x-d.view.X; i < 0 || i >= len(d.rows) || j >= len(d.rows[i]) || d.rows[i][j].Part != Empty && d.rows[i][j].Part != Rule {
			return
		}
	}
	d.write(at.X, at.Y, b.Title, Cell{Part: Heading, Box: -1})
}

// set puts something into a cell, if that is in sight.
func (d *pen) set(x, y int, c Cell) {
	if x, y = x-d.view.X, y-d.view.Y; x >= 0 && y >= 0 && y < len(d.rows) && x < len(d.rows[y]) {
		d.rows[y][x] = c
	}
}

// write puts a text from a cell on.
func (d *pen) write(x, y int, s string, as Cell) {
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		as.Text = c.Text
		d.set(x+c.Col, y, as)
		as.Text = ""
		for i := 1; i < c.Width; i++ {
			d.set(x+c.Col+i, y, as)
		}
		return true
	})
}

func (d *pen) band(b Band) {
	rule := Cell{Text: "┄", Part: Rule, Box: -1}
	switch {
	case b.W >= b.H*2 || b.W == d.Width: // along the rows
		for x := max(b.X, d.view.X); x < min(b.X+b.W, d.view.X+d.view.W); x++ {
			if b.Y > 0 {
				d.set(x, b.Y-d.above(b), rule)
			}
		}
	case b.X > 0:
		rule.Text = "┊"
		for y := max(b.Y, d.view.Y); y < min(b.Y+b.H, d.view.Y+d.view.H); y++ {
			d.set(b.X, y, rule)
		}
	}
	d.write(b.TitleAt.X, b.TitleAt.Y, b.Title, Cell{Part: Heading, Box: -1})
}

// above is how far above a band its rule is: where its title stands within it, there is room for that only before it.
func (d *pen) above(b Band) int {
	if b.TitleAt.Y == b.Y {
		return 1
	}
	return 0
}

// line notes the pieces of a line.
func (d *pen) line(i int) {
	r := &d.Routes[i]
	to := d.Lines[i].To
	if r.Back {
		to = d.Lines[i].From
	}
	start := left // it begins at its box
	if d.Down {
		start = up
	}
	for k := 1; k < len(r.Points); k++ {
		a, b := r.Points[k-1], r.Points[k]
		last := -1
		if k >= len(r.Points)-2 {
			last = to
		}
		step, first, second := Point{0, 1}, down, up
		if a.Y == b.Y {
			step, first, second = Point{1, 0}, right, left
		}
		if a.X > b.X || a.Y > b.Y {
			a, b = b, a
		}
		for q := d.clipped(a, step); q.X <= b.X && q.Y <= b.Y && q.X < d.view.X+d.view.W && q.Y < d.view.Y+d.view.H; q = (Point{q.X + step.X, q.Y + step.Y}) {
			arms := 0
			if q != b {
				arms |= first
			}
			if q != a {
				arms |= second
			}
			if q == r.Points[0] {
				arms |= start
			}
			d.piece(q, piece{r.Bundle, arms, last, d.Lines[i].Look, d.isLit(i)})
		}
	}
}

func (d *pen) isLit(line int) bool {
	return d.lit >= 0 && (d.Lines[line].From == d.lit || d.Lines[line].To == d.lit)
}

// clipped is the first cell in sight from one on.
func (d *pen) clipped(from, step Point) Point {
	if step.X > 0 {
		from.X = max(from.X, d.view.X)
	} else {
		from.Y = max(from.Y, d.view.Y)
	}
	return from
}

func (d *pen) piece(at Point, p piece) {
	if !d.view.Contains(at) {
		return
	}
	all := d.pieces[at]
	for i := range all {
		if all[i].bundle == p.bundle && all[i].lit == p.lit && (all[i].to == p.to || p.to < 0 || all[i].to < 0) {
			all[i].arms |= p.arms
			all[i].to = max(all[i].to, p.to)
			all[i].look = stronger(all[i].look, p.look)
			return
		}
	}
	d.pieces[at] = append(all, p)
}

// stronger is the look that two lines have together.
func stronger(a, b Look) Look {
	switch {
	case a == Marked || b == Marked:
		return Marked
	case a == Usual || b == Usual:
		return Usual
	}
	return a
}

// strokes draws the pieces. Of two lines that cross, the one that is lit is drawn, or else the one that goes up or down, and
// the other one goes beneath it; those that come together are drawn together.
func (d *pen) strokes() {
	for at, all := range d.pieces {
		best := 0
		for i := range all {
			if all[i].over(&all[best]) {
				best = i
			}
		}
		arms, look := all[best].arms, all[best].look
		for _, p := range all {
			if p.bundle == all[best].bundle || p.to >= 0 && p.to == all[best].to {
				arms |= p.arms
				look = stronger(look, p.look)
			}
		}
		d.set(at.X, at.Y, Cell{Text: look.strokes()[arms], Part: OfLine, Look: look, Box: -1, Lit: all[best].lit})
	}
}

// over says whether a piece is drawn over another one.
func (p *piece) over(o *piece) bool {
	if p.lit != o.lit {
		return p.lit
	}
	return p.arms&(up|down) != 0 && o.arms&(up|down) == 0
}

// head draws the head of a line.
func (d *pen) head(i int) {
	pts := d.Routes[i].Points
	if len(pts) < 2 {
		return
	}
	at, before := pts[len(pts)-1], pts[len(pts)-2]
	if d.Routes[i].Back {
		at, before = pts[0], pts[1]
	}
	sign := "▶"
	switch {
	case before.X > at.X:
		sign = "◀"
	case before.Y < at.Y:
		sign = "▼"
	case before.Y > at.Y:
		sign = "▲"
	}
	if sx, sy := at.X-d.view.X, at.Y-d.view.Y; sy >= 0 && sy < len(d.rows) && sx >= 0 && sx < len(d.rows[sy]) && d.rows[sy][sx].Lit && !d.isLit(i) {
		return
	}
	d.set(at.X, at.Y, Cell{Text: sign, Part: OfLine, Look: d.Lines[i].Look, Box: -1, Lit: d.isLit(i)})
}

func (d *pen) box(i int) {
	f, look := d.Frames[i], d.Boxes[i].Look
	if f.X >= d.view.X+d.view.W || f.Y >= d.view.Y+d.view.H || f.X+f.W <= d.view.X || f.Y+f.H <= d.view.Y {
		return
	}
	signs := frames[look]
	put := func(x, y int, s string) { d.set(x, y, Cell{Text: s, Part: OfFrame, Look: look, Box: i}) }
	for y := f.Y; y < f.Y+f.H; y++ {
		for x := f.X + 1; x < f.X+f.W-1; x++ {
			d.set(x, y, Cell{Text: " ", Part: About, Look: look, Box: i})
		}
		put(f.X, y, signs[5])
		put(f.X+f.W-1, y, signs[5])
	}
	inset := 0
	if d.Size.framed() {
		inset = 1
		for x := f.X + 1; x < f.X+f.W-1; x++ {
			put(x, f.Y, signs[4])
			put(x, f.Y+f.H-1, signs[4])
		}
		put(f.X, f.Y, signs[0])
		put(f.X+f.W-1, f.Y, signs[1])
		put(f.X+f.W-1, f.Y+f.H-1, signs[2])
		put(f.X, f.Y+f.H-1, signs[3])
	}
	if i == d.lit {
		put(f.X, f.Center().Y, "▸") // so that it is told without colour, too
	}
	for k, line := range d.Texts[i] {
		part := About
		if k < d.Names(i) {
			part = Name
		}
		d.write(f.X+1+inset, f.Y+inset+k, line, Cell{Part: part, Look: look, Box: i})
	}
}
