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

// put draws a line into so many columns, its differing part underlined; of a long line, what is
// around that part, which room, the columns of the narrower side, decides, so that both sides
// show the same.
func put(r *ink.Row, s string, start, end, columns, room int, st ink.Style) {
	const bytes = 8 // so many of them are in a column at the most, or near enough
	if room = max(room, 1); start > bytes*room || ink.Width(tidy(s[:start])) > room*2/3 {
		from := max(start-room/3, 0)
		for from > 0 && !utf8.RuneStart(s[from]) {
			from--
		}
		if from > 0 {
			r.Put("…", st)
			s, start, end, columns = s[from:], start-from, end-from, columns-1
		}
	}
	long := len(s) > bytes*columns
	if long {
		s = strings.ToValidUTF8(s[:bytes*columns], "")
		end, start = min(end, len(s)), min(start, len(s))
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
