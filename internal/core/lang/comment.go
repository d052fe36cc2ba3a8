package lang

import (
	"bytes"

	"rooktrail/internal/core/place"
)

// CommentAbove returns the comment that ends on the line directly above the
// one on which offset lies: a run of lines that each begin with one of the
// marks, or a block from /* to */. It is empty if there is none.
func CommentAbove(text []byte, offset uint32, marks ...string) place.Range {
	lineStart := bytes.LastIndexByte(text[:offset], '\n') + 1
	end := lineStart - 1
	if end <= 0 {
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
