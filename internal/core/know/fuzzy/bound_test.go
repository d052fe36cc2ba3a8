package fuzzy

import (
	"context"
	"fmt"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// What is left out by bounds would not have been among the best: a search finds what scoring every text finds.
func TestNothingIsLeftOutThatIsGoodEnough(t *testing.T) {
	random := rand.New(rand.NewSource(7))
	parts := strings.Fields("a ab get Set HTTP x9 _ __ . .go assign Ro ster sk buff mutex lock A é 7 - dev probe")
	made := func(n int) string {
		var b strings.Builder
		for range 1 + random.Intn(n) {
			b.WriteString(parts[random.Intn(len(parts))])
		}
		return b.String()
	}
	for round := range 30 {
		var c Corpus
		for range 1500 {
			front := ""
			if random.Intn(2) == 0 {
				front = made(3) + []string{".", "/"}[random.Intn(2)]
			}
			base := made(5)
			for range 1 + random.Intn(2) { // many a name stands there more than once
				c.AddParts([]byte(front), []byte(base))
			}
		}
		for range 40 {
			typed := made(3)
			if random.Intn(4) == 0 {
				typed += " " + made(2)
			}
			q := Parse(typed)
			for _, scope := range []Scope{Bases, Whole} {
				for _, slip := range []bool{false, true} {
					limit := 1 + random.Intn(30)
					cs := Corpora{&c}
					got := cs.scan(context.Background(), limit, func() *scanner { return newScanner(cs, q, scope, limit, slip) })
					require.Equal(t, scored(&c, q, scope, limit, slip), got, fmt.Sprint(round, " ", typed, " ", scope, " ", slip))
				}
			}
		}
	}
}

// What is found does not depend on what was typed before, and taken back, and what does not match is not looked at again.
func TestNarrowing(t *testing.T) {
	own := million(20_000)
	columns := own.Columns
	columns.Groups = slices.Concat(own.groups...)
	lent := Lent(columns, own.Len(), func(int, bool) bool { return true }, func() {})
	var n Narrowing
	ctx := context.Background()
	left := func() (some int) {
		for _, bits := range n.steps[len(n.steps)-1].left[0] {
			some += bitsOf(bits)
		}
		return some
	}
	for _, typed := range []string{"a", "as", "ass", "assi", "asi", "asig", "ass", "assignt", "assignte", "te", "te as", "te ass", "team.as", "team.ass", "Team.ass", "qqqq", "qqqqq", ""} {
		q := Parse(typed)
		for _, scope := range []Scope{Bases, Whole} {
			for _, limit := range []int{3, 400} {
				require.Equal(t, Corpora{lent}.Search(ctx, q, scope, limit, nil), n.Search(ctx, Corpora{lent}, q, scope, limit, nil), typed)
			}
		}
		if typed == "qqqqq" {
			require.Zero(t, left())
		}
	}
	n.Search(ctx, Corpora{lent}, Parse("ro"), Bases, 100, nil)
	before := left()
	n.Search(ctx, Corpora{lent}, Parse("roster"), Bases, 20_000, nil)
	require.Less(t, left(), before/2)
	n.Search(ctx, Corpora{own, lent}, Parse("rosterx"), Bases, 100, nil)
	require.Nil(t, n.steps[len(n.steps)-1].left[0], "what can change is always searched")
	require.Len(t, n.steps, 1, "others are searched")
}

func bitsOf(word uint64) (n int) {
	for ; word != 0; word &= word - 1 {
		n++
	}
	return n
}

// scored are the best hits of all texts.
func scored(c *Corpus, q Query, scope Scope, limit int, slip bool) []Hit {
	s := newScanner(Corpora{c}, q, scope, limit, slip)
	var all []Hit
	for i := range c.Len() {
		it := c.item(i)
		text, base := s.part(c, it)
		have := maskOf(text)
		if !slip && (s.need&^have != 0 || !s.ordered(text)) || slip && len(text)-base > s.longest {
			continue
		}
		if score, ok := s.score(it, text, base, have, nil); ok {
			all = append(all, Hit{Index: i, Score: score, Slip: slip})
		}
	}
	slices.SortFunc(all, Corpora{c}.compare)
	if len(all) > limit {
		all = all[:limit]
	}
	return all
}
