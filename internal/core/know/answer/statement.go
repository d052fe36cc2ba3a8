package answer

import (
	"bytes"
	"strings"

	"rooktrail/internal/core/file/place"
)

// longestStatement bounds how far a statement is looked through, in bytes.
const longestStatement = 4000

// given is what is assigned to a name: from the sign behind it to the end of the
// statement.
func given(text []byte, name place.Range) place.Range {
	end := statementEnd(text, int(name.End))
	for i := int(name.End); i < end; i++ {
		switch {
		case text[i] == '=' && i+1 < end && text[i+1] == '=':
			i++
		case text[i] == '=' && (i == 0 || text[i-1] != '!' && text[i-1] != '<' && text[i-1] != '>'),
			strings.HasPrefix(string(text[i:min(i+4, end)]), " in "), text[i] == ':' && i+1 < end && text[i+1] != '=':
			if text[i] == ':' {
				end = i + 1 + listed(text[i+1 : end])[0].Len() // the value of one field, or a type with a value behind it
				if equals := bytes.IndexByte(text[i:end], '='); equals >= 0 && bytes.IndexAny(text[i:i+equals], "({[\"'`") < 0 {
					continue
				}
			}
			return place.Range{Start: uint32(i + 1), End: uint32(end)}
		}
	}
	return place.Range{Start: name.End, End: name.End}
}

// listed are the parts of a text between commas that stand in no brackets and no quotes, from its beginning; there is always
// one.
func listed(text []byte) (parts []place.Range) {
	depth, start := 0, 0
	for i := 0; i < len(text); i++ {
		switch c := text[i]; c {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			depth--
		case '"', '\'', '`':
			for i++; i < len(text) && text[i] != c; i++ {
				if text[i] == '\\' && c != '`' {
					i++
				}
			}
		case ',':
			if depth == 0 {
				parts = append(parts, place.Range{Start: uint32(start), End: uint32(i)})
				start = i + 1
			}
		}
	}
	return append(parts, place.Range{Start: uint32(start), End: uint32(len(text))})
}

// one narrows what several names are given at once down to what one of them gets: the value in the same place, or, where all
// come from one, its part, counted from 1; 0 for all of it.
func one(text []byte, name, values place.Range) (value place.Range, part int) {
	names := text[statementStart(text, int(name.Start)):name.Start]
	before := listed(names)
	behind := text[name.End:max(name.End, values.Start)]
	total := len(before) + len(listed(behind)) - 1
	if total < 2 {
		return values, 0
	}
	number := len(before)
	given := listed(values.In(text))
	switch {
	case len(given) == total:
		at := given[number-1]
		return place.Range{Start: values.Start + at.Start, End: values.Start + at.End}, 0
	case len(given) == 1:
		return values, number
	}
	return values, 0
}

// statementEnd is where the statement around an offset ends: at a semicolon, at a
// bracket that was open before, or at the end of a line after which nothing is open.
func statementEnd(text []byte, from int) int {
	depth := 0
	for i := from; i < len(text) && i < from+longestStatement; i++ {
		switch text[i] {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			if depth--; depth < 0 {
				return i
			}
		case ';', ',':
			if depth == 0 && text[i] == ';' {
				return i
			}
		case '\n':
			if depth == 0 && !goesOnBehind(text, from, i) {
				return i
			}
		}
	}
	return min(from+longestStatement, len(text))
}

// goesOnBehind says whether a statement goes on behind the end of a line.
func goesOnBehind(text []byte, from, end int) bool {
	before := strings.TrimRight(string(text[from:end]), " \t\r")
	next := strings.TrimLeft(string(text[end:min(end+80, len(text))]), " \t\r\n")
	return before == "" || strings.ContainsAny(before[len(before)-1:], "=+-*/&|,\\?:(") || next != "" && strings.ContainsAny(next[:1], ".?:&|+*")
}

// statementStart is where the statement before an offset begins, or its part within
// brackets that hold more than one.
func statementStart(text []byte, from int) int {
	for i := from - 1; i >= 0 && i > from-longestStatement; i-- {
		switch text[i] {
		case ';', '{', '}':
			return i + 1
		case '\n':
			return i + 1
		case ',':
			if strings.IndexByte(string(text[i:from]), ':') >= 0 { // the next field of a literal
				return i + 1
			}
		}
	}
	return max(from-longestStatement, 0)
}
