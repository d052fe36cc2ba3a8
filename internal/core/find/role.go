package find

import (
	"bytes"
	"path"
	"strings"
)

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

// style is how a language writes comments and strings.
type style struct {
	line   []string    // what begins a comment up to the end of the line
	block  [][2]string // what begins and ends a longer comment
	quotes [][2]string // what begins and ends a string, the longest first
	raw    string      // quotes in which a backslash is nothing special
}

var (
	braces = &style{line: []string{"//"}, block: [][2]string{{"/*", "*/"}}, quotes: [][2]string{{"\"", "\""}, {"'", "'"}, {"`", "`"}}, raw: "`"}
	hashes = &style{line: []string{"#"}, quotes: [][2]string{{`"""`, `"""`}, {"'''", "'''"}, {"\"", "\""}, {"'", "'"}}}
	styles = map[*style]string{
		braces: ".go .js .jsx .mjs .cjs .ts .tsx .mts .cts .java .c .h .cc .cpp .cxx .hpp .hh .cs .rs .kt .kts .swift .php .scala .dart .proto .css .scss .less .groovy .gradle",
		hashes: ".py .pyi .rb .sh .bash .zsh .pl .yaml .yml .toml .tf .hcl .r .ex .exs .nix .cmake .mk",
		{line: []string{"--"}, block: [][2]string{{"/*", "*/"}}, quotes: [][2]string{{"'", "'"}, {"\"", "\""}}}:                 ".sql",
		{line: []string{"--"}, block: [][2]string{{"--[[", "]]"}}, quotes: [][2]string{{"\"", "\""}, {"'", "'"}, {"[[", "]]"}}}: ".lua",
		{block: [][2]string{{"<!--", "-->"}}, quotes: [][2]string{{"\"", "\""}}}:                                                ".html .htm .xml .svg .vue",
	}
	byExtension = func() map[string]*style {
		m := map[string]*style{}
		for s, extensions := range styles {
			for _, e := range strings.Fields(extensions) {
				m[e] = s
			}
		}
		return m
	}()
)

// Roles tells for ascending offsets of a text what they lie in, by reading the
// text's comments and strings from the beginning. The file's name tells the
// language.
func Roles(file string, text []byte, offsets []int) []Role {
	roles := make([]Role, len(offsets))
	s := byExtension[strings.ToLower(path.Ext(file))]
	if s == nil {
		return roles
	}
	next := 0
	give := func(end int, r Role) {
		for next < len(offsets) && offsets[next] < end {
			roles[next] = r
			next++
		}
	}
	for at := 0; at < len(text) && next < len(offsets); {
		length, role := s.piece(text[at:])
		give(at+length, role)
		at += length
	}
	give(len(text)+1, Code)
	return roles
}

// piece reads what begins a text: a comment, a string, or a little code.
func (s *style) piece(text []byte) (length int, role Role) {
	for _, b := range s.block {
		if bytes.HasPrefix(text, []byte(b[0])) {
			return upTo(text, b[1], len(b[0])), Comment
		}
	}
	for _, l := range s.line {
		if bytes.HasPrefix(text, []byte(l)) {
			if i := bytes.IndexByte(text, '\n'); i >= 0 {
				return i + 1, Comment
			}
			return len(text), Comment
		}
	}
	for _, q := range s.quotes {
		if bytes.HasPrefix(text, []byte(q[0])) {
			return s.quoted(text, q[0], q[1]), String
		}
	}
	return 1, Code
}

func upTo(text []byte, end string, from int) int {
	if i := bytes.Index(text[from:], []byte(end)); i >= 0 {
		return from + i + len(end)
	}
	return len(text)
}

// quoted is the length of a string. One that is quoted by a single sign and
// not closed on its line ends there: it was none, or is broken.
func (s *style) quoted(text []byte, open, end string) int {
	if s.raw == open || len(open) == 2 {
		return upTo(text, end, len(open))
	}
	for i := len(open); i < len(text); i++ {
		switch {
		case text[i] == '\\':
			i++
		case bytes.HasPrefix(text[i:], []byte(end)):
			return i + len(end)
		case text[i] == '\n' && len(open) == 1:
			return i
		}
	}
	return len(text)
}
