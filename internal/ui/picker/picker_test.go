package picker

import (
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/uitest"
)

// huts are what is picked from; the entries are their numbers.
var huts = []string{"Gauge", "Horn", "Mast", "Radio", "Siren"}

// open is a picker of the huts, of which some are shown while nothing is typed.
func open(chosen int, change func(*List)) *Model {
	var names fuzzy.Corpus
	for _, h := range huts {
		names.Add(h, 0)
	}
	l := List{Title: "huts", Names: &names, Shown: []int{0, 1, 2, 3}, Total: len(huts), Empty: "no hut is known",
		Row: func(entry int, at []int) sheet.Row {
			row := sheet.Row{Name: huts[entry], At: at}
			return row
		}}
	if change != nil {
		change(&l)
	}
	m := New()
	m.Open(l, chosen, 10)
	return &m
}

func press(m *Model, keys ...string) (last Event) {
	for _, k := range uitest.Keys(keys...) {
		last = m.Update(k)
	}
	return last
}

func shown(m *Model) string {
	return uitest.Text(m.Rows("find ", "type a name", 50, &palette.Palette{}))
}

func chosen(m *Model) string {
	entry, ok := m.Chosen()
	if !ok {
		return ""
	}
	return huts[entry]
}

func TestWhatIsShownWhileNothingIsTyped(t *testing.T) {
	m := open(2, nil)
	assert.Equal(t, "Mast", chosen(m))
	assert.Equal(t, []int{0, 1, 2, 3}, m.Entries())
	text := shown(m)
	assert.Contains(t, text, "find type a name")
	assert.Contains(t, text, "4 of 5")
	assert.NotContains(t, text, "Siren", "it is found by typing alone")
	assert.Equal(t, "Radio", chosen(open(9, nil)), "else the nearest before it")
}

func TestTyping(t *testing.T) {
	m := open(0, nil)
	assert.Equal(t, Selected, press(m, "r"))
	assert.Equal(t, "r", m.Typed())
	assert.ElementsMatch(t, []int{1, 3, 4}, m.Entries(), "also those that are not shown else")
	press(m, "s", "backspace", "a")
	assert.Equal(t, "Radio", chosen(m))
	assert.Equal(t, Selected, press(m, "x"))
	assert.Empty(t, chosen(m))
	assert.Contains(t, shown(m), "nothing here has these letters in this order")
	assert.Equal(t, Nothing, press(m, "enter"), "there is nothing to take")
	m.Clear()
	assert.Empty(t, m.Typed())
	assert.Equal(t, Selected, m.Update(tea.PasteMsg{Content: "Horn"}), "what is pasted is typed as well")
	assert.Equal(t, "Horn", chosen(m))
}

func TestChoosing(t *testing.T) {
	m := open(0, nil)
	assert.Equal(t, Selected, press(m, "down", "down"))
	assert.Equal(t, "Mast", chosen(m))
	press(m, "up")
	assert.Equal(t, "Horn", chosen(m))
	press(m, "pgdown")
	assert.Equal(t, "Radio", chosen(m))
	assert.Equal(t, Taken, press(m, "enter"))
	assert.Equal(t, Closed, press(m, "esc"))
}

func TestAnotherListKeepsWhatIsTyped(t *testing.T) {
	m := open(0, nil)
	press(m, "m", "a")
	l := m.of
	l.Holds = func(entry int) bool { return huts[entry] != "Mast" }
	m.Set(l, 0)
	assert.Equal(t, "ma", m.Typed())
	assert.Empty(t, m.Entries(), "what may not be found is not")
}

func TestGroups(t *testing.T) {
	m := open(0, func(l *List) {
		l.Note = "by height"
		l.Group = func(entry int) string { return []string{"valley", "valley", "ridge", "ridge", "ridge"}[entry] }
		l.Below = func(entry int) string { return "beneath " + huts[entry] }
	})
	m.Resize(14)
	text := shown(m)
	for _, words := range []string{"by height", "valley", "ridge", "beneath Horn"} {
		assert.Contains(t, text, words)
	}
	assert.Less(t, strings.Index(text, "valley"), strings.Index(text, "Gauge"))
	assert.Less(t, strings.Index(text, "Horn"), strings.Index(text, "ridge"))
	press(m, "h")
	assert.NotContains(t, shown(m), "ridge", "what matches is in the order of how well it does")
}

func TestAnEmptyList(t *testing.T) {
	m := open(0, func(l *List) { l.Shown, l.Names = nil, nil })
	assert.Empty(t, chosen(m))
	assert.Contains(t, shown(m), "no hut is known")
	assert.Equal(t, Nothing, press(m, "enter"))
	press(m, "h")
	assert.Empty(t, m.Entries(), "without names there is nothing to search")
}

func TestTheCaretIsWhereOneTypes(t *testing.T) {
	m := open(0, nil)
	assert.Equal(t, 5, m.Cursor("find ", 40))
	press(m, "h", "ü")
	assert.Equal(t, 7, m.Cursor("find ", 40))
	press(m, "left")
	assert.Equal(t, 6, m.Cursor("find ", 40))
}
