package catalog

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What is kept of long chains grows with the text, not with its square, in each language.
func TestLongChains(t *testing.T) {
	for _, l := range All() {
		if l.Facts == nil {
			continue
		}
		for _, text := range []string{"x = a" + strings.Repeat(".b", 400) + "\n", "class A { void f() { a" + strings.Repeat(".b(c.d)", 200) + "; } }\n", "package a\nvar x = a" + strings.Repeat(".b", 900) + "\n"} {
			f, err := l.Read(context.Background(), []byte(text))
			if err != nil || f == nil {
				continue // given up, which is as well
			}
			assert.LessOrEqual(t, len(f.Exprs), 2*len(text)+2000, l.Name)
			assert.LessOrEqual(t, len(f.Uses), len(text), l.Name)
		}
	}
}
