package search

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/find"
)

// CheckFolder says whether the project has files in a folder, or is a file of that path; "" and
// "." are all of it.
func (s *Searcher) CheckFolder(folder string) error {
	folder = strings.TrimSuffix(folder, "/")
	if folder == "" || folder == "." || s.anyFile(func(p string) bool { return p == folder || strings.HasPrefix(p, folder+"/") }) {
		return nil
	}
	return fmt.Errorf("there is no folder %s with files in this project", folder)
}

// CheckGlobs says whether each glob matches a file of the project.
func (s *Searcher) CheckGlobs(globs []string) error {
	for _, g := range globs {
		if !s.anyFile(func(p string) bool { return find.AnyGlob([]string{g}, p) }) {
			return fmt.Errorf("no file of this project matches the glob %q", g)
		}
	}
	return nil
}

// CheckFilter says whether what the words of a query narrow it to is there: folders and globs that
// some file is in, kinds that symbols can be of.
func (s *Searcher) CheckFilter(query string) error {
	_, f := ParseFilter(query)
	for _, in := range f.in {
		only := Filter{in: []string{in}}
		if !s.anyFile(only.Path) {
			return fmt.Errorf("there is no folder %s with files, and no such file, in this project", in)
		}
	}
	for _, g := range f.include {
		if !s.anyFile(func(p string) bool { return find.AnyGlob([]string{g}, strings.ToLower(p)) }) {
			return fmt.Errorf("no file of this project matches the glob %q", g)
		}
	}
	for _, kind := range f.kinds {
		only := Filter{kinds: []string{kind}}
		if !slices.ContainsFunc(facts.Kinds(), only.Kind) {
			return fmt.Errorf("there is no kind %q of symbols; there are %s, also type, function and value for all that are such", kind, kindList())
		}
	}
	return nil
}

// kindList names the kinds that are asked for most.
func kindList() string {
	var names []string
	for _, k := range []facts.Kind{facts.Class, facts.Interface, facts.Struct, facts.Enum, facts.Function, facts.Method, facts.Field, facts.Variable, facts.Constant} {
		names = append(names, k.String())
	}
	return strings.Join(names, ", ")
}

func (s *Searcher) anyFile(holds func(path string) bool) bool {
	for f := range s.code.Listing().Files() {
		if holds(f.Path) {
			return true
		}
	}
	return false
}

// fillIn gives a filter what it needs to know from outside the query.
func (s *Searcher) fillIn(ctx context.Context, f *Filter) {
	if f.changed {
		f.isChanged = s.code.Changes(ctx)
	}
	if out := s.leftOut.Load(); out != nil && !f.all {
		f.exclude = append(f.exclude, *out...)
	}
}
