package run

import (
	"bytes"
	"image/color"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/charmbracelet/x/ansi"
	"github.com/charmbracelet/x/vt"

	uv "github.com/charmbracelet/ultraviolet"
)

// Color is one of a terminal: 0 for its own, else one of 256 numbered ones or any.
type Color uint32

const (
	isNumbered Color = 1 << 24
	isAny      Color = 2 << 24
)

// Number is the number of a numbered colour.
func (c Color) Number() (n uint8, ok bool) { return uint8(c), c&isNumbered != 0 }

// Hex is any other colour, as 0xRRGGBB.
func (c Color) Hex() (hex uint32, ok bool) { return uint32(c & 0xffffff), c&isAny != 0 }

// Style is how text was printed.
type Style struct {
	Fore, Back                      Color
	Bold, Faint, Underline, Inverse bool
}

// Piece is text of one style.
type Piece struct {
	Text  string
	Style Style
}

// Row is a row of what a command has printed.
type Row []Piece

// Text is what stands in it.
func (r Row) Text() string {
	var b strings.Builder
	for _, p := range r {
		b.WriteString(p.Text)
	}
	return strings.TrimRight(b.String(), " ")
}

// rowOf is a row of cells of the terminal, without the blanks at its end.
func rowOf(cells []uv.Cell) (row Row) {
	last := -1
	for i := range cells {
		if c := &cells[i]; c.Content != "" && c.Content != " " || c.Style.Bg != nil || c.Style.Attrs&uv.AttrReverse != 0 || c.Style.Underline != 0 {
			last = i
		}
	}
	var b strings.Builder
	var style Style
	flush := func() {
		if b.Len() > 0 {
			row = append(row, Piece{b.String(), style})
			b.Reset()
		}
	}
	for i := 0; i <= last; i++ {
		c := &cells[i]
		if c.Width == 0 && c.Content == "" && i > 0 && cells[i-1].Width > 1 {
			continue // the other half of a wide one
		}
		if s := styleOf(&c.Style); s != style {
			flush()
			style = s
		}
		if c.Content == "" || c.Style.Attrs&uv.AttrConceal != 0 {
			b.WriteString(strings.Repeat(" ", max(c.Width, 1)))
		} else {
			b.WriteString(c.Content)
		}
	}
	flush()
	return row
}

func styleOf(s *uv.Style) Style {
	return Style{Fore: colorOf(s.Fg), Back: colorOf(s.Bg), Bold: s.Attrs&uv.AttrBold != 0, Faint: s.Attrs&uv.AttrFaint != 0,
		Underline: s.Underline != 0, Inverse: s.Attrs&uv.AttrReverse != 0}
}

func colorOf(c color.Color) Color {
	switch c := c.(type) {
	case nil:
		return 0
	case ansi.BasicColor:
		return isNumbered | Color(c)
	case ansi.IndexedColor:
		return isNumbered | Color(c)
	}
	r, g, b, _ := c.RGBA()
	return isAny | Color(r>>8)<<16 | Color(g>>8)<<8 | Color(b>>8)
}

// screen is what a command has printed: the rows of its terminal as they are, and those that have gone out at the top.
type screen struct {
	vt   *vt.Emulator
	past []Row
	// bytes is how much the past holds, about; gone how many rows of it were dropped.
	bytes, gone int
	// odd says that more than lines was printed so far, coloured a run of text that has not ended.
	odd, coloured bool
}

// The past is kept up to so many rows, and so many bytes.
const (
	mostRows  = 50_000
	mostBytes = 12 << 20
	// piece is how much the terminal is given at a time, and mostLines how many lines of it, so that what goes out at the top
	// meanwhile never fills the room there is for it.
	piece      = 4 << 10
	mostLines  = 200
	roomAbove  = 8 << 10
	rowOfBytes = 64
)

func newScreen(width, height int) *screen {
	s := &screen{vt: vt.NewEmulator(width, height)}
	s.vt.SetScrollbackSize(roomAbove)
	return s
}

// close ends the answers of the terminal. Its own Close may not be called while they are read.
func (s *screen) close() {
	if pipe, ok := s.vt.InputPipe().(io.Closer); ok {
		pipe.Close()
	}
}

// write has the terminal take in what was printed.
func (s *screen) write(p []byte) {
	for len(p) > 0 {
		n, lines := 0, 0
		for n < min(len(p), piece) && lines < mostLines {
			if p[n] == '\n' {
				lines++
			}
			n++
		}
		_, _ = s.vt.Write(p[:n]) // it takes all it is given
		p = p[n:]
		s.drain()
	}
}

var (
	sgr      = regexp.MustCompile(`\x1b\[([0-9;:]*)m`)
	resets   = []string{"", "0", "00", "39;49", "0;0"}
	sequence = []byte{0x1b}
)

// note takes note of what is printed besides lines.
func (s *screen) note(p []byte) {
	if !bytes.Contains(p, sequence) {
		return
	}
	all := sgr.FindAllSubmatch(p, -1)
	if bytes.Count(p, sequence) > len(all) {
		s.odd = true // or a sequence that was cut in two, which costs no more than time
	}
	if len(all) > 0 {
		s.coloured = !slices.Contains(resets, string(all[len(all)-1][1]))
	}
}

// skip has lines go straight to the past, if so many plain ones come at once that none but the last of them would be seen: the
// terminal takes long for each. It gives what is left for the terminal to take in.
func (s *screen) skip(p []byte) []byte {
	s.note(p)
	width, height := s.vt.Width(), s.vt.Height()
	if s.odd || s.coloured || s.vt.IsAltScreen() || !isPlain(p) {
		return p
	}
	if !bytes.ContainsAny(p, "\r\n\t") {
		return s.skipLong(p)
	}
	first := bytes.IndexByte(p, '\n') + 1
	last := bytes.LastIndexByte(p, '\n') + 1
	lines := bytes.SplitAfter(p[first:last], []byte{'\n'})
	lines = lines[:max(len(lines)-1, 0)]
	if len(lines) < 2*height {
		return p
	}
	_, _ = s.vt.Write(p[:first])
	s.drain()
	for _, row := range s.shown()[:s.vt.CursorPosition().Y] {
		s.keep(row)
	}
	for _, line := range lines[:len(lines)-height] {
		text := expand(bytes.TrimRight(line, "\r\n"))
		for len(text) > width {
			s.keep(Row{{Text: text[:width]}})
			text = text[width:]
		}
		s.keep(Row{{Text: text}})
	}
	_, _ = s.vt.Write([]byte("\x1b[H\x1b[J"))
	s.vt.ClearScrollback()
	return bytes.Join(append(slices.Clone(lines[len(lines)-height:]), p[last:]), nil)
}

// skipLong is skip for a part of a line that fills more than the terminal.
func (s *screen) skipLong(p []byte) []byte {
	width, height := s.vt.Width(), s.vt.Height()
	if len(p) < 2*width*height {
		return p
	}
	shown, caret := s.shown(), s.vt.CursorPosition().Y
	for _, row := range shown[:caret] {
		s.keep(row)
	}
	line := shown[caret].Text() + string(p)
	for len(line) > width*height {
		s.keep(Row{{Text: line[:width]}})
		line = line[width:]
	}
	_, _ = s.vt.Write([]byte("\x1b[H\x1b[J"))
	s.vt.ClearScrollback()
	return []byte(line)
}

// isPlain says whether a text is lines of letters that are one column wide.
func isPlain(p []byte) bool {
	for i, b := range p {
		if b >= 0x7f || b < ' ' && b != '\n' && b != '\t' && (b != '\r' || i+1 < len(p) && p[i+1] != '\n') {
			return false
		}
	}
	return true
}

// expand puts blanks in the place of tabs.
func expand(line []byte) string {
	if !bytes.Contains(line, []byte{'\t'}) {
		return string(line)
	}
	var b strings.Builder
	for _, c := range line {
		if c != '\t' {
			b.WriteByte(c)
			continue
		}
		b.WriteString(strings.Repeat(" ", 8-b.Len()%8))
	}
	return b.String()
}

// keep puts a row to the past.
func (s *screen) keep(row Row) {
	if len(row) == 1 && row[0].Text == "" {
		row = nil
	}
	s.past = append(s.past, row)
	s.bytes += row.size()
	if len(s.past) > mostRows || s.bytes > mostBytes {
		s.drop()
	}
}

// drain keeps what has gone out at the top.
func (s *screen) drain() {
	if s.vt.ScrollbackLen() == 0 {
		return
	}
	for _, line := range s.vt.Scrollback().Lines() {
		s.keep(rowOf(line))
	}
	s.vt.ClearScrollback()
}

// drop drops the first rows of the past.
func (s *screen) drop() {
	n := 0
	for left := len(s.past); n < len(s.past) && (left > mostRows*9/10 || s.bytes > mostBytes*9/10); left-- {
		s.bytes -= s.past[n].size()
		n++
	}
	s.past = append([]Row(nil), s.past[n:]...)
	s.gone += n
}

func (r Row) size() int {
	n := rowOfBytes
	for _, p := range r {
		n += len(p.Text) + rowOfBytes/2
	}
	return n
}

// shown are all rows of the terminal.
func (s *screen) shown() []Row {
	rows := make([]Row, s.vt.Height())
	cells := make([]uv.Cell, s.vt.Width())
	for y := range rows {
		for x := range cells {
			cells[x] = uv.Cell{}
			if c := s.vt.CellAt(x, y); c != nil {
				cells[x] = *c
			}
		}
		rows[y] = rowOf(cells)
	}
	return rows
}

// used is how many rows of the terminal hold anything, the one with the caret included.
func (s *screen) used(shown []Row, caret int) int {
	n := len(shown)
	for n > 0 && len(shown[n-1]) == 0 && n-1 > caret {
		n--
	}
	if n == 1 && len(shown[0]) == 0 && caret == 0 {
		return min(1, len(shown))
	}
	return n
}

// resize gives the terminal another size. Where it becomes lower, the rows at its top go where those go that are scrolled out.
func (s *screen) resize(width, height int) {
	if caret := s.vt.CursorPosition().Y; !s.vt.IsAltScreen() && caret >= height {
		rows := s.shown()
		for _, row := range rows[:caret-height+1] {
			s.keep(row)
		}
		// Moved up by hand, as a terminal that becomes lower cuts off its end.
		_, _ = s.vt.Write([]byte("\x1b7\x1b[" + strconv.Itoa(caret-height+1) + "S\x1b8\x1b[" + strconv.Itoa(caret-height+1) + "A"))
		s.vt.ClearScrollback()
	}
	s.vt.Resize(width, height)
}
