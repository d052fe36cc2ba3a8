package app

import (
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
)

func TestOutlineShowsTheFileAsATree(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 9, Col: 2})
	p.see("line 9 column 2").press("o").see("outline  letters of a name", "roster.go  4 of 4   all but imports", "struct    Team", "field       Name", "▌  function  label")
	p.press("up").see("▌  function  assign", "line 6 column 6").press("up", "up").see("▌  struct    Team", "line 4 column 6")
	p.press("esc").see("line 9 column 2").until(func(v string) bool { return !strings.Contains(v, "outline") }, "closed")
	p.press("o", "=ass").see("▌  function  assign").press("enter").see("dispatch ▸ roster.go ▸ assign", "roster.go 9 ── [assign 6]")
	p.press("o", "tab").see("1 of 4   types").press("tab").see("2 of 4   functions and methods", "Tab fields and values")
	p.send(tea.KeyPressMsg{Code: 'z', Mod: tea.ModAlt})
	p.see("by name", "Alt+Z as in the file").press("=zzz").see("nothing here has these letters").press("esc").see("line 6 column 6")
}

func TestHopsMoveByMeaning(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 1})
	p.see("line 1 column 1").press("]").see("line 4 column 6").press("]", "]").see("line 8 column 6").press("]").see("there is no function or type further down")
	p.press("[").see("line 6 column 6").press("down", "down", "down").see("line 9").press("(").see("line 8 column 1").press(")").see("line 10 column 1")
	p.press("backspace").see("line 8 column 6").press("backspace").see("nothing is around this")
	p.press(",").see("roster.go imports nothing")
	p = begin(t, place.Place{Path: "dispatch/roster.go", Line: 8, Col: 11})
	p.see("line 8 column 11")
	p.send(tea.KeyPressMsg{Code: '=', Text: "="})
	p.see("line 8 column 18")
}

func TestFindingInTheFile(t *testing.T) {
	p := begin(t, place.Place{Path: "dispatch/roster.go", Line: 6, Col: 6})
	p.see("line 6 column 6").press("/").see("look for", "Alt+I takes the word under the caret").press("=team").see("3 of 4 places", "line 6 column 15")
	p.press("down").see("4 of 4 places", "line 8").press("down").see("1 of 4 places", "line 3").press("up").see("line 8 column 14")
	p.press("esc").see("line 6 column 6").until(func(v string) bool { return !strings.Contains(v, "look for") }, "closed")

	p.press("/", "alt+i").see("look for  assign", "1 of 1 place").press("esc")
	p.press("/", "=team", "enter").see("3 of 4 places; n and p go on").press("n").see("4 of 4 places", "line 8")
	p.press("n").see("1 of 4 places, from the beginning again", "line 3").press("p").see("from the end again", "line 8")
	p.press("esc", "n").see("nothing to go through: / finds in this file")
	p.press("/", "=nowhere").see("it is not in this file").press("enter").see("nothing was found")
	p.press("/")
	p.send(tea.KeyPressMsg{Code: 'x', Mod: tea.ModAlt})
	p.press("=(").see("does not compile", "regexp: on").press("esc")
	assert.Nil(t, p.model.over)
}
