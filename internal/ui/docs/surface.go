package docs

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

// Describer knows what there is to know about names; see package workspace.
type Describer interface {
	Describe(ctx context.Context, path string, offset int) answer.Description
	CallAround(ctx context.Context, f *codebase.File, offset int) (answer.Call, bool)
	Load(ctx context.Context, path string) (*codebase.File, error)
}

// Surface is the sheet over the code.
type Surface struct {
	surface.Size
	host  surface.Host
	knows Describer
	page  Model
	about answer.Description
}

// NewSurface makes one.
func NewSurface(host surface.Host, knows Describer) *Surface {
	return &Surface{host: host, knows: knows}
}

// Commands are what opens the sheet.
func (s *Surface) Commands() surface.Commands { return surface.Commands{keymap.Docs: s.ask} }

// answer is the page about what is under the caret; nil if there is none.
type reply struct {
	page  *Page
	about answer.Description
}

// ask reads what there is to know about the name under the caret; without a
// name, about the call around it, or else about what the caret is inside of.
func (s *Surface) ask() surface.Intent {
	here := s.host.Here()
	if here.File == nil || here.File.Facts == nil {
		return here.Lack("no documentation is known of what is in this file")
	}
	return surface.Begin(surface.Ask(s.host.Way(), func(ctx context.Context) reply { return s.read(ctx, here) }, s.show))
}

func (s *Surface) read(ctx context.Context, here surface.Here) reply {
	f := here.File
	d := s.knows.Describe(ctx, f.Path, here.Offset)
	var around *Page
	if call, ok := s.knows.CallAround(ctx, f, here.Offset); ok {
		around = Call(ctx, &call)
		if d.Candidates == 0 {
			return reply{around, call.Description}
		}
	}
	if n := len(here.Crumbs); d.Name == "" && n > 0 {
		d = s.knows.Describe(ctx, f.Path, int(here.Crumbs[n-1].At.Start))
	}
	if d.Candidates == 0 {
		return reply{about: d}
	}
	language := ""
	if in, err := s.knows.Load(ctx, d.Best.Path); err == nil && in.Facts != nil {
		language = in.Facts.Language
	}
	return reply{Symbol(ctx, &d, language).Within(around), d}
}

func (s *Surface) show(a reply) surface.Intent {
	switch d := &a.about; {
	case a.page != nil:
		s.about = a.about
		s.page.Show(a.page, s.Height)
		return surface.Intent{Open: s}
	case d.Outside != "":
		return surface.Say("%s belongs to %s, which is outside this project", d.Name, d.Outside)
	case d.Name != "" && d.Unread:
		return surface.Say("nothing read so far defines %s; the project is still being read", d.Name)
	case d.Name != "":
		return surface.Say("nothing in this project defines %s", d.Name)
	}
	return surface.Say("there is no name here, and nothing around it has one")
}

// Update implements surface.Surface.
func (s *Surface) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return surface.Intent{} // nothing is typed here
	}
	switch s.page.Update(k) {
	case picker.Closed:
		return surface.Close()
	case picker.Taken:
		return surface.Go(surface.ToDefinition(s.about.Best))
	}
	return surface.Intent{}
}

// Resize implements surface.Surface.
func (s *Surface) Resize(width, height int) {
	s.Size.Resize(width, height)
	s.page.Resize(height)
}

// Lines implements surface.Short.
func (s *Surface) Lines() int { return s.page.Lines(s.Width) }

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string { return s.page.Rows(s.Width, p) }
