package fold

import "sort"

// View tells which lines of a text are to be seen. Rows are those lines,
// counted from 0. The zero View has none; see NewView.
type View struct {
	lines  int
	hidden []run // in order, none touching another
}

// run is lines that are hidden, with how many are hidden before it.
type run struct{ first, last, before int }

// NewView is the view of a text of so many lines, in which the folded regions
// of a set are hidden; the set may be nil. If last is not 0, only the lines
// from first to last are to be seen at all.
func NewView(lines int, s *Set, first, last int) *View {
	v := &View{lines: lines}
	if last > 0 && first > 1 {
		v.hide(1, first-1)
	}
	if s != nil {
		for i, r := range s.regions {
			if s.folded[i] && (last == 0 || r.Line >= first && r.Line <= last) {
				v.hide(r.Line+1, min(r.Last, lines))
			}
		}
	}
	if last > 0 && last < lines {
		v.hide(last+1, lines)
	}
	return v
}

// hide hides lines that do not begin before those hidden already.
func (v *View) hide(first, last int) {
	if n := len(v.hidden); n > 0 && first <= v.hidden[n-1].last+1 {
		v.hidden[n-1].last = max(v.hidden[n-1].last, last)
		return
	}
	before := 0
	if n := len(v.hidden); n > 0 {
		before = v.hidden[n-1].before + v.hidden[n-1].length()
	}
	if last >= first {
		v.hidden = append(v.hidden, run{first, last, before})
	}
}

func (r run) length() int { return r.last - r.first + 1 }

// Rows is how many lines are to be seen.
func (v *View) Rows() int {
	if n := len(v.hidden); n > 0 {
		return v.lines - v.hidden[n-1].before - v.hidden[n-1].length()
	}
	return v.lines
}

// Hides says whether a line is hidden.
func (v *View) Hides(line int) bool {
	i := sort.Search(len(v.hidden), func(i int) bool { return v.hidden[i].last >= line })
	return i < len(v.hidden) && v.hidden[i].first <= line
}

// Row is the row of a line; of a hidden one, that of the line above it that is
// to be seen, or the first.
func (v *View) Row(line int) int {
	i := sort.Search(len(v.hidden), func(i int) bool { return v.hidden[i].last >= line })
	before := 0
	if i > 0 {
		before = v.hidden[i-1].before + v.hidden[i-1].length()
	}
	if i < len(v.hidden) && v.hidden[i].first <= line {
		line = v.hidden[i].first - 1
	}
	return min(max(line-1-before, 0), max(v.Rows()-1, 0))
}

// Line is the line of a row; beyond the ends, the first or the last.
func (v *View) Line(row int) int {
	row = min(max(row, 0), max(v.Rows()-1, 0))
	i := sort.Search(len(v.hidden), func(i int) bool { return v.hidden[i].first-1-v.hidden[i].before > row })
	if i == 0 {
		return row + 1
	}
	return row + 1 + v.hidden[i-1].before + v.hidden[i-1].length()
}
