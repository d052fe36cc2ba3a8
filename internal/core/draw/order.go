package draw

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// sweeps is how often the layers are gone through, there and back.
const sweeps = 24

// Bounds of looking for an order: graphs with more items are begun with once, those with half as many twice, and in layers with more of them items only
// change places with those beside them.
const (
	manyItems = 1500
	wideLayer = 300
)

// order puts the items of each layer into an order in which few arcs cross: by the mean place of their neighbours in the
// layer before, there and back, then by exchanging neighbours and by sifting: taking each out and putting it in where it
// crosses least (Matuszewski, Schönfeld and Molitor 1999). It is begun with several times, and the best order seen is kept.
func (g *graph) order() {
	best, fewest := g.copied(), g.crossings()
	begins, sweeps := max(1, min(6, manyItems/len(g.items))), sweeps
	if begins == 1 && len(g.items) > 2*manyItems {
		sweeps /= 3
	}
	for n := range begins {
		if n > 0 {
			g.shuffle(uint64(n))
		}
		last := math.MaxInt
		for i := 0; i < sweeps && fewest > 0; i++ {
			g.sweep(i%2 == 0)
			c := g.crossings()
			if c < fewest {
				best, fewest = g.copied(), c
			}
			if i%4 == 3 { // it goes no further by itself
				if c >= last {
					break
				}
				last = c
			}
		}
	}
	g.layers = best
	g.number()
}

// sweep orders all layers by those before them, or by those behind.
func (g *graph) sweep(on bool) {
	if on {
		for y := 1; y < len(g.layers); y++ {
			g.byNeighbours(y, func(it *item) []arc { return it.ins })
		}
	} else {
		for y := len(g.layers) - 2; y >= 0; y-- {
			g.byNeighbours(y, func(it *item) []arc { return it.outs })
		}
	}
	g.exchange()
	for _, l := range g.layers {
		if len(l) <= wideLayer {
			g.sift(l)
		}
	}
}

// shuffle puts the items of each layer and lane into an order by chance, always the same for a number.
func (g *graph) shuffle(n uint64) {
	r := rand.New(rand.NewPCG(n, 1))
	for _, l := range g.layers {
		r.Shuffle(len(l), func(i, j int) { l[i], l[j] = l[j], l[i] })
		slices.SortStableFunc(l, func(a, b int) int { return cmp.Compare(g.items[a].lane, g.items[b].lane) })
	}
	g.number()
}

// sift takes each item of a layer out and puts it in where it crosses least.
func (g *graph) sift(layer []int) {
	for _, v := range slices.Clone(layer) {
		it := &g.items[v]
		at := it.at
		gain := func(o *item, before bool) int { // of standing on the other side of it
			now, then := g.crossed(it.ins, o.ins)+g.crossed(it.outs, o.outs), g.crossed(o.ins, it.ins)+g.crossed(o.outs, it.outs)
			if before {
				now, then = then, now
			}
			return now - then
		}
		best, most, sum := at, 0, 0
		for k := at - 1; k >= 0 && g.items[layer[k]].lane == it.lane; k-- {
			if sum += gain(&g.items[layer[k]], true); sum > most {
				best, most = k, sum
			}
		}
		sum = 0
		for k := at + 1; k < len(layer) && g.items[layer[k]].lane == it.lane; k++ {
			if sum += gain(&g.items[layer[k]], false); sum > most {
				best, most = k, sum
			}
		}
		for ; at < best; at++ {
			layer[at] = layer[at+1]
			g.items[layer[at]].at = at
		}
		for ; at > best; at-- {
			layer[at] = layer[at-1]
			g.items[layer[at]].at = at
		}
		layer[best] = v
		it.at = best
	}
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
