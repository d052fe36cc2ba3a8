// Package compare is the sheet that shows two versions of a text side by side, region by region,
// and lets one take of each either or both.
package compare

import (
	"bytes"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

// Event is what came of a key.
type Event uint8

// The events.
const (
	Nothing Event = iota
	Taken         // what is taken of each region is to stand there
	Closed        // all stays as it is
)

// around is how many lines are shown before and after a region.
const around = 2

// line is a row of the drawing.
type line struct {
	region      int // -1 for lines that are the same
	left, right string
	number      int // of the line in the text both come from, counted from 1; 0 for none
	head        bool
}

// Model is the sheet.
type Model struct {
	title, left, right string // what it is, and what the columns are
	base               *text.Document
	regions            []write.Region
	at                 int // the chosen region
	first              int // the first row shown
	height             int
	lines              []line
	starts             []int // the row at which each region begins
}

// New makes a sheet.
func New() *Model { return &Model{} }

// Open shows the regions of a text; left and right are what the columns are: the other version,
// and one's own.
func (m *Model) Open(title, left, right string, base *text.Document, regions []write.Region, height int) {
	*m = Model{title: title, left: left, right: right, base: base, regions: regions, height: height}
	m.lay()
}

// Resize tells how many lines the sheet takes.
func (m *Model) Resize(height int) { m.height = height }

// Regions are those that are shown, each with what is taken of it.
func (m *Model) Regions() []write.Region { return m.regions }

// lay makes the rows.
func (m *Model) lay() {
	m.lines, m.starts = nil, nil
	shown := 0 // the last line of the text that has a row
	for i := range m.regions {
		r := &m.regions[i]
		first, _ := m.base.Position(r.Start)
		behind, _ := m.base.Position(r.End)
		m.starts = append(m.starts, len(m.lines))
		m.lines = append(m.lines, line{region: i, head: true})
		for n := max(first-around, shown+1, 1); n < first; n++ {
			m.same(n)
		}
		mine, theirs := linesOf(r.Mine), linesOf(r.Theirs)
		for k := range max(len(mine), len(theirs)) {
			l := line{region: i}
			if k < len(theirs) {
				l.left = theirs[k]
			}
			if k < len(mine) {
				l.right = mine[k]
			}
			m.lines = append(m.lines, l)
		}
		next := m.base.Lines() + 1
		if i+1 < len(m.regions) {
			next, _ = m.base.Position(m.regions[i+1].Start)
		}
		shown = behind - 1
		for n := behind; n < min(behind+around, next, m.base.Lines()+1); n++ {
			m.same(n)
			shown = n
		}
	}
}

func (m *Model) same(n int) {
	s := string(m.base.Line(n))
	m.lines = append(m.lines, line{region: -1, left: s, right: s, number: n})
}

func linesOf(b []byte) []string {
	if len(b) == 0 {
		return nil
	}
	return strings.Split(strings.ReplaceAll(string(bytes.TrimSuffix(b, []byte("\n"))), "\r", ""), "\n")
}

// Key takes a key.
func (m *Model) Key(k tea.KeyPressMsg) Event {
	switch {
	case keymap.Is(k.String(), on.Leave):
		return Closed
	case keymap.Is(k.String(), on.Take):
		return Taken
	case keymap.Is(k.String(), on.Next):
		m.at = min(m.at+1, len(m.regions)-1)
		m.follow()
	case keymap.Is(k.String(), on.Previous):
		m.at = max(m.at-1, 0)
		m.follow()
	case keymap.Is(k.String(), on.PageDown):
		m.first += m.body()
	case keymap.Is(k.String(), on.PageUp):
		m.first -= m.body()
	case keymap.Is(k.String(), on.Left):
		m.take(write.Theirs)
	case keymap.Is(k.String(), on.Right):
		m.take(write.Mine)
	case keymap.Is(k.String(), on.Both):
		m.take(write.Both)
	case keymap.Is(k.String(), on.AllLeft):
		m.takeAll(write.Theirs)
	case keymap.Is(k.String(), on.AllRight):
		m.takeAll(write.Mine)
	}
	m.first = max(0, min(m.first, len(m.lines)-m.body()))
	return Nothing
}

func (m *Model) take(s write.Side) {
	if len(m.regions) > 0 {
		m.regions[m.at].Take = s
	}
}

func (m *Model) takeAll(s write.Side) {
	for i := range m.regions {
		m.regions[i].Take = s
	}
}

// follow scrolls to the chosen region.
func (m *Model) follow() {
	if len(m.regions) == 0 {
		return
	}
	start, end := m.starts[m.at], len(m.lines)
	if m.at+1 < len(m.starts) {
		end = m.starts[m.at+1]
	}
	if start < m.first || end > m.first+m.body() {
		m.first = start
	}
}

// body is how many rows there are for the versions.
func (m *Model) body() int { return max(m.height-3, 1) }

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	quiet, strong := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet).Strong()
	rows := []string{ink.NewRow(width).Put("  "+m.title, strong).Put("   "+sheet.Count(len(m.regions), "place differs", "places differ"), quiet).String(quiet)}
	half := (width - 1) / 2
	rows = append(rows, ink.NewRow(width).Put("  "+m.left, quiet.Strong()).To(half, quiet).Put("│ "+m.right, quiet.Strong()).String(quiet))
	for i := m.first; len(rows) < m.height-1; i++ {
		if i < len(m.lines) {
			rows = append(rows, m.row(&m.lines[i], width, half, p))
		} else {
			rows = append(rows, ink.NewRow(width).String(quiet))
		}
	}
	keys := [][2]string{keymap.Hint(on.Take, "let that stand"), keymap.Hint(on.Left, "take left"), keymap.Hint(on.Right, "right"), keymap.Hint(on.Both, "both"), keymap.Both(on.Previous, on.Next, "choose"), keymap.Hint(on.Leave, "leave it"), keymap.Hint(on.AllLeft, "all left"), keymap.Hint(on.AllRight, "all right")}
	return append(rows, sheet.Edge(width, keys, p))
}

// row draws one row: what is taken stands out, what is not is quiet.
func (m *Model) row(l *line, width, half int, p *palette.Palette) string {
	quiet, normal, rule := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet), palette.On(p.Rule, p.Sheet)
	if l.head {
		r := &m.regions[l.region]
		words := map[write.Side]string{write.Mine: "the right is taken", write.Theirs: "the left is taken", write.Both: "both are taken, marked"}[r.Take]
		if r.Meets() {
			words += "; both sides have changed these lines"
		}
		ground, pointer := p.Sheet, "   "
		if l.region == m.at {
			ground, pointer = p.Chosen, " ▌ "
		}
		st := palette.On(p.Here, ground).Strong()
		return ink.NewRow(width).Put(pointer, st).Put("place "+strconv.Itoa(l.region+1)+" of "+strconv.Itoa(len(m.regions))+": ", st).Put(words, palette.On(p.Text, ground)).String(palette.On(p.Text, ground))
	}
	left, right := quiet, quiet
	if l.region >= 0 {
		take := m.regions[l.region].Take
		taken := palette.On(p.Changed, p.Sheet).Strong()
		left, right = quiet, quiet
		if take != write.Mine {
			left = taken
		}
		if take != write.Theirs {
			right = taken
		}
	} else {
		left, right = normal, normal
	}
	r := ink.NewRow(width)
	number := ""
	if l.number > 0 {
		number = strconv.Itoa(l.number)
	}
	r.To(6-len(number), quiet).Put(number, quiet).To(8, quiet)
	start, end := differing(l.left, l.right)
	from := window(l.left, l.right, start, half-9, width-half-3)
	put(r, l.left, from, start, end, half-9, left)
	r.To(half, quiet).Put("│ ", rule)
	start, end = differing(l.right, l.left)
	put(r, l.right, from, start, end, width-half-3, right)
	return r.String(quiet)
}
