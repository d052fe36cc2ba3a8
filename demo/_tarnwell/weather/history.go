// Package weather keeps the readings of the huts for as long as they matter.
package weather

import (
	"time"

	"tarnwell/radio"
)

// keep is for how long readings are kept.
const keep = 72 * time.Hour

// Reading is what a hut measured at a time.
type Reading struct {
	At          time.Time
	Temperature float64
	Wind        float64
	Snow        int
}

// History is the readings of all huts.
type History struct {
	readings map[uint16][]Reading
}

// NewHistory is empty.
func NewHistory() *History { return &History{readings: map[uint16][]Reading{}} }

// Add takes in a frame and forgets what is too old.
func (h *History) Add(f radio.Frame, at time.Time) {
	r := Reading{At: at, Temperature: f.Temperature, Wind: f.Wind, Snow: f.Snow}
	list := append(h.readings[f.Hut], r)
	for len(list) > 0 && at.Sub(list[0].At) > keep {
		list = list[1:]
	}
	h.readings[f.Hut] = list
}

// Latest is the last reading of a hut; ok is false if there is none.
func (h *History) Latest(hut uint16) (r Reading, ok bool) {
	list := h.readings[hut]
	if len(list) == 0 {
		return r, false
	}
	return list[len(list)-1], true
}

// NewSnow is how much snow has fallen at a hut within the time before now, in
// millimetres. Snow that has settled or blown away does not count against it.
func (h *History) NewSnow(hut uint16, within time.Duration, now time.Time) int {
	fallen := 0
	list := h.readings[hut]
	for i := 1; i < len(list); i++ {
		if now.Sub(list[i].At) <= within {
			fallen += max(list[i].Snow-list[i-1].Snow, 0)
		}
	}
	return fallen
}
