package hunks_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/hunks"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// host shows one file.
type host struct {
	*uitest.Host
	side             *frame.Side
	laid             string
	at               answer.Answer
	proposed, change *proposal.Proposal
}

func (h *host) Sides() []*frame.Side { return []*frame.Side{h.side} }
func (h *host) Lay(how string, f *codebase.File, at answer.Answer, _ []place.Range) surface.Intent {
	h.laid, h.at = how+"\n"+string(f.Text.Bytes()), at
	return surface.Intent{}
}
func (h *host) Propose(p *proposal.Proposal) surface.Intent {
	h.proposed = p
	return surface.Intent{}
}
func (h *host) Change(p *proposal.Proposal) surface.Intent {
	h.change = p
	return surface.Intent{}
}

type bench struct {
	t  *testing.T
	ws *workspace.Workspace
	h  *host
	m  *hunks.Model
}

const committed = "one\ntwo\nthree\nfour\nfive\nsix\n"

// open commits two files, changes both, and shows one.
func open(t *testing.T, now string) *bench {
	ws := workspacetest.Open(t, map[string]string{"a.txt": committed, "b.txt": committed})
	for _, args := range [][]string{{"init", "-q", "-b", "main"}, {"add", "."}, {"commit", "-qm", "huts"}} {
		cmd := exec.Command("git", append([]string{"-c", "user.name=n", "-c", "user.email=n@example.org"}, args...)...)
		cmd.Dir = ws.Code.Root()
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
	}
	for file, body := range map[string]string{"a.txt": now, "b.txt": strings.Replace(committed, "six", "SIX", 1)} {
		require.NoError(t, os.WriteFile(filepath.Join(ws.Code.Root(), file), []byte(body), 0o644))
	}
	ws.Code.Refresh(context.Background())
	h := &host{Host: &uitest.Host{}}
	h.side = frame.NewSide(1, func() *surface.Asker { return h.Asker(nil) })
	b := &bench{t: t, ws: ws, h: h, m: hunks.New(h, h, ws.Changes.Hunks, ws.Code)}
	b.show("a.txt", 1)
	return b
}

func (b *bench) show(file string, line int) {
	f, err := b.ws.Code.Load(context.Background(), file)
	require.NoError(b.t, err)
	at := trail.View{Place: place.Place{Path: file, Line: line, Col: 1}}
	b.h.side.Code.Resize(60, 20)
	b.h.side.Code.Show(f, at)
	b.h.At = surface.Here{File: f, View: at}
	uitest.Carry(surface.Begin(b.m.Watch()))
}

func (b *bench) do(a keymap.Action) surface.Intent {
	return uitest.Last(uitest.Carry(b.m.Commands()[a]()))
}

func (b *bench) margin() string {
	var marks []string
	for _, row := range b.h.side.Code.Rows(uitest.Plain) {
		row = strings.TrimRight(uitest.Text([]string{row}), " ")
		if strings.ContainsAny(row, "+~−") {
			marks = append(marks, strings.Join(strings.Fields(row), " "))
		}
	}
	return strings.Join(marks, "; ")
}

func TestMarksFollowWhatIsTyped(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nnew\nfive\n")
	assert.Equal(t, "2~ TWO; 5+ new; 6− five", b.margin())
	c := &b.h.side.Code
	edits := []text.Edit{{Start: 0, End: 0, New: []byte("zero\n")}}
	c.Retext(&codebase.File{Path: "a.txt", Text: c.File().Text.Apply(edits)}, edits)
	assert.Equal(t, "1+ zero; 3~ TWO; 6+ new; 7− five", b.margin())
}

func TestFromHunkToHunk(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nnew\nfive\nsix\n")
	todo := b.do(keymap.HunkNext)
	require.NotNil(t, todo.Go)
	assert.Equal(t, []any{2, "hunk 1 of 2 here, 1 line changed to 1 line"}, []any{todo.Go.Line, todo.Go.After})
	assert.True(t, b.m.Walking())
	b.show("a.txt", 5)
	todo = b.do(keymap.HunkNext)
	assert.Equal(t, "b.txt", todo.Go.Path)
	assert.Contains(t, todo.Go.After, "file 2 of 2 that differ from the last commit, hunk 1 of 1 here")
	b.show("b.txt", 6)
	assert.Equal(t, "a.txt", b.do(keymap.HunkNext).Go.Path, "round")
	assert.Equal(t, 5, b.do(keymap.HunkPrevious).Go.Line, "backwards, from the last hunk of the file before")
	b.m.Stop()
	assert.False(t, b.m.Walking())
}

func TestTheOldTextAndPuttingBack(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nfive\nsix\nseven\n")
	b.show("a.txt", 2)
	b.do(keymap.HunkOld)
	assert.Equal(t, "as it was in the last commit\n"+committed, b.h.laid)
	assert.Equal(t, 2, b.h.at.Line)
	b.do(keymap.HunkBack)
	require.NotNil(t, b.h.change)
	assert.Equal(t, "one\ntwo\nthree\nfour\nfive\nsix\nseven\n", string(b.h.change.Files[0].After().Bytes()))
	b.do(keymap.HunkFile)
	b.h.proposed.Order()
	assert.Equal(t, committed, string(b.h.proposed.Files[0].After().Bytes()))
	b.show("a.txt", 7)
	assert.Equal(t, "these lines were not there in the last commit", b.do(keymap.HunkOld).Say)
	b.do(keymap.HunkLine)
	assert.Equal(t, "one\nTWO\nthree\nfour\nfive\nsix\n", string(b.h.change.Files[0].After().Bytes()))
	b.show("a.txt", 4)
	assert.Equal(t, "this line is as it was in the last commit", b.do(keymap.HunkBack).Say)
}

func TestComparingWithAnother(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nfive\nsix\n")
	asked := b.do(keymap.HunkAgainst).Open
	require.NotNil(t, asked)
	asked.Resize(120, 1)
	assert.Contains(t, uitest.Last(uitest.Press(asked, "nowhere", "enter")).Say, `there is no commit, tag or branch "nowhere"`)
	asked = b.do(keymap.HunkAgainst).Open
	asked.Resize(120, 1)
	assert.Equal(t, "from now on everything is compared with what is staged", uitest.Last(uitest.Press(asked, ":", "enter")).Say)
	assert.Equal(t, "2~ TWO", b.margin())
}

func TestWithoutARepository(t *testing.T) {
	ws := workspacetest.Open(t, map[string]string{"a.txt": committed})
	h := &host{Host: &uitest.Host{}}
	h.side = frame.NewSide(1, func() *surface.Asker { return h.Asker(nil) })
	b := &bench{t: t, ws: ws, h: h, m: hunks.New(h, h, ws.Changes.Hunks, ws.Code)}
	b.show("a.txt", 1)
	assert.Contains(t, b.do(keymap.HunkNext).Say, "this project is in no repository")
	assert.Contains(t, b.do(keymap.HunkBack).Say, "this project is in no repository")
	assert.Empty(t, b.margin())
}

func TestWhoChangedALine(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nfive\nsix\n")
	b.show("a.txt", 3)
	list := b.do(keymap.LineHistory).Open
	require.NotNil(t, list)
	text := uitest.Of(list, 90, 6)
	assert.Contains(t, text, "what has changed line 3, the last first")
	assert.Contains(t, text, "huts")
	assert.Contains(t, text, "n, ")
	look := uitest.Last(uitest.Press(list, "up")).Look
	require.NotNil(t, look)
	doc, err := look.TextOf(context.Background())
	require.NoError(t, err)
	assert.Equal(t, committed, string(doc.Bytes()))
	uitest.Press(list, "enter")
	assert.Contains(t, b.h.laid, "huts, ")
	b.show("a.txt", 2)
	assert.Equal(t, "this line is not as it was in the last commit: it was changed here", b.do(keymap.LineHistory).Say)
	assert.NotNil(t, b.do(keymap.SymbolHistory))
}

// A hunk goes into the next commit, and out of it again.
func TestTakingAHunkIntoTheNextCommit(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nnew\nfive\nsix\n")
	b.show("a.txt", 2)
	assert.Contains(t, b.do(keymap.HunkStage).Say, "in the next commit: 1 line changed to 1 line")
	assert.Equal(t, "not in the next commit any more: 1 line changed to 1 line", b.do(keymap.HunkStage).Say)
	b.show("a.txt", 3)
	assert.Equal(t, "this line is as it was in the last commit", b.do(keymap.HunkStage).Say)
}

// All of a file is shown beside what it was, and what is taken of that is put back.
func TestBothSidesOfAFile(t *testing.T) {
	b := open(t, "one\nTWO\nthree\nfour\nnew\nfive\nsix\n")
	sides := b.do(keymap.BothSides).Open
	require.NotNil(t, sides)
	sides.Resize(100, 20)
	shown := uitest.Of(sides, 100, 20)
	assert.Contains(t, shown, "as it was in the last commit")
	assert.Contains(t, shown, "TWO")
	uitest.Press(sides, "left", "enter")
	require.NotNil(t, b.h.change)
	assert.Equal(t, committed[:8]+"three\nfour\nnew\nfive\nsix\n", string(b.h.change.Files[0].After().Bytes()))
}

// From one commit that has changed something one goes on to the one before.
func TestWalkingThroughCommits(t *testing.T) {
	b := open(t, committed)
	for _, body := range []string{"ONE\n", "EINS\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(b.ws.Code.Root(), "a.txt"), []byte(strings.Replace(committed, "one\n", body, 1)), 0o644))
		out, err := exec.Command("git", "-C", b.ws.Code.Root(), "-c", "user.name=n", "-c", "user.email=n@example.org", "commit", "-qam", "called "+strings.TrimSpace(body)).CombinedOutput()
		require.NoError(t, err, string(out))
	}
	b.ws.Code.Refresh(context.Background())
	b.m.Forget()
	b.show("a.txt", 1)
	list := b.do(keymap.LineHistory).Open
	list.Resize(100, 10)
	uitest.Press(list, "enter")
	assert.Contains(t, b.h.laid, "1 of 3: called EINS")
	uitest.Carry(b.m.Next(true))
	assert.Contains(t, b.h.laid, "2 of 3: called ONE")
	uitest.Carry(b.m.Next(true))
	assert.Contains(t, b.h.laid, "3 of 3: huts")
	assert.Equal(t, "no commit before this one is known to have changed it", b.m.Next(true).Say)
	uitest.Carry(b.m.Next(false))
	assert.Contains(t, b.h.laid, "2 of 3: called ONE")
}

// A file that is gone, or holds no text, is told of where one passes it by.
func TestFilesWithoutHunks(t *testing.T) {
	b := open(t, committed)
	require.NoError(t, os.Remove(filepath.Join(b.ws.Code.Root(), "b.txt")))
	require.NoError(t, os.WriteFile(filepath.Join(b.ws.Code.Root(), "c.bin"), []byte{0, 1, 2}, 0o644))
	b.ws.Code.Refresh(context.Background())
	b.m.Forget()
	assert.Equal(t, "no lines differ from the last commit; b.txt is gone, c.bin holds no lines of text", b.do(keymap.HunkNext).Say)
}
