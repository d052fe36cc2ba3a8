package dispatch

import (
	"cmp"
	"slices"
	"sync"
	"time"

	"tarnwell/geo"
)

// RestTime is how long a team rests after a call-out, if nothing else is set.
const RestTime = 45 * time.Minute

// Roster knows where every team is, and gives call-outs to the nearest.
type Roster struct {
	RestTime time.Duration
	// Now is the clock; tests set their own.
	Now func() time.Time

	mu      sync.Mutex
	valleys geo.Valleys
	teams   []Team
}

// NewRoster makes a roster of teams that are all at home.
func NewRoster(valleys geo.Valleys, teams []Team) *Roster {
	return &Roster{
		RestTime: RestTime,
		Now:      time.Now,
		valleys:  valleys,
		teams:    slices.Clone(teams),
	}
}

// --- who can go -----------------------------------------------------------

// free returns the teams that could take a call-out now.
func (r *Roster) free(c Callout) []Team {
	var free []Team
	for _, t := range r.teams {
		if !t.Busy() && t.Rested(r.Now(), r.RestTime) && t.Suits(c) {
			free = append(free, t)
		}
	}
	return free
}

// nearest puts the teams that are closest to a valley first.
func (r *Roster) nearest(valley string, teams []Team) []Team {
	slices.SortStableFunc(teams, func(a, b Team) int {
		return cmp.Compare(r.valleys.Distance(a.Valley, valley), r.valleys.Distance(b.Valley, valley))
	})
	return teams
}

// Assign gives the call-out to the nearest free team that has the skills, and
// marks that team as out.
func (r *Roster) Assign(c Callout) (Team, error) {
	r.mu.Lock()
	defer r.mu.Unlock()
	free := r.nearest(c.Valley, r.free(c))
	if len(free) == 0 {
		return Team{}, ErrNoTeam
	}
	return r.send(free[0].Name, c)
}

// --- going and coming back ------------------------------------------------

// send marks a team as out. The roster is locked.
func (r *Roster) send(name string, c Callout) (Team, error) {
	t := r.find(name)
	if t == nil {
		return Team{}, ErrUnknownTeam
	}
	t.Out = c.Valley
	return *t, nil
}

// Release marks the team of a closed call-out as back.
func (r *Roster) Release(c Callout) {
	r.mu.Lock()
	defer r.mu.Unlock()
	for i := range r.teams {
		if r.teams[i].Out == c.Valley {
			r.teams[i].Out = ""
			r.teams[i].Back = r.Now()
			return
		}
	}
}

// --- looking --------------------------------------------------------------

// find returns the team of a name, or nil. The roster is locked.
func (r *Roster) find(name string) *Team {
	for i := range r.teams {
		if r.teams[i].Name == name {
			return &r.teams[i]
		}
	}
	return nil
}

// Teams returns all teams as they are now.
func (r *Roster) Teams() []Team {
	r.mu.Lock()
	defer r.mu.Unlock()
	return slices.Clone(r.teams)
}
