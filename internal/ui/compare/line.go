package compare

import (
	"strings"
	"unicode/utf8"

	"rooktrail/internal/ui/ink"
)

// differing is the part of a line that is not the same in another one, in bytes; none where one
// of them is empty, as that need not be pointed out, or both are the same.
func differing(s, other string) (start, end int) {
	if s == "" || other == "" || s == other {
		return 0, 0
	}
	for start < min(len(s), len(other)) && s[start] == other[start] {
		start++
	}
	end = len(s)
	for n := len(other); end > start && n > start && s[end-1] == other[n-1]; n-- {
		end--
	}
	for start > 0 && start < len(s) && !utf8.RuneStart(s[start]) {
		start--
	}
	for end < len(s) && !utf8.RuneStart(s[end]) {
		end++
	}
	return start, end
}

// most is how many bytes are in a column at the most, or near enough.
const most = 8

// window is from which byte on two lines are shown that begin alike, so that one sees what
// differs in both, in so many columns each: 0 where they fit.
func window(a, b string, start, columns, columnsOfB int) (from int) {
	if fits(a, columns) && fits(b, columnsOfB) || fits(a[:start], columns*2/3) {
		return 0
	}
	for from = max(start-columns/3, 0); from > 0 && !utf8.RuneStart(a[from]); {
		from--
	}
	return from
}

func fits(s string, columns int) bool {
	return len(s) <= most*columns && ink.Width(tidy(s)) <= columns
}

// put draws a line from a byte on into so many columns, its differing part underlined.
func put(r *ink.Row, s string, from, start, end, columns int, st ink.Style) {
	if from > 0 {
		r.Put("…", st)
		s, start, end, columns = s[from:], max(start-from, 0), max(end-from, 0), columns-1
	}
	if columns = max(columns, 1); len(s) > most*columns {
		s = strings.ToValidUTF8(s[:most*columns], "")
		start, end = min(start, len(s)), min(end, len(s))
	}
	shown := ink.Cut(tidy(s), columns)
	before, middle := tidy(s[:start]), tidy(s[start:end])
	if cut := strings.TrimSuffix(shown, "…"); shown != tidy(s) {
		before = before[:min(len(before), len(cut))]
		middle = middle[:min(len(middle), len(cut)-len(before))]
	}
	r.Put(before, st).Put(middle, st.Under()).Put(shown[len(before)+len(middle):], st)
}

// tidy is a line as it is drawn, with blanks for tabs.
func tidy(s string) string { return strings.ReplaceAll(s, "\t", "    ") }
