package draw_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/place"
)

// scene makes one of boxes with names and of lines between them, written as "a b".
func scene(lines ...string) *draw.Scene {
	s, at := &draw.Scene{Title: "What the board needs"}, map[string]int{}
	box := func(name string) int {
		i, ok := at[name]
		if !ok {
			i = len(s.Boxes)
			at[name] = i
			s.Boxes = append(s.Boxes, draw.Box{ID: name, Name: name, Kind: "function", Where: name + ".go 4", Group: -1, Layer: -1, Place: place.Place{Path: name + ".go", Line: 4}})
		}
		return i
	}
	for _, l := range lines {
		from, to, _ := strings.Cut(l, " ")
		s.Lines = append(s.Lines, draw.Line{From: box(from), To: box(to)})
	}
	return s
}

// grown is a scene of so many boxes by chance, each with some lines, a few of which go back.
func grown(n int, seed uint64) *draw.Scene {
	r := rand.New(rand.NewPCG(seed, 7))
	s := &draw.Scene{}
	for i := range n {
		s.Boxes = append(s.Boxes, draw.Box{ID: fmt.Sprint(i), Name: strings.Repeat("x", 1+r.IntN(18)), Where: "hut.go 3", Group: -1, Layer: -1})
	}
	for i := 1; i < n; i++ {
		for range 1 + r.IntN(2) {
			from, to := r.IntN(i), i
			if r.IntN(12) == 0 {
				from, to = to, r.IntN(n)
			}
			s.Lines = append(s.Lines, draw.Line{From: from, To: to})
		}
	}
	return s
}

// sound checks what must hold of every picture: no two boxes and no box and line overlap, nothing lies outside of the picture,
// all texts have room, and each line begins and ends at its boxes.
func sound(t *testing.T, p *draw.Picture) {
	t.Helper()
	owner := map[draw.Point]int{}
	for i, f := range p.Frames {
		require.True(t, f.X >= 0 && f.Y >= 0 && f.X+f.W <= p.Width && f.Y+f.H <= p.Height, "box %d is outside: %v of %d by %d", i, f, p.Width, p.Height)
		for y := f.Y; y < f.Y+f.H; y++ {
			for x := f.X; x < f.X+f.W; x++ {
				if other, taken := owner[draw.Point{X: x, Y: y}]; taken {
					require.Fail(t, "overlapping", "boxes %d and %d overlap at %d, %d", other, i, x, y)
				}
				owner[draw.Point{X: x, Y: y}] = i
			}
		}
		inner := f.W - 2
		if p.Size != draw.Small {
			inner -= 2
		}
		for _, line := range p.Texts[i] {
			require.LessOrEqual(t, draw.CellsOf(line), inner, "%q is cut off", line)
		}
	}
	for _, l := range p.Labels {
		for x := l.At.X; x < l.At.X+draw.CellsOf(l.Text); x++ {
			at := draw.Point{X: x, Y: l.At.Y}
			_, in := owner[at]
			require.False(t, in, "%q lies on a box", l.Text)
			for i, r := range p.Routes {
				for k := 1; k < len(r.Points); k++ {
					a, b := r.Points[k-1], r.Points[k]
					require.False(t, a.X == b.X && a.X == x && min(a.Y, b.Y) < at.Y && at.Y < max(a.Y, b.Y), "line %d goes through %q", i, l.Text)
				}
			}
		}
	}
	for i, l := range p.Lines {
		pts := p.Routes[i].Points
		if l.From == l.To {
			require.Empty(t, pts)
			continue
		}
		require.GreaterOrEqual(t, len(pts), 2, "line %d", i)
		from, to := l.From, l.To
		if p.Routes[i].Back {
			from, to = to, from
		}
		require.True(t, touches(p.Frames[from], pts[0]), "line %d begins at %v, not at %v", i, pts[0], p.Frames[from])
		require.True(t, touches(p.Frames[to], pts[len(pts)-1]), "line %d ends at %v, not at %v", i, pts[len(pts)-1], p.Frames[to])
		for k := 1; k < len(pts); k++ {
			along(pts[k-1], pts[k], func(at draw.Point) {
				box, in := owner[at]
				if in || at.X < 0 || at.Y < 0 || at.X >= p.Width || at.Y >= p.Height { // asserting takes long, so often
					require.False(t, in, "line %d goes through box %d at %v", i, box, at)
					require.Fail(t, "outside", "line %d is outside at %v", i, at)
				}
			})
		}
	}
}

// touches says whether a cell is right beside a box.
func touches(f draw.Frame, at draw.Point) bool {
	return draw.Frame{X: f.X - 1, Y: f.Y - 1, W: f.W + 2, H: f.H + 2}.Contains(at) && !f.Contains(at)
}

func along(a, b draw.Point, each func(draw.Point)) {
	for a != b {
		each(a)
		a.X, a.Y = a.X+sign(b.X-a.X), a.Y+sign(b.Y-a.Y)
	}
	each(b)
}

func sign(n int) int { return max(-1, min(1, n)) }

func TestPicturesAreSound(t *testing.T) {
	for seed := range uint64(12) {
		s := grown(6+int(seed)*6, seed)
		for i := range s.Lines {
			s.Lines[i].Label = []string{"", "by Assigner", "3 imports"}[i%3]
		}
		for _, down := range []bool{false, true} {
			for size := draw.Small; size <= draw.Large; size++ {
				s.Down = down
				sound(t, draw.Lay(s, size))
				sound(t, draw.LayPlainly(s, size))
			}
		}
	}
}

func TestGroupsAndFloors(t *testing.T) {
	for seed := range uint64(8) {
		s := grown(40, seed)
		s.Groups = []string{"dispatch", "a group whose title is long", "store"}
		for i := range s.Boxes {
			s.Boxes[i].Group = i%4 - 1
		}
		for _, down := range []bool{false, true} {
			s.Down = down
			p := draw.Lay(s, draw.Medium)
			sound(t, p)
			require.Len(t, p.Bands, 3)
			for i, f := range p.Frames {
				if g := s.Boxes[i].Group; g >= 0 {
					b := p.Bands[g]
					assert.True(t, b.X <= f.X && f.X+f.W <= b.X+b.W+1 && b.Y <= f.Y && f.Y+f.H <= b.Y+b.H, "box %d at %v is not in its group, %v", i, f, b.Frame)
				}
			}
		}
	}
	s := scene("server roster", "roster team", "team roster", "server log")
	s.Down, s.Floors = true, map[int]string{0: "floor 2", 1: "floor 1"}
	for i, layer := range []int{0, 1, 1, 1} {
		s.Boxes[i].Layer = layer
	}
	p := draw.Lay(s, draw.Medium)
	sound(t, p)
	assert.Equal(t, p.Frames[1].Y, p.Frames[2].Y, "what has one layer stands on one floor")
	assert.Less(t, p.Frames[0].Y, p.Frames[1].Y)
}

// A layout that was thought about has fewer crossings and shorter lines than one that was not.
func TestLayoutsAreBetterThanPlainOnes(t *testing.T) {
	well, plain, long, longPlain := 0, 0, 0, 0
	for seed := range uint64(10) {
		s := grown(60, seed)
		a, b := draw.Lay(s, draw.Small), draw.LayPlainly(s, draw.Small)
		well, plain, long, longPlain = well+a.Crossings, plain+b.Crossings, long+a.Length, longPlain+b.Length
	}
	assert.Less(t, well*2, plain)
	assert.Less(t, long, longPlain)
}

func TestNothingIsCrossedInATree(t *testing.T) {
	s := scene("main server", "main board", "server roster", "server log", "board list", "board map", "roster team", "roster valley")
	p := draw.Lay(s, draw.Medium)
	assert.Zero(t, p.Crossings)
	sound(t, p)
}

func TestCirclesAndLevels(t *testing.T) {
	edges := [][2]int{{0, 1}, {1, 2}, {2, 1}, {2, 3}, {4, 3}, {3, 3}}
	part := draw.Circles(5, func(yield func(from, to int)) {
		for _, e := range edges {
			yield(e[0], e[1])
		}
	})
	assert.Equal(t, part[1], part[2])
	assert.NotEqual(t, part[0], part[1])
	assert.Greater(t, part[0], part[1], "what it leads to has a lower number")
	level := draw.Levels(5, func(yield func(from, to, weight int)) {
		for i, e := range edges {
			yield(e[0], e[1], 5-i)
		}
	})
	assert.Equal(t, []int{3, 2, 1, 0, 1}, level, "the light one of a circle leads upwards")
}

// A circle of thousands, and a box on which thousands depend.
func TestLargeScenes(t *testing.T) {
	ring, star := &draw.Scene{}, &draw.Scene{Down: true}
	for i := range 3000 {
		b := draw.Box{ID: fmt.Sprint(i), Name: "pkg", Group: -1, Layer: -1}
		ring.Boxes, star.Boxes = append(ring.Boxes, b), append(star.Boxes, b)
		ring.Lines = append(ring.Lines, draw.Line{From: i, To: (i + 1) % 3000})
		if i > 0 && i < 2001 {
			star.Lines = append(star.Lines, draw.Line{From: 0, To: i})
		}
	}
	sound(t, draw.Lay(ring, draw.Small))
	sound(t, draw.Lay(star, draw.Small))
}

func TestNamesOfAllKinds(t *testing.T) {
	s := scene("a b")
	for i, name := range []string{strings.Repeat("avalanche", 45), "山岳救助隊の出動", "صفحة إنقاذ", "a\x1b[31mred\ttab\n", "e\u0301te\u0301", "🏔 peak", ""} {
		s.Boxes = append(s.Boxes, draw.Box{ID: fmt.Sprint("more", i), Name: name, Group: -1, Layer: -1})
		s.Lines = append(s.Lines, draw.Line{From: 0, To: len(s.Boxes) - 1})
	}
	for _, size := range []draw.Size{draw.Small, draw.Large} {
		p := draw.Lay(s, size)
		sound(t, p)
		for _, lines := range p.Texts {
			for _, line := range lines {
				assert.NotContains(t, line, "\x1b", "nothing reaches a terminal raw")
			}
		}
		assert.Equal(t, 450-45, len(strings.Join(p.Texts[2][:10], "")), "nothing of a long name is lost")
	}
}

func FuzzLay(f *testing.F) {
	f.Add([]byte{5, 0, 1, 1, 2, 2, 0, 3, 4})
	f.Add([]byte{9, 0, 8, 8, 0, 3, 3, 1, 2, 7, 1})
	f.Fuzz(func(t *testing.T, data []byte) {
		if len(data) < 3 || len(data) > 200 {
			return
		}
		n := 1 + int(data[0])%30
		s := &draw.Scene{Down: data[1]%2 == 1}
		for i := range n {
			b := draw.Box{ID: fmt.Sprint(i), Name: strings.Repeat("n", 1+i%9), Group: -1, Layer: -1}
			if data[1]%3 == 1 {
				b.Layer = i % 4
			}
			s.Boxes = append(s.Boxes, b)
		}
		for i := 2; i+1 < len(data); i += 2 {
			s.Lines = append(s.Lines, draw.Line{From: int(data[i]) % n, To: int(data[i+1]) % n})
		}
		sound(t, draw.Lay(s, draw.Size(data[1])%3))
	})
}
