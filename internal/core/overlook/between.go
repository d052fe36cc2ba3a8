package overlook

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/know/answer"
)

// Bounds of looking for ways from one function to another: calls one after the other, functions asked about, and ways
// that are told in words.
const (
	deepestWay = 12
	mostAsked  = 2500
	mostTold   = 8
)

// web are functions and the calls between them, by their IDs.
type web struct {
	of    map[string]answer.Answer
	calls map[string]map[string]found // by caller and called
}

func (w *web) add(from, to answer.Answer, f found) {
	a, b := idOf(from.Path, from.At.Start), idOf(to.Path, to.At.Start)
	w.of[a], w.of[b] = from, to
	if w.calls[a] == nil {
		w.calls[a] = map[string]found{}
	}
	if old, ok := w.calls[a][b]; !ok || old.look != draw.Usual {
		w.calls[a][b] = f
	}
}

// between draws all ways by which one function reaches another. They are looked for from both ends, one step at a time
// at that end where there is less to ask about.
func (s *sketch) between(from answer.Answer) error {
	to, err := s.subject(s.asked.To.Path, s.asked.To.Offset)
	if err != nil {
		return err
	}
	if !to.Kind.IsCallable() {
		return fmt.Errorf("%s is a %s, which is not called", called(&to), to.Kind)
	}
	w := &web{map[string]answer.Answer{}, map[string]map[string]found{}}
	start, end := idOf(from.Path, from.At.Start), idOf(to.Path, to.At.Start)
	w.of[start], w.of[end] = from, to
	out, in := []answer.Answer{from}, []answer.Answer{to}
	seenOut, seenIn := map[string]bool{start: true}, map[string]bool{end: true}
	asked, depth := 0, s.asked.Reach()
	steps := 0
	for ; steps < depth && len(out) > 0 && len(in) > 0 && asked < mostAsked && s.ctx.Err() == nil; steps++ {
		if len(out) <= len(in) {
			asked += len(out)
			out = s.onward(w, out, seenOut, answer.ToCalled)
		} else {
			asked += len(in)
			in = s.onward(w, in, seenIn, answer.ToCallers)
		}
	}
	kept := w.through(start, end)
	s.scene.Title = fmt.Sprintf("How %s reaches %s", called(&from), called(&to))
	if !kept[start] || !kept[end] {
		if asked >= mostAsked || steps >= depth {
			return fmt.Errorf("%s was not found to reach %s within %d calls, of %d functions that were looked at", called(&from), called(&to), steps, asked)
		}
		return fmt.Errorf("%s does not reach %s by any call that is known", called(&from), called(&to))
	}
	s.drawWeb(w, kept, start, end)
	if asked >= mostAsked || steps >= depth {
		s.scene.Notes = append(s.scene.Notes, fmt.Sprintf("There may be longer ways: looked for up to %d calls, at %d functions.", steps, asked))
	}
	return nil
}

// onward takes one step from all of a front; what it finds that was not seen before is the next one.
func (s *sketch) onward(w *web, front []answer.Answer, seen map[string]bool, way answer.Way) (further []answer.Answer) {
	for _, a := range front {
		if s.ctx.Err() != nil {
			return nil
		}
		for _, f := range s.keep(s.ask(way, a)) {
			if way == answer.ToCalled {
				w.add(a, f.Answer, f)
			} else {
				w.add(f.Answer, a, f)
			}
			if id := idOf(f.Path, f.At.Start); !seen[id] && !path.IsAbs(f.Path) {
				seen[id] = true
				further = append(further, f.Answer)
			}
		}
	}
	return further
}

// through are the functions on a way from one to another.
func (w *web) through(start, end string) map[string]bool {
	back := map[string][]string{}
	for a, all := range w.calls {
		for b := range all {
			back[b] = append(back[b], a)
		}
	}
	reached := reach(start, func(id string) (all []string) {
		for b := range w.calls[id] {
			all = append(all, b)
		}
		return all
	})
	kept := map[string]bool{}
	for id := range reach(end, func(id string) []string { return back[id] }) {
		if reached[id] {
			kept[id] = true
		}
	}
	return kept
}

func reach(from string, next func(string) []string) map[string]bool {
	seen := map[string]bool{from: true}
	for queue := []string{from}; len(queue) > 0; queue = queue[1:] {
		for _, id := range next(queue[0]) {
			if !seen[id] {
				seen[id] = true
				queue = append(queue, id)
			}
		}
	}
	return seen
}

// drawWeb draws the functions that were kept, those on the shortest way first, and tells the shortest ways.
func (s *sketch) drawWeb(w *web, kept map[string]bool, start, end string) {
	ways := w.ways(kept, start, end)
	var order []string
	for _, way := range ways {
		order = append(order, way...)
	}
	rest := make([]string, 0, len(kept))
	for id := range kept {
		rest = append(rest, id)
	}
	slices.Sort(rest)
	for _, id := range append(order, rest...) {
		a := w.of[id]
		b := s.boxOf(&a)
		if id == start || id == end {
			b.Look = draw.Present
		}
		s.box(b)
	}
	shortest := map[[2]string]bool{}
	for i := 1; len(ways) > 0 && i < len(ways[0]); i++ {
		shortest[[2]string{ways[0][i-1], ways[0][i]}] = true
	}
	for _, a := range append(order, rest...) {
		from, ok := s.index[a]
		for _, b := range sortedKeys(w.calls[a]) {
			if to, there := s.index[b]; ok && there && kept[b] {
				f := w.calls[a][b]
				if shortest[[2]string{a, b}] && f.look == draw.Usual {
					f.look = draw.Marked
				}
				s.line(from, to, f.look, f.label)
			}
		}
	}
	for i, way := range ways {
		names := make([]string, len(way))
		for k, id := range way {
			a := w.of[id]
			names[k] = called(&a)
		}
		s.scene.Notes = append(s.scene.Notes, fmt.Sprintf("%d. %s", i+1, strings.Join(names, " → ")))
	}
	s.means(draw.Present, false, "from and to")
	s.means(draw.Marked, true, "the shortest way")
	s.means(draw.Indirect, true, "through an interface or a type above")
}

func sortedKeys(m map[string]found) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// ways are the shortest ways from one function to another that go by none twice, the shortest first.
func (w *web) ways(kept map[string]bool, start, end string) (ways [][]string) {
	const patience = 20000
	queue := [][]string{{start}}
	for tried := 0; len(queue) > 0 && len(ways) < mostTold && tried < patience; tried++ {
		way := queue[0]
		queue = queue[1:]
		last := way[len(way)-1]
		if last == end && len(way) > 1 || start == end && len(way) == 1 && tried > 0 {
			ways = append(ways, way)
			continue
		}
		for _, b := range sortedKeys(w.calls[last]) {
			if kept[b] && (!slices.Contains(way, b) || b == end && start == end) {
				queue = append(queue, append(slices.Clone(way), b))
			}
		}
	}
	return ways
}
