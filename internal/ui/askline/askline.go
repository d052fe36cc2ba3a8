// Package askline asks something in the line above the strip.
package askline

import (
	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
)

// Surface is the question.
type Surface struct {
	surface.Size
	words string
	input entry.Line
	then  func(answer string) surface.Intent
	// Left says what is to be done when it is not answered; nil for nothing.
	Left func() surface.Intent
}

// Ask asks something; value stands there as the answer to begin with.
func (s *Surface) Ask(words, value string, then func(answer string) surface.Intent) surface.Intent {
	s.words, s.input, s.then, s.Left = "  "+words+" ", entry.New(), then, nil
	s.input.Put(value)
	return surface.Intent{Open: s}
}

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Line }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch {
		case keymap.Is(k.String(), keymap.Ends.Close):
			if s.Left != nil {
				return surface.Close().And(s.Left())
			}
			return surface.Close()
		case keymap.Is(k.String(), keymap.Ends.Take):
			answer, then := s.input.Value(), s.then
			return surface.Intent{Close: true, Then: func() surface.Intent { return then(answer) }}
		}
	}
	s.input.Edit(msg)
	return surface.Intent{}
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	typed, _ := s.input.Behind(s.words, s.Width-hintWidth)
	r := ink.NewRow(s.Width).Put(s.words, palette.On(p.Here, p.Sheet).Strong()).Put(typed, palette.On(p.Text, p.Sheet).Strong())
	return []string{r.End("Enter does it  Esc not ", quiet, quiet).String(quiet)}
}

// hintWidth is how many columns are for what the keys do, at the end of the line.
const hintWidth = 24

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) {
	_, x = s.input.Behind(s.words, s.Width-hintWidth)
	return x, 0, true
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "questions", keymap.Of(keymap.Ends) }
