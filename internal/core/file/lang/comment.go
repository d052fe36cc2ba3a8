package lang

import (
	"bytes"

	"rooktrail/internal/core/file/place"
)

// longestIndent is how far in front of something the beginning of its line is
// looked for. What stands further to the right, as in a file that is all one
// line, has no comment above it; nor must each such look take as long as the
// line is.
const longestIndent = 400

// LineStart is the offset at which the line of an offset begins; ok is false
// if that is too far away to matter.
func LineStart(text []byte, offset uint32) (start int, ok bool) {
	from := max(0, int(offset)-longestIndent)
	if i := bytes.LastIndexByte(text[from:offset], '\n'); i >= 0 {
		return from + i + 1, true
	}
	return 0, from == 0
}

// CommentAbove returns the comment that ends on the line directly above the
// one on which offset lies: a run of lines that each begin with one of the
// marks, or a block from /* to */. It is empty if there is none.
func CommentAbove(text []byte, offset uint32, marks ...string) place.Range {
	lineStart, ok := LineStart(text, offset)
	end := lineStart - 1
	if end <= 0 || !ok {
		return place.Range{}
	}
	start := bytes.LastIndexByte(text[:end], '\n') + 1
	line := bytes.TrimSpace(text[start:end])
	if bytes.HasSuffix(line, []byte("*/")) {
		if open := bytes.LastIndex(text[:end], []byte("/*")); open >= 0 {
			return place.Range{Start: uint32(open), End: uint32(end)}
		}
		return place.Range{}
	}
	first := -1
	for at := end; marked(line, marks); {
		first = start + len(text[start:at]) - len(bytes.TrimLeft(text[start:at], " \t"))
		if start == 0 {
			break
		}
		at = start - 1
		start = bytes.LastIndexByte(text[:at], '\n') + 1
		line = bytes.TrimSpace(text[start:at])
	}
	if first < 0 {
		return place.Range{}
	}
	return place.Range{Start: uint32(first), End: uint32(end)}
}

func marked(line []byte, marks []string) bool {
	for _, m := range marks {
		if bytes.HasPrefix(line, []byte(m)) && !bytes.HasPrefix(line, []byte("#!")) {
			return true
		}
	}
	return false
}
