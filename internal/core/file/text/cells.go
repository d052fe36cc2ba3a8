package text

import (
	"fmt"
	"unicode"
	"unicode/utf8"

	"github.com/rivo/uniseg"
)

// TabWidth is how many columns lie between two tab stops, if nothing else is said.
const TabWidth = 4

// Tabs is how many columns lie between two tab stops; the zero value is TabWidth.
type Tabs int

// MostTabs is the most columns there may be between two tab stops.
const MostTabs = 16

// width is the number of columns that a tab takes at a column.
func (t Tabs) width(col int) int {
	n := min(int(t), MostTabs)
	if n <= 0 {
		n = TabWidth
	}
	return n - col%n
}

// Cell is what stands in one or more columns of the screen: one character as a
// person sees it, with the combining marks that belong to it.
type Cell struct {
	// Text is what to draw. It never holds a control character: those, and
	// bytes that are not text, are written out.
	Text string
	// Width is the number of columns it takes.
	Width int
	// Col is the column at which it begins, counted from 0.
	Col int
	// Offset is the byte in the line at which it begins, counted from 0.
	Offset int
	// Size is the number of bytes it stands for.
	Size int
	// Strange marks what was written out because it cannot be drawn.
	Strange bool
}

// Cells is Tabs.Cells with tab stops as they are if nothing else is said.
func Cells(line []byte, start Cell, yield func(Cell) bool) { Tabs(0).Cells(line, start, yield) }

// Cells calls yield for each cell of a line from the left, until yield returns
// false. start is where to begin: a cell boundary, such as a Ruler finds; the
// zero Cell begins at the beginning.
func (t Tabs) Cells(line []byte, start Cell, yield func(Cell) bool) {
	at, col := start.Offset, start.Col
	for at < len(line) {
		c := nextCell(line[at:], col, t)
		c.Offset, c.Col = at, col
		if !yield(c) {
			return
		}
		at += c.Size
		col += c.Width
	}
}

// nextCell reads the cell at the beginning of b, which is not empty.
func nextCell(b []byte, col int, tabs Tabs) Cell {
	switch {
	case b[0] == '\t':
		w := tabs.width(col)
		return Cell{Text: blanks[:w], Width: w, Size: 1}
	case plain(b[0]) && (len(b) == 1 || b[1] < utf8.RuneSelf):
		return Cell{Text: asciiText[b[0]], Width: 1, Size: 1}
	}
	r, size := utf8.DecodeRune(b)
	if r == utf8.RuneError && size == 1 {
		return strange(fmt.Sprintf("\\x%02x", b[0]), 1)
	}
	if hidden(r) {
		return strange(writtenOut(r), size)
	}
	return cluster(b)
}

// blanks are as many as a tab can be wide.
const blanks = "                "

// cluster reads one grapheme cluster, written out from the first rune on that
// must not reach a terminal.
func cluster(b []byte) Cell {
	g, _, width, _ := uniseg.FirstGraphemeCluster(b[:min(len(b), 256)], -1)
	before := rune(-1)
	for i := 0; i < len(g); {
		r, size := utf8.DecodeRune(g[i:])
		if i > 0 && (hidden(r) && !joins(g, i, before, r, size) || r == utf8.RuneError && size == 1) {
			g = g[:i]
			width = uniseg.StringWidth(string(g))
			break
		}
		before = r
		i += size
	}
	if width < 1 {
		r, size := utf8.DecodeRune(g)
		return strange(writtenOut(r), size)
	}
	return Cell{Text: string(g), Width: width, Size: len(g)}
}

func strange(s string, size int) Cell {
	return Cell{Text: s, Width: len([]rune(s)), Size: size, Strange: true}
}

// asciiText holds a string for each plain ASCII character, so that drawing
// them needs no allocation.
var asciiText = func() (t [128]string) {
	for i := range t {
		t[i] = string(rune(i))
	}
	return t
}()

func plain(c byte) bool { return ' ' <= c && c < 0x7f }

// hidden says whether a rune would steer the terminal or the eye rather than
// be seen: control characters, marks of direction, what Unicode says may be left out
// in drawing, characters that are blank though they are no blanks.
func hidden(r rune) bool {
	return r < ' ' || unicode.In(r, unicode.Cc, unicode.Cf, unicode.Other_Default_Ignorable_Code_Point, unicode.Variation_Selector) ||
		r == '\u2028' || r == '\u2029' || r == '\u2800' || unicode.Is(unicode.Co, r) && r > 0xFFFF
}

// joins says whether a hidden rune is a lawful part of a larger character: what joins
// two pictures, chooses how a picture or a Chinese character looks, or spells the name of a flag.
func joins(g []byte, at int, before, r rune, size int) bool {
	first, _ := utf8.DecodeRune(g)
	switch {
	case r == '\u200d':
		next, _ := utf8.DecodeRune(g[at+size:])
		return (picture(before) || before == '\ufe0f') && picture(first) && picture(next)
	case r == '\ufe0e' || r == '\ufe0f':
		return picture(before) || before == '#' || before == '*' || '0' <= before && before <= '9'
	case unicode.Is(unicode.Variation_Selector, r):
		return unicode.Is(unicode.Han, before)
	case 0xE0020 <= r && r <= 0xE007F:
		return first == 0x1F3F4
	}
	return false
}

// picture says whether a rune may be a part of an emoji.
func picture(r rune) bool {
	return 0x1F000 <= r && r <= 0x1FAFF || 0x2190 <= r && r <= 0x2BFF && r != '\u2800' || r == 0xA9 || r == 0xAE || r == 0x203C || r == 0x2049 || r == 0x2122 || r == 0x2139 || r == 0x3030 || r == 0x303D || r == 0x3297 || r == 0x3299
}

// writtenOut shows a rune that cannot be drawn.
func writtenOut(r rune) string {
	switch {
	case r < 0x20:
		return string(rune(0x2400) + r) // Unicode has a picture for each of these.
	case r == 0x7f:
		return "\u2421"
	case r > 0xFFFF:
		return fmt.Sprintf("\\U%x", r)
	}
	return fmt.Sprintf("\\u%04x", r)
}

// Visible makes a string safe to draw on one line: what cannot be drawn is
// written out, and a tab becomes a space.
func Visible(s string) string {
	clean := true
	for i := 0; i < len(s) && clean; i++ {
		clean = plain(s[i])
	}
	if clean {
		return s
	}
	out := make([]byte, 0, len(s)+8)
	Cells([]byte(s), Cell{}, func(c Cell) bool {
		if s[c.Offset] == '\t' {
			c.Text = " "
		}
		out = append(out, c.Text...)
		return true
	})
	return string(out)
}

// checkpoint is how many bytes lie between two remembered cells of a long line.
const checkpoint = 2 << 10

// Ruler finds cells in one line quickly, however long the line is, by
// remembering one cell in every few thousand bytes. The zero Ruler measures an
// empty line. It is not safe for concurrent use.
type Ruler struct {
	line  []byte
	tabs  Tabs
	marks []Cell // the first cell at or after each multiple of checkpoint
	ascii bool   // one byte is one column throughout
	done  bool   // marks reach the end of the line
	width int    // columns of the whole line, once done
}

// NewRuler is Tabs.Ruler with tab stops as they are if nothing else is said.
func NewRuler(line []byte) *Ruler { return Tabs(0).Ruler(line) }

// Ruler measures a line, which must not change.
func (t Tabs) Ruler(line []byte) *Ruler {
	r := &Ruler{line: line, tabs: t, marks: []Cell{{}}, ascii: true}
	for _, c := range line {
		if !plain(c) {
			r.ascii = false
			break
		}
	}
	return r
}

// Edited measures the line after new bytes were put in place of some from an offset on. What
// lies before is not measured again.
func (r *Ruler) Edited(line []byte, from int, new []byte) *Ruler {
	next := &Ruler{line: line, tabs: r.tabs, marks: []Cell{{}}, ascii: r.ascii && allPlain(new)}
	if next.ascii {
		return next
	}
	const cluster = 256 // a character is hardly longer, with all its marks, in bytes
	if r.ascii {
		for at := checkpoint; at < from-cluster; at += checkpoint {
			next.marks = append(next.marks, Cell{Offset: at, Col: at})
		}
		return next
	}
	for _, m := range r.marks[1:] {
		if m.Offset >= from-cluster {
			break
		}
		next.marks = append(next.marks, m)
	}
	return next
}

func allPlain(b []byte) bool {
	for _, c := range b {
		if !plain(c) {
			return false
		}
	}
	return true
}

// CellAt is the character that holds the byte at an offset of a line, without its column: it
// looks only around there, however long the line is.
func CellAt(line []byte, offset int) Cell {
	const around = 1024
	offset = min(max(offset, 0), len(line))
	from := max(offset-around, 0)
	for from > 0 && !utf8.RuneStart(line[from]) {
		from--
	}
	c := (&Ruler{line: line[from:min(offset+around, len(line))], marks: []Cell{{}}}).AtOffset(offset - from)
	c.Offset += from
	return c
}

// extend remembers cells until one lies beyond the offset and the column.
func (r *Ruler) extend(offset, col int) {
	for !r.done {
		last := r.marks[len(r.marks)-1]
		if last.Offset > offset && last.Col > col {
			return
		}
		next, found := Cell{}, false
		end := last
		r.tabs.Cells(r.line, last, func(c Cell) bool {
			if c.Offset >= len(r.marks)*checkpoint {
				next, found = c, true
				return false
			}
			end = Cell{Offset: c.Offset + c.Size, Col: c.Col + c.Width}
			return true
		})
		if found {
			r.marks = append(r.marks, Cell{Offset: next.Offset, Col: next.Col})
		} else {
			r.done, r.width = true, end.Col
		}
	}
}

// Width is the number of columns the whole line takes.
func (r *Ruler) Width() int {
	if r.ascii {
		return len(r.line)
	}
	r.extend(len(r.line), 1<<62)
	return r.width
}

// AtOffset returns the cell that holds the byte at offset; at or beyond the
// end of the line, an empty cell just behind the last.
func (r *Ruler) AtOffset(offset int) Cell {
	offset = min(max(offset, 0), len(r.line))
	if r.ascii {
		return r.asciiCell(offset)
	}
	r.extend(offset, -1)
	return r.scan(func(c Cell) bool { return c.Offset <= offset }, func(c Cell) bool { return offset < c.Offset+c.Size })
}

// AtColumn returns the cell that covers the column, counted from 0; beyond the
// end of the line, an empty cell just behind the last.
func (r *Ruler) AtColumn(col int) Cell {
	col = max(col, 0)
	if r.ascii {
		return r.asciiCell(min(col, len(r.line)))
	}
	r.extend(-1, col)
	return r.scan(func(c Cell) bool { return c.Col <= col }, func(c Cell) bool { return col < c.Col+c.Width })
}

func (r *Ruler) asciiCell(i int) Cell {
	if i >= len(r.line) {
		return Cell{Offset: len(r.line), Col: len(r.line)}
	}
	return Cell{Text: asciiText[r.line[i]], Width: 1, Size: 1, Offset: i, Col: i}
}

// scan starts at the last mark that is not too far and goes on to the first
// cell that is hit.
func (r *Ruler) scan(notTooFar, hit func(Cell) bool) Cell {
	lo, hi := 0, len(r.marks)
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; notTooFar(r.marks[mid]) {
			lo = mid
		} else {
			hi = mid
		}
	}
	found, end := Cell{}, r.marks[lo]
	r.tabs.Cells(r.line, r.marks[lo], func(c Cell) bool {
		if hit(c) {
			found = c
			return false
		}
		end = Cell{Offset: c.Offset + c.Size, Col: c.Col + c.Width}
		return true
	})
	if found.Size > 0 {
		return found
	}
	return Cell{Offset: end.Offset, Col: end.Col}
}
