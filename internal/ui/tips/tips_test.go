package tips

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

const huts = `package huts

// Open lets the team in.
func Open(key string) error {
	if key == "" {
		return errNoKey
	}
	ring(key)
	note(key)
	return nil
}

func ring(key string) {}
`

// desk is a program around one file.
type desk struct {
	code  code.Model
	leads Leads
}

func (d *desk) Code() *code.Model { return &d.code }
func (d *desk) Leads() Leads      { return d.leads }

var noon = time.Date(2031, 3, 4, 12, 0, 0, 0, time.UTC)

func begin(t *testing.T) (*desk, *Model, *habit.Book) {
	f := &codebase.File{Path: "huts/open.go", Text: text.NewDocument([]byte(huts))}
	var err error
	f.Facts, err = catalog.Set().Of(f.Path).Facts(t.Context(), []byte(huts))
	assert.NoError(t, err)
	d := &desk{}
	d.code.Resize(80, 20)
	d.code.Show(f, trail.View{Place: place.Place{Path: f.Path, Line: 4, Col: 6}})
	m := New(d, keymap.Default(), func() surface.Intent { return surface.Say("off") })
	book := &habit.Book{}
	m.Know(book)
	m.now = func() time.Time { return noon }
	return d, m, book
}

// said is what is said when the caret stands still, with the keys in it.
func said(m *Model) string { return keymap.Default().Fill(m.Stands(true).Say, false) }

// press does a command so many times.
func (d *desk) press(m *Model, a keymap.Action, times int) {
	for range times {
		m.Did(a, false)
		switch a {
		case keymap.Down:
			d.code.Move(1)
		case keymap.Up:
			d.code.Move(-1)
		case keymap.Right:
			d.code.Side(1)
		case keymap.Left:
			d.code.Side(-1)
		case keymap.PageDown:
			d.code.Page(1)
		}
	}
}

func TestWhoWalksWithArrows(t *testing.T) {
	for _, c := range []struct {
		line, col int
		action    keymap.Action
		times     int
		want      keymap.Action
	}{
		{4, 6, keymap.Down, 9, keymap.NextSymbol},
		{4, 1, keymap.Down, 9, keymap.NextSymbol},
		{4, 6, keymap.Down, 7, keymap.SymbolEnd},
		{4, 6, keymap.Down, 6, ""},
		{3, 1, keymap.Down, 1, ""},
		{13, 6, keymap.Up, 9, keymap.PreviousSymbol},
		{11, 1, keymap.Up, 7, keymap.PreviousSymbol},
		{5, 2, keymap.Right, 13, keymap.LineEnd},
		{5, 2, keymap.Right, 8, keymap.WordRight},
		{5, 12, keymap.Left, 10, keymap.LineStart},
		{5, 2, keymap.Right, 3, ""},
		{1, 1, keymap.PageDown, 4, keymap.FileEnd},
	} {
		d, m, book := begin(t)
		d.code.Show(d.code.File(), trail.View{Place: place.Place{Path: d.code.Path(), Line: c.line, Col: c.col}})
		d.press(m, c.action, c.times)
		got := said(m)
		if c.want == "" {
			assert.Empty(t, got, "%v", c)
			continue
		}
		assert.Contains(t, got, keymap.Default().Key(c.want), "%v", c)
		assert.Equal(t, 1, book.Of(string(c.want)).Missed, "%v: %s", c, got)
		assert.Empty(t, said(m), "once")
	}
}

func TestWhoGoesByAList(t *testing.T) {
	at := func(p string, line int) place.Place { return place.Place{Path: p, Line: line, Col: 1} }
	for _, c := range []struct {
		leads  Leads
		opened keymap.Action
		visit  surface.Visit
		to     place.Place
		want   keymap.Action
	}{
		{Leads{Back: at("a.go", 7)}, keymap.Scout, surface.Visit{Path: "a.go"}, at("a.go", 90), keymap.Back},
		{Leads{Back: at("a.go", 7)}, keymap.Scout, surface.Visit{Path: "a.go", Line: 90}, at("a.go", 90), ""},
		{Leads{Forward: at("a.go", 7)}, keymap.Tree, surface.Visit{Path: "a.go"}, at("a.go", 1), keymap.Forward},
		{Leads{Edited: at("b.go", 7)}, keymap.Scout, surface.Visit{Path: "b.go"}, at("b.go", 7), keymap.EditBack},
		{Leads{NextView: "b.go"}, keymap.Scout, surface.Visit{Path: "b.go"}, at("b.go", 1), keymap.NextView},
		{Leads{}, keymap.Scout, surface.Visit{Path: "huts/open_test.go"}, at("huts/open_test.go", 1), keymap.Related},
		{Leads{Name: "ring", Definition: "huts/open.go"}, keymap.Scout, surface.Visit{Path: "huts/open.go", Line: 13, Symbol: "huts.ring"}, at("huts/open.go", 13), keymap.Definition},
		{Leads{Back: at("a.go", 7)}, keymap.Scout, surface.Visit{Path: "a.go", Turn: true}, at("a.go", 7), ""},
		{Leads{Back: at("a.go", 7)}, keymap.Grow, surface.Visit{Path: "a.go"}, at("a.go", 7), ""},
	} {
		d, m, _ := begin(t)
		d.leads = c.leads
		m.Did(c.opened, false)
		m.Arrived(c.visit, c.to)
		if c.want == "" {
			assert.Empty(t, said(m), "%v", c)
		} else {
			assert.Contains(t, said(m), keymap.Default().Key(c.want)+" ", "%v", c)
		}
	}
}

func TestWhoComesBackAtOnce(t *testing.T) {
	_, m, _ := begin(t)
	for range 2 {
		m.Did(keymap.Definition, false)
		m.Did(keymap.Down, false)
		m.Did(keymap.Back, false)
	}
	assert.Contains(t, said(m), "D lays a definition beside the code")
	_, m, _ = begin(t)
	for range 2 {
		m.Did(keymap.Definition, false)
		m.Did(keymap.Bookmark, false)
		m.Did(keymap.Back, false)
	}
	assert.Empty(t, said(m))
}

func TestWhoAsksByName(t *testing.T) {
	_, m, book := begin(t)
	for range 2 {
		book.Did(string(keymap.Unused), true, noon)
		m.Did(keymap.Unused, true)
	}
	assert.Contains(t, said(m), "W u")
	book.Did(string(keymap.Palette), true, noon)
	book.Did(string(keymap.Palette), true, noon)
	m.Did(keymap.Palette, true)
	assert.Empty(t, said(m), "it has no key")
}

func TestWhoComesToAPlaceAgainAndAgain(t *testing.T) {
	_, m, _ := begin(t)
	for i := range 3 {
		assert.Empty(t, said(m))
		m.Did(keymap.Scout, false)
		m.Arrived(surface.Visit{Path: "far.go", Line: 80}, place.Place{Path: "far.go", Line: 80, Col: i + 1})
	}
	assert.Contains(t, said(m), "m puts a bookmark")
}

func TestTipsAreEndedWithOneKey(t *testing.T) {
	d, m, _ := begin(t)
	_, taken := m.Key("delete")
	assert.False(t, taken, "there is no tip")
	d.press(m, keymap.Down, 9)
	assert.True(t, strings.HasSuffix(said(m), "(Delete ends tips)"))
	todo, taken := m.Key("delete")
	assert.True(t, taken)
	assert.Equal(t, "off", todo.Say)
	_, taken = m.Key("delete")
	assert.False(t, taken)
}

// The words of tips name commands that there are.
func TestWhatIsSaidOfACommandNamesIt(t *testing.T) {
	for a, w := range words {
		filled := keymap.Default().Fill(keymap.Marked(w), false)
		assert.NotContains(t, filled, "{", a)
		assert.Contains(t, w, "{"+string(a)+"}")
		assert.LessOrEqual(t, len([]rune("tip: "+filled+" (Delete ends tips)")), 76, "at 80 columns: %s", filled)
	}
}
