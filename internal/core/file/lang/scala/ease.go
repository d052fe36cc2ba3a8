package scala

import (
	"bytes"
	"regexp"

	"rooktrail/internal/core/file/lexical"
	"rooktrail/internal/core/file/place"
)

var (
	// givenWith are the members of a given value behind a word that the grammar does
	// not know.
	givenWith = regexp.MustCompile(`(?m)(^\s*given\b[^=\n]*?)\bwith(\s*[{:]?\s*$|\s*\{)`)
	// ownName is another name for the value of a type, up to the arrow behind it.
	ownName = regexp.MustCompile(`^\s*\w+(\s*:[^={}]*)?\s*$`)
	// word is one that may stand in front of a definition, with what it is bound to.
	word = regexp.MustCompile(`^\w+(\[\w+\])?\s+`)
)

// ease changes what the grammar, which is older, does not know, into something as
// long that it does.
func ease(text []byte) ([]byte, []place.Range) {
	eased := bytes.Clone(text)
	for _, r := range signs.Runs(text) {
		if r.Role == lexical.Comment {
			blank(eased[r.At.Start:r.At.End])
		}
	}
	open := -1 // where a line ended with {, and only blank lines have followed
	for start := 0; start < len(eased); {
		end := len(eased)
		if i := bytes.IndexByte(eased[start:], '\n'); i >= 0 {
			end = start + i
		}
		line := eased[start:end]
		body := bytes.TrimSpace(line)
		if name, _, ok := bytes.Cut(line, []byte("=>")); ok && open >= 0 && ownName.Match(name) {
			join(eased[open:start])
		}
		if end < len(eased) && isProcedure(body) && beginsDefinition(eased[end+1:]) {
			eased[end] = ';'
		}
		switch {
		case bytes.HasSuffix(body, []byte("{")):
			open = end
		case len(body) > 0:
			open = -1
		}
		start = end + 1
	}
	if bytes.Contains(eased, []byte("given")) {
		eased = givenWith.ReplaceAll(eased, []byte("$1=   $2"))
	}
	return eased, nil
}

// isProcedure says whether a line is a function without a type and without a body,
// behind which the grammar looks for what belongs to it on the next lines.
func isProcedure(line []byte) bool {
	_, behind, ok := bytes.Cut(line, []byte("def "))
	if !ok || bytes.ContainsAny(line, "={\"") {
		return false
	}
	parameters := bytes.IndexByte(behind, '(')
	if parameters < 0 {
		return bytes.IndexByte(behind, ':') < 0
	}
	return behind[len(behind)-1] == ')' && bytes.IndexByte(behind[:parameters], ':') < 0 && bytes.LastIndexByte(behind, ':') < bytes.LastIndexByte(behind, ')') &&
		!bytes.Contains(behind, []byte("):")) && !bytes.Contains(behind, []byte(") :"))
}

// beginsDefinition says whether the next line that is not blank begins a definition,
// behind words that may stand in front of one.
func beginsDefinition(text []byte) bool {
	text = bytes.TrimLeft(text, " \t\r\n")
	const mostWords = 6
	for range mostWords {
		n := len(word.Find(text[:min(len(text), 80)]))
		if n == 0 {
			return false
		}
		switch string(bytes.TrimSpace(text[:n])) {
		case "def", "val", "var", "type", "class", "trait", "object":
			return true
		}
		text = text[n:]
	}
	return false
}

// blank puts blanks in place of all but the ends of lines.
func blank(text []byte) {
	for i, b := range text {
		if b != '\n' {
			text[i] = ' '
		}
	}
}

// join puts blanks in place of the ends of lines.
func join(text []byte) {
	for i, b := range text {
		if b == '\n' || b == '\r' {
			text[i] = ' '
		}
	}
}
