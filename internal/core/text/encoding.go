package text

import (
	"bytes"
	"unicode/utf8"

	"golang.org/x/text/encoding/unicode"
)

// Encoding is how the bytes of a file stand for characters.
type Encoding uint8

// The encodings that are recognised, by their byte order mark. Everything
// else is taken as UTF-8, in which broken bytes are shown as such.
const (
	UTF8 Encoding = iota
	UTF8WithMark
	UTF16LittleEndian
	UTF16BigEndian
)

// String names the encoding.
func (e Encoding) String() string {
	return [...]string{"UTF-8", "UTF-8 with byte order mark", "UTF-16 little endian", "UTF-16 big endian"}[e]
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
	return raw, UTF8
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
