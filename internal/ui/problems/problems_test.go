package problems_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/problems"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// host shows one file.
type host struct {
	*uitest.Host
	side *frame.Side
}

func (h *host) Sides() []*frame.Side { return []*frame.Side{h.side} }

type bench struct {
	t     *testing.T
	ws    *workspace.Workspace
	h     *host
	m     *problems.Model
	state int
}

func open(t *testing.T, files map[string]string) *bench {
	ws := workspacetest.Open(t, files)
	require.NoError(t, ws.Code.Check(context.Background(), check.Fast))
	b := &bench{t: t, ws: ws, h: &host{Host: &uitest.Host{}}}
	b.h.side = frame.NewSide(1, func() *surface.Asker { return b.h.Asker(nil) })
	b.m = problems.New(b.h, ws.Problems, func() int { return b.state })
	return b
}

func (b *bench) show(file string, line, col int) {
	f, err := b.ws.Code.Load(context.Background(), file)
	require.NoError(b.t, err)
	at := trail.View{Place: place.Place{Path: file, Line: line, Col: col}}
	b.h.side.Code.Resize(70, 12)
	b.h.side.Code.Show(f, at)
	b.h.At = surface.Here{File: f, View: at, Offset: f.Text.Offset(line, col)}
	b.watch()
}

func (b *bench) watch() { uitest.Carry(surface.Begin(b.m.Watch())) }

func (b *bench) do(a keymap.Action) surface.Intent {
	return uitest.Last(uitest.Carry(b.m.Commands()[a]()))
}

// marked are the lines that have a mark, without the blanks between words.
func (b *bench) marked() string {
	var marks []string
	for _, row := range b.h.side.Code.Rows(uitest.Plain) {
		if row = strings.Join(strings.Fields(uitest.Text([]string{row})), " "); strings.Contains(row, "!") {
			marks = append(marks, row)
		}
	}
	return strings.Join(marks, "\n")
}

var huts = map[string]string{
	"a.py":      "import os\n\ndef load(path):\n    return opne(path)\n",
	"b/fine.py": "print(1)\n",
	"b/more.py": "print(bell)\nprint(ring)\n",
}

func TestProblemsAreMarkedAndCounted(t *testing.T) {
	b := open(t, huts)
	b.show("a.py", 4, 1)
	c := &b.h.side.Code
	assert.Equal(t, "1 ! import os ! nothing uses os, which is imported here\n4 ! return opne(path) ! nothing defines opne", b.marked())
	assert.Equal(t, "2 problems", b.m.Count(c))
	assert.Equal(t, " ! nothing defines opne  Rook Trail, inferred", strings.TrimRight(uitest.Text([]string{b.m.Row(c, "", 70, uitest.Plain)}), " "))
	for width, want := range map[int]string{
		30: " ! nothing defines opne",
		60: " ! nothing defines opne  Rook Trail, inferred",
		80: " ! nothing defines opne  Rook Trail, inferred  ~ what can be done",
	} {
		assert.Equal(t, want, strings.TrimRight(uitest.Text([]string{b.m.Row(c, "~", width, uitest.Plain)}), " "))
	}
	b.show("b/fine.py", 1, 1)
	assert.Equal(t, "", b.m.Count(c)+b.m.Row(c, "", 70, uitest.Plain)+b.marked())
}

// What is written moves the marks along, and once it was looked at they are as the text is.
func TestMarksFollowWhatIsWritten(t *testing.T) {
	b := open(t, huts)
	b.show("a.py", 4, 1)
	c := &b.h.side.Code
	write := func(edits ...text.Edit) {
		doc := c.File().Text.Apply(edits)
		c.Retext(&codebase.File{Path: "a.py", Text: doc}, edits)
		b.ws.Code.Write(context.Background(), "a.py", doc)
	}
	write(text.Edit{Start: 0, End: 0, New: []byte("# a\n")})
	assert.Equal(t, "2 ! import os ! nothing uses os, which is imported here\n5 ! return opne(path) ! nothing defines opne", b.marked())
	write(text.Edit{Start: 4, End: 13, New: []byte("import sys\nopne = sys.argv\n")})
	b.state++
	b.watch()
	assert.Empty(t, b.marked())
}

// What a compiler said stays until it was asked about the text as it is.
func TestWhatACompilerSaidStays(t *testing.T) {
	b := open(t, map[string]string{"go.mod": "module tarnwell.example/rescue\n\ngo 1.24\n", "hut.go": "package hut\n\n// Ring rings.\nfunc Ring() int { return gone }\n"})
	b.show("hut.go", 4, 1)
	assert.Equal(t, "4 ! func Ring() int { return gone } ! undefined: gone", b.marked())
	c := &b.h.side.Code
	edits := []text.Edit{{Start: 13, End: 13, New: []byte("const gone = 1\n")}}
	doc := c.File().Text.Apply(edits)
	c.Retext(&codebase.File{Path: "hut.go", Text: doc}, edits)
	b.ws.Code.Write(context.Background(), "hut.go", doc)
	b.state++
	b.watch()
	assert.Equal(t, "5 ! func Ring() int { return gone } ! undefined: gone", b.marked())
	require.NoError(t, b.ws.Code.Check(context.Background(), check.Fast))
	b.state++
	b.watch()
	assert.Empty(t, b.marked())
}

func TestFromProblemToProblem(t *testing.T) {
	b := open(t, huts)
	b.show("a.py", 1, 1)
	todo := b.do(keymap.ProblemNext)
	require.NotNil(t, todo.Go)
	assert.Equal(t, []any{1, 8, "1 of 2 problems in this file: nothing uses os, which is imported here"}, []any{todo.Go.Line, todo.Go.Col, todo.Go.After})
	assert.True(t, b.m.Walking() && todo.Through)
	b.show("a.py", 4, 12)
	todo = b.do(keymap.ProblemNext)
	require.NotNil(t, todo.Go, todo.Say)
	assert.Equal(t, []any{"b/more.py", 1, 7, "nothing defines bell"}, []any{todo.Go.Path, todo.Go.Line, todo.Go.Col, todo.Go.After}, "it goes on in the next file that has any")
	todo = b.do(keymap.ProblemPrevious)
	assert.Equal(t, []any{"a.py", 1}, []any{todo.Go.Path, todo.Go.Line})
	b.show("a.py", 1, 1)
	todo = b.do(keymap.ProblemPrevious)
	assert.Equal(t, []any{"b/more.py", 2}, []any{todo.Go.Path, todo.Go.Line}, "and round at the ends")
	b.m.Stop()
	assert.False(t, b.m.Walking())
}

func TestNothingIsWrong(t *testing.T) {
	b := open(t, map[string]string{"a.py": "print(1)\n", "b.py": "print(2)\n"})
	b.show("a.py", 1, 1)
	assert.Equal(t, "nothing was found to be wrong", b.do(keymap.ProblemNext).Say)
}

// Text that a compiler quotes never reaches the terminal as it is.
func TestWhatIsSaidIsShownNotObeyed(t *testing.T) {
	b := open(t, map[string]string{"go.mod": "module tarnwell.example/rescue\n\ngo 1.24\n", "hut.go": "package hut\n\nvar s int = \"a\\x1b]0;b\x1b[31m\"\n"})
	b.show("hut.go", 3, 1)
	assert.NotContains(t, strings.Join(b.h.side.Code.Rows(uitest.Plain), ""), "\x1b[31m")
	assert.NotContains(t, b.m.Row(&b.h.side.Code, "~", 70, uitest.Plain), "\x1b[31m")
}
