package tests_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/recipe"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/run"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/runs"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/tests"
	"rooktrail/internal/ui/uitest"
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
	side  *frame.Side
	swept *sweep.Sweep
}

func (h *host) Sides() []*frame.Side    { return []*frame.Side{h.side} }
func (*host) Room() (width, height int) { return 90, 12 }
func (*host) Unsaved() map[string]bool  { return nil }
func (h *host) Sweep(one *sweep.Sweep, _ string) surface.Intent {
	h.swept = one
	return surface.Intent{}
}

type project struct {
	*workspace.Workspace
	*codebase.Base
	*lists.Keeper
}

func (project) Recipes(context.Context) []recipe.Recipe { return nil }

// bench shows one file of a project.
type bench struct {
	t  *testing.T
	ws *workspace.Workspace
	h  *host
	m  *tests.Model
}

var huts = map[string]string{
	"go.mod":          "module ridge\n\ngo 1.22\n",
	"hut/hut.go":      "package hut\n\nfunc Ring(n int) int { return steps(n) + 1 }\n\nfunc steps(n int) int {\n\tif n > 9 {\n\t\treturn 9\n\t}\n\treturn n\n}\n",
	"hut/hut_test.go": "package hut\n\nimport \"testing\"\n\nfunc TestRing(t *testing.T) {\n\tif got := Ring(2); got != 4 {\n\t\tt.Errorf(\"rang %d times\", got)\n\t}\n}\n\nfunc TestQuiet(t *testing.T) {}\n\nfunc TestLater(t *testing.T) { t.Skip(\"no snow\") }\n",
	"docs/notes.md":   "# Notes\n",
}

func open(t *testing.T) *bench {
	if _, err := exec.LookPath("go"); err != nil {
		t.Skip("go is not here")
	}
	b := &bench{t: t, ws: workspacetest.Open(t, huts), h: &host{}}
	b.h.side = frame.NewSide(1, func() *surface.Asker { return b.h.Asker(nil) })
	p := project{b.ws, b.ws.Code, b.ws.Lists}
	r := runs.New(b.h, p)
	b.m = tests.New(b.h, p, b.ws.Tests, b.ws.TestBook, r)
	t.Cleanup(func() { r.End()() })
	return b
}

func (b *bench) show(file, at string) {
	f, err := b.ws.Code.Load(b.t.Context(), file)
	require.NoError(b.t, err)
	offset := strings.Index(string(f.Text.Bytes()), at)
	line, col := f.Text.Position(offset)
	view := trail.View{Place: place.Place{Path: file, Line: line, Col: col}}
	b.h.side.Code.Resize(70, 20)
	b.h.side.Code.Show(f, view)
	b.h.At = surface.Here{File: f, View: view, Offset: offset}
}

// do carries out a command, and gives what was said last.
func (b *bench) do(a keymap.Action) string {
	said := ""
	for _, i := range uitest.Carry(b.m.Commands()[a]()) {
		if i.Say != "" {
			said = uitest.Said(i)
		}
	}
	uitest.Carry(surface.Begin(b.m.Watch()))
	return said
}

// saidOf is what the outline says of an entry.
func (b *bench) saidOf(f *codebase.File, name string) string {
	entries, _ := f.Outline()
	for _, e := range entries {
		if e.Name == name {
			return b.m.Said(f)(e.At.Start, e.Full.End)
		}
	}
	return ""
}

func (b *bench) rows() string { return uitest.Text(b.h.side.Code.Rows(uitest.Plain)) }

func TestRunningTests(t *testing.T) {
	b := open(t)
	b.show("hut/hut_test.go", "Errorf")
	assert.Equal(t, "TestRing: 1 failed", b.do(keymap.TestHere))
	assert.Contains(t, b.rows(), "5 ✗ func TestRing")
	assert.NotContains(t, b.rows(), "✓")
	require.Len(t, b.h.swept.Items, 1)
	assert.Equal(t, []any{7, "TestRing: rang 3 times"}, []any{b.h.swept.Items[0].Line, b.h.swept.Items[0].Note})
	assert.Equal(t, "hut_test.go: 1 failed, 1 passed, 1 skipped", b.do(keymap.TestFile))
	assert.Contains(t, b.rows(), "11 ✓ func TestQuiet")
	assert.Contains(t, b.rows(), "13 ○ func TestLater")
	f := b.h.At.File
	assert.Equal(t, "✗ failed", b.saidOf(f, "TestRing"))
	shown := uitest.Last(uitest.Carry(b.m.Commands()[keymap.TestSaid]()))
	text, err := os.ReadFile(shown.Go.Path)
	require.NoError(t, err)
	assert.Contains(t, string(text), "rang 3 times")

	b.show("hut/hut.go", "steps(n int)")
	assert.Equal(t, "the caret is in no test: Y f runs those of the file, Y r those that reach this function", b.do(keymap.TestHere))
	assert.Equal(t, "what reaches steps: 1 failed", b.do(keymap.TestReaching))
	assert.Equal(t, "hut_test.go: 1 failed, 1 passed, 1 skipped", b.do(keymap.TestFile), "that which goes with it")
	assert.Equal(t, "the folder hut: 1 failed, 1 passed, 1 skipped", b.do(keymap.TestFolder))

	mended := strings.Replace(huts["hut/hut.go"], "+ 1", "+ 2", 1)
	file := filepath.Join(b.ws.Code.Root(), "hut/hut.go")
	require.NoError(t, os.WriteFile(file, []byte(mended), 0o600))
	b.ws.Code.Refresh(t.Context())
	assert.Equal(t, "those that failed: 1 passed", b.do(keymap.TestFailed))
	assert.Empty(t, b.h.swept.Items)
	assert.Equal(t, "no test has failed since the program began", b.do(keymap.TestFailed))
	b.show("docs/notes.md", "Notes")
	assert.Contains(t, b.do(keymap.TestFile), "there are no tests in this file")
	assert.Contains(t, b.do(keymap.TestFolder), "there are no tests in the folder docs")
}

// A change that is saved runs the tests that it can reach, and no others.
func TestSavedChangesRunTests(t *testing.T) {
	b := open(t)
	b.show("hut/hut.go", "steps")
	assert.Contains(t, b.do(keymap.TestWatch), "are run when it is saved")
	file := filepath.Join(b.ws.Code.Root(), "hut/hut.go")
	require.NoError(t, os.WriteFile(file, []byte(strings.Replace(huts["hut/hut.go"], "return 9", "return 8", 1)), 0o600))
	b.ws.Code.Refresh(t.Context())
	assert.Equal(t, "what 1 saved file can reach: 1 failed", b.saidByWatch())
	assert.Contains(t, b.do(keymap.TestWatch), "not run any more")
}

// So does one that is written and saved here.
func TestTextsSavedHereRunTests(t *testing.T) {
	b := open(t)
	b.show("hut/hut.go", "steps")
	b.do(keymap.TestWatch)
	doc := text.NewDocument([]byte(strings.Replace(huts["hut/hut.go"], "return 9", "return 8", 1)))
	b.ws.Code.Write(t.Context(), "hut/hut.go", doc)
	b.show("hut/hut.go", "steps")
	assert.Empty(t, b.saidByWatch(), "it is not saved yet")
	_, err := b.ws.Save(t.Context(), "hut/hut.go", doc, desk.Saving{Was: b.ws.Code.Stamp("hut/hut.go")})
	require.NoError(t, err)
	b.show("hut/hut.go", "steps")
	assert.Equal(t, "what 1 saved file can reach: 1 failed", b.saidByWatch())
}

// What is changed outside of all functions runs the tests that go with the file.
func TestChangesOutsideOfFunctionsRunTests(t *testing.T) {
	b := open(t)
	b.show("hut/hut.go", "steps")
	b.do(keymap.TestWatch)
	file := filepath.Join(b.ws.Code.Root(), "hut/hut.go")
	require.NoError(t, os.WriteFile(file, []byte(strings.Replace(huts["hut/hut.go"], "package hut\n", "package hut\n\nvar depth = 3\n", 1)), 0o600))
	b.ws.Code.Refresh(t.Context())
	assert.Equal(t, "what 1 saved file can reach: 1 failed, 1 passed, 1 skipped", b.saidByWatch())
}

// saidByWatch is what is said of what is done as files were saved.
func (b *bench) saidByWatch() (said string) {
	for _, i := range uitest.Carry(surface.Begin(b.m.Watch())) {
		if i.Say != "" {
			said = uitest.Said(i)
		}
	}
	return said
}

func TestLinesThatNoTestRan(t *testing.T) {
	b := open(t)
	root := b.ws.Code.Root()
	cover := exec.Command("go", "test", "-coverprofile=cover.out", "./...")
	cover.Dir = root
	_ = cover.Run() // a test fails
	b.show("hut/hut.go", "Ring")
	asks := b.m.Commands()[keymap.Covered]().Open
	require.NotNil(t, asks)
	said := uitest.Last(uitest.Press(asks, "enter")).Say
	assert.Regexp(t, `^\d+ % of 6 lines were run in 1 file, by a cover profile of Go; Y n goes`, said)
	uitest.Carry(surface.Begin(b.m.Watch()))
	assert.Contains(t, b.rows(), "7  ▏\t\treturn 9"[:5])
	assert.Equal(t, 1, strings.Count(b.rows(), "▏"))
	next := uitest.Last(uitest.Carry(b.m.Commands()[keymap.BareNext]()))
	require.NotNil(t, next.Go)
	assert.Equal(t, 7, next.Go.Line)
	assert.Equal(t, "75 % run", b.saidOf(b.h.At.File, "steps"))
	b.show("hut/hut.go", "return n\n")
	assert.Contains(t, b.do(keymap.BareNext), "tests ran all other lines")
	assert.Contains(t, b.do(keymap.Covered), "not marked any more")
	assert.NotContains(t, b.rows(), "▏")
}
