package app

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/surface"
)

// ctrl presses a letter with Ctrl.
func (p *program) ctrl(letters string) *program {
	for _, l := range letters {
		p.send(tea.KeyPressMsg{Code: l, Mod: tea.ModCtrl})
	}
	return p
}

func onDisk(t *testing.T, root, file string) string {
	data, err := os.ReadFile(filepath.Join(root, file))
	require.NoError(t, err)
	return string(data)
}

func TestWriting(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w").see("WRITE", "letters are typed").press("end", "enter", "=depth = rea").see("depth = rea", "1 not saved")
	p.press("backspace", "backspace", "backspace", "=deepen(depth)").see("depth = deepen(depth)", "9 ✎")
	p.ctrl("z").see("depth = ").ctrl("yyyy").see("depth = deepen(depth)")
	p.press("esc").see("roam").press("w").see("WRITE").ctrl("s").see("hut.go is saved").until(lacks("not saved"), "saved")
	assert.Equal(t, strings.Replace(hutCode, "h.measure()\n", "h.measure()\n\tdepth = deepen(depth)\n", 1), onDisk(t, root, "hut.go"))
	p.ctrl("zzzzzzzz").see("1 not saved").ctrl("s").see("is saved")
	assert.Equal(t, hutCode, onDisk(t, root, "hut.go"))
	p.press("esc").see("roam").press("space", "=other", "enter").see("[other").press("e").see("edit place 1 of 1", "hut.go")
}

// One looks up a definition in the middle of a word, which is known as soon as it is typed,
// and comes back to go on typing.
func TestWaysWhileWriting(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w").see("WRITE").press("end", "enter", "=func deepen() {}", "enter", "=var _ = deepen", "alt+d").see("line 4 column 6", "func deepen() {}", "WRITE")
	p.press("alt+b").see("line 5 column 15").press("=()").see("var _ = deepen()").press("alt+b").see("the trail begins here")
	p.press("esc").see("roam").press("space", "=deepen").see("▌  function").press("esc").press("space", "=hut.go", "enter").see("[hut.go 1]", "1 not saved").press("b").see("var _ = deepen()", "roam").press("w", "end", "=X").see("deepen()X")
	p.press("alt+q").see("is closed").press("Q").see("deepen()X", "1 not saved")
}

func TestManyCarets(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 2})
	p.see("[hut.go 8]", "depth").press("w").see("WRITE").ctrl("oo").see("2 carets").press("=snow").ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "hut.go"), "\tsnow := h.measure()\n\treturn snow\n")
	p.ctrl("z").press("esc").ctrl("e").see("Ctrl+E …").press("r").see("2 carets").press("=x").see("x := h.measure()", "return x").press("esc")
	p.ctrl("e").press("/").see("// return x").ctrl("e").press("/").until(lacks("// return"), "code again")
	p.ctrl("c").ctrl("x").until(lacks("return x"), "the line cut").ctrl("v").see("return x").ctrl("e").press("v").see("what was cut or copied").press("enter").see("return x")
}

// What somebody else writes into the file meanwhile is not written over unless one says so.
func TestAChangeOnDiskWhileWriting(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	other := func(from, to string) {
		was := onDisk(t, root, "hut.go")
		require.Contains(t, was, from)
		require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(strings.Replace(was, from, to, 1)), 0o644))
		p.ws.Code.RefreshFiles(t.Context(), []string{"hut.go"})
	}
	p.see("[hut.go 8]").press("w", "=// mine").see("// mine").until(func(string) bool { return p.model.writing.Known() }, "known")
	other("return n\n", "return n + 2\n")
	p.see("has changed on disk while you write in it").ctrl("s").see("on disk", "yours", "2 places differ", "the left is taken", "the right is taken").press("enter").see("that stands here now", "// mine", "return n + 2").ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "hut.go"), "// mine")
	p.press("=!").see("!")
	other("return n + 2\n", "return n + 3\n")
	p.ctrl("s").see("places differ").press("h", "enter").see("this is what is on disk", "return n + 3").until(lacks("not saved"), "nothing to save").ctrl("z").see("!", "1 not saved")
	other("return n + 3\n", "return n + 4\n")
	p.ctrl("s").see("differ").press("l", "enter").see("that stands here now").ctrl("s").see("is saved")
	assert.NotContains(t, onDisk(t, root, "hut.go"), "n + 4")
}

// What was not saved is offered the next time.
func TestTextThatWasNotSaved(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.ws.KnowRecovery(state + "-recovery")
	p.see("[hut.go 8]").press("w", "=// lost?").see("// lost?").until(func(string) bool { return p.text().IsKept() }, "kept beside")
	p.until(func(string) bool { files, _ := filepath.Glob(state + "-recovery/*.text"); return len(files) == 1 }, "the file")
	p.press("esc").send(tea.KeyPressMsg{Code: 'q', Mod: tea.ModCtrl})
	p.see("hut.go is not saved. Ctrl+Q again leaves; it is offered next time")
	p.ws.Recovery().Close()

	busy := openWith(t, root, place.Place{}, state, state+"-recovery")
	busy.press("down").see("1 text was not saved when the program ended; Ctrl+E x shows what was in it").ctrl("e").see("left unsaved").press("x").see("Esc leaves it for later", "Enter compare it").press("esc").see("Ctrl+E x shows them again")
	busy.ctrl("e").press("x").see("Esc leaves it for later", "Enter compare it").press("enter").see("1 place differs").press("esc").see("Ctrl+E x shows it again").ctrl("e").press("x").see("hut.go").press("end", "enter").see("They are gone then").press("esc").ctrl("e").press("x").see("hut.go")
	again := openWith(t, root, place.Place{}, state, state+"-recovery")
	again.see("text was not saved when the program ended", "hut.go").press("enter").see("not saved", "1 place differs", "// lost?").press("enter").see("1 not saved", "this is the text that was not saved").press("w").ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "hut.go"), "// lost?")
	again.until(func(string) bool { files, _ := filepath.Glob(state + "-recovery/*.text"); return len(files) == 0 }, "nothing kept any more")
}

func TestCompletingNames(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w").see("WRITE").press("end", "enter", "=func a() { Hut{}.meas").see("Tab", "measure", "Esc none").press("tab").see("Hut{}.measure").press("=() ; oth").see("Tab", "Esc none").press("esc").until(lacks("Esc none"), "nothing offered").press("=e").see("Tab", "Esc none").press("tab").see("; other")
	p.press("=() }").ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "other.go"), "{ Hut{}.measure(); other() }")
	p.ctrl("n").see("type the beginning of a name")
}

func TestSavingUnderAnotherPath(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w", "=// x ").ctrl("e").press("w").see("save it as: other.go").press("backspace", "backspace", "backspace", "=_two.go", "enter").see("other_two.go is written", "other_two.go")
	assert.Contains(t, onDisk(t, root, "other_two.go"), "// x func other() {}")
	assert.NotContains(t, onDisk(t, root, "other.go"), "// x")
	p.see("WRITE").press("alt+b").see("WRITE", "// x func").ctrl("e").press("w").see("save it as:").press("esc").ctrl("e").press("w").see("save it as:")
	for range 12 {
		p.press("backspace")
	}
	p.press("=hut.go", "enter").see("hut.go is there already and is not written over")
}

func TestAFileThatMustNotBeWritten(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	require.NoError(t, os.Chmod(filepath.Join(root, "other.go"), 0o444))
	p.see("[other.go 3]").press("w", "=//").ctrl("s").see("other.go is not saved, it is read-only", "1 not saved")
	require.NoError(t, os.Chmod(filepath.Join(root, "other.go"), 0o644))
	p.ctrl("s").see("is saved")
	require.NoError(t, os.Remove(filepath.Join(root, "other.go")))
	p.press("=//").ctrl("s").see("cannot be read; Ctrl+S once more writes yours there").ctrl("s").see("is saved")
	assert.Contains(t, onDisk(t, root, "other.go"), "////func")
}

// A letter that the file's encoding lacks is not lost, and the file becomes UTF-8 if one says so.
func TestAFileInLatin1BecomesUTF8(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.ws.KnowRecovery(state + "-recovery")
	defer p.ws.Recovery().Close()
	require.NoError(t, os.WriteFile(filepath.Join(root, "old.txt"), []byte("H\xfctte am Schr\xf6fl\n"), 0o644))
	p.ws.Code.Refresh(t.Context())
	p.see("[other.go 3]").press("space", "=old.txt").see("▌  file").press("enter").see("Hütte am Schröfl", "Latin-1").press("w", "end", "=é").ctrl("s").see("is saved")
	assert.Equal(t, "H\xfctte am Schr\xf6fl\xe9\n", onDisk(t, root, "old.txt"))
	p.press("= 5 €").ctrl("s").see("old.txt is not saved: the file is in Latin-1, which lacks a character: '€' in line 1; Ctrl+S once more").see("1 not saved")
	p.press("=.").ctrl("s").see("Ctrl+S once more").ctrl("s").see("old.txt is saved")
	assert.Equal(t, "Hütte am Schröflé 5 €.\n", onDisk(t, root, "old.txt"))
	p.ctrl("z").ctrl("s").see("is saved").press("= €").until(func(string) bool { return p.text().IsKept() }, "looked after")
}

// Letters go in where the screen shows the caret, however one has got there.
func TestTypingAfterAJump(t *testing.T) {
	jumps := map[string]struct {
		keys []string
		want string // the line in which the letter then stands
	}{
		"a definition":              {[]string{"right", "right", "right", "right", "right", "right", "right", "right", "right", "right", "alt+d"}, "func (h *Hut) @measure() int"},
		"the next function":         {[]string{"alt+]"}, "@"},
		"the function before":       {[]string{"alt+["}, "@"},
		"a line":                    {[]string{"ctrl+space", "=3", "enter"}, "@"},
		"a place of a search":       {[]string{"alt+/", "=return n", "enter"}, "@return n"},
		"the next of these":         {[]string{"alt+/", "=int", "enter", "alt+n"}, "@int"},
		"out to what is around":     {[]string{"alt+="}, "@"},
		"the last line, and a move": {[]string{"ctrl+space", "=99", "enter", "up"}, "@"},
		"a word, by selecting it":   {[]string{"alt++"}, "@"},
	}
	for name, jump := range jumps {
		t.Run(name, func(t *testing.T) {
			p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 3})
			p.see("[hut.go 8]").press("w").see("WRITE")
			for _, k := range jump.keys {
				p.press(k)
			}
			p.until(func(string) bool { return !p.model.going() && p.model.over == nil }, "back in the text")
			line, col := p.model.frame.Code.Caret()
			before := string(p.model.frame.Code.File().Text.Line(line))
			cut := string(p.model.frame.Code.Selection().In(p.model.frame.Code.File().Text.Bytes()))
			p.press("=@").see("@")
			after := string(p.text().Editor.Document().Line(line))
			at := col - 1 - len(cut)
			assert.Equal(t, before[:at]+"@"+before[at+len(cut):], after, "at line %d column %d", line, col)
			assert.Contains(t, after, jump.want)
			line, col = p.model.frame.Code.Caret()
			p.press("left").until(func(string) bool { l, c := p.model.frame.Code.Caret(); return l == line && c == col-1 }, "one to the left of it")
		})
	}
}

// Whoever writes and goes elsewhere goes on writing there.
func TestGoingElsewhereWhileWriting(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 3})
	p.see("[hut.go 8]").press("w").see("WRITE").press("ctrl+space").see("roam").press("=other.go", "enter", "=//").see("WRITE", "//package")
	p.press("alt+b", "=n").see("hut.go", "WRITE").until(func(string) bool {
		return strings.Contains(string(p.model.frame.Code.File().Text.Line(8)), "nepth") || strings.Contains(string(p.model.frame.Code.File().Text.Line(8)), "dnepth")
	}, "typed there")
	p.press("alt+|", "=y", "alt+\\", "=z").until(func(string) bool { return !p.model.going() && len(p.model.ahead) == 0 }, "typed")
	assert.Contains(t, string(p.model.frame.Code.File().Text.Line(8)), "y")
	assert.Equal(t, "z", string(p.model.frame.Code.File().Text.Bytes()[p.model.frame.Code.Offset()-1]))
	p.press("esc").see("roam")
}

// others writes into a file behind the program's back.
func (p *program) others(root, file, from, to string) {
	was := onDisk(p.t, root, file)
	require.Contains(p.t, was, from)
	require.NoError(p.t, os.WriteFile(filepath.Join(root, file), []byte(strings.Replace(was, from, to, 1)), 0o644))
	p.ws.Code.RefreshFiles(p.t.Context(), []string{file})
}

// Undoing what was brought together leads back to before what others have written: saving that
// asks again.
func TestUndoingWhatOthersHaveWritten(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w", "=// mine").see("// mine")
	p.others(root, "hut.go", "return n\n", "return n + 2\n")
	p.ctrl("s").see("2 places differ").press("enter").see("that stands here now", "return n + 2").ctrl("z").until(lacks("return n + 2"), "undone")
	p.ctrl("s").see("2 places differ").press("esc").see("// mine")
	assert.Contains(t, onDisk(t, root, "hut.go"), "return n + 2")
	p.ctrl("y").see("return n + 2").ctrl("s").see("hut.go is saved").ctrl("z").until(lacks("return n + 2"), "undone").ctrl("s").see("2 places differ").press("esc")
	assert.Contains(t, onDisk(t, root, "hut.go"), "return n + 2")

	p.ctrl("y").see("return n + 2").until(lacks("not saved"), "as it was saved")
	p.others(root, "hut.go", "return n + 2\n", "return n + 3\n")
	p.see("return n + 3").ctrl("z").until(lacks("return n + 3"), "before what was read anew").ctrl("s").see("differ")
	assert.Contains(t, onDisk(t, root, "hut.go"), "return n + 3")
}

// What others have written since stays when a text that was not saved is taken up.
func TestTakingUpATextThatOthersHaveChanged(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.ws.KnowRecovery(state + "-recovery")
	p.see("[hut.go 8]").press("w", "=// mine").see("// mine").until(func(string) bool { return p.text().IsKept() }, "kept beside")
	p.until(func(string) bool { files, _ := filepath.Glob(state + "-recovery/*.text"); return len(files) == 1 }, "the file")
	p.ws.Recovery().Close()
	code := strings.Replace(onDisk(t, root, "hut.go"), "return n\n", "return n + 2\n", 1)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(code), 0o644))

	again := openWith(t, root, place.Place{}, state, state+"-recovery")
	again.see("text was not saved when the program ended").press("enter").see("2 places differ", "the left is taken", "the right is taken").press("enter").see("1 not saved", "// mine", "return n + 2")
	again.press("w").ctrl("s").see("hut.go is saved")
	assert.Equal(t, strings.Replace(code, "\tdepth :=", "\t// mine\tdepth :=", 1), onDisk(t, root, "hut.go"))
	again.until(func(string) bool { files, _ := filepath.Glob(state + "-recovery/*.*"); return len(files) <= 1 }, "nothing kept any more")
}

// What can be kept nowhere does not go with a promise that it is.
func TestLeavingWithWhatCannotBeKept(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	blocked := state + "-recovery"
	require.NoError(t, os.WriteFile(blocked, []byte("a file where the folder should be"), 0o600))
	p.ws.KnowRecovery(blocked)
	quit := func() { p.send(tea.KeyPressMsg{Code: 'q', Mod: tea.ModCtrl}) }
	p.see("[hut.go 8]").press("w", "=// lost?").see("NOT kept for the next time: hut.go", "1 not saved, NOT kept")
	quit()
	p.see("leaving now would LOSE what is not saved", "where its folder should be is a file", "under another path", "to the clipboard", "in another folder")
	p.press("enter").see("// lost?", "WRITE")
	quit()
	p.see("would LOSE").press("down", "enter").see("save it as: " + root).press("esc")
	quit()
	p.see("would LOSE").press("end", "up", "up", "enter").see("keep it in the folder:")
	p.ctrl("u").press("="+root, "enter").see("it is in " + filepath.Join(root, "hut-"))
	files, _ := filepath.Glob(filepath.Join(root, "hut-*.go"))
	require.Len(t, files, 1)
	assert.Contains(t, onDisk(t, root, filepath.Base(files[0])), "// lost?")

	require.NoError(t, os.Remove(blocked))
	p.see("is kept beside again").until(lacks("NOT kept"), "kept")
	quit()
	p.see("hut.go is not saved. Ctrl+Q again leaves; it is offered next time")
}

// Saving all says by name what was not saved, and where one looks for files, that is said, too.
func TestSavingAllNamesWhatIsNot(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("w", "=// a").see("// a").press("ctrl+space", "=other.go", "enter", "=// b").see("2 not saved")
	p.press("ctrl+space").see("not saved  hut.go").press("esc").see("WRITE").press("alt+g").see("NOT saved").press("esc")
	require.NoError(t, os.Chmod(filepath.Join(root, "other.go"), 0o444))
	p.ctrl("e").press("s").see("other.go is NOT saved: it is read-only; 1 file is saved")
	require.NoError(t, os.Chmod(filepath.Join(root, "hut.go"), 0o444))
	p.press("alt+b", "=c").see("hut.go", "2 not saved").ctrl("e").press("s").see("these are not", "other.go", "it is read-only").press("enter").see("WRITE")
	require.NoError(t, os.Chmod(filepath.Join(root, "hut.go"), 0o644))
	require.NoError(t, os.Chmod(filepath.Join(root, "other.go"), 0o644))
	p.ctrl("e").press("s").see("2 files are saved")
}

func TestSavingUnderAPathWhoseFolderIsNotThere(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w", "=// x ").ctrl("e").press("w").see("save it as: other.go")
	p.ctrl("u").press("=new/deep/two.go", "enter").see("its folder is not there; Enter makes it: new/deep/two.go").press("enter").see("new/deep/two.go is written")
	assert.Contains(t, onDisk(t, root, "new/deep/two.go"), "// x func")
}

// What is not the project's own is locked until one says otherwise in a word.
func TestFilesThatAreNotTheProjects(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	outside := filepath.Join(t.TempDir(), "time.go")
	require.NoError(t, os.WriteFile(outside, []byte("package time\n"), 0o644))
	require.NoError(t, os.MkdirAll(filepath.Join(root, "node_modules/gauge"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(root, "node_modules/gauge/gauge.js"), []byte("let gauge = 1\n"), 0o644))
	require.NoError(t, os.Symlink(outside, filepath.Join(root, "link.go")))
	p.ws.Code.Refresh(t.Context())
	for _, file := range []string{outside, "node_modules/gauge/gauge.js", "link.go"} {
		p.run(p.model.goTo(surface.Visit{Path: file, Line: 1, Col: 1}))
		p.until(func(string) bool { return p.model.frame.Code.Path() == file && !p.model.going() }, file)
		p.press("w").see("is not of this project and locked; Ctrl+E k unlocks it").ctrl("e").press("w").see("locked").ctrl("s").ctrl("e").press("k").see("yes unlocks").press("=y", "enter").see("stays locked").press("w").see("locked", "roam")
		p.press("=gb", "enter").see("nothing is typed here", "roam").until(func(string) bool { return p.model.frame.Code.Path() == file }, "still there").press("esc").until(lacks("nothing is typed"), "keys again")
	}
	p.ctrl("e").press("k").see("yes unlocks").press("=yes", "enter").see("can be written in now").press("w", "=//").ctrl("s").see("is saved")
	assert.Equal(t, "//package time\n", onDisk(t, filepath.Dir(outside), "time.go"))
	p.press("alt+q").see("this is roam", "gauge.js")
}

// Letters narrow the keys; only Enter does something.
func TestThePageOfKeys(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("?").see("find a file, a symbol", "type some letters").press("=wqqz").see("no key does that").press("backspace", "backspace", "backspace", "=rite").see("write: letters are typed", "roam")
	assert.Equal(t, "package huts\n\nfunc other() {}\n", onDisk(t, root, "other.go"))
	p.press("esc").see("type some letters").press("=outline", "enter").see("function  other").press("esc").press("?", "?").see("roam", "func other")
	p.press("?", "=write letters", "enter").see("WRITE")
}

// What a terminal pastes without saying so comes as keys, its line feeds as Ctrl+J.
func TestAPasteThatIsNotMarked(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w", "=\ta()").ctrl("j").press("=\tb()").ctrl("j").see("a()", "b()")
	assert.Equal(t, "package huts\n\n\ta()\n\tb()\nfunc other() {}\n", string(p.text().Editor.Document().Bytes()))
}

// The path gives way before what one must not miss.
func TestTheTopLineKeepsWhatMatters(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "a-folder-with-a-long-name", "and-another-one-below-it")
	outside := filepath.Join(folder, "a_file_with_a_rather_long_name_too.go")
	require.NoError(t, os.MkdirAll(folder, 0o755))
	require.NoError(t, os.WriteFile(outside, []byte("package time\n\nfunc TheNameOfThisIsLongAsWell() {}\n"), 0o644))
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 1})
	p.see("[hut.go 8]").press("m", "w", "=// a", "esc").see("1 not saved")
	p.run(p.model.goTo(surface.Visit{Path: outside, Line: 3, Col: 8}))
	p.until(func(string) bool { return p.model.frame.Code.Path() == outside && !p.model.going() }, "opened")
	for _, width := range []int{80, 120, 142} {
		p.send(tea.WindowSizeMsg{Width: width, Height: 24})
		top, _, _ := strings.Cut(p.view(), "\n")
		for _, want := range []string{"♜ 0", "1 not saved", "outside the project", "roam", "1 bookmark", "2 files open", "LongAsWell"[:4]} {
			if width == 80 && (want == "1 bookmark" || want == "2 files open" || want == "Long") {
				continue
			}
			assert.Contains(t, top, want, "at %d columns", width)
		}
	}
}

// Places move with what is written, however alike others are, and come back with undoing.
func TestPlacesMoveWithWhatIsWritten(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	code := "package huts\n\nfunc open() {\n\tcheck(1)\n\n\tcheck(2)\n}\n\nfunc shut() {\n\tcheck(1)\n\n\tcheck(2)\n}\n\nfunc check(n int) {}\n"
	require.NoError(t, os.WriteFile(filepath.Join(root, "twins.go"), []byte(code), 0o644))
	p.ws.Code.Refresh(t.Context())
	line := func() int { return p.model.marks.All()[0].Mark().Line }
	settled := func() bool {
		return p.text() != nil && p.model.writing.Known() && p.model.kept.RightFor("twins.go") == p.text().Editor.Document()
	}
	p.press("space", "=twins.go", "enter").see("func open").press("space", "=4", "enter").see("line 4").press("m").see("⚑   4")
	p.press("w", "end", "=//").see("check(1)//").until(func(string) bool { return settled() && line() == 4 }, "it stays on its line")
	for range 8 {
		p.press("backspace")
	}
	p.press("=inspect(many)").until(func(string) bool { return settled() && line() == 4 }, "though the line reads otherwise, and another one as it did")
	p.send(tea.KeyPressMsg{Code: tea.KeyHome, Mod: tea.ModCtrl})
	p.press("enter", "enter").until(func(string) bool { return settled() && line() == 6 }, "it moves down")
	p.ctrl("zz").until(func(string) bool { return settled() }, "undone")
	p.until(func(string) bool { return line() == 4 }, "and up again")
	assert.NotEqual(t, place.Gone, p.model.marks.All()[0].Mark().Fate)
}

// A bookmark on an empty line stays there.
func TestABookmarkOnAnEmptyLine(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 5, Col: 1})
	p.see("[hut.go 5]").press("m").see("⚑   5").press("j").press("w", "=// x", "enter").see("1 not saved").until(func(string) bool {
		return p.model.kept.RightFor("hut.go") == p.text().Editor.Document()
	}, "found")
	assert.NotEqual(t, place.Gone, p.model.marks.All()[0].Mark().Fate)
	p.see("⚑   5")
	assert.Empty(t, p.model.marks.All()[0].Mark().Text)
}

// A name becomes another one at all its uses, and where it stands for a member, too, that keeps its
// name; at all places of a search by a regular expression as well.
func TestCaretsAtUsesAndFinds(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	for name, text := range map[string]string{
		"make.ts": "function make(depth: number) {\n  const o = { depth, name: depth };\n  return { ...o, depth };\n}\n",
		"all.py":  "def total(huts, k):\n    best = [h * k for h in huts if h > k]\n    return {k: [k for _ in huts] for h in best}, k\n",
		"n.txt":   "a1 b22 c333\n",
	} {
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o644))
	}
	p.ws.Code.Refresh(t.Context())
	to := func(file string, line, col int) {
		p.run(p.model.goTo(surface.Visit{Path: file, Line: line, Col: col}))
		p.until(func(string) bool {
			l, c := p.model.frame.Code.Caret()
			return p.model.frame.Code.Path() == file && l == line && c == col && !p.model.going()
		}, file)
		p.press("w").see("WRITE")
	}
	to("make.ts", 1, 15)
	p.ctrl("e").press("r").see("4 carets").press("=N").see("N: number")
	assert.Equal(t, "function make(N: number) {\n  const o = { depth: N, name: N };\n  return { ...o, depth: N };\n}\n", string(p.text().Editor.Document().Bytes()))
	p.press("esc", "esc").see("roam")
	to("all.py", 1, 17)
	p.ctrl("e").press("r").see("6 carets").press("=q", "esc", "esc").see("roam")
	assert.Equal(t, "def total(huts, q):\n    best = [h * q for h in huts if h > q]\n    return {q: [q for _ in huts] for h in best}, q\n", string(p.text().Editor.Document().Bytes()))
	to("n.txt", 1, 1)
	p.press("alt+/").see("look for")
	p.send(tea.KeyPressMsg{Code: 'x', Mod: tea.ModAlt})
	p.press("=[0-9]+", "enter").see("Ctrl+E f puts a caret at each").ctrl("e").press("f").see("3 carets").press("=#").see("a# b# c#")
	p.press("esc", "esc").see("roam")
}

// What was done can be undone after a restart, and what was copied is still there, as long as the
// file is as it was left.
func TestUndoingAfterARestart(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 1})
	p.see("[other.go 3]").press("w", "=// one ").ctrl("s").see("is saved").press("end", "=// two").ctrl("c").see("the line").ctrl("s").see("is saved")
	saved := onDisk(t, root, "other.go")
	p.until(func(string) bool {
		files, _ := filepath.Glob(state + "-history/*")
		return len(files) == 2 && p.ws.History("other.go", p.text().Editor.Document()) != nil
	}, "kept, as it is after the second time")
	p.press("esc").see("roam")
	p.model.quit()()
	p.ws.Lists.CloseTrail()

	again := open(t, root, place.Place{}, state)
	again.see("// two").press("w").see("WRITE").until(lacks("not saved"), "as it was saved").ctrl("z").until(lacks("// two"), "undone").see("1 not saved").ctrl("zzzzzzzzzzzzzzzz").until(lacks("one"), "and before the first save")
	again.ctrl("yyyyyyyyyyyyyyyy").see("// two").until(lacks("not saved"), "as it is on disk")
	for !strings.Contains(again.view(), "what was cut or copied") { // as soon as that was read
		again.wait(20 * time.Millisecond)
		again.ctrl("e").press("v")
	}
	again.see("// one func other() {}// two").press("esc", "esc").see("roam")

	require.NoError(t, os.WriteFile(filepath.Join(root, "other.go"), []byte(strings.Replace(saved, "two", "three", 1)), 0o644))
	changed := open(t, root, place.Place{}, state)
	changed.see("// three").press("w").see("WRITE").ctrl("z").see("this is the text as it was at the beginning")
}

// A way that is gone right after one has left write is about what was written, however fast it comes.
func TestAWayRightAfterWriting(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "other.go", Line: 3, Col: 6})
	p.see("[other.go 3]").press("w").see("WRITE").press("home", "=var snow = 2", "enter", "=var depth = snow", "enter", "esc", "up", "end", "d").see("line 3 column 5")
	p.press("]").see("line 5 column 6")
}
