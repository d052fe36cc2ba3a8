// Package ink draws rows of text in colours. A row is clipped to its width and
// padded to it, and whatever is put on it is made safe to draw first.
package ink

import (
	"strconv"
	"strings"

	"rooktrail/internal/core/file/text"
)

// Color is a colour of the terminal: none, one of its sixteen, or any.
type Color uint32

const (
	isRGB     Color = 1 << 24
	isPalette Color = 2 << 24
)

// None is the terminal's own colour.
const None Color = 0

// RGB is the colour written 0xRRGGBB.
func RGB(hex uint32) Color { return isRGB | Color(hex&0xFFFFFF) }

// ANSI is one of the 256 colours that have a number; of the first sixteen every
// terminal has its own idea.
func ANSI(n uint8) Color { return isPalette | Color(n) }

// Number is the number of a colour made by ANSI.
func (c Color) Number() (n uint8, ok bool) { return uint8(c), c&isPalette != 0 }

// Channels gives the parts of a colour made by RGB, each from 0 to 255.
func (c Color) Channels() (r, g, b uint8, ok bool) {
	return uint8(c >> 16), uint8(c >> 8), uint8(c), c&isRGB != 0
}

// Style is how text is drawn.
type Style struct {
	Fore, Back               Color
	Bold, Underline, Inverse bool
}

// On is the style on another ground.
func (s Style) On(back Color) Style {
	s.Back = back
	return s
}

// Strong is the style in bold.
func (s Style) Strong() Style {
	s.Bold = true
	return s
}

// Under is the style underlined.
func (s Style) Under() Style {
	s.Underline = true
	return s
}

// begin is the escape sequence that switches from any style to this one.
func (s Style) begin(b *strings.Builder) {
	b.WriteString("\x1b[0")
	if s.Bold {
		b.WriteString(";1")
	}
	if s.Underline {
		b.WriteString(";4")
	}
	if s.Inverse {
		b.WriteString(";7")
	}
	color(b, s.Fore, 30)
	color(b, s.Back, 40)
	b.WriteByte('m')
}

// color writes a colour, base being 30 for the text and 40 for the ground.
func color(b *strings.Builder, c Color, base int) {
	n := int(c & 0xFFFFFF)
	switch {
	case c&isRGB != 0:
		b.WriteString(";" + strconv.Itoa(base+8) + ";2;" + strconv.Itoa(n>>16) + ";" + strconv.Itoa(n>>8&0xFF) + ";" + strconv.Itoa(n&0xFF))
	case c&isPalette != 0 && n < 8:
		b.WriteString(";" + strconv.Itoa(base+n))
	case c&isPalette != 0 && n < 16:
		b.WriteString(";" + strconv.Itoa(base+60+n-8))
	case c&isPalette != 0:
		b.WriteString(";" + strconv.Itoa(base+8) + ";5;" + strconv.Itoa(n))
	}
}

// Row is one row of the screen while it is being drawn.
type Row struct {
	b     strings.Builder
	width int
	used  int
	last  Style
	drawn bool
}

// NewRow begins a row that takes the given number of columns.
func NewRow(width int) *Row { return &Row{width: max(width, 0)} }

// Used is the number of columns drawn so far, Left how many are left.
func (r *Row) Used() int { return r.used }

// Left is the number of columns that are still free.
func (r *Row) Left() int { return r.width - r.used }

func (r *Row) style(s Style) {
	if !r.drawn || s != r.last {
		s.begin(&r.b)
		r.last, r.drawn = s, true
	}
}

// Put draws text, as much of it as there is room for.
func (r *Row) Put(s string, st Style) *Row {
	if s == "" || r.Left() <= 0 {
		return r
	}
	r.style(st)
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		return r.cell(c)
	})
	return r
}

// cell draws one cell; a wide one that does not fit becomes a blank. It is
// false when the row is full.
func (r *Row) cell(c text.Cell) bool {
	if c.Width > r.Left() {
		r.b.WriteString(strings.Repeat(" ", r.Left()))
		r.used = r.width
		return false
	}
	r.b.WriteString(c.Text)
	r.used += c.Width
	return r.used < r.width
}

// Cell draws one cell of a line of code.
func (r *Row) Cell(c text.Cell, st Style) {
	if r.Left() > 0 {
		r.style(st)
		r.cell(c)
	}
}

// To draws blanks up to the column, counted from 0.
func (r *Row) To(column int, st Style) *Row {
	if n := min(column, r.width) - r.used; n > 0 {
		r.style(st)
		r.b.WriteString(strings.Repeat(" ", n))
		r.used += n
	}
	return r
}

// Marked draws text in which the bytes at the given offsets, ascending, have a
// style of their own.
func (r *Row) Marked(s string, at []int, st, marked Style) *Row {
	return r.Coded(s, at, func(int) Style { return st }, marked)
}

// Coded draws a line of code: each byte in the style that of gives it, and those at the
// given offsets, ascending, in a style of their own.
func (r *Row) Coded(s string, at []int, of func(offset int) Style, marked Style) *Row {
	next := 0
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		for next < len(at) && at[next] < c.Offset {
			next++
		}
		use := of(c.Offset)
		if next < len(at) && at[next] < c.Offset+c.Size {
			use = marked
		}
		r.Cell(c, use)
		return r.Left() > 0
	})
	return r
}

// End draws text so that it ends at the right edge, at least one blank behind
// what is drawn already; if there is no room, it is left out.
func (r *Row) End(s string, st, blank Style) *Row {
	w := Width(s)
	if w+1 > r.Left() {
		return r
	}
	return r.To(r.width-w, blank).Put(s, st)
}

// String pads the row in the style and gives it out.
func (r *Row) String(blank Style) string {
	r.To(r.width, blank)
	return r.b.String() + "\x1b[0m"
}

// Width is the number of columns that drawing the text takes.
func Width(s string) int {
	w := 0
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		w = c.Col + c.Width
		return true
	})
	return w
}

// Cut shortens text to a number of columns, with an ellipsis at the end where
// something is missing.
func Cut(s string, columns int) string {
	if len(fitting(s, columns)) == len(s) {
		return s
	}
	if columns < 1 {
		return ""
	}
	return fitting(s, columns-1) + "…"
}

// Fit is as much of the beginning of a text as goes into a number of columns.
func Fit(s string, columns int) string {
	end := 0
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		if c.Col+c.Width > columns {
			return false
		}
		end = c.Offset + c.Size
		return true
	})
	return s[:end]
}

// CutFront shortens text to a number of columns by leaving out its beginning,
// for paths, whose end says most.
func CutFront(s string, columns int) string {
	w := Width(s)
	if w <= columns {
		return s
	}
	if columns < 1 {
		return ""
	}
	start := len(s)
	text.Cells([]byte(s), text.Cell{}, func(c text.Cell) bool {
		if w-c.Col <= columns-1 {
			start = c.Offset
			return false
		}
		return true
	})
	return "…" + s[start:]
}

// Wrap breaks text into lines of at most the given columns, at blanks where it
// can; line ends in the text stay.
func Wrap(s string, columns int) []string { return WrapSome(s, columns, 1<<30) }

// WrapSome is Wrap for so many lines at the most: what is behind them is not even looked at.
func WrapSome(s string, columns, most int) (lines []string) {
	columns = max(columns, 2) // room for a wide character
	for paragraph := range strings.SplitSeq(s, "\n") {
		line, used := "", 0
		for word := range strings.FieldsSeq(paragraph) {
			head := fitting(word, columns)
			if width := Width(head); line != "" && len(head) == len(word) && used+1+width <= columns {
				line, used = line+" "+word, used+1+width
				continue
			}
			if line != "" {
				lines = append(lines, line)
			}
			for len(head) < len(word) && head != "" && len(lines) < most { // else a character that is written out wider than this
				lines, word = append(lines, head), word[len(head):]
				head = fitting(word, columns)
			}
			if len(lines) >= most {
				return lines[:most]
			}
			line, used = word, Width(head)
		}
		if lines = append(lines, line); len(lines) >= most {
			return lines[:most]
		}
	}
	return lines
}

// longestCluster is more bytes than a character takes, with all its marks.
const longestCluster = 256

// fitting is Fit for a text that may be very much longer.
func fitting(s string, columns int) string {
	part := s
	if most := (columns + 1) * longestCluster; len(s) > most {
		part = s[:most]
	}
	return Fit(part, columns)
}
