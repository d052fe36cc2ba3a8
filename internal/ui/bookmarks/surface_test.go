package bookmarks

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// project keeps bookmarks in memory.
type project struct {
	lists  []*bookmark.List
	gone   map[string]bool
	fails  error
	shared int
}

func (p *project) Colors(context.Context, string, int) highlight.Spans { return nil }
func (p *project) Bookmarks() (all []*bookmark.List, err error) {
	for _, l := range p.lists {
		all = append(all, l.Clone())
	}
	return all, nil
}

func (p *project) KeepBookmarks(l *bookmark.List) error {
	if p.fails != nil {
		return p.fails
	}
	for i, o := range p.lists {
		if o.ID == l.ID {
			p.lists[i] = l.Clone()
			return nil
		}
	}
	p.lists = append(p.lists, l.Clone())
	return nil
}

func (p *project) RemoveBookmarks(*bookmark.List) error { p.lists = nil; return nil }
func (p *project) ShareBookmarks(_ *bookmark.List, over bool) (string, error) {
	if p.shared++; !over {
		return "", lists.ErrNotWritten
	}
	return "marks.md", nil
}

func (p *project) LocateBookmarks(_ context.Context, l *bookmark.List) {
	for i := range l.Marks {
		l.Marks[i].Fate = place.Same
		if p.gone[l.Marks[i].Path] {
			l.Marks[i].Fate = place.Gone
		}
	}
}

func (p *project) Bookmark(_ *codebase.File, at place.Place, kind bookmark.Kind) bookmark.Mark {
	return bookmark.Mark{Kind: kind, Memory: place.Remember(place.Anchor{Path: at.Path, Line: max(at.Line, 1), Col: 1, Text: "ring()"}), What: map[bool]string{true: "ring"}[at.Line == 3]}
}

func (p *project) IsFolder(path string) bool                                  { return !p.gone[path] }
func (p *project) WalkOfBookmarks(context.Context, *bookmark.List) *walk.Walk { return &walk.Walk{} }
func (p *project) Start(func(ctx context.Context) *walk.Walk) surface.Intent {
	return surface.Say("walking")
}
func (p *project) Export(file string, _ func(context.Context) *walk.Walk) surface.Intent {
	return surface.Say("to %s", file)
}

type driven struct {
	*Surface
	host *uitest.Host
	p    *project
}

func onHut() *driven {
	host, p := &uitest.Host{}, &project{gone: map[string]bool{}}
	d := &driven{NewSurface(host, p, p), host, p}
	d.Resize(110, 16)
	d.at("huts/hut.go", 3)
	return d
}

func (d *driven) at(path string, line int) {
	f := &codebase.File{Path: path, Text: text.NewDocument([]byte("a\nb\nring()\n"))}
	d.host.At = surface.Here{File: f, View: trail.View{Place: place.Place{Path: path, Line: line, Col: 1}}}
}

func (d *driven) do(a keymap.Action) surface.Intent {
	return uitest.Last(uitest.Carry(d.Commands()[a]()))
}

func TestPuttingAndTaking(t *testing.T) {
	d := onHut()
	assert.Contains(t, d.do(keymap.Bookmarks).Say, "there is no bookmark yet")
	todo := d.do(keymap.Bookmark)
	assert.Contains(t, todo.Say, "a bookmark on hut.go 3, ring is in the list")
	assert.True(t, todo.Marked)
	require.Len(t, d.p.lists, 1)
	assert.Equal(t, "1 bookmark", d.Count())
	lines := map[int]string{}
	d.Margin("huts/hut.go", func(line int, letter string) { lines[line] = letter })
	assert.Equal(t, map[int]string{3: ""}, lines)
	assert.Contains(t, d.do(keymap.Bookmark).Say, "is taken away; B u brings it back")
	assert.Empty(t, d.Count())
	assert.Contains(t, d.do(keymap.BookmarkUndo).Say, "is back in the list")
	assert.Contains(t, d.do(keymap.BookmarkFolder).Say, "the folder huts")
	d.at("huts/hut.go", 1)
	assert.Contains(t, d.do(keymap.BookmarkSymbol).Say, "the caret is in no symbol")
	d.host.At.File = nil
	assert.Contains(t, d.do(keymap.Bookmark).Say, "there is no line here")
}

func TestLetters(t *testing.T) {
	d := onHut()
	ask := func(keys ...string) surface.Intent {
		todo := d.do(keymap.BookmarkLetter)
		require.NotNil(t, todo.Open)
		return uitest.Last(uitest.Press(todo.Open, keys...))
	}
	assert.Contains(t, ask("r").Say, "r is hut.go 3, ring now: ; r goes there")
	assert.Contains(t, ask("r").Say, "r is this line already")
	d.at("huts/hut.go", 1)
	line := d.do(keymap.BookmarkLetter).Open
	todo := uitest.Last(uitest.Press(line, "r"))
	assert.False(t, todo.Close, "one that is taken is asked about")
	assert.Contains(t, uitest.Of(line, 120, 1), "once more moves it to this line")
	assert.Contains(t, uitest.Last(uitest.Press(line, "r")).Say, "r is hut.go 1 now")
	assert.Contains(t, ask("%").Say, "cannot be the letter of a bookmark")
	assert.Equal(t, surface.Close(), ask("esc"))
	assert.Contains(t, ask("7").Say, "7 goes there")
	assert.Equal(t, "huts/hut.go", uitest.Last(uitest.Carry(d.ByLetter("7"))).Go.Path)
	assert.Contains(t, uitest.Last(uitest.Carry(d.ByLetter("q"))).Say, "no bookmark is q")
}

func TestGoingThere(t *testing.T) {
	d := onHut()
	d.do(keymap.Bookmark)
	d.do(keymap.BookmarkFolder)
	all := d.All()
	assert.Equal(t, "bookmark", uitest.Last(uitest.Carry(d.ByKey(all[0].Mark().Key, "bookmark"))).Go.How)
	assert.Equal(t, "huts", uitest.Last(uitest.Carry(d.ByKey(all[1].Mark().Key, ""))).Folder)
	d.p.gone["huts"], d.p.gone["huts/hut.go"] = true, true
	assert.Equal(t, "the folder huts is gone", uitest.Last(uitest.Carry(d.ByKey(all[1].Mark().Key, ""))).Say)
	todo := uitest.Last(uitest.Carry(d.ByKey(all[0].Mark().Key, "")))
	assert.Nil(t, todo.Go)
	assert.Contains(t, todo.Say, "is gone: ring(). It stays in the list")
	assert.Contains(t, d.ByKey("none", "").Say, "taken away meanwhile")
	assert.NotNil(t, d.In("huts/hut.go"))
	assert.Nil(t, d.In("other.go"))
	uitest.Carry(d.Moved("huts", "shelters"))
	assert.NotNil(t, d.In("shelters/hut.go"))
	assert.Equal(t, 1, d.Holding()["shelters/hut.go"])
}

func TestTheSheetActs(t *testing.T) {
	d := onHut()
	d.do(keymap.Bookmark)
	d.at("huts/hut.go", 1)
	d.do(keymap.Bookmark)
	todo := d.do(keymap.Bookmarks)
	assert.Same(t, d.Surface, todo.Open)
	assert.NotNil(t, todo.Look)
	press := func(keys ...string) surface.Intent { return uitest.Last(uitest.Press(d.Surface, keys...)) }
	assert.Contains(t, press("alt+d").Say, "Alt+U brings it back")
	assert.Contains(t, press("alt+u").Say, "is back")
	press("alt+n", "ask the warden", "enter")
	assert.Contains(t, uitest.Of(d.Surface, 110, 16), "ask the warden")
	assert.Equal(t, "walking", press("alt+g").Say)
	d.do(keymap.Bookmarks)
	assert.Equal(t, "to bookmarks.md", press("alt+h", "enter").Say)
	last := press("enter")
	assert.True(t, last.Leave)
	assert.Equal(t, "huts/hut.go", last.Go.Path)
	d.do(keymap.BookmarkLists)
	press("alt+y")
	assert.Equal(t, 1, d.p.shared, "what is there is asked about first")
	assert.Contains(t, press("alt+y").Say, "the list is written to marks.md")
	d.p.fails = errors.New("no space")
	assert.Equal(t, "no space", press("alt+r", "x", "enter").Say)
	d.p.fails = nil
	assert.True(t, press("alt+d", "alt+d").Close, "the last list is forgotten")
}

// A list that is read twice, or was begun meanwhile, is there once; what others have done is taken in.
func TestReadTwice(t *testing.T) {
	d := onHut()
	d.do(keymap.Bookmark)
	uitest.Carry(surface.Begin(d.Load()))
	uitest.Carry(surface.Begin(d.Load()))
	assert.Len(t, d.All(), 1)
	d.p.lists[0].Add(bookmark.Mark{Kind: bookmark.File, Memory: place.Remember(place.Anchor{Path: "team.go", Line: 1, Col: 1})})
	todo := d.do(keymap.Bookmarks)
	assert.True(t, todo.Anew)
	assert.Len(t, d.All(), 2)
	d.Touched()()
	assert.NotNil(t, d.do(keymap.BookmarkNext).Go)
}
