package draw

import (
	"cmp"
	"maps"
	"slices"

	"rooktrail/internal/core/file/text"
)

// The size of a cell in a file, in points, and of the letters in it.
const (
	cellWidth  = 7.5
	cellHeight = 17.0
	letterSize = cellWidth / 0.602 // of a letter of the font: its width is 0.602 of its size
	margin     = 24.0
)

// spot is a place in a file, in points from the upper left.
type spot struct{ x, y float64 }

// pencil is how a line or an outline is drawn.
type pencil struct {
	color Color
	width float64
	dash  bool
}

// writing is how a text is written.
type writing struct {
	color Color
	bold  bool
	scale float64 // 1 for the usual size
}

// canvas is what a file is drawn on.
type canvas interface {
	// rect draws a rectangle with round corners, filled if fill is not nil, outlined if line is not nil.
	rect(at spot, w, h, radius float64, fill *Color, line *pencil)
	// way draws a line by its corners, which are round, shape a filled one.
	way(points []spot, p pencil)
	shape(points []spot, fill Color)
	// text writes in cells from a place on, which is the left end of its ground line.
	text(at spot, s string, w writing)
	// within draws what leads somewhere: to a place, which is said when one points at it.
	within(at spot, w, h float64, link, title string, draw func())
}

// file is a drawing in a file: what is to be drawn, and how large it is.
type file struct {
	title         string
	width, height float64
	theme         *Theme
	draw          func(canvas)
}

// Links says what a place is linked to; nil links nothing.
type Links func(path string, line int) string

// file is a picture as it is in a file.
func (p *Picture) file(theme *Theme, links Links) *file {
	foot, head := p.Foot(), 0.0
	width := p.Width
	if p.Title != "" {
		head = 2.2 * cellHeight
		width = max(width, CellsOf(p.Title)*5/4)
	}
	for _, line := range foot {
		width = max(width, CellsOf(line))
	}
	height := float64(p.Height)*cellHeight + head
	if len(foot) > 0 {
		height += float64(len(foot)+1) * cellHeight
	}
	f := &file{title: p.Title, width: float64(width)*cellWidth + 2*margin, height: height + 2*margin, theme: theme}
	f.draw = func(c canvas) {
		if p.Title != "" {
			c.text(spot{margin, margin + cellHeight}, p.Title, writing{theme.Text, true, 1.25})
		}
		s := &sketch{Picture: p, canvas: c, theme: theme, links: links, origin: spot{margin, margin + head}}
		s.all()
		for i, line := range foot {
			c.text(spot{margin, margin + head + float64(p.Height+i+1)*cellHeight + cellHeight*0.75}, line, writing{theme.Quiet, false, 1})
		}
	}
	return f
}

// sketch draws a picture on a canvas.
type sketch struct {
	*Picture
	canvas
	theme  *Theme
	links  Links
	origin spot
}

// center is the middle of a cell.
func (s *sketch) center(p Point) spot {
	return spot{s.origin.x + (float64(p.X)+0.5)*cellWidth, s.origin.y + (float64(p.Y)+0.5)*cellHeight}
}

// outline is where the frame of a box is.
func (s *sketch) outline(f Frame) (at spot, w, h float64) {
	at = spot{s.origin.x + float64(f.X)*cellWidth, s.origin.y + float64(f.Y)*cellHeight}
	w, h = float64(f.W)*cellWidth, float64(f.H)*cellHeight
	if s.Size.framed() {
		return spot{at.x + cellWidth/2, at.y + cellHeight/2}, w - cellWidth, h - cellHeight
	}
	return spot{at.x, at.y + 1.5}, w, h - 3
}

func (s *sketch) all() {
	for i, b := range s.Bands {
		at := spot{s.origin.x + float64(b.X)*cellWidth, s.origin.y + float64(b.Y)*cellHeight}
		if i%2 == 0 {
			s.rect(at, float64(b.W)*cellWidth, float64(b.H)*cellHeight, 3, &s.theme.Band, nil)
		}
		s.text(s.base(b.TitleAt), b.Title, writing{s.theme.Quiet, true, 1})
	}
	for i := range s.Lines { // those that stand out are drawn over the others
		if s.Lines[i].Look != Marked {
			s.line(i)
		}
	}
	for i := range s.Lines {
		if s.Lines[i].Look == Marked {
			s.line(i)
		}
	}
	s.joints()
	for _, l := range s.Labels {
		at := s.center(l.At)
		s.rect(spot{at.x - cellWidth, at.y - cellHeight/2}, float64(CellsOf(l.Text)+1)*cellWidth, cellHeight, 0, &s.theme.Ground, nil)
		s.text(s.base(l.At), l.Text, writing{s.theme.Quiet, false, 1})
	}
	for i := range s.Boxes {
		s.box(i)
	}
}

// base is where a text begins that is written from a cell on.
func (s *sketch) base(p Point) spot {
	return spot{s.origin.x + float64(p.X)*cellWidth, s.origin.y + (float64(p.Y)+0.74)*cellHeight}
}

func (s *sketch) pencil(l Look) pencil {
	p := pencil{color: s.theme.of(l), width: 1.1, dash: l == Indirect || l == Faint}
	if l == Faint {
		p.color = s.theme.Quiet
	}
	if l == Marked || l == Present {
		p.width = 1.9
	}
	return p
}

func (s *sketch) line(i int) {
	pts := s.Routes[i].Points
	if len(pts) < 2 {
		return
	}
	from, to := s.Lines[i].From, s.Lines[i].To
	if s.Routes[i].Back {
		from, to = to, from
	}
	way := []spot{s.edge(from, pts[0], s.center(pts[0]))}
	if s.turns(pts) {
		way = append(way, s.center(pts[0]))
	}
	for _, p := range pts[1 : len(pts)-1] {
		way = append(way, s.center(p))
	}
	way = append(way, s.edge(to, pts[len(pts)-1], s.center(pts[len(pts)-1])))
	head, before := len(way)-1, len(way)-2
	if s.Routes[i].Back {
		head, before = 0, 1
	}
	p := s.pencil(s.Lines[i].Look)
	tip, shape := headAt(way[before], way[head])
	way[head] = tip
	title := text.Visible(s.Boxes[s.Lines[i].From].Name) + " → " + text.Visible(s.Boxes[s.Lines[i].To].Name)
	if s.Lines[i].Label != "" {
		title += ": " + text.Visible(s.Lines[i].Label)
	}
	s.within(way[0], 0, 0, "", title, func() {
		s.way(way, p)
		s.shape(shape, p.color)
	})
}

// turns says whether a line turns at once where it leaves its box.
func (s *sketch) turns(pts []Point) bool { return s.Down == (pts[0].Y == pts[1].Y) }

// edge is the point on the outline of a box that is beside a cell.
func (s *sketch) edge(box int, cell Point, at spot) spot {
	f := s.Frames[box]
	o, w, h := s.outline(f)
	switch {
	case cell.X >= f.X+f.W:
		at.x = o.x + w
	case cell.X < f.X:
		at.x = o.x
	case cell.Y >= f.Y+f.H:
		at.y = o.y + h
	default:
		at.y = o.y
	}
	return at
}

// headAt is the head of a line that ends somewhere, and where the line itself is to end.
func headAt(before, at spot) (base spot, shape []spot) {
	const long, wide = 7, 3.6
	switch {
	case before.x < at.x:
		base = spot{at.x - long, at.y}
		return base, []spot{at, {base.x, at.y - wide}, {base.x, at.y + wide}}
	case before.x > at.x:
		base = spot{at.x + long, at.y}
		return base, []spot{at, {base.x, at.y - wide}, {base.x, at.y + wide}}
	case before.y > at.y:
		base = spot{at.x, at.y + long}
		return base, []spot{at, {at.x - wide, base.y}, {at.x + wide, base.y}}
	}
	base = spot{at.x, at.y - long}
	return base, []spot{at, {at.x - wide, base.y}, {at.x + wide, base.y}}
}

// joints are dots where lines of one bundle part, which tells them from lines that cross.
func (s *sketch) joints() {
	type span struct{ a, b Point }
	bundles := map[int]map[span]Look{}
	for i := range s.Routes {
		r := &s.Routes[i]
		for k := 1; k < len(r.Points); k++ {
			if bundles[r.Bundle] == nil {
				bundles[r.Bundle] = map[span]Look{}
			}
			a, b := r.Points[k-1], r.Points[k]
			if a.X > b.X || a.Y > b.Y {
				a, b = b, a
			}
			bundles[r.Bundle][span{a, b}] = s.Lines[i].Look
		}
	}
	for _, bundle := range slices.Sorted(maps.Keys(bundles)) { // in an order, so that a drawing is written alike each time
		spans, at := bundles[bundle], map[Point]bool{}
		for q := range spans {
			at[q.a], at[q.b] = true, true
		}
		if len(at) > 600 { // the dots of such a bundle would be all one sees of it
			continue
		}
		for _, p := range slices.SortedFunc(maps.Keys(at), func(a, b Point) int { return cmp.Or(cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X)) }) {
			arms, look := 0, Faint
			for q, l := range spans {
				if here := armsOf(p, q.a, q.b); here != 0 {
					arms |= here
					look = stronger(look, l)
				}
			}
			if n := arms&1 + arms>>1&1 + arms>>2&1 + arms>>3&1; n > 2 {
				c, col := s.center(p), s.pencil(look).color
				s.rect(spot{c.x - 2, c.y - 2}, 4, 4, 2, &col, nil)
			}
		}
	}
}

// armsOf are the arms that a straight line from a to b has at a cell.
func armsOf(p, a, b Point) (arms int) {
	switch {
	case a.Y == b.Y && p.Y == a.Y && a.X <= p.X && p.X <= b.X:
		if p.X > a.X {
			arms |= left
		}
		if p.X < b.X {
			arms |= right
		}
	case a.X == b.X && p.X == a.X && a.Y <= p.Y && p.Y <= b.Y:
		if p.Y > a.Y {
			arms |= up
		}
		if p.Y < b.Y {
			arms |= down
		}
	}
	return arms
}

func (s *sketch) box(i int) {
	b, f := &s.Boxes[i], s.Frames[i]
	at, w, h := s.outline(f)
	link := ""
	if s.links != nil && b.Place.Path != "" {
		link = s.links(b.Place.Path, b.Place.Line)
	}
	s.within(at, w, h, link, b.At(), func() {
		p := s.pencil(b.Look)
		s.rect(at, w, h, 4, &s.theme.Box, &p)
		inset := 0
		if s.Size.framed() {
			inset = 1
		}
		for k, line := range s.Texts[i] {
			as := writing{s.theme.Quiet, false, 1}
			if k < s.Names(i) {
				as = writing{s.theme.Text, b.Look == Present, 1}
				if b.Look == Faint {
					as.color = s.theme.Quiet
				}
			}
			s.text(s.base(Point{f.X + 1 + inset, f.Y + inset + k}), line, as)
		}
	})
}
