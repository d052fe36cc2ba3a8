package fuzzy

import (
	"encoding/binary"
	"math/bits"
	"runtime/debug"
	"slices"
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
	left    [][]uint64    // by corpus those texts that may match, one bit each, from which those that do not are taken; see Narrowing
	floor   *atomic.Int64 // what no scanner of the same pass lets in
	most    [][2][]int32  // by word the most that its letters from each on can add, without humps and with them
	gains   gains         // of the only word of a query that is looked for in base names; nil otherwise
	a       aligner
}

func newScanner(of Corpora, q Query, scope Scope, limit int, slip bool) *scanner {
	s := &scanner{of: of, q: q, scope: scope, slip: slip, letters: q.letters(), out: collector{of: of, limit: limit, least: impossible}}
	s.longest = max(shortName, longestSlip*s.letters)
	for i := range q.words {
		s.need |= q.words[i].mask
		s.most = append(s.most, [2][]int32{s.mostFrom(&q.words[i], false), s.mostFrom(&q.words[i], true)})
	}
	if len(q.words) == 1 && s.alone(&q.words[0]) && !slip {
		s.gains = s.gainsOf(&q.words[0])
	}
	return s
}

// scan scores the texts of some pieces, those that can score most first. It leaves out at the smallest cost what cannot match or
// cannot be good enough, and is false once nothing behind can be.
func (s *scanner) scan(pieces []piece) (more bool) {
	for _, p := range pieces {
		s.out.least = max(s.out.least, int(s.floor.Load()))
		if p.most() < s.out.least {
			return false
		}
		s.guarded(p.of(), func() { s.scanGroup(s.of[p.of()], p.of(), p.group()) })
		if s.out.least > int(s.floor.Load()) {
			s.raise()
		}
	}
	return true
}

// guarded does what looks at a corpus that may lie in a file which was cut short meanwhile.
func (s *scanner) guarded(of int, do func()) {
	if failed := s.of[of].failed; failed != nil {
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
	do()
}

// promising adds the groups of a corpus to some in which something may match.
func (s *scanner) promising(all []piece, of int) []piece {
	c := s.of[of]
	for n := range (c.count + GroupTexts - 1) / GroupTexts {
		if left := s.leftOf(of, n); left != nil && !slices.ContainsFunc(left, func(some uint64) bool { return some != 0 }) {
			continue
		}
		g := c.group(n)
		if g == nil {
			continue
		}
		if is := g.common(); !s.slip || is.shortest <= s.longest {
			all = append(all, pieceOf(of, n, s.atMost(&is)))
		}
	}
	return all
}

// leftOf are those texts of a group that may match, one bit each; nil for all.
func (s *scanner) leftOf(of, group int) []uint64 {
	if s.left == nil || s.left[of] == nil {
		return nil
	}
	return s.left[of][group*rowWords:][:rowWords]
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
	first := n * GroupTexts
	some := theFirst(c.count - first)
	left := s.leftOf(of, n)
	if left != nil {
		copy(some[:], left)
	}
	g := c.group(n)
	if g == nil {
		return
	}
	if s.slip {
		for i := range s.q.words {
			some = g.havingSome(some, &s.q.words[i], s.scope)
		}
	} else {
		some = g.having(some, s.need, s.scope)
		copy(left, some[:])
		some = g.having(some, s.tail, Bases)
	}
	is := g.common()
	if s.gains != nil {
		some = s.near(g, some, &is)
	}
	if some.none() || c.ready != nil && !c.ready(n, true) {
		return
	}
	s.scanTexts(c, of, n, g, &some, is.begins(s.q.words[0].letters[0]))
}

// scanTexts scores some texts of a group; begins says whether any may begin with the first letter of the query.
func (s *scanner) scanTexts(c *Corpus, of, n int, g group, some *chosen, begins bool) {
	var pairs [longestWord]uint64
	left, first := s.leftOf(of, n), n*GroupTexts
	before := seen{start: -1}
	for i, word := range some {
		if s.gains != nil && word != 0 {
			g.pairs(&s.q.words[0], i, &pairs)
		}
		for ; word != 0; word &= word - 1 {
			bit := bits.TrailingZeros64(word)
			at := first + 64*i + bit
			if start, sizes := c.place(at); start != before.start || sizes != before.sizes {
				before = seen{start: start, sizes: sizes, may: true}
				if s.gains == nil || s.glance(c, at, &pairs, bit, begins) >= s.out.least {
					before.score, before.matches, before.may = s.look(c, at)
				}
			}
			if before.matches && before.score >= s.out.least && (s.keep == nil || s.keep(of, at)) {
				s.out.add(Hit{Of: of, Index: at, Score: before.score, Slip: s.slip})
			}
			if !before.may && left != nil {
				left[i] &^= 1 << bit
			}
		}
	}
}

// seen is what came of looking at a text. In a large project every other text is the same as the one before it: the parameters,
// locals and fields of one name.
type seen struct {
	start   int
	sizes   uint32
	score   int
	matches bool // it has the score
	may     bool // it may match what is typed further
}

// place is where text number i begins and what its sizes are, which no other text shares that lies next to it.
func (c *Corpus) place(i int) (start int, sizes uint32) {
	return int(binary.LittleEndian.Uint32(c.Starts[4*i:])), binary.LittleEndian.Uint32(c.Sizes[4*i:])
}

// look scores a text that has the letters; matches is false for one that is not good enough, and may for one that does not match,
// whatever is typed more.
func (s *scanner) look(c *Corpus, i int) (score int, matches, may bool) {
	it := c.item(i)
	first := byte(0)
	if it.base < it.size {
		first = c.Arena[it.start+it.base]
	}
	if s.slip && it.size-it.base > s.longest {
		return 0, false, true
	}
	is := commonOf(it.size, it.base, first, c.traits(i))
	if s.gains == nil && s.atMost(&is) < s.out.least { // of the others more is known already
		return 0, false, true
	}
	text, base := s.part(c, it)
	if !s.slip && len(text) <= spread {
		ordered, most := s.reach(it, text, base, &is)
		if !ordered || most < s.out.least {
			return 0, false, ordered
		}
	} else if !s.slip && !s.ordered(text) {
		return 0, false, false
	}
	score, matches = s.score(it, text, base, ^mask(0), &is)
	return score, matches, true
}

// part is what is looked at of a text, and where in it the base name begins.
func (s *scanner) part(c *Corpus, it item) (text []byte, base int) {
	text = c.bytes(it)
	if s.scope == Bases {
		return text[it.base:], 0
	}
	return text, it.base
}

// ordered says whether the letters of each word lie in a text in their order.
func (s *scanner) ordered(text []byte) bool {
	for i := range s.q.words {
		if !inOrder(s.q.words[i].letters, unsafeString(text)) {
			return false
		}
	}
	return true
}

// align scores a word that is known to lie in the text, which is looked at as far as the bounds say.
func (s *scanner) align(letters string, text []byte, base int) int {
	s.a.word, s.a.text, s.a.base = letters, unsafeString(text), base
	return s.a.best()
}

// score scores all words of the query in a text, which has no letters but some; without a slip, they are known to lie in it in order.
// If it is known what bounds the score of the text, it gives up what is not good enough.
func (s *scanner) score(it item, text []byte, base int, have mask, is *common) (total int, ok bool) {
	total = lengthPenalty(it.size-it.base, it.base, s.letters)
	slipped := false
	for i, w := range s.q.words {
		lacking := w.mask &^ have
		if !s.slip || lacking == 0 && inOrder(w.letters, unsafeString(text)) {
			s.a.most = nil
			if is != nil && !s.slip && i == len(s.q.words)-1 {
				s.bound(i, total, is)
			}
			if score := s.align(w.letters, text, base); !strewn(len(w.letters), score) {
				total += score
				continue
			}
		}
		if !s.slip || len(w.slips) == 0 || bits.OnesCount64(uint64(lacking)) > 2 {
			return 0, false
		}
		s.a.text, s.a.base, s.a.most = unsafeString(text), base, nil
		score, _, ok := s.a.forgiving(w, have, false)
		if !ok {
			return 0, false
		}
		slipped = true
		total += score
	}
	return total, slipped == s.slip
}

// bound tells the aligner what the last word must score to be of use: on top of the total of the others, or not to be strewn.
func (s *scanner) bound(word, total int, is *common) {
	w := &s.q.words[word]
	s.a.most = s.most[word][0]
	if is.humps {
		s.a.most = s.most[word][1]
	}
	least := max(s.out.least-total, impossible)
	if n := len(w.letters); n >= shortestSlip {
		least = max(least, perfect(n)*cleanShare/1000)
	}
	s.a.least = int32(least - s.wholeAtMost(w, is))
}
