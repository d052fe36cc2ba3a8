package geo

import "math"

// Distance is how far two points lie apart, in kilometres.
func (p Point) Distance(q Point) float64 {
	return math.Hypot(p.East-q.East, p.North-q.North)
}

// farAway stands for the distance to a valley nobody has put on the map.
const farAway = 1e6

// Distance is how far two valleys lie apart, in kilometres.
func (v Valleys) Distance(a, b string) float64 {
	p, known := v[a]
	q, alsoKnown := v[b]
	if !known || !alsoKnown {
		return farAway
	}
	return p.Distance(q)
}
