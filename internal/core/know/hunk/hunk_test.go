package hunk_test

import (
	"fmt"
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/hunk"
)

func doc(s string) *text.Document { return text.NewDocument([]byte(s)) }

func TestCompare(t *testing.T) {
	for _, c := range []struct {
		was, now string
		want     []hunk.Hunk
	}{
		{"a\nb\n", "a\nb\n", nil},
		{"a\nb\nc\n", "a\nB\nc\n", []hunk.Hunk{{hunk.Lines{2, 1}, hunk.Lines{2, 1}}}},
		{"a\nb\nc\nd\n", "new\na\nb\nd\n", []hunk.Hunk{{hunk.Lines{1, 0}, hunk.Lines{1, 1}}, {hunk.Lines{3, 1}, hunk.Lines{4, 0}}}},
		{"", "a\n", []hunk.Hunk{{hunk.Lines{1, 0}, hunk.Lines{1, 1}}}},
		{"a\n", "", []hunk.Hunk{{hunk.Lines{1, 1}, hunk.Lines{1, 0}}}},
		{"a\nb", "a\nb\nc", []hunk.Hunk{{hunk.Lines{2, 1}, hunk.Lines{2, 2}}}},
	} {
		assert.Equal(t, c.want, hunk.Compare(doc(c.was), doc(c.now)).Hunks, "%q %q", c.was, c.now)
	}
}

func TestBack(t *testing.T) {
	d := hunk.Compare(doc("a\nb\nc\nd\ne\n"), doc("a\nB\nx\nc\ne\n"))
	now := d.Now
	for i := len(d.Hunks) - 1; i >= 0; i-- {
		now = now.Apply([]text.Edit{d.Back(d.Hunks[i])})
	}
	assert.Equal(t, string(d.Was.Bytes()), string(now.Bytes()))
	assert.Equal(t, "a\nb\nx\nc\ne\n", string(d.Now.Apply([]text.Edit{d.BackLine(d.Hunks[0], 2)}).Bytes()))
	assert.Equal(t, "a\nB\nc\ne\n", string(d.Now.Apply([]text.Edit{d.BackLine(d.Hunks[0], 3)}).Bytes()))
	n, ok := d.At(4)
	assert.True(t, ok, "lines taken out are at the line before")
	assert.Equal(t, hunk.Removed, d.Hunks[n].Kind())
	_, ok = d.At(1)
	assert.False(t, ok)
}

// Whatever is typed, putting back all hunks gives the text that was there.
func TestFollowingEdits(t *testing.T) {
	rnd := rand.New(rand.NewSource(1))
	for round := range 200 {
		var b strings.Builder
		for i := range rnd.Intn(30) {
			fmt.Fprintf(&b, "line %d\n", i%7)
		}
		was := b.String() + []string{"", "end"}[rnd.Intn(2)]
		d := hunk.Compare(doc(was), doc(was))
		for range 12 {
			start := rnd.Intn(d.Now.Len() + 1)
			end := min(start+rnd.Intn(20), d.Now.Len())
			edits := []text.Edit{{Start: start, End: end, New: []byte([]string{"", "x", "\n", "a\nb\n", "line 3\n"}[rnd.Intn(5)])}}
			if more := end + rnd.Intn(20); more < d.Now.Len() && rnd.Intn(2) == 0 {
				edits = append(edits, text.Edit{Start: more, End: more, New: []byte("y\n")})
			}
			d = d.Follow(edits, d.Now.Apply(edits))
			now := d.Now
			for i := len(d.Hunks) - 1; i >= 0; i-- {
				now = now.Apply([]text.Edit{d.Back(d.Hunks[i])})
			}
			if !assert.Equal(t, was, string(now.Bytes()), "round %d: %v %q", round, d.Hunks, d.Now.Bytes()) {
				return
			}
			for i := 1; i < len(d.Hunks); i++ {
				assert.GreaterOrEqual(t, d.Hunks[i].Now.First, d.Hunks[i-1].Now.End())
			}
		}
	}
}
