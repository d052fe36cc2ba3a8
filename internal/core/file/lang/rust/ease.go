package rust

import (
	"bytes"
	"regexp"

	"rooktrail/internal/core/file/place"
)

// Items are often handed whole to a macro, as in cfg_if! { if #[cfg(unix)] { mod a; } },
// thread_local! { static X: T = T::new(); } and lazy_static!. The grammar sees only
// words there; so that it reads the items, what is around them is hidden from it.

// wrapped is where a macro begins that is given items.
var wrapped = regexp.MustCompile(`(?m)^[ \t]*((?:\w+::)*(\w+)![ \t]*[({])(?:\s|//[^\n]*\n|#\[[^\n]*\]\s*\n)*(if #\[|pub\b|mod\s+\w+\s*[;{]|use\s|fn\s|struct\s|enum\s|trait\s|impl\b|static\s|const\s|type\s|unsafe\s+(?:fn|impl)|async\s+fn|extern\s)`)

var (
	// branch is the head of a branch of cfg_if.
	branch = regexp.MustCompile(`\}\s*else\s+if\s+#\[[^{\n]*\]\s*\{|\}\s*else\s*\{|\bif\s+#\[[^{\n]*\]\s*\{`)
	// lazy is a word that lazy_static has in front of a name.
	lazy = regexp.MustCompile(`\bstatic[ \t]+(ref)\b`)
)

// Newer words that the grammar does not know: a block of functions of another language that are not safe, those in it that are,
// and an address that is taken without a reference.
var (
	foreign = regexp.MustCompile(`(?m)^[ \t]*(unsafe)[ \t]+extern[ \t]*(?:"[^"\n]*"[ \t]*)?\{`)
	safe    = regexp.MustCompile(`(?m)^[ \t]*(?:pub(?:\([^)\n]*\))?[ \t]+)?(safe)[ \t]+(?:fn|static)\b`)
	raw     = regexp.MustCompile(`&(raw[ \t]+const)[ \t]|&(raw)[ \t]+mut\b`)
)

// unlike are macros whose items are not written as those of the language are.
var unlike = map[string]bool{"bitflags": true, "macro_rules": true}

// ease hides what is around items handed to macros; hidden are the names of those.
func ease(text []byte) (eased []byte, hidden []place.Range) {
	eased = modern(text)
	for _, at := range wrapped.FindAllSubmatchIndex(text, -1) {
		open, end := at[3]-1, 0
		if unlike[string(text[at[4]:at[5]])] {
			continue
		}
		if end = closing(text, open); end < 0 {
			continue
		}
		if len(hidden) == 0 && &eased[0] == &text[0] {
			eased = bytes.Clone(text)
		}
		hidden = append(hidden, place.Range{Start: uint32(at[4]), End: uint32(at[5])})
		blank(eased[at[2]:at[3]])
		blank(eased[end : end+1])
		if end+1 < len(text) && text[end+1] == ';' {
			blank(eased[end+1 : end+2])
		}
		if bytes.HasPrefix(text[at[6]:], []byte("if #[")) {
			blankBranches(eased, text, at[3], end)
		}
		for _, l := range lazy.FindAllSubmatchIndex(text[at[3]:end], -1) {
			blank(eased[at[3]+l[2] : at[3]+l[3]])
		}
	}
	return eased, hidden
}

// modern hides newer words.
func modern(text []byte) []byte {
	eased := text
	hide := func(pattern *regexp.Regexp) {
		for _, m := range pattern.FindAllSubmatchIndex(text, -1) {
			if &eased[0] == &text[0] {
				eased = bytes.Clone(text)
			}
			for i := 2; i < len(m); i += 2 {
				if m[i] >= 0 {
					blank(eased[m[i]:m[i+1]])
				}
			}
		}
	}
	if bytes.Contains(text, []byte("unsafe extern")) {
		hide(foreign)
		hide(safe)
	}
	if bytes.Contains(text, []byte("&raw ")) {
		hide(raw)
	}
	return eased
}

// blankBranches hides the heads of the branches between start and end, and the
// brace that closes the last of each chain of them.
func blankBranches(eased, text []byte, start, end int) {
	last := start
	for _, b := range branch.FindAllIndex(text[start:end], -1) {
		if start+b[0] < last {
			continue // within another branch, where it is a statement
		}
		blank(eased[start+b[0] : start+b[1]])
		if last = closing(text, start+b[1]-1); last < 0 {
			return
		}
		blank(eased[last : last+1])
	}
}

func blank(text []byte) {
	for i, c := range text {
		if c != '\n' && c != '\r' {
			text[i] = ' '
		}
	}
}

// closing is where the bracket at an offset is closed, or -1. Brackets in comments,
// strings and characters do not count.
func closing(text []byte, open int) int {
	depth := 0
	for i := open; i < len(text); i++ {
		switch text[i] {
		case '{', '(', '[':
			depth++
		case '}', ')', ']':
			if depth--; depth == 0 {
				return i
			}
		case '"':
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
		case '\'':
			if i+2 < len(text) && text[i+2] == '\'' {
				i += 2
			}
		case '/':
			if bytes.HasPrefix(text[i:], []byte("//")) {
				for i < len(text) && text[i] != '\n' {
					i++
				}
			} else if bytes.HasPrefix(text[i:], []byte("/*")) {
				if n := bytes.Index(text[i:], []byte("*/")); n > 0 {
					i += n + 1
				}
			}
		}
	}
	return -1
}
