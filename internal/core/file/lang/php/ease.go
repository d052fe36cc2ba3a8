package php

import (
	"bytes"
	"regexp"

	"rooktrail/internal/core/file/place"
)

var (
	// enumeration is the head of one, up to its brace.
	enumeration = regexp.MustCompile(`(?i)\benum\s+\w+\s*(?::\s*[\w\\?|]+\s*)?(?:implements\s+[\w\\,\s]+)?\{`)
	// constant is the head of one: what may be done with it, its type and its name.
	constant = regexp.MustCompile(`(?i)((?:\b(?:final|public|protected|private)\s+)*)\b(const)\s+([\w\\?|]+\s+)?\w+\s*=`)
	// writer says who may write a property, apart from who may read it.
	writer = regexp.MustCompile(`(?i)\b(?:public|protected|private)\(set\)`)
)

// ease changes what the grammar, which is older, does not know, into something as long that it does. Constants among the cases of
// an enumeration are read as cases; see enumCase.
func ease(text []byte) ([]byte, []place.Range) {
	enums, sets := bytes.Contains(text, []byte("enum")), bytes.Contains(text, []byte("(set)"))
	if !enums && !sets {
		return text, nil
	}
	code, eased := signs.Bare(text), bytes.Clone(text)
	if sets {
		for _, m := range writer.FindAllIndex(code, -1) {
			blank(eased[m[0]:m[1]])
		}
	}
	for _, e := range enumeration.FindAllIndex(code, -1) {
		body := code[e[1]:closing(code, e[1])]
		for _, m := range constant.FindAllSubmatchIndex(body, -1) {
			if bytes.Count(body[:m[0]], []byte("{")) != bytes.Count(body[:m[0]], []byte("}")) {
				continue // within a function
			}
			at := e[1]
			blank(eased[at+m[2] : at+m[3]])
			copy(eased[at+m[4]:], "case ")
			if m[6] >= 0 {
				blank(eased[at+m[6] : at+m[7]])
			}
		}
	}
	return eased, nil
}

// closing is where the brace is closed that stands in front of an offset, or the end of the text.
func closing(code []byte, from int) int {
	depth := 1
	for i := from; i < len(code); i++ {
		switch code[i] {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return len(code)
}

func blank(text []byte) {
	for i, c := range text {
		if c != '\n' && c != '\r' {
			text[i] = ' '
		}
	}
}
