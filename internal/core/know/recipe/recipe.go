// Package recipe finds the commands that the files of a project propose: the targets of its makefile, the scripts of its manifest.
// They are text; nothing is run here.
package recipe

import (
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/know/codebase"
)

// Recipe is a command that a file proposes.
type Recipe struct {
	// Line is the command line, Dir the folder it is for, From the file that proposes it, both from the root of the project; What is
	// what that file says of it, or "".
	Line, Dir, From, What string
}

// most is how many recipes are listed at the most, and mostFiles of how many files.
const (
	most      = 500
	mostFiles = 100
)

// All are those of a project, the ones of the outermost folders first. Files that cannot be read propose nothing.
func All(ctx context.Context, code *codebase.Base) (all []Recipe) {
	type proposing struct {
		file string
		lang int
	}
	var files []proposing
	languages := code.Languages().All()
	seen := map[string]bool{}
	for i, l := range languages {
		for _, name := range l.Trying.Proposing {
			for _, f := range code.FilesNamed(name) {
				if path.Base(f) == name && !seen[f] {
					seen[f] = true
					files = append(files, proposing{f, i})
				}
			}
		}
	}
	slices.SortFunc(files, func(a, b proposing) int {
		if d := strings.Count(a.file, "/") - strings.Count(b.file, "/"); d != 0 {
			return d
		}
		return strings.Compare(a.file, b.file)
	})
	for _, f := range files[:min(len(files), mostFiles)] {
		file, err := code.Load(ctx, f.file)
		if err != nil || file.Text.Binary() {
			continue
		}
		for _, c := range languages[f.lang].Trying.Propose(path.Base(f.file), file.Text.Bytes()) {
			all = append(all, Recipe{Line: c.Line, Dir: path.Dir(f.file), From: f.file, What: c.What})
		}
	}
	return all[:min(len(all), most)]
}
