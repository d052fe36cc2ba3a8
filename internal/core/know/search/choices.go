package search

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"path"
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
		if joinedUp(stem(hits[i].Path), query) {
			hits[i].Match.Score += asOne
		}
	}
	slices.SortStableFunc(hits, func(a, b FileHit) int { return byScore(a.Match, b.Match) })
	weigh(hits, func(h *FileHit) *fuzzy.Match { return &h.Match }, func(h *FileHit) (string, int64) { return stem(h.Path), s.size(h.Path) }, 2)
	return hits[:min(len(hits), limit)]
}

// favourSymbols does for symbols what favourFiles does for files; plain is the query without what narrows it.
func (s *Searcher) favourSymbols(ctx context.Context, q fuzzy.Query, plain, query string, filter *Filter, hits []index.Hit, limit int) []index.Hit {
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
		if typedSo(hits[i].Name, plain) {
			hits[i].Match.Score += asTyped
		}
		if joinedUp(hits[i].Name, plain) {
			hits[i].Match.Score += asOne
		}
		hits[i].Match.Score += s.worth(chosen.Key{Path: hits[i].Path, Symbol: hits[i].Qualified()}, query, now) - remoteness(hits[i].Path) - unlikely(&hits[i].Symbol)
	}
	slices.SortStableFunc(hits, func(a, b index.Hit) int {
		return cmp.Or(byScore(a.Match, b.Match), cmp.Compare(rank(a.Kind), rank(b.Kind)), cmp.Compare(strings.Count(a.Path, "/"), strings.Count(b.Path, "/")))
	})
	weigh(hits, func(h *index.Hit) *fuzzy.Match { return &h.Match }, func(h *index.Hit) (string, int64) {
		return fmt.Sprint(rank(h.Kind), h.Aside, h.Name), s.size(h.Path)
	}, 1)
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

// mostTwice is how often a file may be twice as long as another for that to count.
const mostTwice = 3

// weigh changes the order of those of several hits, the best first, that are called alike and match about as well: behind go
// those in shorter files of code, by some points each time that one is half as long as the longest. Few mean the one that is
// nearly empty, such as the header beside what is written out, or the main.go that only calls the rest.
// Of says of a hit what it is called, and how long its file is, 0 for no code.
func weigh[H any](hits []H, match func(*H) *fuzzy.Match, of func(*H) (name string, size int64), points int) {
	alike := map[string][]int{}
	sizes := make([]int64, len(hits))
	for i := range hits {
		if name, size := of(&hits[i]); size > 0 && !match(&hits[i]).Slip {
			alike[name], sizes[i] = append(alike[name], i), size
		}
	}
	for _, places := range alike {
		if len(places) > 1 {
			reorder(hits, places, sizes, match, points)
		}
	}
}

// reorder puts the hits at some places into the order of their scores less what their files are too short. The places keep
// their scores.
func reorder[H any](hits []H, places []int, sizes []int64, match func(*H) *fuzzy.Match, points int) {
	longest := int64(0)
	for _, i := range places {
		longest = max(longest, sizes[i])
	}
	type one struct {
		hit          H
		score, worth int
	}
	all := make([]one, len(places))
	for n, i := range places {
		shorter := min(math.Log2(float64(longest)/float64(sizes[i])), mostTwice)
		score := match(&hits[i]).Score
		all[n] = one{hits[i], score, score - int(shorter*float64(points))}
	}
	order := slices.Clone(all)
	slices.SortStableFunc(order, func(a, b one) int { return cmp.Compare(b.worth, a.worth) })
	for n, i := range places {
		hits[i] = order[n].hit
		match(&hits[i]).Score = all[n].score
	}
}

// stem is the name of a file without its ending, in small letters.
func stem(file string) string {
	return strings.ToLower(strings.TrimSuffix(path.Base(file), path.Ext(file)))
}

// size is how long a file of code is, in bytes; 0 for any other, for those of others, of tests, and that are generated.
func (s *Searcher) size(path string) int64 {
	f, ok := s.code.Listing().File(path)
	if l := catalog.Set().Of(path); !ok || l == nil || !l.Code.Is() || remoteness(path) > 0 || catalog.Set().IsGenerated(path, nil) {
		return 0
	}
	return f.Size
}

// asTyped is what a name gains that has the very capitals that were typed, more than another one can by where its words begin.
const asTyped = 8

// typedSo says whether a name is a query, with its capitals.
func typedSo(name, query string) bool { return name == query && strings.ToLower(query) != query }

// joinedUp says whether a name is a query but for what stands between its words.
func joinedUp(name, query string) bool {
	return len(name) > len(query) && strings.EqualFold(unseparated.Replace(name), query)
}

// unseparated takes away what stands between the words of a name.
var unseparated = strings.NewReplacer("_", "", "-", "")

// remoteness is what counts against a file.
func remoteness(path string) int {
	for folder := range strings.SplitSeq(path, "/") {
		switch folder {
		case "vendor", "third_party", "thirdparty", "external", "testdata", "fixtures", "bower_components", "dist":
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
