package text

import (
	"unicode"
	"unicode/utf8"
)

// InWord says whether a character belongs to a word, as names are written.
func InWord(r rune) bool { return r == '_' || unicode.IsLetter(r) || unicode.IsDigit(r) }

// ByteInWord is InWord for a byte; one of a letter beyond ASCII counts.
func ByteInWord(c byte) bool { return c >= 0x80 || InWord(rune(c)) }

// WordAround is the word that an offset of a text is in, or at an end of: from start
// up to end, in bytes. It is empty if there is none.
func WordAround(data []byte, offset int) (start, end int) {
	offset = min(offset, len(data))
	end = offset
	for end < len(data) {
		r, n := utf8.DecodeRune(data[end:])
		if !InWord(r) {
			break
		}
		end += n
	}
	return WordBefore(data, offset), end
}

// WordBefore is where the word begins that ends at an offset of a text; the offset
// itself if none does.
func WordBefore(data []byte, offset int) int {
	for offset > 0 {
		r, n := utf8.DecodeLastRune(data[:offset])
		if !InWord(r) {
			break
		}
		offset -= n
	}
	return offset
}
