package trail

import (
	"fmt"
	"math/rand"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
)

func at(path string, line int) View {
	return View{Place: place.Place{Path: path, Line: line, Col: 1}, Top: max(1, line-5)}
}

// names writes the present walk with the present stop in brackets.
func names(t *Trail) (out string) {
	path := t.Path(1000)
	for i, s := range path.Steps {
		name := s.View.Place.Path
		if i == path.Here {
			name = "[" + name + "]"
		}
		if len(s.Stop.Ways()) > 1 {
			name += "<"
		}
		out += name + " "
	}
	return out
}

func walked(paths ...string) *Trail {
	t := &Trail{}
	for _, p := range paths {
		t.Go(at(p, 1), "", "")
	}
	return t
}

func TestBackAndAnotherWayMakesAFork(t *testing.T) {
	tr := walked("a", "b", "c")
	require.True(t, tr.Back())
	assert.Equal(t, "a [b] c ", names(tr))
	tr.Go(at("d", 1), "", "")
	assert.Equal(t, "a b< [d] ", names(tr))
	require.True(t, tr.Back())
	assert.Equal(t, "a [b]< d ", names(tr), "forward goes where one last went")
	require.True(t, tr.Take(tr.Here().Ways()[0]))
	assert.Equal(t, "a b< [c] ", names(tr), "the old way is still there")
	require.True(t, tr.Back())
	require.True(t, tr.Forward())
	assert.Equal(t, "a b< [c] ", names(tr))
	assert.False(t, tr.Forward())
	assert.Equal(t, 4, tr.Count())
	assert.Equal(t, "c", tr.First().End().Title())
}

func TestJumpsThatMakeNoStop(t *testing.T) {
	tr := walked("a", "b", "b")
	assert.Equal(t, "a [b] ", names(tr), "to where one is")
	tr.Back()
	tr.Go(at("b", 1), "", "")
	assert.Equal(t, "a [b] ", names(tr), "along a way that is there")
	tr.Back()
	tr.Forward()
	tr.Rest(at("b", 9))
	tr.Rest(at("b", 300))
	tr.Rest(at("b", 5))
	assert.Equal(t, 2, tr.Count(), "moving about without going anywhere")
}

func TestAPlaceOneKnowsIsThatStop(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Leave(at("c", 9), "")
	tr.Go(at("a", 1), "", "")
	assert.Equal(t, 3, tr.Count())
	assert.Equal(t, "a b c [a] ", names(tr), "the walk leads over it again; what is on it is not said to lie ahead, too")
	require.True(t, tr.Back())
	assert.Equal(t, at("c", 9), tr.Here().View, "back leads to where one was")
	require.True(t, tr.Back())
	require.True(t, tr.Back())
	assert.Equal(t, "[a] b c a ", names(tr))
	assert.False(t, tr.Back())
	tr.Go(at("c", 1), "", "")
	assert.Equal(t, 3, tr.Count(), "where one came to, though one left it elsewhere")
	assert.Len(t, tr.First().Ways(), 2, "and the way that led there is one of those at the fork")
}

func TestAStopPassedTwiceIsLeftTwice(t *testing.T) {
	tr := walked("a", "b")
	tr.Leave(at("b", 7), "")
	tr.Go(at("a", 1), "", "")
	tr.Leave(at("a", 3), "")
	tr.Go(at("b", 1), "", "")
	tr.Leave(at("b", 20), "")
	tr.Back()
	assert.Equal(t, at("a", 3), tr.Here().View)
	tr.Back()
	assert.Equal(t, at("b", 7), tr.Here().View, "as one left it then")
	tr.Back()
	tr.Forward()
	assert.Equal(t, at("b", 7), tr.Here().View)
}

func TestLeavingFarFromWhereOneCameIsAStop(t *testing.T) {
	tr := walked("a")
	tr.Leave(at("a", 400), "Far")
	tr.Go(at("b", 1), "", "")
	assert.Equal(t, "a a [b] ", names(tr))
	tr.Back()
	assert.Equal(t, "Far", tr.Here().Title())
	assert.Equal(t, 400, tr.Here().View.Place.Line)
	tr.Back()
	assert.Equal(t, 1, tr.Here().View.Place.Line, "where one came to is still there")
}

func TestVisitingAStopLeadsBack(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 1), "", "")
	require.True(t, tr.Visit(tr.Stop(2)))
	assert.Equal(t, "a b< d [c] ", names(tr))
	tr.Back()
	assert.Equal(t, "d", tr.Here().Title())
	assert.Equal(t, 4, tr.Count())
	assert.False(t, tr.Visit(&Stop{}), "of another trail")
}

func TestEmptyTrail(t *testing.T) {
	var tr Trail
	assert.False(t, tr.Back())
	assert.False(t, tr.Forward())
	assert.False(t, tr.Take(nil))
	assert.Empty(t, tr.Path(9).Steps)
	tr.Leave(at("a", 1), "")
	tr.Rename("a", "b")
	assert.Nil(t, tr.Here())
	assert.Zero(t, tr.Cut(nil))
	assert.Zero(t, tr.Uncut())
	news := tr.News()
	assert.True(t, news.Empty())
}

func TestCuttingAway(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 1), "", "")
	assert.Equal(t, 1, tr.Cut(tr.Stop(2)))
	assert.Equal(t, "a b [d] ", names(tr))
	assert.Equal(t, 1, tr.Uncut())
	assert.Equal(t, "a b< [d] ", names(tr))
	assert.Equal(t, 3, tr.Cut(tr.Stop(1)), "with the present stop")
	assert.Equal(t, "[a] ", names(tr))
	assert.Equal(t, 3, tr.Uncut())
	assert.Equal(t, 4, tr.Count())
	assert.Zero(t, tr.Cut(tr.First()), "nothing would be left")
}

func TestJoiningTrails(t *testing.T) {
	tr, other := walked("a", "b"), walked("x", "y")
	tr.Join(other)
	assert.Equal(t, 4, tr.Count())
	assert.Len(t, tr.Firsts(), 2)
	assert.Equal(t, "a [b] ", names(tr), "one stays where one is")
	assert.Equal(t, 2, tr.Cut(tr.Firsts()[0]))
	assert.Equal(t, "[x] y ", names(tr))
	var empty Trail
	empty.Join(other)
	assert.Equal(t, "x [y] ", names(&empty))
	assert.Equal(t, "x [y] ", names(other), "which is as it was")
}

func TestGoingOnWithATrail(t *testing.T) {
	kept, tr := walked("a", "b"), walked("b")
	tr.GoOn(kept)
	assert.Equal(t, "a [b] ", names(tr))
	tr.Go(at("c", 3), "", "")
	var fresh Trail
	fresh.GoOn(tr)
	assert.Equal(t, "a b [c] ", names(&fresh))
	n := fresh.Beginning("snow")
	assert.Equal(t, "[c] ", names(n))
	assert.Equal(t, "snow", n.Name)
}

func TestEditPlaces(t *testing.T) {
	tr := walked("a", "b")
	now := time.Now()
	s := tr.Edit(place.Place{Path: "b", Line: 12, Col: 3}, "F", now)
	assert.Same(t, tr.Here(), s, "near where one is, in what has no name")
	far := tr.Edit(place.Place{Path: "b", Line: 90, Col: 3}, "G", now)
	assert.NotSame(t, s, far)
	assert.Same(t, far, tr.Edit(place.Place{Path: "b", Line: 95, Col: 1}, "G", now.Add(time.Second)), "close together in one function")
	assert.Same(t, far.Parent(), tr.Here())
	assert.Equal(t, "a [b] b ", names(tr))
	var empty Trail
	assert.Same(t, empty.Edit(place.Place{Path: "b", Line: 9, Col: 1}, "G", now), empty.Here())
}

func TestRenamedFiles(t *testing.T) {
	tr := walked("dir/a", "b")
	tr.Rename("dir", "other")
	assert.Equal(t, "other/a [b] ", names(tr))
	assert.Len(t, tr.In("other/a"), 1)
	assert.Empty(t, tr.In("dir/a"))
	tr.Back()
	assert.Equal(t, "other/a", tr.Here().View.Place.Path)
}

func TestWhatWasFoundOutAboutAStop(t *testing.T) {
	tr := walked("a", "b")
	s := tr.First()
	was := place.Remember(place.Anchor{Path: "a", Line: 1, Col: 1, Text: "x"})
	now := was
	now.Line = 6
	tr.Located(s, was, now, place.Moved)
	assert.Equal(t, 6, s.View.Place.Line)
	assert.Equal(t, 6, tr.Previous().View.Place.Line)
	tr.Located(s, was, now, place.Gone)
	assert.Equal(t, place.Moved, s.Fate, "one was there meanwhile")
}

// A stop whose line is gone, as on another branch, does not become one on the line that happens to
// stand there when one goes away from it.
func TestLeavingAStopThatIsGone(t *testing.T) {
	tr := walked("a")
	s := tr.Here()
	was := place.Remember(place.Anchor{Path: "a", Line: 1, Col: 1, Text: "x"})
	tr.Remember(was.Anchor, "")
	tr.Located(s, s.Memory, s.Memory, place.Gone)
	tr.Remember(place.Anchor{Path: "a", Line: 1, Col: 1, Text: "y"}, "")
	assert.Equal(t, "x", s.Memory.Text)
	assert.Equal(t, place.Gone, s.Fate)
	tr.Rest(at("a", 7))
	tr.Remember(place.Anchor{Path: "a", Line: 7, Col: 1, Text: "z"}, "")
	assert.Equal(t, "z", s.Memory.Text, "one went elsewhere there")
	assert.Equal(t, place.Same, s.Fate)
}

// A stop in something that has another name now says so, with or without a package in front, but
// what one came for there stays.
func TestStopsInWhatWasRenamed(t *testing.T) {
	for _, c := range []struct{ symbol, was, now, want string }{
		{"Hut.dig", "huts.Hut.dig", "huts.Hut.deepen", "Hut.deepen"},
		{"dig", "dig", "deepen", "deepen"},
		{"dig", "huts.dig", "", "dig"},
		{"ig", "huts.dig", "huts.deepen", "ig"},
		{"shovel", "huts.dig", "huts.deepen", "shovel"},
		{"", "huts.dig", "huts.deepen", "a"},
	} {
		tr := walked("a")
		s := tr.First()
		s.Symbol = c.symbol
		was := place.Remember(place.Anchor{Path: "a", Line: 1, Col: 1, Text: "x", Symbol: c.was})
		s.Memory = was
		now := was
		now.Symbol = c.now
		tr.Located(s, was, now, place.Same)
		assert.Equal(t, c.want, s.Title(), "%v", c)

		s.Symbol, s.Memory = c.symbol, was
		tr.Remember(now.Anchor, "")
		assert.Equal(t, c.want, s.Title(), "remembered where one is: %v", c)
	}
}

// Whatever one does, the tree stays a tree, back leads to what was on the screen, and what
// is kept is all of it.
func TestRandomWalks(t *testing.T) {
	for seed := range int64(60) {
		random := rand.New(rand.NewSource(seed))
		tr := walked("start")
		screen := at("start", 1)
		var journal Delta
		keep := func() { journal.entries = append(journal.entries, tr.News().entries...) }
		for range 200 {
			screen = at(screen.Place.Path, max(1, screen.Place.Line+random.Intn(80)-40))
			switch random.Intn(9) {
			case 0, 1, 2:
				to := at(fmt.Sprint("f", random.Intn(9)), random.Intn(60)+1)
				tr.Leave(screen, "")
				if tr.Go(to, "", ""); screen.Place.Path != to.Place.Path || screen.Place.Line != to.Place.Line {
					require.Equal(t, screen, tr.Previous().View, "seed %d", seed)
					tr.Back()
					require.Equal(t, screen, tr.Here().View)
					require.True(t, tr.Forward())
				}
			case 3:
				tr.Leave(screen, "")
				tr.Back()
			case 4:
				tr.Leave(screen, "")
				tr.Forward()
			case 5:
				tr.Leave(screen, "")
				if ways := tr.Here().Ways(); len(ways) > 0 {
					require.True(t, tr.Take(ways[random.Intn(len(ways))]))
				}
			case 6:
				tr.Rest(screen)
				tr.Edit(screen.Place, fmt.Sprint("S", random.Intn(3)), time.Now())
				continue
			case 7:
				tr.Leave(screen, "")
				all := tr.All()
				tr.Visit(all[random.Intn(len(all))])
			case 8:
				if s := tr.Stop(random.Intn(len(tr.stops))); s != nil && s.Count() < 5 {
					tr.Leave(screen, "")
					tr.Cut(s)
					if random.Intn(2) == 0 {
						tr.Uncut()
					}
				}
			}
			screen = tr.Here().View
			require.Equal(t, tr.Here(), tr.walk[len(tr.walk)-1].Stop)
			check(t, tr)
			if random.Intn(20) == 0 {
				keep()
			}
		}
		keep()
		sameTrail(t, tr, reread(t, journal))
		sameTrail(t, tr, reread(t, tr.Whole()))
	}
}

func check(t *testing.T, tr *Trail) {
	seen := map[*Stop]bool{}
	for _, f := range tr.Firsts() {
		require.Nil(t, f.Parent())
		f.each(func(s *Stop) {
			require.False(t, seen[s])
			seen[s] = true
			require.Same(t, s, tr.Stop(s.Number()))
			for _, w := range s.Ways() {
				require.Same(t, w, tr.Stop(w.Number()), "a way leads nowhere")
			}
		})
	}
	require.True(t, seen[tr.Here()])
	require.Len(t, seen, len(tr.All()))
}

func TestRecentFiles(t *testing.T) {
	var r Recent
	now := time.Now()
	come := func(path string, after time.Duration) { now = now.Add(after); r.Touch(path, now) }
	come("a", 0)
	come("b", time.Minute)
	come("c", time.Minute)
	come("a", time.Minute)
	assert.Equal(t, []string{"c", "b"}, r.Before("a", false))
	come("oops", time.Minute)
	come("d", time.Second)
	assert.Equal(t, []string{"oops", "a", "c", "b"}, r.Before("d", false), "the one before is always first")
	come("e", time.Minute)
	assert.Equal(t, []string{"d", "a", "c", "b", "oops"}, r.Before("e", false), "what was left at once sinks")
	r.Edit("b")
	assert.Equal(t, []string{"b"}, r.Before("e", true))
	again := NewRecent(r.All(now))
	assert.Equal(t, r.Before("e", false), again.Before("e", false))
	r.Rename("b", "z")
	assert.Equal(t, []string{"z"}, r.Before("e", true))
	for i := range 300 {
		come(fmt.Sprint(i), time.Minute)
	}
	assert.Len(t, r.Before("", false), mostRecent)
}

// laid writes the rows of a drawing with their depth.
func laid(rows []Row) (out []string) {
	for _, r := range rows {
		s := fmt.Sprint(r.Depth, r.Stop.Title())
		if r.Turns {
			s += "/"
		}
		if r.Hidden+r.Skipped > 0 {
			s += fmt.Sprint(" +", r.Hidden+r.Skipped)
		}
		out = append(out, s)
	}
	return out
}

func TestDrawingTheTree(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 1), "", "")
	tr.Go(at("e", 1), "", "")
	tr.Go(at("a", 1), "", "") // a way to where it begins is no branch
	tr.Back()
	assert.Equal(t, []string{"0a", "0b", "1c/", "0d", "0e"}, laid(tr.Layout(nil, 100)), "the way one is on goes straight")
	tr.Visit(tr.Stop(2))
	assert.Equal(t, []string{"0a", "0b", "1d/", "1e", "0c"}, laid(tr.Layout(nil, 100)))
	assert.Equal(t, []string{"0a", "0b", "1d/ +1", "0c"}, laid(tr.Layout(map[*Stop]bool{tr.Stop(3): true}, 100)))
	long := &Trail{}
	for i := range 1000 {
		long.Go(at("f", 1+i), "", "")
	}
	assert.Equal(t, []string{"0f", "0f +996", "0f", "0f"}, laid(long.Layout(nil, 3)))
}

// However long and tangled a trail is, what is drawn of it holds together and counts what
// is left out.
func TestDrawingAnyTree(t *testing.T) {
	for seed := range int64(20) {
		random := rand.New(rand.NewSource(seed))
		var tr Trail
		for range 400 {
			if random.Intn(3) == 0 {
				tr.Back()
				continue
			}
			tr.Go(at(fmt.Sprint("f", random.Intn(12)), random.Intn(40)+1), "", "")
		}
		assert.Len(t, tr.Layout(nil, 1000), tr.Count())
		rows := tr.Layout(nil, 20)
		assert.Less(t, len(rows), 60)
		drawn := map[*Stop]bool{}
		for _, r := range rows {
			assert.False(t, drawn[r.Stop])
			drawn[r.Stop] = true
		}
		for _, s := range tr.Latest(20, false) {
			assert.True(t, drawn[s])
		}
	}
}

func TestChoosingStops(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Back()
	tr.Go(at("d", 1), "", "")
	tr.SetStarred(tr.Stop(2), true)
	tr.SetEdited(tr.Stop(1), time.Now())
	titles := func(c Choice) (out string) {
		for _, s := range tr.Choose(c, "c", time.Now()) {
			out += s.Title()
		}
		return out
	}
	assert.Equal(t, "abd", titles(TheWay))
	assert.Equal(t, "c", titles(Starred))
	assert.Equal(t, "b", titles(Edits))
	assert.Equal(t, "c", titles(InFile))
	assert.Equal(t, "abcd", titles(Today))
	assert.Empty(t, tr.Choose(Today, "", time.Now().Add(48*time.Hour)))
	assert.Equal(t, "d", tr.Latest(1, false)[0].Title())
	assert.Equal(t, "b", tr.Latest(9, true)[0].Title())
	part := tr.Part(tr.Choose(TheWay, "", time.Now()))
	assert.Equal(t, "a", part[2].Parent().Parent().Title())
	assert.NotSame(t, tr.Stop(0), part[0])
}

// A list of places that one works through is one stop, which moves, unless something is left at one.
func TestLeading(t *testing.T) {
	tr := walked("a")
	lead := func(path string, line int) {
		v := at(path, line)
		if !tr.Lead(v, "sweep: x", "") {
			tr.Go(v, "sweep: x", "")
		}
		tr.Leave(v, "")
	}
	lead("b", 1)
	lead("b", 50)
	lead("c", 9)
	assert.Equal(t, "a [c] ", names(tr))
	tr.SetNote(tr.Here(), "look again")
	lead("d", 3)
	lead("e", 3)
	assert.Equal(t, "a c [e] ", names(tr))
	tr.Back()
	tr.Back()
	assert.Equal(t, "a", tr.Here().View.Place.Path)
}

// Looking for the right one among several stops does not lengthen the way back.
func TestSwapping(t *testing.T) {
	tr := walked("a", "b", "c", "d")
	all := tr.All()
	tr.Visit(all[0])
	tr.Swap(all[1])
	tr.Swap(all[2])
	tr.Back()
	assert.Equal(t, "d", tr.Here().View.Place.Path)
	tr.Swap(all[2])
	assert.Equal(t, "c", tr.Here().View.Place.Path)
}

func TestCopy(t *testing.T) {
	tr := walked("a", "b", "c")
	tr.Cut(tr.Here())
	tr.Go(tr.First().View, "by hand", "d")
	c := tr.Copy()
	assert.Equal(t, tr.Count(), c.Count())
	assert.Same(t, tr.Here(), tr.Same(c.Here()))
	for _, s := range c.All() {
		assert.NotNil(t, tr.Same(s))
	}
	tr.SetNote(tr.First(), "later")
	assert.Empty(t, c.First().Note, "it stays as it was")
}
