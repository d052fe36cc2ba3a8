package lists_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
)

// listed writes the places of a sweep with what became of them.
func listed(s *sweep.Sweep) (all []string) {
	for i := range s.Items {
		it := &s.Items[i]
		words := it.Place().String() + " " + it.Text
		if it.Fate != place.Same {
			words += ", " + it.Fate.String()
		}
		if it.New {
			words += ", new"
		}
		if it.Settled {
			words += ", settled"
		}
		all = append(all, words)
	}
	return all
}

// change writes a file anew and has the project read it.
func change(t *testing.T, ws *workspace.Workspace, path, code string) {
	t.Helper()
	require.NoError(t, os.WriteFile(ws.Code.Absolute(path), []byte(code), 0o600))
	ws.Code.Refresh(context.Background())
}

func TestASweepStaysWithTheCode(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	ctx := context.Background()
	offset := strings.Index(workspacetest.Ridge["ridge/bell.py"], "ring")
	_, all := ws.Answers.Along(ctx, answer.ToReferences, "ridge/bell.py", offset)
	from := ws.Lists.Anchor(ctx, place.Place{Path: "ridge/bell.py", Line: 2, Col: 9})
	s := ws.Lists.NewSweep(ctx, "rings", sweep.Source{Kind: sweep.OfWay, Way: answer.ToReferences.String(), From: &from}, all)
	assert.Equal(t, []string{"ridge/hut.py:4:10 bell.ring(2)", "ridge/hut.py:5:10 bell.ring(3)"}, listed(s))
	s.SetMark(0, sweep.Done)

	change(t, ws, "ridge/bell.py", "# Bells.\n\n"+workspacetest.Ridge["ridge/bell.py"])
	change(t, ws, "ridge/hut.py", strings.Replace(workspacetest.Ridge["ridge/hut.py"], "    bell.ring(2)\n    bell.ring(3)\n", "    if bell:\n        bell.ring(2)\n    bell.ring(9)\n", 1))
	ws.Lists.Locate(ctx, s)
	assert.Equal(t, []string{"ridge/hut.py:5:14 bell.ring(2), moved", "ridge/hut.py:6:10 bell.ring(9), changed"}, listed(s))
	change(t, ws, "ridge/hut.py", workspacetest.Ridge["ridge/hut.py"]+"\ndef again(bell: Bell):\n    bell.ring(7)\n")
	fresh, settled, err := ws.Lists.RefreshSweep(ctx, s)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 0}, []int{fresh, settled})
	assert.Equal(t, []string{"ridge/hut.py:4:10 bell.ring(2)", "ridge/hut.py:5:10 bell.ring(3)", "ridge/hut.py:11:10 bell.ring(7), new"}, listed(s))
	assert.Equal(t, sweep.Done, s.Items[0].Mark)
	change(t, ws, "ridge/hut.py", "def wake(): pass\n")
	fresh, settled, err = ws.Lists.RefreshSweep(ctx, s)
	require.NoError(t, err)
	assert.Equal(t, 0, fresh+settled)
	assert.Equal(t, sweep.Count{All: 3, Done: 1, Gone: 2}, s.Count())
	require.NoError(t, os.Remove(ws.Code.Absolute("ridge/bell.py")))
	_, _, err = ws.Lists.RefreshSweep(ctx, s)
	require.ErrorContains(t, err, "is not there any more")
}

func TestWhatASweepCanBeMadeOf(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a.go": "package a\n\nfunc ring() {}\n\nfunc main() { ring() }\n\nfunc idle() {}\n"})
	ctx := context.Background()
	for _, c := range []struct {
		source sweep.Source
		want   []string
	}{
		{sweep.Source{Kind: sweep.OfText, Query: &find.Query{Pattern: "ring"}}, []string{"a.go:3:6 func ring() {}, new", "a.go:5:15 func main() { ring() }, new"}},
		{sweep.Source{Kind: sweep.OfUnused, Folder: "."}, []string{"a.go:7:6 func idle() {}, new"}},
		{sweep.Source{Kind: sweep.OfChanged}, nil},
	} {
		s := ws.Lists.NewSweep(ctx, "x", c.source, nil)
		_, _, err := ws.Lists.RefreshSweep(ctx, s)
		require.NoError(t, err)
		assert.Equal(t, c.want, listed(s), c.source.Kind)
	}
	_, _, err := ws.Lists.RefreshSweep(ctx, ws.Lists.NewSweep(ctx, "x", sweep.Source{Kind: sweep.OfList}, nil))
	require.ErrorIs(t, err, lists.ErrNotAgain)
}

func TestChangedPlaces(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a.go": "package a\n\nfunc a() {\n}\n\nfunc b() {\n}\n\nfunc c() {\n}\n", "same.go": "package a\n"})
	git := func(args ...string) {
		out, err := exec.Command("git", append([]string{"-C", ws.Code.Root(), "-c", "user.name=n", "-c", "user.email=e@example.org"}, args...)...).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	git("init", "-q")
	git("add", ".")
	git("commit", "-qm", "first")
	change(t, ws, "a.go", "package a\n\nfunc a() {\n\tb()\n}\n\nfunc bb() {\n}\n\n")
	change(t, ws, "new.txt", "a line\n")
	var got []string
	for _, d := range ws.Lists.ChangedPlaces(context.Background(), "") {
		place := d.Place()
		got = append(got, place.String()+" "+d.Role+" "+d.Why+" in "+d.Around())
	}
	assert.Equal(t, []string{"a.go:4:2 added +1 in a", "a.go:7:1 changed +1 −1 in bb", "a.go:9:1 removed −2 in ", "new.txt:1:1 added +1 in "}, got)
}

func TestReadingAListOfPlaces(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	s, report, err := ws.Lists.ReadList(context.Background(), "lint", "ridge", strings.NewReader("hut.py:4:10: too loud\n"+ws.Code.Root()+"/ridge/bell.py:2: abs\nerror test_hut.py:5: by name\nnothing here\n../outside.py:3: x\nhut.py:999: far\n"))
	require.NoError(t, err)
	assert.Equal(t, []string{"ridge/hut.py:4:10 bell.ring(2)", "ridge/bell.py:2:1 def ring(self, times):", "ridge/test_hut.py:5:1 wake(Horn())", "ridge/hut.py:999:1 "}, listed(s))
	assert.Equal(t, []string{"too loud", "wake"}, []string{s.Items[0].Note, s.Items[0].In})
	assert.Equal(t, lists.ListReport{Form: "lines", Others: 1, Outside: 1, FirstOutside: "../outside.py"}, report)
}

// What a report says are problems of the code, which move with it, until they are ticked.
func TestReportsAreProblems(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	ws.Lists.KnowSweeps(t.TempDir())
	ctx := context.Background()
	s, said, err := ws.Lists.ReadList(ctx, "lint", ".", strings.NewReader(`{"version":"2.1.0","runs":[{"tool":{"driver":{"name":"ridge"}},"results":[{"ruleId":"loud","message":{"text":"too loud"},
		"locations":[{"physicalLocation":{"artifactLocation":{"uri":"ridge/hut.py"},"region":{"startLine":4,"startColumn":15,"endColumn":16}}}],
		"fixes":[{"artifactChanges":[{"artifactLocation":{"uri":"ridge/hut.py"},"replacements":[{"deletedRegion":{"startLine":4,"startColumn":15,"endColumn":16},"insertedContent":{"text":"1"}}]}]}]}]}]}`))
	require.NoError(t, err)
	assert.Equal(t, lists.ListReport{Form: "SARIF"}, said)
	require.Len(t, s.Items, 1)
	require.NoError(t, ws.Lists.KeepSweep(s))
	reported := func() (all []problem.Problem) {
		found, err := ws.Problems.In(ctx, "ridge/hut.py")
		require.NoError(t, err)
		return slices.DeleteFunc(found, func(p problem.Problem) bool { return p.Kind != problem.Reported })
	}
	all := reported()
	require.Len(t, all, 1)
	assert.Equal(t, []any{4, 15, 16, "ridge loud", "too loud"}, []any{all[0].Line, all[0].Col, all[0].EndCol, all[0].By, all[0].Text})
	assert.Equal(t, []sweep.Edit{{Path: "ridge/hut.py", Line: 4, Start: all[0].Fixes[0].Edits[0].Start, Was: "2", Text: "1"}}, all[0].Fixes[0].Edits)
	text, err := os.ReadFile(filepath.Join(ws.Code.Root(), "ridge/hut.py"))
	require.NoError(t, err)
	change(t, ws, "ridge/hut.py", "# one more line\n"+string(text))
	assert.Equal(t, 5, reported()[0].Line)
	s.SetMark(0, sweep.Done)
	require.NoError(t, ws.Lists.KeepSweep(s))
	assert.Empty(t, reported())
}
