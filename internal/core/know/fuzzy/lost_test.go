package fuzzy

import (
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What is added up in bits is what is added up one by one.
func TestLost(t *testing.T) {
	random := rand.New(rand.NewSource(3))
	for range 200 {
		var l lost
		var sums [64]int
		for range random.Intn(40) {
			some, units := random.Uint64()|random.Uint64(), random.Intn(4)
			l.add(some, units)
			for i := range sums {
				sums[i] += units * int(some>>i&1)
			}
		}
		units := random.Intn(80)
		more := l.than(units)
		for i, sum := range sums {
			if units < 1<<planes-1 {
				assert.Equal(t, sum > units, more>>i&1 != 0, "%d and %d", sum, units)
			} else if more>>i&1 != 0 {
				assert.GreaterOrEqual(t, sum, 1<<planes)
			}
		}
	}
}
