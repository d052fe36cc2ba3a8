package trail

import (
	"slices"
	"time"

	"rooktrail/internal/core/file/place"
)

// mostRecent is how many files are remembered.
const mostRecent = 200

// Brief is how long one has to stay in a file for it to be more than opened by accident.
const Brief = 3 * time.Second

// Visit is a file one was in.
type Visit struct {
	Path string `json:"path"`
	// Brief says that one left it again at once, and was never longer in it.
	Brief bool `json:"brief,omitempty"`
	// Edited says that one has changed text in it.
	Edited bool `json:"edited,omitempty"`
}

// Recent lists the files one was in, the latest first, each once. Those that one left
// again within seconds sink behind the others, apart from the one before. The zero
// Recent is empty.
type Recent struct {
	visits []Visit
	since  time.Time // when one came to the first
}

// Touch puts a file at the front, at the time when one comes to it.
func (r *Recent) Touch(path string, now time.Time) {
	if len(r.visits) > 0 && r.visits[0].Path == path {
		return
	}
	if len(r.visits) > 0 && !r.since.IsZero() && now.Sub(r.since) >= Brief {
		r.visits[0].Brief = false
	}
	v := Visit{Path: path, Brief: true}
	if i := slices.IndexFunc(r.visits, func(v Visit) bool { return v.Path == path }); i >= 0 {
		v = r.visits[i]
		r.visits = slices.Delete(r.visits, i, i+1)
	}
	r.visits = slices.Insert(r.visits, 0, v)
	r.since = now
	if len(r.visits) > mostRecent {
		r.visits = r.visits[:mostRecent]
	}
}

// Edit notes that text was changed in a file.
func (r *Recent) Edit(path string) {
	for i := range r.visits {
		if r.visits[i].Path == path {
			r.visits[i].Edited, r.visits[i].Brief = true, false
		}
	}
}

// All lists them, the latest first, as they are at a time.
func (r *Recent) All(now time.Time) []Visit {
	out := slices.Clone(r.visits)
	if len(out) > 0 && now.Sub(r.since) >= Brief {
		out[0].Brief = false
	}
	return out
}

// NewRecent is a list that was kept.
func NewRecent(visits []Visit) Recent {
	return Recent{visits: slices.Clone(visits[:min(len(visits), mostRecent)])}
}

// Before lists the files one was in before the present one, the previous one
// first; edited leaves out those in which nothing was changed.
func (r *Recent) Before(present string, edited bool) (out []string) {
	var brief []string
	previous := true
	for _, v := range r.visits {
		switch {
		case v.Path == present || edited && !v.Edited:
			continue
		case v.Brief && !previous:
			brief = append(brief, v.Path)
		default:
			out = append(out, v.Path)
		}
		previous = false
	}
	return append(out, brief...)
}

// Rename follows a file or a folder that was given another path.
func (r *Recent) Rename(from, to string) {
	for i := range r.visits {
		r.visits[i].Path = place.Renamed(r.visits[i].Path, from, to)
	}
}
