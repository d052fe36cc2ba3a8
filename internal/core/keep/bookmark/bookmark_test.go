package bookmark_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
)

func mark(path string, line int) bookmark.Mark {
	return bookmark.Mark{Kind: bookmark.Line, Memory: place.Remember(place.Anchor{Path: path, Line: line, Col: 1, Text: fmt.Sprint("line ", line)})}
}

func lines(l *bookmark.List) (out []int) {
	for _, i := range l.Shown() {
		out = append(out, l.Marks[i].Line)
	}
	return out
}

func TestOrderAndUndo(t *testing.T) {
	var b bookmark.Book
	l, made := b.Begin()
	assert.True(t, made)
	for _, n := range []int{30, 10, 20} {
		l.Add(mark("a.go", n))
	}
	assert.Equal(t, []int{30, 10, 20}, lines(l))
	assert.True(t, l.Shift(2, -1))
	assert.Equal(t, []int{30, 20, 10}, lines(l))
	assert.False(t, l.Shift(0, -1), "it is the first")
	l.SetByFile(true)
	assert.Equal(t, []int{10, 20, 30}, lines(l))
	l.SetByFile(false)

	b.Remove(bookmark.Spot{List: l, Item: 1})
	assert.Equal(t, []int{30, 10}, lines(l))
	s, ok := b.Undo()
	require.True(t, ok)
	assert.Equal(t, 20, s.Mark().Line)
	assert.Equal(t, []int{30, 20, 10}, lines(l), "where it was")
	_, ok = b.Undo()
	assert.False(t, ok)
}

// Two programs that both begin with a bookmark have begun one list.
func TestTwoProgramsBegin(t *testing.T) {
	st := bookmark.NewStore(t.TempDir())
	for n := range 2 {
		var b bookmark.Book
		l, _ := b.Begin()
		l.Add(mark("a.go", n+1))
		require.NoError(t, st.Save(l))
	}
	lists, err := st.Load()
	require.NoError(t, err)
	forgetful := bookmark.Book{Lists: slices.Clone(lists)}
	forgetful.Drop(lists[0])
	again, _ := forgetful.Begin()
	assert.NotEqual(t, lists[0].ID, again.ID, "what is forgotten stays so")
	require.Len(t, lists, 1)
	assert.ElementsMatch(t, []int{1, 2}, lines(lists[0]))
}

func TestLetters(t *testing.T) {
	var b bookmark.Book
	l, _ := b.Begin()
	l.Add(mark("a.go", 1))
	l.Add(mark("a.go", 2))
	l.SetLetter(0, "d")
	s, ok := b.Lettered("d")
	require.True(t, ok)
	assert.Equal(t, 1, s.Mark().Line)
	time.Sleep(time.Millisecond)
	l.SetLetter(1, "d") // as another program may have done
	s, _ = b.Lettered("d")
	assert.Equal(t, 2, s.Mark().Line, "the one set last")
	b.Remove(s)
	s, _ = b.Lettered("d")
	assert.Equal(t, 1, s.Mark().Line)
	_, ok = b.Lettered("")
	assert.False(t, ok)
}

func TestGoingThroughAList(t *testing.T) {
	l := bookmark.NewList("x")
	for _, at := range []struct {
		path string
		line int
	}{{"b.go", 5}, {"a.go", 9}, {"a.go", 2}} {
		l.Add(mark(at.path, at.line))
	}
	next := func(at int, here place.Place, forward bool) string {
		key := ""
		if at >= 0 {
			key = l.Marks[at].Key
		}
		i, round, ok := l.Next(key, here, forward)
		require.True(t, ok)
		s := l.Marks[i].Place().String()
		if round {
			s += " again"
		}
		return s
	}
	here := place.Place{Path: "a.go", Line: 5}
	assert.Equal(t, "b.go:5:1", next(-1, here, true))
	assert.Equal(t, "a.go:9:1", next(0, here, true))
	assert.Equal(t, "b.go:5:1 again", next(2, here, true))
	assert.Equal(t, "a.go:2:1 again", next(0, here, false))
	l.SetByFile(true)
	assert.Equal(t, "a.go:9:1", next(0, here, true))
	assert.Equal(t, "a.go:2:1", next(0, here, false))
	assert.Equal(t, "a.go:2:1 again", next(0, place.Place{Path: "z.go", Line: 1}, true))
	for i := range l.Marks {
		l.Marks[i].Fate = place.Gone
	}
	_, _, ok := l.Next("", here, true)
	assert.False(t, ok, "what is gone is passed over")
}

func TestListsAreMovedBetweenAndJoined(t *testing.T) {
	var b bookmark.Book
	one, two := bookmark.NewList("one"), bookmark.NewList("two")
	b.Lists = []*bookmark.List{one, two}
	one.Add(mark("a.go", 1))
	one.Add(mark("a.go", 2))
	one.SetLetter(0, "q")
	b.MoveTo(bookmark.Spot{List: one, Item: 0}, two)
	assert.Equal(t, []int{2}, lines(one))
	assert.Equal(t, []int{1}, lines(two))
	s, ok := b.Lettered("q")
	require.True(t, ok)
	assert.Same(t, two, s.List, "the letter goes with it")
	assert.Equal(t, 1, b.Join(one, two))
	assert.Equal(t, []int{1, 2}, lines(two))
	assert.Equal(t, 2, b.Count())
	b.Choose(one)
	assert.Same(t, one, b.Present())
	b.Drop(one)
	assert.Same(t, two, b.Present())
	assert.Equal(t, map[string]int{"a.go": 2, ".": 2}, b.Holding())
}

// Whatever two programs do to a list, of each bookmark the later state is kept.
func TestMerging(t *testing.T) {
	l := bookmark.NewList("x")
	l.Add(mark("a.go", 1))
	l.Add(mark("a.go", 2))
	other := l.Clone()
	l.SetNote(0, "mine")
	other.Add(mark("a.go", 3))
	time.Sleep(time.Millisecond)
	other.Remove(1)
	other.Rename("y")
	other.Shift(2, -1)
	l.Merge(other)
	assert.Equal(t, []int{3, 1}, lines(l))
	assert.Equal(t, "y", l.Name)
	assert.Equal(t, "mine", l.Marks[2].Note)
	l.Marks[0].Removed = time.Now().Add(-60 * 24 * time.Hour)
	l.Merge(other.Clone())
	assert.Equal(t, []int{1}, lines(l), "what was taken away long ago is forgotten")
}

func TestSharedLists(t *testing.T) {
	l := bookmark.NewList("Where call-outs go")
	k := mark("dispatch/roster.go", 59)
	k.Kind, k.What, k.Note, k.Letter = bookmark.Symbol, "Roster.Assign", "begins\nhere \"quoted\"", "d"
	l.Add(k)
	l.Add(bookmark.Mark{Kind: bookmark.Folder, Memory: place.Remember(place.Anchor{Path: "dispatch"})})
	data, err := l.Share()
	require.NoError(t, err)
	file := bookmark.SharedFile(l.Name)
	assert.Equal(t, ".rooktrail/bookmarks/where-call-outs-go.toml", file)
	again, refused, err := bookmark.ReadShared(file, data)
	require.NoError(t, err)
	assert.Empty(t, refused)
	assert.Equal(t, "Where call-outs go", again.Name)
	require.Len(t, again.Marks, 2)
	assert.Equal(t, []any{bookmark.Symbol, "Roster.Assign", "begins\nhere \"quoted\"", ""}, []any{again.Marks[0].Kind, again.Marks[0].What, again.Marks[0].Note, again.Marks[0].Letter})
	assert.Equal(t, "line 59", again.Marks[0].Text)

	for _, evil := range []string{"../secret", "/etc/passwd", "a/../../b", `..\\x`, "C:/x"} {
		l, refused, err := bookmark.ReadShared("x.toml", []byte(fmt.Sprintf("[[bookmark]]\npath = %q\n[[bookmark]]\npath = \"fine.go\"\nkind = \"odd\"\n", evil)))
		require.NoError(t, err)
		assert.Len(t, refused, 1, evil)
		require.Len(t, l.Marks, 1)
		assert.Equal(t, bookmark.Line, l.Marks[0].Kind)
		assert.Equal(t, "x", l.Name)
	}
	_, _, err = bookmark.ReadShared("x.toml", []byte("name = 'a'\n[[bookmark]\n"))
	assert.ErrorContains(t, err, "in line 2")
	many, _, err := bookmark.ReadShared("x.toml", []byte(strings.Repeat("[[bookmark]]\npath = 'a'\n", 5001)))
	assert.ErrorContains(t, err, "more than 5000")
	assert.Len(t, many.Marks, 5000)
	assert.Equal(t, ".rooktrail/bookmarks/bookmarks.toml", bookmark.SharedFile("///"))
}

func FuzzReadShared(f *testing.F) {
	l := bookmark.NewList("x")
	l.Add(mark("a.go", 3))
	data, _ := l.Share()
	f.Add(data)
	f.Add([]byte("[[bookmark]]\npath = \"../x\"\nline = -5\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		l, _, err := bookmark.ReadShared("f.toml", data)
		if err != nil {
			return
		}
		for i := range l.Marks {
			if !place.IsInside(l.Marks[i].Path) || l.Marks[i].Line < 1 {
				t.Fatal(l.Marks[i])
			}
		}
	})
}

// Two programs have given one letter to two lines: the later one has it, in both.
func TestTakingInWhatOthersDid(t *testing.T) {
	mine := bookmark.NewList("a")
	one := *mine.Add(bookmark.Mark{Letter: "d", Memory: place.Memory{Anchor: place.Anchor{Path: "a.go", Line: 1}}})
	theirs := mine.Clone()
	time.Sleep(time.Millisecond)
	two := *theirs.Add(bookmark.Mark{Letter: "d", Memory: place.Memory{Anchor: place.Anchor{Path: "b.go", Line: 2}}})
	another := bookmark.NewList("b")
	book := bookmark.Book{Lists: []*bookmark.List{mine}}
	changed := book.TakeIn([]*bookmark.List{theirs, another})
	assert.Len(t, changed, 1)
	assert.Len(t, book.Lists, 2)
	letters := map[string]string{}
	for _, s := range book.All() {
		letters[s.Mark().Key] = s.Mark().Letter
	}
	assert.Equal(t, map[string]string{one.Key: "", two.Key: "d"}, letters)
	assert.Empty(t, book.TakeIn([]*bookmark.List{theirs}), "it is settled")
}
