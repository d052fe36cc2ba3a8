package weather

import (
	"testing"
	"time"

	"tarnwell/radio"
)

func TestNewSnow(t *testing.T) {
	h := NewHistory()
	now := time.Date(2026, 2, 7, 6, 0, 0, 0, time.UTC)
	for i, snow := range []int{100, 180, 150, 210} {
		h.Add(radio.Frame{Hut: 3, Snow: snow}, now.Add(time.Duration(i-3)*time.Hour))
	}
	if got := h.NewSnow(3, 24*time.Hour, now); got != 140 {
		t.Fatalf("got %d", got)
	}
	if r, ok := h.Latest(3); !ok || r.Snow != 210 {
		t.Fatalf("got %+v, %v", r, ok)
	}
}
