package search

import (
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
)

// within finds symbols by a query whose one part is not about their names but
// about where they are: json.Marshal, or marshal json, is the Marshal in the
// folder json. Symbols do not say which package they belong to, in most
// languages their folder does.
func (s *Searcher) within(ctx context.Context, query string, limit int) (hits []index.Hit) {
	for _, split := range splits(query) {
		where := fuzzy.Parse(split.where)
		dotted := !strings.Contains(query, " ")
		folders, less := map[string]scored{}, notInName // most files share theirs
		if dotted {
			less = notContainer
		}
		found := s.code.Index().SearchIn(ctx, fuzzy.Parse(split.name), limit, func(file string) (int, bool) {
			folder := path.Dir(file)
			in, known := folders[folder]
			if !known {
				in = score(where, folder)
				in.score -= less
				folders[folder] = in
			}
			stem := score(where, strings.TrimSuffix(path.Base(file), path.Ext(file)))
			stem.score -= less
			if stem.ok && (!in.ok || stem.score > in.score) {
				in = stem
			}
			return in.score, in.ok
		})
		hits = append(hits, slices.DeleteFunc(found, func(h index.Hit) bool {
			in := h.Container[strings.LastIndexByte(h.Container, '.')+1:]
			return dotted && !strings.Contains(split.name, ".") && strings.EqualFold(in, split.where) // that is what was meant, wherever it lies
		})...)
	}
	return hits
}

// notContainer is what counts against a file or a folder whose name is typed in front of a dot: a type of that name is meant rather.
const notContainer = 8

// notInName is what counts against a word that is found in the name of a file or a folder: a name with all words in it is meant rather.
const notInName = 16

// scored is how well a query names a folder or a file.
type scored struct {
	score int
	ok    bool
}

func score(q fuzzy.Query, name string) scored {
	if name == "." {
		return scored{}
	}
	m, ok := q.MatchClosely(name, place.Base(name))
	return scored{m.Score, ok}
}

// split is a query taken apart into a name and where it is.
type split struct{ where, name string }

func splits(query string) []split {
	words := strings.Fields(query)
	if len(words) == 1 {
		where, name, ok := strings.Cut(words[0], ".")
		if !ok || where == "" || name == "" {
			return nil
		}
		return []split{{where, name}}
	}
	if len(words) < 2 {
		return nil
	}
	last := len(words) - 1
	return []split{{words[0], strings.Join(words[1:], " ")}, {words[last], strings.Join(words[:last], " ")}}
}

// joined puts two lists of hits together, the better of each symbol first.
func joined(a, b []index.Hit) []index.Hit {
	if len(b) == 0 {
		return a
	}
	all := append(slices.Clone(a), b...)
	slices.SortStableFunc(all, func(x, y index.Hit) int { return byScore(x.Match, y.Match) })
	type key struct {
		path   string
		offset int
	}
	seen := map[key]bool{}
	return slices.DeleteFunc(all, func(h index.Hit) bool {
		k := key{h.Path, h.Offset}
		was := seen[k]
		seen[k] = true
		return was
	})
}
