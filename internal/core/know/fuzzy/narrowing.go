package fuzzy

import (
	"context"
	"slices"
	"strings"
	"sync"
)

// Narrowing remembers which texts cannot match what was typed, so that these are not looked at again while more of it is typed, or
// something is taken back. It is for corpora that are lent, which do not change; others are always searched as a whole. The zero
// Narrowing remembers nothing. It may be used by several goroutines.
type Narrowing struct {
	mu    sync.Mutex
	of    Corpora
	steps []step // the longer what was typed, the later
}

// step is what was typed, with those texts of each corpus that may match it, one bit each; nil for all.
type step struct {
	words []string
	scope Scope
	left  [][]uint64
}

// mostSteps is how many are kept.
const mostSteps = 8

// Search is that of Corpora.
func (n *Narrowing) Search(ctx context.Context, cs Corpora, q Query, scope Scope, limit int, keep Keep) []Hit {
	now := n.begin(cs, q, scope)
	hits := cs.search(ctx, q, scope, limit, keep, now.left)
	n.end(cs, now)
	return hits
}

// begin is what is left of the texts for a query, before it is looked for.
func (n *Narrowing) begin(cs Corpora, q Query, scope Scope) step {
	n.mu.Lock()
	defer n.mu.Unlock()
	now := step{scope: scope, left: make([][]uint64, len(cs))}
	for _, w := range q.words {
		now.words = append(now.words, w.letters)
	}
	if !slices.Equal(n.of, cs) {
		n.of, n.steps = slices.Clone(cs), nil
	}
	for len(n.steps) > 0 && !n.steps[len(n.steps)-1].leadsTo(&now) {
		n.steps = n.steps[:len(n.steps)-1]
	}
	for of, c := range cs {
		if c.ready == nil {
			continue
		}
		if len(n.steps) > 0 {
			now.left[of] = slices.Clone(n.steps[len(n.steps)-1].left[of])
		} else {
			now.left[of] = whole(c.count)
		}
	}
	return now
}

// leadsTo says whether all that matches what was typed next matches what was typed here, too.
func (s *step) leadsTo(next *step) bool {
	if s.scope != next.scope || len(s.words) != len(next.words) {
		return false
	}
	for i, w := range s.words {
		if !strings.HasPrefix(next.words[i], w) {
			return false
		}
	}
	return true
}

// end remembers what is left of the texts, even if not all of them were looked at.
func (n *Narrowing) end(cs Corpora, now step) {
	n.mu.Lock()
	defer n.mu.Unlock()
	if !slices.Equal(n.of, cs) || len(n.steps) > 0 && !n.steps[len(n.steps)-1].leadsTo(&now) {
		return // something else was looked for meanwhile
	}
	if len(n.steps) == mostSteps {
		n.steps = slices.Delete(n.steps, 0, 1)
	}
	n.steps = append(n.steps, now)
}

// whole has a bit for each of so many texts.
func whole(texts int) []uint64 {
	groups := (texts + GroupTexts - 1) / GroupTexts
	some := make([]uint64, 0, groups*rowWords)
	for n := range groups {
		c := theFirst(texts - n*GroupTexts)
		some = append(some, c[:]...)
	}
	return some
}
