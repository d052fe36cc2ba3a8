package keyspage_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/keyspage"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func opened() *keyspage.Surface {
	s, _ := openedWith("")
	return s
}

// openedWith is the page with a file in which keys are kept.
func openedWith(file string) (*keyspage.Surface, keymap.Map) {
	m := keymap.Default()
	host := &uitest.Host{}
	s := keyspage.New(func() keymap.Map {
		_, keys := (&keyspage.Surface{}).Keys()
		return m.With("page of keys", keys)
	}, func() surface.Here {
		return surface.Here{View: trail.View{Place: place.Place{Path: "dispatch/roster.go"}}}
	}, &keyspage.Keeper{Keys: m, Own: &keymap.Owned{Keys: keymap.Own{}}, File: file, Queue: surface.NewQueue(host.Asker(nil))})
	s.Resize(120, 30)
	s.Commands()[keymap.Keys]()
	return s, m
}

func TestAllKeys(t *testing.T) {
	s := opened()
	first := uitest.Of(s, 120, 30)
	assert.Contains(t, first, "find a file, a symbol")
	assert.Contains(t, first, "scroll")
	uitest.Press(s, "end")
	last := uitest.Of(s, 120, 30)
	assert.NotEqual(t, first, last)
	uitest.Press(s, "up")
	assert.NotEqual(t, last, uitest.Of(s, 120, 30), "it does not scroll beyond the end")
	uitest.Press(s, "end")
	uitest.Of(s, 120, 400)
	assert.Contains(t, uitest.Of(s, 120, 400), "find a file, a symbol", "where there is room for all, all is there")
	assert.True(t, uitest.Last(uitest.Press(s, "?")).Close)
}

func TestLettersNarrowIt(t *testing.T) {
	s := opened()
	uitest.Press(s, "view, and on in")
	assert.Contains(t, uitest.Of(s, 120, 30), "go to the other view, and")
	assert.NotContains(t, uitest.Of(s, 120, 30), "find a file, a symbol")
	last := uitest.Last(uitest.Press(s, "enter"))
	assert.Equal(t, keymap.OtherSide, last.Do)
	assert.True(t, last.Close)
	assert.False(t, uitest.Last(uitest.Press(s, "esc")).Close, "Esc takes the letters first")
	assert.Contains(t, uitest.Of(s, 120, 30), "find a file, a symbol")
	uitest.Press(s, "zzqq")
	assert.Contains(t, uitest.Of(s, 120, 30), "no key does that")
	assert.False(t, uitest.Last(uitest.Press(s, "enter")).Close)
	uitest.Press(s, "esc", "what is chosen")
	assert.Equal(t, "Enter works in page of keys", uitest.Last(uitest.Press(s, "enter")).Say)
	uitest.Press(s, "esc")
	assert.True(t, uitest.Last(uitest.Press(s, "enter")).Close, "with nothing typed it only closes")
}

// What can be done here and now stands first, and is not found twice.
func TestHereAndNowStandsFirst(t *testing.T) {
	m := keymap.Default()
	here := slices.Clone(m[10:12])
	for i := range here {
		here[i].Group = keymap.HereAndNow + ": Assign"
	}
	s := keyspage.New(func() keymap.Map { return append(here, m...) }, func() surface.Here { return surface.Here{} }, &keyspage.Keeper{Keys: m, Own: &keymap.Owned{}})
	s.Resize(120, 30)
	s.Commands()[keymap.Keys]()
	page := uitest.Of(s, 120, 30)
	assert.Regexp(t, `(?s)^[^\n]*\n[^\n]*\n +here and now: Assign`, page)
	uitest.Press(s, "all ways from here")
	assert.Equal(t, 1, strings.Count(uitest.Of(s, 120, 30), "all ways from here, with their keys"))
}
