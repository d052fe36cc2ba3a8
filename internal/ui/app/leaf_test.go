package app

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
)

const hutCode = `package huts

// Hut is a hut.
type Hut struct{ snow int }

// Report tells how it is.
func (h *Hut) Report() int {
	depth := h.measure()
	return depth
}

func (h *Hut) measure() int { return read(h.snow) }

func read(n int) int {
	if n > 9 {
		return read(n - 1)
	}
	return n
}

func all(huts []*Hut) (sum int) {
	for _, h := range huts {
		sum += h.Report()
	}
	return sum
}
`

// huts is a project in which one thing calls another.
func huts(t *testing.T) *program {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(hutCode), 0o644))
	return open(t, root, place.Place{Path: "hut.go", Line: 8, Col: 14}, "")
}

func lacks(text string) func(string) bool {
	return func(view string) bool { return !strings.Contains(view, text) }
}

// A leaf on a leaf, and back; the trail hears of nothing until one goes there.
func TestLeaves(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("D").see("definition of measure  hut.go", "Tab into it").see("line 8 column 14", "trail  [hut.go 8]")
	p.press("tab").see("in the leaf", "line 12 column 15", "to the code").press("end", "left", "left", "left", "left", "left", "left", "left", "left", "left", "left", "left")
	p.press("enter").see("definition of read", "leaf 2", "line 14 column 6", "trail  [hut.go 8]")
	p.press("enter").see("reference of read", "1 of 2", "leaf 3").press("}").see("2 of 2").press("{").see("1 of 2")
	p.press("b").see("definition of read", "leaf 2", "line 14 column 6").press("esc").see("definition of measure", "line 12").press("tab").see("line 8 column 14").until(lacks("in the leaf"), "the caret in the code")
	p.press("esc").until(lacks("definition of measure"), "no leaf")
	p.press("D").see("Tab into it").press("down").until(lacks("Tab into it"), "the leaf gone, since the caret moved on")
	p.press("up", "D").see("Tab into it").press("L", "p").see("stays while you read on").press("down", "down").see("line 10", "definition of measure", "pinned")
	p.press("D").see("there is no name").press("L", "L").see("[measure 12]", "line 12 column 15").press("b").see("[hut.go 10]")
	p.press("esc").until(lacks("Tab into it"), "no leaf").press("tab").see("nothing is laid beside the code")
}

// What does not belong into a leaf goes on from the code.
func TestALeafIsLeftForOtherThings(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("D", "tab").see("in the leaf").press("/", "=sum").see("1 of 3").until(lacks("in the leaf"), "the caret in the code").press("esc")
	p.see("line 8 column 14", "definition of measure").press("tab").see("in the leaf").press("X").see("what calls measure", "Hut.Report").press("esc").see("line 8 column 14")
	p.press("space").see("find ").press("esc").see("definition of measure", "line 8 column 14")
	p.press("tab").see("in the leaf").press("]").see("line 14 column 6").press("L", "L").see("[read 14]").press("b").see("[hut.go 8]", "line 8 column 14")
}

func TestLeavesOfNothing(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("I").see("nothing implements or overrides measure").press("T").see("the type of measure belongs to Go itself")
	p.press("home", "R").see("reference of depth").press("esc", "D").see("depth is defined here; R lays its references beside it")
}

func TestCallsAsATree(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("d").see("[measure 12]").press("]").see("line 14").press("X").see("what calls read", "+ Hut.measure", "+ read")
	p.press("right").see("– Hut.measure", "at ", "+ Hut.Report").press("down", "down", "right").see("– Hut.Report", "+ all").press("down", "down", "right").until(func(v string) bool { return strings.Count(v, "hut.go 23") == 2 }, "the call in all")
	p.press("=read").see("▌  function", "again: it is among those above it").press("esc", "tab").see("what read calls", "+ read").press("tab").see("what calls read")
	p.press("esc").see("line 14").until(lacks("what calls read"), "the tree gone")
	p.press("U").see("read is derived from nothing")
}

func TestValuesAsATree(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]", "measure").press("home", "v").see("where the value of depth comes from", "▌  initial   + depth := h.measure()", "where it goes to", "return depth")
	p.press("right").see("Hut.measure").press("down", "right").see("return read(h.snow)").press("down", "right").see("+ read").press("down", "right").see("return n")
	p.press("end", "right").see("sum += h.Report()").press("down", "enter").see("[all 23]")
}

func TestSweepingThroughAList(t *testing.T) {
	root, err := filepath.EvalSymlinks(t.TempDir())
	require.NoError(t, err)
	file := filepath.Join(root, "hut.go")
	require.NoError(t, os.WriteFile(file, []byte(hutCode), 0o644))
	state := filepath.Join(keptFolder(t), "state")
	p := open(t, root, place.Place{Path: "hut.go", Line: 4, Col: 6}, state)
	p.see("[hut.go 4]", "references  3").press("n").see("nothing to go through").press("r").see("references of Hut  3 of 3").press("alt+k").see(`kept as the sweep "references of Hut" with 3 places`, "sweep 3 to do")
	p.press("n").see("1 of 3, 3 to do in references of Hut", "[Report 7]").press("N").see("2 of 3, 2 to do", "line 12").press("W").see("done", "aside").press("d").see("set aside: 1 of 3 to do")
	p.press("W", "n").see("note on this place").press("=ask the warden", "enter").see("ask the warden").press("esc")
	p.press("n").see("3 of 3, 1 to do", "line 21").press("N").see("nothing is left to do in references of Hut").press("p").see("1 of 3, 0 to do, done").press("W", "v").see("not done after all: 1 of 3 to do")

	require.NoError(t, os.WriteFile(file, []byte(strings.Replace(hutCode, "func (h *Hut) measure", "// measure reads.\n\nfunc (h *Hut) measure", 1)), 0o644))
	p.press("W", "d").see("set aside: 0 of 3 to do").press("W", "W").see("set aside", "line 14").press("esc") // it has moved
	p.press("W", "a").see("0 new, 0 no longer among the answers")
	onDisk := func(holds func(all []*sweep.Sweep) bool) {
		t.Helper()
		require.Eventually(t, func() bool {
			all, err := p.ws.Lists.Sweeps()
			return err == nil && holds(all)
		}, 20*time.Second, 5*time.Millisecond)
	}
	onDisk(func(all []*sweep.Sweep) bool { return len(all) == 1 && all[0].Count().Aside == 2 })
	again := open(t, root, place.Place{Path: "hut.go"}, state)
	again.see("sweep 0 to do").press("W", "s").see("present", "0 of 3 to do").press("enter").see("done", "aside", "ask the warden").press("tab", "tab").see("only: set aside").press("alt+d").see("1 to do")
	again.press("esc", "n").see("2 of 3, 1 to do").press("W", "f").see("hut.go set aside").press("W", "f").see("hut.go brought back")
	assert.Equal(t, 2, left(again))
	again.press("W", "s", "alt+r", "=!", "enter").see("references of Hut!").press("alt+d").see("forget this sweep").press("alt+d").see("is forgotten")
	again.press("n").see("nothing to go through")
	onDisk(func(all []*sweep.Sweep) bool { return len(all) == 0 })
}

func TestListsThatNoNameAskedFor(t *testing.T) {
	p := huts(t)
	p.see("[hut.go 8]").press("W", "e").see("nothing differs from the last commit").press("W", "u").see("nothing refers to", "all").press("enter").see("[all 21]")
	p.press("space", "=sum", "alt+k").see(`kept as the sweep "text: sum" with 3 places`).press("n").see("1 of 3", "line 21")
	p.press("r").see("references of sum").press("alt+m").see("sum is mentioned nowhere else").press("esc")
}

func TestTheSignpostInItsSizes(t *testing.T) {
	p := huts(t)
	p.see("measure", "definition  hut.go 12", "[  before  Hut.Report 7", "]  next", "Hut.measure 12").press("V", "w").see("the signpost is narrow now").press("V", "w").see("the line above the trail").press("h").see("d hut.go 12")
	p.press("V", "w", "l").see("definition  hut.go 12")
}

func left(p *program) int {
	n, _ := p.model.sweeps.Left()
	return n
}
