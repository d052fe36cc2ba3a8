// Package listkeys is what can be done in the list that lies over the code, found by what it does.
package listkeys

import (
	"slices"
	"strings"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/know/lexicon"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Surface lies over a list and names its keys.
type Surface struct {
	surface.Size
	under   surface.Surface
	name    string
	keys    []key.Binding
	lexicon *lexicon.Lexicon
	input   entry.Line
	list    sheet.Model
}

// Over has it be about the keys of a list.
func (s *Surface) Over(under surface.Surface) {
	s.under, s.input = under, entry.New()
	s.name, s.keys = under.Keys()
	s.lexicon = Lexicon(s.keys)
	s.list = sheet.Model{}
	s.list.Set(s.sections(), 0)
}

// Lexicon finds keys by what they do, and what the letters in them stand for.
func Lexicon(keys []key.Binding) *lexicon.Lexicon {
	entries := make([]lexicon.Entry, len(keys))
	for i, b := range keys {
		entries[i].Title = b.Help().Desc
		for _, l := range keymap.AllLetters() {
			if slices.Contains(b.Keys(), "alt+"+l.Key) {
				entries[i].Phrases = append(entries[i].Phrases, strings.Split(l.Means, ", ")...)
			}
		}
	}
	return lexicon.New(entries)
}

// on are the keys that only this surface has.
var on = struct{ Take, Close key.Binding }{keymap.On("do it", "enter"), keymap.On("back to the list", "esc")}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) {
	return "keys of a list", keymap.Of(on, keymap.Moves)
}

// Form implements surface.Surface: that of the list, which it hides.
func (s *Surface) Form() surface.Form {
	if s.under == nil {
		return surface.Sheet
	}
	switch form := s.under.Form(); form {
	case surface.Line, surface.Seek:
		return surface.Sheet
	default:
		return form
	}
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, _ := msg.(tea.KeyPressMsg)
	name := k.String()
	if rows, ok := keymap.Step(name, max(s.Height-edges, 1), s.list.Len()); ok {
		s.list.Move(rows)
		return surface.Intent{}
	}
	switch {
	case keymap.Is(name, on.Close):
		return surface.Intent{Uncover: true}
	case keymap.Is(name, on.Take):
		row, _, ok := s.list.Chosen()
		if !ok {
			return surface.Intent{}
		}
		return surface.Intent{Uncover: true, Press: row.Value.(string)}
	case s.input.Edit(msg):
		s.list.Set(s.sections(), 0)
	}
	return surface.Intent{}
}

// sections are the keys that what is typed leaves.
func (s *Surface) sections() []sheet.Section {
	var rows []sheet.Row
	add := func(i int, at []int) {
		b := s.keys[i]
		rows = append(rows, sheet.Row{What: b.Help().Key, Name: b.Help().Desc, At: at, Value: b.Keys()[0]})
	}
	if typed := s.input.Value(); typed != "" {
		for _, h := range s.lexicon.Find(typed) {
			add(h.Index, h.At)
		}
	} else {
		for i := range s.keys {
			add(i, nil)
		}
	}
	return []sheet.Section{{Title: s.name, Note: sheet.Number(len(rows)) + " of " + sheet.Count(len(s.keys), "key", "keys"), Rows: rows}}
}

const (
	prompt = "  to do here  "
	edges  = 2
)

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	typed, _ := s.input.Behind(prompt, s.Width)
	r := ink.NewRow(s.Width).Put(prompt, palette.On(p.Here, p.Sheet).Strong()).Put(typed, palette.On(p.Text, p.Sheet).Strong())
	rows := append([]string{r.String(quiet)}, s.list.Rows(s.Width, max(s.Height-edges, 1), p)...)
	return append(rows, sheet.Edge(s.Width, [][2]string{keymap.Hint(on.Take), keymap.Both(keymap.Moves.Up, keymap.Moves.Down, "choose"), keymap.Hint(on.Close)}, p))
}

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) {
	_, x = s.input.Behind(prompt, s.Width)
	return x, 0, true
}
