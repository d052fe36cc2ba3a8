package compare

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
)

// Surface is the sheet over the code.
type Surface struct {
	surface.Size
	sheet  *Model
	chosen func(regions []write.Region) surface.Intent
	left   func() surface.Intent
}

// NewSurface makes one.
func NewSurface() *Surface { return &Surface{sheet: New()} }

// Show shows the regions of a text, as Model.Open does. chosen is called with what is taken of each,
// and left if all is to stay as it is; the sheet is closed then.
func (s *Surface) Show(title, left, right string, base *text.Document, regions []write.Region, chosen func(regions []write.Region) surface.Intent, leave func() surface.Intent) surface.Intent {
	s.chosen, s.left = chosen, leave
	s.sheet.Open(title, left, right, base, regions, s.Height)
	return surface.Intent{Open: s}
}

// Form implements surface.Surface.
func (s *Surface) Form() surface.Form { return surface.Taller }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return surface.Intent{} // nothing is typed here
	}
	switch s.sheet.Key(k) {
	case Taken:
		regions := s.sheet.Regions()
		return surface.Intent{Close: true, Then: func() surface.Intent { return s.chosen(regions) }}
	case Closed:
		return surface.Intent{Close: true, Then: s.left}
	}
	return surface.Intent{}
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.sheet.Resize(height)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.sheet.Rows(s.Width, p) }
