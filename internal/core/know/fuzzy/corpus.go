package fuzzy

import (
	"context"
	"math/bits"
	"runtime"
	"slices"

	"rooktrail/internal/core/work"
)

// Corpus is a list of texts that can be searched at the speed of typing. Texts
// are added one after the other and numbered from 0. The zero Corpus is empty.
// Searching is safe from several goroutines as long as nothing is added.
type Corpus struct {
	arena []byte
	items []item
}

// item is one text of a corpus: arena[start:start+size].
type item struct {
	start uint32
	size  uint16
	base  uint16
	names mask // letters of the base name
	all   mask // letters of the whole text
	heads mask // letters that begin a word, hump or part
}

// Clone is a corpus of its own with the same texts. A copy of the value is one, too, as
// long as no more than one of the two is added to.
func (c *Corpus) Clone() *Corpus { return &Corpus{slices.Clone(c.arena), slices.Clone(c.items)} }

// Add appends a text whose base name begins at the byte offset base. Of a text
// longer than a few hundred bytes only the end is kept.
func (c *Corpus) Add(text string, base int) {
	start := len(c.arena)
	c.arena = append(c.arena, text...)
	c.added(start, base)
}

// AddParts is Add of a base name behind what stands in front of it.
func (c *Corpus) AddParts(front, base []byte) {
	start := len(c.arena)
	c.arena = append(append(c.arena, front...), base...)
	c.added(start, len(front))
}

// added makes an item of what was put at the end of the arena.
func (c *Corpus) added(start, base int) {
	if skipped := len(c.arena) - start - longestText; skipped > 0 {
		start, base = start+skipped, max(0, base-skipped)
	}
	text := unsafeString(c.arena[start:])
	it := item{start: uint32(start), size: uint16(len(text)), base: uint16(base)}
	it.all, it.names = maskOf(text), maskOf(text[base:])
	for j := range len(text) {
		if bonusAt(text, j, base) > inBase {
			it.heads |= letterBit[text[j]]
		}
	}
	c.items = append(c.items, it)
}

// Append takes in all texts of another corpus behind its own. Corpora made by
// several goroutines are put together by it in little time.
func (c *Corpus) Append(other *Corpus) {
	shift := uint32(len(c.arena))
	c.arena = append(c.arena, other.arena...)
	from := len(c.items)
	c.items = append(c.items, other.items...)
	for i := from; i < len(c.items); i++ {
		c.items[i].start += shift
	}
}

// Base returns the base name of text number i, which is only good until the
// next text is added.
func (c *Corpus) Base(i int) []byte {
	it := c.items[i]
	return c.arena[it.start+uint32(it.base) : it.start+uint32(it.size)]
}

// Reserve makes room for so many texts more.
func (c *Corpus) Reserve(texts int) {
	const usual = 24 // bytes of a text
	c.items = slices.Grow(c.items, texts)
	c.arena = slices.Grow(c.arena, texts*usual)
}

// Len is the number of texts.
func (c *Corpus) Len() int { return len(c.items) }

// Text returns text number i and where its base name begins.
func (c *Corpus) Text(i int) (text string, base int) {
	it := c.items[i]
	return string(c.arena[it.start : it.start+uint32(it.size)]), int(it.base)
}

// Hit is a text of a corpus that matches.
type Hit struct {
	Index int
	Score int
	Slip  bool
}

// One scores text number i alone, as Search would; ok is false if it does not
// match without a slip.
func (c *Corpus) One(q Query, scope Scope, i int) (score int, ok bool) {
	var out collector
	s := newScanner(c, q, scope, &out, 1, false)
	have := c.items[i].all
	if scope == Bases {
		have = c.items[i].names
	}
	if s.need&^have != 0 {
		return 0, false
	}
	return s.score(&c.items[i], have)
}

// Scope says how much of each text a search looks at.
type Scope uint8

// The scopes of a search.
const (
	// Whole looks at the whole of each text.
	Whole Scope = iota
	// Bases looks at base names only.
	Bases
)

// Search returns the best hits for the query without a slip, best first, at
// most limit of them. Texts with equal scores come shortest base name first,
// then shortest, then in alphabetical order, so that the same query always
// gives the same list. It returns early, with what it has, when ctx is
// cancelled.
func (c *Corpus) Search(ctx context.Context, q Query, scope Scope, limit int) []Hit {
	if q.Empty() || limit <= 0 {
		return nil
	}
	return c.pass(ctx, q, scope, limit, false, nil)
}

// SearchNow is SearchSome for a corpus that is small enough to be searched in no time.
func (c *Corpus) SearchNow(q Query, scope Scope, limit int, keep func(int) bool) []Hit {
	return c.SearchSome(context.Background(), q, scope, limit, keep)
}

// SearchSome is Search among those texts only for which keep holds.
func (c *Corpus) SearchSome(ctx context.Context, q Query, scope Scope, limit int, keep func(int) bool) []Hit {
	if q.Empty() || limit <= 0 {
		return nil
	}
	return c.pass(ctx, q, scope, limit, false, keep)
}

// few is how many clean hits leave room for those with a slip.
const few = 20

// Forgive adds to the hits of a search, where they are few, or none of them is close, those that have a
// slip in them, up to limit in all.
func (c *Corpus) Forgive(ctx context.Context, q Query, scope Scope, limit int, hits []Hit) []Hit {
	if !q.forgivable() || ctx.Err() != nil {
		return hits
	}
	if len(hits) < min(few, limit) {
		return append(hits, c.pass(ctx, q, scope, limit-len(hits), true, nil)...)
	}
	if q.letters() < surelySlip || c.close(q, hits[0]) {
		return hits
	}
	slips := c.pass(ctx, q, scope, min(few, limit), true, nil)
	return append(hits[:min(len(hits), limit-len(slips))], slips...)
}

// surelySlip is how many letters a query must have for a slip to be looked for though there are others that match it, but not
// closely.
const surelySlip = 6

// close says whether a hit is one that nobody would doubt.
func (c *Corpus) close(q Query, h Hit) bool {
	text, base := c.Text(h.Index)
	m, ok := q.Match(text, base)
	return ok && m.Close
}

// Settle orders matches of one query that are the best of many: where none without a slip is close, one with a slip may be
// better than those, since letters that are strewn about say less than one that is wrong.
func Settle(matches []*Match) {
	best, found := 0, false
	for _, m := range matches {
		if m.Slip {
			continue
		}
		if m.Close {
			return
		}
		if !found || m.Score > best {
			best, found = m.Score, true
		}
	}
	for _, m := range matches {
		if m.Slip && found && m.Score > best {
			m.Slip = false
		}
	}
}

// forgivable says whether any word is long enough for a slip.
func (q Query) forgivable() bool {
	return slices.ContainsFunc(q.words, func(w word) bool { return len(w.slips) > 0 })
}

// chunk is how many texts a worker takes at a time; cancelling is noticed
// between two of them.
const chunk = 16 << 10

// pass scores all texts, on as many processors as there are, with or without
// a slip; of all, or of those that keep holds for.
func (c *Corpus) pass(ctx context.Context, q Query, scope Scope, limit int, slip bool, keep func(int) bool) []Hit {
	chunks := (len(c.items) + chunk - 1) / chunk
	workers := min(runtime.GOMAXPROCS(0), chunks)
	var wg work.Group
	all := make([]collector, workers)
	next := make(chan int, chunks)
	for i := range chunks {
		next <- i
	}
	close(next)
	for w := range workers {
		wg.Go(func() {
			s := newScanner(c, q, scope, &all[w], limit, slip)
			s.keep = keep
			for i := range next {
				if ctx.Err() != nil {
					return
				}
				s.scan(i*chunk, min((i+1)*chunk, len(c.items)))
			}
		})
	}
	wg.Wait()
	merged := collector{corpus: c, limit: limit}
	for i := range all {
		merged.hits = append(merged.hits, all[i].hits...)
	}
	merged.cut()
	return merged.hits
}

// collector keeps the best hits seen so far.
type collector struct {
	corpus *Corpus
	limit  int
	hits   []Hit
	least  int // scores below this cannot get in
}

func (l *collector) add(h Hit) {
	l.hits = append(l.hits, h)
	if len(l.hits) >= 2*l.limit+64 {
		l.cut()
	}
}

// cut sorts the hits and drops all beyond the limit.
func (l *collector) cut() {
	slices.SortFunc(l.hits, l.corpus.compare)
	if len(l.hits) > l.limit {
		l.hits = l.hits[:l.limit]
		l.least = l.hits[l.limit-1].Score
	}
}

// compare puts the better hit first.
func (c *Corpus) compare(a, b Hit) int {
	if a.Score != b.Score {
		return b.Score - a.Score
	}
	x, y := c.items[a.Index], c.items[b.Index]
	if d := int(x.size-x.base) - int(y.size-y.base); d != 0 {
		return d
	}
	if x.size != y.size {
		return int(x.size) - int(y.size)
	}
	if d := slices.Compare(c.bytes(x), c.bytes(y)); d != 0 {
		return d
	}
	return a.Index - b.Index
}

func (c *Corpus) bytes(it item) []byte { return c.arena[it.start : it.start+uint32(it.size)] }

// scanner scores a run of texts for one query.
type scanner struct {
	*Corpus
	q       Query
	scope   Scope
	slip    bool
	out     *collector
	letters int
	need    mask           // letters that a clean match must have
	keep    func(int) bool // if not nil, which texts are looked at
	most    int            // what the query can score at the most, before the length
	a       aligner
}

func newScanner(c *Corpus, q Query, scope Scope, out *collector, limit int, slip bool) *scanner {
	*out = collector{corpus: c, limit: limit, least: impossible}
	s := &scanner{Corpus: c, q: q, scope: scope, slip: slip, out: out, letters: q.letters()}
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

// scan scores the texts from, up to but not including, to. It leaves out at
// the smallest cost what cannot match or cannot be good enough.
func (s *scanner) scan(from, to int) {
	for i := from; i < to; i++ {
		it := &s.items[i]
		have := it.all
		if s.scope == Bases {
			have = it.names
		}
		if !s.slip && (s.need&^have != 0 || s.atMost(it) < s.out.least) {
			continue
		}
		if s.keep != nil && !s.keep(i) {
			continue
		}
		if score, ok := s.score(it, have); ok && score >= s.out.least {
			s.out.add(Hit{Index: i, Score: score, Slip: s.slip})
		}
	}
}

// atMost is a bound on the score of a text: a letter that begins no word there
// cannot be worth what one at a start is, and only words that begin as the
// base name does can be the whole of it.
func (s *scanner) atMost(it *item) int {
	size, base := int(it.size), int(it.base)
	top := s.most + lengthPenalty(size-base, base, s.letters)
	top -= atWord * bits.OnesCount64(uint64(s.need&^it.heads&(1<<26-1)))
	if base == size {
		return top
	}
	for _, w := range s.q.words {
		if !w.joined && !matches(w.letters[0], s.arena[int(it.start)+base]) {
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
func (s *scanner) score(it *item, have mask) (int, bool) {
	text, base := s.bytes(*it), int(it.base)
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
