package outline

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/surface"
)

// Surface is the outline of the file on the screen, over the code.
type Surface struct {
	surface.Size
	host  surface.Host
	knows Knows
	asker *surface.Asker
	list  *Model
	path  string // of the file
	// Said gives what else is known of the entries of a file, by where they begin and end; nil for nothing.
	Said func(f *codebase.File) func(at, end uint32) string
}

// Knows is what is asked about a file.
type Knows interface {
	// WrittenOut are, of the functions that a file only declares, the places where they are written out, by the offsets at
	// which they are declared.
	WrittenOut(ctx context.Context, path string) map[uint32]answer.Answer
}

// NewSurface makes one.
func NewSurface(host surface.Host, knows Knows) *Surface {
	s := &Surface{host: host, knows: knows, list: New()}
	s.asker = host.Asker(s)
	return s
}

// Commands are what opens the outline.
func (s *Surface) Commands() surface.Commands { return surface.Commands{keymap.Outline: s.open} }

func (s *Surface) open() surface.Intent {
	here := s.host.Here()
	if here.File == nil {
		return surface.Say("no file is shown whose outline there could be")
	}
	s.path = here.File.Path
	if s.list.said = nil; s.Said != nil {
		s.list.said = s.Said(here.File)
	}
	s.list.Open(here.File, here.Offset, s.Height)
	path, knows := s.path, s.knows
	return surface.Intent{Open: s}.And(surface.Begin(surface.Ask(s.asker, func(ctx context.Context) map[uint32]answer.Answer {
		return knows.WrittenOut(ctx, path)
	}, func(found map[uint32]answer.Answer) surface.Intent {
		s.list.written = found
		return surface.Intent{}
	})))
}

// Closed implements surface.Surface.
func (s *Surface) Closed() { s.asker.Cancel() }

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	event := s.list.Update(msg)
	e, ok := s.list.Chosen()
	switch {
	case event == picker.Closed:
		return surface.Close()
	case event == picker.Selected && ok:
		return surface.Look(surface.Visit{Path: s.path, Name: e.At, Near: true})
	case event == picker.Selected:
		return surface.LookBack()
	case event == picker.Taken:
		return surface.Go(surface.Visit{Path: s.path, Name: e.At, How: "outline: " + e.Name, Symbol: e.Name})
	}
	return surface.Intent{}
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.list.Resize(height)
}

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.list.Rows(s.Width, p) }

// Cursor implements surface.Surface.
func (s *Surface) Cursor() (x, y int, ok bool) { return s.list.Cursor(s.Width), 0, true }
