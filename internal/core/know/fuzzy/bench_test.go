package fuzzy

import (
	"bytes"
	"context"
	"math/rand"
	"slices"
	"strings"
	"testing"
	"time"
)

// syllables make names that look like those of real code.
var syllables = strings.Fields(`get set new parse read write load save find list open close make build
	run handle check assign release team roster callout valley slope snow layer risk model frame radio
	gateway hut sensor report weather store index node tree token scope type value field method error
	buffer stream client server request response config option state event queue lock`)

// million makes a corpus of n qualified names, always the same ones.
func million(n int) *Corpus {
	random := rand.New(rand.NewSource(1))
	name := func(words int, first bool) string {
		var b strings.Builder
		for i := range words {
			s := syllables[random.Intn(len(syllables))]
			if i > 0 || first {
				s = strings.ToUpper(s[:1]) + s[1:]
			}
			b.WriteString(s)
		}
		return b.String()
	}
	var c Corpus
	for range n {
		container := name(1+random.Intn(2), true)
		c.Add(container+"."+name(1+random.Intn(3), random.Intn(2) == 0), len(container)+1)
	}
	return &c
}

// BenchmarkKey types each query letter by letter over a million names, as one
// does, and reports the 95th percentile of one key against one pass of
// bytes.Contains over the same names.
func BenchmarkKey(b *testing.B) {
	c := million(1_000_000)
	var typed []string
	for _, q := range []string{"assign", "Roster", "parseframe", "nt", "ro.as", "ro as", "hndlreq", "rosetr", "gtwyopn", "store"} {
		for i := range q {
			typed = append(typed, q[:i+1])
		}
	}
	for b.Loop() {
		var keys, floors []float64
		slowest, slowestTook := "", 0.0
		for _, q := range typed {
			start := time.Now()
			sum := 0
			for i := range c.Len() {
				if bytes.Contains(c.bytes(c.item(i)), []byte(q)) {
					sum++
				}
			}
			floors = append(floors, time.Since(start).Seconds()*1000)
			start = time.Now()
			query := Parse(q)
			scope := Bases
			if query.Reaches() {
				scope = Whole
			}
			c.Forgive(context.Background(), query, scope, 100, c.Search(context.Background(), query, scope, 100))
			took := time.Since(start).Seconds() * 1000
			if took > slowestTook {
				slowest, slowestTook = q, took
			}
			keys = append(keys, took)
		}
		slices.Sort(keys)
		slices.Sort(floors)
		p95 := func(v []float64) float64 { return v[len(v)*95/100] }
		b.ReportMetric(p95(keys), "ms/key-p95")
		b.ReportMetric(keys[len(keys)/2], "ms/key-p50")
		b.ReportMetric(floors[len(floors)/2], "ms/floor-p50")
		b.ReportMetric(p95(keys)/floors[len(floors)/2], "ratio")
		b.Logf("slowest: %q %.1f ms", slowest, slowestTook)
	}
}
