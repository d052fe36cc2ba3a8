package bookmarks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/ui/bookmarks"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/uitest"
)

func drawn(m *bookmarks.Model) string {
	return uitest.Text(m.Rows(140, &palette.Plain))
}

func mark(path string, line int, text, letter string) bookmark.Mark {
	return bookmark.Mark{Kind: bookmark.Line, Letter: letter, Memory: place.Remember(place.Anchor{Path: path, Line: line, Col: 1, Text: text})}
}

// opened is the sheet of a book with a list of one's own, another one and a shared one.
func opened(chooseList bool) (*bookmarks.Model, *bookmark.Book) {
	huts, snow, shared := bookmark.NewList("huts"), bookmark.NewList("snow"), bookmark.NewList("tour")
	huts.Add(mark("huts/hut.go", 3, "open(hut)", "o"))
	huts.Add(mark("huts/hut.go", 9, "shut(hut)", ""))
	snow.Add(mark("snow/depth.go", 5, "measure()", "s"))
	shared.Shared = "docs/tour.toml"
	shared.Add(mark("board/board.ts", 7, "draw()", ""))
	book := &bookmark.Book{Lists: []*bookmark.List{huts, snow, shared}}
	book.Choose(huts)
	m := bookmarks.New(func(string, int) highlight.Spans { return nil })
	m.Open(book, chooseList, "", 16)
	return m, book
}

func press(m *bookmarks.Model, keys ...string) (last bookmarks.Event) {
	for _, k := range uitest.Keys(keys...) {
		last = m.Key(k)
	}
	return last
}

func TestWhatIsListed(t *testing.T) {
	m, _ := opened(false)
	for _, want := range []string{"huts", "snow", "tour, shared in docs/tour.toml", "o  line", "open(hut)", "hut.go 3", `new ones go to "huts"`, "its letter goes there at once"} {
		assert.Contains(t, drawn(m), want)
	}
	m, _ = opened(true)
	for _, want := range []string{"lists of bookmarks", "present", "2 bookmarks", "shared", "in docs/tour.toml"} {
		assert.Contains(t, drawn(m), want)
	}
}

func TestGoingToABookmark(t *testing.T) {
	m, _ := opened(false)
	e := press(m, "s")
	assert.Equal(t, bookmarks.Taken, e.Kind, "its letter")
	assert.Equal(t, "snow/depth.go", e.Spot.Mark().Path)
	e = press(m, "down", "enter")
	assert.Equal(t, []any{bookmarks.Taken, 9}, []any{e.Kind, e.Spot.Mark().Line})
	assert.Equal(t, bookmarks.Said, press(m, "x").Kind, "no bookmark has this letter")
	press(m, "/", "draw")
	assert.NotContains(t, drawn(m), "open(hut)")
	e = press(m, "enter")
	assert.Equal(t, "board/board.ts", e.Spot.Mark().Path, "narrowed by typing")
	assert.Equal(t, bookmarks.Selected, press(m, "esc").Kind, "first all are there again")
	assert.Equal(t, bookmarks.Closed, press(m, "esc").Kind)
}

func TestChangingABookmark(t *testing.T) {
	m, book := opened(false)
	huts, snow := book.Lists[0], book.Lists[1]
	e := press(m, "alt+n", "ask them", "enter")
	assert.Equal(t, bookmarks.Changed, e.Kind)
	assert.Equal(t, "ask them", huts.Marks[0].Note)
	m.Refresh()
	assert.Contains(t, drawn(m), "ask them")
	e = press(m, "down", "alt+l", "s")
	assert.Len(t, e.Lists, 2, "the letter leaves the bookmark that had it")
	assert.Equal(t, []string{"s", ""}, []string{huts.Marks[1].Letter, snow.Marks[0].Letter})
	press(m, "alt+l", "backspace")
	assert.Empty(t, huts.Marks[1].Letter)
	press(m, "alt+up")
	assert.Equal(t, 9, huts.Marks[huts.Shown()[0]].Line, "moved up")
	press(m, "alt+z")
	assert.True(t, huts.ByFile)
	assert.Equal(t, bookmarks.Said, press(m, "alt+down").Kind, "in the order of the files nothing moves")
	assert.Equal(t, bookmarks.Removed, press(m, "alt+d").Kind)
	assert.Equal(t, bookmarks.Undone, press(m, "alt+u").Kind)
	assert.Equal(t, bookmarks.Guided, press(m, "alt+g").Kind)
	e = press(m, "alt+h", "enter")
	assert.Equal(t, []any{bookmarks.Exported, "huts.md"}, []any{e.Kind, e.Words})
	press(m, "down", "down", "down", "down")
	assert.Equal(t, bookmarks.Said, press(m, "alt+n").Kind, "a shared list is only read")
}

func TestMovingToAnotherList(t *testing.T) {
	m, book := opened(false)
	press(m, "alt+j")
	assert.Contains(t, drawn(m), "to which list?")
	assert.NotContains(t, drawn(m), "shared", "nothing is put into a shared list")
	e := press(m, "enter")
	assert.Len(t, e.Lists, 2)
	assert.Len(t, book.Lists[1].Shown(), 2)
	press(m, "alt+j", "alt+b", "other", "enter")
	require.Len(t, book.Lists, 4)
	assert.Equal(t, "other", book.Lists[3].Name)
	assert.Len(t, book.Lists[3].Shown(), 1)
	press(m, "alt+j")
	assert.Equal(t, bookmarks.Selected, press(m, "esc").Kind, "back to the bookmarks")
}

func TestLists(t *testing.T) {
	m, book := opened(true)
	huts, snow := book.Lists[0], book.Lists[1]
	press(m, "alt+r", " and more", "enter")
	assert.Equal(t, "huts and more", huts.Name)
	assert.Equal(t, bookmarks.Said, press(m, "alt+j").Kind, "the present list cannot join itself")
	press(m, "down", "alt+j")
	assert.Len(t, huts.Shown(), 3)
	press(m, "alt+p")
	assert.Len(t, book.Lists, 4)
	assert.Contains(t, drawn(m), "snow")
	press(m, "alt+b", "tracks", "enter")
	assert.Equal(t, "tracks", book.Lists[len(book.Lists)-1].Name)
	e := press(m, "alt+d")
	assert.Equal(t, bookmarks.Nothing, e.Kind, "it asks first")
	assert.Contains(t, drawn(m), "forget this list")
	e = press(m, "alt+d")
	assert.Equal(t, bookmarks.Dropped, e.Kind)
	assert.Same(t, snow, e.Lists[0])
	press(m, "alt+d", "esc")
	assert.NotContains(t, drawn(m), "forget this list, with", "left as it is")
	assert.Equal(t, bookmarks.Shared, press(m, "alt+y").Kind)
	m.AskOver()
	assert.Contains(t, drawn(m), "Alt+Y writes it over")
	assert.True(t, press(m, "alt+y").Over)
	press(m, "down")
	assert.Equal(t, bookmarks.Said, press(m, "alt+r").Kind, "a shared list is only read")
	e = press(m, "up", "enter")
	assert.Equal(t, bookmarks.Changed, e.Kind, "new ones go there")
	assert.Contains(t, drawn(m), `new ones go to "snow"`)
}

func TestAnEmptyBook(t *testing.T) {
	m := bookmarks.New(func(string, int) highlight.Spans { return nil })
	m.Open(&bookmark.Book{}, false, "", 16)
	assert.Contains(t, drawn(m), "no bookmark is in any list; m puts one on a line")
	for _, k := range []string{"enter", "down", "alt+n", "alt+l", "alt+d", "alt+up", "alt+h", "alt+y", "alt+b", "alt+g", "alt+s", "alt+r", "alt+j", "enter", "alt+d"} {
		assert.NotPanics(t, func() { press(m, k); drawn(m) }, k)
	}
}
