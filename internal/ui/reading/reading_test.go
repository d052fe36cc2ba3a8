package reading_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/selection"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/reading"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

const hut = "package huts\n\nfunc open(a int) {\n\tif a > 1 {\n\t\tring(a)\n\t}\n}\n\nfunc ring(a int) {\n\t_ = a\n}\n"

// desk is a file on the screen.
type desk struct {
	uitest.Host
	code    code.Model
	writing bool
}

func (d *desk) Code() *code.Model { return &d.code }
func (d *desk) Writing() bool     { return d.writing }

func (d *desk) Here() surface.Here {
	return surface.Here{File: d.code.File(), View: d.code.State(), Offset: d.code.Offset()}
}

// project knows the ground of the file, and what goes with it.
type project struct{ related []codebase.Related }

func (project) Ground(_ context.Context, f *codebase.File) *selection.Ground {
	return &selection.Ground{Doc: f.Text, Regions: f.Regions(), Facts: f.Facts}
}

func (p project) Related(context.Context, string) []codebase.Related { return p.related }

func file() *codebase.File {
	def := func(name string, at, from, to int) facts.Def {
		return facts.Def{Name: name, Kind: facts.Function, At: place.Range{Start: uint32(at), End: uint32(at + len(name))}, Full: place.Range{Start: uint32(from), End: uint32(to)}}
	}
	return &codebase.File{Path: "hut.go", Text: text.NewDocument([]byte(hut)), Facts: &facts.File{Language: "Go", Defs: []facts.Def{def("open", 19, 14, 66), def("ring", 73, 68, len(hut)-1)}}}
}

func begin(f *codebase.File, p project) (*desk, func(a keymap.Action) surface.Intent) {
	d := &desk{}
	d.code.Resize(60, 20)
	d.code.Show(f, trail.View{Place: place.Place{Path: f.Path, Line: 1, Col: 1}})
	commands := reading.New(d, p, keymap.Default()).Commands()
	return d, func(a keymap.Action) surface.Intent { return uitest.Last(uitest.Carry(commands[a]())) }
}

func line(d *desk) int {
	n, _ := d.code.Caret()
	return n
}

func TestMoving(t *testing.T) {
	d, do := begin(file(), project{})
	assert.True(t, do(keymap.Down).Caret)
	assert.Equal(t, 2, line(d))
	do(keymap.FileEnd)
	assert.Equal(t, 11, line(d))
	do(keymap.FileStart)
	do(keymap.Grow)
	assert.NotZero(t, d.code.Selection().Len())
	do(keymap.Right)
	assert.Zero(t, d.code.Selection().Len(), "a move lets go of the selection")
	assert.True(t, do(keymap.SlideDown).Slid)
	assert.Equal(t, 1, line(d))
}

func TestHops(t *testing.T) {
	d, do := begin(file(), project{})
	do(keymap.NextSymbol)
	assert.Equal(t, 3, line(d))
	do(keymap.NextSymbol)
	assert.Equal(t, 9, line(d))
	assert.Equal(t, "there is no function or type further down", do(keymap.NextSymbol).Say)
	do(keymap.SymbolEnd)
	assert.Equal(t, 11, line(d))
	do(keymap.SymbolStart)
	do(keymap.PreviousSymbol)
	assert.Equal(t, 3, line(d))
	assert.Equal(t, "hut.go imports nothing", do(keymap.Imports).Say)
	d.code.To(43) // on the brace of the condition
	assert.Equal(t, byte('{'), hut[d.code.Offset()])
	do(keymap.Bracket)
	assert.Equal(t, 6, line(d), "the other end of the block")
	f := file()
	f.Facts = nil
	_, do = begin(f, project{})
	assert.Equal(t, "no functions, types or sections are known in this file", do(keymap.NextSymbol).Say)
}

func TestFoldingAndSolo(t *testing.T) {
	d, do := begin(file(), project{})
	assert.Contains(t, do(keymap.FoldAll).Say, "parts are folded")
	assert.Equal(t, "everything is open", do(keymap.FoldAll).Say)
	ask := do(keymap.FoldLevel).Open
	assert.Contains(t, uitest.Of(ask, 80, 1), "fold from which level on")
	assert.Contains(t, uitest.Last(uitest.Press(ask, "backspace", "x", "enter")).Say, "is no level")
	ask = do(keymap.FoldLevel).Open
	assert.Contains(t, uitest.Last(uitest.Press(ask, "backspace", "1", "enter")).Say, "at level 1 and deeper")
	assert.Equal(t, "everything is open", do(keymap.FoldAll).Say)
	m := reading.New(d, project{}, keymap.Default())
	assert.Contains(t, m.FoldLevel(2).Say, "at level 2 and deeper")
	do(keymap.FoldNone)
	d.code.Line(4)
	do(keymap.FoldParent)
	assert.Equal(t, 3, line(d))
	do(keymap.FoldNone)
	assert.Contains(t, do(keymap.Solo).Say, "alone on the screen")
	assert.NotZero(t, d.code.Solo().Len())
	do(keymap.NextSymbol)
	assert.Equal(t, 9, line(d), "its neighbour, alone")
	assert.Contains(t, do(keymap.NextSymbol).Say, "no other function or type on this side")
	do(keymap.Solo)
	assert.Zero(t, d.code.Solo().Len())
	assert.Equal(t, "nothing is selected; + selects what the caret is in", do(keymap.Shrink).Say)
}

func TestFilesThatGoWithIt(t *testing.T) {
	_, do := begin(file(), project{})
	assert.Equal(t, "no file goes with hut.go: no test, no header or style, no file of its name", do(keymap.Related).Say)
	_, do = begin(file(), project{[]codebase.Related{{Path: "hut.h"}}})
	assert.Equal(t, "hut.h", do(keymap.Related).Go.Path)
	_, do = begin(file(), project{[]codebase.Related{{Path: "hut.h"}, {Path: "hut_test.go", Relation: codebase.Test}}})
	todo := do(keymap.Related)
	list := todo.Open
	assert.Contains(t, uitest.Of(list, 100, 6), "files that go with hut.go")
	assert.Contains(t, uitest.Of(list, 100, 6), "test        hut_test.go")
	assert.Equal(t, "hut.h", todo.Look.Path)
	assert.Equal(t, "hut_test.go", uitest.Last(uitest.Press(list, "&")).Look.Path)
	assert.Equal(t, "hut.h", uitest.Last(uitest.Press(list, "&")).Look.Path, "round at the end")
	assert.Equal(t, "test of hut.go", uitest.Last(uitest.Press(list, "&", "enter")).Go.How)
}

func search(d *desk) *reading.Search {
	s := reading.NewSearch(d, func() resume.Text { return resume.Text{Case: true} })
	s.Resize(100, 1)
	s.Commands()[keymap.InFile]()
	return s
}

func TestLookingForAText(t *testing.T) {
	d, _ := begin(file(), project{})
	s := search(d)
	assert.Contains(t, uitest.Of(s, 100, 1), "Alt+I takes the word under the caret")
	uitest.Press(s, "ring")
	assert.Contains(t, uitest.Of(s, 100, 1), "1 of 2 places")
	assert.Equal(t, 5, line(d))
	uitest.Press(s, "down")
	assert.Equal(t, 9, line(d))
	assert.Contains(t, uitest.Last(uitest.Press(s, "down")).Say, "from the beginning again")
	assert.Contains(t, uitest.Last(uitest.Press(s, "up")).Say, "from the end again")
	last := uitest.Last(uitest.Press(s, "enter"))
	assert.True(t, last.Stay, "it stays where it is")
	assert.True(t, s.Any())
	find, ok := s.Again()
	assert.True(t, ok)
	hits, err := find(context.Background(), []byte("ring ring ring"))
	assert.NoError(t, err)
	assert.Len(t, hits, 3, "in the text as it is then")
	s.Clear()
	assert.False(t, s.Any())
	_, ok = s.Again()
	assert.False(t, ok)
}

func TestLookingForWhatIsNotThere(t *testing.T) {
	d, _ := begin(file(), project{})
	d.code.Line(4)
	s := search(d)
	uitest.Press(s, "zz")
	assert.Contains(t, uitest.Of(s, 100, 1), "it is not in this file")
	assert.Equal(t, 4, line(d), "back where one was")
	assert.Equal(t, "nothing was found", uitest.Last(uitest.Press(s, "enter")).Say)
	s = search(d)
	assert.Contains(t, uitest.Of(s, 100, 1), "case: on", "as is usual here")
	uitest.Press(s, "alt+c")
	assert.NotContains(t, uitest.Of(s, 100, 1), "case: on")
	uitest.Press(s, "alt+x", "(")
	assert.Contains(t, uitest.Of(s, 120, 1), "does not compile")
	assert.True(t, uitest.Last(uitest.Press(s, "esc")).Close)
	assert.False(t, s.Any())
}

// Of so many places not all are looked for, and the words do not say that these are all.
func TestMorePlacesThanAreMarked(t *testing.T) {
	f := &codebase.File{Path: "long.txt", Text: text.NewDocument([]byte(strings.Repeat("a ", 100_001)))}
	d := &desk{}
	d.code.Resize(60, 20)
	d.code.Show(f, trail.View{Place: place.Place{Path: f.Path, Line: 1, Col: 1}})
	s := reading.NewSearch(d, func() resume.Text { return resume.Text{} })
	uitest.Carry(s.Commands()[keymap.InFile]())
	uitest.Press(s, "a")
	assert.Contains(t, uitest.Last(uitest.Press(s, "enter")).Say, "1 of the first 100,000 places")
}

// Enter before the places are there waits for them; what one looks for within stays within.
func TestWithinASelection(t *testing.T) {
	d, _ := begin(file(), project{})
	d.code.Select(place.Range{Start: 0, End: 60})
	d.writing = true
	s := search(d)
	todo := s.Update(uitest.Keys("a")[0])
	assert.False(t, s.Busy())
	assert.Equal(t, surface.Intent{}, s.Update(uitest.Keys("enter")[0]))
	assert.True(t, s.Busy(), "what is pressed now is meant for the place one arrives at")
	last := uitest.Last(uitest.Carry(todo))
	assert.False(t, s.Busy())
	assert.True(t, last.Stay)
	assert.Contains(t, last.Say, "in the selection; n and p go on")
}

func TestGivingUpBeforeTheyAreThere(t *testing.T) {
	d, _ := begin(file(), project{})
	s := search(d)
	var under surface.Intent
	for _, k := range uitest.Keys("ring", "enter") {
		under = under.And(s.Update(k))
	}
	s.Closed()
	assert.False(t, s.Busy())
	uitest.Carry(under)
	assert.False(t, s.Any(), "they come too late")

	s = search(d)
	uitest.Press(s, "ring", "enter")
	s.Closed()
	assert.True(t, s.Any(), "the marks stay")
}

// Steps that are pressed before the places are there are done when they are.
func TestSteppingAheadOfWhatIsFound(t *testing.T) {
	d, _ := begin(file(), project{})
	s := search(d)
	var under surface.Intent
	for _, k := range uitest.Keys("ring", "down", "enter") {
		under = under.And(s.Update(k))
	}
	assert.False(t, s.Any(), "it is still looked for")
	assert.True(t, uitest.Last(uitest.Carry(under)).Stay)
	assert.Equal(t, 9, line(d))

	d, _ = begin(file(), project{})
	s = search(d)
	var other surface.Intent
	for _, k := range uitest.Keys("nowhere", "down", "down") {
		other = other.And(s.Update(k))
	}
	uitest.Carry(other)
	uitest.Press(s, "backspace", "backspace", "backspace", "backspace", "backspace", "backspace", "backspace", "ring")
	assert.Contains(t, uitest.Of(s, 100, 1), "1 of 2 places", "the steps were for what was looked for then")
}
