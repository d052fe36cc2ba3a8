// Package firststart is what somebody sees who has never used the program: a few keys, one line each. Any key
// goes on, and does what it does.
package firststart

import (
	"time"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Surface is the sheet.
type Surface struct {
	surface.Size
	keys keymap.Map
	// first is the first key of two that was pressed; "" for none.
	first string
}

// Begin shows it to somebody who has never used the program, once; to others what comes then.
func Begin(habits *habit.Book, keys keymap.Map, then func() surface.Intent) surface.Intent {
	if !habits.IsNew() {
		return then()
	}
	habits.Did("first-start", false, time.Now())
	return surface.Intent{Open: New(keys)}
}

// New makes one that names the keys of a key map.
func New(keys keymap.Map) *Surface { return &Surface{keys: keys} }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return surface.Intent{} // nothing is typed here
	}
	name := k.String()
	if s.first != "" {
		name = s.first + " " + name
	} else if s.keys.Begins(name) {
		s.first = name
		return surface.Intent{}
	}
	todo := surface.Close()
	if action, ok := s.keys.Of(name); ok && !keymap.IsAny(k.String(), keymap.Ends.Take, keymap.Ends.Close) {
		todo.Then = func() surface.Intent { return surface.Intent{Do: action} }
	}
	return todo
}

// lines say what the keys do.
func (s *Surface) lines() [][2]string {
	return [][2]string{
		{s.keys.Key(keymap.Scout), "finds files, symbols, text, and all commands by what you say"},
		{s.keys.Key(keymap.Definition) + " " + s.keys.Key(keymap.Back), "to the definition of the name under the caret, and back"},
		{s.keys.Key(keymap.AllWays), "where one can go from there: references, calls, types, tests"},
		{s.keys.Key(keymap.Keys) + " " + s.keys.Key(keymap.Quit), "shows all keys; leaves the program"},
	}
}

// Lines implements surface.Short.
func (s *Surface) Lines() int { return len(s.lines()) + 3 }

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet, text, way := palette.On(p.Quiet, p.Sheet), palette.On(p.Text, p.Sheet), palette.On(p.Way, p.Sheet).Strong()
	rows := []string{ink.NewRow(s.Width).To(2, quiet).Put("Here for the first time? These keys are enough to begin with.", text.Strong()).String(quiet), ink.NewRow(s.Width).String(quiet)}
	for _, l := range s.lines() {
		r := ink.NewRow(s.Width).To(4, quiet).Put(l[0], way).To(16, quiet)
		rows = append(rows, r.Put(ink.Cut(l[1], max(s.Width-18, 10)), text).String(quiet))
	}
	if s.first != "" {
		return append(rows, s.keys.PrefixRow(s.first, false, s.Width, p))
	}
	return append(rows, sheet.Edge(s.Width, [][2]string{{"any key", "goes on, and does what it does"}}, p))
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "first start", keymap.Of(keymap.Ends)
}
