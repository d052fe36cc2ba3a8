package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAFirstWalk(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("tarnwell", "README.md", "Space finds", "[README.md 1]")

	// A file by half its name.
	term.press("Space").see("find").write("rost").see("roster.go", "dispatch/", "give")
	term.write("er.go").see("roster.go").press("Enter").see("dispatch ▸ roster.go", "README.md 1 ── [roster.go 1]")

	// A symbol through its container, with the code live beneath.
	term.press("Space").write("ro as").see("Roster.Assign", "nearest free team that has the skills")
	term.press("Enter").see("roster.go ▸ Roster ▸ Assign", "func (r *Roster) Assign(c Callout)", "defined here", "── [Assign 59]")

	// A definition, and back to where the caret was.
	term.press("Down", "Down", "Down").see("line 62").press("d").see("Roster ▸ nearest", "puts the teams that are closest")
	term.press("b").see("line 62")

	// Another way, which makes a fork.
	term.press("Space").write("callout.go").see("callout.go").press("Enter").see("dispatch ▸ callout.go", "─┬─ [callout.go 1]", "└─ nearest roster.go 50")
	term.press("b").see("line 62")
	term.press("f").see("dispatch ▸ callout.go").press("b").see("line 62")
	term.press("F").see("ways on from roster.go 62", "definition of nearest", "file: callout.go")
	term.press("Down").see("puts the teams that are closest").press("Enter").see("[nearest 50]", "└─ callout.go 1")

	term.press("q").see("roster.go is closed; Q brings it back", "dispatch ▸ callout.go").press("q").see("README.md").press("q").see("press q once more").press("q").ended(0)
}

func TestEscPutsEverythingBack(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Down", "Down", "Down").see("line 4 column 1", "you are inside")
	before := term.still()
	term.press("Space").write("handlers").see("handleOpen").press("Escape").seeNot("find").see("line 4 column 1")
	term.until("the screen as it was", func(string) bool { return assert.ObjectsAreEqual(codeIn(before), codeIn(term.rows())) })
}

func TestTheScoutGoesBackAndForthBetweenTwoFiles(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("team.go").see("dispatch ▸ team.go").press("Enter").see("dispatch ▸ team.go")
	term.press("Space").see("recent files", "README.md").press("Enter").see("[README.md 1]")
	term.press("Space").see("recent files", "team.go").press("Enter").see("[team.go 1]")
	term.press("Space").see("recent files").press("Tab").see("all kinds").press("Escape").seeNot("recent files")
	term.press("Space").write("42").see("line 42 of team.go").press("Enter").see("[team.go 42]")
	term.press("Space").write("desk.go:4000").see("desk.go 4000").press("Enter").see("desk.go has no line 4000; this is the last of 8")
}

func TestTypingAheadLosesNothing(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]")
	term.tmux("send-keys", "-t", "s", "Space", "r", "o", "Space", "a", "s", "Enter", "Down", "Down", "Down", "d", "b", "Space", "d", "e", "s", "k", ".", "g", "o", "Enter", "Down")
	term.see("dispatch ▸ desk.go", "line 2 column 1", "─┬─ [desk.go 1]")
}

func TestOtherLanguages(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("riskmodel.slab").see("RiskModel.slab").press("Enter").see("def slab", "method")
	term.press("Down", "Down", "C-Right", "C-Right").see("│ weakest_layer", "line 57 column 21").press("d").see("risk ▸ snowpack.py ▸ SnowPack ▸ weakest_layer", "[weakest_layer snowpack.py 45]")
	term.press("Space").write("calloutlist.tsx").see("CalloutList.tsx").press("Enter").see("components ▸ CalloutList.tsx")
	term.press("C-Right", "d").see("api ▸ types.ts ▸ Callout")
}

func TestResizing(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("ro.as").see("Roster.Assign").press("Enter").see("defined here", "│")
	term.resize(80, 24).see("Assign  method", "roster.go")
	for _, row := range term.rows() {
		assert.LessOrEqual(t, len([]rune(row)), 80)
	}
	term.press("Space").write("callout").see("callout.go", "Callout").press("Escape").seeNot("find")
	term.resize(30, 8).see("This window is 30 columns by")
	term.resize(142, 42).see("│ Assign", "func (r *Roster) Assign(c Callout) (Team, error)", "README.md 1 ── [Assign roster.go")
	term.resize(200, 60).see("│ Assign")
}

// Who has never used the program is shown a few keys, once, and any key goes on and does what it does.
func TestTheFirstStart(t *testing.T) {
	t.Parallel()
	line := "XDG_DATA_HOME=" + quote(t.TempDir()) + " " + quote(program) + " demo"
	term := startShell(t, 80, 24, line)
	term.see("Here for the first time?", "to the definition of the name under the caret, and back").press("Space").see("find  a file, a symbol").seeNot("first time").press("Escape").seeNot("find  a file")
	term.press("C-q").ended(0)
	term = startShell(t, 80, 24, line)
	term.see("[README.md 1]", "Space finds").seeNot("first time")
}

func TestKeysPage(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("?").see("all ways from here, with their keys").press("NPage", "NPage", "Down", "Down", "Down").see("back to the stop one came from", "choose a way at a fork").write("leave the program").seeNot("choose a way at a fork").see("Ctrl+Q", "leave the program").press("Escape").see("choose a way at a fork").write("close the page").seeNot("choose a way at a fork").see("all keys, then close the page").press("Escape").see("choose a way at a fork").press("Escape").see("The software of the Tarnwell")
	term.press("?").see("breadcrumbs").write("bracket other").see("keys for  bracket other", "to the other end of the bracket").seeNot("breadcrumbs").press("Escape").see("breadcrumbs").press("Escape").seeNot("breadcrumbs")
	term.press("^").see("^ does nothing here; Space finds a command by its name, ? shows the keys").press("C-q").ended(0)
}

func TestNamesThatNothingDecides(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write := func(name, text string) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	write("a.py", "class Hut:\n    def ring(self):\n        pass\n\nclass Bell:\n    def ring(self):\n        pass\n")
	write("use.py", "def call(anything):\n    anything.ring()\n    print(anything)\n")
	term := start(t, 142, 42, filepath.Join(dir, "use.py")+":2:14")
	term.see("by name", "2 candidates").press("Enter").see("ring by name: 2 definitions share it", "Hut.ring", "Bell.ring")
	term.press("Down").see("line 6 column 9").press("Enter").see("a.py ▸ Bell ▸ ring", "use.py 2 ── [ring a.py 6]")
	term.press("b").see("line 2 column 14").press("Down", "Home", "d").see("print belongs to Python itself")
}

func TestBadInput(t *testing.T) {
	t.Parallel()
	// Each has a folder where nobody has been before, else it would begin on the trail of the one before.
	folder := func(t *testing.T, files map[string]string) func(name string) string {
		dir := t.TempDir()
		for name, text := range files {
			require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
		}
		return func(name string) string { return filepath.Join(dir, name) }
	}
	short := map[string]string{"short.txt": "one\ntwo\nthree\nfour\n"}

	t.Run("an empty folder", func(t *testing.T) {
		start(t, 100, 30, folder(t, nil)("")).see("There is not a single file in this folder").press("Space").see("find").write("x").see("nothing to find").press("Escape").seeNot("find").press("C-q").ended(0)
	})
	t.Run("beyond the end", func(t *testing.T) {
		start(t, 100, 30, folder(t, short)("short.txt")+":10:3").see("short.txt has no line 10; this is the last of 4", "line 4 column 3")
	})
	t.Run("a binary file", func(t *testing.T) {
		path := folder(t, map[string]string{"photo.bin": "\x00\x01\x02" + strings.Repeat("x", 5000)})
		start(t, 100, 30, path("photo.bin")).see("photo.bin is a binary file of 5.0 kB").press("Down", "d", "b").see("the trail begins here")
	})
	t.Run("control characters", func(t *testing.T) {
		name := "evil\x1b]0;owned\x07.txt"
		path := folder(t, map[string]string{name: "before \x1b[31mred\x1b[0m \x9b after\xff\r\nwide 雪崩 e\u0301 \u202egnp.txt\n\ttab"})
		term := start(t, 100, 30, path(name)).see("before ␛[31mred␛[0m", "\\x9b", "\\xff", "雪崩", "\\u202e", "evil␛]0;owned␇.txt")
		assert.Contains(t, term.rows()[3], "    3       tab", "a tab reaches to its stop")
	})
	t.Run("a file that goes away", func(t *testing.T) {
		path := folder(t, map[string]string{"short.txt": short["short.txt"], "gone.txt": "soon\n"})
		term := start(t, 100, 30, path("gone.txt"))
		term.see("soon").press("Space").write("short").see("short.txt").press("Enter").see("[short.txt 1]")
		require.NoError(t, os.Remove(path("gone.txt")))
		term.press("b").see("gone.txt cannot be opened: it is not there any more", "[gone.txt 1]").press("f").see("[short.txt 1]", "three")
	})
}

// Not beside other tests, since it looks at all demos there are.
func TestTheDemoIsRemovedAtTheEnd(t *testing.T) {
	folders := func() []string {
		found, err := filepath.Glob(filepath.Join(os.TempDir(), "rooktrail-demo-*"))
		require.NoError(t, err)
		return found
	}
	before := folders()
	term := start(t, 100, 30, "demo")
	term.see("[README.md 1]")
	assert.Greater(t, len(folders()), len(before))
	term.press("C-q").ended(0)
	assert.Len(t, folders(), len(before))

	term = start(t, 100, 30, "demo")
	term.see("[README.md 1]")
	term.tmux("kill-session", "-t", "s")
	require.Eventually(t, func() bool { return len(folders()) == len(before) }, patience, patience/1000, "a terminal that is closed ends it too")
}

// Not beside other tests, since it looks at all demos there are.
func TestKeepingTheDemo(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "kept")
	start(t, 100, 30, "demo", "--keep", dir).see("[README.md 1]").press("C-q").ended(0)
	assert.FileExists(t, filepath.Join(dir, "dispatch", "roster.go"))
	start(t, 100, 30, "demo", "--keep", dir).see("the folder is not empty", "[ended with 2]")
}

func TestWithoutColours(t *testing.T) {
	t.Setenv("NO_COLOR", "1")
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("ro.as").see("▌  method")
	assert.NotContains(t, term.tmux("capture-pane", "-p", "-e", "-t", "s"), ";2;", "no colours at all")
	assert.Contains(t, term.tmux("capture-pane", "-p", "-e", "-t", "s"), "\x1b[4m", "matched letters are underlined")
}

func TestSearchingTheText(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("no team").see("text  6", "Alt+X regexp", "no team is free")
	term.press("Escape").seeNot("find  no team")
	term.press("Space").write(`ext:go \.Assign\(`).see("text  0").press("M-x").see("regexp: on", "d.assigner.Assign(c)")
	term.press("Tab").see("all kinds")
	term.press("Down", "Down", "Down", "Down").see("p.Fallback.Assign(c)").press("Enter").seeNot("find  ext")
	term.see("Assign", "README.md 1 ── [")
	term.press("b").see("[README.md 1]")

	// With a glob, and grouped by file with the lines around.
	term.press("Space").write(`glob:dis*/** not:*_test.go \.Assign\(`).see("text  5", "p.Fallback.Assign(c)").press("Tab")
	term.see("5 hits in 2 files", "dispatch/pinned.go  3 hits", "13   if p.Name")
}

// smallProject makes a project of two files in a folder of its own.
func smallProject(t *testing.T) string {
	dir := t.TempDir()
	for name, text := range map[string]string{"alpha_station.txt": "the bell\n", "beta_station.txt": "a Bell, the bells\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	return dir
}

func TestWhatWasChosenAndSetIsRememberedTheNextTime(t *testing.T) {
	t.Parallel()
	dir := smallProject(t)
	term := start(t, 100, 30, dir)
	term.see("roam").press("Space").write("station").see("▌  file      beta_station.txt").press("Down").see("▌  file      alpha_station.txt")
	term.press("Enter").see("[alpha_station.txt 1]")
	term.press("Space").write("bell").see("text  3").press("M-w").see("whole words: on", "text  2").press("Escape").seeNot("whole words")
	term.press("C-q").ended(0)

	term = start(t, 100, 30, dir)
	term.see("roam").press("Space").write("station").see("▌  file      alpha_station.txt").press("Escape").seeNot("find  station")
	term.press("Space").write("bell").see("whole words: on", "text  2")
}

func TestLanesFiltersAndASlip(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("Space").write("kind:method in:store sav").see("Memory.Save", "Store.Save").press("Tab").see("all kinds").press("Tab").see("only this kind")
	for range len("kind:method in:store sav") {
		term.press("BSpace")
	}
	term.see("follow the name").write("rosetr").see("find  rosetr", "roster.go").press("Escape").seeNot("find  rosetr")
	term.press("Space").write("is:test ext:py").see("test_model.py", "test_snowpack.py")
}

func TestAFileThatChangesOnDisk(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write := func(text string) { require.NoError(t, os.WriteFile(filepath.Join(dir, "hut.py"), []byte(text), 0o600)) }
	write("def ring():\n    pass\n")
	term := start(t, 142, 42, filepath.Join(dir, "hut.py")+":2")
	term.see("line 2 column 5", "roam").press("Space").write("ring").see("symbols  1").press("Escape").seeNot("symbols")
	write("# new\ndef toll():\n    pass\n")
	term.see("def toll", "has changed on disk").press("Space").write("toll").see("symbols  1", "hut.py 2")
}

func TestTheInsideOfAFile(t *testing.T) {
	t.Parallel()
	term := start(t, 142, 42, "demo")
	term.see("[README.md 1]").press("o").see("section   tarnwell", "Run it").press("Escape").seeNot("letters of a name")
	term.press("Space").write("probe.c").see("▌  file").press("Enter").see("[probe.c 1]")
	term.press("o").see("section   reading", "  read_thermometer").write("snowg").see("probe_snow_gauge").press("Down", "Enter").see("── [")
	term.press("b").see("[probe.c 1]")
	term.press("/").see("look for").write("bus_read").see("1 of 2 places").press("Down").see("2 of 2 places").press("Enter").see("n and p go on")
	term.press("n").see("from the beginning again").press("Escape").seeNot("from the beginning again")
	term.press("]").see("line 14 column 9").press("]").see("probe.c ▸ read_scaled").press(")").see("line 24 column 1").press("(").see("line 16 column 1")
	term.press("&").see("[probe.h 1]").press("&").see("probe.c ▸ read_scaled").press("b").see("[probe.h 1]")
}
