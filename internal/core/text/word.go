package text

import "unicode"

// InWord says whether a character belongs to a word, as names are written.
func InWord(r rune) bool { return r == '_' || unicode.IsLetter(r) || unicode.IsDigit(r) }
