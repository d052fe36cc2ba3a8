package answer

import (
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
			if text[i] == ':' && strings.Contains(string(text[i:end]), "=") {
				continue // a type stands between
			}
			return place.Range{Start: uint32(i + 1), End: uint32(end)}
		}
	}
	return place.Range{Start: name.End, End: name.End}
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
