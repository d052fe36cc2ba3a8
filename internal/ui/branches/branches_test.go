package branches

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func drawn(m *Model) string { return uitest.Of(m, 100, 14) }

// trees gives the same tree for every question.
type trees struct {
	name   string
	first  []answer.Branch
	asked  []answer.Tree
	around string
	fate   place.Fate
}

func (t *trees) Branches(_ context.Context, tree answer.Tree, _ string, _ int) (resolve.Result, []answer.Branch) {
	t.asked = append(t.asked, tree)
	return resolve.Result{Name: t.name}, t.first
}

func (t *trees) Load(_ context.Context, path string) (*codebase.File, error) {
	return &codebase.File{Path: path, Text: text.NewDocument([]byte("measure\n"))}, nil
}
func (t *trees) Anchor(_ context.Context, p place.Place) place.Anchor {
	return place.Anchor{Path: p.Path}
}
func (t *trees) Find(_ context.Context, m *place.Memory) (place.Fate, error) {
	return t.fate, nil
}
func (t *trees) Subject(_ context.Context, _ string, offset int) (int, string) {
	return offset, t.around
}
func (t *trees) Colors(context.Context, string, int) highlight.Spans { return nil }

// caller is a branch with others below it.
func caller(name string, test bool, below ...answer.Branch) answer.Branch {
	b := answer.Branch{Answer: answer.Answer{Answer: resolve.Answer{Path: "huts/" + name + ".go"}, Line: 3, Role: "function", Text: name, Test: test}}
	b.Grow = func(context.Context) []answer.Branch { return below }
	return b
}

func opened() *Model {
	present := answer.Branch{Answer: answer.Answer{Answer: resolve.Answer{Path: "huts/hut.go"}, Line: 9, Role: "function", Text: "measure"}, Present: true, Group: "this"}
	above := caller("report", false, caller("show", false), caller("TestShow", true))
	above.Group = "above"
	m, _ := openedWith(&trees{name: "measure", first: []answer.Branch{above, present}})
	return m
}

func openedWith(t *trees) (*Model, []surface.Intent) {
	host := &uitest.Host{At: surface.Here{File: &codebase.File{Path: "huts/hut.go", Text: text.NewDocument(nil), Facts: &facts.File{}}}}
	m := New(host, t, t, func(title string, _ sweep.Source, all []answer.Answer) surface.Intent {
		return surface.Say("kept %d: %s", len(all), title)
	})
	m.Resize(100, 14)
	return m, uitest.Carry(m.Commands()[keymap.CallTree]())
}

func TestItOpensAtThePresentOne(t *testing.T) {
	m := opened()
	b, ok := m.Chosen()
	assert.True(t, ok && b.Present)
	for _, want := range []string{"what calls measure", "above", "+ report", "this", "▌  function", "you asked from here", "Tab what it calls"} {
		assert.Contains(t, drawn(m), want)
	}
}

func TestOpeningAndClosing(t *testing.T) {
	m := opened()
	uitest.Press(m, "up")
	todo := m.Update(uitest.Keys("right")[0])
	assert.True(t, m.Busy())
	assert.Contains(t, drawn(m), "report.go 3, …")
	uitest.Carry(todo)
	assert.False(t, m.Busy())
	assert.Contains(t, drawn(m), "– report")
	assert.Contains(t, drawn(m), "  + show")
	uitest.Press(m, "alt+t")
	assert.NotContains(t, drawn(m), "TestShow")
	uitest.Press(m, "alt+t", "right")
	b, _ := m.Chosen()
	assert.Equal(t, "show", b.Text)
	uitest.Press(m, "right")
	assert.Contains(t, drawn(m), "nothing further")
	uitest.Press(m, "left", "left")
	b, _ = m.Chosen()
	assert.Equal(t, "report", b.Text)
	uitest.Press(m, "left")
	assert.NotContains(t, drawn(m), "show")
	assert.Len(t, m.Shown(), 2)
}

func TestJumpingAndLeaving(t *testing.T) {
	m := opened()
	last := uitest.Last(uitest.Press(m, "rep"))
	assert.Equal(t, "huts/report.go", last.Look.Path)
	assert.Contains(t, drawn(m), "tree  rep")
	assert.False(t, uitest.Last(uitest.Press(m, "esc")).Close, "what was typed goes first")
	assert.Equal(t, "kept 2: what calls measure", uitest.Last(uitest.Press(m, "alt+k")).Say)
	assert.Equal(t, &surface.Visit{Path: "huts/report.go", Line: 3, How: "caller of measure"}, uitest.Last(uitest.Press(m, "enter")).Go)
	assert.True(t, uitest.Last(uitest.Press(m, "esc")).Close)
}

// The other way round is another question; one without an answer leaves the tree there.
func TestTurning(t *testing.T) {
	all := &trees{name: "measure", first: []answer.Branch{caller("report", false)}}
	m, _ := openedWith(all)
	last := uitest.Last(uitest.Press(m, "tab"))
	assert.Equal(t, []answer.Tree{answer.Incoming, answer.Outgoing}, all.asked)
	assert.Same(t, m, last.Open)
	assert.Contains(t, drawn(m), "what measure calls")
	all.first = nil
	last = uitest.Last(uitest.Press(m, "tab"))
	assert.Equal(t, "nothing calls measure", last.Say)
	assert.Contains(t, drawn(m), "what measure calls")
}

// What is found below a branch after the tree was closed, or another opened, is dropped, and its
// work is stopped.
func TestLateAnswers(t *testing.T) {
	m := opened()
	uitest.Press(m, "up")
	var ended error
	m.chosen().Grow = func(ctx context.Context) []answer.Branch {
		ended = ctx.Err()
		return []answer.Branch{caller("show", false)}
	}
	todo := m.Update(uitest.Keys("right")[0])
	m.Closed()
	late := uitest.Carry(todo)
	assert.Len(t, late, 1)
	assert.ErrorIs(t, ended, context.Canceled)
	assert.NotContains(t, drawn(m), "show")
	assert.False(t, m.Busy())
}

// What is outside the project can be left out.
func TestOnlyThisProject(t *testing.T) {
	library := caller("Errorf", false)
	library.Outside = true
	m, _ := openedWith(&trees{name: "measure", first: []answer.Branch{caller("report", false), library}})
	assert.Contains(t, uitest.Of(m, 140, 14), "Alt+O only this project")
	uitest.Press(m, "alt+o")
	assert.NotContains(t, drawn(m), "Errorf")
	assert.Contains(t, drawn(m), "what calls measure, in this project")
	assert.Len(t, m.Shown(), 1)
	uitest.Press(m, "alt+o")
	assert.Contains(t, drawn(m), "Errorf")
}

// A tree is asked for again where it was left, as long as its name is there.
func TestTheTreeAgain(t *testing.T) {
	tree := &trees{name: "measure", first: []answer.Branch{caller("report", false), caller("show", false)}}
	m, _ := openedWith(tree)
	uitest.Press(m, "down")
	last := m.Left()
	assert.Equal(t, "what calls measure", last.Title)
	assert.Equal(t, "huts/show.go", last.At.Path)
	tree.asked = nil
	other, _ := openedWith(tree)
	todo := uitest.Last(uitest.Carry(other.Again(*last)))
	assert.Same(t, other, todo.Open)
	assert.Equal(t, "huts/show.go", todo.Look.Path)
	tree.fate = place.Gone
	assert.Contains(t, uitest.Last(uitest.Carry(other.Again(*last))).Say, "is not in huts/hut.go any more")
}
