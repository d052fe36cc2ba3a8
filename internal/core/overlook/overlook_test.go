package overlook_test

import (
	"context"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

var station = map[string]string{
	"go.mod": "module tarn\n\ngo 1.24\n",
	"main.go": `package main

import (
	"tarn/dispatch"
	"tarn/store"
)

func main() { run(store.New()) }

func run(s *store.Store) {
	d := dispatch.Desk{Log: s}
	d.Answer(3)
	d.Answer(4)
}
`,
	"dispatch/desk.go": `package dispatch

import "tarn/geo"

// Logger keeps what was done.
type Logger interface{ Note(what string) }

type Desk struct{ Log Logger }

func (d Desk) Answer(n int) {
	if n > geo.Far {
		d.Answer(n - 1)
	}
	d.Log.Note(label(n))
}

func label(n int) string {
	words := "out"
	if n == 0 {
		for range 3 {
			words += "!"
		}
	}
	return words
}
`,
	"dispatch/desk_test.go": `package dispatch

import "testing"

func TestAnswer(t *testing.T) { Desk{}.Answer(0) }
`,
	"store/store.go": `package store

import "tarn/geo"

type Store struct{ near int }

func New() *Store { return &Store{near: geo.Far} }

func (s *Store) Note(what string) { write(what) }

func write(string) {}
`,
	"geo/geo.go": "package geo\n\nconst Far = 12\n",
	"ui/a.ts":    "import { b } from './b';\nexport const a = b;\n",
	"ui/b.ts":    "import { a } from './a';\nexport const b = 1;\nexport const again = a;\n",
}

// spot is where a text stands in a file, marked in it by a |.
func spot(t *testing.T, file, marked string) overlook.Spot {
	t.Helper()
	front, back, _ := strings.Cut(marked, "|")
	i := strings.Index(station[file], front+back)
	require.GreaterOrEqual(t, i, 0, marked)
	return overlook.Spot{Path: file, Offset: i + len(front)}
}

// lines are those of a scene, each as "from → to", in order; boxes are the names, with what is remarked on them.
func lines(s *draw.Scene) (all []string) {
	for _, l := range s.Lines {
		line := s.Boxes[l.From].Name + " → " + s.Boxes[l.To].Name
		if l.Look != draw.Usual {
			line += ", " + l.Look.String()
		}
		all = append(all, line)
	}
	slices.Sort(all)
	return all
}

func boxes(s *draw.Scene) (all []string) {
	for _, b := range s.Boxes {
		all = append(all, b.Name)
	}
	slices.Sort(all)
	return all
}

func scene(t *testing.T, ws *workspace.Workspace, a overlook.Asked) *draw.Scene {
	t.Helper()
	s, err := ws.Overlook.Scene(context.Background(), a, nil)
	require.NoError(t, err)
	for _, b := range s.Boxes {
		assert.NotEmpty(t, b.ID)
	}
	draw.Lay(s, draw.Medium)
	return s
}

func TestCalls(t *testing.T) {
	ws := workspacetest.Open(t, station)
	at := spot(t, "main.go", "func |main")
	out := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset})
	assert.Equal(t, []string{"main → New", "main → run", "run → Desk.Answer"}, lines(out))
	answer := out.Boxes[slices.IndexFunc(out.Boxes, func(b draw.Box) bool { return b.Name == "Desk.Answer" })]
	assert.Equal(t, 2, answer.Hidden, "label and Note lie behind it")
	assert.Equal(t, "dispatch/desk.go:10", answer.At())

	deeper := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset, Depth: 3})
	assert.Contains(t, lines(deeper), "Desk.Answer → Desk.Answer", "a recursion leads to itself")
	assert.Contains(t, lines(deeper), "Desk.Answer → Logger.Note, indirect")
	opened := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset, Open: map[string]bool{answer.ID: true}})
	assert.Equal(t, lines(deeper), lines(opened), "what is behind a box is drawn when it is opened")
	closed := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset, Closed: map[string]bool{out.Boxes[0].ID: true}})
	assert.Equal(t, []string{"main"}, boxes(closed))
	assert.Equal(t, 2, closed.Boxes[0].Hidden)

	at = spot(t, "dispatch/desk.go", "func |label")
	in := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset, Direction: overlook.Inward})
	assert.Equal(t, []string{"Desk.Answer → Desk.Answer", "Desk.Answer → label", "run → Desk.Answer"}, lines(in))
	assert.Contains(t, in.Notes, "Left out: 1 of tests.")
	with := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: at.Path, Offset: at.Offset, Direction: overlook.Inward, Tests: true})
	assert.Contains(t, lines(with), "TestAnswer → Desk.Answer")
	few := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: "main.go", Offset: spot(t, "main.go", "func |main").Offset, Depth: 4, Most: 2})
	assert.Len(t, few.Boxes, 2)
	assert.Contains(t, strings.Join(few.Notes, " "), "more than 2 were left out")
	without := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: "main.go", Offset: spot(t, "main.go", "func |main").Offset, Without: []string{"dispatch"}, Grouping: overlook.ByFolder})
	assert.NotContains(t, boxes(without), "Desk.Answer")
	assert.Equal(t, []string{".", "store"}, without.Groups)
}

// Every way by which a function reaches another one, also through an interface.
func TestCallsBetween(t *testing.T) {
	ws := workspacetest.Open(t, station)
	from, to := spot(t, "main.go", "func |main"), spot(t, "store/store.go", "func |write")
	s := scene(t, ws, overlook.Asked{View: overlook.Calls, Path: from.Path, Offset: from.Offset, To: &to})
	assert.Contains(t, s.Notes[0], "1. main → run → Desk.Answer → ")
	assert.Contains(t, s.Notes[0], "Store.Note → write")
	assert.Contains(t, boxes(s), "Store.Note")
	assert.NotContains(t, boxes(s), "New", "what is on no way is not drawn")
	_, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Calls, Path: to.Path, Offset: to.Offset, To: &from}, nil)
	assert.ErrorContains(t, err, "write does not reach main")
}

func TestFamily(t *testing.T) {
	files := map[string]string{"rescue.py": `class Thing:
    def wake(self): pass
    def sleep(self): pass

class Device(Thing):
    def wake(self): pass

class Beacon(Device):
    def wake(self): pass

class Lamp(Thing): pass
`}
	ws := workspacetest.Open(t, files)
	s := scene(t, ws, overlook.Asked{View: overlook.Family, Path: "rescue.py", Offset: strings.Index(files["rescue.py"], "Device")})
	assert.Equal(t, []string{"Device → Beacon", "Thing → Device", "Thing → Lamp"}, lines(s), "and what stands beside it")
	for _, b := range s.Boxes {
		if b.Name == "Beacon" {
			assert.Equal(t, []string{"has its own wake"}, b.Details)
		}
	}
	_, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Family, Path: "rescue.py", Offset: strings.Index(files["rescue.py"], "sleep")}, nil)
	assert.ErrorContains(t, err, "is derived from nothing")
	large := []string{"class Base: pass"}
	for i := range 1200 {
		large = append(large, "class Sub"+strings.Repeat("b", i%7)+string(rune('A'+i%26))+strings.Repeat("x", i/26)+"(Base): pass")
	}
	many := map[string]string{"many.py": strings.Join(large, "\n") + "\n"}
	s = scene(t, workspacetest.Open(t, many), overlook.Asked{View: overlook.Family, Path: "many.py", Offset: 6})
	assert.Len(t, s.Boxes, 1000)
	assert.NotZero(t, s.Boxes[0].Hidden)
	assert.Contains(t, strings.Join(s.Notes, " "), "were left out")
}

func TestImports(t *testing.T) {
	ws := workspacetest.Open(t, station)
	s := scene(t, ws, overlook.Asked{View: overlook.Imports})
	assert.Subset(t, lines(s), []string{"main.go → store.go", "main.go → desk.go", "store.go → geo.go", "desk.go → geo.go"}, "folders are opened until there is enough to see")
	s = scene(t, ws, overlook.Asked{View: overlook.Imports, Depth: 1})
	assert.Equal(t, []string{"dispatch → geo", "main.go → dispatch", "main.go → store", "store → geo"}, lines(s))
	floor := func(name string) string {
		for _, b := range s.Boxes {
			if b.Name == name {
				return s.Floors[b.Layer]
			}
		}
		return ""
	}
	assert.Equal(t, []string{"floor 1", "floor 2", "floor 3"}, []string{floor("geo"), floor("store"), floor("main.go")})
	files := scene(t, ws, overlook.Asked{View: overlook.Imports, Depth: 3})
	assert.Subset(t, lines(files), []string{"main.go → desk.go", "main.go → store.go", "store.go → geo.go"}, "which file of a package is meant follows from the names")
	circle := strings.Join(files.Notes, " ")
	assert.Contains(t, circle, "A circle: ui/a.ts, ui/b.ts.")
	assert.Contains(t, strings.Join(lines(files), " "), "marked", "the line that closes it stands out")

	one := scene(t, ws, overlook.Asked{View: overlook.Imports, Path: "store/store.go", Direction: overlook.BothWays})
	assert.Equal(t, []string{"main.go → store.go", "store.go → geo"}, lines(one))
	in := scene(t, ws, overlook.Asked{View: overlook.Imports, Path: "geo", Direction: overlook.Inward})
	assert.Equal(t, []string{"dispatch → geo.go", "store → geo.go"}, lines(in))
	_, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Imports, Path: "nowhere"}, nil)
	assert.ErrorContains(t, err, "no file or folder nowhere")
}

func TestValues(t *testing.T) {
	ws := workspacetest.Open(t, station)
	at := spot(t, "dispatch/desk.go", "|words := ")
	s := scene(t, ws, overlook.Asked{View: overlook.Values, Path: at.Path, Offset: at.Offset})
	present := slices.IndexFunc(s.Boxes, func(b draw.Box) bool { return b.Look == draw.Present })
	require.GreaterOrEqual(t, present, 0)
	from, to := 0, 0
	for _, l := range s.Lines {
		if l.To == present {
			from++
		}
		if l.From == present {
			to++
		}
	}
	assert.NotZero(t, from, "where it comes from")
	assert.NotZero(t, to, "where it goes to")
}

func TestTrail(t *testing.T) {
	ws := workspacetest.Open(t, station)
	_, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Trail}, &trail.Trail{})
	assert.ErrorContains(t, err, "the trail is empty")
	way := &trail.Trail{Name: "the late call-out"}
	view := func(p string, line int) trail.View { return trail.View{Place: place.Place{Path: p, Line: line}} }
	way.Go(view("main.go", 8), "", "main")
	way.Go(view("dispatch/desk.go", 10), "definition of Answer", "Desk.Answer")
	way.Back()
	way.Go(view("store/store.go", 7), "definition of New", "New")
	way.SetNote(way.Here(), "is it kept?")
	s, err := ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Trail, Grouping: overlook.ByFile}, way)
	require.NoError(t, err)
	assert.Equal(t, "the late call-out", s.Title)
	assert.Equal(t, []string{"main → Desk.Answer", "main → New"}, lines(s), "a fork leads both ways")
	assert.Equal(t, []string{"main.go", "dispatch/desk.go", "store/store.go"}, s.Groups)
	last := s.Boxes[len(s.Boxes)-1]
	assert.Equal(t, draw.Present, last.Look)
	assert.Contains(t, last.Details, "is it kept?")
	assert.Equal(t, []int{0, 1, 2}, []int{s.Boxes[0].Layer, s.Boxes[1].Layer, s.Boxes[2].Layer}, "in the order of time")
	s, err = ws.Overlook.Scene(context.Background(), overlook.Asked{View: overlook.Trail, Grouping: overlook.ByDay, Most: 2}, way)
	require.NoError(t, err)
	assert.Len(t, s.Boxes, 2)
	assert.Contains(t, s.Notes[0], "The last 2 of 3 stops")
	assert.Equal(t, time.Now().Format("2 Jan"), s.Floors[0])
}

func TestCharts(t *testing.T) {
	ws := workspacetest.Open(t, station)
	chart := func(c overlook.Counted, ways ...*trail.Trail) *draw.Chart {
		t.Helper()
		made, err := ws.Overlook.Chart(context.Background(), c, ways)
		require.NoError(t, err)
		return made
	}
	size := chart(overlook.Counted{Measure: overlook.Volume})
	assert.Equal(t, "dispatch/", size.Bars[0].Name)
	assert.Equal(t, []float64{25, 5}, size.Bars[0].Values, "code and tests")
	assert.Equal(t, "desk.go", chart(overlook.Counted{Measure: overlook.Volume, Path: "dispatch", ByFile: true}).Bars[0].Name)
	assert.Equal(t, "label", chart(overlook.Counted{Measure: overlook.Lengths}).Bars[0].Name)
	assert.Equal(t, 9.0, chart(overlook.Counted{Measure: overlook.Lengths}).Bars[0].Total())
	assert.Equal(t, "label", chart(overlook.Counted{Measure: overlook.Depths}).Bars[0].Name)
	callers := chart(overlook.Counted{Measure: overlook.Callers})
	assert.Equal(t, []any{"Desk.Answer", 3.0}, []any{callers.Bars[0].Name, callers.Bars[0].Total()})
	one := chart(overlook.Counted{Measure: overlook.Lengths, Most: 1})
	assert.Len(t, one.Bars, 1)
	assert.Contains(t, one.Notes[0], "left out")

	way := &trail.Trail{}
	way.Go(trail.View{Place: place.Place{Path: "main.go", Line: 8}}, "", "main").At = time.Now().Add(-9 * time.Minute)
	way.Go(trail.View{Place: place.Place{Path: "geo/geo.go", Line: 3}}, "", "Far").At = time.Now().Add(-2 * time.Minute)
	way.Here().Seen = time.Now()
	spent := chart(overlook.Counted{Measure: overlook.Time, ByFile: true}, way)
	assert.Equal(t, "geo.go", spent.Bars[len(spent.Bars)-1].Name)
	assert.NotEmpty(t, chart(overlook.Counted{Measure: overlook.Days}, way).Bars)
	_, err := ws.Overlook.Chart(context.Background(), overlook.Counted{Measure: overlook.Time}, nil)
	assert.ErrorContains(t, err, "the trail is empty")
	_, err = ws.Overlook.Chart(context.Background(), overlook.Counted{Measure: "beauty"}, nil)
	assert.ErrorContains(t, err, "there are time")
	_, err = ws.Overlook.Chart(context.Background(), overlook.Counted{Measure: overlook.Churn}, nil)
	assert.ErrorContains(t, err, "no repository")
}

func TestWritingToAFile(t *testing.T) {
	ws := workspacetest.Open(t, station)
	p := draw.Lay(scene(t, ws, overlook.Asked{View: overlook.Imports}), draw.Small)
	name := ws.Overlook.FileName("Imports of “tarn” / all", draw.SVG)
	assert.Equal(t, "imports-of-tarn-all.svg", name)
	at, err := ws.Overlook.Write(p, name, &draw.Dark)
	require.NoError(t, err)
	data, err := os.ReadFile(at)
	require.NoError(t, err)
	assert.Contains(t, string(data), `href="main.go#L1"`)
	_, err = ws.Overlook.Write(p, name, &draw.Dark)
	assert.ErrorContains(t, err, "is there already")
	assert.Equal(t, "imports-of-tarn-all-2.svg", ws.Overlook.FileName("Imports of “tarn” / all", draw.SVG))
	_, err = ws.Overlook.Write(p, "nowhere/x.svg", &draw.Dark)
	assert.ErrorContains(t, err, "writing the drawing")
	_, err = ws.Overlook.Write(p, "x.doc", &draw.Dark)
	assert.ErrorContains(t, err, "there are svg")
	require.NoError(t, os.MkdirAll(filepath.Join(ws.Code.Root(), "docs"), 0o755))
	at, err = ws.Overlook.Write(p, "docs/x.svg", &draw.Light)
	require.NoError(t, err)
	data, err = os.ReadFile(at)
	require.NoError(t, err)
	assert.Contains(t, string(data), `href="../main.go#L1"`, "the way from where it is")
}

func TestADrawingReachesAsFarAsIsUsualForItsView(t *testing.T) {
	calls := overlook.Asked{View: overlook.Calls}
	ways := overlook.Asked{View: overlook.Calls, To: &overlook.Spot{}}
	assert.Greater(t, ways.Reach(), calls.Reach(), "a way may be long: one step deeper than it is must not make it shorter")
	ways.Depth = 3
	assert.Equal(t, 3, ways.Reach())
	assert.Zero(t, overlook.Asked{View: overlook.Trail}.Reach())
}
