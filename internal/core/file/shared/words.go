package shared

import (
	"bytes"
	"regexp"
	"strings"

	"rooktrail/internal/core/file/facts"
)

// hole is a way to write what is put into a text when the program runs.
type hole struct {
	open, close string
	// statement says that nothing is put there, unless it begins with one of the signs in value.
	statement bool
	value     string
}

var holes = []hole{
	{open: "${", close: "}"},
	{open: "#{", close: "}"},
	{open: "{{", close: "}}", statement: false},
	{open: "{%", close: "%}", statement: true},
	{open: "<%", close: "%>", statement: true, value: "="},
	{open: "<?", close: "?>"},
}

// control are statements of a template, between the signs of a value.
var control = regexp.MustCompile(`^\{\{-?\s*(?:if|else|end|range|with|for|block|define|template)\b`)

// holeAt is the length of a hole with which a text begins, 0 if it begins with none, and whether a value is put there.
func holeAt(text []byte) (length int, value bool) {
	for _, h := range holes {
		if !bytes.HasPrefix(text, []byte(h.open)) {
			continue
		}
		length = closing(text, h)
		if length == 0 {
			return 0, false
		}
		value = !h.statement || h.value != "" && bytes.HasPrefix(text[len(h.open):], []byte(h.value))
		return length, value && !control.Match(text)
	}
	return 0, false
}

// closing is where a hole ends with which a text begins; 0 if it does not.
func closing(text []byte, h hole) int {
	if h.close != "}" {
		if i := bytes.Index(text, []byte(h.close)); i >= 0 {
			return i + len(h.close)
		}
		return 0
	}
	depth := 0
	for i, c := range text {
		switch c {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i + 1
			}
		}
	}
	return 0
}

// word is one of those in a text, with what is put into it as facts.Built.
type word struct {
	name       string
	start, end int
}

// words are those of a text that begins at an offset, with blanks between them. Those that stand in strings within what is put
// in are handed to inner, by where they stand.
func words(offset int, text []byte, inner func(start int, text []byte)) (all []word) {
	now := word{start: -1}
	end := func(i int) {
		if now.start >= 0 {
			now.end = offset + i
			all = append(all, now)
		}
		now = word{start: -1}
	}
	for i := 0; i < len(text); {
		if n, value := holeAt(text[i:]); n > 0 {
			if inner != nil {
				inner(offset+i, text[i:i+n])
			}
			if !value {
				end(i)
			} else {
				if now.start < 0 {
					now.start = offset + i
				}
				now.name += facts.Built
			}
			i += n
			continue
		}
		if strings.IndexByte(" \t\r\n", text[i]) >= 0 {
			end(i)
		} else {
			if now.start < 0 {
				now.start = offset + i
			}
			now.name += string(text[i : i+1])
		}
		i++
	}
	end(len(text))
	return all
}

var quotedIn = regexp.MustCompile("'[^'\n]*'|\"[^\"\n]*\"")

// classes notes the classes in a text that begins at an offset.
func (s *scanner) classes(offset int, text []byte) {
	strings := func(start int, text []byte) {
		for _, at := range quotedIn.FindAllIndex(text, -1) {
			s.classes(start+at[0]+1, text[at[0]+1:at[1]-1])
		}
	}
	for _, w := range words(offset, text, strings) {
		if isClass(w.name) {
			s.add(facts.StyleClass, w.name, w.start, w.end, false)
		}
	}
}

func isClass(name string) bool {
	for i := range len(name) {
		if c := name[i]; !isName(c) && c != '-' && c != '*' {
			return false
		}
	}
	return name != "" && (name[0] < '0' || name[0] > '9')
}

// ids notes the ids in a text that begins at an offset.
func (s *scanner) ids(offset int, text []byte, given bool) {
	for _, w := range words(offset, text, nil) {
		if isClass(w.name) || given {
			s.add(facts.Element, w.name, w.start, w.end, given)
		}
	}
}

// selectorName is a class, an id or a data attribute in a selector.
var selectorName = regexp.MustCompile(`([.#])((?:[\w-]|[^\x00-\x7f]|#\{[^}]*\}|\$\{[^}]*\}|@\{[^}]*\})+)|\[\s*(data-[\w-]+)`)

var interpolated = regexp.MustCompile(`[#$@]\{[^}]*\}`)

// selectors notes the names in a selector that begins at an offset; given says that its classes are given there. It returns
// the name of the last class.
func (s *scanner) selectors(offset int, text []byte, given bool) (last string) {
	for _, at := range selectorName.FindAllSubmatchIndex(text, -1) {
		if at[6] >= 0 {
			s.add(facts.Data, string(text[at[6]:at[7]]), offset+at[6], offset+at[7], false)
			continue
		}
		name := interpolated.ReplaceAllString(string(text[at[4]:at[5]]), facts.Built)
		switch c := name[0]; {
		case '0' <= c && c <= '9':
		case text[at[2]] == '.':
			s.add(facts.StyleClass, name, offset+at[4], offset+at[5], given)
			last = name
		default:
			s.add(facts.Element, name, offset+at[4], offset+at[5], false)
		}
	}
	return last
}
