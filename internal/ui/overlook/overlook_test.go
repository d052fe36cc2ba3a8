package overlook

import (
	"context"
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// maker draws the same for everything, and notes what it was asked for.
type maker struct {
	asked   []overlook.Asked
	counted []overlook.Counted
	file    string
	err     error
}

func (m *maker) Scene(_ context.Context, a overlook.Asked, _ *trail.Trail) (*draw.Scene, error) {
	m.asked = append(m.asked, a)
	if m.err != nil {
		return nil, m.err
	}
	s := &draw.Scene{Title: "What answer calls", Notes: []string{"Left out: 2 of tests."}}
	for i, name := range []string{"answer", "label", "note", "write"} {
		p := name + ".go"
		s.Boxes = append(s.Boxes, draw.Box{ID: p + ":12", Kind: "function", Name: name, Where: p + " 3", Group: -1, Layer: -1, Place: place.Place{Path: "huts/" + p, Line: 3, Col: 6}, Symbol: name})
		if i > 0 {
			s.Lines = append(s.Lines, draw.Line{From: []int{0, 0, 0, 2}[i], To: i})
		}
	}
	s.Boxes[0].Look, s.Boxes[1].Hidden = draw.Present, 2
	s.Boxes = append(s.Boxes, draw.Box{ID: "geo", Kind: "folder", Name: "geo", Group: -1, Layer: -1, Place: place.Place{Path: "geo"}, Hidden: 1})
	return s, nil
}

func (m *maker) Chart(_ context.Context, c overlook.Counted, _ []*trail.Trail) (*draw.Chart, error) {
	m.counted = append(m.counted, c)
	return &draw.Chart{Title: "How large it is", Unit: "lines", Parts: []string{"code", "tests"}, AsMap: c.AsMap, Bars: []draw.Bar{
		{Name: "huts/", Values: []float64{60, 20}, Place: place.Place{Path: "huts"}},
		{Name: "main.go", Values: []float64{12, 0}, Place: place.Place{Path: "main.go", Line: 1}},
	}}, nil
}

func (m *maker) Write(_ draw.Drawing, file string, _ *draw.Theme) (string, error) {
	m.file = file
	return "/tarn/" + file, m.err
}

func (m *maker) FileName(title string, as draw.Format) string { return "drawn" + as.Ending() }

type trails struct{ way trail.Trail }

func (t *trails) Trail() *trail.Trail               { return &t.way }
func (t *trails) Visit(s *trail.Stop) surface.Visit { return surface.Visit{Path: s.View.Place.Path} }

func opened(t *testing.T) (*Surface, *Counts, *maker) {
	m := &maker{}
	file := &codebase.File{Path: "huts/desk.go", Text: text.NewDocument([]byte("func answer() {}\n")), Facts: &facts.File{}}
	s, c := New(&uitest.Host{At: surface.Here{File: file, Offset: 5}}, m, &trails{}, func() (string, string) { return "", "the last commit" })
	s.Resize(100, 20)
	c.Resize(100, 20)
	assert.Same(t, s, uitest.Last(uitest.Carry(s.Commands()[keymap.DrawCalled]())).Open)
	return s, c, m
}

func TestTheDrawing(t *testing.T) {
	s, _, m := opened(t)
	assert.Equal(t, overlook.Asked{View: overlook.Calls, Path: "huts/desk.go", Offset: 5}, m.asked[0])
	got := uitest.Of(s, 100, 20)
	for _, want := range []string{"What answer calls", "5 boxes", "Left out: 2 of tests", "▸ answer", "│ label +2", "calls 2 here, called by 0", "Space open, close"} {
		assert.Contains(t, got, want)
	}
}

// Arrows go to the box in that direction, Tab along lines, letters to a box by its name; its code is shown beneath.
func TestWalking(t *testing.T) {
	s, _, _ := opened(t)
	at := func() string { return s.box().Name }
	assert.Equal(t, "answer", at())
	last := uitest.Last(uitest.Press(s, "right"))
	assert.Contains(t, []string{"label", "note"}, at())
	require.NotNil(t, last.Look)
	assert.Equal(t, "huts/"+at()+".go", last.Look.Path)
	uitest.Press(s, "left")
	assert.Equal(t, "answer", at())
	uitest.Press(s, "tab")
	first := at()
	uitest.Press(s, "tab")
	assert.NotEqual(t, first, at(), "along the next line")
	uitest.Press(s, "shift+tab")
	assert.Equal(t, "answer", at(), "and back along it")
	uitest.Press(s, "w", "r")
	assert.Equal(t, "write", at())
	assert.Contains(t, uitest.Of(s, 100, 20), "overlook  wr")
	uitest.Press(s, "backspace", "backspace", "l")
	assert.Equal(t, "label", at())
	assert.Equal(t, surface.Intent{}, uitest.Last(uitest.Press(s, "esc")), "what is typed goes first")
	uitest.Press(s, "home")
	assert.Equal(t, "answer", at())
	last = uitest.Last(uitest.Press(s, "enter"))
	require.NotNil(t, last.Go)
	assert.Equal(t, []any{"huts/answer.go", 3, "what answer calls"}, []any{last.Go.Path, last.Go.Line, last.Go.How})
	assert.Equal(t, surface.Close(), uitest.Last(uitest.Press(s, "esc")))
}

// What draws it anew asks for the same drawing otherwise.
func TestOtherwise(t *testing.T) {
	s, _, m := opened(t)
	last := func() overlook.Asked { return m.asked[len(m.asked)-1] }
	uitest.Press(s, "+")
	assert.Equal(t, 3, last().Depth)
	uitest.Press(s, "-", "-")
	assert.Equal(t, 1, last().Depth)
	assert.Contains(t, uitest.Said(uitest.Last(uitest.Press(s, "-"))), "one step deep already")
	uitest.Press(s, "alt+t", "*", "alt+z")
	assert.Equal(t, []any{true, true, overlook.ByFile}, []any{last().Tests, last().Libraries, last().Grouping})
	uitest.Press(s, "l", "space")
	assert.True(t, last().Open["label.go:12"], "what lies behind is opened")
	uitest.Press(s, "home", "space")
	assert.True(t, last().Closed["answer.go:12"])
	uitest.Press(s, "alt+d")
	assert.Equal(t, []string{"huts"}, last().Without)
	uitest.Press(s, "alt+u")
	assert.Empty(t, last().Without)
	uitest.Press(s, ">")
	assert.Equal(t, draw.Large, s.picture.Size)
	uitest.Press(s, "<", "<")
	assert.Equal(t, draw.Small, s.picture.Size)
	assert.Contains(t, uitest.Said(uitest.Last(uitest.Press(s, "<"))), "no other size")
	uitest.Press(s, "g", "enter")
	assert.True(t, last().Open["geo"], "a folder is opened, since there is no place to go to")
	assert.Contains(t, uitest.Said(uitest.Last(uitest.Press(s, "alt+e"))), "only imports")
	s.asked.View = overlook.Imports
	uitest.Press(s, "alt+e")
	assert.Equal(t, "HEAD", last().Since)
	uitest.Press(s, "alt+e")
	assert.Empty(t, last().Since)
	m.err = errors.New("it went wrong")
	assert.Contains(t, uitest.Said(uitest.Last(uitest.Press(s, "alt+a"))), "it went wrong")
	assert.NotNil(t, s.picture, "and what was there stays")
}

func TestOtherDrawings(t *testing.T) {
	s, _, m := opened(t)
	choices := uitest.Last(uitest.Press(s, "alt+s")).Open
	require.NotNil(t, choices)
	assert.Contains(t, uitest.Of(choices, 90, 14), "what calls it")
	uitest.Press(choices, "c")
	assert.Equal(t, []any{overlook.Calls, overlook.Inward, 12}, []any{m.asked[len(m.asked)-1].View, m.asked[len(m.asked)-1].Direction, m.asked[len(m.asked)-1].Offset})
}

func TestHandingOn(t *testing.T) {
	s, _, m := opened(t)
	choices := uitest.Last(uitest.Press(s, "alt+h")).Open
	assert.Contains(t, uitest.Of(choices, 90, 14), "SVG, dark")
	ask := uitest.Last(uitest.Press(choices, "down", "enter")).Open
	require.NotNil(t, ask)
	assert.Contains(t, uitest.Of(ask, 90, 1), "drawn.svg")
	last := uitest.Last(uitest.Press(ask, "enter"))
	assert.Equal(t, "drawn.svg", m.file)
	assert.Equal(t, "written to /tarn/drawn.svg; its path", last.Copy.What)
	assert.Equal(t, "/tarn/drawn.svg", last.Copy.Text)
}

// The first press says where the way begins, the second draws it.
func TestBetween(t *testing.T) {
	s, _, m := opened(t)
	said := uitest.Said(uitest.Last(uitest.Carry(s.Commands()[keymap.DrawWays]())))
	assert.Contains(t, said, "from answer")
	uitest.Carry(s.Commands()[keymap.DrawWays]())
	last := m.asked[len(m.asked)-1]
	assert.Equal(t, &overlook.Spot{Path: "huts/desk.go", Offset: 5}, last.To)
}

func TestCharts(t *testing.T) {
	_, c, m := opened(t)
	choices := uitest.Last(uitest.Carry(c.Commands()[keymap.Charts]())).Open
	assert.Contains(t, uitest.Of(choices, 90, 14), "how large folders are")
	uitest.Press(choices, "down", "down", "enter")
	assert.Equal(t, overlook.Volume, m.counted[0].Measure)
	got := uitest.Of(c, 100, 20)
	for _, want := range []string{"How large it is", "▸ huts/", "█▒", "80 lines", "(code 60, tests 20)"} {
		assert.Contains(t, got, want)
	}
	uitest.Press(c, "right")
	assert.Equal(t, "huts", m.counted[len(m.counted)-1].Path)
	uitest.Press(c, "left")
	assert.Equal(t, "", m.counted[len(m.counted)-1].Path)
	assert.Contains(t, uitest.Said(uitest.Last(uitest.Press(c, "left"))), "all of the project")
	uitest.Press(c, "alt+z")
	assert.Contains(t, uitest.Of(c, 100, 20), "│huts/")
	uitest.Press(c, "alt+z", "tab")
	assert.Equal(t, overlook.Churn, m.counted[len(m.counted)-1].Measure)
	last := uitest.Last(uitest.Press(c, "down", "enter"))
	require.NotNil(t, last.Go)
	assert.Equal(t, "main.go", last.Go.Path)
	assert.NotNil(t, uitest.Last(uitest.Press(c, "alt+h")).Open)
	assert.Equal(t, surface.Close(), uitest.Last(uitest.Press(c, "esc")))
}
