package sweeps

import (
	"context"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/report"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// project keeps sweeps in memory.
type project struct {
	root    string
	kept    map[string]*sweep.Sweep
	missing map[string]bool
}

func newProject() *project {
	return &project{kept: map[string]*sweep.Sweep{}, missing: map[string]bool{}}
}

func (p *project) Colors(context.Context, string, int) highlight.Spans { return nil }
func (p *project) KeepSweep(s *sweep.Sweep) error                      { p.kept[s.ID] = s.Clone(); return nil }
func (p *project) RemoveSweep(id string) error                         { delete(p.kept, id); return nil }
func (p *project) Locate(context.Context, *sweep.Sweep)                {}

func (p *project) Sweeps() (all []*sweep.Sweep, err error) {
	for _, s := range p.kept {
		all = append(all, s.Clone())
	}
	return all, nil
}

func (p *project) NewSweep(_ context.Context, name string, source sweep.Source, all []answer.Answer) *sweep.Sweep {
	s := sweep.New(name, source, nil)
	for _, d := range all {
		s.Items = append(s.Items, sweep.Item{Key: d.Path, Memory: place.Remember(place.Anchor{Path: d.Path, Line: d.Line, Col: 1, Text: d.Text})})
	}
	return s
}

func (p *project) RefreshSweep(context.Context, *sweep.Sweep) (fresh, settled int, err error) {
	return 1, 2, nil
}

func (p *project) Find(_ context.Context, m *place.Memory) (place.Fate, error) {
	if p.missing[m.Path] {
		return place.Gone, fs.ErrNotExist
	}
	return place.Same, nil
}

func (p *project) Root() string { return p.root }

func (p *project) ReadList(_ context.Context, name, _ string, r io.Reader) (*sweep.Sweep, lists.ListReport, error) {
	read, err := report.Read(r)
	if err != nil {
		return nil, lists.ListReport{}, err
	}
	s := sweep.New(name, sweep.Source{Kind: sweep.OfReport}, nil)
	for _, f := range read.Findings {
		s.Items = append(s.Items, sweep.Item{Key: f.Path, Memory: place.Remember(place.Anchor{Path: f.Path, Line: f.Line, Col: 1})})
	}
	return s, lists.ListReport{Form: read.Form, Passed: len(read.Results), Broken: read.Broken}, nil
}

func (p *project) TextPlaces(context.Context, find.Query) ([]answer.Answer, error) {
	return places(), nil
}

func places() (all []answer.Answer) {
	for i, p := range []string{"hut.go", "team.go", "winch.go"} {
		all = append(all, answer.Answer{Answer: resolve.Answer{Path: p}, Line: i + 1, Text: "ring()"})
	}
	return all
}

func begin(p *project) (*Surface, func(a keymap.Action) surface.Intent) {
	s := NewSurface(&uitest.Host{}, p)
	s.Resize(100, 16)
	commands := s.Commands()
	return s, func(a keymap.Action) surface.Intent { return uitest.Last(uitest.Carry(commands[a]())) }
}

func TestKeepingAndWalking(t *testing.T) {
	p := newProject()
	s, do := begin(p)
	assert.Contains(t, do(keymap.Sweep).Say, "there is no sweep")
	todo := uitest.Last(uitest.Carry(s.KeepPlaces("uses of ring", sweep.Source{Kind: sweep.OfList}, places())))
	assert.Contains(t, todo.Say, `kept as the sweep "uses of ring" with 3 places`)
	assert.True(t, todo.Through, "from now on n and p are about it, whatever was looked for in the file")
	require.Len(t, p.kept, 1)
	n, ok := s.Left()
	assert.True(t, ok && n == 3)
	assert.Contains(t, do(keymap.SweepTick).Say, "n goes to the first place")

	next := func() surface.Intent { return uitest.Last(uitest.Carry(s.Next(true))) }
	todo = next()
	assert.Equal(t, "hut.go", todo.Go.Path)
	assert.True(t, todo.Go.Lead)
	assert.Contains(t, todo.Go.After, "1 of 3, 3 to do in uses of ring")
	assert.Equal(t, "team.go", do(keymap.SweepDone).Go.Path)
	n, _ = s.Left()
	assert.Equal(t, 2, n)
	assert.Equal(t, "team.go set aside: 1 of 3 to do in uses of ring", do(keymap.SweepFile).Say)
	assert.Equal(t, "team.go brought back: 2 of 3 to do in uses of ring", do(keymap.SweepFile).Say)
	assert.Contains(t, do(keymap.SweepAside).Say, "set aside")
	p.missing["winch.go"] = true
	todo = next()
	assert.Nil(t, todo.Go)
	assert.Equal(t, "gone: winch.go: it is not there any more; n goes on, 0 of 3 to do in uses of ring", todo.Say)
	assert.Contains(t, next().Say, "nothing is left to do in uses of ring")
}

func TestTheSheet(t *testing.T) {
	p := newProject()
	s, do := begin(p)
	uitest.Carry(s.KeepText(find.Query{Pattern: "ring"}))
	todo := do(keymap.Sweep)
	assert.Same(t, s, todo.Open)
	assert.Equal(t, "hut.go", todo.Look.Path)
	assert.Contains(t, uitest.Of(s, 100, 16), "text: ring")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+v")).Say, "done: 2 of 3 to do")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+a")).Say, "1 new, 2 no longer among the answers")
	assert.Contains(t, uitest.Last(uitest.Press(s, "alt+p")).Copy.Text, "ring()")
	uitest.Press(s, "down", "alt+n", "ask the warden", "enter")
	assert.Equal(t, "ask the warden", s.present.Items[1].Note)
	last := uitest.Last(uitest.Press(s, "enter"))
	assert.True(t, last.Leave)
	assert.Equal(t, "team.go", last.Go.Path)
	s.Closed()
	assert.Contains(t, do(keymap.SweepRefresh).Say, "1 new", "it is told when the sheet is closed, too")
	do(keymap.Sweeps)
	assert.Contains(t, uitest.Of(s, 100, 16), "forget")
	uitest.Press(s, "alt+r", " again", "enter")
	assert.Equal(t, "text: ring again", s.present.Name)
	last = uitest.Last(uitest.Press(s, "alt+d", "alt+d"))
	assert.True(t, last.Close)
	assert.Equal(t, "text: ring again is forgotten", last.Say)
	assert.Empty(t, p.kept)
	_, ok := s.Left()
	assert.False(t, ok)
}

// The same question makes no second sweep, so that no mark is lost; files that move take their places
// along; and what was kept is there the next time.
func TestTheSameQuestionAgain(t *testing.T) {
	p := newProject()
	s, _ := begin(p)
	q := find.Query{Pattern: "ring"}
	uitest.Carry(s.KeepText(q))
	uitest.Carry(s.Next(true))
	s.present.SetMark(0, sweep.Done)
	assert.Contains(t, uitest.Last(uitest.Carry(s.KeepText(q))).Say, "1 new, 2 no longer")
	assert.Len(t, s.all, 1)
	assert.Equal(t, sweep.Done, s.present.Items[0].Mark)
	uitest.Carry(surface.Begin(s.Moved("hut.go", "shelter.go")))
	assert.Equal(t, "shelter.go", s.present.Items[0].Path)
	assert.Nil(t, s.In("hut.go"))
	assert.NotNil(t, s.In("shelter.go"))
	s.Touched()()

	again, _ := begin(p)
	todo := uitest.Last(uitest.Carry(surface.Begin(again.Load(place.Place{Path: "shelter.go", Line: 1}))))
	assert.Contains(t, todo.Say, "1 of 3", "one begins at the place one was at")
	uitest.Carry(surface.Begin(again.Load(place.Place{})))
	assert.Len(t, again.all, 1, "read twice it is there once")
}

// ran is what a command has named.
func ran(paths ...string) *sweep.Sweep {
	s := sweep.New("make check", sweep.Source{Kind: sweep.OfRun, Command: "make check"}, nil)
	for _, p := range paths {
		s.Items = append(s.Items, sweep.Item{Key: p, Memory: place.Remember(place.Anchor{Path: p, Line: 1, Col: 1, Text: "ring()"})})
	}
	return s
}

// The places of a command are one sweep, whenever it is run: what is not named any more is settled, and what was ticked and is named
// again was not done.
func TestTheSweepOfARun(t *testing.T) {
	p := newProject()
	s, do := begin(p)
	run := func(said string, paths ...string) surface.Intent {
		return uitest.Last(uitest.Carry(s.FromRun(ran(paths...), said)))
	}
	assert.Empty(t, run("make check: done").Say, "it names nothing")
	assert.False(t, s.Any())
	assert.Empty(t, run("", "hut.go").Say, "it goes on")
	assert.True(t, s.Any())
	assert.Equal(t, "make check: failed; 2 places to do: n goes to the first", run("make check: failed", "hut.go", "team.go").Say)
	uitest.Carry(s.Next(true))
	do(keymap.SweepTick)
	n, _ := s.Left()
	assert.Equal(t, 1, n)
	assert.Empty(t, run("", "hut.go").Say, "run again, it has not come as far yet")
	assert.Equal(t, "make check: failed; 1 place to do: n goes to the first", run("make check: failed", "hut.go").Say)
	assert.Equal(t, "make check: done; none of the places of before is left", run("make check: done").Say)
	require.Len(t, p.kept, 1)
	n, _ = s.Left()
	assert.Zero(t, n)

	two := func() *sweep.Sweep {
		both := ran("hut.go", "hut.go")
		both.Items[0].Note, both.Items[1].Note = "too loud", "too low"
		return both
	}
	for range 3 { // two things are said of one place, again and again
		uitest.Carry(s.FromRun(two(), "make check: failed"))
	}
	assert.Len(t, s.present.Items, 3, "and team.go, which is settled")
	n, _ = s.Left()
	assert.Equal(t, 2, n)
}

func TestReadingAReport(t *testing.T) {
	p := newProject()
	p.root = t.TempDir()
	s, do := begin(p)
	read := func(text string) string {
		require.NoError(t, os.WriteFile(filepath.Join(p.root, "report"), []byte(text), 0o600))
		asks := do(keymap.ReadReport).Open
		require.NotNil(t, asks)
		return uitest.Last(uitest.Press(asks, "report", "enter")).Say
	}
	assert.Contains(t, read("hut.go:3: too loud\n"), `kept as the sweep "report" with 1 place`)
	assert.True(t, s.Any())
	assert.Equal(t, "it names no place of this project", read("nothing\n"))
	assert.Equal(t, "no test in it failed, of 1", read("TAP version 13\nok 1 - a\n1..1\n"))
	assert.Equal(t, "nothing could be read of it, as SARIF: it ends in the middle", read(`{"version":"2.1.0","runs":[`))
	require.NoError(t, os.Remove(filepath.Join(p.root, "report")))
	assert.Equal(t, "reading report: it is not there any more", uitest.Last(uitest.Press(do(keymap.ReadReport).Open, "report", "enter")).Say)
}
