package text

import "sort"

// Wrapped is a line broken into rows of the screen. Rows are counted from 0; there is one at least.
type Wrapped struct {
	ruler  *Ruler
	width  int    // columns of a row
	rows   []Cell // where each row begins; nil if every row is as wide as the other
	indent int    // columns before all rows but the first
}

// longestWrapped is up to how many bytes a line is broken between words. A longer one is broken wherever
// a row is full, so that it costs nothing to find a row far within it.
const longestWrapped = 4096

// Wrap breaks the line of a ruler into rows of so many columns, between words where it can. What goes on
// in another row is indented like the line, and a little more.
func (r *Ruler) Wrap(width int) *Wrapped {
	w := &Wrapped{ruler: r, width: max(width, 2)}
	switch {
	case r.ascii && len(r.line) <= w.width:
		w.rows = []Cell{{}}
	case len(r.line) <= longestWrapped:
		w.breakUp()
	default:
		w.width = max(width, MostTabs) // so that no character is wider than a row
	}
	return w
}

// breakUp finds where the rows begin.
func (w *Wrapped) breakUp() {
	w.rows = []Cell{{}}
	room := w.width // to which column the present row reaches
	blank := true   // there was nothing but blanks so far
	var gap Cell    // where the row may end: behind the last blanks in it
	var after bool  // the cell before was a blank
	w.ruler.tabs.Cells(w.ruler.line, Cell{}, func(c Cell) bool {
		space := w.ruler.line[c.Offset] == ' ' || w.ruler.line[c.Offset] == '\t'
		if blank && !space {
			blank, w.indent = false, min(c.Col+2, w.width/2)
		} else if !blank && !space && after {
			gap = c
		}
		after = space
		for c.Col+c.Width > room && !space && c.Offset > w.rows[len(w.rows)-1].Offset {
			begin := c
			if gap.Offset > w.rows[len(w.rows)-1].Offset {
				begin = gap
			}
			w.rows = append(w.rows, Cell{Offset: begin.Offset, Col: begin.Col})
			room = begin.Col + w.width - w.indent
		}
		return true
	})
}

// Rows is how many rows there are.
func (w *Wrapped) Rows() int {
	if w.rows != nil {
		return len(w.rows)
	}
	return max((w.ruler.Width()+w.width-1)/w.width, 1)
}

// Start is where a row begins in the line.
func (w *Wrapped) Start(row int) Cell {
	if w.rows != nil {
		return w.rows[min(max(row, 0), len(w.rows)-1)]
	}
	c := w.ruler.AtColumn(row * w.width)
	if c.Col < row*w.width && c.Size > 0 { // it stands in both, and is drawn in the first
		c = w.ruler.AtOffset(c.Offset + c.Size)
	}
	return Cell{Offset: c.Offset, Col: c.Col}
}

// Indent is how many columns stand empty before a row.
func (w *Wrapped) Indent(row int) int {
	if row == 0 {
		return 0
	}
	return w.indent
}

// Row is the row in which a cell of the line stands.
func (w *Wrapped) Row(c Cell) int {
	if w.rows != nil {
		return sort.Search(len(w.rows), func(i int) bool { return w.rows[i].Offset > c.Offset }) - 1
	}
	return min(c.Col/w.width, w.Rows()-1)
}

// Across is in which column of its row a cell stands.
func (w *Wrapped) Across(c Cell) int {
	row := w.Row(c)
	return w.Indent(row) + c.Col - w.Start(row).Col
}

// At is the cell in a column of a row; beyond the end of the row, the last one in it, and of the last row the one behind it.
func (w *Wrapped) At(row, across int) Cell {
	row = min(max(row, 0), w.Rows()-1)
	start := w.Start(row)
	c := w.ruler.AtColumn(start.Col + max(across-w.Indent(row), 0))
	if row+1 < w.Rows() {
		if next := w.Start(row + 1); c.Offset >= next.Offset {
			c = w.ruler.AtOffset(next.Offset - 1)
		}
	}
	if c.Offset < start.Offset {
		c = w.ruler.AtOffset(start.Offset)
	}
	return c
}
