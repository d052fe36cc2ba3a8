package app

import (
	"context"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
)

// program is the model with its commands carried out as they come.
type program struct {
	running  sync.WaitGroup
	t        *testing.T
	model    *Model
	messages chan tea.Msg
	ws       *workspace.Workspace
}

const rosterCode = `package dispatch

// Team goes out.
type Team struct{ Name string }

func assign(t Team) string { return label(t) }

func label(t Team) string {
	return t.Name
}
`

func begin(t *testing.T, start place.Place) *program { return beginOwn(t, start, keymap.Owned{}) }

// beginOwn is begin with keys and commands of the user's own.
func beginOwn(t *testing.T, start place.Place, own keymap.Owned) *program {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	for name, text := range map[string]string{
		"README.md": "# tarn\n\nThe first page.\n", "dispatch/roster.go": rosterCode,
		"store/store.go": "package store\n\n// Save keeps.\nfunc Save() {}\n",
		"a.py":           "class A:\n    def ring(self): pass\n\nclass B:\n    def ring(self): pass\n", "use.py": "def f(x):\n    x.ring()\n    nothing()\n",
	} {
		p := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(p), 0o755))
		require.NoError(t, os.WriteFile(p, []byte(text), 0o644))
	}
	return openOwn(t, root, start, "", "", own)
}

// open begins the program on a project that is there; what was on the screen is
// kept in a file, if one is named, and the sweeps beside it.
func open(t *testing.T, root string, start place.Place, state string) *program {
	return openWith(t, root, start, state, "")
}

// openWith is open with a folder of texts that were not saved.
func openWith(t *testing.T, root string, start place.Place, state, recovery string) *program {
	return openOwn(t, root, start, state, recovery, keymap.Owned{})
}

// openOwn is openWith with keys and commands of the user's own.
func openOwn(t *testing.T, root string, start place.Place, state, recovery string, own keymap.Owned) *program {
	ws := workspace.New(root)
	if recovery != "" {
		ws.KnowRecovery(recovery)
	}
	ws.KnowTrash(filepath.Join(filepath.Dir(root), "Trash"))
	if state != "" {
		ws.KnowState(state)
		ws.Lists.KnowSweeps(state + "-sweeps")
		ws.Lists.KnowTrails(state + "-trails")
		ws.KnowHistory(state + "-history")
		ws.Lists.KnowBookmarks(state + "-bookmarks")
		t.Cleanup(ws.Lists.CloseTrail)
	}
	require.NoError(t, ws.Code.Read(context.Background()))
	p := &program{t: t, messages: make(chan tea.Msg, 1000), ws: ws}
	t.Cleanup(p.idle)
	life, end := context.WithCancel(context.Background())
	t.Cleanup(end)
	m, err := New(life, ws, start, "plain", own)
	require.NoError(t, err)
	t.Cleanup(func() { _ = m.keeps.Next(func() error { return nil })() }) // what is still to be kept is not
	p.model = m
	p.run(m.Init())
	p.send(tea.WindowSizeMsg{Width: 120, Height: 30})
	return p
}

// text is what is written in the file on the screen.
func (p *program) text() *desk.Text { return p.model.writing.Desk().Text(p.model.frame.Code.Path()) }

// run carries out a command beside the test, as Bubble Tea does.
func (p *program) run(cmd tea.Cmd) {
	if cmd == nil {
		return
	}
	p.running.Add(1)
	go func() {
		defer p.running.Done()
		switch msg := cmd().(type) {
		case nil:
		case tea.BatchMsg:
			for _, c := range msg {
				p.run(c)
			}
		default:
			p.messages <- msg
		}
	}()
}

func (p *program) send(msg tea.Msg) {
	_, cmd := p.model.Update(msg)
	p.run(cmd)
	p.view() // a view must be possible at any time
}

// idle waits for what is still being done, such as what is being kept, but not for what only waits for its time.
func (p *program) idle() {
	done := make(chan struct{})
	go func() {
		p.running.Wait()
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(50 * time.Millisecond):
	}
}

// press sends keys: names, or text to type behind an equals sign.
func (p *program) press(keys ...string) *program {
	for _, k := range keys {
		if text, ok := strings.CutPrefix(k, "="); ok {
			for _, r := range text {
				p.send(tea.KeyPressMsg{Code: r, Text: string(r)})
			}
			continue
		}
		p.send(keyboard.Press(k))
	}
	return p
}

var escapes = regexp.MustCompile("\x1b\\[[0-9;]*m")

func (p *program) view() string { return escapes.ReplaceAllString(p.model.View().Content, "") }

// see takes messages until all of the texts are on the screen.
func (p *program) see(texts ...string) *program {
	p.t.Helper()
	return p.until(func(view string) bool {
		for _, text := range texts {
			if !strings.Contains(view, text) {
				return false
			}
		}
		return true
	}, strings.Join(texts, ", "))
}

func (p *program) until(holds func(view string) bool, what string) *program {
	p.t.Helper()
	for end := time.After(20 * time.Second); !holds(p.view()); {
		select {
		case msg := <-p.messages:
			p.send(msg)
		case <-end:
			p.t.Fatalf("never saw %s in\n%s", what, p.view())
		}
	}
	return p
}

func TestFindFollowAndComeBack(t *testing.T) {
	p := begin(t, place.Place{})
	p.see("README.md", "Space finds a file", "[README.md 1]")
	p.press("space", "=assign").see("symbols  1", "func assign(t Team) string").press("enter").see("dispatch ▸ roster.go ▸ assign", "── [assign roster.go 6]")
	p.press("end", "=hhhhh", "enter").see("[label 8]", "return t.Name")
	p.press("b").see("[assign roster.go 6]").press("space", "=store.go", "enter").see("store ▸ store.go", "─┬─ [store.go 1]")
	p.press("b").see("[assign roster.go 6]").press("F").see("ways on from roster.go 6").press("down").see("return t.Name").press("esc").see("[assign roster.go 6]", "line 6")
	p.press("F", "down", "enter").see("[label 8]")
	p.press("f").see("you have not gone on from here yet")
	p.press("b", "b").see("[README.md 1]").press("b").see("the trail begins here")
}

func TestKeysPressedOnTheWayAreKept(t *testing.T) {
	p := begin(t, place.Place{Path: "README.md"})
	p.see("[README.md 1]")
	p.press("space", "=label", "enter", "j", "k", "b", "space", "=store.go", "enter", "j")
	p.see("store ▸ store.go", "line 2 column 1", "─┬─ [store.go 1]")
}

func TestNamesThatNothingDecides(t *testing.T) {
	p := begin(t, place.Place{Path: "use.py", Line: 2, Col: 8})
	p.see("2 candidates", "by name").press("d").see("ring by name: 2 definitions share it", "A.ring", "B.ring")
	p.press("down").see("line 5 column 9").press("esc").see("use.py", "line 2 column 8")
	p.press("d").see("A.ring").press("enter").see("[ring a.py 2]")
	p.press("b", "j", "d").see("nothing in this project defines nothing")
}

func TestMessagesGoWithTheNextKey(t *testing.T) {
	p := begin(t, place.Place{Path: "README.md"})
	p.see("[README.md 1]").press("^").see("^ does nothing here")
	p.press("j").until(func(v string) bool { return !strings.Contains(v, "does nothing") }, "the message gone")
	p.press("q").see("press q once more").press("j", "q").see("press q once more")
	_, cmd := p.model.Update(tea.KeyPressMsg{Code: 'q', Text: "q"})
	require.NotNil(t, cmd)
	assert.IsType(t, tea.QuitMsg{}, cmd())
}

func TestEverySizeHasAView(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("[roster.go 6]")
	for _, keys := range [][]string{nil, {"space", "=label"}, {"esc", "?"}, {"esc"}, {"R"}, {"tab"}, {"esc", "X"}, {"right"}, {"esc", "r", "alt+k"}, {"W", "W"}, {"esc"}} {
		p.press(keys...)
		for width := 1; width < 220; width += 31 {
			for height := 1; height < 60; height += 11 {
				p.send(tea.WindowSizeMsg{Width: width, Height: height})
				rows := strings.Split(p.view(), "\n")
				require.LessOrEqual(t, len(rows), height, "%dx%d", width, height)
				for _, r := range rows {
					require.LessOrEqual(t, ink.Width(r), width, "%dx%d: %s", width, height, r)
				}
			}
		}
	}
	p.send(tea.WindowSizeMsg{Width: 20, Height: 5})
	p.see("This window is 20")
}

func TestAFileThatIsGone(t *testing.T) {
	p := begin(t, place.Place{Path: "store/store.go"})
	p.see("[store.go 1]").press("space", "=label", "enter").see("[label")
	require.NoError(t, os.Remove(p.ws.Code.Absolute("store/store.go")))
	p.press("b").see("store.go cannot be opened: it is not there any more", "[store.go 1]").press("f").see("return t.Name")
	p.press("space", "=store.go", "enter").see("cannot be opened").press("esc").see("return t.Name")
}

// keptFolder is a folder for what is kept. What the program still writes when the test is
// over does not fail it.
func keptFolder(t *testing.T) string {
	dir, err := os.MkdirTemp("", "rooktrail-kept-")
	require.NoError(t, err)
	t.Cleanup(func() {
		for range 3 {
			if os.RemoveAll(dir) == nil {
				break
			}
			time.Sleep(20 * time.Millisecond)
		}
	})
	return dir
}
