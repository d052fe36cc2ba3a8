package shared

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// InSheets is the Reader of style sheets, with and without what preprocessors add.
func InSheets(text []byte, f *facts.File) []facts.Shared {
	s := &scanner{text: text}
	s.sheet(0, text)
	return s.found
}

// withoutRemarks is a sheet in which blanks stand for its comments.
func withoutRemarks(text []byte) []byte {
	clear := bytes.Clone(text)
	for i := 0; i+1 < len(text); i++ {
		if text[i] != '/' {
			continue
		}
		end := 0
		switch {
		case text[i+1] == '*':
			end = bytes.Index(text[i:], []byte("*/")) + len("*/")
		case text[i+1] == '/' && (i == 0 || bytes.IndexByte([]byte(" \t\n"), text[i-1]) >= 0): // not in an address
			end = bytes.IndexByte(text[i:], '\n')
		default:
			continue
		}
		if end < len("*/") {
			end = len(text) - i
		}
		for k := i; k < i+end; k++ {
			clear[k] = ' '
		}
		i += end - 1
	}
	return clear
}

// extended are classes that a rule takes over from others.
var extended = regexp.MustCompile(`^\s*(?:@extend\s+|composes\s*:\s*)([^;]+)`)

// sheet notes the names in a sheet that begins at an offset.
func (s *scanner) sheet(offset int, text []byte) {
	text = withoutRemarks(text)
	var around []string // the class that & stands for, of each rule that is open
	parent := func() string {
		if len(around) == 0 {
			return ""
		}
		return around[len(around)-1]
	}
	begin := 0
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '"', '\'':
			if n := bytes.IndexByte(text[i+1:], text[i]); n >= 0 {
				i += n + 1
			}
		case '#', '$', '@': // a value put into a name
			if i+1 < len(text) && text[i+1] == '{' {
				if n := bytes.IndexByte(text[i:], '}'); n >= 0 {
					i += n
				}
			}
		case '{':
			around = append(around, s.prelude(offset+begin, text[begin:i], parent()))
			begin = i + 1
		case ';', '}':
			if m := extended.FindSubmatchIndex(text[begin:i]); m != nil {
				s.takeOver(offset+begin+m[2], text[begin+m[2]:begin+m[3]])
			}
			if begin = i + 1; text[i] == '}' && len(around) > 0 {
				around = around[:len(around)-1]
			}
		}
	}
}

// takeOver notes classes that are used by a rule.
func (s *scanner) takeOver(offset int, text []byte) {
	if bytes.IndexByte(text, '.') >= 0 {
		s.selectors(offset, text, false)
		return
	}
	text, _, _ = bytes.Cut(text, []byte(" from "))
	for _, w := range words(offset, text, nil) {
		if isClass(w.name) {
			s.add(facts.StyleClass, w.name, w.start, w.end, false)
		}
	}
}

// joined is the end of a name that is put behind that of the rule around it.
var joined = regexp.MustCompile(`&((?:[\w-]|[#@]\{[^}]*\})+)`)

// prelude notes the names in what stands before the block of a rule, in one of a class; it returns that of its own.
func (s *scanner) prelude(offset int, text []byte, parent string) (own string) {
	if head := bytes.TrimLeft(text, " \t\r\n"); len(head) > 0 && head[0] == '@' && !bytes.HasPrefix(head, []byte("@{")) {
		return parent
	}
	own = s.selectors(offset, text, true)
	for _, at := range joined.FindAllSubmatchIndex(text, -1) {
		if parent == "" {
			continue
		}
		end := interpolated.ReplaceAllString(string(text[at[2]:at[3]]), facts.Built)
		own = parent + end
		s.add(facts.StyleClass, own, offset+at[2], offset+at[3], true)
	}
	if own == "" && strings.Contains(string(text), "&") {
		return parent
	}
	return own
}
