package draw

import (
	"fmt"
	"io"
	"slices"
	"time"

	"codeberg.org/go-fonts/dejavu/dejavusansmono"
	"codeberg.org/go-fonts/dejavu/dejavusansmonobold"
	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/sfnt"

	"rooktrail/internal/core/file/text"
)

// longest is how long a side of a page may be, in points; what is larger is made smaller as a whole.
const longest = 14400

// pdf writes PDF, on one page that is as large as the drawing. Its font is in the file.
func (f *file) pdf(to io.Writer) error {
	scale := min(1, longest/max(f.width, f.height))
	w, h := f.width*scale, f.height*scale
	doc := fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: w, Ht: h}})
	doc.SetCreationDate(time.Unix(0, 0)) // the same drawing is the same file
	doc.SetModificationDate(time.Unix(0, 0))
	doc.SetCatalogSort(true)
	doc.SetTitle(f.title, true)
	doc.SetMargins(0, 0, 0)
	doc.SetAutoPageBreak(false, 0)
	doc.AddUTF8FontFromBytes("mono", "", slices.Clone(dejavusansmono.TTF))
	doc.AddUTF8FontFromBytes("mono", "B", slices.Clone(dejavusansmonobold.TTF))
	orientation := "P"
	if w > h {
		orientation = "L"
	}
	doc.AddPageFormat(orientation, fpdf.SizeType{Wd: min(w, h), Ht: max(w, h)})
	c := &page{doc: doc, scale: scale}
	c.rect(spot{}, f.width, f.height, 0, &f.theme.Ground, nil)
	f.draw(c)
	if err := doc.Output(to); err != nil {
		return fmt.Errorf("writing the drawing as PDF: %w", err)
	}
	return nil
}

// page is a canvas that writes PDF.
type page struct {
	doc   *fpdf.Fpdf
	scale float64
	font  *sfnt.Font
	sfnt  sfnt.Buffer
}

func (c *page) pencil(p pencil) {
	c.doc.SetDrawColor(p.color.parts())
	c.doc.SetLineWidth(p.width * c.scale)
	if p.dash {
		c.doc.SetDashPattern([]float64{4 * c.scale, 3 * c.scale}, 0)
	} else {
		c.doc.SetDashPattern(nil, 0)
	}
}

func (c *page) rect(at spot, w, h, radius float64, fill *Color, line *pencil) {
	style := ""
	if fill != nil {
		c.doc.SetFillColor(fill.parts())
		style += "F"
	}
	if line != nil {
		c.pencil(*line)
		style += "D"
	}
	k := c.scale
	c.doc.RoundedRect(at.x*k, at.y*k, w*k, h*k, radius*k, "1234", style)
}

func (c *page) way(points []spot, p pencil) {
	c.pencil(p)
	k := c.scale
	c.doc.MoveTo(points[0].x*k, points[0].y*k)
	for i := 1; i < len(points); i++ {
		at := points[i]
		if i == len(points)-1 {
			c.doc.LineTo(at.x*k, at.y*k)
			break
		}
		a, b := towards(at, points[i-1]), towards(at, points[i+1])
		c.doc.LineTo(a.x*k, a.y*k)
		c.doc.CurveTo(at.x*k, at.y*k, b.x*k, b.y*k)
	}
	c.doc.DrawPath("D")
}

func (c *page) shape(points []spot, fill Color) {
	c.doc.SetFillColor(fill.parts())
	all := make([]fpdf.PointType, len(points))
	for i, p := range points {
		all[i] = fpdf.PointType{X: p.x * c.scale, Y: p.y * c.scale}
	}
	c.doc.Polygon(all, "F")
}

func (c *page) text(at spot, s string, w writing) {
	style := ""
	if w.bold {
		style = "B"
	}
	c.doc.SetFont("mono", style, letterSize*w.scale*c.scale)
	c.doc.SetTextColor(w.color.parts())
	put := func(col int, s string) {
		c.doc.Text((at.x+float64(col)*cellWidth*w.scale)*c.scale, at.y*c.scale, s)
	}
	start, from := 0, 0 // what is written as it is, up to the next letter that is wide or not in the font
	text.Cells([]byte(s), text.Cell{}, func(cell text.Cell) bool {
		if cell.Width == 1 && c.has(cell.Text) {
			return true
		}
		if cell.Offset > start {
			put(from, s[start:cell.Offset])
		}
		put(cell.Col, c.written(cell.Text))
		start, from = cell.Offset+len(cell.Text), cell.Col+cell.Width
		return true
	})
	if start < len(s) {
		put(from, s[start:])
	}
}

// has says whether the font has letters.
func (c *page) has(s string) bool {
	if c.font == nil {
		f, err := sfnt.Parse(dejavusansmono.TTF)
		if err != nil {
			return false
		}
		c.font = f
	}
	for _, r := range s {
		if i, err := c.font.GlyphIndex(&c.sfnt, r); err != nil || i == 0 {
			return false
		}
	}
	return true
}

// absent stands for a letter that the font does not have.
const absent = "▯"

func (c *page) written(s string) string {
	if c.has(s) {
		return s
	}
	return absent
}

func (c *page) within(at spot, w, h float64, link, _ string, draw func()) {
	draw()
	if link != "" {
		c.doc.LinkString(at.x*c.scale, at.y*c.scale, w*c.scale, h*c.scale, link)
	}
}

// Lacking are the letters of a picture that its PDF shows as ▯, since the font does not have them.
func (p *Picture) Lacking() (n int) {
	c, seen := &page{}, map[string]bool{}
	for _, lines := range p.Texts {
		for _, line := range lines {
			text.Cells([]byte(line), text.Cell{}, func(cell text.Cell) bool {
				if !seen[cell.Text] {
					seen[cell.Text] = true
					if !c.has(cell.Text) {
						n++
					}
				}
				return true
			})
		}
	}
	return n
}
