package tests

import (
	"cmp"
	"context"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/report"
)

// Became is what became of a test when it was last run.
type Became struct {
	report.Result
	// When it was run.
	When time.Time
	// at is the place where it failed, "" for its path if that is not known, or it did not.
	at place.Memory
}

// Book keeps what became of tests. It may be used by several goroutines.
type Book struct {
	finder *Finder
	lists  *lists.Keeper

	mu    sync.Mutex
	by    map[string]map[string]*Became // by file, and the names of the test
	state int
	// failed are the places at which tests failed, by file, as they were in a state; see failuresIn.
	failed   map[string][]sweep.Item
	failedOf int
	// covers are the lines that tests have run, by file; nil if that is not known.
	covers map[string]*covered
}

// NewBook makes one; lists finds the places that failures name.
func NewBook(finder *Finder, keeper *lists.Keeper) *Book {
	return &Book{finder: finder, lists: keeper, by: map[string]map[string]*Became{}}
}

const between = "\x00"

// Take takes in the results of a job. It gives those for which no test was found in its files.
func (b *Book) Take(ctx context.Context, j Job, results []report.Result) (unknown []report.Result) {
	index := b.index(ctx, j.Files)
	now := time.Now()
	fresh := map[*Became]bool{}
	for i := range results {
		r := &results[i]
		t := index.find(r)
		if t == nil {
			unknown = append(unknown, *r)
			continue
		}
		became := &Became{Result: *r, When: now}
		if r.Outcome == report.Failed {
			at := b.lists.Failure(j.Dir, b.at(r, t))
			if at.Path == "" {
				at = place.Place{Path: t.Path, Line: t.Line, Col: 1}
			}
			became.at = place.Remember(b.lists.Anchor(ctx, at))
		}
		b.mu.Lock()
		of := b.by[t.Path]
		if of == nil {
			of = map[string]*Became{}
			b.by[t.Path] = of
		}
		key := strings.Join(t.Names, between)
		if was := of[key]; was == nil || !fresh[was] || was.Outcome != report.Failed { // of several with other parameters, one that failed counts
			of[key] = became
			fresh[became] = true
		}
		b.state++
		b.mu.Unlock()
	}
	return unknown
}

// at is a result with the file of its test, if it does not say that itself.
func (b *Book) at(r *report.Result, t *Test) *report.Result {
	with := *r
	if _, ok := b.lists.FileOf(".", "", with.File); !ok || with.File == "" {
		with.File, with.Suite = t.Path, ""
		if with.Line == 0 {
			with.Line = t.Line
		}
	}
	return &with
}

// State is another number whenever something has become of a test.
func (b *Book) State() int {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.state
}

// Of is what became of the tests of a file, by the offsets of their names; a test that holds others that failed has failed.
func (b *Book) Of(file *codebase.File) map[uint32]Became {
	b.mu.Lock()
	known := len(b.by[file.Path]) > 0
	b.mu.Unlock()
	if !known {
		return nil
	}
	all := map[uint32]Became{}
	for _, t := range b.finder.In(file) {
		b.mu.Lock()
		became := b.by[file.Path][strings.Join(t.Names, between)]
		b.mu.Unlock()
		if became != nil {
			all[t.At.Start] = *became
		}
	}
	return all
}

// Failed are the tests that failed when they were last run, as far as they are still there.
func (b *Book) Failed(ctx context.Context) (all []Test) {
	b.mu.Lock()
	failed := map[string][]string{}
	for p, of := range b.by {
		for key, became := range of {
			if became.Outcome == report.Failed {
				failed[p] = append(failed[p], key)
			}
		}
	}
	b.mu.Unlock()
	for p, keys := range failed {
		file, err := b.finder.code.Load(ctx, p)
		if err != nil {
			continue // it is gone
		}
		for _, t := range b.finder.In(file) {
			if slices.Contains(keys, strings.Join(t.Names, between)) {
				all = append(all, t)
			}
		}
	}
	slices.SortFunc(all, func(a, b Test) int {
		if c := strings.Compare(a.Path, b.Path); c != 0 {
			return c
		}
		return a.Line - b.Line
	})
	return withoutOuter(all)
}

// withoutOuter leaves out tests that hold others of the list.
func withoutOuter(all []Test) (left []Test) {
	for i, t := range all {
		holds := slices.ContainsFunc(all, func(o Test) bool {
			return o.Path == t.Path && len(o.Names) > len(t.Names) && slices.Equal(o.Names[:len(t.Names)], t.Names)
		})
		if !holds {
			left = append(left, all[i])
		}
	}
	return left
}

// Failures are the places at which tests failed when they were last run, in the order of the files; of those that hold others, only
// these.
func (b *Book) Failures() (all []sweep.Item) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for _, of := range b.by {
		for key, became := range of {
			if became.Outcome != report.Failed || holdsFailed(of, key) {
				continue
			}
			names := strings.Split(key, between)
			note := names[len(names)-1] + ": " + became.Why()
			all = append(all, sweep.Item{Memory: became.at, Role: "test", Note: note, In: became.at.Symbol})
		}
	}
	slices.SortFunc(all, func(a, b sweep.Item) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), cmp.Compare(a.Line, b.Line), strings.Compare(a.Note, b.Note))
	})
	return all
}

// holdsFailed says whether a test holds others that failed.
func holdsFailed(of map[string]*Became, key string) bool {
	for other, became := range of {
		if became.Outcome == report.Failed && strings.HasPrefix(other, key+between) {
			return true
		}
	}
	return false
}

// FailuresIn are the places of a file, as it is now, at which tests failed when they were last run.
func (b *Book) FailuresIn(ctx context.Context, f *codebase.File) (all []sweep.Item) {
	if all = b.failuresIn(f.Path); len(all) == 0 {
		return nil
	}
	memories := make([]*place.Memory, len(all))
	for i := range all {
		memories[i] = &all[i].Memory
	}
	for i, fate := range lists.RecallAll(ctx, f, memories) {
		all[i].Fate = fate
	}
	return slices.DeleteFunc(all, func(it sweep.Item) bool { return it.Fate == place.Gone })
}

// failuresIn are the places of a file at which tests failed, as they stood then.
func (b *Book) failuresIn(path string) []sweep.Item {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.failed == nil || b.failedOf != b.state {
		b.failed, b.failedOf = map[string][]sweep.Item{}, b.state
		for _, of := range b.by {
			for key, became := range of {
				if became.Outcome == report.Failed && !holdsFailed(of, key) {
					p := became.at.Path
					b.failed[p] = append(b.failed[p], sweep.Item{Memory: became.at, Role: became.Title(), By: "a test,", Note: became.Why()})
				}
			}
		}
	}
	return slices.Clone(b.failed[path])
}

// index are the tests of some files by their own names.
type index map[string][]*Test

func (b *Book) index(ctx context.Context, files []string) index {
	all := index{}
	for _, p := range files {
		file, err := b.finder.code.Load(ctx, p)
		if err != nil {
			continue // it is gone
		}
		for _, t := range b.finder.In(file) {
			name := plain(t.Names[len(t.Names)-1])
			all[name] = append(all[name], &t)
		}
	}
	return all
}

// plain is the name of a test without its parameters, as a runner writes it.
func plain(name string) string {
	if i := strings.IndexAny(name, "[("); i > 0 {
		name = name[:i]
	}
	return strings.ReplaceAll(strings.TrimSpace(name), " ", "_")
}

// find is the test that a result is about: the one of its name with the most in common.
func (x index) find(r *report.Result) (best *Test) {
	if len(r.Name) == 0 {
		return nil
	}
	last := r.Name[len(r.Name)-1]
	candidates := x[plain(last)]
	if whole := x[strings.ReplaceAll(last, " ", "_")]; len(whole) > 0 {
		candidates = whole
	}
	most := 0
	for _, t := range candidates {
		if score := common(r, t); score > most {
			best, most = t, score
		}
	}
	return best
}

// common is how much a result and a test have in common; 0 if it is another one.
func common(r *report.Result, t *Test) int {
	score := 1
	around := append(strings.FieldsFunc(r.Suite, func(c rune) bool { return c == '.' || c == '/' || c == '$' || c == ':' }), r.Name[:len(r.Name)-1]...)
	for i, n := 1, len(t.Names)-1; i <= n; i++ {
		if i > len(around) {
			break
		}
		if plain(around[len(around)-i]) != plain(t.Names[n-i]) {
			break
		}
		score += 10
	}
	if len(r.Name) > len(t.Names) && len(r.Suite) == 0 && len(t.Names) == 1 {
		score-- // it stands in others there
	}
	if r.File != "" && (r.File == t.Path || strings.HasSuffix(r.File, "/"+t.Path) || strings.HasSuffix(t.Path, "/"+r.File)) {
		score += 50
	}
	stem := strings.TrimSuffix(path.Base(t.Path), path.Ext(t.Path))
	if slices.Contains(around, stem) {
		score += 5
	}
	if dir := path.Base(path.Dir(t.Path)); slices.Contains(around, dir) {
		score += 3
	}
	return score
}
