package signpost

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
)

var clean = regexp.MustCompile("\x1b\\[[0-9;]*m")

func drawn(m *Model, width int) string {
	return clean.ReplaceAllString(strings.Join(m.Rows(width, 20, &palette.Plain), "\n"), "")
}

func about(certainty resolve.Certainty, spots int) answer.Description {
	a := resolve.Answer{Path: "dispatch/roster.go", Name: "Assign", Container: "Roster", Kind: facts.Method, Certainty: certainty}
	d := answer.Description{Best: answer.Answer{Answer: a, Line: 42}, Candidates: spots, Signature: "func (r *Roster) Assign(c Callout, now time.Time) (Team, error)", Summary: "Gives it to the nearest.\n\nOr fails."}
	d.Name = "Assign"
	return d
}

func TestWhatItSays(t *testing.T) {
	m := New(keymap.Default())
	m.Show(about(resolve.Inferred, 1), false)
	for _, want := range []string{"Assign", "method", "func (r *Roster) Assign(c Callout,", "Gives it to the nearest.", "Or fails.", "d  definition  roster.go 42", "inferred: by the rules"} {
		assert.Contains(t, drawn(&m, 44), want)
	}
	m.Show(about(resolve.ByName, 7), false)
	assert.Contains(t, drawn(&m, 44), "d  definition  7 candidates")
	assert.Contains(t, drawn(&m, 44), "by name")
	assert.Contains(t, clean.ReplaceAllString(m.Line(100, &palette.Plain), ""), "7 candidates, by name")
	m.Show(about(resolve.Inferred, 1), true)
	assert.Contains(t, drawn(&m, 44), "you are inside")
	assert.NotContains(t, drawn(&m, 44), "d  definition", "there is no definition to go to where no name is")
	assert.Contains(t, drawn(&m, 44), "r  references", "the other ways are from what is around")
	m.Call(&answer.Call{Description: about(resolve.Inferred, 1), Of: 2, Number: 1, Parameter: "c Callout"}, answer.Description{Result: resolve.Result{Name: "Dispatch"}, Candidates: 1})
	assert.Contains(t, drawn(&m, 44), "you are calling")
	assert.Contains(t, drawn(&m, 44), "inside Dispatch")
	assert.Contains(t, drawn(&m, 44), "r  references")
	assert.Equal(t, "Dispatch", m.From().Name)
	m.Show(about(resolve.Inferred, 1), true)

	m.Neighbours(Neighbour{"Roster.free", 31}, Neighbour{})
	assert.Contains(t, drawn(&m, 44), "[  before  Roster.free 31")
	assert.NotContains(t, drawn(&m, 44), "]  next")

	here := about(resolve.Inferred, 1)
	here.Here = true
	m.Show(here, false)
	assert.Contains(t, drawn(&m, 44), "it is defined here")
	m.Show(answer.Description{Result: resolve.Result{Name: "Println", Outside: "fmt"}}, false)
	assert.Contains(t, drawn(&m, 50), "belongs to fmt, outside this project")
	nowhere := answer.Description{Result: resolve.Result{Name: "ring"}, Unread: true}
	m.Show(nowhere, false)
	assert.Contains(t, drawn(&m, 60), "nothing read so far defines this name")
	assert.Contains(t, clean.ReplaceAllString(m.Line(100, &palette.Plain), ""), "nothing read so far defines it")
	nowhere.Unread = false
	m.Show(nowhere, false)
	assert.Contains(t, drawn(&m, 60), "nothing in this project defines this name")
	m.Show(answer.Description{}, false)
	m.File("roster.go", "120 lines")
	assert.Contains(t, drawn(&m, 44), "120 lines")
}

func TestItKeepsToItsWidth(t *testing.T) {
	d := about(resolve.Inferred, 1)
	d.Signature = strings.Repeat("func(averylongnamewithoutanyblank", 9) + "\x1b[31m"
	d.Doc = strings.Repeat("words ", 200) + strings.Repeat("x", 200)
	m := New(keymap.Default())
	m.Show(d, false)
	for width := 12; width < 60; width++ {
		for _, r := range strings.Split(drawn(&m, width), "\n") {
			assert.Equal(t, width, ink.Width(r))
		}
		assert.Equal(t, width+30, ink.Width(clean.ReplaceAllString(m.Line(width+30, &palette.Plain), "")))
	}
}

// On one line of 80 columns no way is missing, and one that leads nowhere says so.
func TestNoWayIsMissing(t *testing.T) {
	m := New(keymap.Default())
	d := answer.Description{Candidates: 1, Best: answer.Answer{Answer: resolve.Answer{Path: "dispatch/a_rather_long_name_of_a_file.go", Name: "AssignToTheNearest", Kind: facts.Method, Certainty: resolve.Inferred}, Line: 1234}, Signature: "func (r *Roster) AssignToTheNearest(c Callout) (Team, error)"}
	d.Name = "AssignToTheNearest"
	m.Show(d, false)
	m.Count(answer.Ways{References: 1234, Files: 12, Implementations: 3, Callers: 45, Called: 6, InTests: 9, Tests: 7, Related: true})
	for _, width := range []int{80, 120} {
		line := regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(m.Line(width, &palette.Plain), "")
		for _, key := range []string{" d", " r 1,234", " i 3", " u", " c 45", " x 6", " s 7"} {
			assert.Contains(t, line, key, "at %d columns", width)
		}
	}
	m.Count(answer.Ways{References: 7, Possible: 2, PossibleCallers: 3, Files: 2, Related: true})
	line := regexp.MustCompile("\x1b\\[[0-9;]*m").ReplaceAllString(m.Line(80, &palette.Plain), "")
	for where, want := range map[string]string{"none, 3 through Hut.ring": "3 through", "4, 3 through Hut.ring": "4+3", "2 functions, 1 through Hut.ring": "2+1"} {
		assert.Equal(t, want, shortly(where, 2), where)
	}
	assert.Contains(t, line, " r 7 +2?")
	assert.Contains(t, line, " c 3?")
	for _, w := range m.Ways() {
		switch w.Action {
		case keymap.References:
			assert.Equal(t, "7, and 2 possible", w.Where)
		case keymap.Callers:
			assert.Equal(t, "3 possible", w.Where)
		}
	}
	m.Count(answer.Ways{Related: true})
	for _, w := range m.Ways() {
		if w.Action != keymap.Definition {
			assert.Equal(t, "none", w.Where, w.What)
		}
	}
	m.Count(answer.Ways{})
	assert.Equal(t, "…", m.Ways()[len(m.Ways())-1].Where, "not known yet is not none")
}

// Of a name that files of several languages share no more is said than where it is given and used.
func TestSharedNamesHaveFewWays(t *testing.T) {
	m := New(keymap.Default())
	d := about(resolve.ByName, 3)
	d.Shared = []facts.Shared{{Realm: facts.Environment, Name: "RADIO_PORT"}}
	d.Best.Kind = facts.Variable
	m.Show(d, false)
	m.Count(answer.Ways{References: 4, Files: 4, Related: true})
	var ways []string
	for _, w := range m.Ways() {
		ways = append(ways, w.What+" "+w.Where)
	}
	assert.Equal(t, []string{"definition 3 candidates", "references 4 in 4 files"}, ways)
}
