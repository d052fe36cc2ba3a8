package text

import (
	"bytes"
	"unicode/utf8"

	"golang.org/x/text/encoding/unicode"
)

// Encoding is how the bytes of a file stand for characters.
type Encoding uint8

// The encodings that are recognised: by their byte order mark, or Latin-1 by its letters.
// Everything else is taken as UTF-8, in which broken bytes are shown as such.
const (
	UTF8 Encoding = iota
	UTF8WithMark
	UTF16LittleEndian
	UTF16BigEndian
	Latin1
)

// String names the encoding.
func (e Encoding) String() string {
	return [...]string{"UTF-8", "UTF-8 with byte order mark", "UTF-16 little endian", "UTF-16 big endian", "Latin-1"}[e]
}

// sniffed is how many bytes at the start of a file decide whether it is text.
const sniffed = 8 << 10

// decode turns the bytes of a file into UTF-8.
func decode(raw []byte) ([]byte, Encoding) {
	switch {
	case bytes.HasPrefix(raw, []byte{0xEF, 0xBB, 0xBF}):
		return raw[3:], UTF8WithMark
	case bytes.HasPrefix(raw, []byte{0xFF, 0xFE}):
		return fromUTF16(raw, unicode.LittleEndian), UTF16LittleEndian
	case bytes.HasPrefix(raw, []byte{0xFE, 0xFF}):
		return fromUTF16(raw, unicode.BigEndian), UTF16BigEndian
	}
	if !utf8.Valid(raw) && !looksBinary(raw) && looksLatin1(raw) {
		return fromLatin1(raw), Latin1
	}
	return raw, UTF8
}

// looksLatin1 takes a text that is no UTF-8 for Latin-1 if every byte beyond ASCII is a letter
// or a sign there and stands for nothing in UTF-8, and most of them are letters within words:
// a few broken bytes in UTF-8 are not.
func looksLatin1(raw []byte) bool {
	high, inWords := 0, 0
	for i := 0; i < len(raw); {
		if raw[i] < utf8.RuneSelf {
			i++
			continue
		}
		if _, size := utf8.DecodeRune(raw[i:]); size > 1 || raw[i] < 0xA0 {
			return false
		}
		high++
		if raw[i] >= 0xC0 && (i > 0 && isASCIILetter(raw[i-1]) || i+1 < len(raw) && isASCIILetter(raw[i+1])) {
			inWords++
		}
		i++
	}
	return 2*inWords > high
}

func isASCIILetter(b byte) bool { return b|0x20 >= 'a' && b|0x20 <= 'z' }

// fromLatin1 turns Latin-1, whose bytes are the first 256 characters, into UTF-8.
func fromLatin1(raw []byte) []byte {
	out := make([]byte, 0, len(raw)+len(raw)/8)
	for _, b := range raw {
		out = utf8.AppendRune(out, rune(b))
	}
	return out
}

// fromUTF16 never fails: the decoder puts U+FFFD for what is not UTF-16.
func fromUTF16(raw []byte, order unicode.Endianness) []byte {
	out, err := unicode.UTF16(order, unicode.ExpectBOM).NewDecoder().Bytes(raw)
	if err != nil {
		return bytes.ToValidUTF8(raw, []byte(string(utf8.RuneError)))
	}
	return out
}

// looksBinary takes a file for binary if its beginning holds a NUL byte, which
// no text in UTF-8 has.
func looksBinary(raw []byte) bool {
	return bytes.IndexByte(raw[:min(len(raw), sniffed)], 0) >= 0
}
