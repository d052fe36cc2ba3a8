package store

import (
	"sync"

	"tarnwell/dispatch"
)

// Memory is a Store that forgets everything at the end.
type Memory struct {
	mu       sync.RWMutex
	callouts []dispatch.Callout
}

// NewMemory makes an empty store.
func NewMemory() *Memory { return &Memory{} }

// Save implements Store.
func (m *Memory) Save(c dispatch.Callout) (dispatch.Callout, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if c.ID == 0 {
		c.ID = len(m.callouts) + 1
		m.callouts = append(m.callouts, c)
		return c, nil
	}
	if c.ID > len(m.callouts) {
		return c, ErrNotFound
	}
	m.callouts[c.ID-1] = c
	return c, nil
}

// Load implements Store.
func (m *Memory) Load(id int) (dispatch.Callout, error) {
	m.mu.RLock()
	defer m.mu.RUnlock()
	if id < 1 || id > len(m.callouts) {
		return dispatch.Callout{}, ErrNotFound
	}
	return m.callouts[id-1], nil
}

// All implements Store.
func (m *Memory) All() ([]dispatch.Callout, error) {
	m.mu.RLock()
	defer m.mu.RUnlock()
	return append([]dispatch.Callout(nil), m.callouts...), nil
}
