package draw

import (
	"bufio"
	"encoding/xml"
	"fmt"
	"io"
	"strconv"
	"strings"
)

// svg writes SVG. Its letters are text, with a width that holds whatever font there is.
func (f *file) svg(to io.Writer) error {
	w := bufio.NewWriter(to)
	s := &vector{w: w}
	fmt.Fprintf(w, `<svg xmlns="http://www.w3.org/2000/svg" width="%s" height="%s" viewBox="0 0 %[1]s %[2]s" font-family="'DejaVu Sans Mono', Menlo, Consolas, 'Liberation Mono', monospace" font-size="%s">`+"\n",
		number(f.width), number(f.height), number(letterSize))
	fmt.Fprintf(w, "<title>%s</title>\n", escaped(f.title))
	s.rect(spot{}, f.width, f.height, 0, &f.theme.Ground, nil)
	f.draw(s)
	fmt.Fprintln(w, "</svg>")
	if err := w.Flush(); err != nil {
		return fmt.Errorf("writing the drawing as SVG: %w", err)
	}
	return nil
}

// vector is a canvas that writes SVG.
type vector struct{ w *bufio.Writer }

func number(v float64) string { return strconv.FormatFloat(float64(int(v*100+0.5))/100, 'f', -1, 64) }

// escaped is a text as XML has it; what XML cannot have is left out.
func escaped(s string) string {
	var b strings.Builder
	if err := xml.EscapeText(&b, []byte(s)); err != nil {
		return ""
	}
	return b.String()
}

func (p *pencil) svg() string {
	if p == nil {
		return ""
	}
	out := fmt.Sprintf(` stroke="%s" stroke-width="%s"`, p.color, number(p.width))
	if p.dash {
		out += ` stroke-dasharray="4 3"`
	}
	return out
}

func (s *vector) rect(at spot, w, h, radius float64, fill *Color, line *pencil) {
	paint := "none"
	if fill != nil {
		paint = fill.String()
	}
	fmt.Fprintf(s.w, `<rect x="%s" y="%s" width="%s" height="%s" rx="%s" fill="%s"%s/>`+"\n", number(at.x), number(at.y), number(w), number(h), number(radius), paint, line.svg())
}

func (s *vector) way(points []spot, p pencil) {
	var d strings.Builder
	fmt.Fprintf(&d, "M%s %s", number(points[0].x), number(points[0].y))
	for i := 1; i < len(points); i++ {
		at := points[i]
		if i == len(points)-1 {
			fmt.Fprintf(&d, "L%s %s", number(at.x), number(at.y))
			break
		}
		a, b := towards(at, points[i-1]), towards(at, points[i+1])
		fmt.Fprintf(&d, "L%s %sQ%s %s %s %s", number(a.x), number(a.y), number(at.x), number(at.y), number(b.x), number(b.y))
	}
	fmt.Fprintf(s.w, `<path d="%s" fill="none"%s/>`+"\n", d.String(), p.svg())
}

// bend is how round corners of lines are.
const bend = 4.0

// towards is a point a little from one towards another.
func towards(from, to spot) spot {
	dx, dy := to.x-from.x, to.y-from.y
	long := max(dx, -dx) + max(dy, -dy) // one of them is 0
	if long == 0 {
		return from
	}
	k := min(bend, long/2) / long
	return spot{from.x + dx*k, from.y + dy*k}
}

func (s *vector) shape(points []spot, fill Color) {
	var d strings.Builder
	for _, p := range points {
		fmt.Fprintf(&d, "%s,%s ", number(p.x), number(p.y))
	}
	fmt.Fprintf(s.w, `<polygon points="%s" fill="%s"/>`+"\n", strings.TrimSpace(d.String()), fill)
}

func (s *vector) text(at spot, words string, as writing) {
	bold, size := "", ""
	if as.bold {
		bold = ` font-weight="bold"`
	}
	if as.scale != 1 {
		size = fmt.Sprintf(` font-size="%s"`, number(letterSize*as.scale))
	}
	fmt.Fprintf(s.w, `<text x="%s" y="%s" fill="%s"%s%s textLength="%s" lengthAdjust="spacingAndGlyphs" xml:space="preserve">%s</text>`+"\n",
		number(at.x), number(at.y), as.color, bold, size, number(float64(CellsOf(words))*cellWidth*as.scale), escaped(words))
}

func (s *vector) within(_ spot, _, _ float64, link, title string, draw func()) {
	if link != "" {
		fmt.Fprintf(s.w, `<a href="%s">`, escaped(link))
	} else {
		fmt.Fprint(s.w, "<g>")
	}
	if title != "" {
		fmt.Fprintf(s.w, "<title>%s</title>", escaped(title))
	}
	draw()
	if link != "" {
		fmt.Fprintln(s.w, "</a>")
	} else {
		fmt.Fprintln(s.w, "</g>")
	}
}
