package ink

import "math"

// Contrast is that of two colours as the Web Content Accessibility Guidelines measure it, from 1 to 21; ok
// is false if one of them is the terminal's own, which nobody knows.
func Contrast(a, b Color) (ratio float64, ok bool) {
	x, okX := a.luminance()
	y, okY := b.luminance()
	return (max(x, y) + 0.05) / (min(x, y) + 0.05), okX && okY
}

func (c Color) luminance() (l float64, ok bool) {
	r, g, b, ok := c.Channels()
	if n, numbered := c.Number(); !ok && numbered && n >= 16 {
		r, g, b = channels256(n)
		ok = true
	}
	linear := func(v uint8) float64 {
		x := float64(v) / 255
		if x <= 0.03928 {
			return x / 12.92
		}
		return math.Pow((x+0.055)/1.055, 2.4)
	}
	return 0.2126*linear(r) + 0.7152*linear(g) + 0.0722*linear(b), ok
}

// channels256 are the colours that terminals give to the numbers from 16 on: a cube of six steps each
// way, then greys.
func channels256(n uint8) (r, g, b uint8) {
	if n >= 232 {
		grey := 8 + (n-232)*10
		return grey, grey, grey
	}
	step := [6]uint8{0, 95, 135, 175, 215, 255}
	n -= 16
	return step[n/36], step[n/6%6], step[n%6]
}
