package panes_test

import (
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/ui/panes"
)

var room = panes.Rect{Width: 121, Height: 40}

func TestSplittingAndClosing(t *testing.T) {
	tree := panes.One(1)
	tree.Split(1, false, 2)
	tree.Split(2, true, 3)
	assert.Equal(t, []int{1, 2, 3}, tree.Sides())
	assert.Equal(t, map[int]panes.Rect{
		1: {Width: 60, Height: 40},
		2: {X: 61, Width: 60, Height: 20},
		3: {X: 61, Y: 20, Width: 60, Height: 20},
	}, tree.Layout(room, 1))
	assert.Equal(t, 3, tree.Close(2))
	assert.Equal(t, []int{1, 3}, tree.Sides())
	assert.Equal(t, 1, tree.Close(3))
	assert.Equal(t, 1, tree.Close(1), "the last one stays")
}

func TestNeighbours(t *testing.T) {
	tree := panes.One(1)
	tree.Split(1, false, 2)
	tree.Split(2, true, 3)
	for _, c := range []struct {
		from int
		to   panes.Direction
		want int // 0 for none
	}{{1, panes.Right, 2}, {1, panes.Left, 0}, {2, panes.Down, 3}, {3, panes.Up, 2}, {3, panes.Left, 1}, {1, panes.Up, 0}, {2, panes.Right, 0}} {
		got, ok := tree.Neighbour(room, c.from, c.to)
		assert.Equal(t, c.want != 0, ok)
		assert.Equal(t, c.want, got)
	}
	assert.Equal(t, 1, tree.Next(3, 1))
	assert.Equal(t, 3, tree.Next(1, -1))
	assert.Equal(t, 1, tree.Next(99, 1), "one that is not there")
}

func TestSizes(t *testing.T) {
	tree := panes.One(1)
	assert.False(t, tree.Grow(1, 0.1))
	tree.Split(1, true, 2)
	assert.True(t, tree.Grow(2, 0.25))
	assert.Equal(t, 30, tree.Layout(room, 1)[2].Height)
	for range 20 {
		tree.Grow(1, -0.1)
	}
	assert.Equal(t, panes.LeastHeight, tree.Layout(room, 1)[1].Height, "never less than what is needed")
}

func TestTooSmallForAll(t *testing.T) {
	tree := panes.One(1)
	tree.Split(1, false, 2)
	small := panes.Rect{Width: 50, Height: 10}
	assert.Equal(t, map[int]panes.Rect{2: small}, tree.Layout(small, 2))
	_, ok := tree.Neighbour(small, 2, panes.Left)
	assert.False(t, ok)
}

// However sides are split and closed, those that are shown fill the room.
func TestTheRoomIsFilled(t *testing.T) {
	random := rand.New(rand.NewSource(1))
	tree, next := panes.One(1), 2
	for range 300 {
		all := tree.Sides()
		at := all[random.Intn(len(all))]
		switch random.Intn(4) {
		case 0, 1:
			if len(all) < 12 {
				tree.Split(at, random.Intn(2) == 0, next)
				next++
			}
		case 2:
			tree.Close(at)
		default:
			tree.Grow(at, random.Float64()-0.5)
		}
		present := tree.Sides()[0]
		r := panes.Rect{X: 3, Y: 1, Width: 40 + random.Intn(200), Height: 5 + random.Intn(60)}
		cells := map[[2]int]int{}
		for side, part := range tree.Layout(r, present) {
			for x := range part.Width {
				for y := range part.Height {
					cells[[2]int{part.X + x, part.Y + y}] = side
				}
			}
		}
		missing := 0
		for x := range r.Width {
			for y := range r.Height {
				if _, ok := cells[[2]int{r.X + x, r.Y + y}]; !ok {
					missing++
				}
			}
		}
		assert.LessOrEqual(t, missing, (len(tree.Sides())-1)*r.Height, "only rules are between")
		assert.Contains(t, tree.Layout(r, present), present)
	}
}
