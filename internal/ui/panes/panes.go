// Package panes divides a part of the screen into sides, side by side or one
// above the other, as often as there is room. It knows sides by their numbers
// and nothing of what they show.
package panes

import "math"

// Rect is a part of the screen, in cells from the upper left.
type Rect struct{ X, Y, Width, Height int }

// Tree is a side, or a division into two. The tree of a whole screen is changed
// through its methods; a Tree made by hand has to be well formed.
type Tree struct {
	// Side is the number of the side, if this is one.
	Side int
	// Parts are the two halves of a division, the left or the upper first; nil
	// for a side.
	Parts *[2]*Tree
	// Stacked says that one half is above the other, and Share how much of the
	// room the first has, between 0 and 1.
	Stacked bool
	Share   float64
}

// The least room of a side. Where there is less for two, only the half with the
// present side is shown.
const (
	LeastWidth  = 30
	LeastHeight = 4
)

// rule is the width of the rule between two sides.
const rule = 1

// One is the tree of a single side.
func One(side int) *Tree { return &Tree{Side: side} }

// Sides are the numbers of all sides, from the left and the top.
func (t *Tree) Sides() []int {
	if t.Parts == nil {
		return []int{t.Side}
	}
	return append(t.Parts[0].Sides(), t.Parts[1].Sides()...)
}

// Has says whether a side is part of the tree.
func (t *Tree) Has(side int) bool {
	if t.Parts == nil {
		return t.Side == side
	}
	return t.Parts[0].Has(side) || t.Parts[1].Has(side)
}

// find is the tree that is the side alone, and the one it is a half of, if any.
func (t *Tree) find(side int) (found, parent *Tree) {
	if t.Parts == nil {
		if t.Side == side {
			return t, nil
		}
		return nil, nil
	}
	for _, part := range t.Parts {
		if found, parent = part.find(side); found != nil {
			if parent == nil {
				parent = t
			}
			return found, parent
		}
	}
	return nil, nil
}

// Split divides a side in two halves; the second becomes a new side.
func (t *Tree) Split(side int, stacked bool, added int) {
	if here, _ := t.find(side); here != nil {
		*here = Tree{Parts: &[2]*Tree{One(side), One(added)}, Stacked: stacked, Share: 0.5}
	}
}

// Close takes a side away, unless it is the only one; its neighbour gets the
// room. It returns the side that is nearest now.
func (t *Tree) Close(side int) (nearest int) {
	_, parent := t.find(side)
	if parent == nil {
		return side
	}
	rest := parent.Parts[0]
	if rest.Parts == nil && rest.Side == side {
		rest = parent.Parts[1]
	}
	*parent = *rest
	return parent.Sides()[0]
}

// Next is the side after one, and after the last the first; with a negative
// step, the one before.
func (t *Tree) Next(side, step int) int {
	all := t.Sides()
	for i, s := range all {
		if s == side {
			return all[((i+step)%len(all)+len(all))%len(all)]
		}
	}
	return all[0]
}

// Grow gives a side more of the room it shares with its neighbour, or less, by
// a part of that room. ok is false if it has none.
func (t *Tree) Grow(side int, by float64) (ok bool) {
	here, parent := t.find(side)
	if parent == nil {
		return false
	}
	if parent.Parts[1] == here {
		by = -by
	}
	parent.Share = math.Min(math.Max(parent.Share+by, 0.1), 0.9)
	return true
}

// Layout says where each side is shown in a room. Where the room is too small
// for two, only the half with the present side is there.
func (t *Tree) Layout(room Rect, present int) map[int]Rect {
	all := map[int]Rect{}
	t.layout(room, present, all)
	return all
}

func (t *Tree) layout(room Rect, present int, all map[int]Rect) {
	if t.Parts == nil {
		all[t.Side] = room
		return
	}
	first, second, ok := t.divide(room)
	if !ok {
		half := t.Parts[0]
		if t.Parts[1].Has(present) {
			half = t.Parts[1]
		}
		half.layout(room, present, all)
		return
	}
	t.Parts[0].layout(first, present, all)
	t.Parts[1].layout(second, present, all)
}

// divide cuts a room for the two halves; ok is false if it is too small.
func (t *Tree) divide(room Rect) (first, second Rect, ok bool) {
	first, second = room, room
	if t.Stacked {
		first.Height = share(room.Height, t.Share, LeastHeight)
		second.Y += first.Height
		second.Height -= first.Height
		return first, second, room.Height >= 2*LeastHeight
	}
	first.Width = share(room.Width-rule, t.Share, LeastWidth)
	second.X += first.Width + rule
	second.Width -= first.Width + rule
	return first, second, room.Width >= 2*LeastWidth+rule
}

func share(room int, part float64, least int) int {
	return min(max(int(math.Round(float64(room)*part)), least), room-least)
}

// Direction is where to look for a neighbour.
type Direction uint8

// The directions.
const (
	Left Direction = iota
	Right
	Up
	Down
)

// Neighbour is the side next to one in a direction, as they lie in a room: the
// nearest that stands level with it. ok is false if there is none.
func (t *Tree) Neighbour(room Rect, side int, d Direction) (found int, ok bool) {
	all := t.Layout(room, side)
	here := all[side]
	best := math.MaxInt
	for _, s := range t.Sides() {
		r, shown := all[s]
		if s == side || !shown {
			continue
		}
		gap, level := 0, 0
		switch d {
		case Left:
			gap, level = here.X-(r.X+r.Width), overlap(here.Y, here.Height, r.Y, r.Height)
		case Right:
			gap, level = r.X-(here.X+here.Width), overlap(here.Y, here.Height, r.Y, r.Height)
		case Up:
			gap, level = here.Y-(r.Y+r.Height), overlap(here.X, here.Width, r.X, r.Width)
		case Down:
			gap, level = r.Y-(here.Y+here.Height), overlap(here.X, here.Width, r.X, r.Width)
		}
		if gap >= 0 && level > 0 && gap*1000-level < best {
			best, found, ok = gap*1000-level, s, true
		}
	}
	return found, ok
}

func overlap(a, la, b, lb int) int { return min(a+la, b+lb) - max(a, b) }
