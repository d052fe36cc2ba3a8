package golang

import (
	"go/scanner"
	"go/token"

	"rooktrail/internal/core/file/syntax"
)

// deepest is how many brackets may be open at once. With many more that are never closed, the
// parser takes a time that grows with the square of their number.
const deepest = 2000

// tooDeep is the error for a text with more open brackets than that; nil for any other.
func tooDeep(text []byte) error {
	if depthOf(text) <= deepest {
		return nil // whatever stands in strings and comments
	}
	var s scanner.Scanner
	set := token.NewFileSet()
	s.Init(set.AddFile("", set.Base(), len(text)), text, func(token.Position, string) {}, 0)
	for depth := 0; ; {
		switch _, tok, _ := s.Scan(); tok {
		case token.LBRACE, token.LPAREN, token.LBRACK:
			if depth++; depth > deepest {
				return syntax.ErrTooDeep
			}
		case token.RBRACE, token.RPAREN, token.RBRACK:
			depth = max(depth-1, 0)
		case token.EOF:
			return nil
		}
	}
}

// depthOf is how many brackets are open at once at the most, counting all there are.
func depthOf(text []byte) int {
	depth, most := 0, 0
	for _, c := range text {
		switch c {
		case '{', '(', '[':
			depth++
			most = max(most, depth)
		case '}', ')', ']':
			depth = max(depth-1, 0)
		}
	}
	return most
}
