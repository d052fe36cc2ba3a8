package app

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
)

func TestWaysFromTheSignpost(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 8, Col: 6})
	p.see("called from  1 function").see("label", "references  1 in 1 file", "it is defined here")
	p.press("r").see("[assign 6]") // the only one
	p.press("b").see("line 8 column 6").press("x").see("label calls nothing in this project")
	p.press("c").see("[assign 6]").press("b").see("line 8 column 6")
	p.press("a").see("ways from label", "references", "called from").press("r").see("[assign 6]")
	p.press("i").see("nothing implements or overrides label")
}

func TestEnterOnADefinitionGoesToItsReferences(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 4, Col: 6})
	p.see("references  2 in 1 file").press("enter").see("references of Team  2 of 2").see("dispatch/roster.go  2", "▌  type      func assign(t Team) string", "in label, line 8")
	p.press("down").see("line 8 column 14").press("enter").see("[label 8]").press("enter").see("line 4 column 6")
	p.press("d").see("Team is defined here")
}

func TestPlacesAreNarrowed(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 4, Col: 19})
	p.see("value  set nowhere else").press("t").see("the type of Name belongs to Go itself")
	p.press("r").see("[label 9]").press("b").see("line 4")
	q := begin(t, place.Place{Path: "dispatch/roster.go", Line: 4, Col: 6})
	before := q.see("references  2 in 1 file").view()
	q.press("r").see("references of Team  2 of 2").press("=return").see("1 of 2")
	q.press("backspace", "backspace", "backspace", "backspace", "backspace", "backspace").see("2 of 2").press("alt+t", "alt+t").see("no place is left")
	q.press("esc").until(func(view string) bool { return view == before }, "the screen as it was")
}

// The key for all ways may be pressed before the name under the caret is known.
func TestAllWaysAreThoseOfTheNameOneIsOn(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 8, Col: 6})
	p.see("called from  1 function").press("up", "up", "a").see("ways from assign").press("esc").see("line 6 column 6")
}

// What a list shows beneath stands well within what is in sight, and the signpost tells of it.
func TestWhatIsLookedAtIsShownAsIfOneWereThere(t *testing.T) {
	var b strings.Builder
	b.WriteString("package hut\n\nvar bell int\n")
	for i := range 60 {
		fmt.Fprintf(&b, "\nfunc ring%d() int {\n\treturn bell\n}\n", i)
	}
	root := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte(b.String()), 0o644))
	p := open(t, root, place.Place{Path: "hut.go", Line: 3, Col: 5}, "")
	p.see("references  60 in 1 file", "it is defined here").press("r").see("60 of 60")
	p.press("down", "down", "down", "down", "down", "down").see("line 30 column 9", "definition  hut.go 3", "before  ring6 29")
	first, last := p.model.frame.Code.Shown()
	assert.InDelta(t, first+(last-first)/3, 30, 2, "well within what is in sight")
	p.press("enter").see("[ring6 30]")
	top := p.model.frame.Code.State().Top

	p.press("o").see("outline").press("down")
	p.quiet(nil)
	assert.Equal(t, top, p.model.frame.Code.State().Top, "the outline does not scroll where it need not")
	p.press("esc").see("line 30 column 9")
}

// The list that one saw last comes back with one key, where one was in it, also after a restart, and n and p lead
// along its places without it.
func TestTheLastListAgain(t *testing.T) {
	root, state := t.TempDir(), filepath.Join(t.TempDir(), "state.json")
	root, err := filepath.EvalSymlinks(root)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(root, "hut.go"), []byte("package huts\n\nvar snow int\n\nfunc a() { snow = 1 }\n\nfunc b() { snow++ }\n\nfunc c() int { return snow }\n"), 0o600))
	p := open(t, root, place.Place{Path: "hut.go", Line: 3, Col: 5}, state)
	p.see("[hut.go 3]", "references  3").press("z").see("there was no list yet").press("r").see("references of snow  3 of 3").press("down", "enter").gone("letters of a file").see("line 7")
	p.press("n").see("3 of 3: references of snow", "line 9").press("n").see("this is the last of 3 places").press("p").see("2 of 3", "line 7")
	p.press("z").see("references of snow  3 of 3", "▌  ").press("enter").gone("letters of a file").see("line 7")
	p.press("w").see("WRITE").press("home", "=// new", "enter").see("line 8").press("esc").see("roam").press("p").see("1 of 3").press("n").see("2 of 3", "line 8 column 12")
	p.press("space", "=return snow").see("text  1").press("enter").gone("find  ").see("line 10").press("z").see("find  return snow", "text  1").press("esc")
	require.IsType(t, tea.QuitMsg{}, p.model.quit()())
	again := open(t, root, place.Place{}, state)
	again.see("hut.go").press("z").see("find  return")
}
