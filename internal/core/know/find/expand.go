package find

import (
	"bytes"
	"strings"
)

// Expand is what comes in the place of a match, by a template: of a regular expression $1 stands in it for what the
// first group has matched, $0 for all of it, ${name} for a group with a name, $$ for a dollar, and \n and \t for a line
// end and a tab. Without a regular expression the template is what comes.
func (m *Matcher) Expand(text []byte, at Match, template string) string {
	if !m.query.Regexp {
		return template
	}
	groups := m.groups(text, at)
	group := func(n int) string {
		if n < 0 || 2*n+1 >= len(groups) || groups[2*n] < 0 {
			return ""
		}
		return string(text[groups[2*n]:groups[2*n+1]])
	}
	var b strings.Builder
	for i := 0; i < len(template); {
		rest := template[i+1:]
		switch {
		case template[i] == '\\' && rest != "":
			b.WriteString(escaped(rest[0]))
			i += 2
		case template[i] != '$' || rest == "":
			b.WriteByte(template[i])
			i++
		case rest[0] == '$':
			b.WriteByte('$')
			i += 2
		case rest[0] >= '0' && rest[0] <= '9':
			n, size := 0, 0
			for size < len(rest) && size < 2 && rest[size] >= '0' && rest[size] <= '9' && (size == 0 || n*10+int(rest[size]-'0') <= m.pattern.NumSubexp()) {
				n = n*10 + int(rest[size]-'0')
				size++
			}
			b.WriteString(group(n))
			i += 1 + size
		case rest[0] == '{' && strings.IndexByte(rest, '}') > 0:
			name := rest[1:strings.IndexByte(rest, '}')]
			b.WriteString(group(m.numbered(name)))
			i += len(name) + 3
		default:
			b.WriteByte('$')
			i++
		}
	}
	return b.String()
}

func escaped(c byte) string {
	switch c {
	case 'n':
		return "\n"
	case 't':
		return "\t"
	}
	return string(c)
}

// numbered is the number of a group by its name or number; -1 for none.
func (m *Matcher) numbered(name string) int {
	n := 0
	for i := range len(name) {
		if name[i] < '0' || name[i] > '9' || n > 99 {
			return m.pattern.SubexpIndex(name)
		}
		n = n*10 + int(name[i]-'0')
	}
	return n
}

// groups are the offsets of what the groups have matched. A match is looked at by itself first, and only if that gives
// another one from the beginning of its line, so that ^ and \b see what stands in front.
func (m *Matcher) groups(text []byte, at Match) []int {
	line := bytes.LastIndexByte(text[:at.Start], '\n') + 1
	for from := at.Start; from <= at.Start; {
		g := m.pattern.FindSubmatchIndex(text[from:])
		for i := range g {
			if g[i] >= 0 {
				g[i] += from
			}
		}
		switch {
		case g != nil && g[0] == at.Start && g[1] == at.End:
			return g
		case from == at.Start && line < from:
			from = line
		case g == nil || from == at.Start:
			return nil
		default:
			from = max(g[1], g[0]+1)
		}
	}
	return nil
}

// TakesEmpty says whether a pattern matches the empty string, of which no match is told.
func (m *Matcher) TakesEmpty() bool { return m.pattern != nil && m.pattern.MatchString("") }

// LikeCase writes a word in large and small letters like another one that it takes the place of: all large, with a
// large one in front, or as it is.
func LikeCase(word, like string) string {
	switch {
	case like == "" || word == "":
		return word
	case len(like) > 1 && like == strings.ToUpper(like) && like != strings.ToLower(like):
		return strings.ToUpper(word)
	}
	first, rest := firstLetter(like)
	switch {
	case first == "" || first == strings.ToUpper(first) && first != strings.ToLower(first):
		begin, end := firstLetter(word)
		return strings.ToUpper(begin) + end
	case rest == strings.ToLower(rest) || first == strings.ToLower(first):
		begin, end := firstLetter(word)
		return strings.ToLower(begin) + end
	}
	return word
}

func firstLetter(s string) (first, rest string) {
	for i := range s {
		if i > 0 {
			return s[:i], s[i:]
		}
	}
	return s, ""
}
