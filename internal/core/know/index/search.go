package index

import (
	"context"
	"math"

	"rooktrail/internal/core/know/fuzzy"
)

// Hit is a symbol that a query found, with the matched letters of its
// qualified name.
type Hit struct {
	Symbol
	Match fuzzy.Match
}

// Search returns the best hits for a query, best first, at most limit. A query
// that is one plain word is looked for in the names themselves, and in
// qualified names only if that finds nothing. Only where few are found are
// slips forgiven.
func (x *Index) Search(ctx context.Context, q fuzzy.Query, limit int) []Hit {
	return x.search(ctx, q, limit, true)
}

// SearchClean is Search without forgiving a slip.
func (x *Index) SearchClean(ctx context.Context, q fuzzy.Query, limit int) []Hit {
	return x.search(ctx, q, limit, false)
}

// scopeOf is how much of each name a query has something to say about.
func scopeOf(q fuzzy.Query) fuzzy.Scope {
	if q.Reaches() {
		return fuzzy.Whole
	}
	return fuzzy.Bases
}

// corpora are the names in memory, and then those of each layer.
func (x *Index) corpora() fuzzy.Corpora {
	all := fuzzy.Corpora{&x.memory.corpus}
	for _, l := range x.layers {
		all = append(all, l.corpus)
	}
	return all
}

// fileOf is the number of the file of a symbol among those of its layer, or in memory; ok is false if that is gone.
func (x *Index) fileOf(of, id int) (file int, ok bool) {
	if of == 0 {
		file = int(x.memory.entries[id].file)
		return file, file != gone
	}
	l := x.layers[of-1]
	p, ok := l.place(id)
	return int(p.file), ok && l.live.has(int(p.file))
}

func (x *Index) search(ctx context.Context, q fuzzy.Query, limit int, forgive bool) []Hit {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	scope := scopeOf(q)
	all := x.corpora()
	keep := func(of, id int) bool {
		_, ok := x.fileOf(of, id)
		return ok
	}
	found := x.narrowed[scope].Search(ctx, all, q, scope, limit, keep)
	if len(found) == 0 && scope == fuzzy.Bases {
		found = x.narrowed[fuzzy.Whole].Search(ctx, all, q, fuzzy.Whole, limit, keep)
	}
	if forgive {
		found = all.Forgive(ctx, q, scope, limit, found, keep)
	}
	hits := make([]Hit, 0, len(found))
	for _, h := range found {
		if hit, ok := x.hit(q, h); ok {
			hits = append(hits, hit)
		}
	}
	return hits
}

// unwanted is what is noted of a file that a filter does not want.
const unwanted = math.MinInt32

// SearchIn returns the best hits for a query among the symbols of the files
// that where gives a score for, which is added to that of the hits; at most
// limit. A query that is one plain word is looked for in the names themselves. Where is asked for one file after the other.
func (x *Index) SearchIn(ctx context.Context, q fuzzy.Query, limit int, where func(path string) (score int, ok bool)) []Hit {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	scores, left := x.filtered(ctx, where)
	found := x.corpora().SearchAmong(ctx, q, scopeOf(q), limit, func(of, id int) bool {
		file, ok := x.fileOf(of, id)
		return ok && scores[of][file] != unwanted
	}, left)
	var hits []Hit
	for _, h := range found {
		if hit, ok := x.hit(q, h); ok {
			file, _ := x.fileOf(h.Of, h.Index)
			hit.Match.Score += int(scores[h.Of][file])
			hits = append(hits, hit)
		}
	}
	return hits
}

// fewWanted is of how many symbols no more than one must be in a file that is wanted for these to be gathered first: names that
// match are everywhere.
const fewWanted = 4

// filtered asks about all files; it gives back their scores, by corpus, and where few are wanted their symbols, one bit each.
func (x *Index) filtered(ctx context.Context, where func(path string) (score int, ok bool)) (scores [][]int32, left [][]uint64) {
	ask := func(path string) int32 {
		if score, ok := where(path); ok {
			return int32(score)
		}
		return unwanted
	}
	of := make([]int32, len(x.memory.paths))
	for f, p := range x.memory.paths {
		of[f] = ask(p)
	}
	scores, left = append(scores, of), append(left, nil)
	for _, l := range x.layers {
		of, symbols := make([]int32, l.files), 0
		for f := range of {
			if of[f] = unwanted; !l.live.has(f) || ctx.Err() != nil {
				continue
			}
			if of[f] = ask(l.path(f)); of[f] != unwanted {
				symbols += l.record(f).count
			}
		}
		var some []uint64
		if symbols <= l.symbols/fewWanted {
			some = fuzzy.NewLeft(l.symbols)
			for f := range of {
				if of[f] != unwanted {
					l.in(f, func(id int) { some[id/64] |= 1 << (id % 64) })
				}
			}
		}
		scores, left = append(scores, of), append(left, some)
	}
	return scores, left
}

// symbol is that of a number among those of a layer, or in memory.
func (x *Index) symbol(of, id int) (Symbol, bool) {
	if of == 0 {
		return x.memory.symbol(id), true
	}
	return x.layers[of-1].symbol(id)
}

func (x *Index) hit(q fuzzy.Query, h fuzzy.Hit) (Hit, bool) {
	s, ok := x.symbol(h.Of, h.Index)
	m, _ := q.Match(s.Qualified(), len(s.Qualified())-len(s.Name))
	m.Score, m.Slip = h.Score, h.Slip
	return Hit{Symbol: s, Match: m}, ok
}

// Match returns the symbol of a qualified name in a file as a hit for a query,
// scored as Search does; ok is false if it is not there or does not match.
func (x *Index) Match(q fuzzy.Query, path, qualified string) (hit Hit, ok bool) {
	x.mu.RLock()
	defer x.mu.RUnlock()
	defer x.guard()()
	of, id, ok := x.whereIs(path, qualified)
	if !ok {
		return Hit{}, false
	}
	score, ok := x.corpora()[of].One(q, scopeOf(q), id)
	if !ok {
		return Hit{}, false
	}
	return x.hit(q, fuzzy.Hit{Of: of, Index: id, Score: score})
}

// whereIs is the number of the first symbol of a qualified name in a file.
func (x *Index) whereIs(path, qualified string) (of, id int, ok bool) {
	if f := x.memory.files[path]; f != nil {
		for id := int(f.first); id < int(f.first+f.size); id++ {
			if text, _ := x.memory.corpus.Text(id); text == qualified {
				return 0, id, true
			}
		}
		return 0, 0, false
	}
	for n, l := range x.layers {
		file, live := l.of(path)
		if !live {
			continue
		}
		l.in(file, func(at int) {
			if front, base, sound := l.text(at); sound && !ok && string(front)+string(base) == qualified {
				of, id, ok = n+1, at, true
			}
		})
	}
	return of, id, ok
}
