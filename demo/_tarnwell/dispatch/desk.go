package dispatch

import (
	"fmt"
	"time"
)

// Keeper keeps call-outs. The stores of package store are keepers.
type Keeper interface {
	Save(c Callout) (Callout, error)
	Load(id int) (Callout, error)
	All() ([]Callout, error)
}

// Desk opens and closes call-outs.
type Desk struct {
	Releaser Releaser
	Now      func() time.Time

	assigner Assigner
	keeper   Keeper
}

// NewDesk makes a desk that asks the assigner for teams.
func NewDesk(assigner Assigner, keeper Keeper) *Desk {
	return &Desk{assigner: assigner, keeper: keeper, Now: time.Now}
}

// Open keeps a new call-out and finds a team for it. Without a free team the
// call-out stays open, and the error is ErrNoTeam.
func (d *Desk) Open(valley string, needs []Skill, note string) (Callout, error) {
	c := Callout{Valley: valley, Needs: needs, Note: note, Opened: d.Now()}
	c, err := d.keeper.Save(c)
	if err != nil {
		return c, fmt.Errorf("opening a call-out in %s: %w", valley, err)
	}
	return d.Assign(c)
}

// Assign finds a team for a call-out that has none.
func (d *Desk) Assign(c Callout) (Callout, error) {
	team, err := d.assigner.Assign(c)
	if err != nil {
		return c, err
	}
	c.assign(team)
	return d.keeper.Save(c)
}

// Close closes a call-out and takes its team back.
func (d *Desk) Close(id int) (Callout, error) {
	c, err := d.keeper.Load(id)
	if err != nil {
		return c, fmt.Errorf("closing call-out %d: %w", id, err)
	}
	if err := c.close(d.Now()); err != nil {
		return c, err
	}
	if d.Releaser != nil {
		d.Releaser.Release(c)
	}
	return d.keeper.Save(c)
}

// Waiting returns the call-outs that have no team yet, urgent ones first.
func (d *Desk) Waiting() ([]Callout, error) {
	all, err := d.keeper.All()
	if err != nil {
		return nil, err
	}
	var urgent, others []Callout
	for _, c := range all {
		switch {
		case c.Status != StatusOpen:
		case c.Urgent(d.Now()):
			urgent = append(urgent, c)
		default:
			others = append(others, c)
		}
	}
	return append(urgent, others...), nil
}
