package workspace

import (
	"context"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/index"
)

// within finds symbols by a query whose one part is not about their names but
// about where they are: json.Marshal, or marshal json, is the Marshal in the
// folder json. Symbols do not say which package they belong to, in most
// languages their folder does.
func (w *Workspace) within(ctx context.Context, query string) (hits []index.Hit) {
	for _, split := range splits(query) {
		where := fuzzy.Parse(split.where)
		for _, h := range w.symbols.Search(ctx, fuzzy.Parse(split.name), mostWithin) {
			if h.Match.Slip {
				continue
			}
			if score, ok := inFolder(where, h.Path); ok {
				h.Match.Score += score
				hits = append(hits, h)
			}
		}
	}
	return hits
}

// mostWithin is how many symbols of the right name are looked at.
const mostWithin = 3000

// inFolder scores how well a query names a folder that a file lies in, or the
// file itself without its extension: the nearest counts.
func inFolder(q fuzzy.Query, file string) (score int, ok bool) {
	stem := strings.TrimSuffix(file, path.Ext(file))
	for _, at := range []string{path.Dir(file), stem} {
		if at == "." {
			continue
		}
		m, matches := q.Match(at, baseOf(at))
		if matches && m.Close && (!ok || m.Score > score) {
			score, ok = m.Score, true
		}
	}
	return score, ok
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
