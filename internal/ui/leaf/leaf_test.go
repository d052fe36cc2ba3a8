package leaf_test

import (
	"context"
	"io/fs"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/leaf"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// program is a screen with one file on it.
type program struct {
	uitest.Host
	frame  *frame.Frame
	leaves *leaf.Model
	width  int
	result resolve.Result
	places []answer.Answer
}

func (p *program) Plan() frame.Plan {
	p.frame.Wish.Width, p.frame.Wish.Height = p.width, 40
	return p.frame.Plan(p.leaves.Any(), false, 0)
}

func (p *program) Here() surface.Here {
	return surface.Here{File: p.frame.Code.File(), View: p.frame.Code.State(), Offset: p.frame.Code.Offset()}
}

func (p *program) Along(context.Context, answer.Way, string, int) (resolve.Result, []answer.Answer) {
	return p.result, p.places
}

func (p *program) Load(_ context.Context, path string) (*codebase.File, error) {
	if path == "gone.go" {
		return nil, fs.ErrNotExist
	}
	return file(path), nil
}

func file(path string) *codebase.File {
	return &codebase.File{Path: path, Text: text.NewDocument([]byte("one\ntwo\nthree\nfour\nfive\n")), Facts: &facts.File{}}
}

func begin(width int) *program {
	p := &program{width: width, result: resolve.Result{Name: "ring"}}
	p.frame = frame.New(func() *surface.Asker { return p.Asker(nil) })
	p.leaves = leaf.New(p, p, p.frame, keymap.Default())
	p.frame.Code.Resize(80, 30)
	p.frame.Code.Show(file("hut.go"), trail.View{Place: place.Place{Path: "hut.go", Line: 2, Col: 1}})
	p.places = []answer.Answer{{Answer: resolve.Answer{Path: "winch.go", At: place.Range{Start: 8, End: 13}}, Line: 3, Col: 1}, {Answer: resolve.Answer{Path: "team.go"}, Line: 1, Col: 1}}
	return p
}

func (p *program) do(a keymap.Action) surface.Intent {
	do := p.leaves.Commands()[a]
	if within := p.leaves.Within()[a]; p.frame.InLeaf() && within != nil {
		do = within
	}
	return uitest.Last(uitest.Carry(do()))
}

func (p *program) drawn() string {
	plan := p.Plan()
	p.leaves.Arrange(plan)
	return uitest.Text(p.leaves.Rows(plan, plan.LeafRect().Height, uitest.Plain))
}

func TestLayingBesideTheCode(t *testing.T) {
	for _, width := range []int{140, 80} {
		p := begin(width)
		assert.Contains(t, p.do(keymap.LeafGo).Say, "nothing is laid beside the code")
		assert.True(t, p.do(keymap.LeafReferences).Arrange)
		assert.True(t, p.leaves.Any())
		drawn := p.drawn()
		for _, part := range []string{"reference of ring", "1 of 2", "winch.go", "three", "Tab into it"} {
			assert.Contains(t, drawn, part, "%d columns", width)
		}
		p.do(keymap.LeafNext)
		assert.Contains(t, p.drawn(), "2 of 2")
		p.do(keymap.LeafPin)
		assert.Contains(t, p.drawn(), "pinned")
		todo := p.do(keymap.LeafGo)
		assert.Equal(t, "team.go", todo.Go.Path)
		assert.True(t, p.leaves.Any(), "a pinned leaf stays")
		p.leaves.TurnBack()
		assert.False(t, p.leaves.Any())
	}
}

func TestLeavesOnLeaves(t *testing.T) {
	p := begin(140)
	p.do(keymap.LeafDefinition)
	p.do(keymap.LeafInto)
	assert.True(t, p.frame.InLeaf())
	x, _, ok := p.leaves.Cursor(p.Plan())
	assert.True(t, ok && x > 70, "the caret is in it")
	p.do(keymap.Definition)
	assert.Len(t, p.leaves.Sides(), 2, "what it leads to is laid on it")
	assert.Contains(t, p.drawn(), "leaf 2")
	p.do(keymap.Back)
	assert.Len(t, p.leaves.Sides(), 1)
	assert.True(t, p.frame.InLeaf(), "the keys are in the one below")
	p.leaves.TurnBack()
	assert.False(t, p.frame.InLeaf())
}

// Once one has moved on, the leaf goes, unless it is pinned.
func TestMovingOn(t *testing.T) {
	p := begin(140)
	p.do(keymap.LeafDefinition)
	assert.False(t, p.leaves.MovedOn(), "one is still there")
	p.frame.Code.Line(4)
	assert.True(t, p.leaves.MovedOn())
	assert.False(t, p.leaves.Any())
	p.do(keymap.LeafDefinition)
	p.do(keymap.LeafPin)
	p.frame.Code.Line(1)
	assert.False(t, p.leaves.MovedOn())
	assert.True(t, p.leaves.Any())
}

func TestNothingToLay(t *testing.T) {
	p := begin(140)
	p.places = nil
	assert.Equal(t, "nothing refers to ring", p.do(keymap.LeafReferences).Say)
	p.result.Outside = "fmt"
	assert.Contains(t, p.do(keymap.LeafType).Say, "the type of ring belongs to fmt")
	p.places = []answer.Answer{{Answer: resolve.Answer{Path: "gone.go"}, Line: 1}}
	assert.Equal(t, "gone.go cannot be opened: it is not there any more", p.do(keymap.LeafReferences).Say)
	p.result = resolve.Result{}
	assert.Equal(t, "there is no name under the caret", p.do(keymap.LeafReferences).Say)
	assert.False(t, p.leaves.Any())
	assert.True(t, leaf.Stays(keymap.Down))
	assert.False(t, leaf.Stays(keymap.Outline))
}
