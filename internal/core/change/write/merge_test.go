package write

import (
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/text"
)

// merge takes of each side what it has changed, and says in how many regions both meet.
func merge(base, mine, theirs *text.Document) (merged *text.Document, meet int) {
	regions := Regions(base, mine, theirs)
	for i := range regions {
		if regions[i].Meets() {
			meet++
		}
	}
	return Assemble(base, regions), meet
}

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
		merged, meet := merge(doc(base), doc(c.mine), doc(c.theirs))
		assert.Equal(t, c.merged, string(merged.Bytes()))
		assert.Equal(t, strings.Count(c.merged, "<<<<<<<"), meet)
	}
}

// What is taken from the disk is kept there as it is there by now.
func TestReplacingTakesOverTheForm(t *testing.T) {
	e := New(doc("é\nb\n"), 0, Style{})
	e.Type("x")
	disk := text.NewDocument([]byte("caf\xe9 na\xefve\r\n"))
	require.Equal(t, text.Latin1, disk.Encoding())
	e.Replace(disk)
	e.Newline()
	raw, err := e.Document().Encode()
	require.NoError(t, err)
	assert.Equal(t, "caf\xe9 na\xefve\r\n\r\n", string(raw))
	require.True(t, e.Undo() && e.Undo() && e.Undo())
	assert.Equal(t, "é\nb\n", string(e.Document().Bytes()))
	assert.Equal(t, text.UTF8, doc("x").With([]byte("caf\xe9")).Encoding(), "what is typed is not decoded")
}

func TestTakingSides(t *testing.T) {
	base := doc("a\nb\nc\n")
	regions := Regions(base, doc("a\nX\nc\n"), doc("a\nY\nc\n"))
	require.Len(t, regions, 1)
	for side, want := range map[Side]string{Mine: "a\nX\nc\n", Theirs: "a\nY\nc\n", Both: "a\n<<<<<<< yours\nX\n=======\nY\n>>>>>>> on disk\nc\n"} {
		regions[0].Take = side
		assert.Equal(t, want, string(Assemble(base, regions).Bytes()))
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
		merged, meet := merge(base, mine, base)
		require.Zero(t, meet)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
		merged, _ = merge(base, base, mine)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
		merged, meet = merge(base, mine, mine)
		require.Zero(t, meet)
		require.Equal(t, string(mine.Bytes()), string(merged.Bytes()), "seed %d", seed)
	}
}
