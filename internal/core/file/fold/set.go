package fold

import (
	"slices"
	"sort"
	"strings"

	"rooktrail/internal/core/file/text"
)

// Set says which regions of a text are folded. The zero Set has no regions.
// It may not be used by several goroutines at once.
type Set struct {
	regions []Region
	folded  []bool
}

// NewSet makes a set of regions as Regions gives them, none of them folded.
func NewSet(regions []Region) *Set {
	return &Set{regions: regions, folded: make([]bool, len(regions))}
}

// Clone is a copy that changes by itself.
func (s *Set) Clone() *Set { return &Set{regions: s.regions, folded: slices.Clone(s.folded)} }

// find is the number of the region that begins on a line, or -1.
func (s *Set) find(line int) int {
	i := sort.Search(len(s.regions), func(i int) bool { return s.regions[i].Line >= line })
	if i < len(s.regions) && s.regions[i].Line == line {
		return i
	}
	return -1
}

// Folded returns the region that begins on a line if it is folded.
func (s *Set) Folded(line int) (Region, bool) {
	if i := s.find(line); i >= 0 && s.folded[i] {
		return s.regions[i], true
	}
	return Region{}, false
}

// Begins says whether a region begins on the line.
func (s *Set) Begins(line int) bool { return s.find(line) >= 0 }

// Foldable says whether there is anything to fold.
func (s *Set) Foldable() bool { return len(s.regions) > 0 }

// Any says whether anything is folded.
func (s *Set) Any() bool { return slices.Contains(s.folded, true) }

// around is the innermost region that holds a line, or -1; with outer, the
// innermost that begins above it.
func (s *Set) around(line int, outer bool) int {
	last := sort.Search(len(s.regions), func(i int) bool { return s.regions[i].Line > line }) - 1
	for i := last; i >= 0; i-- {
		if r := s.regions[i]; r.Holds(line) && !(outer && r.Line == line) {
			return i
		}
	}
	return -1
}

// Toggle folds the innermost region around a line, or opens the one that begins
// there if it is folded. It returns that region; ok is false if nothing is
// around the line.
func (s *Set) Toggle(line int) (r Region, folded, ok bool) {
	i := s.around(line, false)
	if i < 0 {
		return Region{}, false, false
	}
	s.folded[i] = !s.folded[i]
	return s.regions[i], s.folded[i], true
}

// FoldAround folds the region that holds the innermost one around a line, or
// the innermost one if nothing is around that. It returns what was folded; ok
// is false if there is nothing.
func (s *Set) FoldAround(line int) (Region, bool) {
	i := s.around(line, false)
	if i < 0 {
		return Region{}, false
	}
	if outer := s.around(s.regions[i].Line, true); outer >= 0 {
		i = outer
	}
	s.folded[i] = true
	return s.regions[i], true
}

// FoldIf folds the regions for which want holds and opens all others. It
// returns how many are folded.
func (s *Set) FoldIf(want func(Region) bool) (n int) {
	for i, r := range s.regions {
		if s.folded[i] = want(r); s.folded[i] {
			n++
		}
	}
	return n
}

// All wants every region folded.
func All(Region) bool { return true }

// None wants none folded.
func None(Region) bool { return false }

// Bodies wants the bodies of functions folded, so that their signatures are
// left.
func Bodies(r Region) bool { return r.Kind == Body }

// Comments wants the comments folded.
func Comments(r Region) bool { return r.Kind == Comment }

// Level wants what is so deep or deeper folded; 1 is the outermost level.
func Level(n int) func(Region) bool {
	return func(r Region) bool { return r.Kind != Comment && r.Depth >= n-1 }
}

// Reveal opens what hides a line, and says whether anything did.
func (s *Set) Reveal(line int) (opened bool) {
	for i, r := range s.regions {
		if r.Line >= line {
			break
		}
		if s.folded[i] && r.Holds(line) {
			s.folded[i], opened = false, true
		}
	}
	return opened
}

// Mark tells which region was folded, so that it can be found again later:
// its line, counted from 1, and what stood there.
type Mark struct {
	Line int    `json:"line"`
	Text string `json:"text"`
}

// Marks are those of the folded regions.
func (s *Set) Marks(doc *text.Document) (marks []Mark) {
	for i, r := range s.regions {
		if s.folded[i] {
			marks = append(marks, Mark{r.Line, lineText(doc, r.Line)})
		}
	}
	return marks
}

// lineText is what tells a line from others, at most a few words of it.
func lineText(doc *text.Document, line int) string {
	s := strings.TrimSpace(string(doc.Line(line)))
	return s[:min(len(s), 120)]
}

// Restore folds what was folded when the marks were taken. Where the text has
// changed since, the nearest region that begins with the same words is meant;
// what is not there any more is left out.
func (s *Set) Restore(marks []Mark, doc *text.Document) {
	byText := map[string][]int{}
	for _, m := range marks {
		if i := s.find(m.Line); i >= 0 && lineText(doc, m.Line) == m.Text {
			s.folded[i] = true
			continue
		}
		if len(byText) == 0 {
			for i, r := range s.regions {
				t := lineText(doc, r.Line)
				byText[t] = append(byText[t], i)
			}
		}
		best := -1
		for _, i := range byText[m.Text] {
			if best < 0 || distance(s.regions[i].Line, m.Line) < distance(s.regions[best].Line, m.Line) {
				best = i
			}
		}
		if best >= 0 {
			s.folded[best] = true
		}
	}
}

func distance(a, b int) int { return max(a-b, b-a) }
