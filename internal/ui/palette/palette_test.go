package palette

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/ink"
)

// luminance and contrast are those of the Web Content Accessibility Guidelines.
func luminance(c ink.Color) float64 {
	r, g, b, ok := c.Channels()
	if n, numbered := c.Number(); !ok && numbered {
		r, g, b = channels256(n)
	}
	lin := func(v uint8) float64 {
		x := float64(v) / 255
		if x <= 0.03928 {
			return x / 12.92
		}
		return math.Pow((x+0.055)/1.055, 2.4)
	}
	return 0.2126*lin(r) + 0.7152*lin(g) + 0.0722*lin(b)
}

// channels256 are the colours that terminals give to the numbers from 16 on: a
// cube of six steps each way, then greys.
func channels256(n uint8) (r, g, b uint8) {
	if n >= 232 {
		grey := 8 + (n-232)*10
		return grey, grey, grey
	}
	step := [6]uint8{0, 95, 135, 175, 215, 255}
	n -= 16
	return step[n/36], step[n/6%6], step[n%6]
}

func contrast(a, b ink.Color) float64 {
	x, y := luminance(a), luminance(b)
	return (max(x, y) + 0.05) / (min(x, y) + 0.05)
}

func TestAllTextStandsOutFromItsGround(t *testing.T) {
	for _, p := range []Palette{Peat, Chalk, PeatOf256, ChalkOf256} {
		texts := map[string]ink.Color{"text": p.Text, "quiet": p.Quiet, "here": p.Here, "way": p.Way, "edit": p.Edit,
			"changed": p.Changed, "problem": p.Problem}
		code := map[string]ink.Color{"keyword": p.Keyword, "string": p.String, "number": p.Number, "comment": p.Comment,
			"type": p.Type, "function": p.Function}
		for name, c := range texts {
			for _, ground := range []ink.Color{p.Ground, p.Present, p.Sheet, p.Chosen} {
				assert.Greater(t, contrast(c, ground), 4.5, "%s %s", p.Name, name)
			}
		}
		for name, c := range code {
			for _, ground := range []ink.Color{p.Ground, p.Present, p.Sheet} {
				assert.Greater(t, contrast(c, ground), 4.5, "%s %s", p.Name, name)
			}
		}
	}
}

func TestByName(t *testing.T) {
	p, err := ByName("chalk")
	assert.NoError(t, err)
	assert.Equal(t, Chalk, p)
	_, err = ByName("slate")
	assert.ErrorContains(t, err, "slate")
}
