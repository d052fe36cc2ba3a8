package settingspage

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/surface"
)

// Store is what is set, and the file in which it is kept. The zero Store is that of somebody who has set
// nothing, and keeps nothing.
type Store struct {
	set     settings.Settings
	file    string
	asker   *surface.Asker
	apply   func(s *settings.Settings, key string)
	unkept  []unkept
	keeping bool // one of them is being written
}

// unkept is a change that is not in the file yet; value is nil if it takes back what was set.
type unkept struct {
	key   string
	value any
}

// NewStore keeps what is set in a file; apply is called when something is set otherwise, with its key, and
// with "" for all of it.
func NewStore(asker *surface.Asker, apply func(s *settings.Settings, key string)) *Store {
	return &Store{asker: asker, apply: apply}
}

// Take takes what is set, and the file in which it is.
func (s *Store) Take(set settings.Settings, file string) {
	s.set, s.file = set, file
	s.apply(&s.set, "")
}

// Settings are those that count now.
func (s *Store) Settings() *settings.Settings { return &s.set }

// File is the user's own file of settings.
func (s *Store) File() string { return s.file }

// Set has a setting be another value from now on, and keeps that; nil takes back what was set.
func (s *Store) Set(key string, value any) surface.Intent {
	s.set = s.set.With(key, value, settings.ByUser)
	s.apply(&s.set, key)
	s.unkept = append(s.unkept, unkept{key, value})
	return surface.Intent{Arrange: true, Cmd: s.keep()}
}

// keep writes the changes into the file, one after the other.
func (s *Store) keep() tea.Cmd {
	if s.file == "" || s.keeping || len(s.unkept) == 0 {
		return nil
	}
	next, file := s.unkept[0], s.file
	s.unkept, s.keeping = s.unkept[1:], true
	return surface.Do(s.asker, func(context.Context) error { return settings.Keep(file, next.key, next.value) }, func(err error) surface.Intent {
		s.keeping = false
		return surface.SayError(err).And(surface.Begin(s.keep()))
	})
}
