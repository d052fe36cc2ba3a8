package index

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
)

// What is there is never denied, and most of what is not there is.
func TestKindsOfNames(t *testing.T) {
	const symbols = 20_000
	has := func(k kinds, name string, kind facts.Kind) bool {
		before := append(kinds(nil), k...)
		k = append(kinds(nil), k...)
		k.add([]byte(name), kind)
		return string(before) == string(k)
	}
	k := make(kinds, kindsSize(symbols))
	for i := range symbols {
		k.add(fmt.Appendf(nil, "ring%d", i), facts.Macro)
	}
	wrong := 0
	for i := range 500 {
		assert.True(t, has(k, fmt.Sprint("ring", i*7), facts.Macro))
		for _, absent := range []string{fmt.Sprint("bell", i), fmt.Sprint("ring", symbols+i)} {
			if has(k, absent, facts.Macro) {
				wrong++
			}
		}
		if has(k, fmt.Sprint("ring", i), facts.Function) {
			wrong++
		}
	}
	assert.Less(t, wrong, 75, "one in twenty at most")
	assert.Zero(t, kindsSize(0))
}
