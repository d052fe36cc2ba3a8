package app

import (
	"testing"

	"rooktrail/internal/core/place"
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
	p.see("value  never set again").press("t").see("the type of Name belongs to Go itself")
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
