package draw

import (
	"slices"

	"rooktrail/internal/core/file/text"
)

// Lay gives everything in a scene a place.
func Lay(s *Scene, size Size) *Picture { return lay(s, size, true) }

// LayPlainly does so in the order in which things come, without looking for a better one: what Lay is measured against.
func LayPlainly(s *Scene, size Size) *Picture { return lay(s, size, false) }

// laying is a picture that is being made. What is said of it across and along the layers, is about y and x if it goes from
// left to right, else about x and y.
type laying struct {
	*Picture
	graph *graph
	links []link
	// extents are how large boxes are along the layers.
	extents []int
	// channels are the strands behind each layer, starts where each layer begins, ends where its boxes end.
	channels     [][]*strand
	of           map[[2]int]*strand // by channel and bundle
	starts, ends []int
	tracks       [][2]int // by layer, how far behind it its first track lies, and each further one behind that
	lanes        []Frame
	labels       map[int]string // of the lines that lead to a box, if they have one altogether
}

func lay(s *Scene, size Size, well bool) *Picture {
	p := &laying{Picture: &Picture{Scene: s}, of: map[[2]int]*strand{}}
	p.write(size)
	p.Frames, p.Routes = make([]Frame, len(s.Boxes)), make([]Route, len(s.Lines))
	if len(s.Boxes) == 0 {
		return p.Picture
	}
	all, layer := links(s)
	gap := 0
	if s.Down {
		gap = 2
	}
	p.extents = make([]int, len(s.Boxes))
	p.graph = build(s, all, layer, func(box int) int {
		w, h := size.needs(p.Texts[box])
		if s.Down {
			w, h = h, w
		}
		p.extents[box] = w
		return h
	}, gap)
	p.links = all
	if p.labels = map[int]string{}; size != Small {
		p.labels = labels(s)
	}
	p.graph.first()
	if well {
		p.graph.order()
	}
	p.lanes = p.graph.across(p.betweenLanes(), p.leastLanes(), well)
	p.route()
	p.along()
	p.frames()
	p.routes()
	p.label()
	p.bands()
	return p.Picture
}

// labels are the texts on the lines that lead to each box, if all of them have the same one. Only where lines come from the
// left there is room for it before the box.
func labels(s *Scene) map[int]string {
	all := map[int]string{}
	if s.Down {
		return all
	}
	mixed := map[int]bool{}
	for _, l := range s.Lines {
		if l.From == l.To {
			continue
		}
		words := text.Visible(l.Label)
		if old, ok := all[l.To]; ok && old != words {
			mixed[l.To] = true
		}
		all[l.To] = words
	}
	for box := range mixed {
		delete(all, box)
	}
	return all
}

// label puts the labels on the lines.
func (p *laying) label() {
	done := map[int]bool{}
	for i, l := range p.Lines {
		words := p.labels[l.To]
		if pts := p.Routes[i].Points; words == "" || len(pts) < 2 || p.Routes[i].Back || done[l.To] || pts[len(pts)-1].X >= p.Frames[l.To].X {
			continue
		}
		done[l.To] = true
		end := p.Routes[i].Points[len(p.Routes[i].Points)-1]
		p.Labels = append(p.Labels, Label{Point{end.X - 1 - CellsOf(words), end.Y}, words, i})
	}
}

// betweenLanes is how much is left free before each group: where they lie beneath each other, for its title.
func (p *laying) betweenLanes() int {
	if p.Down {
		return 1
	}
	return 2
}

// leastLanes are how much room groups need at the least: where they stand beside each other, as much as their titles.
func (p *laying) leastLanes() []int {
	least := make([]int, p.graph.lanes)
	if p.Down {
		for i, title := range p.Groups {
			least[i] = CellsOf(title) + 2
		}
	}
	return least
}

// route makes strands of arcs, and gives them tracks.
func (p *laying) route() {
	g := p.graph
	p.channels = make([][]*strand, len(g.layers))
	beside, back := map[[2]int][]int{}, map[int]bool{}
	for i := range p.links {
		back[p.links[i].bundle] = p.links[i].back
		if l := &p.links[i]; g.items[l.from].layer == g.items[l.to].layer {
			k := [2]int{l.from, l.bundle}
			beside[k] = append(beside[k], g.items[l.to].port())
		}
	}
	for y, layer := range g.layers {
		to := map[int]*strand{} // those that lead to one item alone, by that
		for _, v := range layer {
			it := &g.items[v]
			targets := map[int][]int{}
			var bundles []int
			for _, a := range it.outs {
				if targets[a.bundle] == nil {
					bundles = append(bundles, a.bundle)
				}
				targets[a.bundle] = append(targets[a.bundle], g.items[a.item].port())
			}
			for k := range beside {
				if k[0] == v && targets[k[1]] == nil {
					bundles = append(bundles, k[1])
				}
			}
			slices.Sort(bundles)
			for _, b := range bundles {
				s := newStrand(it.port(), targets[b], beside[[2]int{v, b}])
				s.back = back[b]
				if s.single() {
					if with := to[s.targets[0]]; with != nil {
						with.join(s)
						p.of[[2]int{y, b}] = with
						continue
					}
					to[s.targets[0]] = s
				}
				p.channels[y] = append(p.channels[y], s)
				p.of[[2]int{y, b}] = s
			}
		}
	}
}

// channel is how much room is left behind a layer, along the layers: before the first track, from one track to the next,
// and behind the last, where the heads of lines are. The heads of lines that come back stand before the first.
func (p *laying) channel(y int) (stub, step, head int) {
	if !p.Down {
		head = 2
		if y+1 < len(p.graph.layers) {
			for _, v := range p.graph.layers[y+1] {
				if b := p.graph.items[v].box; b >= 0 && p.labels[b] != "" {
					head = max(head, CellsOf(p.labels[b])+4)
				}
			}
		}
		return 1, 2, head
	}
	if slices.ContainsFunc(p.channels[y], func(s *strand) bool { return s.back || len(s.beside) > 0 }) {
		return 1, 1, 1
	}
	return 0, 1, 1
}

// along gives each layer its place along the direction of the picture.
func (p *laying) along() {
	g := p.graph
	p.starts, p.ends, p.tracks = make([]int, len(g.layers)), make([]int, len(g.layers)), make([][2]int, len(g.layers))
	at := 0
	for y, layer := range g.layers {
		extent := 1
		for _, v := range layer {
			if b := g.items[v].box; b >= 0 {
				extent = max(extent, p.extents[b])
			}
		}
		if !p.Down {
			extent = max(extent, CellsOf(p.Floors[y]))
		}
		p.starts[y], p.ends[y] = at, at+extent
		at += extent
		stub, step, head := p.channel(y)
		p.tracks[y] = [2]int{stub, step}
		if y < len(g.layers)-1 || len(p.channels[y]) > 0 {
			at += max(stub+step*tracks(p.channels[y])-(step-1)+head, stub+1+head)
		}
		p.Crossings += crossed(p.channels[y])
	}
}

// track is where a strand of a channel goes across.
func (p *laying) track(y int, s *strand) int {
	stub, step := p.tracks[y][0], p.tracks[y][1]
	return p.ends[y] + stub + step*max(s.track, 0)
}

// margins is how much is left free at the left and above, for titles of floors and groups.
func (p *laying) margins() (left, top int) {
	switch {
	case p.Down && len(p.Floors) > 0:
		for _, title := range p.Floors {
			left = max(left, CellsOf(title)+2)
		}
	case len(p.Floors) > 0:
		top = 2
	}
	if p.Down && len(p.Groups) > 0 {
		top = 2
	}
	return left, top
}

// point is the cell at a place along and across the layers.
func (p *laying) point(along, across int) Point {
	left, top := p.margins()
	if p.Down {
		return Point{left + across, top + along}
	}
	return Point{left + along, top + across}
}

func (p *laying) frames() {
	for i := range p.graph.items {
		it := &p.graph.items[i]
		if it.box < 0 {
			continue
		}
		at := p.point(p.starts[it.layer], it.at)
		w, h := p.Size.needs(p.Texts[it.box])
		p.Frames[it.box] = Frame{at.X, at.Y, w, h}
		p.Width, p.Height = max(p.Width, at.X+w), max(p.Height, at.Y+h)
	}
}

// routes gives the lines their ways.
func (p *laying) routes() {
	g := p.graph
	drawn := map[[2]Point]bool{} // what lines of a bundle have in common counts once
	for i := range p.links {
		l := &p.links[i]
		from := &g.items[l.from]
		points := []Point{p.point(p.starts[from.layer]+p.extents[l.from], from.port())}
		for k := range len(l.path) - 1 {
			a, b := &g.items[l.path[k]], &g.items[l.path[k+1]]
			s := p.of[[2]int{a.layer, l.bundle}]
			if a.port() != b.port() || a.layer == b.layer {
				points = append(points, p.point(p.track(a.layer, s), a.port()), p.point(p.track(a.layer, s), b.port()))
			}
			if b.layer == a.layer {
				points = append(points, p.point(p.starts[b.layer]+p.extents[l.to], b.port()))
			} else {
				points = append(points, p.point(p.starts[b.layer]-1, b.port()))
			}
		}
		points = simple(points)
		for j := 1; j < len(points); j++ {
			if piece := [2]Point{points[j-1], points[j]}; !drawn[piece] {
				drawn[piece] = true
				p.Length += abs(points[j].X-points[j-1].X) + abs(points[j].Y-points[j-1].Y)
			}
		}
		for _, n := range l.lines {
			p.Routes[n] = Route{Points: points, Bundle: l.bundle, Back: l.back}
		}
		for _, at := range points {
			p.Width, p.Height = max(p.Width, at.X+1), max(p.Height, at.Y+1)
		}
	}
}

func abs(n int) int { return max(n, -n) }

// simple leaves out points between which a line goes straight on.
func simple(points []Point) []Point {
	out := points[:1:1]
	for _, q := range points[1:] {
		if q == out[len(out)-1] {
			continue
		}
		if k := len(out); k >= 2 && (out[k-2].X == out[k-1].X && out[k-1].X == q.X || out[k-2].Y == out[k-1].Y && out[k-1].Y == q.Y) {
			out[k-1] = q
			continue
		}
		out = append(out, q)
	}
	return out
}

// bands puts frames around groups and floors.
func (p *laying) bands() {
	left, top := p.margins()
	for i, title := range p.Groups {
		l := p.lanes[i]
		if p.Down {
			p.Width = max(p.Width, left+l.Y+l.H)
			p.Bands = append(p.Bands, Band{Frame{left + l.Y - 1, 0, l.H + 1, p.Height}, title, Point{left + l.Y, 0}})
			continue
		}
		p.Width = max(p.Width, CellsOf(title)+1)
		p.Bands = append(p.Bands, Band{Frame{0, top + l.Y - 2, 0, l.H + 2}, title, Point{1, top + l.Y - 1}})
	}
	for y := range p.graph.layers {
		title := p.Floors[y]
		if title == "" {
			continue
		}
		end := y
		for end+1 < len(p.graph.layers) && p.Floors[end+1] == "" {
			end++
		}
		if p.Down {
			p.Bands = append(p.Bands, Band{Frame{0, top + p.starts[y], 0, p.ends[end] - p.starts[y]}, title, Point{0, top + p.starts[y]}})
		} else {
			p.Bands = append(p.Bands, Band{Frame{p.starts[y], 0, p.ends[end] - p.starts[y], p.Height}, title, Point{p.starts[y], 0}})
		}
	}
	for i := range p.Bands {
		if p.Bands[i].W == 0 {
			p.Bands[i].W = p.Width
		}
	}
}
