package dispatch

import "sync"

// Rotation gives call-outs to the free teams in turn, so that at night it is
// not always the same people who get up.
type Rotation struct {
	roster *Roster
	mu     sync.Mutex
	last   string
}

// NewRotation begins with the first team of the roster.
func NewRotation(roster *Roster) *Rotation { return &Rotation{roster: roster} }

// Assign implements Assigner.
func (r *Rotation) Assign(c Callout) (Team, error) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.roster.mu.Lock()
	defer r.roster.mu.Unlock()
	free := r.roster.free(c)
	if len(free) == 0 {
		return Team{}, ErrNoTeam
	}
	next := free[0]
	for i, t := range free {
		if t.Name == r.last {
			next = free[(i+1)%len(free)]
		}
	}
	r.last = next.Name
	return r.roster.send(next.Name, c)
}
