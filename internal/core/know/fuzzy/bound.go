package fuzzy

import "bytes"

// traits are what bounds the score of a text, in 32 bits: the letters that begin a word, hump or part of it, whether
// there are humps, whether there is a dot in its base name, and how many words that has.
type traits uint32

const (
	humps     traits = 1 << 26
	dotted    traits = 1 << 27
	wordsAt          = 28
	mostWords        = 15 // from here on all are the same
)

func traitsOf(text []byte, base int) traits {
	var heads mask
	var t traits
	words := 0
	for j := range len(text) {
		if bonusAt(text, j, base) <= inBase {
			continue
		}
		heads |= letterBit[text[j]]
		if j > 0 && class[text[j-1]] != separator && j != base {
			t |= humps
		}
		if j >= base {
			words++
		}
	}
	if bytes.IndexByte(text[base:], '.') >= 0 {
		t |= dotted
	}
	return t | traits(heads&letterMask) | traits(min(words, mostWords))<<wordsAt
}

// headsOf are the letters that begin a word or a hump of a base name.
func headsOf(text []byte, base int) (heads mask) {
	for j := base; j < len(text); j++ {
		if bonusAt(text, j, base) > inBase {
			heads |= letterBit[text[j]]
		}
	}
	return heads & letterMask
}

// common is what all texts of a group, or one text, have in common.
type common struct {
	shortest, longest int // of the base names
	before            int // the least that stands before one
	heads             mask
	humps, dotted     bool
	words             uint32 // a bit for each number of words
	firsts            uint64 // the letters with which the base names begin, and the highest bit for anything else
}

func commonOf(size, base int, first byte, t traits) common {
	firsts := uint64(otherFirst)
	if base < size && letterBit[first] != 0 {
		firsts = uint64(letterBit[first])
	}
	return common{
		shortest: size - base, longest: size - base, before: base, heads: mask(t) & letterMask,
		humps: t&humps != 0, dotted: t&dotted != 0, words: 1 << (t >> wordsAt), firsts: firsts,
	}
}

// begins says whether some base name may begin with a letter.
func (c *common) begins(letter byte) bool {
	return c.firsts&otherFirst != 0 || letterBit[letter] == 0 || c.firsts&uint64(letterBit[letter]) != 0
}

// heading says whether a letter may begin a word.
func (c *common) heading(letter byte) bool {
	bit := letterBit[letter]
	return bit == 0 || bit >= 1<<26 || c.heads&bit != 0
}

// What a letter can score at the most: as the first of the base name, as that of a word, or elsewhere; where it follows the one
// matched before, it stands at no beginning but that of a hump.
const (
	mostFirst = perLetter + inBase + atBase
	mostHead  = perLetter + inBase + atWord
	mostOther = perLetter + inBase
	mostRun   = perLetter + inBase + inRun
	mostHump  = perLetter + inBase + inRun + atHump
	mostNext  = perLetter + inBase + inRun + atWord // behind a separator
	mostWhole = wholeBase + sameCase
)

// atMost bounds the score of a query in texts that have something in common; with a slip, if that is to be forgiven.
func (s *scanner) atMost(c *common) int {
	top := lengthPenalty(c.shortest, c.before, s.letters)
	for i := range s.q.words {
		top += s.wordAtMost(&s.q.words[i], c)
	}
	if s.slip {
		top -= slipPenalty
	}
	return top
}

func (s *scanner) wordAtMost(w *word, c *common) (top int) {
	first := w.letters[0]
	starts := w.joined || c.begins(first) || s.slip && len(w.letters) > 1 && c.begins(w.letters[1]) // they may be swapped
	switch {
	case starts:
		top = mostFirst
	case s.slip || s.mayHead(w, first, c):
		top = mostHead
	default:
		top = mostOther
	}
	for i := 1; i < len(w.letters); i++ {
		top += s.furtherAtMost(w, i, c)
	}
	switch {
	case starts:
		top += s.wholeAtMost(w, c)
	case !s.alone(w) && len(w.letters) > 1:
		top += mostFirst - 1 - mostRun // a further letter may be the first of the base name
	}
	return top
}

// furtherAtMost is the most that a letter of a word scores behind the one before it.
func (s *scanner) furtherAtMost(w *word, i int, c *common) int {
	switch {
	case class[w.letters[i-1]] == separator:
		return s.mostBehind(w, w.letters[i])
	case c.humps && (s.slip || c.heading(w.letters[i])):
		return mostHump
	}
	return mostRun
}

// alone says whether a word is looked for in base names alone, in which a separator begins nothing but the name, and what stands
// behind one no more than a word of it.
func (s *scanner) alone(w *word) bool { return s.scope == Bases && !w.joined }

// mayHead says whether a letter of a word may begin one of a text.
func (s *scanner) mayHead(w *word, letter byte, c *common) bool {
	return c.heading(letter) && !(s.alone(w) && class[letter] == separator)
}

// mostBehind is the most that a letter scores behind a separator that was matched before it.
func (s *scanner) mostBehind(w *word, letter byte) int {
	switch {
	case !s.alone(w):
		return mostFirst + inRun
	case class[letter] == separator:
		return mostRun
	}
	return mostNext
}

// mostFrom is the most that the letters of a word from each on can add, but for what the whole gains; with humps or without.
func (s *scanner) mostFrom(w *word, humps bool) []int32 {
	most := make([]int32, len(w.letters)+1)
	for i := len(w.letters) - 1; i > 0; i-- {
		top := max(mostRun, mostHead-1)
		switch {
		case class[w.letters[i-1]] == separator:
			top = max(s.mostBehind(w, w.letters[i]), mostHead-1)
		case humps:
			top = mostHump
		case s.scope == Whole || w.joined:
			top = mostFirst - 1
		}
		most[i] = most[i+1] + int32(top)
	}
	return most
}

// wholeAtMost bounds what a word gains that is the whole base name or what counts like it; see whole.
func (s *scanner) wholeAtMost(w *word, c *common) int {
	n := len(w.letters)
	switch {
	case w.joined || s.slip || c.shortest <= n && n <= c.longest:
		return mostWhole
	case n >= fewestInitials && (n >= mostWords && c.words&(1<<mostWords) != 0 || n < mostWords && c.words&(1<<n) != 0):
		return allInitials
	case c.dotted:
		return wholeStem
	}
	return prefix
}
