package frame_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func asker() *surface.Asker { return surface.NewAsker(context.Background(), nil) }

func at(path string, line int) trail.View {
	return trail.View{Place: place.Place{Path: path, Line: line, Col: 1}, Top: 1}
}

// show shows a file on a side, as one that was opened there.
func show(s *frame.Side, path string, line int) {
	s.Leave(s.Code.State())
	s.Code.Show(&codebase.File{Path: path, Text: text.NewDocument([]byte("a\nb\nc\nd\n"))}, at(path, line))
	s.Touch(s.Code.State())
}

func TestViewsOfASide(t *testing.T) {
	f := frame.New(asker)
	assert.Nil(t, f.Present())
	assert.Nil(t, f.After(1))
	show(f.Side, "hut.go", 2)
	show(f.Side, "team.go", 3)
	show(f.Side, "winch.go", 1)
	show(f.Side, "team.go", 4)
	assert.Equal(t, []string{"hut.go", "team.go", "winch.go"}, f.OpenFiles())
	assert.Equal(t, "winch.go", f.After(1).State.Place.Path)
	assert.Equal(t, "hut.go", f.After(-1).State.Place.Path)
	assert.Equal(t, 2, f.View("hut.go").State.Place.Line, "as it was left")
	f.Close(f.Code.State())
	f.Drop(f.Present())
	assert.Equal(t, "winch.go", f.Latest().State.Place.Path, "the one that was shown before")
	v, ok := f.Reopen()
	assert.True(t, ok)
	assert.Equal(t, at("team.go", 4).Place, v.Place)
	_, ok = f.Reopen()
	assert.False(t, ok)
	name, where := f.Header()
	assert.Equal(t, "team.go", name)
	assert.Equal(t, "2 files open", where)
}

func TestSplittingAndClosing(t *testing.T) {
	f := frame.New(asker)
	f.Wish = frame.Plan{Width: 120, Height: 40}
	show(f.Side, "hut.go", 2)
	left := f.Side
	f.Split(false)
	right := f.Side
	assert.NotSame(t, left, right)
	assert.Equal(t, "hut.go", right.Code.Path())
	assert.Equal(t, []*frame.Side{left, right}, f.Sides())
	p := f.Plan(false, false, 0)
	assert.True(t, p.Headed())
	f.Arrange(p)
	f.Focus(left.Number)
	f.CloseSide(right)
	assert.Equal(t, []*frame.Side{left}, f.Sides())
	f.CloseSide(left)
	assert.Equal(t, []*frame.Side{left}, f.Sides(), "the last one stays")
	f.Split(true)
	show(f.Side, "team.go", 1)
	assert.Equal(t, 3, f.CloseAll(), "of each side its views")
	assert.Len(t, f.Sides(), 1)
	assert.Empty(t, f.OpenFiles())
}

// The keys in a leaf are not those of any side of the frame, which is still known.
func TestInALeaf(t *testing.T) {
	f := frame.New(asker)
	ground, one, two := f.Side, frame.NewSide(-1, asker), frame.NewSide(-1, asker)
	f.Enter(one)
	f.Enter(two)
	assert.True(t, f.InLeaf())
	assert.Same(t, two, f.Side)
	assert.Same(t, ground, f.CodeSide())
	f.Return()
	assert.Same(t, ground, f.Side)
	f.Return()
	assert.False(t, f.InLeaf())
}

func TestFilesThatMove(t *testing.T) {
	f := frame.New(asker)
	show(f.Side, "huts/hut.go", 2)
	f.Close(at("huts/winch.go", 1))
	f.Renamed("huts", "shelters")
	assert.Equal(t, "shelters/hut.go", f.Views()[0].State.Place.Path)
	v, _ := f.Reopen()
	assert.Equal(t, "shelters/winch.go", v.Place.Path)
}

// What was on the screen comes back, but for what was only looked at.
func TestTheScreenAfterARestart(t *testing.T) {
	f := frame.New(asker)
	f.Wish.Outline, f.Wish.Column, f.Wish.Signpost = true, 44, frame.Narrow
	show(f.Side, "hut.go", 2)
	f.Split(true)
	show(f.Side, "team.go", 3)
	f.Close(at("winch.go", 4))
	kept := f.Screen(nil)
	looked := at("team.go", 1)
	assert.Equal(t, 1, f.Screen(&looked).Sides.Parts[1].Shown)

	again := frame.New(asker)
	require.True(t, again.Resume(kept, nil))
	assert.True(t, again.Wish.Outline)
	assert.Equal(t, 44, again.Wish.Column)
	assert.Equal(t, frame.Narrow, again.Wish.Signpost)
	require.Len(t, again.Sides(), 2)
	assert.Equal(t, "team.go", again.Latest().State.Place.Path, "the same side has the keys")
	assert.Equal(t, 3, again.Latest().State.Place.Line)
	_, ok := again.Reopen()
	assert.True(t, ok)
	assert.False(t, frame.New(asker).Resume(nil, nil))
}

// Sides are drawn beside and below each other, each with a header, and a rule between those beside.
func TestSidesAreDrawnInTheirPlaces(t *testing.T) {
	f := frame.New(asker)
	f.Wish = frame.Plan{Width: 61, Height: 20}
	show(f.Side, "hut.go", 1)
	draw := func() []string {
		p := f.Plan(false, false, 0)
		f.Arrange(p)
		return strings.Split(uitest.Text(f.Rows(p, uitest.Plain)), "\n")
	}
	assert.NotContains(t, draw()[0], "── hut.go")
	f.Split(false)
	show(f.Side, "team.go", 1)
	f.Split(true)
	show(f.Side, "winch.go", 1)
	rows := draw()
	p := f.Plan(false, false, 0)
	assert.Len(t, rows, p.Room().Height)
	assert.Regexp(t, `^── hut\.go ─+│── team\.go `, rows[0])
	below := 0
	for i, r := range rows {
		assert.Equal(t, p.Room().Width, ink.Width(r), "row %d", i)
		if strings.Contains(r, "── winch.go ") {
			below = i
		}
	}
	assert.Equal(t, p.Layout()[f.Number].Y, below)
}
