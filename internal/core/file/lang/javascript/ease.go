package javascript

import (
	"bytes"
	"iter"
	"regexp"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/reader"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/syntax"
)

// The grammar does not know all that may be written of types, and one place that it cannot read can cost the whole
// file. What it does not know is replaced by something as long that it does.

var (
	// variance says how a type parameter may differ, as in <in out T>.
	variance = regexp.MustCompile(`\A[<,]\s*((?:in|out)\s+(?:out\s+)?)[A-Za-z_$][\w$]*\s*(?:[,>=]|extends\b)`)
	// ofModule is a type of another module, by its path, that has types in it.
	ofModule = regexp.MustCompile(`\Aimport\(\s*"+\s*\)(?:\s*\.\s*[A-Za-z_$][\w$]*)*\s*\.\s*[A-Z_$][\w$]*\s*<`)
	// wholeModule is the type of another module, as the last of several.
	wholeModule = regexp.MustCompile(`\Aimport\(\s*"+\s*\)\s*>`)
	// typesOnly is what another module has to offer, but for its values.
	typesOnly = regexp.MustCompile(`\bexport\s+(type)\s*\z`)
	typeOf    = regexp.MustCompile(`\btypeof\s+\z`)
	// disposed is a variable whose value is disposed of at the end of the block, kept a field behind two functions.
	disposed = regexp.MustCompile(`(?m)(?:^|[;{}])[ \t]*((?:await[ \t]+)?using)[ \t]+[A-Za-z_$][\w$]*[ \t]*=[^=]`)
	kept     = regexp.MustCompile(`(?m)(?:^|[;{}])[ \t]*(?:static[ \t]+)?(accessor)[ \t]+[#A-Za-z_$]`)
)

// near bounds how far, in bytes, it is looked around what may have to be replaced, where it is no signature.
const near = 400

// ease is for JavaScript, easeTyped for TypeScript, which has all of that, and more.
func ease(text []byte) ([]byte, []place.Range) {
	if !bytes.Contains(text, []byte("using ")) && !bytes.Contains(text, []byte("accessor ")) {
		return text, nil
	}
	code, eased := signs.Bare(text), bytes.Clone(text)
	for _, m := range disposed.FindAllSubmatchIndex(code, -1) {
		fill(eased[m[2]:m[3]], ' ')
		copy(eased[m[2]:], "let")
	}
	for _, m := range kept.FindAllSubmatchIndex(code, -1) {
		fill(eased[m[2]:m[3]], ' ')
	}
	return eased, nil
}

func easeTyped(text []byte) ([]byte, []place.Range) {
	var code []byte
	eased, _ := ease(text)
	for at := range suspects(text) {
		if code == nil {
			code = signs.Bare(text)
			if &eased[0] == &text[0] {
				eased = bytes.Clone(text)
			}
		}
		easeAt(code, eased, at)
	}
	return eased, nil
}

// suspects are the places where something may have to be replaced. Most texts have none, which has to be found out fast.
func suspects(text []byte) iter.Seq[int] {
	return func(yield func(int) bool) {
		for i, c := range text {
			found := false
			switch c {
			case '<', ',':
				word := firstWord(text[i+1:])
				found = word == "in" || word == "out"
			case '*':
				found = bytes.HasSuffix(bytes.TrimRight(text[max(0, i-near):i], " \t"), []byte("type"))
			case '(':
				found = bytes.HasSuffix(text[:i], []byte("import"))
			case '\n':
				rest := bytes.TrimLeft(text[i+1:], " \t")
				found = len(rest) > 1 && rest[0] == '<' && &rest[0] != &text[i+1] && rest[1] != '/'
			}
			if found && !yield(i) {
				return
			}
		}
	}
}

// easeAt replaces what has to be at an offset in a text, by what stands there in its code.
func easeAt(code, eased []byte, at int) {
	rest := code[at:min(len(code), at+near)]
	switch code[at] {
	case '<', ',':
		if m := variance.FindSubmatchIndex(rest); m != nil {
			fill(eased[at+m[2]:at+m[3]], ' ')
		}
	case '*':
		before := max(0, at-near)
		if m := typesOnly.FindSubmatchIndex(code[before:at]); m != nil {
			fill(eased[before+m[2]:before+m[3]], ' ')
		}
	case '(':
		start := at - len("import")
		rest = code[start:min(len(code), start+near)]
		if ofModule.Match(rest) || wholeModule.Match(rest) && typeOf.Match(code[max(0, start-near):start]) {
			fill(eased[start:start+bytes.IndexByte(rest, ')')+1], moduleMark)
		}
	case '\n':
		line := bytes.TrimLeft(code[at+1:], " \t")
		if first := len(code) - len(line); endsMember(code[:at]) && isSignature(line) {
			eased[first-1] = ';'
		}
	}
}

func fill(text []byte, with byte) {
	for i := range text {
		text[i] = with
	}
}

// firstWord is the word of letters that a text begins with, behind blanks and a comment, if a blank follows.
func firstWord(text []byte) string {
	text = bytes.TrimLeft(text, " \t\r\n")
	if bytes.HasPrefix(text, []byte("/*")) {
		if end := bytes.Index(text[:min(len(text), near)], []byte("*/")); end > 0 {
			text = bytes.TrimLeft(text[end+2:], " \t\r\n")
		}
	}
	for i, c := range text[:min(len(text), 4)] {
		if c == ' ' || c == '\n' || c == '\t' {
			return string(text[:i])
		}
	}
	return ""
}

// moduleMark stands for the letters of a module that a type is of.
const moduleMark = '_'

// moduleOf is the path of the module that an identifier stands for in place of import('path').
func moduleOf(r *reader.Reader, id syntax.Node) (path string, ok bool) {
	written := id.Range().In(r.Text)
	if !bytes.HasPrefix(written, []byte("import")) || id.Text()[0] != moduleMark {
		return "", false
	}
	parts := bytes.FieldsFunc(written, func(c rune) bool { return c == '"' || c == '\'' })
	if len(parts) != 3 {
		return "", false
	}
	return string(parts[1]), true
}

// orModule is a word that may stand for such a module.
func orModule(rule reader.Rule) reader.Rule {
	use, expr := rule.Visit, rule.Expr
	rule.Visit = func(r *reader.Reader, n syntax.Node) {
		if _, ok := moduleOf(r, n); !ok {
			use(r, n)
		}
	}
	rule.Expr = func(r *reader.Reader, n syntax.Node) facts.ExprID {
		if path, ok := moduleOf(r, n); ok {
			return r.Expr(facts.Expr{Kind: facts.ModuleOf, Name: path, At: n.Range()})
		}
		return expr(r, n)
	}
	return rule
}

// endsMember says whether something may be complete behind a text.
func endsMember(before []byte) bool {
	before = bytes.TrimRight(before, " \t\r\n")
	if len(before) == 0 {
		return false
	}
	last := before[len(before)-1]
	return bytes.IndexByte([]byte(`)]}>"$_`), last) >= 0 || last >= '0' && last <= '9' || last|0x20 >= 'a' && last|0x20 <= 'z'
}

// isSignature says whether a text begins with type parameters, parameters and the type of what they give.
func isSignature(text []byte) bool {
	end := closed(text, '<', '>')
	if end < 0 || text[0] != '<' {
		return false
	}
	text = bytes.TrimLeft(text[end:], " \t\r\n")
	if len(text) == 0 || text[0] != '(' {
		return false
	}
	if end = closed(text, '(', ')'); end < 0 {
		return false
	}
	return bytes.HasPrefix(bytes.TrimLeft(text[end:], " \t\r\n"), []byte(":"))
}

// longest is how long, in bytes, what is between the brackets of a signature may be.
const longest = 20_000

// closed is the offset behind the bracket that closes the first of a text; -1 if none does.
func closed(text []byte, open, end byte) int {
	depth := 0
	for i, c := range text[:min(len(text), longest)] {
		switch {
		case c == open:
			depth++
		case c == end && (end != '>' || i > 0 && text[i-1] != '='):
			if depth--; depth == 0 {
				return i + 1
			}
		}
	}
	return -1
}
