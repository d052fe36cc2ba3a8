package overlook

import (
	"strings"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
)

const prompt = "  overlook  "

// Rows implements surface.Surface.
func (s *Surface) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	if s.picture == nil {
		return nil
	}
	rows := []string{s.head(p)}
	w, h := s.window()
	s.bound()
	cells := s.picture.Cells(draw.Frame{X: s.view.X, Y: s.view.Y, W: w - s.indent(), H: h}, s.at)
	foot := s.picture.Foot()
	for y, row := range cells {
		r := ink.NewRow(s.Width).Put(strings.Repeat(" ", 1+s.indent()), quiet)
		if n := s.view.Y + y - s.picture.Height - 1; n >= 0 && n < len(foot) && s.view.Y+y > s.picture.Height {
			r.Put(ink.Cut(foot[n], max(r.Left()-1, 0)), quiet)
		} else {
			s.put(r, row, p)
		}
		rows = append(rows, r.String(quiet))
	}
	name, rest := s.info()
	r := ink.NewRow(s.Width).Put("  "+text.Visible(name), palette.On(p.Text, p.Sheet).Strong()).Put("  ", quiet)
	rows = append(rows, r.Put(ink.Cut(text.Visible(rest), max(r.Left()-1, 0)), quiet).String(quiet))
	return append(rows, sheet.Edge(s.Width, [][2]string{
		keymap.Hint(keymap.Ends.Take, "go there"), keymap.Hint(on.Along, "along a line"), keymap.Hint(on.Behind, "open, close"), keymap.Both(on.More, on.Less, "depth"),
		keymap.Both(on.Smaller, on.Larger, "size"), keymap.Hint(on.Other, "other drawings"), keymap.Hint(on.Hand, "to a file"), keymap.Hint(on.Tests, "tests"), keymap.Hint(on.Libraries, "libraries"), keymap.Hint(keymap.Ends.Close, "back"),
	}, p))
}

// head is the first row: what is drawn, or what is typed.
func (s *Surface) head(p *palette.Palette) string {
	quiet := palette.On(p.Quiet, p.Sheet)
	r := ink.NewRow(s.Width).Put(prompt, quiet)
	if s.typed != "" {
		return r.Put(ink.CutFront(s.typed, max(s.Width-len(prompt)-4, 4)), palette.On(p.Text, p.Sheet).Strong()).String(quiet)
	}
	r.Put(text.Visible(s.picture.Title), palette.On(p.Here, p.Sheet).Strong())
	words := "  " + sheet.Count(len(s.picture.Boxes), "box", "boxes")
	w, h := s.window()
	if fw, fh := s.full(); fw > w || fh > h {
		words += ", more " + strings.Join(s.beyond(fw, fh, w, h), ", ")
	}
	for _, note := range s.picture.Notes {
		words += "  " + strings.TrimSuffix(note, ".")
	}
	return r.Put(ink.Cut(text.Visible(words), max(r.Left()-1, 0)), quiet).String(quiet)
}

// indent is how far a picture that is narrower than the window is put in.
func (s *Surface) indent() int {
	w, _ := s.window()
	fw, _ := s.full()
	return max((w-fw)/2, 0)
}

// beyond says where the picture goes on outside of the window.
func (s *Surface) beyond(fw, fh, w, h int) (where []string) {
	for _, side := range []struct {
		there bool
		words string
	}{{s.view.X > 0, "left"}, {s.view.X+w < fw, "right"}, {s.view.Y > 0, "above"}, {s.view.Y+h < fh, "below"}} {
		if side.there {
			where = append(where, side.words)
		}
	}
	return where
}

// put draws a row of cells.
func (s *Surface) put(r *ink.Row, row []draw.Cell, p *palette.Palette) {
	for i := 0; i < len(row); {
		style := s.style(&row[i], p)
		var b strings.Builder
		for ; i < len(row) && s.style(&row[i], p) == style; i++ {
			b.WriteString(row[i].Text)
		}
		r.Put(b.String(), style)
	}
}

// style is how a cell looks.
func (s *Surface) style(c *draw.Cell, p *palette.Palette) ink.Style {
	ground := p.Sheet
	if c.Box >= 0 && c.Box == s.at {
		ground = p.Chosen
	}
	switch c.Part {
	case draw.OfLine:
		switch {
		case c.Lit:
			return palette.On(p.Way, ground).Strong()
		case c.Look == draw.Marked:
			return palette.On(p.Problem, ground)
		}
		return palette.On(p.Quiet, ground)
	case draw.Rule:
		return palette.On(p.Rule, ground)
	case draw.Heading:
		return palette.On(p.Quiet, ground).Strong()
	case draw.OfFrame:
		return palette.On(frameColor(c, c.Box == s.at, p), ground)
	case draw.Name:
		style := palette.On(p.Text, ground)
		if c.Look == draw.Faint {
			style = palette.On(p.Quiet, ground)
		}
		if c.Box == s.at || c.Look == draw.Present {
			style = style.Strong()
		}
		return style
	}
	return palette.On(p.Quiet, ground)
}

func frameColor(c *draw.Cell, chosen bool, p *palette.Palette) ink.Color {
	switch {
	case chosen:
		return p.Here
	case c.Look == draw.Present:
		return p.Here
	case c.Look == draw.Marked:
		return p.Problem
	case c.Look == draw.Edited:
		return p.Edit
	}
	return p.Quiet
}
