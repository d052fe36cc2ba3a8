package c

import (
	"bytes"
	"iter"
	"regexp"

	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
)

// Projects put macros of their own into declarations: in front, as in
// LUA_API int f(void), or between, as in int ZEXPORT f(void). The grammar does
// not know what they stand for and takes them for the type. So that it reads
// what is left, they are hidden from it; what is written as a call, or in small
// letters between a type and a name, stays.

// heading is what a declaration of a function begins with: words, then a name
// and a round bracket.
var heading = regexp.MustCompile(`\A[ \t]*((?:[A-Za-z_]\w*[ \t]*\n?[ \t*&]+){2,})(?:\([ \t*]*)?[A-Za-z_~][\w:]*\)?[ \t]*\(`)

// variable is what a declaration of one begins with: a macro, words that say what kind of variable it is, its type
// and its name.
var variable = regexp.MustCompile(`\A[ \t]*([A-Z][A-Z0-9_]{3,})[ \t]+(?:(?:const|static|extern|volatile)[ \t]+)+[A-Za-z_]\w*[ \t*]+[A-Za-z_]\w*[ \t]*[\[=;]`)

// defined is a macro of several lines, remark what the grammar does not expect within one.
var (
	defined = regexp.MustCompile(`\A[ \t]*#[ \t]*define\b(?:[^\n\\]|\\[^\n])*(?:\\\n(?:[^\n\\]|\\[^\n])*)+`)
	remark  = regexp.MustCompile(`(?s)/\*.*?\*/`)
)

var word = regexp.MustCompile(`[A-Za-z_]\w*`)

// keywords may stand in front of a function beside its type.
var keywords = lang.WordsOf(`static const inline extern register volatile signed unsigned short long struct union enum class int char float double void bool
	auto virtual explicit constexpr consteval constinit typename friend mutable restrict _Noreturn _Thread_local thread_local __inline __inline__ __restrict __extension__
	_Bool size_t`)

// builtin are those of them that are a type.
var builtin = lang.WordsOf("int char float double void bool signed unsigned short long auto _Bool size_t")

// statements are the words that begin something else.
var statements = lang.WordsOf("return else if while for switch case goto do sizeof typedef new delete throw using namespace template operator define public private protected default break continue co_return co_await co_yield not and or")

var (
	// exported is a macro between the word class and the name of one.
	exported = regexp.MustCompile(`\b(?:class|struct|union)[ \t]+([A-Z_][A-Z0-9_]*(?:\([^()\n]*\))?)[ \t]+[A-Za-z_][\w:]*(?:<[^<>\n]*>)?[ \t]*(?:final[ \t]*)?[\n\t ]*[:{;]`)
	// annotated is a macro behind what is declared, as in int n GUARDED_BY(lock);
	annotated = regexp.MustCompile(`(?:\w[ \t*&>]+(\w+)(?:\[[^\]\n]*\])?|\)(?:[ \t]*\b(?:const|override|noexcept|final)\b)*)[ \t]*\n?[ \t]+([A-Z][A-Z0-9_]{3,}(?:\([^()\n]*\))?)[ \t\n]*(?:[;{]|=[^=])`)
	// spaced is a macro between the name of a namespace and its brace.
	spaced = regexp.MustCompile(`\bnamespace[ \t]+\w+[ \t]+([A-Z_][A-Z0-9_]*(?:\([^()\n]*\))?)[ \t]*\n?[ \t]*\{`)
)

// easePlus hides what ease does, and macros where only C++ has them.
func easePlus(text []byte) (eased []byte, hidden []place.Range) {
	eased = text
	hide := func(start, end int) {
		if len(hidden) == 0 {
			eased = bytes.Clone(text)
		}
		for _, w := range word.FindAllIndex(text[start:end], -1) {
			hidden = append(hidden, place.Range{Start: uint32(start + w[0]), End: uint32(start + w[1])})
		}
		blank(eased[start:end])
	}
	for _, at := range exported.FindAllSubmatchIndex(text, -1) {
		hide(at[2], at[3])
	}
	for _, at := range spaced.FindAllSubmatchIndex(text, -1) {
		hide(at[2], at[3])
	}
	for _, at := range annotated.FindAllSubmatchIndex(text, -1) {
		if at[2] >= 0 {
			if name := string(text[at[2]:at[3]]); keywords[name] || statements[name] || builtin[name] || tags[name] || !bytes.HasSuffix(text[at[4]:at[5]], []byte(")")) {
				continue
			}
		}
		hide(at[4], at[5])
	}
	further, more := ease(eased)
	return further, append(hidden, more...)
}

// ease hides such macros; hidden are the places of those that it hid.
func ease(text []byte) (eased []byte, hidden []place.Range) {
	eased = text
	hide := func(start, end int) {
		if &eased[0] == &text[0] {
			eased = bytes.Clone(text)
		}
		hidden = append(hidden, place.Range{Start: uint32(start), End: uint32(end)})
		blank(eased[start:end])
	}
	for at := range atLines(text, heading) {
		for _, w := range superfluous(text[at[2]:at[3]]) {
			hide(at[2]+w[0], at[2]+w[1])
		}
	}
	for at := range directives(text) {
		for _, c := range remark.FindAllIndex(text[at[0]:at[1]], -1) {
			if &eased[0] == &text[0] {
				eased = bytes.Clone(text)
			}
			blank(eased[at[0]+c[0] : at[0]+c[1]])
		}
	}
	for at := range atLines(text, variable) {
		hide(at[2], at[3])
	}
	return eased, hidden
}

// longestHead bounds how much of a text is looked at for the beginning of one declaration, in bytes.
const longestHead = 2000

// atLines are the matches of an expression that begins where lines do, as offsets in the text. Lines that begin with no word
// are passed over, and so are those within a match.
func atLines(text []byte, expression *regexp.Regexp) iter.Seq[[]int] {
	return func(yield func([]int) bool) {
		for start := 0; start < len(text); {
			end := bytes.IndexByte(text[start:], '\n')
			if end < 0 {
				end = len(text)
			} else {
				end += start + 1
			}
			first := start
			for first < end && (text[first] == ' ' || text[first] == '\t') {
				first++
			}
			if first == end || !(text[first] == '_' || 'a' <= text[first] && text[first] <= 'z' || 'A' <= text[first] && text[first] <= 'Z') {
				start = end
				continue
			}
			at := expression.FindSubmatchIndex(text[start:min(len(text), start+longestHead)])
			if at == nil {
				start = end
				continue
			}
			for i := range at {
				at[i] += start
			}
			if !yield(at) {
				return
			}
			start = max(end, at[1])
			if n := bytes.IndexByte(text[start:], '\n'); start > end && n >= 0 {
				start += n + 1
			}
		}
	}
}

// directives are the macros of several lines.
func directives(text []byte) iter.Seq[[]int] {
	return func(yield func([]int) bool) {
		for start := 0; start < len(text); {
			end := bytes.IndexByte(text[start:], '\n')
			if end < 0 {
				return
			}
			end += start + 1
			if line := bytes.TrimSpace(text[start:end]); bytes.HasPrefix(line, []byte("#")) && bytes.HasSuffix(line, []byte("\\")) {
				if at := defined.FindIndex(text[start:]); at != nil {
					if !yield([]int{start + at[0], start + at[1]}) {
						return
					}
					end = start + at[1]
				}
			}
			start = end
		}
	}
}

// blank writes over a text, but for the ends of its lines.
func blank(text []byte) {
	for i := range text {
		if text[i] != '\n' && text[i] != '\\' {
			text[i] = ' '
		}
	}
}

// superfluous finds the words in front of a name that can be no part of its
// type, of which there is one: those in capitals first, then those in front.
func superfluous(front []byte) (out [][]int) {
	var free [][]int // the words that are no keywords
	typed := false
	all := word.FindAllIndex(front, -1)
	for i, w := range all {
		name := string(front[w[0]:w[1]])
		switch {
		case statements[name]:
			return nil
		case builtin[name]:
			typed = true
		case keywords[name]:
		case i > 0 && tags[string(front[all[i-1][0]:all[i-1][1]])]:
			typed = true
		default:
			free = append(free, w)
		}
	}
	allowed := 1
	if typed {
		allowed = 0
	}
	for i := 0; i < len(free) && len(free) > allowed; {
		if w := free[i]; bytes.ContainsFunc(front[w[0]:w[1]], func(r rune) bool { return 'a' <= r && r <= 'z' }) {
			i++
			continue
		}
		out = append(out, free[i])
		free = append(free[:i:i], free[i+1:]...)
	}
	for len(free) > allowed && !typed {
		out = append(out, free[0])
		free = free[1:]
	}
	return out
}

var tags = lang.WordsOf("struct union enum class")
