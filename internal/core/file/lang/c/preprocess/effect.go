package preprocess

import "rooktrail/internal/core/file/lang"

// effect is what becomes of a macro where it is used.
type effect uint8

// The effects.
const (
	none     effect = iota // the grammar reads it like any name or call
	hide                   // it stands for nothing that the grammar has to see
	open                   // what it stands for is put in its place
	declares               // the same, where declarations stand
)

var (
	// attributes are words that say something of what is declared which nobody asks about here.
	attributes = lang.WordsOf(`inline static extern constexpr consteval constinit volatile noexcept __inline __inline__ __forceinline __attribute__ __attribute
		__declspec _Pragma __pragma alignas _Alignas __extension__ register thread_local __thread _Thread_local virtual override final explicit
		_Noreturn noreturn __restrict restrict __restrict__ __cdecl __stdcall __fastcall __vectorcall`)
	// openers are words that begin what no call or name can stand for.
	openers = lang.WordsOf(`namespace template using typedef friend try catch public private protected`)
	// tags begin a type, which opens something only if it goes on with a bracket.
	tags = lang.WordsOf(`class struct union enum extern`)
)

// mostJudged is how many tokens of what a macro stands for are looked at.
const mostJudged = 500

// judge works out what becomes of a macro, by what it stands for without its arguments.
func (m *Macro) judge(find func(string) *Macro) effect {
	if m.judged {
		return m.effect
	}
	m.judged = true                                                                        // what leads back here knows nothing yet
	if m.call && len(m.params) == 1 && len(m.body) == 1 && m.body[0].text == m.params[0] { // as for parameters that old compilers do not read
		m.effect = declares
		return m.effect
	}
	x := expander{find: find, left: mostJudged}
	m.effect = effectOf(x.expand(m.body, nil, 1))
	return m.effect
}

func effectOf(body []token) effect {
	if onlyAttributes(body) {
		return hide
	}
	depth, lowest, ends := 0, 0, false
	for _, t := range body {
		switch t.text {
		case "{":
			depth++
		case "}":
			depth--
			lowest = min(lowest, depth)
		case ";":
			ends = ends || depth == 0
		}
	}
	first := body[0]
	braced := false
	for _, t := range body {
		braced = braced || t.text == "{"
	}
	switch {
	case depth != 0 || lowest < 0:
		return open
	case openers[first.text]:
		return open
	case ends || braced && (tags[first.text] || first.kind == word && first.text != "do" && first.text != "if"):
		return declares
	}
	return none
}

// onlyAttributes says whether some tokens are words that say something of what is declared, and what stands between brackets
// behind them.
func onlyAttributes(body []token) bool {
	for i := 0; i < len(body); i++ {
		switch t := body[i]; {
		case t.kind == word && attributes[t.text]:
			if t.text == "extern" && i+1 < len(body) && body[i+1].kind == quoted {
				if i+2 < len(body) {
					return false // it opens a bracket
				}
				i++
			}
			if i+1 < len(body) && body[i+1].text == "(" {
				_, last, ok := arguments(body, i+1)
				if !ok {
					return false
				}
				i = last
			}
		case t.text == "[[":
			for i < len(body) && body[i].text != "]]" {
				i++
			}
		default:
			return false
		}
	}
	return true
}
