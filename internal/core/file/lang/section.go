package lang

import (
	"bytes"
	"strings"
	"unicode"
	"unicode/utf8"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
)

// The limits of what is taken for the title of a section.
const (
	longestTitle = 60 // bytes
	shortestRule = 8  // signs in a line of its own
	shortestEdge = 3  // signs beside a title
)

// Sections adds the sections of a text to its facts: comments of one line that
// set a title apart by a row of signs beside it or by lines of signs above and
// below it, and those that the usual words announce (region, MARK). A comment
// begins with one of the marks.
func Sections(b *facts.Builder, text []byte, marks ...string) {
	ruled := false // the line before was a row of signs
	for start := 0; start < len(text); {
		end := len(text)
		if i := bytes.IndexByte(text[start:], '\n'); i >= 0 {
			end = start + i
		}
		line := text[start:end]
		said, ok := remark(line, marks)
		isRule := false
		if ok || ruled && bytes.HasPrefix(bytes.TrimSpace(line), []byte("*")) {
			if !ok {
				said = line
			}
			var title []byte
			title, isRule = titleOf(said)
			if title == nil && ruled && !isRule && ruleFollows(text, end, marks) {
				title = bytes.Trim(said, decoration+" \t\r")
			}
			if t := len(title); t > 0 && t <= longestTitle && hasLetter(title) {
				at := uint32(start + bytes.Index(line, title))
				b.Section(string(title), place.Range{Start: at, End: at + uint32(t)}, place.Range{Start: uint32(start), End: uint32(end)})
			}
		}
		ruled = isRule
		start = end + 1
	}
}

// decoration are the signs that set a title apart.
const decoration = "-=*#~_+/─━═"

// remark is what a line says behind a comment mark, if it begins with one.
func remark(line []byte, marks []string) ([]byte, bool) {
	trimmed := bytes.TrimSpace(line)
	for _, m := range marks {
		if rest, ok := bytes.CutPrefix(trimmed, []byte(m)); ok {
			return rest, true
		}
	}
	for _, announced := range []string{"#region ", "#pragma mark "} {
		if bytes.HasPrefix(trimmed, []byte(announced)) {
			return trimmed[1:], true
		}
	}
	return nil, false
}

// titleOf reads a remark that is a title by itself, or else tells whether it
// is but a row of signs.
func titleOf(said []byte) (title []byte, rule bool) {
	said = bytes.TrimSpace(bytes.TrimSuffix(bytes.TrimSpace(said), []byte("*/")))
	for _, word := range []string{"MARK:", "pragma mark", "region "} {
		if rest, ok := bytes.CutPrefix(said, []byte(word)); ok {
			return bytes.Trim(rest, "- \t"), false
		}
	}
	inner := bytes.Trim(said, decoration)
	if len(bytes.TrimSpace(inner)) == 0 {
		return nil, utf8.RuneCount(said) >= shortestRule
	}
	left := said[:len(said)-len(bytes.TrimLeft(said, decoration))]
	right := said[len(bytes.TrimRight(said, decoration)):]
	if row(left) || row(right) {
		return bytes.TrimSpace(inner), false
	}
	return nil, false
}

// row says whether signs beside a title are enough of the same kind.
func row(signs []byte) bool {
	run, last := 0, rune(0)
	for _, r := range string(signs) {
		if r != last {
			run, last = 0, r
		}
		if run++; run >= shortestEdge {
			return true
		}
	}
	return false
}

// ruleFollows says whether the line behind the one that ends at end is a row
// of signs.
func ruleFollows(text []byte, end int, marks []string) bool {
	if end >= len(text) {
		return false
	}
	next, _, _ := bytes.Cut(text[end+1:], []byte("\n"))
	said, ok := remark(next, marks)
	if !ok {
		said = next
	}
	_, rule := titleOf(said)
	return rule
}

func hasLetter(s []byte) bool { return strings.IndexFunc(string(s), unicode.IsLetter) >= 0 }
