package docs

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// knows is a project that tells about offsets.
type knows struct {
	at   map[int]answer.Description
	call *answer.Call
}

func (k *knows) Describe(_ context.Context, _ string, offset int) answer.Description {
	return k.at[offset]
}

func (k *knows) CallAround(context.Context, *codebase.File, int) (answer.Call, bool) {
	if k.call == nil {
		return answer.Call{}, false
	}
	return *k.call, true
}

func (k *knows) Load(_ context.Context, path string) (*codebase.File, error) {
	return &codebase.File{Path: path, Text: text.NewDocument(nil), Facts: &facts.File{Language: "Go"}}, nil
}

// asked asks for the documentation at an offset, inside of what begins at 100.
func asked(k *knows, offset int) (*Surface, surface.Intent) {
	host := &uitest.Host{At: surface.Here{File: &codebase.File{Path: "a.go", Text: text.NewDocument(nil), Facts: &facts.File{}}, Offset: offset}}
	host.At.Crumbs = []codebase.Crumb{{Name: "Outer", At: place.Range{Start: 100, End: 105}}}
	s := NewSurface(host, k)
	s.Resize(80, 20)
	return s, uitest.Last(uitest.Carry(s.Commands()[keymap.Docs]()))
}

func TestWhatIsUnderTheCaretIsDescribed(t *testing.T) {
	k := &knows{at: map[int]answer.Description{3: *description("It rings."), 100: *description("What is around.")}}
	s, todo := asked(k, 3)
	require.Same(t, s, todo.Open)
	assert.Contains(t, uitest.Of(s, 80, 20), "It rings.")
	assert.Positive(t, s.Lines())
	assert.Equal(t, surface.Intent{}, uitest.Last(uitest.Press(s, "down")))
	todo = uitest.Last(uitest.Press(s, "enter"))
	require.NotNil(t, todo.Go)
	assert.Equal(t, "hut/bell.go", todo.Go.Path)
	assert.True(t, uitest.Last(uitest.Press(s, "esc")).Close)
	_, todo = asked(k, 50)
	assert.Contains(t, uitest.Of(todo.Open, 80, 20), "What is around.", "where no name is, it is about what one is inside of")
}

func TestACallIsDescribedAroundAnArgument(t *testing.T) {
	k := &knows{at: map[int]answer.Description{3: *description("The argument.")}, call: &answer.Call{Description: *description("The call."), Parameter: "bells int", At: place.Range{Start: 10, End: 19}, Number: 1, Of: 2}}
	_, todo := asked(k, 3)
	shown := uitest.Of(todo.Open, 80, 20)
	assert.Contains(t, shown, "parameter 1 of 2: bells int")
	assert.Contains(t, shown, "The argument.")
	_, todo = asked(k, 50)
	shown = uitest.Of(todo.Open, 80, 20)
	assert.Contains(t, shown, "parameter 1 of 2: bells int")
	assert.NotContains(t, shown, "The argument.")
}

func TestWhatNothingIsSaidOf(t *testing.T) {
	named := func(outside string, unread bool) *knows {
		d := answer.Description{Result: resolve.Result{Name: "Ring", Outside: outside}, Unread: unread}
		return &knows{at: map[int]answer.Description{3: d}}
	}
	for words, k := range map[string]*knows{
		"Ring belongs to fmt, which is outside this project":                named("fmt", false),
		"nothing in this project defines Ring":                              named("", false),
		"nothing read so far defines Ring; the project is still being read": named("", true),
		"there is no name here, and nothing around it has one":              {},
	} {
		_, todo := asked(k, 3)
		assert.Nil(t, todo.Open)
		assert.Equal(t, words, todo.Say)
	}
	s := NewSurface(&uitest.Host{}, &knows{})
	assert.Equal(t, "no file is shown; Space finds one", uitest.Said(s.ask()))
}

// The present parameter is marked where it is shown, also behind tabs that are shown as blanks.
func TestTheParameterIsMarkedBehindTabs(t *testing.T) {
	signature := "func Ring(\n\tbells int,\n\ttimes int,\n) error"
	d := description("")
	d.Signature = signature
	at := place.Range{Start: 24, End: 33}
	require.Equal(t, "times int", string(at.In([]byte(signature))))
	p := Call(context.Background(), &answer.Call{Description: *d, Parameter: "times int", At: at, Number: 2, Of: 2})
	assert.Equal(t, "times int", string(p.mark.In([]byte(p.signature.text))))
}
