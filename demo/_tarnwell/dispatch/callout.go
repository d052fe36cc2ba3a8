// Package dispatch decides who goes where: it holds call-outs, teams, and the
// ways of giving the one to the other.
package dispatch

import (
	"fmt"
	"time"
)

// Status is how far a call-out is.
type Status int

// A call-out is open until a team has it, and closed when the team is back.
const (
	StatusOpen Status = iota
	StatusAssigned
	StatusClosed
)

var statusNames = map[Status]string{
	StatusOpen:     "open",
	StatusAssigned: "assigned",
	StatusClosed:   "closed",
}

// String names the status as the board shows it.
func (s Status) String() string {
	if name, ok := statusNames[s]; ok {
		return name
	}
	return fmt.Sprintf("status %d", int(s))
}

// Callout is one call for help.
type Callout struct {
	ID     int
	Valley string
	// Needs are the skills without which a team is of no use.
	Needs  []Skill
	Status Status
	Team   string
	Opened time.Time
	Closed time.Time
	Note   string
}

// Urgent says whether the call-out has waited too long for a team.
func (c Callout) Urgent(now time.Time) bool {
	return c.Status == StatusOpen && now.Sub(c.Opened) > urgentAfter
}

const urgentAfter = 10 * time.Minute

// assign marks the call-out as given to a team.
func (c *Callout) assign(t Team) {
	c.Team = t.Name
	c.Status = StatusAssigned
}

// close marks the call-out as done. Closing twice is an error, since the
// second time is most likely meant for another one.
func (c *Callout) close(now time.Time) error {
	if c.Status == StatusClosed {
		return &StateError{Callout: c.ID, Status: c.Status}
	}
	c.Status = StatusClosed
	c.Closed = now
	return nil
}

// Duration is how long the call-out took, or has taken until now.
func (c Callout) Duration(now time.Time) time.Duration {
	if c.Status == StatusClosed {
		return c.Closed.Sub(c.Opened)
	}
	return now.Sub(c.Opened)
}
