package place

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSplit(t *testing.T) {
	for in, want := range map[string]Place{
		"a.go":         {"a.go", 0, 0},
		"a.go:42":      {"a.go", 42, 0},
		"a.go:42:7":    {"a.go", 42, 7},
		"a:b.go:42":    {"a:b.go", 42, 0},
		"a.go:0":       {"a.go:0", 0, 0},
		"a.go:x:3":     {"a.go:x", 3, 0},
		"C:a.go:1:2:3": {"C:a.go:1", 2, 3},
		":3":           {":3", 0, 0},
		"":             {},
	} {
		assert.Equal(t, want, Split(in), in)
		if in != "" {
			assert.Equal(t, in, Split(in).String())
		}
	}
}

func TestParseSaysWhatIsMissing(t *testing.T) {
	for in, want := range map[string]string{
		"":         "names no file",
		"a.go":     "no line and column",
		"a.go:3":   "no column",
		"a.go:3:0": "no line and column",
	} {
		_, err := Parse(in)
		assert.ErrorContains(t, err, want, in)
	}
	p, err := Parse(" a.go:3:4\n")
	assert.NoError(t, err)
	assert.Equal(t, Place{"a.go", 3, 4}, p)
}

func TestRange(t *testing.T) {
	r := Range{2, 5}
	assert.Equal(t, "cde", string(r.In([]byte("abcdefg"))))
	assert.Equal(t, "c", string(r.In([]byte("abc"))))
	assert.Empty(t, r.In([]byte("a")))
	assert.True(t, r.Holds(5))
	assert.False(t, r.Holds(6))
	assert.True(t, r.Covers(Range{3, 5}))
}
