package app

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/check"
	"rooktrail/internal/core/file/place"
)

// gone waits until none of the texts is on the screen any more.
func (p *program) gone(texts ...string) *program {
	p.t.Helper()
	return p.until(func(v string) bool {
		for _, text := range texts {
			if strings.Contains(v, text) {
				return false
			}
		}
		return true
	}, "it gone: "+strings.Join(texts, ", "))
}

func TestBreadcrumbsOpen(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("roster.go ▸ label").press(".").see("beside label  3 of 3", "▌  function  label", "▸ …")
	p.press("up").see("▌  function  assign", "line 6 column 6").press("esc").see("line 9 column 2").gone("beside")
	p.press(".").see("beside label").press("left").see("beside roster.go  1 of 1", "▌  file      roster.go").press("left").see("beside dispatch", "▌  folder    dispatch")
	p.press("=stor").see("▌  folder    store").press("enter").see("inside store", "▌  file      store.go").see("// Save keeps.").press("enter").see("[store.go 1]", "store ▸ store.go")
	p.press("b").see("line 9 column 2", "label").press(".").see("beside label").press("=Te", "enter").see("line 4 column 6", "[Team 4]")
	p.press(".").see("beside Team").press("right").see("inside Team  1 of 1", "▌  field     Name").press("enter").see("line 4 column 19")
}

func TestFoldsHideAndShow(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9").press("*").see("func label(t Team) string {  ≡ 2 lines folded", "line 8").gone("return t.Name")
	p.press("*").see("return t.Name").press("S").see(" S … ", "bodies", "Esc none").press("b").see("1 part is folded; only signatures are left").gone("return t.Name")
	p.press("down").see("line 8").press("S", "o").see("everything is open", "return t.Name").press("S", "a").see("≡ 2 lines folded").press("space", "=roster.go:9", "enter").see("return t.Name", "line 9")
	p.press("S", "9").see("there is nothing of the kind").press("S", "esc", "j").see("line 10")
	p.press("space", "=store.go", "enter").see("[store.go 1]").press("S", "x").see("S x does nothing here")
}

func TestSoloShowsOnePieceAlone(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9").press("S", "S").see("alone on the screen", "solo", "func label").gone("package dispatch", "func assign")
	p.press("ctrl+home").see("line 8").press("[").see("func assign", "line 6").gone("func label(").press("]").see("func label").press("]").see("there is no other function or type on this side")
	p.press("/", "=Name").see("1 of 1 place in what is alone here").press("enter", "S", "S").see("package dispatch").gone("solo")
	p.press("S", "S", "b").see("the trail begins here").press("space", "=roster.go:1", "enter").see("package dispatch", "line 1").gone("solo")
	p.press("S", "S").see("the caret is in no function or type")
}

func TestSelectionGrowsAndShrinks(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 39})
	p.see("line 6 column 39")
	selected := func() string {
		return string(p.model.frame.Code.Selection().In(p.model.frame.Code.File().Text.Bytes()))
	}
	for _, want := range []string{"label", "label(t)", "return label(t)", "{ return label(t) }", "func assign(t Team) string { return label(t) }"} {
		p.press("+").until(func(string) bool { return !p.model.going() && len(selected()) >= len(want) }, want)
		assert.Equal(t, want, selected())
	}
	p.press("-", "-")
	assert.Equal(t, "return label(t)", selected())
	p.press("/", "=label").see("1 of 1 place in the selection").press("esc").see("line 6")
	p.press("esc")
	assert.Empty(t, selected())
	p.press("-").see("nothing is selected")
}

func TestDocsAreRead(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 15})
	p.see("line 6").press("y").see("Team   struct   dispatch/roster.go 4   inferred", "Team goes out.", "Enter go to its definition").press("enter").see("[Team 4]")
	p.press("b").see("line 6 column 15").press("end", "left", "left", "left", "y").see("func label(t Team) string", "parameter 1 of 1: t Team", "t   parameter   dispatch/roster.go 6").press("esc").gone("parameter 1 of 1: t Team")
	p.press("space", "=use.py:3", "enter").see("nothing()").press("right", "right", "right", "right", "right", "y").see("nothing in this project defines nothing")
}

func TestViewsStayOpen(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("line 6").press("space", "=store.go", "enter").see("[store.go 1]", "2 files open").press("j", "j")
	p.press("<").see("line 6 column 6", "func assign").press(">").see("line 3 column 1").press("space", "=a.py", "enter").see("class A", "3 files open")
	p.press("V", "V").see("open files  3").press("up", "enter").see("line 3 column 1")
	p.press("q").see("store.go is closed; Q brings it back", "2 files open").press("Q").see("store ▸ store.go", "line 3 column 1")
	p.press("V", "o").see("2 other files closed").gone("files open").press("q").see("this is the last open file; press q once more")
	p.press("j", "Q").see("2 files open").press("V", "a").see("2 files closed", "Space finds a file").press("Q", "Q").see("2 files open")
}

func TestViewsOfFilesThatAreGone(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("line 6").press("space", "=store.go", "enter").see("[store.go 1]").press("space", "=a.py", "enter").see("class A", "3 files open")
	require.NoError(t, os.Remove(p.ws.Code.Absolute("store/store.go")))
	p.press("q").see("store.go cannot be opened: it is not there any more", "dispatch ▸ roster.go", "func assign").press("q").see("press q once more")
	p.press("Q").see("a.py", "2 files open")
}

func TestTwoViewsSideBySide(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9").press("|").until(func(v string) bool { return strings.Count(v, "func label(t Team)") == 2 }, "the file twice")
	p.press("space", "=store.go", "enter").see("── store.go · 2 files open", "── roster.go ▸ label", "func Save")
	p.press("\\").see("line 9 column 2", "[roster.go 9]").press("V").see("larger").press("right").see("[store.go 1]").press("V", "up").see("there is no view in that direction")
	p.press("!").gone("func label").press("!").see("func label").press("_").until(func(v string) bool { return strings.Count(v, "func Save") == 2 }, "three views")
	p.press("q").until(func(v string) bool { return strings.Count(v, "func Save") == 1 }, "two views")
	p.press("V", "s").see("store.go is on the other side now", "dispatch ▸ roster.go")
	p.press("V", "+", "V", "-", "V", ">").see("nothing stands beside the code")
	assert.Len(t, p.model.frame.Sides(), 2)
	p.send(tea.WindowSizeMsg{Width: 50, Height: 12})
	p.press("|").see("there is no room here for two views")
}

func TestQuietAndTheOutlineBeside(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("trail").press("V", "h").gone("trail", "♜", "it is defined here").see("func assign").press("S").see("Esc none").press("esc").gone("Esc none")
	p.press("/", "=Team").see("of 4 places").press("esc", "V", "h").see("trail", "♜").press("O").see("├─ outline", "▪ assign")
	p.press("]").see("▪ label").press("O").gone("├─ outline").press("V", ">").press("V", "<")
}

func TestItBeginsAsItEnded(t *testing.T) {
	state := filepath.Join(keptFolder(t), "state.json")
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9")
	p.ws.KnowState(state)
	p.press("*").see("folded").press("space", "=a.py", "enter").see("class A").press("|", "space", "=store.go", "enter").see("[store.go 1]").press("j", "O")
	root := p.ws.Code.Root()
	require.IsType(t, tea.QuitMsg{}, p.model.quit()())
	require.NoError(t, os.Remove(filepath.Join(root, "a.py")))

	q := open(t, root, place.Place{}, state)
	q.see("── store.go", "line 2 column 1", "≡ 2 lines folded", "1 file of last time cannot be opened any more")
	assert.True(t, q.model.frame.Wish.Outline)
	q.press("\\").see("line 8 column 5").press("q").see("func Save").gone("func label")
	require.IsType(t, tea.QuitMsg{}, q.model.quit()())

	r := open(t, root, place.Place{Path: "use.py", Line: 2}, state)
	r.see("store.go 2 ── [use.py 2]", "2 files open")
}

func TestFoldersAreShownAndChanged(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9").press("g").see("▌  file        roster.go", "folder    store/", "file      a.py", "Alt+B new")
	p.press("=sto").see("▌  folder    store/").press("right").see("store.go").press("down").see("// Save keeps.").press("esc").see("line 9 column 2").gone("letters jump")
	p.press("g").see("▌  file        roster.go").press("alt+r").see("rename or move dispatch/roster.go to: dispatch/roster.go").press("backspace", "backspace", "backspace", "=.go", "enter")
	p.see("that is its name already").press("alt+r").press("backspace", "backspace", "backspace", "=list.go", "enter").see("dispatch/roster.go is dispatch/rosterlist.go now")
	p.press("esc").see("dispatch ▸ rosterlist.go", "line 9 column 2")
	p.press("g", "alt+u").see("undone: renamed dispatch/roster.go").press("esc").see("dispatch ▸ roster.go", "line 9")
	p.press("g").see("▌  file        roster.go").press("alt+b").see("new folder: dispatch/").press("=new.go", "enter").see("dispatch/new.go is there now", "▌  file        new.go")
	p.press("alt+b", "=new.go", "enter").see("there is something of this name already")
	p.press("left", "alt+d").see("delete dispatch/ with 2 files?", "Alt+D delete, to the trash").press("enter", "=y").see("delete dispatch/").press("esc").see("letters jump")
	p.press("alt+d").see("with 2 files?").press("alt+d").see("dispatch is in the trash; Alt+U brings it back").gone("new.go")
	p.press("esc").see("func label", "line 9").press("g", "alt+u").see("undone: deleted dispatch", "dispatch/")
	p.press("tab").see("only what differs from the last commit").press("tab", "=nothing like it").press("esc", "alt+left").gone("roster.go  ")
	assert.NoFileExists(t, p.ws.Code.Absolute("dispatch/rosterlist.go"))
}

func TestHandingOn(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	t.Setenv("VISUAL", "")
	t.Setenv("EDITOR", "")
	p.see("line 9").press("P", "l").see("dispatch/roster.go:9").press("P", "e").see("no editor is chosen")
	p.press("P", "t").see("line 9 is").press("P", "a").see(filepath.Base(p.ws.Code.Root()) + "/dispatch/roster.go")
}

// A file may go, shrink or become a folder while it is on the screen.
func TestFilesThatChangeUnderneath(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9").press("*").see("folded").press("|").see("── roster.go")
	file := p.ws.Code.Absolute("dispatch/roster.go")
	require.NoError(t, os.WriteFile(file, []byte("package dispatch\n"), 0o600))
	p.run(p.model.reload())
	p.see("has changed on disk", "line 1").gone("func label", "folded").press("]", "*", "S", "S", "+", "j", "=", "y", "o", "esc", ".", "esc")
	require.NoError(t, os.Remove(file))
	p.run(p.model.reload())
	p.see("cannot be read any more: it is not there any more", "package dispatch")
	require.NoError(t, os.Mkdir(file, 0o755))
	p.run(p.model.reload())
	p.see("it is a folder").press("q", "q").see("press q once more")
}

// A late answer that a file has gone is not believed when it is there again, as when a move was taken back.
func TestAFileThatWasGoneForAMoment(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9")
	file := p.ws.Code.Absolute("dispatch/roster.go")
	require.NoError(t, os.Rename(file, file+".away"))
	late := p.model.reread(reloading{side: p.model.frame.Side, before: p.model.frame.Side.Code.File(), version: p.model.writing.Version("dispatch/roster.go")})()
	require.NoError(t, os.Rename(file+".away", file))
	p.send(late)
	assert.NotContains(t, p.view(), "cannot be read")
	p.see("line 9").gone("cannot be read")
}

func TestCaretOutOfSight(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 1})
	require.NoError(t, os.WriteFile(p.ws.Code.Absolute("store/store.go"), []byte(strings.Repeat("// line\n", 500)), 0o600))
	p.see("line 1").press("space", "=store.go:20", "enter").see("line 20 column 1")
	for range 40 {
		p.press("ctrl+down")
	}
	p.see("line 20 column 1").gone("   20   // line")
	p.press("esc").see("   20   // line").press("ctrl+up", "V", "c").see("   20   // line")
}

// That a compiler has answered is taken note of whatever lies over the code, or else what it found would not be shown.
func TestACompilerAnswersBelowAList(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("[roster.go 6]").press("space").see("find")
	before := p.model.seen.checked
	require.NoError(t, os.WriteFile(filepath.Join(p.ws.Code.Root(), "go.mod"), []byte("module tarn\n\ngo 1.22\n"), 0o644))
	p.ws.Code.Refresh(t.Context())
	require.NoError(t, p.ws.Code.Check(t.Context(), check.Fast))
	p.model.progressed()
	assert.Greater(t, p.model.seen.checked, before)
}
