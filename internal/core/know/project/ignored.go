package project

import (
	"cmp"
	"context"
	"os"
	"path/filepath"
	"slices"
)

const (
	// FewFiles is up to how many files of a project make one ask what was left out.
	FewFiles = 3
	// mostIgnored is how many files that are left out are counted.
	mostIgnored = 100_000
)

// countIgnored counts what the ignore files below root leave out.
func countIgnored(ctx context.Context, root string) (all []Ignored) {
	counts := map[string]int{}
	total := 0
	var walk func(dir, by string, rules []rule)
	walk = func(dir, by string, rules []rule) {
		entries, err := os.ReadDir(filepath.Join(root, filepath.FromSlash(dir)))
		if err != nil {
			return // the listing has told it
		}
		if by == "" {
			rules = withRules(root, dir, rules)
		}
		for _, e := range entries {
			if total >= mostIgnored || ctx.Err() != nil || repositories[e.Name()] {
				continue
			}
			path := e.Name()
			if dir != "" {
				path = dir + "/" + path
			}
			out := by
			if out == "" {
				_, out = excluded(rules, path, e.IsDir())
			}
			switch {
			case e.IsDir():
				walk(path, out, rules)
			case out != "":
				counts[out]++
				total++
			}
		}
	}
	walk("", "", nil)
	for by, n := range counts {
		all = append(all, Ignored{by, n})
	}
	slices.SortFunc(all, func(a, b Ignored) int { return cmp.Or(cmp.Compare(b.Files, a.Files), cmp.Compare(a.By, b.By)) })
	return all
}
