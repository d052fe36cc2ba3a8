package settingspage

import (
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/surface"
)

// Store is what is set, and the file in which it is kept. Without a file nothing is kept.
type Store struct {
	// Root is the folder of the project.
	Root string

	set   settings.Settings
	file  string
	queue *surface.Queue // of changes that are not in the file yet
	apply func(s *settings.Settings, key string)
}

// NewStore keeps what is set in a file; apply is called when something is set otherwise, with its key, and
// with "" for all of it.
func NewStore(asker *surface.Asker, apply func(s *settings.Settings, key string)) *Store {
	return &Store{queue: surface.NewQueue(asker), apply: apply}
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
	todo := surface.Intent{Arrange: true}
	if file := s.file; file != "" {
		todo.Cmd = s.queue.Add(func() error { return settings.Keep(file, key, value) })
	}
	return todo
}
