package proposals_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/making"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/proposals"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

var files = map[string]string{
	"bell.go": "package bell\n\n// Bell rings. A Bell is loud.\ntype Bell struct{ times int }\n\nfunc (b Bell) Ring() int { return b.times }\n",
	"hut.go":  "package bell\n\nvar b Bell\n\nfunc wake() {\n\tb.Ring()\n\tb.Ring()\n}\n",
}

// bench is the surface in a project, with the caret at a text of a file.
type bench struct {
	t     *testing.T
	ws    *workspace.Workspace
	host  *uitest.Host
	s     *proposals.Surface
	saved [][]string

	renewed []*codebase.File
}

func open(t *testing.T, file, marked string) *bench {
	b := &bench{t: t, ws: workspacetest.Open(t, files), host: &uitest.Host{}}
	b.ws.KnowChanges(t.TempDir())
	b.at(file, marked)
	b.s = proposals.New(b.host, b.ws.Changes, func(paths []string, then func() surface.Intent) surface.Intent {
		b.saved = append(b.saved, paths)
		return then()
	}, func() (map[string][]int, string) { return map[string][]int{"hut.go": {6}}, "ringing" }, b)
	b.s.Resize(100, 24)
	return b
}

func (b *bench) at(file, marked string) {
	f, err := b.ws.Code.Load(context.Background(), file)
	require.NoError(b.t, err)
	offset := strings.Index(string(f.Text.Bytes()), marked)
	require.GreaterOrEqual(b.t, offset, 0, marked)
	line, col := f.Text.Position(offset)
	b.host.At = surface.Here{File: f, Offset: offset, View: trail.View{Place: place.Place{Path: file, Line: line, Col: col}}}
}

// do carries out a command; what is asked on the way gets answers.
func (b *bench) do(a keymap.Action, answers ...string) surface.Intent {
	all := uitest.Carry(b.s.Commands()[a]())
	for _, answer := range answers {
		asked := uitest.Last(all).Open
		require.NotNil(b.t, asked, uitest.Last(all).Say)
		asked.Resize(100, 10)
		if answer != "" {
			all = uitest.Press(asked, "ctrl+u", answer, "enter")
		} else {
			all = uitest.Press(asked, "enter")
		}
	}
	return uitest.Last(all)
}

func (b *bench) Open() map[string]bool { return map[string]bool{"hut.go": true} }

func (b *bench) Renew(files []*codebase.File) surface.Intent {
	b.renewed = append(b.renewed, files...)
	return surface.Intent{}
}

func (b *bench) text() string { return uitest.Of(b.s, 110, 24) }

func (b *bench) read(file string) string {
	data, err := os.ReadFile(filepath.Join(b.ws.Code.Root(), file))
	require.NoError(b.t, err)
	return string(data)
}

func TestRename(t *testing.T) {
	b := open(t, "bell.go", "Bell struct")
	todo := b.do(keymap.Rename, "Horn")
	assert.Equal(t, b.s, todo.Open)
	text := b.text()
	for _, want := range []string{"rename Bell to Horn", "changes 3 places in 2 files, 2 left out", "definition  type Bell → Horn struct{ times int }", "type        var b Bell → Horn", "mentioned in comments", "left out    // Bell → Horn rings.", "code outside this project may use Bell"} {
		assert.Contains(t, text, want)
	}
	look := todo.Look
	require.NotNil(t, look)
	doc, err := look.TextOf(context.Background())
	require.NoError(t, err)
	assert.Equal(t, "type Horn struct{ times int }", string(doc.Line(4)), "beneath stands what it would be")
	line, col := doc.Position(int(look.Name.Start))
	assert.Equal(t, []int{4, 4, 6, 4}, []int{look.Line, line, col, look.Name.Len()})

	uitest.Press(b.s, "alt+d")
	assert.Contains(t, b.text(), "left out  type Bell → Horn")
	assert.Contains(t, b.text(), "changes 2 places in 2 files, 3 left out")
	uitest.Press(b.s, "alt+d", "alt+m")
	assert.Contains(t, b.text(), "changes 5 places in 2 files")
	assert.Equal(t, "2 places are left out", uitest.Last(uitest.Press(b.s, "alt+m")).Say)

	last := uitest.Last(uitest.Press(b.s, "ctrl+s"))
	assert.Equal(t, "3 places in 2 files: C u takes all of it back", last.Say)
	assert.Equal(t, [][]string{{"bell.go", "hut.go"}}, b.saved)
	assert.Contains(t, b.read("hut.go"), "var b Horn")
	require.Len(t, b.renewed, 1, "the open one is as it is now before any key counts")
	assert.Contains(t, string(b.renewed[0].Text.Bytes()), "var b Horn")
	assert.Contains(t, b.read("bell.go"), "// Bell rings.")
	assert.Equal(t, "nothing is proposed; C r proposes another name", uitest.Said(b.s.Commands()[keymap.Proposal]()))

	assert.Contains(t, b.do(keymap.ChangeUndo).Say, "taken back in 2 files: rename Bell to Horn")
	assert.Equal(t, files["hut.go"], b.read("hut.go"))
	assert.Contains(t, b.do(keymap.ChangeAgain).Say, "made again")
	assert.Contains(t, b.read("hut.go"), "var b Horn")
	b.do(keymap.ChangeUndo)
	assert.Contains(t, b.do(keymap.ChangeUndo).Say, "no change over several files is left")
}

func TestAConflictIsNotMade(t *testing.T) {
	b := open(t, "hut.go", "wake")
	b.do(keymap.Rename, "b")
	assert.Contains(t, b.text(), "conflict    there is a variable b already")
	assert.Contains(t, uitest.Last(uitest.Press(b.s, "ctrl+s")).Say, "it cannot be made: there is a variable b already")
	assert.Equal(t, files["hut.go"], b.read("hut.go"))
	todo := uitest.Last(uitest.Press(b.s, "up", "up", "up", "enter"))
	require.NotNil(t, todo.Go, "Enter goes to where it is")
	assert.Equal(t, 3, todo.Go.Line)
	last := uitest.Last(uitest.Press(b.s, "esc"))
	assert.True(t, last.Close)
	assert.Equal(t, "nothing is changed; C C shows the proposal again", last.Say)
	assert.Equal(t, b.s, b.s.Commands()[keymap.Proposal]().Open)
}

func TestByHandAndAsADiff(t *testing.T) {
	b := open(t, "bell.go", "times int")
	b.do(keymap.Rename, "count")
	uitest.Press(b.s, "down")
	asked := uitest.Last(uitest.Press(b.s, "ctrl+e")).Open
	require.NotNil(t, asked)
	asked.Resize(100, 1)
	assert.Contains(t, uitest.Of(asked, 100, 1), "func (b Bell) Ring() int { return b.count }")
	uitest.Press(asked, "ctrl+u", "func (b Bell) Ring() int { return 2 * b.count }", "enter")
	assert.Contains(t, b.text(), "by hand")
	asked = uitest.Last(uitest.Press(b.s, "alt+h")).Open
	require.NotNil(t, asked)
	asked.Resize(100, 1)
	assert.Contains(t, uitest.Last(uitest.Press(asked, "enter")).Say, "rename-times-to-count.diff is written")
	assert.Contains(t, b.read("rename-times-to-count.diff"), "+func (b Bell) Ring() int { return 2 * b.count }\n")
	assert.Equal(t, files["bell.go"], b.read("bell.go"))
}

func TestReplacingAsOneTypes(t *testing.T) {
	b := open(t, "bell.go", "Bell struct")
	b.do(keymap.Replace)
	assert.Contains(t, b.text(), "replace  Bell")
	uitest.Press(b.s, "ctrl+u", "bell", "enter", "horn")
	assert.Contains(t, b.text(), "replace “bell” by “horn”")
	assert.Contains(t, b.text(), "changes 7 places in 2 files")
	assert.Contains(t, b.text(), "type Bell → Horn struct")
	uitest.Press(b.s, "alt+d", "s")
	assert.Contains(t, b.text(), "by “horns”")
	assert.Contains(t, b.text(), "changes 6 places in 2 files, 1 left out", "what was left out stays so as one types on")
	uitest.Press(b.s, "tab", "tab")
	assert.Contains(t, b.text(), "only in comments")
	assert.Contains(t, b.text(), "2 of 2")
	uitest.Press(b.s, "shift+tab", "ctrl+u", "(", "alt+x")
	assert.Contains(t, b.text(), "does not compile")
	assert.Equal(t, "nothing would change: everything is left out", uitest.Last(uitest.Press(b.s, "ctrl+s")).Say)

	b.do(keymap.ReplaceSweep)
	uitest.Press(b.s, "ctrl+u", "Ring", "enter", "Wake")
	assert.Contains(t, b.text(), "in the places of ringing")
	uitest.Press(b.s, "ctrl+s")
	assert.Equal(t, "package bell\n\nvar b Bell\n\nfunc wake() {\n\tb.Wake()\n\tb.Ring()\n}\n", b.read("hut.go"))
	b.at("hut.go", "wake")
	b.do(keymap.ReplaceHere)
	assert.Contains(t, b.text(), "in hut.go")
}

// A proposal is kept for another day, and comes back of the files as they are then.
func TestKeptProposalsAndDiffs(t *testing.T) {
	b := open(t, "bell.go", "times int")
	assert.Contains(t, b.do(keymap.Proposals).Say, "no proposal is kept")
	b.do(keymap.Rename, "count")
	assert.Contains(t, uitest.Last(uitest.Press(b.s, "alt+s")).Say, "kept: rename times to count")
	full := filepath.Join(b.ws.Code.Root(), "bell.go")
	require.NoError(t, os.WriteFile(full, []byte("// new\n"+files["bell.go"]), 0o644))
	b.ws.Code.Refresh(context.Background())
	list := b.do(keymap.Proposals).Open
	require.NotNil(t, list)
	assert.Contains(t, uitest.Of(list, 80, 8), "rename times to count")
	assert.Equal(t, b.s, uitest.Last(uitest.Press(list, "enter")).Open)
	uitest.Press(b.s, "ctrl+s")
	assert.Contains(t, b.read("bell.go"), "// new\npackage bell")
	assert.Contains(t, b.read("bell.go"), "type Bell struct{ count int }")
	list = b.do(keymap.Proposals).Open
	uitest.Of(list, 80, 8)
	uitest.Press(list, "down", "enter")
	assert.Contains(t, b.do(keymap.Proposals).Say, "no proposal is kept")

	require.NoError(t, os.WriteFile(filepath.Join(b.ws.Code.Root(), "x.diff"), []byte("--- a/hut.go\n+++ b/hut.go\n@@ -3 +3 @@\n-var b Bell\n+var horn Bell\n"), 0o644))
	todo := b.do(keymap.ReadDiff, "x.diff")
	assert.Equal(t, b.s, todo.Open, todo.Say)
	assert.Contains(t, b.text(), "what x.diff says")
	assert.Contains(t, b.text(), "var b Bell → var horn Bell")
	assert.Contains(t, b.do(keymap.ReadDiff, "none.diff").Say, "reading none.diff")
}

// brokenOff is a project in which a change was broken off.
type brokenOff struct {
	*workspace.Changes
	left    []making.Broken
	settled string
}

func (p *brokenOff) Broken(context.Context) ([]making.Broken, error) { return p.left, nil }
func (p *brokenOff) Settle(_ context.Context, b making.Broken, back bool) error {
	p.settled, p.left = fmt.Sprint(b.Title, " ", back), nil
	return nil
}

// What to do with a change that was broken off is asked at the next start.
func TestAChangeThatWasBrokenOff(t *testing.T) {
	for i, want := range []string{"rename Bell to Horn true", "rename Bell to Horn false"} {
		b := open(t, "bell.go", "Bell struct")
		p := &brokenOff{Changes: b.ws.Changes, left: []making.Broken{{Change: &making.Change{Title: "rename Bell to Horn"}, Done: 1, Old: 2, Other: []string{"tower.go"}}}}
		s := proposals.New(b.host, p, nil, nil, b)
		asked := uitest.Last(uitest.Carry(surface.Begin(s.Load()))).Open
		require.NotNil(t, asked)
		text := uitest.Of(asked, 130, 8)
		assert.Contains(t, text, "“rename Bell to Horn” was broken off: 1 of 3 files are changed; tower.go is something else by now")
		assert.Contains(t, text, "take it back: all of them as they were")
		keys := []string{"enter"}
		if i == 1 {
			keys = []string{"down", "enter"}
		}
		assert.Contains(t, uitest.Last(uitest.Press(asked, keys...)).Say, []string{"is taken back", "is finished"}[i])
		assert.Equal(t, want, p.settled)
	}
}
