package place

import (
	"bytes"
	"slices"
	"strings"
	"unicode"
)

// Anchor remembers a place by what stands there, so that it can be found again
// after the code around it or the place itself has changed.
type Anchor struct {
	Path string `json:"path"`
	// Line and Col count from 1, Col in bytes; they are where the place was last
	// found.
	Line int `json:"line"`
	Col  int `json:"col"`
	// Symbol is the qualified name of what the place stands in, "" for none.
	Symbol string `json:"symbol,omitempty"`
	// Indent is how many bytes of blanks stand in front of the line.
	Indent int `json:"indent,omitempty"`
	// Text is the line without the blanks around it.
	Text string `json:"text"`
	// Common says that another line of the file read the same.
	Common bool `json:"common,omitempty"`
	// Before and After are the nearest lines that are not blank, the nearest first.
	Before []string `json:"before,omitempty"`
	After  []string `json:"after,omitempty"`
}

// Place is where the anchor was last found.
func (a *Anchor) Place() Place { return Place{Path: a.Path, Line: a.Line, Col: a.Col} }

// Fate is what became of a place.
type Fate uint8

// The fates.
const (
	Same    Fate = iota // it is where it was
	Moved               // its line stands elsewhere in the file
	Changed             // its line reads differently now
	Gone                // it is not there any more, or cannot be told from others
)

// String names the fate as the screen shows it.
func (f Fate) String() string { return [...]string{"same", "moved", "changed", "gone"}[f] }

// Lines is a text by its lines, which count from 1.
type Lines interface {
	Lines() int
	Line(line int) []byte
}

// contextLines is how many lines an anchor remembers on either side, and longestLine
// how much of a line, in bytes: generated files have lines of megabytes.
const (
	contextLines = 3
	longestLine  = 400
)

// repeater is a text that knows which of its lines read the same.
type repeater interface{ Repeats(line int) bool }

// NewAnchor remembers a place in a text that stands in a symbol. A text that knows which of its
// lines read the same is asked; any other is gone through.
func NewAnchor(p Place, text Lines, symbol string) Anchor {
	return newAnchor(p, text, symbol, func(line int, reads string) bool {
		if t, ok := text.(repeater); ok {
			return t.Repeats(line)
		}
		return isCommon(text, line, reads)
	})
}

// Maker makes anchors of many places of one text, which it goes through only once for all.
type Maker struct {
	text  Lines
	times map[string]int // how many lines read so; nil until the first is made
}

// NewMaker makes anchors of places of a text.
func NewMaker(text Lines) *Maker { return &Maker{text: text} }

// Anchor is NewAnchor for a place of the text.
func (m *Maker) Anchor(p Place, symbol string) Anchor {
	return newAnchor(p, m.text, symbol, func(_ int, reads string) bool {
		if m.times == nil {
			m.times = map[string]int{}
			for n := 1; n <= m.text.Lines(); n++ {
				m.times[trimmed(m.text, n)]++
			}
		}
		return m.times[reads] > 1
	})
}

func newAnchor(p Place, text Lines, symbol string, common func(line int, reads string) bool) Anchor {
	a := Anchor{Path: p.Path, Line: max(p.Line, 1), Col: max(p.Col, 1), Symbol: symbol}
	if a.Line > text.Lines() {
		return a
	}
	a.Text, a.Indent = trimmed(text, a.Line), indentOf(text.Line(a.Line))
	a.Before, a.After = neighbours(text, a.Line, -1), neighbours(text, a.Line, 1)
	a.Common = a.Text != "" && common(a.Line, a.Text)
	return a
}

// isCommon says whether a line besides one reads the same.
func isCommon(text Lines, line int, reads string) bool {
	for n := 1; n <= text.Lines(); n++ {
		l := text.Line(n)
		if len(l) < len(reads) || n == line {
			continue
		}
		if b := bytes.TrimSpace(l); len(b) >= len(reads) && string(b[:min(len(b), longestLine)]) == reads {
			return true
		}
	}
	return false
}

func trimmed(text Lines, line int) string {
	b := bytes.TrimSpace(text.Line(line))
	return string(b[:min(len(b), longestLine)])
}

// neighbours are the nearest lines in a direction that are not blank.
func neighbours(text Lines, line, step int) (near []string) {
	const furthest = 12
	for n := 1; n <= furthest && len(near) < contextLines; n++ {
		at := line + n*step
		if at < 1 || at > text.Lines() {
			break
		}
		if l := trimmed(text, at); l != "" {
			near = append(near, l)
		}
	}
	return near
}

// Finder finds the anchors of one text again.
type Finder struct {
	text   Lines
	symbol func(line, col int) string
	lines  map[string][]int // by what they read; nil until asked for
	inside map[string]bool  // what any line stands in; nil until asked for
}

// NewFinder makes a finder for a text; symbol tells what a place stands in, and may
// be nil.
func NewFinder(text Lines, symbol func(line, col int) string) *Finder {
	return &Finder{text: text, symbol: symbol}
}

// Find finds where an anchor is now and what became of it; the path is left as it
// is. Where the fate is Gone, the place is the nearest to where it was.
//
// A line that reads the same is the place if it is the only one, or if what stands
// around it says so more than of any other. Where none reads the same, it is the line
// between the neighbours it had, if it still resembles what it was.
func (f *Finder) Find(a Anchor) (Place, Fate) {
	if a.Text != "" && f.reads(a.Line, a.Text) && f.around(a, a.Line) >= 2*len(a.Before)+2*len(a.After) {
		return f.place(a, a.Line, Same)
	}
	if a.Text == "" {
		return f.findBlank(a)
	}
	same := f.reading(a.Text)
	if a.Common && f.hasSymbol(a.Symbol) { // its twins in other functions are other places
		same = slices.DeleteFunc(slices.Clone(same), func(l int) bool { return f.symbol(l, a.Col) != a.Symbol })
	}
	if line, ok := f.best(a, same); ok {
		if line == a.Line {
			return f.place(a, line, Same)
		}
		return f.place(a, line, Moved)
	}
	if len(same) == 0 {
		if line, ok := f.changed(a); ok {
			return f.place(a, line, Changed)
		}
	}
	return f.gone(a)
}

func (f *Finder) gone(a Anchor) (Place, Fate) {
	p := a.Place()
	p.Line = min(max(p.Line, 1), max(f.text.Lines(), 1))
	p.Col = 1
	return p, Gone
}

// findBlank finds a blank line, which only what is around it tells from others. Where something
// stands between its neighbours by now, that is what became of it.
func (f *Finder) findBlank(a Anchor) (Place, Fate) {
	if len(a.Before)+len(a.After) == 0 { // an empty file: all that is known is the line
		p := a.Place()
		p.Line, p.Col = min(max(p.Line, 1), max(f.text.Lines(), 1)), 1
		return p, Same
	}
	best, line, tied := 0, 0, false
	for _, l := range f.besides(a) {
		switch s := f.around(a, l); {
		case s > best || s == best && distance(l, a.Line) < distance(line, a.Line):
			tied = s == best && l != a.Line && line != 0 && trimmed(f.text, l) != trimmed(f.text, line)
			best, line = s, l
		case s == best:
			tied = tied || line != a.Line
		}
	}
	switch {
	case line == 0 || tied || 2*best < len(a.Before)+len(a.After):
		return f.gone(a)
	case trimmed(f.text, line) != "":
		return f.place(a, line, Changed)
	case line == a.Line:
		return f.place(a, line, Same)
	}
	return f.place(a, line, Moved)
}

// besides are the line where a blank one was, and those next to what was next to it.
func (f *Finder) besides(a Anchor) (lines []int) {
	seen := map[int]bool{}
	add := func(l int) {
		if l >= 1 && l <= f.text.Lines() && !seen[l] {
			seen[l] = true
			lines = append(lines, l)
		}
	}
	add(a.Line)
	for _, near := range [][]string{a.Before[:min(len(a.Before), 1)], a.After[:min(len(a.After), 1)]} {
		for _, n := range near {
			if at := f.reading(n); len(at) <= mostBeside {
				for _, l := range at {
					add(l + 1)
					add(l - 1)
				}
			}
		}
	}
	return slices.DeleteFunc(lines, func(l int) bool { return l != a.Line && trimmed(f.text, l) != "" })
}

// mostBeside bounds how many lines that read as the one beside a place are looked at.
const mostBeside = 200

// hasSymbol says whether anything stands in what has that name.
func (f *Finder) hasSymbol(name string) bool {
	if name == "" || f.symbol == nil {
		return false
	}
	if f.inside == nil {
		f.inside = map[string]bool{}
		for n := 1; n <= f.text.Lines(); n++ {
			f.inside[f.symbol(n, 1)] = true
		}
	}
	return f.inside[name]
}

func indentOf(line []byte) int { return len(line) - len(bytes.TrimLeft(line, " \t")) }

// place is where an anchor is found in a line; the column moves with the blanks in
// front.
func (f *Finder) place(a Anchor, line int, fate Fate) (Place, Fate) {
	now := f.text.Line(line)
	col := a.Col
	if fate != Same {
		col = indentOf(now) + max(a.Col-a.Indent, 0)
	}
	return Place{Path: a.Path, Line: line, Col: min(max(col, 1), len(now)+1)}, fate
}

func (f *Finder) reads(line int, text string) bool {
	return line >= 1 && line <= f.text.Lines() && trimmed(f.text, line) == text
}

// reading are the lines that read the same.
func (f *Finder) reading(text string) []int {
	if f.lines == nil {
		f.lines = map[string][]int{}
		for n := 1; n <= f.text.Lines(); n++ {
			if l := trimmed(f.text, n); l != "" {
				f.lines[l] = append(f.lines[l], n)
			}
		}
	}
	return f.lines[text]
}

// mostCompared bounds how many lines that read the same are told apart by what is
// around them: beyond that nothing can be said.
const mostCompared = 5000

// best is the line among those that read the same that the anchor means.
func (f *Finder) best(a Anchor, lines []int) (line int, ok bool) {
	if len(lines) > mostCompared {
		return 0, false
	}
	score, second := -1, -1
	for _, l := range lines {
		s := 2 * f.around(a, l)
		if a.Symbol != "" && f.symbol != nil && f.symbol(l, a.Col) == a.Symbol {
			s += inSymbol
		}
		switch {
		case s > score || s == score && distance(l, a.Line) < distance(line, a.Line):
			if s == score {
				second = s
			} else {
				second = score
			}
			score, line = s, l
		case s > second:
			second = s
		}
	}
	switch {
	case score < f.least(a, len(lines)) || line == 0:
		return 0, false
	case len(lines) == 1 || score > second:
		return line, true
	}
	return line, line == a.Line // two of the same: only if it never moved
}

// inSymbol is what it counts to stand in the same symbol; each line around counts 2, and 4
// in its place.
const inSymbol = 5

// least is how much must speak for a line: next to nothing for one that says enough by
// itself and was the only one of its kind, else two of its neighbours in their place, or
// one and the symbol.
func (f *Finder) least(a Anchor, same int) int {
	if telling(a.Text) && !a.Common && same == 1 {
		return 0
	}
	return min(12, 4*(len(a.Before)+len(a.After)))
}

// telling says whether a line says enough by itself to be known again.
func telling(text string) bool {
	letters := 0
	for _, r := range text {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			letters++
		}
	}
	return letters >= 8
}

func distance(a, b int) int { return max(a-b, b-a) }

// around says how far the lines around one agree with those the anchor remembers: 2
// for each that stands in its place, 1 for one that is near.
func (f *Finder) around(a Anchor, line int) int {
	return agree(a.Before, neighbours(f.text, line, -1)) + agree(a.After, neighbours(f.text, line, 1))
}

func agree(was, now []string) (n int) {
	for i, l := range was {
		switch {
		case i < len(now) && now[i] == l:
			n += 2
		case slices.Contains(now, l):
			n++
		}
	}
	return n
}

// changed is the line that stands between the neighbours that the anchor had, or
// resembles it in the same symbol.
func (f *Finder) changed(a Anchor) (line int, ok bool) {
	best, second, at := 0.0, 0.0, 0
	within := f.hasSymbol(a.Symbol) && a.Common
	for _, l := range f.candidates(a) {
		if within && f.symbol(l, a.Col) != a.Symbol {
			continue
		}
		s := f.resembles(a, l)
		if s > best {
			best, second, at = s, best, l
		} else if s > second {
			second = s
		}
	}
	return at, best >= 1 && best > second
}

// candidates are the lines next to those that were next to the anchor.
func (f *Finder) candidates(a Anchor) (lines []int) {
	seen := map[int]bool{}
	add := func(l int) {
		if l >= 1 && l <= f.text.Lines() && !seen[l] && trimmed(f.text, l) != "" {
			seen[l] = true
			lines = append(lines, l)
		}
	}
	const few = 50
	for i, n := range a.Before {
		if at := f.reading(n); len(at) <= few {
			for _, l := range at {
				for d := 1; d <= i+3; d++ {
					add(l + d)
				}
			}
		}
	}
	for i, n := range a.After {
		if at := f.reading(n); len(at) <= few {
			for _, l := range at {
				for d := 1; d <= i+3; d++ {
					add(l - d)
				}
			}
		}
	}
	return lines
}

// resembles says how sure it is that a line is what became of the anchor's; from 1 on
// it is.
func (f *Finder) resembles(a Anchor, line int) float64 {
	now := trimmed(f.text, line)
	if slices.Contains(a.Before, now) || slices.Contains(a.After, now) {
		return 0 // that is its neighbour
	}
	before, after := neighbours(f.text, line, -1), neighbours(f.text, line, 1)
	symbol := f.symbol != nil && a.Symbol != "" && f.symbol(line, a.Col) == a.Symbol
	if !f.between(a, before, after, symbol) {
		return 0
	}
	alike := likeness(a.Text, now)
	if surely := symbol && sameFirst(a.Before, before) && sameFirst(a.After, after); alike < 0.4 && !surely {
		return 0
	}
	s := alike
	if symbol {
		s += 0.2
	}
	return s + float64(agree(a.Before, before)+agree(a.After, after))/float64(max(2*len(a.Before)+2*len(a.After), 1))
}

// between says whether a line stands where the anchor did, by the lines next to it: both
// are the same, or one that says enough by itself, in the same symbol.
func (f *Finder) between(a Anchor, before, after []string, symbol bool) bool {
	above, below := sameFirst(a.Before, before), sameFirst(a.After, after)
	if above && below {
		return true
	}
	if !symbol && f.symbol != nil && a.Symbol != "" {
		return false
	}
	return above && telling(before[0]) || below && telling(after[0])
}

// sameFirst says whether the nearest lines are the same.
func sameFirst(was, now []string) bool {
	return len(was) > 0 && len(now) > 0 && was[0] == now[0]
}

// likeness is the share of words that two lines have in common, from 0 to 1.
func likeness(a, b string) float64 {
	x, y := words(a), words(b)
	if len(x) == 0 || len(y) == 0 {
		return 0
	}
	count, common := map[string]int{}, 0
	for _, w := range x {
		count[w]++
	}
	for _, w := range y {
		if count[w] > 0 {
			count[w]--
			common++
		}
	}
	return 2 * float64(common) / float64(len(x)+len(y))
}

func words(s string) []string {
	return strings.FieldsFunc(s, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '_' })
}
