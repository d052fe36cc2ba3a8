package preprocess

import (
	"fmt"
	"hash/fnv"
	"slices"
	"strconv"
	"strings"
)

// Macro is a word that stands for others.
type Macro struct {
	// call says that it is one only with arguments behind it; rest that the last of its parameters takes all others.
	call, rest bool
	params     []string
	body       []token
	effect     effect
	judged     bool
	// later is how names are found where it is judged only once it is asked for; nil for one that is judged, or where it is used.
	later func(name string) *Macro
}

// Settle judges a macro that was left for later; it is false if such a macro is not one of those that matter. It is not to be called
// by several goroutines at once, nor is the macro to be used by another one before.
func (m *Macro) Settle() bool {
	if m.later != nil {
		find := m.later
		m.later = nil
		m.judge(find)
	}
	return m.effect != none || len(m.body) <= mostOfPlain
}

// Settled says that nothing is left to be judged of it.
func (m *Macro) Settled() bool { return m.later == nil }

// IsShort says that it matters whatever it is judged to be.
func (m *Macro) IsShort() bool { return len(m.body) <= mostOfPlain }

// Same says whether two macros stand for the same.
func (m *Macro) Same(o *Macro) bool {
	return o != nil && m.call == o.call && m.rest == o.rest && slices.Equal(m.params, o.params) && spell(m.body) == spell(o.body)
}

// Digest stands for a macro of a name, what its parameters are and what it stands for.
func (m *Macro) Digest(name string) uint64 {
	h := fnv.New64a()
	fmt.Fprintf(h, "%s%v%v%v%s", name, m.call, m.rest, m.params, spell(m.body))
	return h.Sum64()
}

// Kept is the macro without the text that it was read from, which would be kept along with it; word gives a word as it is kept.
func (m *Macro) Kept(word func(string) string) *Macro {
	params := slices.Clone(m.params)
	for i := range params {
		params[i] = word(params[i])
	}
	body := slices.Clone(m.body)
	for i := range body {
		body[i].text = word(body[i].text)
	}
	m.params, m.body = params, body
	return m
}

// Plain is what a macro stands for that has no parameters and no words in it; ok is false for others. Those that stand for the
// same are the same.
func (m *Macro) Plain() (spelled string, ok bool) {
	if m.call || !m.judged || slices.ContainsFunc(m.body, func(t token) bool { return t.kind == word }) {
		return "", false
	}
	return spell(m.body), true
}

// Defined is a macro of a name, which may have parameters behind it, as a command defines one.
func Defined(name, value string) *Macro {
	_, m := define(name + " " + value)
	if m == nil {
		m = &Macro{}
	}
	m.judge(func(string) *Macro { return nil })
	return m
}

// define reads what stands behind the word define of a directive.
func define(text string) (name string, m *Macro) {
	s := scanner{src: text}
	t, ok := s.next(false)
	if !ok || t.kind != word {
		return "", nil
	}
	m = &Macro{}
	if strings.HasPrefix(text[s.pos:], "(") {
		m.call = true
		for s.next(false); ; {
			p, ok := s.next(false)
			if !ok || p.text == ")" {
				break
			}
			switch {
			case p.text == "...":
				if m.rest = true; len(m.params) == 0 || !wasNamed(text[:s.pos]) {
					m.params = append(m.params, "__VA_ARGS__")
				}
			case p.kind == word:
				m.params = append(m.params, p.text)
			}
		}
	}
	m.body = scan(text[s.pos:], false)
	for i := range m.body {
		m.body[i].from, m.body[i].first = -1, false
	}
	return t.text, m
}

// wasNamed says whether the dots at the end of a text stand right behind a name, which is then that of all the rest.
func wasNamed(text string) bool {
	before := strings.TrimSuffix(text, "...")
	return before != "" && (isLetter(before[len(before)-1]) || isDigit(before[len(before)-1]))
}

// What bounds an expansion: how deep macros may lie in others, and how many tokens may come of one.
const (
	mostNested = 30
	mostTokens = 4000
)

// expander puts what macros stand for in their place.
type expander struct {
	find func(name string) *Macro
	left int
}

// expand puts in place all macros among some tokens, but for those that are being put in place already.
func (x *expander) expand(in []token, within map[string]bool, depth int) (out []token) {
	for i := 0; i < len(in); i++ {
		t := in[i]
		m := (*Macro)(nil)
		switch {
		case t.kind != word || t.done || depth >= mostNested:
		case within[t.text]:
			t.done = true
		default:
			m = x.find(t.text)
		}
		if x.left--; x.left < 0 {
			return out
		}
		if m == nil {
			out = append(out, t)
			continue
		}
		var args [][]token
		last := i
		if m.call {
			var ok bool
			if args, last, ok = arguments(in, i+1); !ok {
				out = append(out, t)
				continue
			}
		}
		body := x.substitute(m, args, within, depth)
		inner := make(map[string]bool, len(within)+1)
		for k := range within {
			inner[k] = true
		}
		inner[t.text] = true
		body = x.expand(body, inner, depth+1)
		i = last
		if n := len(body); n > 0 && i+1 < len(in) && in[i+1].text == "(" && body[n-1].kind == word && !body[n-1].done {
			in, i = append([]token{body[n-1]}, in[i+1:]...), -1 // its arguments stand behind
			body = body[:n-1]
		}
		out = append(out, body...)
	}
	return out
}

// arguments are those between brackets that begin at a token; last is the closing one.
func arguments(in []token, from int) (args [][]token, last int, ok bool) {
	if from >= len(in) || in[from].text != "(" {
		return nil, from, false
	}
	depth, start := 0, from+1
	for i := from; i < len(in); i++ {
		switch in[i].text {
		case "(":
			depth++
		case ")":
			if depth--; depth == 0 {
				return append(args, in[start:i]), i, true
			}
		case ",":
			if depth == 1 {
				args = append(args, in[start:i])
				start = i + 1
			}
		}
		if in[i].kind == directive {
			return nil, from, false
		}
	}
	return nil, from, false
}

// argument is what is given for a parameter.
func (m *Macro) argument(args [][]token, name string) (given []token, ok bool) {
	for i, p := range m.params {
		if p != name {
			continue
		}
		if m.rest && i == len(m.params)-1 {
			for j := i; j < len(args); j++ {
				if j > i {
					given = append(given, token{kind: sign, text: ",", from: -1})
				}
				given = append(given, args[j]...)
			}
			return given, true
		}
		if i < len(args) {
			given = args[i]
		}
		return given, true
	}
	return nil, false
}

// substitute puts arguments into the body of a macro.
func (x *expander) substitute(m *Macro, args [][]token, within map[string]bool, depth int) (out []token) {
	for i := 0; i < len(m.body); i++ {
		t := m.body[i]
		if t.text == "#" && m.call && i+1 < len(m.body) {
			if given, ok := m.argument(args, m.body[i+1].text); ok {
				out = append(out, token{kind: quoted, text: strconv.Quote(spell(given)), from: -1, space: true})
				i++
				continue
			}
		}
		if t.text == "##" && len(out) > 0 && i+1 < len(m.body) {
			i++
			right := []token{m.body[i]}
			if given, ok := m.argument(args, m.body[i].text); ok {
				right = given
			}
			out = paste(out, right)
			continue
		}
		given, ok := m.argument(args, t.text)
		switch {
		case !ok || t.kind != word:
			out = append(out, t)
		case i+1 < len(m.body) && m.body[i+1].text == "##":
			if out = append(out, given...); len(given) == 0 {
				out = append(out, token{kind: sign, from: -1}) // something for what follows to be joined to
			}
		default:
			out = append(out, x.expand(given, within, depth+1)...)
		}
		if x.left < 0 || len(out) > mostTokens {
			return out
		}
	}
	return out
}

// paste joins the last of some tokens and the first of others to one.
func paste(left, right []token) []token {
	if len(right) == 0 {
		return left
	}
	a, b := left[len(left)-1], right[0]
	joined := token{kind: a.kind, text: a.text + b.text, from: -1, space: a.space}
	if a.text == "" {
		joined = b
	} else if a.kind == sign {
		joined.kind = b.kind
	}
	return append(append(left[:len(left)-1:len(left)-1], joined), right[1:]...)
}

// spell writes tokens.
func spell(tokens []token) string {
	var b strings.Builder
	for i, t := range tokens {
		if i > 0 && t.space {
			b.WriteByte(' ')
		}
		b.WriteString(t.text)
	}
	return b.String()
}
