package lang

import (
	"bytes"
	"path"
	"sync"
)

// Settings keep what files say about a project, such as manifests and lists of
// versions: each is understood when it is first asked for, and again when its text
// is another. While a text is malformed, what was understood of it last holds. The
// zero value is empty; it may be used by several goroutines.
type Settings[T any] struct {
	mu    sync.Mutex
	known map[string]*said[T]
}

// said is what a file says.
type said[T any] struct {
	text  []byte
	value T
	ok    bool // it was understood once
}

// Of is what a file says, as read understands it; ok is false if it is not there, or
// was never understood.
func (s *Settings[T]) Of(p Project, file string, read func(text []byte) (T, error)) (value T, ok bool) {
	text := p.Text(file)
	if text == nil {
		return value, false
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	k := s.known[file]
	if k == nil {
		k = &said[T]{}
		if s.known == nil {
			s.known = map[string]*said[T]{}
		}
		s.known[file] = k
	} else if bytes.Equal(k.text, text) {
		return k.value, k.ok
	}
	k.text = text
	if value, err := read(text); err == nil {
		k.value, k.ok = value, true
	}
	return k.value, k.ok
}

// Above is what the nearest file of one of those names says, from the folder of a
// file upwards, and in which folder that is.
func (s *Settings[T]) Above(p Project, file string, read func(text []byte) (T, error), names ...string) (folder string, value T, ok bool) {
	for dir := range FoldersUp(file) {
		for _, name := range names {
			if value, ok := s.Of(p, path.Join(dir, name), read); ok {
				return dir, value, true
			}
		}
	}
	return "", value, false
}
