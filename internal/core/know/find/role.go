package find

import "rooktrail/internal/core/file/lexical"

// Role is what the part of a text is in which something was found.
type Role uint8

// The roles of hits.
const (
	Other Role = iota // the file is in no language that is known
	Code
	Comment
	String
	Definition
)

// String names the role as the commands print it.
func (r Role) String() string {
	return [...]string{"other", "code", "comment", "string", "definition"}[r]
}

// ParseRole is the reverse of String.
func ParseRole(s string) (Role, bool) {
	for r := Other; r <= Definition; r++ {
		if r.String() == s {
			return r, true
		}
	}
	return Other, false
}

// Roles tells for ascending offsets of a text what they lie in, by reading the
// text's comments and strings from the beginning, by the signs of its language.
func Roles(signs *lexical.Signs, text []byte, offsets []int) []Role {
	roles := make([]Role, len(offsets))
	if len(offsets) == 0 || !signs.IsCode() {
		return roles
	}
	last := min(offsets[len(offsets)-1]+1, len(text))
	runs := signs.Runs(text[:last])
	for i, offset := range offsets {
		runs = runs.From(offset)
		roles[i] = Code
		if run, ok := runs.At(offset); ok && run.Role == lexical.Comment {
			roles[i] = Comment
		} else if ok {
			roles[i] = String
		}
	}
	return roles
}
