// Package code is the view of one file: its lines in colours with their
// numbers, a caret, and a margin for marks.
package code

import (
	"unicode/utf8"

	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
)

// Model is the view of one file. It has no file at first.
type Model struct {
	file  *codebase.File
	note  string // shown in place of a file that cannot be
	path  string
	lines int

	position
	window

	looks  Look
	mark   place.Range   // a name to point out, if not empty
	found  []place.Range // what is looked for in the file, in order
	spans  highlight.Spans
	rulers map[int]*text.Ruler // of the long lines measured so far
	wraps  wraps
	beyond int // a line one wants to be on that is not read yet

	folds    fold.Set
	seen     fold.View      // which lines are to be seen
	alone    place.Range    // the piece that is alone on the screen, if not empty
	selected place.Range    // the selection, if not empty
	smaller  []place.Range  // what was selected before it grew
	away     bool           // the keys go elsewhere
	carets   []int          // besides that of the terminal: offsets in order
	parts    []place.Range  // the selections of all of them, in order
	marks    map[int]Margin // what is marked, by lines
	diff     *hunk.Diff     // in what the text differs from a commit; nil while that is not known
	wrong    troubles       // what is wrong in the text
	flush    bool           // the caret may be on the first and the last row
}

// position is where the caret is.
type position struct {
	line, at int // the line counted from 1, the byte in it counted from 0
	want     int // the column it keeps to when moving up and down
}

// window is what part of the text is shown.
type window struct {
	top, left     int // the first line and column, counted from 1 and 0
	part          int // the first row of the first line that is shown, where lines are broken
	width, height int
}

// Margin is what is marked on a line.
type Margin struct {
	// Bookmark says that there is a bookmark, Letter its letter, "" for none.
	Bookmark bool
	Letter   string
	// Edited says that it is an edit place.
	Edited bool
}

// Mark shows marks in the margin, by their lines.
func (m *Model) Mark(margin map[int]Margin) { m.marks = margin }

// Path is the path of the file shown; "" if there is none.
func (m *Model) Path() string { return m.path }

// File is the file shown, nil if it could not be opened.
func (m *Model) File() *codebase.File { return m.file }

// Show puts a file on the screen as the view says. A line beyond the end
// becomes the last one, and what hides the caret is opened. A later state of the
// file that is shown already keeps what is folded.
func (m *Model) Show(f *codebase.File, v trail.View) {
	if m.file != f {
		var marks []fold.Mark
		if m.file != nil && m.path == f.Path {
			marks = m.folds.Marks(m.file.Text)
		}
		m.spans, m.rulers, m.found = nil, nil, nil
		if m.file != nil && m.path == f.Path {
			m.followDiff(m.file.Text, f.Text, nil)
			m.followWrong(m.file.Text, f.Text, nil)
		} else {
			m.diff, m.wrong = nil, troubles{}
		}
		m.selected, m.smaller, m.alone = place.Range{}, nil, place.Range{}
		m.take(f)
		m.folds.Restore(marks, f.Text)
	}
	m.path, m.note, m.beyond = f.Path, "", 0
	m.mark = place.Range{}
	m.line = min(max(v.Place.Line, 1), m.lines)
	m.reveal()
	m.at = m.boundary(max(v.Place.Col-1, 0))
	m.want = m.across()
	if v.Top == 0 {
		m.setFirst(m.down(m.caretSpot(), -(m.height / 3)))
		m.left = 0
	} else {
		m.top, m.part, m.left = v.Top, 0, v.Left
	}
	m.settle()
}

// take makes a file the one that is shown.
func (m *Model) take(f *codebase.File) {
	m.file, m.lines = f, f.Text.Lines()
	m.folds = fold.Set{}
	if f.Text.Whole() {
		m.folds = *fold.NewSet(f.Regions())
	}
	m.look()
}

// ShowNote shows a few words in place of a file that cannot be shown.
func (m *Model) ShowNote(path, note string) {
	*m = Model{path: path, note: note, looks: m.looks, window: window{top: 1, width: m.width, height: m.height}, position: position{line: 1}, away: m.away, flush: m.flush, lines: 1}
	m.look()
}

// Replace takes the whole of a file in place of its beginning. It moves only if
// one wanted to go further than that reached.
func (m *Model) Replace(f *codebase.File) {
	m.rulers = nil
	m.take(f)
	if m.beyond > 0 {
		m.moveLines(m.beyond - m.line)
	}
	m.settle()
}

// Point marks a name.
func (m *Model) Point(at place.Range) { m.mark = at }

func (m *Model) unpoint() { m.mark = place.Range{} }

// Found marks what is looked for in the file: places in order, or none.
func (m *Model) Found(places []place.Range) { m.found = places }

// To goes to a byte offset of the text.
func (m *Model) To(offset int) {
	if m.file == nil {
		return
	}
	line, col := m.file.Text.Position(offset)
	m.line, m.at = line, col-1
	m.reveal()
	m.mark = place.Range{}
	m.at = m.boundary(m.at)
	m.want = m.across()
	m.settle()
}

// WordHere is the word under the caret, or the one that ends at it; "" if there is none.
func (m *Model) WordHere() string {
	if m.file == nil {
		return ""
	}
	line := m.file.Text.Line(m.line)
	from, to := min(m.at, len(line)), min(m.at, len(line))
	for from > 0 && inWord(line, from-1) {
		from--
	}
	for to < len(line) && inWord(line, to) {
		to++
	}
	return string(line[from:to])
}

// Paint takes the colours of the text.
func (m *Model) Paint(s highlight.Spans) { m.spans = s }

// State tells how the file stands on the screen.
func (m *Model) State() trail.View {
	return trail.View{Place: place.Place{Path: m.path, Line: m.line, Col: m.at + 1}, Top: m.top, Left: m.left}
}

// Caret is the line and the column, in bytes, of the caret, counted from 1.
func (m *Model) Caret() (line, col int) { return m.line, m.at + 1 }

// Offset is the byte offset of the caret in the text.
func (m *Model) Offset() int {
	if m.file == nil {
		return 0
	}
	return m.file.Text.Offset(m.line, m.at+1)
}

// Resize gives the view its size in cells.
func (m *Model) Resize(width, height int) {
	if width == m.width && height == m.height {
		return
	}
	m.width, m.height = max(width, 1), max(height, 1)
	m.settle()
}

// Lines longer than longLine are measured once; of at most mostRulers lines
// the measure is kept.
const (
	longLine   = 4096
	mostRulers = 256
)

// measure returns the ruler of a line.
func (m *Model) measure(line int) *text.Ruler {
	if r := m.rulers[line]; r != nil {
		return r
	}
	var b []byte
	if m.file != nil {
		b = m.file.Text.Line(line)
	}
	r := m.looks.Tabs.Ruler(b)
	if len(b) > longLine {
		if m.rulers == nil || len(m.rulers) >= mostRulers {
			m.rulers = map[int]*text.Ruler{}
		}
		m.rulers[line] = r
	}
	return r
}

// column is the column of the caret, counted from 0.
func (m *Model) column() int { return m.measure(m.line).AtOffset(m.at).Col }

// boundary is the beginning of the character that holds a byte of the caret's
// line.
func (m *Model) boundary(at int) int { return m.measure(m.line).AtOffset(at).Offset }

// Flush lets the caret stand on the first and the last row, where else some lines stay
// in sight beyond it.
func (m *Model) Flush(flush bool) { m.flush = flush }

// rowOf is the row of a line among those that are to be seen, counted from 0.
func (m *Model) rowOf(line int) int { return m.seen.Row(line) }

// lineOf is the line of such a row.
func (m *Model) lineOf(row int) int { return m.seen.Line(row) }

// Page goes up or down by screens, or halves of one.
func (m *Model) Page(screens float64) { m.Scroll(int(screens * float64(max(m.height-2, 1)))) }

// Side goes left or right by characters, over the ends of lines.
func (m *Model) Side(characters int) {
	m.mark = place.Range{}
	for ; characters < 0; characters++ {
		if m.at > 0 {
			m.at = m.boundary(m.at - 1)
		} else if row := m.rowOf(m.line); row > 0 {
			m.line = m.lineOf(row - 1)
			m.at = m.length()
		}
	}
	for ; characters > 0; characters-- {
		if c := m.measure(m.line).AtOffset(m.at); c.Size > 0 {
			m.at += c.Size
		} else if row := m.rowOf(m.line); row+1 < m.seen.Rows() {
			m.line = m.lineOf(row + 1)
			m.at = 0
		}
	}
	m.want = m.across()
	m.settle()
}

// length is the number of bytes in the caret's line.
func (m *Model) length() int {
	if m.file == nil {
		return 0
	}
	return len(m.file.Text.Line(m.line))
}

// Word goes to the next beginning of a word, or back to the one before.
func (m *Model) Word(forward bool) {
	if m.file == nil {
		return
	}
	line := m.file.Text.Line(m.line)
	at := m.at
	if forward {
		for at < len(line) && inWord(line, at) {
			at++
		}
		for at < len(line) && !inWord(line, at) {
			at++
		}
		if at >= len(line) && m.at >= len(line) {
			m.Side(1)
			return
		}
	} else {
		if at == 0 {
			m.Side(-1)
			return
		}
		for at > 0 && !inWord(line, at-1) {
			at--
		}
		for at > 0 && inWord(line, at-1) {
			at--
		}
	}
	m.at = m.boundary(at)
	m.mark = place.Range{}
	m.want = m.across()
	m.settle()
}

// inWord says whether the byte at i belongs to a word.
func inWord(line []byte, i int) bool {
	if line[i] >= utf8.RuneSelf {
		for i > 0 && !utf8.RuneStart(line[i]) {
			i--
		}
	}
	r, _ := utf8.DecodeRune(line[i:])
	return text.InWord(r)
}

// LineStart goes to the first character of the line that is no blank, and from
// there to its beginning.
func (m *Model) LineStart() {
	first := 0
	if m.file != nil {
		line := m.file.Text.Line(m.line)
		for first < len(line) && (line[first] == ' ' || line[first] == '\t') {
			first++
		}
	}
	if m.at == first {
		first = 0
	}
	m.at = first
	m.want = m.across()
	m.settle()
}

// LineEnd goes to the end of the line.
func (m *Model) LineEnd() {
	m.at = m.length()
	m.want = m.across()
	m.settle()
}

// Line goes to a line, counted from 1; beyond the end, to the last.
func (m *Model) Line(line int) {
	if m.alone.Len() > 0 { // to the first or the last that is to be seen
		m.moveLines(line - m.line)
		return
	}
	line = min(max(line, 1), m.lines)
	if m.folds.Reveal(line) {
		m.look()
	}
	m.moveLines(m.rowOf(line) - m.rowOf(m.line))
}
