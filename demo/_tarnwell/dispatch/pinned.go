package dispatch

import "time"

// Pinned sends the team that the head of operations has pinned, rested or not.
type Pinned struct {
	Name     string
	Fallback *Roster
}

// Assign implements Assigner.
func (p *Pinned) Assign(c Callout) (Team, error) {
	if p.Name == "" {
		return p.Fallback.Assign(c)
	}
	p.Fallback.mu.Lock()
	defer p.Fallback.mu.Unlock()
	return p.Fallback.send(p.Name, c)
}

// Night is the hours from Begins up to Ends, over midnight.
type Night struct{ Begins, Ends int }

// Holds says whether a time lies in the night.
func (n Night) Holds(t time.Time) bool {
	return t.Hour() >= n.Begins || t.Hour() < n.Ends
}

// ByHour asks one assigner by day and another by night.
type ByHour struct {
	Night
	ByDay, ByNight Assigner
	Now            func() time.Time
}

// Assign implements Assigner.
func (b *ByHour) Assign(c Callout) (Team, error) {
	if b.Holds(b.Now()) {
		return b.ByNight.Assign(c)
	}
	return b.ByDay.Assign(c)
}
