package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Where one is, and what is beside and inside that.
func TestReadingOneFile(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("roster.assign").see("Roster.Assign").press("Enter").see("── [Assign roster.go 59]")
	before := term.still()

	// The breadcrumbs open, and Esc leaves everything as it was.
	term.press(".").see("beside Assign", "▌  method    Assign").write("rel").see("▌  method    Release", "func (r *Roster) Release").press("Escape")
	term.until("the screen as it was", func(string) bool { return assert.ObjectsAreEqual(codeIn(before), codeIn(term.rows())) })
	term.press(".", "Left", "Left").see("beside roster.go", "callout.go").write("pinned").see("▌  file", "pinned.go").press("Enter").see("dispatch ▸ pinned.go").press("b").see("[Assign roster.go 59]")

	// The outline stays and follows.
	term.press("O").see("├─ outline", "▪   Assign").press("]").see("▪ going and coming back").press("O").seeNot("├─ outline").press("[").see("line 59")

	// Bodies fold, jumping opens; everything folds and opens.
	term.press("S").see("Esc none").press("b").see("only signatures are left", "func (r *Roster) Assign(c Callout) (Team, error) {  ≡ 8 lines folded")
	term.press("Space").write("roster.go:62").see("roster.go 62").press("Enter").see("line 62", "r.nearest(c.Valley, r.free(c))").press("S", "o").seeNot("folded")

	// One function alone, its neighbour, a search in it.
	term.press("S", "S").see("solo", "alone on the screen").seeNot("RestTime").press("/").write("r.").see("of 5 places in what is alone here").press("Escape").seeNot("look for")
	term.press("[").see("puts the teams that are closest", "solo").seeNot("mu.Lock").press("S", "S").see("mu.Lock").seeNot("solo")

	// A selection grows by what it means; documentation is read.
	term.press("+", "+", "+", "+").see("lines selected; - goes back to less")
	term.press("Space").write("roster.assign").see("Roster.Assign").press("Enter").see("line 59").press("y").see("Roster.Assign   method   dispatch/roster.go 59", "marks that team as", "Enter go to its definition").press("Escape").seeNot("Enter go to its definition")
}

// Several files, side by side and one above the other, and nothing but code.
func TestSeveralViews(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("roster.go").see("roster.go").press("Enter").see("dispatch ▸ roster.go", "2 files open")
	term.press("|").until("the file twice", func(s string) bool { return strings.Count(s, "── roster.go") == 2 })
	term.press("Space").write("snowpack.py").see("snowpack.py").press("Enter").see("── snowpack.py", "class SnowPack", "type Roster struct")
	term.press("\\").see("dispatch ▸ roster.go").press("_").until("three views", func(s string) bool {
		return strings.Count(s, "── ") > 3 && strings.Count(s, "package dispatch") == 2
	})
	term.press("V").see("close others").press("Right").see("risk ▸ snowpack.py").press("!").seeNot("package dispatch").press("!").see("package dispatch")
	term.press("q").see("snowpack.py is closed").press("Q").see("risk ▸ snowpack.py").press("V", "V").see("open files  3", "README.md").press("Escape").seeNot("open files  3")
	term.press("V", "h").seeNot("trail  ").seeNot("♜").press("V", "h").see("trail  ", "♜")
	term.resize(80, 24).see("♜ tarnwell").press("V", "a").see("files closed").press("Q", "Q", "V", "V").see("open files  2").press("Escape").seeNot("open files  2").press("C-q").ended(0)
}

// Files and folders are made, moved and deleted, and places handed on.
func TestFolders(t *testing.T) {
	root := t.TempDir()
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-C", root, "-c", "user.name=a", "-c", "user.email=a@b.example"}, args...)...)
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s", out)
	}
	for name, body := range map[string]string{"main.go": "package main\n", "huts/alpha.go": "package huts\n\n// Alpha is a hut.\ntype Alpha struct{}\n", "huts/beta.go": "package huts\n", ".gitignore": "*.log\n", "old.log": "x\n"} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(root, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(body), 0o600))
	}
	git("init", "-q")
	git("add", ".")
	git("commit", "-qm", "first")
	require.NoError(t, os.WriteFile(filepath.Join(root, "huts/beta.go"), []byte("package huts // changed\n"), 0o600))
	editor := filepath.Join(t.TempDir(), "editor")
	require.NoError(t, os.WriteFile(editor, []byte("#!/bin/sh\necho \"edited at $1\" >>\"$2\"\n"), 0o700))
	t.Setenv("VISUAL", editor)

	term := start(t, 142, 42, filepath.Join(root, "huts/alpha.go")+":4")
	term.tmux("set", "-s", "set-clipboard", "on")
	term.see("line 4").press("g").see("▌  file        alpha.go", "beta.go", "changed", "old.log", "ignored", "huts/", "1 change inside")
	term.press("Tab").see("only what differs", "beta.go").seeNot("main.go").press("Tab").see("main.go")
	term.press("M-b").see("new file, or with / at the end a new folder: huts/").write("gamma/").press("Enter").see("huts/gamma is there now", "gamma/")
	term.write("alph").press("M-r").see("rename or move huts/alpha.go to").press("C-u").write("huts/beta.go").press("Enter").see("there is something of this name already")
	term.press("M-r").press("C-u").write("huts/delta.go").press("Enter").see("huts/alpha.go is huts/delta.go now").press("M-p").see("huts/delta.go is")
	term.until("the path in the clipboard", func(string) bool {
		return strings.Contains(term.tmux("list-buffers"), "huts/delta.go")
	})
	term.press("Escape").seeNot("Alt+B new").see("huts ▸ delta.go", "line 4").press("g").write("huts").press("M-d").see("delete huts/ with 2 files, 2 of them not committed as they are?").press("M-d").see("huts is in the trash")
	assert.NoDirExists(t, filepath.Join(root, "huts"))
	term.press("M-u").see("undone: deleted huts").press("M-u").see("undone: renamed huts/alpha.go").press("Escape").seeNot("Alt+B new").see("huts ▸ alpha.go", "line 4")
	assert.FileExists(t, filepath.Join(root, "huts/alpha.go"))

	term.press("P").see("whole path").press("l").see("huts/alpha.go:4 is").press("P", "e").see("has changed on disk", "edited at +4", "line 4")
}

// A program that is killed begins again where it was.
func TestWhatIsOpenComesBack(t *testing.T) {
	t.Parallel()
	root := t.TempDir()
	for name, body := range map[string]string{"a.py": "class A:\n    def one(self):\n        return 1\n\n    def two(self):\n        return 2\n", "b.py": "def b():\n    pass\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(body), 0o600))
	}
	term := start(t, 120, 30, filepath.Join(root, "a.py")+":6")
	term.see("line 6").press("*").see("≡ 1 line folded").press("|", "Space").write("b.py").see("b.py").press("Enter").see("── b.py", "line 1")
	term.press("Down").see("line 2 column 1")
	state := func() string {
		all, _ := filepath.Glob(filepath.Join(os.Getenv("XDG_DATA_HOME"), "rooktrail", "state", "*"))
		for _, f := range all {
			if body, err := os.ReadFile(f); err == nil && strings.Contains(string(body), "def two(self):") && strings.Contains(string(body), `"line": 2`) {
				return string(body)
			}
		}
		return ""
	}
	term.until("it is on disk", func(string) bool { return state() != "" })
	term.tmux("kill-server")

	again := start(t, 120, 30, root)
	again.see("── b.py", "line 2 column 1", "def two(self):  ≡ 1 line folded").press("\\").see("line 5").press("C-q").ended(0)
}
