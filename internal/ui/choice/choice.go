// Package choice is a short list to choose from: the ways at a fork, the definitions that share a
// name, what can be done with a text.
package choice

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Row is one of those to choose from.
type Row struct {
	sheet.Row
	// Look is what to show beneath while it is chosen; nil for nothing.
	Look *surface.Visit
	// Take is what is to be done when it is taken, after the list is closed. If it is nil, Look is gone
	// to, or else the list is only closed.
	Take func() surface.Intent
}

// Surface is the list.
type Surface struct {
	surface.Size
	title, enter string
	rows         []Row
	list         sheet.Model
	// Round is a key that goes to the next row, and from the last to the first; "" for none.
	Round string
	// Left says what is to be done when the list is closed without taking any; nil for nothing.
	Left func() surface.Intent
}

// Open shows a list; enter says what Enter does, for the foot line.
func (s *Surface) Open(title, enter string, rows []Row) surface.Intent {
	s.title, s.enter, s.rows, s.Left = title, enter, rows, nil
	shown := make([]sheet.Row, len(rows))
	for i := range rows {
		shown[i] = rows[i].Row
	}
	s.list.Set([]sheet.Section{{Rows: shown}}, 0)
	return surface.Intent{Open: s}.And(s.selected())
}

// Move goes up or down by rows.
func (s *Surface) Move(rows int) { s.list.Move(rows) }

func (s *Surface) chosen() (row Row, ok bool) {
	_, i, ok := s.list.Chosen()
	if !ok {
		return Row{}, false
	}
	return s.rows[i], true
}

// selected shows the place of the chosen row beneath, if it has one.
func (s *Surface) selected() surface.Intent {
	if row, ok := s.chosen(); ok && row.Look != nil {
		return surface.Look(*row.Look)
	}
	return surface.Intent{}
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return surface.Intent{} // nothing is typed here
	}
	switch name := k.String(); {
	case keymap.Is(name, on.Close):
		todo := surface.Close()
		if s.Left != nil {
			todo = todo.And(s.Left())
		}
		return todo
	case s.Round != "" && name == s.Round:
		s.list.Wrap()
	case keymap.Is(name, on.Up):
		s.list.Move(-1)
	case keymap.Is(name, on.Down):
		s.list.Move(1)
	case keymap.Is(name, on.PageUp):
		s.list.Move(-s.Height + 3)
	case keymap.Is(name, on.PageDown):
		s.list.Move(s.Height - 3)
	case keymap.Is(name, on.First):
		s.list.Move(-s.list.Len())
	case keymap.Is(name, on.Last):
		s.list.Move(s.list.Len())
	case keymap.Is(name, on.Take):
		row, _ := s.chosen()
		return take(row)
	default:
		for _, row := range s.rows {
			if row.Key == name && row.Take != nil {
				return take(row)
			}
		}
		return surface.Intent{}
	}
	return s.selected()
}

func take(row Row) surface.Intent {
	switch {
	case row.Take != nil:
		return surface.Intent{Close: true, Then: row.Take}
	case row.Look != nil:
		return surface.Go(*row.Look)
	}
	return surface.Close()
}

// Lines implements surface.Short.
func (s *Surface) Lines() int { return s.list.Lines() + 2 }

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	rows := []string{ink.NewRow(s.Width).Put("  "+s.title, palette.On(p.Text, p.Sheet).Strong()).String(quiet)}
	rows = append(rows, s.list.Rows(s.Width, min(s.list.Lines(), s.Height-2), p)...)
	return append(rows, sheet.Edge(s.Width, [][2]string{keymap.Hint(on.Take, s.enter), keymap.Both(on.Up, on.Down, "choose"), keymap.Hint(on.Close, "back as it was")}, p))
}
