package write

import (
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/text"
)

func doc(s string) *text.Document { return text.NewDocument([]byte(s)) }

func TestMerge(t *testing.T) {
	const base = "a\nb\nc\nd\ne\nf\n"
	for _, c := range []struct{ mine, theirs, merged string }{
		{base, base, base},
		{"A\nb\nc\nd\ne\nf\n", "a\nb\nc\nd\ne\nF\n", "A\nb\nc\nd\ne\nF\n"},
		{"a\nb\nc\nd\ne\nf\nmine\n", "theirs\na\nb\nc\nd\ne\nf\n", "theirs\na\nb\nc\nd\ne\nf\nmine\n"},
		{"a\nX\nc\nd\ne\nf\n", "a\nX\nc\nd\ne\nf\n", "a\nX\nc\nd\ne\nf\n"},
		{"a\nX\nc\nd\ne\nf\n", "a\nY\nc\nd\ne\nf\n", "a\n<<<<<<< yours\nX\n=======\nY\n>>>>>>> on disk\nc\nd\ne\nf\n"},
		{"a\nc\nd\ne\nf\n", "a\nb\nc\nd\n", "a\nc\nd\n"},
	} {
		merged, meet := Merge(doc(base), doc(c.mine), doc(c.theirs))
		assert.Equal(t, c.merged, string(merged.Bytes()))
		assert.Equal(t, strings.Count(c.merged, "<<<<<<<"), meet)
	}
}

// What only one side has changed comes out as that side has it.
func TestMergeOfOneSide(t *testing.T) {
	for seed := range int64(300) {
		r := rand.New(rand.NewSource(seed))
		some := func() string {
			var b strings.Builder
			for range r.Intn(9) {
				b.WriteString(strings.Repeat("x", r.Intn(3)) + "\n")
			}
			return b.String() + []string{"", "end"}[r.Intn(2)]
		}
		base, mine := doc(some()), doc(some())
		merged, meet := Merge(base, mine, base)
		require.Zero(t, meet)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
		merged, _ = Merge(base, base, mine)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
		merged, meet = Merge(base, mine, mine)
		require.Zero(t, meet)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
	}
}
