package scala

import (
	"bytes"
	"regexp"

	"rooktrail/internal/core/lexical"
	"rooktrail/internal/core/place"
)

var (
	// givenWith are the members of a given value behind a word that the grammar does
	// not know.
	givenWith = regexp.MustCompile(`(?m)(^\s*given\b[^=\n]*?)\bwith(\s*[{:]?\s*$|\s*\{)`)
	// ownName is another name for the value of a type, on a line of its own.
	ownName = regexp.MustCompile(`\{\s*\n\s*\w+(\s*:[^={}\n]*)?\s*=>`)
	// procedure is one without a type and without a body, behind which the grammar
	// looks for what belongs to it on the next lines.
	procedure = regexp.MustCompile(`(?m)^([ \t]*(?:\w+(?:\[\w+\])?[ \t]+)*def[ \t]+[^\s(\[:={]+(?:\[[^\n\]]*\])?(?:[ \t]*\([^()\n]*(?:\([^()\n]*\)[^()\n]*)*\))*[ \t]*)\n(\s*(?:\n|[ \t]*(?:\w+(?:\[\w+\])?[ \t]+)*(?:def|val|var|type|class|trait|object)\b))`)
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
	for _, at := range ownName.FindAllIndex(eased, -1) {
		join(eased[at[0]:at[1]])
	}
	for rest := eased; ; {
		at := procedure.FindSubmatchIndex(rest)
		if at == nil {
			break
		}
		rest[at[3]] = ';'
		rest = rest[at[3]+1:] // the next one may begin right there
	}
	return givenWith.ReplaceAll(eased, []byte("$1=   $2")), nil
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
