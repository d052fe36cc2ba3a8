package fold

import (
	"bytes"
	"sort"

	"rooktrail/internal/core/file/text"
)

// shift says where lines go by edits.
type shift struct {
	first, last []int // the lines in which each edit begins and ends
	added       []int // how many line ends come with it
	by          []int // how far lines behind it move
}

func newShift(before *text.Document, edits []text.Edit) *shift {
	s := &shift{}
	by := 0
	for _, e := range edits {
		first, col := before.Position(e.Start)
		last, lastCol := before.Position(e.End)
		if col == 1 && lastCol == 1 && (len(e.New) == 0 || bytes.HasSuffix(e.New, []byte("\n"))) {
			first, last = first-1, last-1 // whole lines: the one behind them stays as it is
		}
		added := bytes.Count(e.New, []byte("\n"))
		by += added - (last - first)
		s.first, s.last, s.added, s.by = append(s.first, first), append(s.last, last), append(s.added, added), append(s.by, by)
	}
	return s
}

// nothing says that all lines stay where they are.
func (s *shift) nothing() bool {
	for i := range s.first {
		if s.first[i] != s.last[i] || s.added[i] != 0 {
			return false
		}
	}
	return true
}

// line is where a line is after the edits; stays is false if what was before it is not there
// any more.
func (s *shift) line(n int) (now int, stays bool) {
	i := sort.SearchInts(s.first, n) - 1 // the last edit that begins above the line
	switch {
	case i < 0:
		return n, true
	case n > s.last[i]:
		return n + s.by[i], true
	}
	before := s.by[i] - s.added[i] + s.last[i] - s.first[i]
	return s.first[i] + before + s.added[i], false
}

// Edited is the set after edits of the text it is of: regions move along with their lines, and
// stay folded. Those that the edits begin or end come only with the regions of the new text.
func (s *Set) Edited(before *text.Document, edits []text.Edit) *Set {
	lines := newShift(before, edits)
	if lines.nothing() {
		return s
	}
	now := &Set{regions: make([]Region, 0, len(s.regions)), folded: make([]bool, 0, len(s.folded))}
	for i, r := range s.regions {
		line, stays := lines.line(r.Line)
		last, _ := lines.line(r.Last)
		if n := len(now.regions); !stays || last <= line || n > 0 && now.regions[n-1].Line >= line {
			continue
		}
		r.Line, r.Last = line, last
		now.regions, now.folded = append(now.regions, r), append(now.folded, s.folded[i])
	}
	return now
}
