package trail

import (
	"fmt"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/place"
)

func at(path string, line int) View {
	return View{Place: place.Place{Path: path, Line: line, Col: 1}, Top: max(1, line-5)}
}

// names writes the present way with the present stop in brackets.
func names(t *Trail) (out string) {
	stops, here := t.Path()
	for i, s := range stops {
		name := s.Came.Path
		if i == here {
			name = "[" + name + "]"
		}
		if s.Fork() {
			name += "<"
		}
		out += name + " "
	}
	return out
}

func TestBackAndAnotherWayMakesAFork(t *testing.T) {
	var tr Trail
	for _, p := range []string{"a", "b", "c"} {
		tr.Go(at(p, 1), "", "")
	}
	require.True(t, tr.Back())
	assert.Equal(t, "a [b] c ", names(&tr))
	tr.Go(at("d", 1), "", "")
	assert.Equal(t, "a b< [d] ", names(&tr))
	require.True(t, tr.Back())
	assert.Equal(t, "a [b]< d ", names(&tr), "forward goes where one last went")
	require.True(t, tr.Take(tr.Here().Ways()[0]))
	assert.Equal(t, "a b< [c] ", names(&tr), "the old way is still there")
	require.True(t, tr.Back())
	require.True(t, tr.Forward())
	assert.Equal(t, "a b< [c] ", names(&tr))
	assert.False(t, tr.Forward())
	assert.Equal(t, 4, tr.First().Count())
}

func TestJumpsThatMakeNoStop(t *testing.T) {
	var tr Trail
	tr.Go(at("a", 1), "", "")
	tr.Go(at("b", 1), "", "")
	tr.Go(at("b", 1), "", "")
	assert.Equal(t, "a [b] ", names(&tr), "to where one is")
	tr.Back()
	tr.Go(at("b", 1), "", "")
	assert.Equal(t, "a [b] ", names(&tr), "along a way that is there")
}

func TestBackRestoresTheViewThatWasLeft(t *testing.T) {
	var tr Trail
	tr.Go(at("a", 1), "", "")
	left := View{Place: place.Place{Path: "a", Line: 70, Col: 9}, Top: 61, Left: 4}
	tr.Leave(left)
	tr.Go(at("b", 1), "", "")
	tr.Back()
	assert.Equal(t, left, tr.Here().View)
}

func TestEmptyTrail(t *testing.T) {
	var tr Trail
	assert.False(t, tr.Back())
	assert.False(t, tr.Forward())
	assert.False(t, tr.Take(nil))
	stops, _ := tr.Path()
	assert.Empty(t, stops)
	tr.Leave(at("a", 1))
	assert.Nil(t, tr.Here())
}

// Whatever one does, the tree stays a tree and back leads to what was left.
func TestRandomWalks(t *testing.T) {
	for seed := range int64(50) {
		random := rand.New(rand.NewSource(seed))
		var tr Trail
		tr.Go(at("start", 1), "", "")
		for range 200 {
			switch random.Intn(4) {
			case 0, 1:
				left := tr.Here()
				v := at(left.View.Place.Path, random.Intn(50)+1)
				tr.Leave(v)
				tr.Go(at(fmt.Sprint("f", random.Intn(9)), random.Intn(9)), "", "")
				if tr.Here() != left {
					require.Same(t, left, tr.Here().Parent())
					tr.Back()
					require.Equal(t, v, tr.Here().View)
					require.True(t, tr.Forward())
				}
			case 2:
				tr.Back()
			case 3:
				if ways := tr.Here().Ways(); len(ways) > 0 {
					require.True(t, tr.Take(ways[random.Intn(len(ways))]))
				}
			}
			seen := map[*Stop]bool{}
			check(t, tr.First(), seen)
			require.True(t, seen[tr.Here()])
			require.Equal(t, len(seen), tr.First().Count())
		}
	}
}

func check(t *testing.T, s *Stop, seen map[*Stop]bool) {
	require.False(t, seen[s])
	seen[s] = true
	for _, w := range s.Ways() {
		require.Same(t, s, w.Parent())
		check(t, w, seen)
	}
}

func TestRecentFiles(t *testing.T) {
	var r Recent
	for _, p := range []string{"a", "b", "c", "a"} {
		r.Touch(p)
	}
	assert.Equal(t, []string{"c", "b"}, r.Before("a"))
	for i := range 300 {
		r.Touch(fmt.Sprint(i))
	}
	assert.Len(t, r.Before(""), mostRecent)
}
