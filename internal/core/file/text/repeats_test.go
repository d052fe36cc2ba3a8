package text_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

func TestRepeats(t *testing.T) {
	long := strings.Repeat("x", text.HeadOfLine)
	d := text.NewDocument([]byte("hut\n\n  hut\t\nteam\n" + long + "1\n" + long + "2\nlast"))
	for line, want := range map[int]bool{1: true, 2: false, 3: true, 4: false, 5: true, 6: true, 7: false} {
		assert.Equal(t, want, d.Repeats(line), "line %d", line)
	}
	d = d.Apply([]text.Edit{{Start: d.Len(), End: d.Len(), New: []byte("\nteam")}})
	assert.True(t, d.Repeats(4), "what was written since counts")
	assert.True(t, d.Repeats(8))
}

// What the sums of a document say is what going through its lines says, through edits as well.
func TestRepeatsLikeGoingThroughIt(t *testing.T) {
	var b strings.Builder
	for i := range 3000 {
		fmt.Fprintf(&b, "line %d\n", i*i%2500)
	}
	d := text.NewDocument([]byte(b.String()))
	d.PrepareRepeats()
	for i := range 40 {
		at := i * 700 % d.Len()
		d = d.Apply([]text.Edit{{Start: at, End: min(at+9, d.Len()), New: []byte("\nline 7\n")}})
		times := map[string]int{}
		for n := 1; n <= d.Lines(); n++ {
			times[strings.TrimSpace(string(d.Line(n)))]++
		}
		for n := 1; n <= d.Lines(); n += 97 {
			l := strings.TrimSpace(string(d.Line(n)))
			assert.Equal(t, l != "" && times[l] > 1, d.Repeats(n), l)
			if l != "" {
				assert.Equal(t, times[l] > 1, place.NewAnchor(place.Place{Path: "a", Line: n}, d, "").Common)
			}
		}
	}
}
