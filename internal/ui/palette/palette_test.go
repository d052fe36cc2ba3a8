package palette

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/ink"
)

// contrast is that of two colours that are known.
func contrast(t *testing.T, a, b ink.Color) float64 {
	ratio, ok := ink.Contrast(a, b)
	assert.True(t, ok)
	return ratio
}

func TestAllTextStandsOutFromItsGround(t *testing.T) {
	for _, p := range []Palette{Peat, Chalk, Slate, Sand, PeatOf256, ChalkOf256} {
		texts := map[string]ink.Color{"text": p.Text, "quiet": p.Quiet, "here": p.Here, "way": p.Way, "edit": p.Edit,
			"changed": p.Changed, "problem": p.Problem}
		code := map[string]ink.Color{"keyword": p.Keyword, "string": p.String, "number": p.Number, "comment": p.Comment,
			"type": p.Type, "function": p.Function}
		for name, c := range texts {
			for _, ground := range []ink.Color{p.Ground, p.Present, p.Sheet, p.Chosen} {
				assert.Greater(t, contrast(t, c, ground), 4.5, "%s %s", p.Name, name)
			}
		}
		for name, c := range code {
			for _, ground := range []ink.Color{p.Ground, p.Present, p.Sheet} {
				assert.Greater(t, contrast(t, c, ground), 4.5, "%s %s", p.Name, name)
			}
		}
	}
}

// The palette of high contrast has that for all of it.
func TestAClearPalette(t *testing.T) {
	p := Clear
	for _, r := range p.roles() {
		if r.ground || r.name == "rule" {
			continue
		}
		for _, ground := range []ink.Color{p.Ground, p.Present, p.Sheet, p.Chosen} {
			assert.Greater(t, contrast(t, *r.color, ground), 7.0, r.name)
		}
	}
}

// Colours of one's own take the place of those of the palette, and one hears of those that cannot be read.
func TestColoursOfOnesOwn(t *testing.T) {
	var c Chooser
	assert.NoError(t, c.Fix(""))
	c.Prefer("chalk", map[string]string{"text": "#000000", "comment": "#e0e0d0", "way": "23", "snow": "#ffffff"})
	assert.Equal(t, ink.RGB(0), c.Use().Text)
	assert.Equal(t, ink.ANSI(23), c.Use().Way)
	assert.Equal(t, Chalk.Keyword, c.Use().Keyword)
	warnings := c.Warnings()
	assert.Len(t, warnings, 3)
	assert.Contains(t, warnings[0], "comment on ground has a contrast of 1.2 to 1")
	assert.Contains(t, warnings[2], `there is no colour "snow"; they are ground, present`)
	c.Prefer("peat", nil)
	assert.Equal(t, Peat, *c.Use())
	assert.Empty(t, c.Warnings())
	c.Prefer("auto", nil)
	c.Dark(false)
	assert.Equal(t, Chalk, *c.Use(), "what suits the terminal")
	assert.NoError(t, c.Fix("peat"))
	c.Prefer("chalk", nil)
	assert.Equal(t, Peat, *c.Use(), "what was asked for at the start counts more")
}

func TestByName(t *testing.T) {
	p, err := ByName("chalk")
	assert.NoError(t, err)
	assert.Equal(t, Chalk, p)
	_, err = ByName("granite")
	assert.ErrorContains(t, err, "granite")
}
