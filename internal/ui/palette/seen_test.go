package palette

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/ink"
)

// How colours look to everybody, and to those who do not see red or green, as linear maps of linear light
// (Machado, Oliveira and Fernandes, 2009, at full strength).
var eyes = map[string][3][3]float64{
	"all":           {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}},
	"without red":   {{0.152286, 1.052583, -0.204868}, {0.114503, 0.786281, 0.099216}, {-0.003882, -0.048116, 1.051998}},
	"without green": {{0.367322, 0.860646, -0.227968}, {0.280085, 0.672501, 0.047413}, {-0.011820, 0.042940, 0.968881}},
}

// lab is how a colour looks, in the coordinates of CIELAB, in which distances are about as large as they seem.
func lab(t *testing.T, c ink.Color, eye [3][3]float64) (out [3]float64) {
	r, g, b, ok := c.Channels()
	assert.True(t, ok)
	var light, seen [3]float64
	for i, v := range []uint8{r, g, b} {
		if x := float64(v) / 255; x <= 0.04045 {
			light[i] = x / 12.92
		} else {
			light[i] = math.Pow((x+0.055)/1.055, 2.4)
		}
	}
	for i := range seen {
		for j := range light {
			seen[i] += eye[i][j] * light[j]
		}
		seen[i] = min(max(seen[i], 0), 1)
	}
	f := func(v float64) float64 {
		if v > 0.008856 {
			return math.Cbrt(v)
		}
		return 7.787*v + 16.0/116
	}
	x := f((0.4124*seen[0] + 0.3576*seen[1] + 0.1805*seen[2]) / 0.9505)
	y := f(0.2126*seen[0] + 0.7152*seen[1] + 0.0722*seen[2])
	z := f((0.0193*seen[0] + 0.1192*seen[1] + 0.9505*seen[2]) / 1.089)
	return [3]float64{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

// What means something is told apart by those, too, to whom red and green look alike.
func TestColoursForWhoDoesNotSeeRedOrGreen(t *testing.T) {
	for _, p := range []Palette{Slate, Sand} {
		for _, group := range []struct {
			least float64
			roles map[string]ink.Color
		}{
			{15, map[string]ink.Color{"here": p.Here, "way": p.Way, "edit": p.Edit, "changed": p.Changed, "problem": p.Problem}},
			{12, map[string]ink.Color{"keyword": p.Keyword, "string": p.String, "number": p.Number, "comment": p.Comment, "type": p.Type, "function": p.Function}},
		} {
			for name, eye := range eyes {
				for a, x := range group.roles {
					for b, y := range group.roles {
						if a >= b {
							continue
						}
						u, v := lab(t, x, eye), lab(t, y, eye)
						far := math.Sqrt(math.Pow(u[0]-v[0], 2) + math.Pow(u[1]-v[1], 2) + math.Pow(u[2]-v[2], 2))
						assert.Greater(t, far, group.least, "%s: %s and %s, seen %s", p.Name, a, b, name)
					}
				}
			}
		}
	}
}
