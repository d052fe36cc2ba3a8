package search

import (
	"context"
	"slices"
	"strings"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
)

// FileHit is a file that a query found, with the matched letters of its path.
type FileHit struct {
	Path  string
	Match fuzzy.Match
}

// more is how many hits are looked at beyond those wanted, since some gain by
// what was chosen before and some lose by where they are.
const more = 100

// widely is how many hits are looked at where a filter will drop some of them.
const widely = 20_000

// Files finds files by what one remembers of their paths; the best first, at
// most limit. Words such as in:dispatch narrow it; see ParseFilter.
func (s *Searcher) Files(ctx context.Context, query string, limit int) []FileHit {
	rest, filter := ParseFilter(query)
	s.fillIn(ctx, &filter)
	if rest == "" && !filter.Empty() {
		return s.allFiles(filter, limit)
	}
	q, ask := fuzzy.Parse(rest), limit+more
	if !filter.Empty() {
		ask = widely
	}
	paths := s.code.Listing().Paths()
	var hits []FileHit
	for _, h := range paths.Forgive(ctx, q, fuzzy.Whole, ask, paths.Search(ctx, q, fuzzy.Whole, ask)) {
		p, base := paths.Text(h.Index)
		if !filter.Path(p) || !filter.Wild(p) {
			continue
		}
		m, _ := q.Match(p, base)
		if hits = append(hits, FileHit{Path: p, Match: m}); len(hits) == limit+more {
			break
		}
	}
	settle(hits, func(h *FileHit) *fuzzy.Match { return &h.Match })
	return s.favourFiles(q, query, &filter, hits, limit)
}

// allFiles lists what gets through a filter where nothing else is asked for.
func (s *Searcher) allFiles(filter Filter, limit int) (hits []FileHit) {
	for f := range s.code.Listing().Files() {
		if filter.Path(f.Path) && filter.Wild(f.Path) {
			hits = append(hits, FileHit{Path: f.Path})
		}
	}
	slices.SortFunc(hits, func(a, b FileHit) int { return strings.Compare(a.Path, b.Path) })
	return hits[:min(len(hits), limit)]
}

// Symbols finds symbols by what one remembers of their names; the best first,
// at most limit. Words such as kind:method narrow it; see ParseFilter.
func (s *Searcher) Symbols(ctx context.Context, query string, limit int) []index.Hit {
	rest, filter := ParseFilter(query)
	s.fillIn(ctx, &filter)
	plain := qualified(rest)
	q, ask := fuzzy.Parse(plain), limit+more
	if !filter.Empty() {
		ask = widely
	}
	var hits []index.Hit
	search := s.code.Index().Search
	in := s.within(ctx, plain, limit)
	if len(in) > 0 {
		search = s.code.Index().SearchClean // there is nothing to forgive
	}
	in = slices.Concat(in, s.butForCapital(plain), s.declared(ctx, plain, limit), s.apart(ctx, plain))
	for _, h := range joined(search(ctx, q, ask), in) {
		if filter.Path(h.Path) && filter.Kind(h.Kind) && (filter.Wild(h.Qualified()) || filter.Wild(h.Path)) {
			if hits = append(hits, h); len(hits) == limit+more {
				break
			}
		}
	}
	settle(hits, func(h *index.Hit) *fuzzy.Match { return &h.Match })
	return s.favourSymbols(ctx, q, plain, query, &filter, hits, limit)
}

// settle is fuzzy.Settle for hits.
func settle[H any](hits []H, of func(*H) *fuzzy.Match) {
	matches := make([]*fuzzy.Match, len(hits))
	for i := range hits {
		matches[i] = of(&hits[i])
	}
	fuzzy.Settle(matches)
}

// otherCase is what counts against a name that has a small letter where a capital was typed.
const otherCase = 2

// butForCapital are the symbols of a name that begins with a small letter where a capital was typed.
func (s *Searcher) butForCapital(query string) (hits []index.Hit) {
	if query == "" || query[0] < 'A' || query[0] > 'Z' {
		return nil
	}
	name := strings.ToLower(query[:1]) + query[1:]
	q := fuzzy.Parse(name)
	for _, sym := range s.code.Index().Named(name) {
		if h, ok := s.code.Index().Match(q, sym.Path, sym.Qualified()); ok {
			h.Match.Score -= otherCase
			hits = append(hits, h)
		}
	}
	return hits
}

// asOne is what a name gains that was typed with blanks between its words, against those that have them here and there.
const asOne = 10

// mostApart is how many of them are looked for; those that are the words come before any that only begin with them.
const mostApart = 20

// apart are the symbols whose names are the words of a query.
func (s *Searcher) apart(ctx context.Context, query string) (hits []index.Hit) {
	words := strings.Fields(query)
	if len(words) < 2 || strings.ContainsAny(query, "./") {
		return nil
	}
	whole := strings.Join(words, "")
	for _, h := range s.code.Index().SearchClean(ctx, fuzzy.Parse(whole), mostApart) {
		if strings.EqualFold(unseparated.Replace(h.Name), whole) {
			h.Match.Score += asOne
			hits = append(hits, h)
		}
	}
	return hits
}

// declaring are the words with which code declares something, and the kinds for which they stand: one language's class is the
// struct of another.
var declaring = map[string]string{
	"class": "type", "struct": "type", "interface": "type", "enum": "type", "trait": "type", "type": "type", "union": "type",
	"func": "function", "function": "function", "fn": "function", "def": "function", "fun": "function", "method": "function",
	"const": "constant", "var": "variable", "macro": "macro", "namespace": "namespace", "module": "module",
}

// asDeclared is what a symbol gains whose kind was typed before its name, about as much as a word that is found in a name.
const asDeclared = 100

// declared finds what a query means that is written as code declares it: class Roster, func Assign.
func (s *Searcher) declared(ctx context.Context, query string, limit int) (hits []index.Hit) {
	word, name, ok := strings.Cut(query, " ")
	kind := declaring[word]
	if !ok || kind == "" || strings.Contains(name, " ") {
		return nil
	}
	of := Filter{kinds: []string{kind}}
	for _, h := range s.code.Index().SearchClean(ctx, fuzzy.Parse(name), limit+more) {
		if of.Kind(h.Kind) && h.Match.Close {
			h.Match.Score += asDeclared
			hits = append(hits, h)
		}
	}
	return hits
}

// qualified writes a query as symbols are kept, with dots between container
// and name.
func qualified(query string) string {
	return strings.NewReplacer("::", ".", "#", ".", "->", ".").Replace(query)
}

// AllSymbols returns the qualified names of all symbols.
func (s *Searcher) AllSymbols() []string { return s.code.Index().Names() }
