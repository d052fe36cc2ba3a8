package userdata

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/know/project"
)

// Folder is where what is kept of a project lies in the user's data folder: one folder or
// file for each kind of it, named after the project's own.
type Folder struct{ data, slug string }

// Part is one kind of what is kept. Those with a file rather than a folder end in .json.
type Part string

// What is kept of a project.
const (
	Chosen    Part = "chosen.json"
	State     Part = "state.json"
	Sweeps    Part = "sweeps"
	Trails    Part = "trails"
	Bookmarks Part = "bookmarks"
	Recovery  Part = "recovery"
	History   Part = "history"
	Changes   Part = "changes"

	registered Part = "projects.json" // which project this is
)

// Parts are all of them: what goes along with a project that moves.
var Parts = []Part{Chosen, State, Sweeps, Trails, Bookmarks, Recovery, History, Changes}

// known says which project a slug stands for, so that it is known again elsewhere.
type known struct {
	Root string    `json:"root"`
	Are  []string  `json:"identity"`
	Used time.Time `json:"used"`
}

// Open finds what is kept of the project at a root. If that was moved there since, what was
// kept of it at its former place goes with it; from says from where, "" if it was not moved.
// The error says why that could not be; the Folder is good to use all the same.
func Open(data, root string) (f Folder, from string, err error) {
	f = Folder{data, project.Slug(root)}
	are := project.Identity(root)
	if !f.used() {
		if former, ok := f.former(root, are); ok {
			if err := f.adopt(former); err != nil {
				return f, "", fmt.Errorf("taking along what was kept of the project in %s: %w", former.Root, err)
			}
			from = former.Root
		}
	}
	return f, from, f.register(known{root, are, time.Now()})
}

// Path is where a part is kept.
func (f Folder) Path(part Part) string { return f.of(f.slug, part) }

func (f Folder) of(slug string, part Part) string {
	if name, ok := strings.CutSuffix(string(part), ".json"); ok {
		return filepath.Join(f.data, name, slug+".json")
	}
	return filepath.Join(f.data, string(part), slug)
}

// used says whether anything is kept of the project here.
func (f Folder) used() bool {
	return slices.ContainsFunc(append(slices.Clone(Parts), registered), func(part Part) bool {
		_, err := os.Lstat(f.Path(part))
		return err == nil
	})
}

// former is the project that is gone from where it was and is the same as this one.
func (f Folder) former(root string, are []string) (known, bool) {
	files, _ := filepath.Glob(filepath.Join(f.data, "projects", "*.json")) // the pattern is well formed
	for _, file := range files {
		var k known
		data, err := os.ReadFile(file)
		if err != nil || json.Unmarshal(data, &k) != nil || k.Root == root || project.Slug(k.Root) == f.slug {
			continue
		}
		same := slices.ContainsFunc(k.Are, func(id string) bool { return slices.Contains(are, id) })
		still := slices.ContainsFunc(project.Identity(k.Root), func(id string) bool { return slices.Contains(k.Are, id) })
		if same && !still {
			return k, true
		}
	}
	return known{}, false
}

// adopt takes over what was kept of a project at its former place.
func (f Folder) adopt(former known) error {
	was := project.Slug(former.Root)
	var failed []error
	for _, part := range Parts {
		from, to := f.of(was, part), f.Path(part)
		err := os.Rename(from, to)
		if err != nil && !errors.Is(err, os.ErrNotExist) {
			failed = append(failed, err)
		}
	}
	if len(failed) == 0 {
		os.Remove(f.of(was, registered)) // another project may be there one day
	}
	return errors.Join(failed...)
}

// register notes which project this is.
func (f Folder) register(k known) error {
	file := f.Path(registered)
	data, err := json.MarshalIndent(k, "", " ")
	if err == nil {
		err = atomicfile.Write(file, data, 0o600)
	}
	if err != nil {
		return fmt.Errorf("what is kept of this project cannot be written: %w; all goes on in memory", err)
	}
	return nil
}
