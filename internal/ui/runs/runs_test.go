package runs_test

import (
	"context"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/recipe"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/runs"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"

	"rooktrail/internal/core/keep/lists"
)

// The test is begun anew as a keeper, as the program is.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == run.Keep {
		if run.Serve(os.Stdin, os.Stdout) != nil {
			os.Exit(2)
		}
		os.Exit(0)
	}
	os.Exit(m.Run())
}

type host struct {
	uitest.Host
	swept   *sweep.Sweep
	said    string
	unsaved map[string]bool
}

func (*host) Room() (width, height int) { return 80, 10 }
func (h *host) Sweep(one *sweep.Sweep, said string) surface.Intent {
	h.swept, h.said = one, said
	return surface.Intent{}
}
func (h *host) Unsaved() map[string]bool { return h.unsaved }

type project struct {
	*workspace.Workspace
	*codebase.Base
	*lists.Keeper
}

func (p project) Recipes(ctx context.Context) []recipe.Recipe { return recipe.All(ctx, p.Base) }

func open(t *testing.T, files map[string]string) (*runs.Model, *host) {
	t.Setenv("SHELL", "/bin/sh")
	ws := workspacetest.Open(t, files)
	h := &host{}
	m := runs.New(h, project{ws, ws.Code, ws.Lists})
	m.Folder = t.TempDir()
	t.Cleanup(func() { m.End()() })
	return m, h
}

func TestACommandAndItsPlaces(t *testing.T) {
	m, h := open(t, workspacetest.Ridge)
	h.unsaved = map[string]bool{"ridge/hut.py": true}
	begun := m.Begin(run.Command{Line: "echo ridge/hut.py:4:2: too loud; echo away.py:3: not here; exit 2"}, ".", nil)
	assert.Contains(t, begun.Say, "1 text is not saved")
	all := uitest.Carry(begun)
	assert.Contains(t, uitest.Last(all).Say, "failed with 2 after")
	require.NotNil(t, h.swept)
	require.Len(t, h.swept.Items, 1)
	assert.Equal(t, []any{"ridge/hut.py", 4, sweep.OfRun}, []any{h.swept.Items[0].Path, h.swept.Items[0].Line, h.swept.Source.Kind})
	assert.Contains(t, h.said, "failed with 2")
	rows := uitest.Text(m.Rows(80, 6, uitest.Plain))
	assert.Contains(t, rows, "› ridge/hut.py:4:2: too loud")
	assert.Contains(t, rows, "  away.py:3: not here")
	assert.Contains(t, rows, "1 place")
	require.Len(t, m.Past(), 1)
	assert.Equal(t, "failed with 2", m.Past()[0].Outcome)
	shown := uitest.Last(uitest.Carry(m.Commands()["run-output"]()))
	text, err := os.ReadFile(shown.Go.Path)
	require.NoError(t, err)
	assert.Equal(t, "ridge/hut.py:4:2: too loud\naway.py:3: not here\n", string(text))
	assert.Equal(t, string(text), m.Commands()["run-copy"]().Copy.Text)
	m.Commands()["run-hide"]()
	assert.Zero(t, m.Lines(30))
	m.Commands()["run-into"]()
	assert.Equal(t, 12, m.Lines(30))
}

// A command is answered by whoever goes into it, and keys are the code's again when it has ended.
func TestGoingIntoARun(t *testing.T) {
	m, _ := open(t, workspacetest.Ridge)
	asking := m.Begin(run.Command{Line: `printf 'who? '; read who; echo "it is $who"`}, ".", nil)
	assert.False(t, m.Inside())
	m.Commands()["run-into"]()
	assert.True(t, m.Inside())
	for _, k := range uitest.Keys("hut", "enter") {
		m.Key(k)
	}
	said := uitest.Last(uitest.Carry(asking)).Say
	assert.Contains(t, said, ": done after")
	assert.Contains(t, uitest.Text(m.Rows(80, 6, uitest.Plain)), "it is hut")
	assert.False(t, m.Inside())
	assert.Empty(t, m.Live())
}

// No key goes to what is seen to have ended, though the program has not taken note of it yet.
func TestNoKeyGoesToWhatHasEnded(t *testing.T) {
	m, _ := open(t, workspacetest.Ridge)
	asking := m.Begin(run.Command{Line: "read who"}, ".", nil)
	m.Commands()["run-into"]()
	m.Key(uitest.Keys("enter")[0])
	assert.Eventually(t, func() bool { return strings.Contains(uitest.Text(m.Rows(80, 6, uitest.Plain)), "done") }, 30*time.Second, time.Millisecond)
	assert.False(t, m.Inside())
	assert.Contains(t, m.Commands()["run-into"]().Say, "has ended")
	assert.NotContains(t, uitest.Text(m.Rows(80, 6, uitest.Plain)), "into it")
	uitest.Carry(asking)
}

func TestWhatRunsIsEndedBeforeOneLeaves(t *testing.T) {
	m, _ := open(t, workspacetest.Ridge)
	left := func() surface.Intent { return surface.Intent{Quit: true} }
	assert.True(t, m.Leaving(left).Quit, "nothing runs")
	m.Begin(run.Command{Line: "sleep 600"}, ".", nil)
	asks := m.Leaving(left)
	assert.False(t, asks.Quit)
	require.NotNil(t, asks.Open)
	assert.False(t, uitest.Last(uitest.Press(asks.Open, "enter")).Quit, "it stays")
	assert.True(t, uitest.Last(uitest.Press(m.Leaving(left).Open, "down", "enter")).Quit)
	m.End()()
	assert.Empty(t, m.Live())
}

func TestChoosingWhatToRun(t *testing.T) {
	files := map[string]string{
		"Makefile":                  "all: hut\n\n## what is loud\n.PHONY: check\ncheck: ; @echo checked\nhut.o: x\n%.o: y\n\tcc\n",
		"board/package.json":        `{"scripts":{"test":"node --test","paint":"echo paint"}}`,
		"board/broken/package.json": `{"scripts":`,
		"go.mod":                    "module ridge\n",
	}
	m, _ := open(t, files)
	m.Know([]resume.Command{{Line: "echo before", Dir: ".", Outcome: "done"}})
	list := m.List()
	list.Resize(100, 20)
	uitest.Carry(m.Commands()["run-choose"]())
	text := uitest.Text(list.Rows(uitest.Plain))
	for _, want := range []string{"run before", "echo before", "make all", "make check", "go test ./...", "npm run paint", "npm test", "board/package.json"} {
		assert.Contains(t, text, want)
	}
	assert.NotContains(t, text, "hut.o")
	taken := uitest.Press(list, "check", "enter")
	assert.True(t, taken[len("check")].Close)
	assert.Contains(t, uitest.Text(m.Rows(80, 5, uitest.Plain)), "checked")
	assert.Equal(t, "make check", m.Past()[0].Line)
	again := uitest.Last(uitest.Carry(m.Commands()["run-again"]()))
	assert.Contains(t, again.Say, "make check: done")
}

// A shell is opened and put away with one key, and goes on meanwhile.
func TestTheShell(t *testing.T) {
	m, _ := open(t, workspacetest.Ridge)
	opened := m.Commands()["shell"]()
	assert.True(t, m.Inside())
	m.Commands()["shell"]()
	assert.False(t, m.Inside())
	assert.Zero(t, m.Lines(30))
	assert.Equal(t, []string{"shell"}, m.Live())
	m.Commands()["shell"]()
	assert.True(t, m.Inside())
	for _, k := range uitest.Keys("exit", "enter") {
		m.Key(k)
	}
	uitest.Carry(opened)
	assert.False(t, m.Inside())
	assert.Zero(t, m.Lines(30), "it has ended")
}
