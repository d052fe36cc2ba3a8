package fuzzy

import (
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
	tail    mask          // those that its base name must have
	longest int           // how long a base name may be in which a slip is forgiven
	keep    Keep          // if not nil, which texts are looked at
	floor   *atomic.Int64 // if not nil, what no scanner of the same pass lets in
	a       aligner
}

func newScanner(of Corpora, q Query, scope Scope, limit int, slip bool) *scanner {
	s := &scanner{of: of, q: q, scope: scope, slip: slip, letters: q.letters(), out: collector{of: of, limit: limit, least: impossible}}
	s.longest = max(shortName, longestSlip*s.letters)
	for _, w := range q.words {
		s.need |= w.mask
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
	if g == nil {
		return
	}
	if is := g.common(); s.slip && is.shortest > s.longest || s.atMost(&is) < s.out.least {
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
		some = g.having(some, s.tail, Bases)
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
	first := byte(0)
	if it.base < it.size {
		first = c.Arena[it.start+it.base]
	}
	if s.slip && it.size-it.base > s.longest {
		return
	}
	if is := commonOf(it.size, it.base, first, c.traits(i)); s.atMost(&is) < s.out.least {
		return
	}
	if score, ok := s.score(c, it, ^mask(0)); ok && score >= s.out.least && (s.keep == nil || s.keep(of, i)) {
		s.out.add(Hit{Of: of, Index: i, Score: score, Slip: s.slip})
	}
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

// score scores all words of the query in one text, which has no letters but some.
func (s *scanner) score(c *Corpus, it item, have mask) (int, bool) {
	text, base := c.bytes(it), it.base
	if s.slip && len(text)-base > s.longest {
		return 0, false
	}
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
