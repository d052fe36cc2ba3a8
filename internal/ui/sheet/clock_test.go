package sheet

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestClock(t *testing.T) {
	noon := time.Date(2031, 3, 14, 12, 0, 0, 0, time.Local)
	for _, c := range []struct {
		style         string
		at            time.Time
		short, moment string
	}{
		{"", noon.Add(3 * time.Hour), "15:00", "14 Mar 15:00"},
		{"", noon.Add(-48 * time.Hour), "12 Mar", "12 Mar 12:00"},
		{"12", noon.Add(3 * time.Hour), "3:00 PM", "14 Mar 3:00 PM"},
		{"12", noon.Add(-48 * time.Hour), "12 Mar", "12 Mar 12:00 PM"},
		{"iso", noon.Add(-time.Hour), "11:00", "2031-03-14 11:00"},
		{"iso", noon.Add(-48 * time.Hour), "2031-03-12", "2031-03-12 12:00"},
		{"ago", noon.Add(-48 * time.Hour), "2 days ago", "2 days ago"},
		{"ago", noon.Add(-90 * time.Minute), "1 hour ago", "1 hour ago"},
		{"ago", noon, "just now", "just now"},
		{"ago", noon.Add(-800 * 24 * time.Hour), "2 years ago", "2 years ago"},
	} {
		k := &Clock{Style: c.style, Now: func() time.Time { return noon }}
		assert.Equal(t, c.short, k.Short(c.at), c.style)
		assert.Equal(t, c.moment, k.Moment(c.at), c.style)
	}
	assert.NotEmpty(t, (*Clock)(nil).Moment(noon))
}
