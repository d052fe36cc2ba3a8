package search

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/chosen"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
)

// KnowChoices makes files and symbols that were chosen before rank higher, as
// kept in a file. It is to be called before Read; what goes wrong is told in
// the notes.
func (s *Searcher) KnowChoices(file string) {
	book, err := chosen.Open(file)
	if err != nil {
		s.code.Note(err.Error())
	}
	s.choices = book
}

// Choose notes that a file, or the symbol of the qualified name in it, was
// chosen after typing the query.
func (s *Searcher) Choose(path, symbol, query string) error {
	if s.choices == nil {
		return nil
	}
	return s.choices.Choose(chosen.Key{Path: path, Symbol: symbol}, query, time.Now())
}

// favourFiles puts the files higher that were chosen before, and those lower
// that are seldom meant. Where the hits are
// only the best of many, those chosen before that match join them.
func (s *Searcher) favourFiles(q fuzzy.Query, query string, filter *Filter, hits []FileHit, limit int) []FileHit {
	if len(hits) >= limit && s.choices != nil {
		there := map[string]bool{}
		for _, h := range hits {
			there[h.Path] = true
		}
		for _, k := range s.choices.Keys() {
			if !s.code.Listing().IsFile(k.Path) || k.Symbol != "" || there[k.Path] || !filter.Path(k.Path) || !filter.Wild(k.Path) {
				continue
			}
			if m, ok := q.Match(k.Path, place.Base(k.Path)); ok && !m.Slip {
				hits = append(hits, FileHit{Path: k.Path, Match: m})
			}
		}
	}
	now := time.Now()
	for i := range hits {
		hits[i].Match.Score += s.worth(chosen.Key{Path: hits[i].Path}, query, now) - remoteness(hits[i].Path)
	}
	slices.SortStableFunc(hits, func(a, b FileHit) int { return byScore(a.Match, b.Match) })
	return hits[:min(len(hits), limit)]
}

// favourSymbols does for symbols what favourFiles does for files.
func (s *Searcher) favourSymbols(ctx context.Context, q fuzzy.Query, query string, filter *Filter, hits []index.Hit, limit int) []index.Hit {
	if ctx.Err() != nil {
		return hits
	}
	if len(hits) >= limit && s.choices != nil {
		there := map[chosen.Key]bool{}
		for _, h := range hits {
			there[chosen.Key{Path: h.Path, Symbol: h.Qualified()}] = true
		}
		for _, k := range s.choices.Keys() {
			if k.Symbol == "" || there[k] || !filter.Path(k.Path) {
				continue
			}
			if h, ok := s.code.Index().Match(q, k.Path, k.Symbol); ok && filter.Kind(h.Kind) {
				hits = append(hits, h)
			}
		}
	}
	now := time.Now()
	for i := range hits {
		hits[i].Match.Score += s.worth(chosen.Key{Path: hits[i].Path, Symbol: hits[i].Qualified()}, query, now) - remoteness(hits[i].Path) - unlikely(&hits[i].Symbol)
	}
	slices.SortStableFunc(hits, func(a, b index.Hit) int {
		return cmp.Or(byScore(a.Match, b.Match), cmp.Compare(rank(a.Kind), rank(b.Kind)), cmp.Compare(strings.Count(a.Path, "/"), strings.Count(b.Path, "/")))
	})
	return hits[:min(len(hits), limit)]
}

func (s *Searcher) worth(k chosen.Key, query string, now time.Time) int {
	if s.choices == nil {
		return 0
	}
	return s.choices.Worth(k, query, now)
}

// What counts against a file, in the points of package fuzzy: that it was
// written elsewhere or is but an example of code, or that it is a test. A
// single letter that fits better makes up for it.
const (
	notOurs  = 6
	testFile = 3
)

// noCode is what counts against a symbol that is none of code: there are many keys of configuration, and few are looked for.
const noCode = 8

// standsAside is what counts against a symbol that only declares what is written out elsewhere: enough to put it behind that.
const standsAside = 2

// rank orders what matches equally well: what has an inside first, then what is called, then what holds a value.
func rank(k facts.Kind) int {
	switch {
	case k.IsType():
		return 0
	case k.IsCallable():
		return 1
	}
	return 2
}

func unlikely(s *index.Symbol) int {
	switch s.Kind {
	case facts.Key, facts.Section, facts.ID, facts.Rule:
		return noCode
	}
	if s.Aside {
		return standsAside
	}
	return 0
}

// remoteness is what counts against a file.
func remoteness(path string) int {
	for folder := range strings.SplitSeq(path, "/") {
		switch folder {
		case "vendor", "third_party", "thirdparty", "external", "testdata", "fixtures", "bower_components":
			return notOurs
		}
	}
	if catalog.Set().IsInstalled(path) {
		return notOurs
	}
	if catalog.Set().IsTest(path) {
		return testFile
	}
	return 0
}

// byScore puts the better match first, and all with a slip behind the others.
func byScore(a, b fuzzy.Match) int {
	if a.Slip != b.Slip {
		if a.Slip {
			return 1
		}
		return -1
	}
	return cmp.Compare(b.Score, a.Score)
}
