package fuzzy

import (
	"encoding/binary"
	"math/bits"
	"runtime/debug"
	"sync/atomic"
)

// scanner scores texts for one query.
type scanner struct {
	of      Corpora
	q       Query
	scope   Scope
	slip    bool
	out     collector
	letters int
	need    mask          // letters that a clean match must have
	keep    Keep          // if not nil, which texts are looked at
	floor   *atomic.Int64 // if not nil, what no scanner of the same pass lets in
	most    int           // what the query can score at the most, before the length
	a       aligner
}

func newScanner(of Corpora, q Query, scope Scope, limit int, slip bool) *scanner {
	s := &scanner{of: of, q: q, scope: scope, slip: slip, letters: q.letters(), out: collector{of: of, limit: limit, least: impossible}}
	for _, w := range q.words {
		s.need |= w.mask
		s.most += len(w.letters)*(perLetter+inBase) + (len(w.letters)-1)*inRun + (atBase - atWord) + wholeBase + sameCase
		for i := range len(w.letters) {
			if class[w.letters[i]] != separator {
				s.most += atWord
			}
		}
	}
	return s
}

// scan scores the texts of a piece. It leaves out at the smallest cost what cannot match or cannot be
// good enough.
func (s *scanner) scan(p piece) {
	c := s.of[p.of]
	for n := p.from; n < p.to; n++ {
		if s.floor != nil {
			s.out.least = max(s.out.least, int(s.floor.Load()))
		}
		s.scanGroup(c, p.of, n)
		if s.floor != nil && s.out.least > int(s.floor.Load()) {
			s.raise()
		}
	}
}

// scanGuarded is scan of what may lie in a file that was cut short meanwhile.
func (s *scanner) scanGuarded(p piece) {
	if failed := s.of[p.of].failed; failed != nil {
		defer debug.SetPanicOnFault(debug.SetPanicOnFault(true))
		defer func() {
			if reason := recover(); reason != nil {
				if _, fault := reason.(interface{ Addr() uintptr }); !fault {
					panic(reason)
				}
				failed()
			}
		}()
	}
	s.scan(p)
}

// raise lets the other scanners know what is not good enough.
func (s *scanner) raise() {
	for {
		was := s.floor.Load()
		if int64(s.out.least) <= was || s.floor.CompareAndSwap(was, int64(s.out.least)) {
			return
		}
	}
}

// group is the nth group of the corpus; nil if it is not as it was written.
func (c *Corpus) group(n int) group {
	if c.ready == nil {
		return c.groups[n]
	}
	if !c.ready(n, false) {
		return nil
	}
	return c.Groups[n*GroupSize:][:GroupSize]
}

func (s *scanner) scanGroup(c *Corpus, of, n int) {
	g := c.group(n)
	if g == nil || !s.slip && s.groupAtMost(g) < s.out.least {
		return
	}
	first := n * GroupTexts
	some := theFirst(c.count - first)
	if s.slip {
		for i := range s.q.words {
			some = g.havingSome(some, &s.q.words[i], s.scope)
		}
	} else {
		some = g.having(some, s.need, s.scope)
	}
	if some.none() || c.ready != nil && !c.ready(n, true) {
		return
	}
	for i, word := range some {
		for ; word != 0; word &= word - 1 {
			s.look(c, of, first+64*i+bits.TrailingZeros64(word))
		}
	}
}

// look scores a text that has the letters.
func (s *scanner) look(c *Corpus, of, i int) {
	it := c.item(i)
	if !s.slip && s.atMost(c, it, i) < s.out.least {
		return
	}
	have := ^mask(0)
	if s.slip {
		text := c.bytes(it)
		if s.scope == Bases {
			text = text[it.base:]
		}
		have = maskOf(text)
	}
	if s.keep != nil && !s.keep(of, i) {
		return
	}
	if score, ok := s.score(c, it, have); ok && score >= s.out.least {
		s.out.add(Hit{Of: of, Index: i, Score: score, Slip: s.slip})
	}
}

// atMost is a bound on the score of a text: a letter that begins no word there
// cannot be worth what one at a start is, and only words that begin as the
// base name does can be the whole of it.
func (s *scanner) atMost(c *Corpus, it item, i int) int {
	top := s.most + lengthPenalty(it.size-it.base, it.base, s.letters)
	top -= atWord * bits.OnesCount64(uint64(s.need&^c.heads(i)&letterMask))
	if it.base == it.size {
		return top
	}
	for _, w := range s.q.words {
		if !w.joined && !matches(w.letters[0], c.Arena[it.start+it.base]) {
			top -= atBase - atWord + wholeBase + sameCase
		}
	}
	return top
}

// groupAtMost is a bound on the scores of all texts of a group.
func (s *scanner) groupAtMost(g group) int {
	base, before := binary.LittleEndian.Uint16(g), binary.LittleEndian.Uint16(g[2:])
	top := s.most + lengthPenalty(int(base), int(before), s.letters)
	top -= atWord * bits.OnesCount64(uint64(s.need&^mask(g.heads())&letterMask))
	firsts := binary.LittleEndian.Uint64(g[8:])
	if firsts&otherFirst != 0 {
		return top
	}
	for _, w := range s.q.words {
		if bit := uint64(letterBit[w.letters[0]]); !w.joined && firsts&bit == 0 {
			top -= atBase - atWord + wholeBase + sameCase
		}
	}
	return top
}

// inOrder says whether the letters lie in the text in their order.
func inOrder[T string | []byte](letters string, text T) bool {
	i := 0
	for j := range len(text) {
		if matches(letters[i], text[j]) {
			if i++; i == len(letters) {
				return true
			}
		}
	}
	return false
}

// align scores a word that is known to lie in the text.
func (s *scanner) align(letters string, text []byte, base int) int {
	s.a.word, s.a.text, s.a.base = letters, unsafeString(text), base
	return s.a.best()
}

// score scores all words of the query in one text, whose letters are given.
func (s *scanner) score(c *Corpus, it item, have mask) (int, bool) {
	text, base := c.bytes(it), it.base
	total := lengthPenalty(len(text)-base, base, s.letters)
	if s.scope == Bases {
		text, base = text[base:], 0
	}
	slipped := false
	for _, w := range s.q.words {
		lacking := w.mask &^ have
		if lacking == 0 && inOrder(w.letters, text) {
			if score := s.align(w.letters, text, base); !strewn(len(w.letters), score) {
				total += score
				continue
			}
		}
		if !s.slip || len(w.slips) == 0 || bits.OnesCount64(uint64(lacking)) > 2 {
			return 0, false
		}
		s.a.text, s.a.base = unsafeString(text), base
		score, _, ok := s.a.forgiving(w, have, false)
		if !ok {
			return 0, false
		}
		slipped = true
		total += score
	}
	return total, slipped == s.slip
}
