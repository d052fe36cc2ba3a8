package fuzzy

import (
	"encoding/binary"
	"math/bits"
	"unsafe"
)

// inOrder says whether the letters lie in the text in their order.
func inOrder(letters, text string) bool {
	rest := unsafe.Slice(unsafe.StringData(text), len(text))
	for i := range len(letters) {
		at := find(letters[i], rest)
		if at < 0 {
			return false
		}
		rest = rest[at+1:]
	}
	return true
}

// Eight bytes are looked at together: the lowest bit of each, and the highest.
const (
	lowest  = 0x0101010101010101
	highest = 0x8080808080808080
)

// find is where a letter of a query first lies in a text; -1 for nowhere.
func find(letter byte, text []byte) int {
	both := byte(0) // what a capital has less than the small letter
	if letter >= 'a' && letter <= 'z' {
		both = 'a' - 'A'
	}
	at := 0
	for ; len(text)-at >= 8; at += 8 {
		same := (binary.LittleEndian.Uint64(text[at:]) | lowest*uint64(both)) ^ lowest*uint64(letter) // 0 where it lies
		if zero := (same - lowest) &^ same & highest; zero != 0 {
			return at + bits.TrailingZeros64(zero)/8
		}
	}
	for ; at < len(text); at++ {
		if text[at]|both == letter {
			return at
		}
	}
	return -1
}
