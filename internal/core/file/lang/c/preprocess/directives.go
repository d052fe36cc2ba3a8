package preprocess

import "strings"

// Includes are the headers that a text includes, as it names them, in order.
func Includes(text []byte) []string { return Read(text).Includes() }

// Directives are those of a text, in order, each without the sign before it.
type Directives []string

// Read finds the directives of a text.
func Read(text []byte) (all Directives) {
	src := string(text)
	for at := 0; at < len(src); {
		n := strings.IndexByte(src[at:], '#')
		if n < 0 {
			break
		}
		at += n
		start := at
		for start > 0 && (src[start-1] == ' ' || src[start-1] == '\t') {
			start--
		}
		at++
		if start > 0 && src[start-1] != '\n' {
			continue
		}
		line := src[at : at+directiveLength(src[at:min(len(src), at+longestDirective)])]
		at += len(line)
		all = append(all, strings.TrimSpace(line))
	}
	return all
}

// Includes are the headers that they include, as they name them.
func (d Directives) Includes() (all []string) {
	for _, line := range d {
		rest, ok := strings.CutPrefix(line, "include")
		rest = strings.TrimSpace(strings.TrimPrefix(rest, "_next"))
		if !ok || len(rest) < 3 || rest[0] != '<' && rest[0] != '"' {
			continue
		}
		if n := strings.IndexAny(rest[1:], ">\""); n > 0 {
			all = append(all, rest[1:n+1])
		}
	}
	return all
}

// longestDirective bounds how much of one is read, in bytes.
const longestDirective = 1 << 14

// mostPlain is how many macros a header may have of which those count, too, that only stand for a number or a name. Tables of
// registers have more.
const mostPlain = 2000

// Macros are those that the directives of a header leave to what includes it, as far as they matter for how that is read: those that change
// what the grammar sees, and those that conditions may ask about.
func (d Directives) Macros(cpp bool, options Options) map[string]*Macro {
	w := d.walk(cpp, options)
	plain := 0
	for name, m := range w.macros {
		if m.judge(w.find) == none {
			if plain++; len(m.body) > mostOfPlain {
				delete(w.macros, name)
			}
		}
	}
	if plain > mostPlain {
		for name, m := range w.macros {
			if m.effect == none {
				delete(w.macros, name)
			}
		}
	}
	return w.macros
}

// Unsettled is Macros without working out which of them matter, and how, which is left to Settle of each; until then, options are
// used. ok is false for a table of so many that this depends on all of them.
func (d Directives) Unsettled(cpp bool, options Options) (macros map[string]*Macro, ok bool) {
	if len(d) > mostPlain {
		return nil, false
	}
	w := d.walk(cpp, options)
	w.tokens, w.ifs = nil, nil
	for _, m := range w.macros {
		m.later = w.find
	}
	return w.macros, true
}

// walk goes through the directives.
func (d Directives) walk(cpp bool, options Options) *walker {
	w := &walker{cpp: cpp, options: options, macros: map[string]*Macro{}, levels: []level{declarations}, types: map[string]bool{}, left: mostTokens * 100}
	w.tokens = make([]token, 0, len(d))
	for _, line := range d {
		w.tokens = append(w.tokens, token{kind: directive, text: "#" + line})
		w.direct(len(w.tokens) - 1)
	}
	return w
}

// mostOfPlain is how many tokens a macro may stand for that conditions ask about.
const mostOfPlain = 40
