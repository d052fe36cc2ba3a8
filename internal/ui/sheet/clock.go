package sheet

import "time"

// Clock writes times as the user has set it. It is shared by all lists; the zero Clock writes those of a clock
// of 24 hours.
type Clock struct {
	// Style is "24", "12", "ago" or "iso"; "" is "24".
	Style string
	// Now is the time of day; nil for that of the system.
	Now func() time.Time
}

func (c *Clock) now() time.Time {
	if c == nil || c.Now == nil {
		return time.Now()
	}
	return c.Now()
}

func (c *Clock) style() string {
	if c == nil {
		return ""
	}
	return c.Style
}

// Short is a time in a word: the time of day if it is today, else the day.
func (c *Clock) Short(t time.Time) string {
	t, now := t.Local(), c.now().Local()
	today := t.YearDay() == now.YearDay() && t.Year() == now.Year()
	switch style := c.style(); {
	case style == "ago":
		return ago(now.Sub(t))
	case today && style == "12":
		return t.Format("3:04 PM")
	case today:
		return t.Format("15:04")
	case style == "iso":
		return t.Format(time.DateOnly)
	}
	return t.Format("2 Jan")
}

// Moment is a time with its day.
func (c *Clock) Moment(t time.Time) string {
	t = t.Local()
	switch c.style() {
	case "ago":
		return ago(c.now().Sub(t))
	case "12":
		return t.Format("2 Jan 3:04 PM")
	case "iso":
		return t.Format("2006-01-02 15:04")
	}
	return t.Format("2 Jan 15:04")
}

// ago says how long ago something was.
func ago(d time.Duration) string {
	const day = 24 * time.Hour
	for _, unit := range []struct {
		of        time.Duration
		one, many string
	}{{365 * day, "year", "years"}, {30 * day, "month", "months"}, {day, "day", "days"}, {time.Hour, "hour", "hours"}, {time.Minute, "minute", "minutes"}} {
		if n := int(d / unit.of); n > 0 {
			return Count(n, unit.one, unit.many) + " ago"
		}
	}
	return "just now"
}
