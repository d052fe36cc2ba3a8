package draw

import (
	"math"
	"slices"
)

// across gives each item its place across the layers, in their order: as near as can be to the mean of what it is
// connected with, so that lines are short and straight. Each layer is done as a whole, by the method of pooling adjacent
// violators for isotonic regression, with the layers beside it as they are, there and back several times.
func (g *graph) across(between int, least []int, well bool) (lanes []Frame) {
	start, room := g.room(between, least)
	for _, l := range g.layers {
		next, lane := 0, -1
		for _, v := range l {
			it := &g.items[v]
			if it.lane != lane {
				lane, next = it.lane, max(start[it.lane], 0)
			}
			it.at = next
			next += it.size + it.gap
		}
	}
	for i := range 2 * sweeps {
		if !well {
			break
		}
		if i%2 == 0 {
			for y := 1; y < len(g.layers); y++ {
				g.settle(y, func(it *item) []arc { return it.ins }, start, room)
			}
		} else {
			for y := len(g.layers) - 2; y >= 0; y-- {
				g.settle(y, func(it *item) []arc { return it.outs }, start, room)
			}
		}
	}
	for i := 0; i < 3 && well; i++ { // at last with both sides in mind
		for y := range g.layers {
			g.settle(y, func(it *item) []arc { return append(slices.Clone(it.ins), it.outs...) }, start, room)
		}
	}
	if g.lanes == 1 {
		g.shift()
	}
	for i := range start {
		lanes = append(lanes, Frame{Y: start[i], H: room[i]})
	}
	return lanes
}

// room is where each lane begins and how much it needs. One alone has all there is.
func (g *graph) room(between int, least []int) (start, room []int) {
	start, room = make([]int, g.lanes), slices.Clone(least)
	for _, l := range g.layers {
		sums := map[int]int{}
		for _, v := range l {
			sums[g.items[v].lane] += g.items[v].size + g.items[v].gap
		}
		for lane, sum := range sums {
			room[lane] = max(room[lane], sum)
		}
	}
	at := 0
	for i := range start {
		if g.lanes > 1 {
			at += between
		}
		start[i] = at
		at += room[i]
	}
	if g.lanes == 1 {
		start[0], room[0] = -far, 2*far
	}
	return start, room
}

// far is farther than anything is drawn.
const far = 1 << 24

// block is a run of items that stand close together.
type block struct {
	first, count int
	// sum and weight are of the places they want, less what stands before them in the run.
	sum, weight float64
}

// settle puts the items of a layer where they want to be, and keeps their order and distances.
func (g *graph) settle(y int, of func(*item) []arc, start, room []int) {
	layer := g.layers[y]
	for from := 0; from < len(layer); {
		lane, to := g.items[layer[from]].lane, from
		for to < len(layer) && g.items[layer[to]].lane == lane {
			to++
		}
		g.settleRun(layer[from:to], of, start[lane], start[lane]+room[lane])
		from = to
	}
}

func (g *graph) settleRun(run []int, of func(*item) []arc, low, high int) {
	var blocks []block
	before := 0
	offsets := make([]int, len(run))
	for i, v := range run {
		it := &g.items[v]
		offsets[i] = before
		before += it.size + it.gap
		wanted, weight := g.wanted(it, of(it))
		blocks = append(blocks, block{i, 1, (wanted - float64(offsets[i])) * weight, weight})
		for k := len(blocks) - 1; k > 0 && blocks[k-1].sum/blocks[k-1].weight >= blocks[k].sum/blocks[k].weight; k-- {
			blocks[k-1].count += blocks[k].count
			blocks[k-1].sum += blocks[k].sum
			blocks[k-1].weight += blocks[k].weight
			blocks = blocks[:k]
		}
	}
	for _, b := range blocks {
		at := int(math.Round(b.sum / b.weight))
		at = max(low, min(at, high-before))
		for i := b.first; i < b.first+b.count; i++ {
			g.items[run[i]].at = at + offsets[i]
		}
	}
}

// wanted is where an item wants to begin, and how much: what only passes through wants to go straight on.
func (g *graph) wanted(it *item, arcs []arc) (at, weight float64) {
	if len(arcs) == 0 {
		return float64(it.at), 0.05
	}
	ports := make([]int, 0, len(arcs))
	passing := false
	for _, a := range arcs {
		o := &g.items[a.item]
		ports = append(ports, o.port())
		passing = passing || o.box < 0
	}
	slices.Sort(ports)
	middle := float64(ports[len(ports)/2]+ports[(len(ports)-1)/2]) / 2
	weight = 1
	if it.box < 0 {
		weight = 2
		if passing {
			weight = 8
		}
	}
	return middle - float64((it.size-1)/2), weight
}

// shift moves everything so that it begins at 0.
func (g *graph) shift() {
	low := math.MaxInt
	for i := range g.items {
		low = min(low, g.items[i].at)
	}
	for i := range g.items {
		g.items[i].at -= low
	}
}
