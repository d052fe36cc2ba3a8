package vcs

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestHunks(t *testing.T) {
	for _, c := range []struct {
		name, was, now string
		want           []Hunk
	}{
		{"nothing", "a\nb\n", "a\nb\n", nil},
		{"a line changed", "a\nb\nc\n", "a\nB\nc\n", []Hunk{{Line: 2, Added: 1, Removed: 1}}},
		{"lines added and removed", "a\nb\nc\nd\n", "new\na\nb\nd\n", []Hunk{{Line: 1, Added: 1}, {Line: 4, Removed: 1}}},
		{"without a last line end", "a\nb", "a\nb\nc", []Hunk{{Line: 2, Added: 2, Removed: 1}}},
		{"all removed", "a\n", "", []Hunk{{Line: 1, Removed: 1}}},
	} {
		assert.Equal(t, c.want, hunks(c.was, c.now), c.name)
	}
}
