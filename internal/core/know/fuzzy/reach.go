package fuzzy

import (
	"encoding/binary"
	"math/bits"
)

// spread is up to how many bytes a text may have for its letters to be told by bits.
const spread = 64

// within tells by one bit a byte of a text of at most spread bytes where a letter of a query lies in it. Eight bytes are looked
// at together: those that are the letter come to 0, of which the highest bits are then pushed together by a multiplication.
func within(letter byte, text []byte) (at uint64) {
	both := byte(0)
	if letter >= 'a' && letter <= 'z' {
		both = 'a' - 'A'
	}
	const (
		low    = lowest * 0x7f
		gather = 0x0102040810204080
	)
	i := 0
	for ; len(text)-i >= 8; i += 8 {
		same := (binary.LittleEndian.Uint64(text[i:]) | lowest*uint64(both)) ^ lowest*uint64(letter)
		zero := ^(((same & low) + low) | same | low) // the highest bit of each byte that is 0
		at |= (zero >> 7 * gather >> 56) & 0xff << i
	}
	for ; i < len(text); i++ {
		if text[i]|both == letter {
			at |= 1 << i
		}
	}
	return at
}

// reach says whether the letters of all words lie in a text in their order, and if so, the most that it can score by which of
// them lie side by side in it and which can begin a word there: most texts that have the letters have them here and there.
func (s *scanner) reach(it item, text []byte, base int, is *common) (ordered bool, most int) {
	most = lengthPenalty(it.size-it.base, it.base, s.letters)
	for i := range s.q.words {
		top, ok := s.wordReach(&s.q.words[i], text, base, is)
		if !ok {
			return false, 0
		}
		most += top
	}
	return true, most
}

func (s *scanner) wordReach(w *word, text []byte, base int, is *common) (top int, ordered bool) {
	free := ^uint64(0) // where the next letter may lie, so that all lie in their order as early as they can
	before := uint64(0)
	for i := range len(w.letters) {
		letter := w.letters[i]
		at := within(letter, text)
		if at&free == 0 {
			return 0, false
		}
		first := bits.TrailingZeros64(at & free)
		free = ^uint64(0) << first << 1
		atBase := at>>base&1 != 0
		if i == 0 {
			top = s.firstReach(w, atBase, is)
		} else {
			top += s.letterReach(w, i, at&(before<<1) != 0, atBase, is)
		}
		before = at
	}
	return top + s.wholeAtMost(w, is), true
}

// gains are the most that each letter of a word can score in base names: by whether it can begin a word there (4), whether there
// are humps (2), and whether it lies behind the letter before it (1).
type gains [][8]int

func (s *scanner) gainsOf(w *word) gains {
	all := make(gains, len(w.letters))
	for i := range all {
		for k := range all[i] {
			is := common{humps: k&2 != 0}
			if k&4 != 0 {
				is.heads = letterMask
			}
			if i == 0 {
				all[i][k] = mostOther
				if s.mayHead(w, w.letters[i], &is) {
					all[i][k] = mostHead
				}
				continue
			}
			all[i][k] = s.letterReach(w, i, k&1 != 0, false, &is)
		}
	}
	return all
}

// glance is the most that a text can score for the only word of a query by what is known without looking at it: which pairs of
// letters of the word lie side by side in it, by the bit of the text among those of its neighbours, how long it is, and its
// traits. Begins says whether it may begin with the first letter.
func (s *scanner) glance(c *Corpus, i int, pairs *[longestWord]uint64, bit int, begins bool) int {
	w := &s.q.words[0]
	size, base := int(binary.LittleEndian.Uint16(c.Sizes[4*i:])), int(binary.LittleEndian.Uint16(c.Sizes[4*i+2:]))
	t := c.traits(i)
	top, k := lengthPenalty(size-base, base, s.letters), 0
	if t&humps != 0 {
		k = 2
	}
	for n := range len(w.letters) {
		kind := k | int(pairs[n]>>bit&1)
		if mask(t)&letterBit[w.letters[n]]&letterMask != 0 {
			kind |= 4
		}
		if n == 0 && begins {
			is := commonOf(size, base, 0, t)
			top += mostFirst + s.wholeAtMost(w, &is)
			continue
		}
		top += s.gains[n][kind]
	}
	return top
}

// firstReach is the most that the first letter of a word can score in a text, in which it may begin the base name.
func (s *scanner) firstReach(w *word, begins bool, is *common) int {
	switch {
	case begins:
		return mostFirst
	case s.mayHead(w, w.letters[0], is):
		return mostHead
	}
	return mostOther
}

// letterReach is the most that a further letter of a word can score in a text, in which it may lie behind the one before it, or begin
// the base name.
func (s *scanner) letterReach(w *word, i int, behind, begins bool, is *common) int {
	letter := w.letters[i]
	top := mostOther - 1
	switch {
	case begins:
		top = mostFirst - 1
	case s.mayHead(w, letter, is):
		top = mostHead - 1
	}
	if !behind {
		return top
	}
	switch {
	case begins:
		return mostFirst + inRun
	case class[w.letters[i-1]] == separator:
		return max(top, s.mostBehind(w, letter))
	case is.humps && is.heading(letter):
		return max(top, mostHump)
	}
	return max(top, mostRun)
}
