package preprocess

import "strings"

// kind tells tokens apart.
type kind uint8

// The kinds of tokens.
const (
	word      kind = iota + 1
	number         // as the preprocessor takes it: it may end in letters
	quoted         // a text or a character
	sign           // anything else
	directive      // a whole line that begins with #, with those that go on from it
)

// token is a piece of a text, or of the body of a macro.
type token struct {
	text  string
	from  int32 // where it begins, in bytes; -1 if it is not in the text
	kind  kind
	first bool // it is the first in its line
	space bool // something that is no token stands in front of it
	done  bool // it comes of the macro of its name, and is none any more
}

// at is where it begins, in bytes; -1 if it is not in the text.
func (t token) at() int { return int(t.from) }

func (t token) end() int { return int(t.from) + len(t.text) }

// is says whether it is one of some signs or words, which stand with spaces between them.
func (t token) is(which ...string) bool {
	for _, w := range which {
		if t.text == w {
			return true
		}
	}
	return false
}

// signs are those of several characters, longer ones first.
var signs = []string{"<=>", "...", "->*", "<<=", ">>=", "::", "->", "++", "--", "<<", ">>", "<=", ">=", "==", "!=", "&&", "||", "+=", "-=", "*=", "/=", "%=", "&=", "|=", "^=", "##", ".*", "[[", "]]"}

// scan takes a text apart. In the body of a macro, and in the condition of a directive, # is a sign like others.
func scan(src string, directives bool) []token {
	tokens := make([]token, 0, len(src)/5+8)
	s := scanner{src: src, first: true}
	for {
		t, ok := s.next(directives)
		if !ok {
			return tokens
		}
		tokens = append(tokens, t)
	}
}

type scanner struct {
	src          string
	pos          int
	first, space bool
}

// skip passes over what is no token.
func (s *scanner) skip() {
	for s.pos < len(s.src) {
		rest := s.src[s.pos:]
		switch c := rest[0]; {
		case c == '\n':
			s.first, s.space = true, true
			s.pos++
		case c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v':
			s.space = true
			s.pos++
		case strings.HasPrefix(rest, "\\\n"):
			s.space = true
			s.pos += 2
		case strings.HasPrefix(rest, "\\\r\n"):
			s.space = true
			s.pos += 3
		case strings.HasPrefix(rest, "//"):
			s.space = true
			s.pos += lineLength(rest)
		case strings.HasPrefix(rest, "/*"):
			s.space = true
			if n := strings.Index(rest[2:], "*/"); n >= 0 {
				s.pos += n + 4
			} else {
				s.pos = len(s.src)
			}
		default:
			return
		}
	}
}

// lineLength is how long a line is, with those that go on from it, without the end.
func lineLength(s string) int {
	for i := 0; ; {
		n := strings.IndexByte(s[i:], '\n')
		if n < 0 {
			return len(s)
		}
		i += n
		if !strings.HasSuffix(strings.TrimSuffix(s[:i], "\r"), "\\") {
			return i
		}
		i++
	}
}

// directiveLength is how long a directive is: to the end of the line, but over remarks of several lines.
func directiveLength(s string) int {
	for i := 0; i < len(s); i++ {
		switch s[i] {
		case '\n':
			if before := strings.TrimSuffix(s[:i], "\r"); !strings.HasSuffix(before, "\\") {
				return len(before)
			}
		case '"', '\'':
			i += max(quotedLength(s[i:])-1, 0)
		case '/':
			if strings.HasPrefix(s[i:], "//") {
				return i + lineLength(s[i:])
			}
			if strings.HasPrefix(s[i:], "/*") {
				n := strings.Index(s[i+2:], "*/")
				if n < 0 {
					return len(s)
				}
				i += n + 3
			}
		}
	}
	return len(s)
}

// quotedLength is how long a text or a character is, with its quotes; it ends with the line at the latest.
func quotedLength(s string) int {
	for i := 1; i < len(s); i++ {
		switch s[i] {
		case '\\':
			i++
		case '\n':
			return i
		case s[0]:
			return i + 1
		}
	}
	return len(s)
}

// rawLength is how long a text is that begins with R" and ends with what stands before its bracket.
func rawLength(s string) int {
	open := strings.IndexByte(s, '(')
	const longestMark = 16
	if open < 0 || open > longestMark+2 {
		return quotedLength(s[1:]) + 1
	}
	end := ")" + s[2:open] + "\""
	if n := strings.Index(s[open:], end); n >= 0 {
		return open + n + len(end)
	}
	return len(s)
}

func isLetter(c byte) bool {
	return c == '_' || c == '$' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || c >= 0x80
}
func isDigit(c byte) bool { return '0' <= c && c <= '9' }

// next reads a token; it is false at the end.
func (s *scanner) next(directives bool) (t token, ok bool) {
	s.skip()
	if s.pos >= len(s.src) {
		return token{}, false
	}
	rest := s.src[s.pos:]
	n, k := 1, sign
	switch c := rest[0]; {
	case directives && s.first && c == '#':
		n, k = directiveLength(rest), directive
	case isLetter(c):
		k = word
		for n < len(rest) && (isLetter(rest[n]) || isDigit(rest[n])) {
			n++
		}
		if n < len(rest) && rest[n] == '"' && n <= 3 && strings.HasSuffix(rest[:n], "R") {
			n, k = n-1+rawLength(rest[n-1:]), quoted
		}
	case isDigit(c) || c == '.' && len(rest) > 1 && isDigit(rest[1]):
		k = number
		for n < len(rest) && (isLetter(rest[n]) || isDigit(rest[n]) || rest[n] == '.' || rest[n] == '\'' && n+1 < len(rest) && isDigit(rest[n+1]) || (rest[n] == '+' || rest[n] == '-') && strings.IndexByte("eEpP", rest[n-1]) >= 0) {
			n++
		}
	case c == '"' || c == '\'':
		n, k = quotedLength(rest), quoted
	default:
		for _, long := range signs {
			if strings.HasPrefix(rest, long) {
				n = len(long)
				break
			}
		}
	}
	t = token{kind: k, text: rest[:n], from: int32(s.pos), first: s.first, space: s.space}
	s.pos += n
	s.first, s.space = false, false
	return t, true
}
