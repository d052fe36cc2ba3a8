// Package askline asks something in the line above the strip.
package askline

import (
	"charm.land/bubbles/v2/key"
	"charm.land/bubbles/v2/textinput"
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
	input textinput.Model
	then  func(answer string) surface.Intent
}

// Ask asks something; value stands there as the answer to begin with.
func (s *Surface) Ask(words, value string, then func(answer string) surface.Intent) surface.Intent {
	s.words, s.input, s.then = "  "+words+" ", entry.New(), then
	s.input.SetValue(value)
	s.input.CursorEnd()
	return surface.Intent{Open: s}
}

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Line }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		switch {
		case keymap.Is(k.String(), keymap.Ends.Close):
			return surface.Close()
		case keymap.Is(k.String(), keymap.Ends.Take):
			answer, then := s.input.Value(), s.then
			return surface.Intent{Close: true, Then: func() surface.Intent { return then(answer) }}
		}
	}
	s.input, _ = s.input.Update(msg)
	return surface.Intent{}
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(s.Width).Put(s.words, palette.On(p.Here, p.Sheet).Strong())
	r.Put(ink.CutFront(s.input.Value(), max(r.Left()-24, 8)), palette.On(p.Text, p.Sheet).Strong())
	return []string{r.End("Enter does it  Esc not ", quiet, quiet).String(quiet)}
}

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) {
	value := []rune(s.input.Value())
	return ink.Width(s.words) + ink.Width(string(value[:min(s.input.Position(), len(value))])), 0, true
}

// Keys implements surface.Surface.
func (*Surface) Keys() (name string, all []key.Binding) { return "questions", keymap.Of(keymap.Ends) }
