package app

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
)

// tarn lays a project out with what is kept of it in a folder, and begins the program.
func tarn(t *testing.T, start place.Place) (p *program, root, state string) {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(hutCode), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(root, "other.go"), []byte("package huts\n\nfunc other() {}\n"), 0o644))
	state = filepath.Join(keptFolder(t), "state")
	return open(t, root, start, state), root, state
}

func TestBookmarks(t *testing.T) {
	p, root, state := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]", "measure").press("'").see("there is no bookmark yet").press("m").see(`a bookmark on hut.go 8, Hut.Report is in the list "bookmarks" now`, "⚑   8")
	p.press("m").see("is taken away; B u brings it back").until(lacks("⚑"), "no mark").press("B").see("bring back").press("u").see("is back in the list", "⚑   8")
	p.press("M").see("a letter or a digit for this line").press("d").see("d is hut.go 8, Hut.Report now", "d   8")
	p.press("space", "=other", "enter").see("[other other.go 3]").press("M", "d").see("d is hut.go 8, Hut.Report; once more moves it").press("esc").see("[other other.go 3]").press(";").see("bookmarks  1 of 1", "d  line", "depth := h.measure()", "Hut.Report, hut.go 8")
	p.press("esc").see("[other other.go 3]").press("M", "4").see("4 is other.go 3, other now: 4 goes there", "4   3").press(";", "d").see("hut.go", "line 8 column 14", "[hut.go 8]")
	p.press("7").see("no bookmark is 7").press("4").see("line 3").press("M", "d", "d").see("d is other.go 3, other now").press(";").see("d  line", "   line")
	p.press("esc", "b").see("line 8").press("B", "n").see("note on this bookmark:").press("=begins here", "enter").see("the note is written down").press(";").see("begins here").press("/", "=begins").see("1 of 2").press("esc", "esc").until(lacks("letters"), "the sheet closed")
	p.press("B", "i").see("a bookmark on Hut.Report is").press("B", "f").see("a bookmark on hut.go is").press("B", "o").see("a bookmark on the folder .")
	p.press("'").see("line 8", "begins here").press("'").see("line 3").press("'").see("line 7").press("\"", "\"").see("line 8")
	p.model.quit()()
	p.ws.Lists.CloseTrail()

	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte("// Huts.\n\n"+strings.Replace(hutCode, "measure() int {", "measure() (n int) {", 1)), 0o644))
	again := open(t, root, place.Place{}, state)
	again.see("hut.go 10", "⚑  10", "5 bookmarks").press(";").see("folder  ./", "begins here").press("esc").press("g").see("3 bookmarks").press("esc").press(";", "d").see("line 3", "[other other.go 3]")
}

func TestListsOfBookmarks(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]").press("m").see("⚑").press("j", "m").see("line 9").press(";").see("2 of 2")
	p.press("alt+s").see("lists of bookmarks", "present").press("alt+b").see("name of the new list:").press("=leaks", "enter").see("2 of 2", "leaks").press("alt+s").see("bookmarks  2 of 2")
	p.press("alt+j").see("to which list?", "leaks").press("enter").see("leaks", "bookmarks")
	p.press("alt+s", "down").see("leaks").press("alt+r").see("name of this list: leaks").press("= and drips", "enter").see("leaks and drips")
	p.press("alt+y").see("written to .rooktrail/bookmarks/leaks-and-drips.toml").see("shared").press("alt+y").see("its file is there already").press("alt+y").see("written to")
	p.press("alt+j").see("this is the present list").press("up", "enter").see("3 of 3").press("alt+s", "down", "alt+j").see("0 bookmarks").press("alt+d").see("forget this list").press("alt+d").see(`the list "leaks and drips" is forgotten`)
	p.press("down", "alt+r").see("a shared list is only read").press("alt+p").see("3 of 3").press("alt+s").see("bookmarks  4 of 4", "shared in .rooktrail/bookmarks/leaks-and-drips.toml")
	p.press("alt+h").see("write it to the file").press("enter").see("1 stop is written to leaks-and-drips.md").press("alt+h", "enter").see("it is there already")
	data, err := os.ReadFile(filepath.Join(root, "leaks-and-drips.md"))
	require.NoError(t, err)
	assert.Contains(t, string(data), "(hut.go#L")
	p.press("alt+d").see("is taken away").press("alt+u").see("is back in the list").press("alt+z").see("in the order of the files").press("alt+l").see("a letter or digit for this bookmark").press("x").see("x  line")
	p.press("alt+g").see("walk: bookmarks", "1 of 2", "n next, p back, Esc ends it").press("n").see("2 of 2").press("n").see("this is the last stop").press("p").see("stop 1 of 2").press("esc").see("the walk bookmarks is over")
}

func TestTheTrailAsATree(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]", "measure").press("d").see("[measure 12]").press("b").see("[hut.go 8]").press("space", "=other", "enter").see("[other")
	p.until(func(string) bool { return p.model.trails.IsRead() }, "the trail read")
	p.press("A", "A").see("3 of 3", "├─ Hut.measure", "[other]", "definition of measure", "depth := h.measure()").press("up").see("line 12 column 15").press("up").see("line 8 column 14")
	p.press("alt+n").see("note on this stop:").press("=too deep", "enter").see("too deep").press("alt+r", "=the gauge", "enter").see("the gauge").press("alt+v").see("the gauge ★")
	p.press("tab").see("only: the way here", "2 of 3").press("tab").see("only: starred", "1 of 3").press("tab").see("no stop is edit places").press("tab", "tab", "tab").see("3 of 3")
	p.press("=deep").see("1 of 3").press("backspace", "backspace", "backspace", "backspace").see("3 of 3").press("down").press("left").see("├─ Hut.measure")
	p.press("alt+d").see("cut this stop away?").press("esc").see("Hut.measure").press("alt+d", "alt+d").see("1 stop cut away", "2 of 2").press("alt+u").see("1 stop is back", "3 of 3")
	p.press("alt+h").see("write it to the file").press("enter").see("3 stops are written to trail.md")
	data, err := os.ReadFile(filepath.Join(root, "trail.md"))
	require.NoError(t, err)
	assert.Contains(t, string(data), "## 1. the gauge ★")
	p.press("up", "up", "enter").see("the gauge", "line 8").press("b").see("[other", "line 3")
	p.press("A", "v").see("other is starred").press("A", "n").see("note on this stop:").press("esc").until(lacks("letters of a file"), "the sheet closed")
	p.press("A", "s").see("trails  1 of 1", "present").press("alt+b").see("name of the trail that begins here:").press("=snow", "enter").see(`this is the trail "snow" now, with 1 stop`, "trail  [other other.go 3]").press("b").see("the trail begins here")
	p.press("A", "s").see("trails  2 of 2", "snow").press("down", "alt+j").see("3 stops are taken in", "4 of 4").press("esc").press("A", "s").see("2 of 2").press("down", "enter").see("with 3 stops").press("A", "s").see("2 of 2")
	p.press("down", "alt+r").see("name of this trail: snow").press("=ed in", "enter").see("snowed in").press("down", "alt+d").see("forget this trail").press("alt+d").see("1 of 1").press("esc")
}

// Where one has moved far from where one came in, back leads there first.
func TestMovingOnAndBack(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go"})
	require.NoError(t, os.WriteFile(filepath.Join(root, "long.go"), []byte("package huts\n"+strings.Repeat("\n", 60)+"func far() { other() }\n"), 0o644))
	p.ws.Code.Refresh(t.Context())
	p.see("[other.go 1]").press("space", "=long.go", "enter").see("[long.go 1]").press("]").see("line 62").press("end", "left", "left", "left", "left").see("│ other").press("d").see("[other other.go 3]", "far 62", "long.go 1").press("b").see("[far 62]").press("b").see("[long.go 1]").press("f").see("[far 62]")
}

func TestPlacesInTheScout(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]", "measure").press("d").see("[measure 12]").press("M", "k").see("k is hut.go 12").press("space", "=other", "enter").see("[other").press("space").see("recent files", "recent places", "Hut.measure", "Hut.Report", "depth := h.measure()").press("alt+e").see("only edit places").press("alt+e")
	p.press("=measure").see("bookmarks", "k  line", "stops").press("esc").see("[other")
}

// What was changed in an editor of one's own is an edit place.
func TestEditPlaces(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]").press("e").see("nothing was changed yet")
	code := strings.Replace(hutCode, "return n\n", "return n + 1\n", 1)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(code), 0o644))
	p.model.seen.handed = "hut.go"
	p.send(editedMsg{})
	p.see("return n + 1", "✎").press("space", "=other", "enter").see("[other").press("e").see("return n + 1", "edit place 1 of 1", "line 18").press("e").see("edit place 1 of 1: this is the only one").press("E").see("edit place 1 of 1")
	p.press("A", "A").see("✎").press("tab", "tab", "tab").see("only: edit places", "1 of").press("esc").press("space", "alt+e").see("only edit places", "hut.go")
}

// Staying at a place one has moved to makes it a stop; passing by does not.
func TestStaying(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "other.go"})
	require.NoError(t, os.WriteFile(filepath.Join(root, "long.go"), []byte("package huts\n"+strings.Repeat("\n", 60)+"func far() { other() }\n"), 0o644))
	p.ws.Code.Refresh(t.Context())
	p.see("[other.go 1]").press("space", "=long.go", "enter").see("[long.go 1]").press("]").see("line 62")
	p.see("── [long.go 1]")
	p.model.stays()
	p.see("long.go 1 ── [far 62]").press("j")
	p.model.stays()
	p.see("long.go 1 ── [far 62]").press("b").see("[long.go 1]")
}

// When the file changes on disk the caret stays with its line.
func TestTheCaretFollowsItsLine(t *testing.T) {
	p, root, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]", "measure").press("j", "m").see("line 9")
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte("// Huts.\n\n"+hutCode), 0o644))
	p.ws.Code.RefreshFiles(t.Context(), []string{"hut.go"})
	p.see("line 11 column", "⚑  11")
}

// A bookmark that is set before those of earlier are read is there once, though it is read with them.
func TestABookmarkSetBeforeTheOthersAreRead(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 8, Col: 14})
	p.see("[hut.go 8]").press("m").see("is in the list").until(func(string) bool { lists, err := p.ws.Lists.Bookmarks(); return err == nil && len(lists) == 1 }, "kept")
	p.take(p.model.marks.Load())
	assert.Len(t, p.model.marks.All(), 1)
	p.press(";").see("bookmarks  1 of 1")
}

// The same holds for a sweep, and what was copied is not written over what had been copied before.
func TestWhatIsMadeBeforeThatOfEarlierIsRead(t *testing.T) {
	p, _, _ := tarn(t, place.Place{Path: "hut.go", Line: 14, Col: 7})
	p.see("[hut.go 14]").press("r").see("references of read").press("alt+k").see("kept as the sweep").until(func(string) bool { all, err := p.ws.Lists.Sweeps(); return err == nil && len(all) == 1 }, "kept")
	p.take(p.model.sweeps.Load(place.Place{}))
	p.press("W", "s").see("1 of 1")
}
