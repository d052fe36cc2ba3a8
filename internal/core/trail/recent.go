package trail

import (
	"slices"

	"rooktrail/internal/core/place"
)

// mostRecent is how many files are remembered.
const mostRecent = 200

// Recent lists the files one was in, the latest first, each once. The zero
// Recent is empty.
type Recent struct{ paths []string }

// Touch puts a file at the front.
func (r *Recent) Touch(path string) {
	if i := slices.Index(r.paths, path); i >= 0 {
		r.paths = slices.Delete(r.paths, i, i+1)
	}
	r.paths = slices.Insert(r.paths, 0, path)
	if len(r.paths) > mostRecent {
		r.paths = r.paths[:mostRecent]
	}
}

// All lists them, the latest first.
func (r *Recent) All() []string { return slices.Clone(r.paths) }

// NewRecent is a list that was kept.
func NewRecent(paths []string) Recent {
	return Recent{paths: slices.Clone(paths[:min(len(paths), mostRecent)])}
}

// Before lists the files one was in before the present one, the previous one
// first.
func (r *Recent) Before(present string) []string {
	var out []string
	for _, p := range r.paths {
		if p != present {
			out = append(out, p)
		}
	}
	return out
}

// Rename follows a file or a folder that was given another path.
func (r *Recent) Rename(from, to string) {
	for i, p := range r.paths {
		r.paths[i] = place.Renamed(p, from, to)
	}
}
