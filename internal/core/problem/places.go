package problem

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
)

// Places are what is wrong in a folder, "." for the whole project, as places of a list, in the order of the files; definitions that
// nothing uses are not among them, as finding these takes long.
func (f *Finder) Places(ctx context.Context, folder string) (places []answer.Answer) {
	var all []Problem
	unasked, err := f.All(ctx, folder, false, func(found []Problem) bool {
		all = append(all, found...)
		return len(all) < mostPlaces
	})
	if err != nil {
		return nil // it was given up
	}
	if unasked > 0 {
		f.code.Note(fmt.Sprintf("compilers were not asked yet about all files; what they find in %s will be missing in the list", text.Number(unasked)))
	}
	Sort(all)
	for _, p := range all {
		file, err := f.code.Load(ctx, p.Path)
		if err != nil {
			continue // it is gone by now
		}
		at := answer.Standing(file, p.At)
		at.Role, at.Why = string(p.Kind), p.Text
		places = append(places, at)
	}
	return places
}

// mostPlaces is how many problems a list has at the most, about.
const mostPlaces = 20000

// Beyond is the first problem of the next file that has any, or the last one of a file before; files are in the order of their
// paths, and begin again behind the last. ok is false if no other file has any.
func (f *Finder) Beyond(ctx context.Context, from string, forward bool) (p Problem, ok bool) {
	var files []string
	for file := range f.code.Listing().Files() {
		if f.code.Languages().Of(file.Path) != nil {
			files = append(files, file.Path)
		}
	}
	slices.SortFunc(files, func(a, b string) int {
		if c := strings.Compare(path.Dir(a), path.Dir(b)); c != 0 {
			return c
		}
		return strings.Compare(a, b)
	})
	at := max(slices.Index(files, from), 0)
	for i := 1; i < len(files) && ctx.Err() == nil; i++ {
		step := i
		if !forward {
			step = len(files) - i
		}
		found, err := f.In(ctx, files[(at+step)%len(files)])
		if err != nil || len(found) == 0 {
			continue
		}
		if forward {
			return found[0], true
		}
		return found[len(found)-1], true
	}
	return Problem{}, false
}
