package fuzzy

import (
	"encoding/binary"
	"math/bits"
)

// GroupTexts is how many texts there are in a group.
const GroupTexts = 512

// group is what is known of up to GroupTexts texts together, so that most of them are ruled out at once: of each
// letter and digit, one bit a text that says whether it is there, in the base name and in all of it; and what all
// of them have in common. It lies as bytes, so that it can be that of a file:
//
//	0  the length of the shortest base name, and of the least that stands before one; two bytes each
//	4  the traits that some text has, but for the number of words
//	8  the letters that some base name begins with, with the highest bit for anything else
//	16 the length of the longest base name, two bytes
//	20 a bit for each number of words that some base name has
//	64 for each letter a row of one bit a text: of base names, then of whole texts; then for each of some kinds of pairs of
//	   bytes that lie side by side a row of those base names that have one; then for each letter from a to z a row of those
//	   base names in which it begins a word or a hump
type group []byte

const (
	rowBytes   = GroupTexts / 8
	rowWords   = rowBytes / 8
	letterRows = 64 // see mask
	pairRows   = 64 // see pairOf
	headRows   = 26
	groupHead  = 64
	// GroupSize is how many bytes a group takes.
	GroupSize = groupHead + (2*letterRows+pairRows+headRows)*rowBytes

	letterMask = mask(1<<26 - 1)
	wordMask   = traits(1<<wordsAt - 1)
	otherFirst = 1 << 63
)

func newGroup() group {
	g := make(group, GroupSize)
	binary.LittleEndian.PutUint16(g, LongestText)
	binary.LittleEndian.PutUint16(g[2:], LongestText)
	return g
}

// note takes in a text as the nth of the group.
func (g group) note(n int, text []byte, base int, is traits) {
	least := func(at, length int) {
		binary.LittleEndian.PutUint16(g[at:], min(uint16(length), binary.LittleEndian.Uint16(g[at:])))
	}
	least(0, len(text)-base)
	least(2, base)
	binary.LittleEndian.PutUint32(g[4:], binary.LittleEndian.Uint32(g[4:])|uint32(is&wordMask))
	binary.LittleEndian.PutUint16(g[16:], max(uint16(len(text)-base), binary.LittleEndian.Uint16(g[16:])))
	binary.LittleEndian.PutUint32(g[20:], binary.LittleEndian.Uint32(g[20:])|1<<(is>>wordsAt))
	first := uint64(otherFirst)
	if base < len(text) && letterBit[text[base]] != 0 {
		first = uint64(letterBit[text[base]])
	}
	binary.LittleEndian.PutUint64(g[8:], binary.LittleEndian.Uint64(g[8:])|first)
	g.set(0, n, maskOf(text[base:]))
	g.set(letterRows, n, maskOf(text))
	g.set(2*letterRows, n, pairsOf(text[base:]))
	g.set(2*letterRows+pairRows, n, headsOf(text, base))
}

// pairOf is the number of the kind of pair that two bytes are, of which there are as many as rows.
func pairOf(before, behind byte) uint {
	return (uint(fold[before])*29 + uint(fold[behind])*5) % pairRows
}

// pairsOf are the kinds of pairs that lie side by side in a name.
func pairsOf(name []byte) (all mask) {
	for j := 1; j < len(name); j++ {
		all |= 1 << pairOf(name[j-1], name[j])
	}
	return all
}

// set sets the bit of the nth text in the rows of letters, which begin with the one of a number.
func (g group) set(rows, n int, letters mask) {
	for m := uint64(letters); m != 0; m &= m - 1 {
		row := rows + bits.TrailingZeros64(m)
		g[groupHead+row*rowBytes+n/8] |= 1 << (n % 8)
	}
}

// common is what the texts of the group have in common.
func (g group) common() common {
	t := traits(binary.LittleEndian.Uint32(g[4:]))
	return common{
		shortest: int(binary.LittleEndian.Uint16(g)), longest: int(binary.LittleEndian.Uint16(g[16:])), before: int(binary.LittleEndian.Uint16(g[2:])),
		heads: mask(t) & letterMask, humps: t&humps != 0, dotted: t&dotted != 0,
		words: binary.LittleEndian.Uint32(g[20:]), firsts: binary.LittleEndian.Uint64(g[8:]),
	}
}

// chosen are some texts of a group, one bit each.
type chosen [rowWords]uint64

// theFirst are the first so many texts.
func theFirst(texts int) (c chosen) {
	for i := range c {
		if n := texts - 64*i; n >= 64 {
			c[i] = ^uint64(0)
		} else if n > 0 {
			c[i] = 1<<n - 1
		}
	}
	return c
}

// none says that nothing is chosen.
func (c *chosen) none() bool {
	var some uint64
	for _, word := range c {
		some |= word
	}
	return some == 0
}

// word is that of a row for the 64 texts from a place on.
func (g group) word(row, place int) uint64 {
	return binary.LittleEndian.Uint64(g[groupHead+row*rowBytes+8*place:])
}

// heading are those of 64 texts in which a letter may begin a word of the base name, one bit each.
func (g group) heading(letter byte, place int) uint64 {
	bit := letterBit[letter] & letterMask
	if bit == 0 {
		return ^uint64(0)
	}
	return g.word(2*letterRows+pairRows+bits.TrailingZeros64(uint64(bit)), place)
}

// pairs are the words of the rows of those pairs that a word has, for the 64 texts from a place on.
func (g group) pairs(w *word, place int, into *[longestWord]uint64) {
	for i := 1; i < len(w.letters); i++ {
		into[i] = g.word(2*letterRows+int(pairOf(w.letters[i-1], w.letters[i])), place)
	}
}

// row is that of a letter, of base names or of whole texts.
func (g group) row(letter int, scope Scope) []byte {
	if scope == Whole {
		letter += letterRows
	}
	return g[groupHead+letter*rowBytes:][:rowBytes]
}

// having leaves those of the texts that have all of the letters.
func (g group) having(c chosen, letters mask, scope Scope) chosen {
	for m := uint64(letters); m != 0; m &= m - 1 {
		row := g.row(bits.TrailingZeros64(m), scope)
		for i := range c {
			c[i] &= binary.LittleEndian.Uint64(row[8*i:])
		}
	}
	return c
}

// havingSome leaves those of the texts that have the letters of the word but for one, which is not the first: whatever may be meant by
// it lacks no more.
func (g group) havingSome(c chosen, w *word, scope Scope) (some chosen) {
	if len(w.slips) == 0 {
		return g.having(c, w.mask, scope)
	}
	first := letterBit[w.letters[0]]
	c = g.having(c, first, scope)
	var but chosen // those that lack one so far
	for m := uint64(w.mask &^ first); m != 0; m &= m - 1 {
		row := g.row(bits.TrailingZeros64(m), scope)
		for i := range c {
			has := binary.LittleEndian.Uint64(row[8*i:])
			but[i] = but[i]&has | c[i]&^has
			c[i] &= has
		}
	}
	for i := range c {
		c[i] |= but[i]
	}
	return c
}
