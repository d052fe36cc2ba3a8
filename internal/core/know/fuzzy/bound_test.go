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
			c.AddParts([]byte(front), []byte(made(5)))
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
					got := Corpora{&c}.pass(context.Background(), q, scope, limit, slip, nil)
					require.Equal(t, scored(&c, q, scope, limit, slip), got, fmt.Sprint(round, " ", typed, " ", scope, " ", slip))
				}
			}
		}
	}
}

// scored are the best hits of all texts.
func scored(c *Corpus, q Query, scope Scope, limit int, slip bool) []Hit {
	s := newScanner(Corpora{c}, q, scope, limit, slip)
	var all []Hit
	for i := range c.Len() {
		it := c.item(i)
		text := c.bytes(it)
		if scope == Bases {
			text = text[it.base:]
		}
		have := maskOf(text)
		if !slip && s.need&^have != 0 {
			continue
		}
		if score, ok := s.score(c, it, have); ok {
			all = append(all, Hit{Index: i, Score: score, Slip: slip})
		}
	}
	slices.SortFunc(all, Corpora{c}.compare)
	if len(all) > limit {
		all = all[:limit]
	}
	return all
}
