package draw

import (
	"cmp"
	"slices"
)

// sweeps is how often the layers are gone through, there and back.
const sweeps = 12

// order puts the items of each layer into an order in which few arcs cross: by the mean place of their neighbours in the
// layer before, there and back, and then by exchanging neighbours. The best order seen is kept.
func (g *graph) order() {
	best, fewest := g.copied(), g.crossings()
	for i := 0; i < sweeps && fewest > 0; i++ {
		if i%2 == 0 {
			for y := 1; y < len(g.layers); y++ {
				g.byNeighbours(y, func(it *item) []arc { return it.ins })
			}
		} else {
			for y := len(g.layers) - 2; y >= 0; y-- {
				g.byNeighbours(y, func(it *item) []arc { return it.outs })
			}
		}
		g.exchange()
		if c := g.crossings(); c < fewest {
			best, fewest = g.copied(), c
		}
	}
	g.layers = best
}

// first fills the layers, going along arcs from each item in turn.
func (g *graph) first() {
	seen := make([]bool, len(g.items))
	var stack []int
	for i := range g.items {
		if len(g.items[i].ins) > 0 && g.items[i].layer > 0 {
			continue
		}
		for stack = append(stack, i); len(stack) > 0; {
			v := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if seen[v] {
				continue
			}
			seen[v] = true
			g.layers[g.items[v].layer] = append(g.layers[g.items[v].layer], v)
			for _, o := range slices.Backward(g.items[v].outs) {
				stack = append(stack, o.item)
			}
		}
	}
	for _, l := range g.layers {
		slices.SortStableFunc(l, func(a, b int) int { return cmp.Compare(g.items[a].lane, g.items[b].lane) })
	}
	g.number()
}

// number tells each item its place in its layer.
func (g *graph) number() {
	for _, l := range g.layers {
		for i, v := range l {
			g.items[v].at = i
		}
	}
}

func (g *graph) copied() [][]int {
	c := make([][]int, len(g.layers))
	for i, l := range g.layers {
		c[i] = slices.Clone(l)
	}
	return c
}

// byNeighbours orders a layer by the mean place of what its items are connected with. What is connected with nothing
// stays where it is.
func (g *graph) byNeighbours(y int, of func(*item) []arc) {
	type placed struct {
		v    int
		mean float64
	}
	layer := g.layers[y]
	for lane, from := 0, 0; lane < g.lanes; lane++ {
		to := from
		for to < len(layer) && g.items[layer[to]].lane == lane {
			to++
		}
		var moving []placed
		var slots []int
		for i, v := range layer[from:to] {
			all := of(&g.items[v])
			if len(all) == 0 {
				continue
			}
			sum := 0
			for _, a := range all {
				sum += g.items[a.item].at
			}
			moving = append(moving, placed{v, float64(sum) / float64(len(all))})
			slots = append(slots, from+i)
		}
		slices.SortStableFunc(moving, func(a, b placed) int { return cmp.Compare(a.mean, b.mean) })
		for i, m := range moving {
			layer[slots[i]] = m.v
		}
		from = to
	}
	for i, v := range layer {
		g.items[v].at = i
	}
}

// exchange swaps neighbours in the layers as long as fewer arcs cross then.
func (g *graph) exchange() {
	for range 6 {
		better := false
		for _, layer := range g.layers {
			for i := 0; i+1 < len(layer); i++ {
				a, b := &g.items[layer[i]], &g.items[layer[i+1]]
				if a.lane != b.lane {
					continue
				}
				now := g.crossed(a.ins, b.ins) + g.crossed(a.outs, b.outs)
				then := g.crossed(b.ins, a.ins) + g.crossed(b.outs, a.outs)
				if then < now {
					layer[i], layer[i+1] = layer[i+1], layer[i]
					a.at, b.at = b.at, a.at
					better = true
				}
			}
		}
		if !better {
			return
		}
	}
}

// many is from how many pairs on arcs are not compared one by one.
const many = 4096

// crossed is how often arcs of one item cross those of another that stands behind it.
func (g *graph) crossed(a, b []arc) (n int) {
	if len(a)*len(b) > many {
		return 0
	}
	for _, x := range a {
		for _, y := range b {
			if g.items[x.item].at > g.items[y.item].at {
				n++
			}
		}
	}
	return n
}

// crossings counts how often arcs cross, layer by layer: those of the next layer are counted in a Fenwick tree, in the
// order in which the arcs begin (Barth, Jünger and Mutzel 2002).
func (g *graph) crossings() (n int) {
	g.number()
	for _, layer := range g.layers {
		var ends []int
		size := 0
		for _, v := range layer {
			from := len(ends)
			for _, a := range g.items[v].outs {
				ends = append(ends, g.items[a.item].at)
				size = max(size, g.items[a.item].at+1)
			}
			slices.Sort(ends[from:])
		}
		tree, seen := make([]int, size+1), 0
		for _, e := range ends {
			before := 0
			for i := e + 1; i > 0; i -= i & -i {
				before += tree[i]
			}
			n += seen - before
			seen++
			for i := e + 1; i <= size; i += i & -i {
				tree[i]++
			}
		}
	}
	return n
}
