package dispatch

import (
	"errors"
	"fmt"
)

// ErrNoTeam says that no team can take a call-out at the moment.
var ErrNoTeam = errors.New("no team is free")

// ErrUnknownTeam says that there is no team of that name.
var ErrUnknownTeam = errors.New("no such team")

// StateError says that a call-out is in no state for what was asked of it.
type StateError struct {
	Callout int
	Status  Status
}

// Error implements error.
func (e *StateError) Error() string {
	return fmt.Sprintf("call-out %d is %s already", e.Callout, e.Status)
}
