package draw

import (
	"cmp"
	"container/heap"
	"slices"
)

// graph is a scene on its way to a picture: items in layers, and arcs from each layer to the next.
//
// It is laid out in layers, after Sugiyama, Tagawa and Toda (1981): arcs that go in circles are turned round, each item
// gets a layer, items are ordered within their layers so that few arcs cross, and each gets a place. An arc over several
// layers goes through an item without size in each; those that begin at one box share these items, so that they go
// along as one line until their ways part.
type graph struct {
	items  []item
	layers [][]int // items in their order
	// lanes is how many groups there are, each of which has its own part of every layer; at least 1.
	lanes int
}

// item is a box, or a line on its way through a layer.
type item struct {
	box   int // -1 for a line on its way
	layer int
	lane  int
	// size is how much room it takes across the layers, gap how much is left free behind it.
	size, gap int
	at        int // where it begins, across the layers
	ins, outs []arc
	bundle    int
}

// arc leads to or from another item; it belongs to some lines.
type arc struct{ item, bundle int }

// port is where lines come to an item, across the layers.
func (it *item) port() int { return it.at + (it.size-1)/2 }

// link is a line of the scene in the direction of the layers.
type link struct {
	from, to int // boxes
	back     bool
	lines    []int
	path     []int // items
	bundle   int
	weight   int
}

// links are the lines without circles: those that lead to their own box are left out, those that go together are one.
func links(s *Scene) (all []link, layer []int) {
	index := map[[2]int]int{}
	for i, l := range s.Lines {
		if l.From == l.To {
			continue
		}
		k := [2]int{l.From, l.To}
		if at, ok := index[k]; ok {
			all[at].lines = append(all[at].lines, i)
			continue
		}
		index[k] = len(all)
		all = append(all, link{from: l.From, to: l.To, lines: []int{i}, weight: 1})
	}
	fixed := slices.ContainsFunc(s.Boxes, func(b Box) bool { return b.Layer >= 0 })
	if fixed {
		layer = make([]int, len(s.Boxes))
		for i := range s.Boxes {
			layer[i] = max(s.Boxes[i].Layer, 0)
		}
		for i := range all {
			if layer[all[i].from] > layer[all[i].to] {
				all[i].turn()
			}
		}
		return all, layer
	}
	turnCircles(len(s.Boxes), all)
	return all, layered(len(s.Boxes), all)
}

func (l *link) turn() { l.from, l.to, l.back = l.to, l.from, !l.back }

// turnCircles turns links round until none go in a circle, few of them: within each circle, the order after Eades, Lin
// and Smyth (1993), which takes sinks to the end, sources to the beginning, and else what has the most going out.
func turnCircles(n int, all []link) {
	part := Circles(n, func(yield func(from, to int)) {
		for i := range all {
			yield(all[i].from, all[i].to)
		}
	})
	ins, outs, inside := make([][]pull, n), make([][]pull, n), make([][]int, n)
	for i := range all {
		if l := &all[i]; part[l.from] == part[l.to] {
			outs[l.from] = append(outs[l.from], pull{l.to, l.weight})
			ins[l.to] = append(ins[l.to], pull{l.from, l.weight})
		}
	}
	for v := range n {
		inside[part[v]] = append(inside[part[v]], v)
	}
	position := make([]int, n)
	for _, circle := range inside {
		if len(circle) > 1 {
			for i, v := range sequence(circle, ins, outs) {
				position[v] = i
			}
		}
	}
	for i := range all {
		if l := &all[i]; part[l.from] == part[l.to] && position[l.from] > position[l.to] {
			l.turn()
		}
	}
}

// pull is a link to another node, as heavy as it is.
type pull struct{ to, weight int }

// sequence orders the nodes of a circle so that few links go backwards, and light ones.
func sequence(circle []int, ins, outs [][]pull) []int {
	in, out, gone := map[int]int{}, map[int]int{}, map[int]bool{}
	left := ranking{last: map[int]int{}}
	put := func(v int) { left.put(v, out[v]-in[v]) }
	for _, v := range circle {
		for _, l := range ins[v] {
			in[v] += l.weight
		}
		for _, l := range outs[v] {
			out[v] += l.weight
		}
	}
	for _, v := range circle {
		put(v)
	}
	var front, end, sinks []int
	take := func(v int) {
		gone[v] = true
		for _, l := range outs[v] {
			if in[l.to] -= l.weight; !gone[l.to] {
				put(l.to)
			}
		}
		for _, l := range ins[v] {
			if out[l.to] -= l.weight; !gone[l.to] {
				if put(l.to); out[l.to] == 0 {
					sinks = append(sinks, l.to)
				}
			}
		}
	}
	for len(front)+len(end) < len(circle) {
		if k := len(sinks); k > 0 {
			v := sinks[k-1]
			sinks = sinks[:k-1]
			if !gone[v] {
				end = append(end, v)
				take(v)
			}
			continue
		}
		v := left.take()
		if gone[v] {
			continue
		}
		front = append(front, v)
		take(v)
	}
	slices.Reverse(end)
	return append(front, end...)
}

// Levels says how high each of n nodes stands above those that it leads to, of which the lowest stand at 0. Where edges go
// in circles, few of them, and those of little weight, lead upwards.
func Levels(n int, edges func(yield func(from, to, weight int))) (level []int) {
	var all []link
	edges(func(from, to, weight int) {
		if from != to {
			all = append(all, link{from: from, to: to, weight: weight})
		}
	})
	turnCircles(n, all)
	for i := range all { // from the bottom up
		all[i].from, all[i].to = all[i].to, all[i].from
	}
	return deepest(n, all)
}

// Circles says of each of n nodes which circle it is in: two are in the same if each can be reached from the other
// (Tarjan 1972). The numbers of circles count from 0; what each leads to has a lower one.
func Circles(n int, edges func(yield func(from, to int))) (part []int) {
	out := make([][]int, n)
	edges(func(from, to int) { out[from] = append(out[from], to) })
	part = make([]int, n)
	low, num := make([]int, n), make([]int, n)
	var open []int
	next, parts := 0, 0
	type visit struct{ v, i int }
	for root := range n {
		if num[root] != 0 {
			continue
		}
		stack := []visit{{root, 0}}
		for len(stack) > 0 {
			top := &stack[len(stack)-1]
			v := top.v
			if top.i == 0 {
				next++
				num[v], low[v] = next, next
				open = append(open, v)
				part[v] = -1
			}
			if top.i < len(out[v]) {
				w := out[v][top.i]
				top.i++
				switch {
				case num[w] == 0:
					stack = append(stack, visit{w, 0})
				case part[w] == -1:
					low[v] = min(low[v], num[w])
				}
				continue
			}
			stack = stack[:len(stack)-1]
			if len(stack) > 0 {
				up := stack[len(stack)-1].v
				low[up] = min(low[up], low[v])
			}
			if low[v] == num[v] {
				for {
					w := open[len(open)-1]
					open = open[:len(open)-1]
					part[w] = parts
					if w == v {
						break
					}
				}
				parts++
			}
		}
	}
	return part
}

// neighbours are those that links lead to and come from.
func neighbours(n int, all []link) (ins, outs [][]int) {
	ins, outs = make([][]int, n), make([][]int, n)
	for i := range all {
		outs[all[i].from] = append(outs[all[i].from], all[i].to)
		ins[all[i].to] = append(ins[all[i].to], all[i].from)
	}
	return ins, outs
}

// deepest puts each node into the first layer behind all that lead to it. The links must not go in a circle.
func deepest(n int, all []link) (layer []int) {
	layer, _ = inOrder(n, all)
	return layer
}

// inOrder is deepest, and an order in which no node stands before one that leads to it.
func inOrder(n int, all []link) (layer, order []int) {
	ins, outs := neighbours(n, all)
	layer = make([]int, n)
	left := make([]int, n)
	for v := range n {
		left[v] = len(ins[v])
	}
	for v := range n {
		if left[v] == 0 {
			order = append(order, v)
		}
	}
	for i := 0; i < len(order); i++ {
		for _, w := range outs[order[i]] {
			layer[w] = max(layer[w], layer[order[i]]+1)
			if left[w]--; left[w] == 0 {
				order = append(order, w)
			}
		}
	}
	return layer, order
}

// layered is deepest, with the nodes moved closer to where most of their links are.
func layered(n int, all []link) []int {
	layer, order := inOrder(n, all)
	ins, outs := neighbours(n, all)
	for range 8 {
		moved := false
		for i := len(order) - 1; i >= 0; i-- {
			v := order[i]
			if len(outs[v]) <= len(ins[v]) {
				continue
			}
			last := layer[outs[v][0]]
			for _, w := range outs[v] {
				last = min(last, layer[w])
			}
			if last-1 > layer[v] {
				layer[v], moved = last-1, true
			}
		}
		if !moved {
			break
		}
	}
	return layer
}

// ranking gives the node with the highest rank first (container/heap). A node is put in again when its rank has changed; what it was
// before is passed over.
type ranking struct {
	entries []entry
	last    map[int]int
}

type entry struct{ v, rank int }

// Len, Less, Swap, Push and Pop implement heap.Interface.
func (r *ranking) Len() int           { return len(r.entries) }
func (r *ranking) Less(i, j int) bool { return r.entries[i].rank > r.entries[j].rank }
func (r *ranking) Swap(i, j int)      { r.entries[i], r.entries[j] = r.entries[j], r.entries[i] }
func (r *ranking) Push(x any)         { r.entries = append(r.entries, x.(entry)) }
func (r *ranking) Pop() any {
	last := r.entries[len(r.entries)-1]
	r.entries = r.entries[:len(r.entries)-1]
	return last
}

func (r *ranking) put(v, rank int) {
	r.last[v] = rank
	heap.Push(r, entry{v, rank})
}

func (r *ranking) take() int {
	for {
		if e := heap.Pop(r).(entry); r.last[e.v] == e.rank {
			return e.v
		}
	}
}

// build makes items of boxes and of links that go through layers, and arcs between them. wide is how much room a box
// takes across the layers.
func build(s *Scene, all []link, layer []int, wide func(box int) int, gap int) *graph {
	g := &graph{lanes: max(len(s.Groups), 1)}
	if len(s.Groups) > 0 && slices.ContainsFunc(s.Boxes, func(b Box) bool { return b.Group < 0 }) {
		g.lanes++ // what is in no group
	}
	deepest := 0
	for i := range s.Boxes {
		lane := s.Boxes[i].Group
		if lane < 0 {
			lane = g.lanes - 1
		}
		g.items = append(g.items, item{box: i, layer: layer[i], lane: lane, size: wide(i), gap: gap, bundle: -1})
		deepest = max(deepest, layer[i])
	}
	type way struct {
		bundle, layer int
	}
	ways := map[way]int{}
	bundles := map[[2]int]int{}
	byLength := make([]int, len(all))
	for i := range all {
		byLength[i] = i
	}
	slices.SortStableFunc(byLength, func(a, b int) int { return cmp.Compare(all[a].from, all[b].from) })
	for _, i := range byLength {
		l := &all[i]
		k := [2]int{l.from, 0}
		if l.back {
			k[1] = 1
		}
		bundle, ok := bundles[k]
		if !ok {
			bundle = len(bundles)
			bundles[k] = bundle
		}
		l.bundle = bundle
		at := l.from
		l.path = []int{at}
		for y := layer[l.from] + 1; y < layer[l.to]; y++ {
			w := way{bundle, y}
			next, ok := ways[w]
			if !ok {
				next = len(g.items)
				ways[w] = next
				g.items = append(g.items, item{box: -1, layer: y, lane: g.items[l.from].lane, size: 1, gap: gap / 2, bundle: bundle})
				g.connect(at, next, bundle)
			}
			at = next
			l.path = append(l.path, at)
		}
		if layer[l.from] != layer[l.to] {
			g.connect(at, l.to, bundle)
		}
		l.path = append(l.path, l.to)
	}
	g.layers = make([][]int, deepest+1)
	return g
}

func (g *graph) connect(from, to, bundle int) {
	g.items[from].outs = append(g.items[from].outs, arc{to, bundle})
	g.items[to].ins = append(g.items[to].ins, arc{from, bundle})
}
