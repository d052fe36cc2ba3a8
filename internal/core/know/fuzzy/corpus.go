package fuzzy

import (
	"bytes"
	"cmp"
	"context"
	"encoding/binary"
	"iter"
	"slices"
	"sync/atomic"

	"rooktrail/internal/core/work"
)

// Corpus is a list of texts that can be searched at the speed of typing. Texts
// are added one after the other and numbered from 0. The zero Corpus is empty.
// Searching is safe from several goroutines as long as nothing is added.
//
// It lies in columns, which may be those of a file (see Lent), and in groups of texts, for each of which is known by
// one bit a text which letters it holds (see group).
type Corpus struct {
	Columns
	groups [][]byte // nil of one that is lent
	count  int
	ready  Ready  // of one that is lent
	failed func() // of one that is lent: told when a part of it does not come
}

// Columns is how a corpus lies in memory, and on disk. Numbers have their least byte first.
type Columns struct {
	// Arena holds the texts one after the other.
	Arena []byte
	// Starts are where in it they begin, four bytes each; texts that are the same one after the other share it.
	Starts []byte
	// Sizes are how many bytes each text has, and which of them its base name begins with; two bytes each.
	Sizes []byte
	// Heads are which letters begin a word, hump or part of each text, and what else bounds its score (see traits), four bytes each.
	Heads []byte
	// Groups are those of a corpus that is lent, GroupSize bytes each.
	Groups []byte
}

// Ready says whether a group is as it was written, or whether its texts are.
type Ready func(group int, texts bool) bool

// Lent is a corpus of so many texts whose columns lie elsewhere. It is not to be added to. Before it looks
// at a group, and at the texts of it, it asks whether they are ready; if not, they are passed over. If memory that it
// lies in does not come, since it is that of a file that was cut short, failed is told and no more of it looked at.
func Lent(columns Columns, count int, ready Ready, failed func()) *Corpus {
	return &Corpus{Columns: columns, count: count, ready: ready, failed: failed}
}

// item is one text of a corpus: Arena[start:start+size].
type item struct {
	start, size, base int
}

func (c *Corpus) item(i int) item {
	return item{
		start: int(binary.LittleEndian.Uint32(c.Starts[4*i:])),
		size:  int(binary.LittleEndian.Uint16(c.Sizes[4*i:])),
		base:  int(binary.LittleEndian.Uint16(c.Sizes[4*i+2:])),
	}
}

// traits are those of text number i.
func (c *Corpus) traits(i int) traits { return traits(binary.LittleEndian.Uint32(c.Heads[4*i:])) }

// Extended is the corpus with room behind it for other texts. No more than one of those that were
// made of the same corpus is to be added to, besides that it is not to be added to itself.
func (c *Corpus) Extended() *Corpus {
	n := *c
	n.groups = slices.Clone(c.groups)
	if last := len(n.groups) - 1; last >= 0 { // which is written to for each text more
		n.groups[last] = slices.Clone(n.groups[last])
	}
	return &n
}

// Clone is a corpus of its own with the same texts.
func (c *Corpus) Clone() *Corpus {
	n := c.Extended()
	n.Arena, n.Starts, n.Sizes, n.Heads = slices.Clone(c.Arena), slices.Clone(c.Starts), slices.Clone(c.Sizes), slices.Clone(c.Heads)
	return n
}

// Reset empties the corpus, which keeps its room.
func (c *Corpus) Reset() {
	c.Arena, c.Starts, c.Sizes, c.Heads, c.groups, c.count = c.Arena[:0], c.Starts[:0], c.Sizes[:0], c.Heads[:0], nil, 0
}

// Add appends a text whose base name begins at the byte offset base. Of a text
// longer than a few hundred bytes only the end is kept.
func (c *Corpus) Add(text string, base int) {
	start := len(c.Arena)
	c.Arena = append(c.Arena, text...)
	c.added(start, base)
}

// AddParts is Add of a base name behind what stands in front of it.
func (c *Corpus) AddParts(front, base []byte) {
	start := len(c.Arena)
	c.Arena = append(append(c.Arena, front...), base...)
	c.added(start, len(front))
}

// added makes an item of what was put at the end of the arena.
func (c *Corpus) added(start, base int) {
	if skipped := len(c.Arena) - start - LongestText; skipped > 0 {
		start, base = start+skipped, max(0, base-skipped)
	}
	text := c.Arena[start:]
	if c.count > 0 && c.count%GroupTexts > 0 {
		if last := c.item(c.count - 1); last.base == base && bytes.Equal(c.bytes(last), text) {
			start, c.Arena = last.start, c.Arena[:len(c.Arena)-len(text)]
			text = c.bytes(last)
		}
	}
	c.Starts = binary.LittleEndian.AppendUint32(c.Starts, uint32(start))
	c.Sizes = binary.LittleEndian.AppendUint16(binary.LittleEndian.AppendUint16(c.Sizes, uint16(len(text))), uint16(base))
	is := traitsOf(text, base)
	c.Heads = binary.LittleEndian.AppendUint32(c.Heads, uint32(is))
	if c.count%GroupTexts == 0 {
		c.groups = append(c.groups, newGroup())
	}
	group(c.groups[c.count/GroupTexts]).note(c.count%GroupTexts, text, base, is)
	c.count++
}

// Append takes in all texts of another corpus behind its own.
func (c *Corpus) Append(other *Corpus) {
	for i := range other.count {
		it := other.item(i)
		text := other.bytes(it)
		c.AddParts(text[:it.base], text[it.base:])
	}
}

// Base returns the base name of text number i, which is only good until the
// next text is added.
func (c *Corpus) Base(i int) []byte {
	it := c.item(i)
	return c.Arena[it.start+it.base : it.start+it.size]
}

// Front returns what stands before the base name of text number i, as Base does.
func (c *Corpus) Front(i int) []byte {
	it := c.item(i)
	return c.Arena[it.start : it.start+it.base]
}

// Reserve makes room for so many texts more.
func (c *Corpus) Reserve(texts int) {
	const usual = 24 // bytes of a text
	c.Starts, c.Sizes, c.Heads = slices.Grow(c.Starts, 4*texts), slices.Grow(c.Sizes, 4*texts), slices.Grow(c.Heads, 4*texts)
	c.Arena = slices.Grow(c.Arena, texts*usual)
}

// Len is the number of texts.
func (c *Corpus) Len() int { return c.count }

// Text returns text number i and where its base name begins.
func (c *Corpus) Text(i int) (text string, base int) {
	it := c.item(i)
	return string(c.bytes(it)), it.base
}

func (c *Corpus) bytes(it item) []byte { return c.Arena[it.start : it.start+it.size] }

// Hit is a text of a corpus that matches.
type Hit struct {
	// Of is which corpus it is in, where there are several.
	Of    int
	Index int
	Score int
	Slip  bool
}

// One scores text number i alone, as Search would; ok is false if it does not
// match without a slip.
func (c *Corpus) One(q Query, scope Scope, i int) (score int, ok bool) {
	s := newScanner(Corpora{c}, q, scope, 1, false)
	it := c.item(i)
	text, base := s.part(c, it)
	have := maskOf(text)
	if s.need&^have != 0 || !s.ordered(text) {
		return 0, false
	}
	return s.score(it, text, base, have, nil)
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

// Corpora are searched as if they were one.
type Corpora []*Corpus

// Search is that of Corpora in this one.
func (c *Corpus) Search(ctx context.Context, q Query, scope Scope, limit int) []Hit {
	return Corpora{c}.Search(ctx, q, scope, limit, nil)
}

// Forgive is that of Corpora in this one.
func (c *Corpus) Forgive(ctx context.Context, q Query, scope Scope, limit int, hits []Hit) []Hit {
	return Corpora{c}.Forgive(ctx, q, scope, limit, hits, nil)
}

// SearchNow is SearchSome for a corpus that is small enough to be searched in no time.
func (c *Corpus) SearchNow(q Query, scope Scope, limit int, keep func(int) bool) []Hit {
	return c.SearchSome(context.Background(), q, scope, limit, keep)
}

// SearchSome is Search among those texts only for which keep holds.
func (c *Corpus) SearchSome(ctx context.Context, q Query, scope Scope, limit int, keep func(int) bool) []Hit {
	if keep == nil {
		return c.Search(ctx, q, scope, limit)
	}
	return Corpora{c}.Search(ctx, q, scope, limit, func(_, i int) bool { return keep(i) })
}

// Keep says of a text of one of several corpora whether it is looked at.
type Keep func(of, index int) bool

// Search returns the best hits for the query without a slip, best first, at
// most limit of them, of all texts or of those that keep holds for. Texts with equal scores come shortest base name first,
// then shortest, then in alphabetical order, so that the same query always
// gives the same list. It returns early, with what it has, when ctx is
// cancelled.
func (cs Corpora) Search(ctx context.Context, q Query, scope Scope, limit int, keep Keep) []Hit {
	return cs.search(ctx, q, scope, limit, keep, make([][]uint64, len(cs)))
}

// SearchAmong is Search among those texts of each corpus only that left has a bit for, as NewLeft makes it room; nil stands for all of
// a corpus. What it has is changed.
func (cs Corpora) SearchAmong(ctx context.Context, q Query, scope Scope, limit int, keep Keep, left [][]uint64) []Hit {
	return cs.search(ctx, q, scope, limit, keep, left)
}

// NewLeft has room for one bit for each of so many texts.
func NewLeft(texts int) []uint64 { return make([]uint64, (texts+GroupTexts-1)/GroupTexts*rowWords) }

// search is Search among those texts that are left for it; it takes away those of them that do not match.
func (cs Corpora) search(ctx context.Context, q Query, scope Scope, limit int, keep Keep, left [][]uint64) []Hit {
	if q.Empty() || limit <= 0 {
		return nil
	}
	begin := func(tail mask) func() *scanner {
		return func() *scanner {
			s := newScanner(cs, q, scope, limit, false)
			s.keep, s.tail, s.left = keep, tail, left
			return s
		}
	}
	if tail := q.tail(); scope == Whole && tail != 0 { // most that is good has what stands behind the last separator in its name
		if hits := cs.scan(ctx, limit, begin(tail)); len(hits) == limit {
			return hits
		}
	}
	return cs.scan(ctx, limit, begin(0))
}

// few is how many clean hits leave room for those with a slip.
const few = 20

// Forgive adds to the hits of a search, where they are few, or none of them is close, those that have a
// slip in them, up to limit in all.
func (cs Corpora) Forgive(ctx context.Context, q Query, scope Scope, limit int, hits []Hit, keep Keep) []Hit {
	if !q.forgivable() || ctx.Err() != nil {
		return hits
	}
	if len(hits) < min(few, limit) {
		return append(hits, cs.slips(ctx, q, scope, limit-len(hits), keep)...)
	}
	if q.letters() < surelySlip || cs.close(q, hits[0]) {
		return hits
	}
	slips := cs.slips(ctx, q, scope, min(few, limit), keep)
	return append(hits[:min(len(hits), limit-len(slips))], slips...)
}

// surelySlip is how many letters a query must have for a slip to be looked for though there are others that match it, but not
// closely.
const surelySlip = 6

// close says whether a hit is one that nobody would doubt.
func (cs Corpora) close(q Query, h Hit) bool {
	text, base := cs[h.Of].Text(h.Index)
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

// chunk is how many groups a worker takes at a time; cancelling is noticed
// between two of them.
const chunk = 8

// piece is a group of one corpus, with the most that a text of it can score, as a number: the more that is, the less, since
// there are many, which have to be put in order at each key.
type piece uint64

// topScore is more than anything can score.
const topScore = 1 << 20

func pieceOf(of, group, most int) piece {
	return piece(topScore-most)<<40 | piece(of)<<28 | piece(group)
}

func (p piece) of() int    { return int(p >> 28 & (1<<12 - 1)) }
func (p piece) group() int { return int(p & (1<<28 - 1)) }
func (p piece) most() int  { return topScore - int(p>>40) }

// pieces are all groups that may have something of use, those that can score most first: where texts lie in the order of their
// names, these are few, and what is found in them rules out the others.
func (cs Corpora) pieces(s *scanner) []piece {
	var all []piece
	for of := range cs {
		s.guarded(of, func() { all = s.promising(all, of) })
	}
	slices.Sort(all)
	return all
}

// slips are the best hits with a slip.
func (cs Corpora) slips(ctx context.Context, q Query, scope Scope, limit int, keep Keep) []Hit {
	return cs.scan(ctx, limit, func() *scanner {
		s := newScanner(cs, q, scope, limit, true)
		s.keep = keep
		return s
	})
}

// scan has as many scanners look at all texts as there are processors, and brings together what they found.
func (cs Corpora) scan(ctx context.Context, limit int, begin func() *scanner) []Hit {
	pieces := cs.pieces(begin())
	workers := min(work.Processors(), (len(pieces)+chunk-1)/chunk)
	var wg work.Group
	var next, floor atomic.Int64
	floor.Store(impossible)
	scanners := make([]*scanner, workers)
	for w := range workers {
		s := begin()
		s.floor = &floor
		scanners[w] = s
		wg.Go(func() {
			for ctx.Err() == nil {
				from := int(next.Add(chunk)) - chunk
				if from >= len(pieces) || !s.scan(pieces[from:min(from+chunk, len(pieces))]) {
					return
				}
			}
		})
	}
	wg.Wait()
	merged := collector{of: cs, limit: limit}
	for _, s := range scanners {
		merged.hits = append(merged.hits, s.out.hits...)
	}
	merged.cut()
	return merged.hits
}

// collector keeps the best hits seen so far.
type collector struct {
	of    Corpora
	limit int
	hits  []Hit
	least int // scores below this cannot get in
}

func (l *collector) add(h Hit) {
	l.hits = append(l.hits, h)
	if len(l.hits) >= 2*l.limit+64 {
		l.cut()
	}
}

// cut sorts the hits and drops all beyond the limit.
func (l *collector) cut() {
	slices.SortFunc(l.hits, l.of.compare)
	if len(l.hits) > l.limit {
		l.hits = l.hits[:l.limit]
		l.least = l.hits[l.limit-1].Score
	}
}

// compare puts the better hit first.
func (cs Corpora) compare(a, b Hit) int {
	if a.Score != b.Score {
		return b.Score - a.Score
	}
	x, y := cs[a.Of].item(a.Index), cs[b.Of].item(b.Index)
	return cmp.Or(
		cmp.Compare(x.size-x.base, y.size-y.base),
		cmp.Compare(x.size, y.size),
		bytes.Compare(cs[a.Of].bytes(x), cs[b.Of].bytes(y)),
		cmp.Compare(a.Of, b.Of),
		cmp.Compare(a.Index, b.Index),
	)
}

// EachGroup are the groups of a corpus that is not lent, in their order.
func (c *Corpus) EachGroup() iter.Seq[[]byte] { return slices.Values(c.groups) }
