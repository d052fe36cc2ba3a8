package signpost

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

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

// knows is a project in which one name is known.
type knows struct {
	result resolve.Result
	spots  []answer.Answer
	done   bool
}

func (k *knows) Describe(context.Context, string, int) answer.Description {
	d := about(resolve.Inferred, 1)
	d.Answers = make([]resolve.Answer, 1)
	return d
}

func (k *knows) CallAround(context.Context, *codebase.File, int) (c answer.Call, ok bool) {
	return c, false
}

func (k *knows) CountUses(context.Context, string, int) answer.Ways {
	return answer.Ways{References: 7}
}

func (k *knows) CountRelated(_ context.Context, _ string, _ int, n answer.Ways) answer.Ways {
	n.Called, n.Related = 2, true
	return n
}

func (k *knows) All(context.Context, answer.Question) (resolve.Result, []answer.Answer) {
	return k.result, k.spots
}

func (k *knows) Progress() codebase.Progress { return codebase.Progress{Done: k.done} }

func post(k *knows) (*Post, *uitest.Host) {
	f := &codebase.File{Path: "roster.go", Text: text.NewDocument([]byte("assign()\n")), Facts: &facts.File{Language: "Go"}}
	host := &uitest.Host{At: surface.Here{File: f, Offset: 2}}
	return NewPost(host, k, keymap.Default()), host
}

// What is known of a name comes first, then the counts; the list of ways waits for it.
func TestWhatComesWhenTheCaretRests(t *testing.T) {
	p, _ := post(&knows{done: true})
	work := p.CaretMoved()
	assert.True(t, p.Stale())
	assert.Nil(t, p.AllWays().Open, "it still tells of the name before")
	all := uitest.Carry(surface.Begin(work))
	assert.False(t, p.Stale())
	assert.NotNil(t, uitest.Last(all).Open, "the ways, as soon as the name is known")
	drawn := uitest.Text(p.Rows(40, 30, uitest.Plain))
	assert.Contains(t, drawn, "7")
	assert.Contains(t, drawn, "calls")
	work = p.CaretMoved()
	p.NotWanted()
	p.Forget()
	assert.Len(t, uitest.Carry(surface.Begin(work)), 1, "it comes too late")
	assert.Equal(t, "there is no name under the caret, and nothing around it has one", p.AllWays().Say)
}

func TestNothingIsLeftOfAFileThatIsClosed(t *testing.T) {
	p, _ := post(&knows{})
	p.Neighbours(Neighbour{Name: "Ring", Line: 3}, Neighbour{Name: "Close", Line: 9})
	p.Call(&answer.Call{}, answer.Description{})
	p.File("roster.go", "12 lines")
	p.Forget()
	assert.Empty(t, strings.TrimSpace(strings.ReplaceAll(uitest.Text(p.Rows(40, 10, uitest.Plain)), "│", "")))
}

func TestDefinitions(t *testing.T) {
	spot := answer.Answer{}
	spot.Name, spot.Path, spot.Line, spot.Col, spot.At, spot.Certainty = "assign", "roster.go", 4, 6, place.Range{Start: 40, End: 46}, resolve.Inferred
	byName := spot
	byName.Certainty, byName.Container = resolve.ByName, "Team"
	for what, c := range map[string]struct {
		knows knows
		on    bool
		want  surface.Intent
	}{
		"no name":          {knows{}, false, surface.Say("there is no name under the caret")},
		"here":             {knows{result: resolve.Result{Name: "assign", Here: true}}, false, surface.Say("assign is defined here")},
		"here, and on":     {knows{result: resolve.Result{Name: "assign", Here: true}}, true, surface.Intent{Do: keymap.References}},
		"outside":          {knows{result: resolve.Result{Name: "Sprint", Outside: "fmt"}}, false, surface.Say("Sprint belongs to fmt, which is outside this project")},
		"not read yet":     {knows{result: resolve.Result{Name: "x"}}, false, surface.Say("nothing read so far defines x; the project is still being read")},
		"nowhere":          {knows{result: resolve.Result{Name: "x"}, done: true}, false, surface.Say("nothing in this project defines x")},
		"one":              {knows{result: resolve.Result{Name: "assign"}, spots: []answer.Answer{spot}}, false, surface.Go(surface.ToDefinition(spot))},
		"one of that name": {knows{result: resolve.Result{Name: "assign"}, spots: []answer.Answer{byName}}, false, surface.Say("by name: this is the only assign that the project defines").And(surface.Go(surface.ToDefinition(byName)))},
	} {
		p, _ := post(&c.knows)
		action := keymap.Definition
		if c.on {
			action = keymap.Follow
		}
		got := uitest.Last(uitest.Carry(p.Commands()[action]()))
		got.Cmd = nil
		assert.Equal(t, c.want, got, what)
	}
	p, host := post(&knows{result: resolve.Result{Name: "assign"}, spots: []answer.Answer{byName, byName}})
	got := uitest.Last(uitest.Carry(p.Commands()[keymap.Definition]()))
	assert.NotNil(t, got.Open, "one chooses among several")
	assert.Equal(t, "roster.go", got.Look.Path)
	host.At.File = nil
	assert.Equal(t, "no file is shown; Space finds one", uitest.Said(p.Commands()[keymap.Definition]()))
	host.At.View.Place.Path = "notes.txt"
	assert.Equal(t, "no definitions are known in this file", p.Commands()[keymap.Definition]().Say)
}
