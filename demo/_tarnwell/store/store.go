// Package store keeps call-outs.
package store

import (
	"errors"

	"tarnwell/dispatch"
)

// Store keeps call-outs and finds them again.
type Store interface {
	// Save keeps a call-out; a new one, whose ID is 0, gets a number.
	Save(c dispatch.Callout) (dispatch.Callout, error)
	Load(id int) (dispatch.Callout, error)
	All() ([]dispatch.Callout, error)
}

// ErrNotFound says that there is no call-out of that number.
var ErrNotFound = errors.New("no such call-out")

// ErrCorrupt says that what was kept cannot be read.
var ErrCorrupt = errors.New("damaged")
