package draw

import (
	"cmp"
	"slices"
	"strconv"

	"rooktrail/internal/core/file/text"
)

// Area is a chart as areas in a rectangle, each as large as its number.
type Area struct {
	*Chart
	Width, Height int
	// Frames are those of the bars, in cells; one without width or height is too small to be drawn.
	Frames []Frame
}

// region is a rectangle that is not of whole cells.
type region struct{ x, y, w, h float64 }

// Area divides a rectangle of cells among the bars.
func (c *Chart) Area(width, height int) *Area {
	a := &Area{Chart: c, Width: width, Height: height, Frames: make([]Frame, len(c.Bars))}
	const high = 2 // a cell is about so many times as high as wide
	for i, r := range c.regions(region{0, 0, float64(width), float64(height) * high}) {
		x, y := int(r.x+0.5), int(r.y/high+0.5)
		a.Frames[i] = Frame{x, y, int(r.x+r.w+0.5) - x, int((r.y+r.h)/high+0.5) - y}
	}
	return a
}

// regions divides a rectangle among the bars so that the parts are as square as can be: row by row, as long as the worst
// of a row gets no longer (Bruls, Huizing and van Wijk 2000).
func (c *Chart) regions(in region) []region {
	order, total := make([]int, len(c.Bars)), 0.0
	for i := range c.Bars {
		order[i] = i
		total += c.Bars[i].Total()
	}
	all := make([]region, len(c.Bars))
	if total <= 0 || in.w <= 0 || in.h <= 0 {
		return all
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(c.Bars[b].Total(), c.Bars[a].Total()) })
	scale := in.w * in.h / total
	size := func(i int) float64 { return c.Bars[order[i]].Total() * scale }
	for from := 0; from < len(order) && size(from) > 0; {
		short := min(in.w, in.h)
		to, sum := from+1, size(from)
		for to < len(order) && size(to) > 0 && worst(size(from), size(to), sum+size(to), short) <= worst(size(from), size(to-1), sum, short) {
			sum += size(to)
			to++
		}
		thick, at := sum/short, 0.0
		for i := from; i < to; i++ {
			long := size(i) / thick
			if in.w >= in.h {
				all[order[i]] = region{in.x, in.y + at, thick, long}
			} else {
				all[order[i]] = region{in.x + at, in.y, long, thick}
			}
			at += long
		}
		if in.w >= in.h {
			in.x, in.w = in.x+thick, in.w-thick
		} else {
			in.y, in.h = in.y+thick, in.h-thick
		}
		from = to
	}
	return all
}

// worst is how far from square the largest or the smallest of a row is.
func worst(largest, smallest, sum, short float64) float64 {
	k := short * short / (sum * sum)
	return max(largest*k, 1/(smallest*k))
}

// Cells are the rows of an area in characters. At the smallest, a part is told by its frame alone.
func (a *Area) Cells() []string {
	rows := make([][]string, a.Height)
	for y := range rows {
		rows[y] = make([]string, a.Width)
		for x := range rows[y] {
			rows[y][x] = " "
		}
	}
	put := func(x, y int, s string) {
		if y >= 0 && y < len(rows) && x >= 0 && x < len(rows[y]) {
			rows[y][x] = s
		}
	}
	for i, f := range a.Frames {
		if f.W < 1 || f.H < 1 {
			continue
		}
		signs := frames[Usual]
		for x := f.X; x < f.X+f.W; x++ {
			put(x, f.Y, signs[4])
			put(x, f.Y+f.H-1, signs[4])
		}
		for y := f.Y; y < f.Y+f.H; y++ {
			put(f.X, y, signs[5])
			put(f.X+f.W-1, y, signs[5])
		}
		put(f.X, f.Y, signs[0])
		put(f.X+f.W-1, f.Y, signs[1])
		put(f.X+f.W-1, f.Y+f.H-1, signs[2])
		put(f.X, f.Y+f.H-1, signs[3])
		for k, line := range a.Lines(i) {
			x := f.X + 1
			text.Cells([]byte(line), text.Cell{}, func(c text.Cell) bool {
				put(x+c.Col, f.Y+1+k, c.Text)
				for w := 1; w < c.Width; w++ {
					put(x+c.Col+w, f.Y+1+k, "")
				}
				return true
			})
		}
	}
	out := make([]string, len(rows))
	for y, row := range rows {
		for _, s := range row {
			out[y] += s
		}
	}
	return out
}

// Lines are what is written into the part of a bar, as far as there is room: what it is called, and its number.
func (a *Area) Lines(bar int) (lines []string) {
	f, b := a.Frames[bar], &a.Bars[bar]
	for _, line := range []string{text.Visible(b.Name), b.Reads(), text.Visible(b.Where)} {
		if len(lines) < f.H-2 && f.W > 3 && line != "" {
			lines = append(lines, shortened(line, f.W-2))
		}
	}
	return lines
}

// shortened is a text in no more than so many cells.
func shortened(s string, cells int) string {
	if CellsOf(s) <= cells {
		return s
	}
	cut := 0
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		if c.Col+c.Width > cells-1 {
			return false
		}
		cut = c.Offset + len(c.Text)
		return true
	})
	return s[:min(cut, len(s))] + "…"
}

// mapFile is a chart of areas as it is in a file. What does not fit into its part stands in the list below.
func (c *Chart) mapFile(theme *Theme, links Links) *file {
	top := margin + 2.6*cellHeight
	parts := c.regions(region{0, 0, mapWide, mapHigh})
	fits := func(i int, s string) bool { return float64(CellsOf(s))*cellWidth+8 <= parts[i].w }
	var below []int
	for i := range c.Bars {
		if !fits(i, text.Visible(c.Bars[i].Name)) || parts[i].h < 2*cellHeight {
			below = append(below, i)
		}
	}
	height := top + mapHigh + float64(len(below)+len(c.Notes)+2)*cellHeight + margin
	f := &file{title: c.Title, width: mapWide + 2*margin, height: height, theme: theme}
	f.draw = func(cv canvas) {
		cv.text(spot{margin, margin + cellHeight}, c.Title, writing{theme.Text, true, 1.25})
		for i := range c.Bars {
			b, r := &c.Bars[i], parts[i]
			at := spot{margin + r.x, top + r.y}
			link, title := "", b.label()+": "+b.Reads()+" "+c.Unit
			if links != nil && b.Place.Path != "" {
				link = links(b.Place.Path, b.Place.Line)
			}
			cv.within(at, r.w, r.h, link, title, func() {
				line := pencil{theme.Quiet, 0.8, false}
				cv.rect(at, r.w, r.h, 1, &theme.Box, &line)
				switch {
				case slices.Contains(below, i):
					number := strconv.Itoa(slices.Index(below, i) + 1)
					if fits(i, number) && r.h >= cellHeight {
						cv.text(spot{at.x + 3, at.y + cellHeight*0.75}, number, writing{theme.Quiet, false, 1})
					}
				default:
					cv.text(spot{at.x + 4, at.y + cellHeight*0.9}, text.Visible(b.Name), writing{theme.Text, false, 1})
					if fits(i, b.Reads()) {
						cv.text(spot{at.x + 4, at.y + cellHeight*1.8}, b.Reads(), writing{theme.Quiet, false, 1})
					}
				}
			})
		}
		y := top + mapHigh + 1.4*cellHeight
		for n, i := range below {
			b := &c.Bars[i]
			cv.text(spot{margin, y}, strconv.Itoa(n+1)+"  "+shortened(b.label(), 80)+"  "+b.Reads(), writing{theme.Quiet, false, 1})
			y += cellHeight
		}
		for _, n := range append([]string{"in " + c.Unit}, c.Notes...) {
			cv.text(spot{margin, y}, text.Visible(n), writing{theme.Quiet, false, 1})
			y += cellHeight
		}
	}
	return f
}
