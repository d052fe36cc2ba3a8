package draw

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/file/text"
)

// Format is what a drawing or chart is written as.
type Format string

// Formats.
const (
	SVG      Format = "svg"
	PDF      Format = "pdf"
	Text     Format = "text"
	Markdown Format = "markdown"
	DOT      Format = "dot"
	JSON     Format = "json"
)

// Formats are all of them.
var Formats = []Format{SVG, PDF, Text, Markdown, DOT, JSON}

// Ending is that of the names of files in a format, with its dot.
func (f Format) Ending() string {
	switch f {
	case Text:
		return ".txt"
	case Markdown:
		return ".md"
	}
	return "." + string(f)
}

// FormatOf finds a format by its name, or by that of a file in it.
func FormatOf(name string) (Format, error) {
	name = strings.ToLower(name)
	if name == "markdown" || name == "text" {
		return Format(name), nil
	}
	for _, f := range Formats {
		if strings.HasSuffix("."+strings.TrimPrefix(name, "."), f.Ending()) {
			return f, nil
		}
	}
	return "", fmt.Errorf("%q is no format that is written; there are svg, pdf, text, markdown, dot and json", name)
}

// Drawing is what can be written.
type Drawing interface {
	// Write writes it. Links says what places are linked to, in the formats that have links.
	Write(to io.Writer, as Format, theme *Theme, links Links) error
}

// Write implements Drawing.
func (p *Picture) Write(to io.Writer, as Format, theme *Theme, links Links) error {
	switch as {
	case SVG:
		return p.file(theme, links).svg(to)
	case PDF:
		return p.file(theme, links).pdf(to)
	case Text:
		return p.writeText(to)
	case Markdown:
		return p.writeMarkdown(to, links)
	case DOT:
		return p.writeDOT(to, links)
	case JSON:
		return p.writeJSON(to)
	}
	return fmt.Errorf("a drawing is not written as %q", as)
}

// writeText writes a picture in characters, with its title, legend and notes.
func (p *Picture) writeText(to io.Writer) error {
	w := bufio.NewWriter(to)
	if p.Title != "" {
		fmt.Fprintf(w, "%s\n\n", text.Visible(p.Title))
	}
	p.writeRows(w)
	for _, line := range p.Foot() {
		fmt.Fprintf(w, "\n%s", line)
	}
	if len(p.Foot()) > 0 {
		fmt.Fprintln(w)
	}
	return flushed(w, Text)
}

func flushed(w *bufio.Writer, as Format) error {
	if err := w.Flush(); err != nil {
		return fmt.Errorf("writing the drawing as %s: %w", as, err)
	}
	return nil
}

func (p *Picture) writeRows(w *bufio.Writer) {
	const at = 4096 // rows are drawn so many at a time
	for y := 0; y < p.Height; y += at {
		for _, row := range p.Cells(Frame{0, y, p.Width, min(at, p.Height-y)}, -1) {
			var b strings.Builder
			for _, c := range row {
				b.WriteString(c.Text)
			}
			fmt.Fprintln(w, strings.TrimRight(b.String(), " "))
		}
	}
}

// Foot are the lines that stand below a picture: what looks mean, and the notes.
func (p *Picture) Foot() (lines []string) {
	var legend []string
	for _, m := range p.Legend {
		sample := frames[m.Look][5] + " " + frames[m.Look][5]
		if m.Line {
			level := m.Look.strokes()[left|right]
			sample = level + level + "▶"
		}
		legend = append(legend, sample+" "+text.Visible(m.Words))
	}
	if len(legend) > 0 {
		lines = append(lines, strings.Join(legend, "   "))
	}
	for _, n := range p.Notes {
		lines = append(lines, text.Visible(n))
	}
	return lines
}

// writeMarkdown writes a picture as a section: the drawing, and its boxes and lines with their places as lists.
func (p *Picture) writeMarkdown(to io.Writer, links Links) error {
	w := bufio.NewWriter(to)
	fmt.Fprintf(w, "## %s\n\n```text\n", literal(p.Title))
	p.writeRows(w)
	fmt.Fprintln(w, "```")
	for _, line := range p.Foot() {
		fmt.Fprintf(w, "\n%s\n", literal(line))
	}
	fmt.Fprintln(w)
	after := make([][]string, len(p.Boxes))
	for _, l := range p.Lines {
		words := literal(text.Visible(p.Boxes[l.To].Name))
		if l.Label != "" {
			words += " (" + literal(l.Label) + ")"
		}
		after[l.From] = append(after[l.From], words)
	}
	for i := range p.Boxes {
		b := &p.Boxes[i]
		fmt.Fprintf(w, "- **%s**", literal(text.Visible(b.Name)))
		if b.Kind != "" {
			fmt.Fprintf(w, ", %s", literal(b.Kind))
		}
		switch at := b.At(); {
		case at != "" && links != nil && links(b.Place.Path, b.Place.Line) != "":
			fmt.Fprintf(w, ", [%s](<%s>)", literal(at), links(b.Place.Path, b.Place.Line))
		case at != "":
			fmt.Fprintf(w, ", %s", literal(at))
		}
		if len(after[i]) > 0 {
			fmt.Fprintf(w, " → %s", strings.Join(after[i], ", "))
		}
		fmt.Fprintln(w)
	}
	return flushed(w, Markdown)
}

var marks = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "`", "\\`", "[", `\[`, "]", `\]`, "<", `\<`, ">", `\>`, "|", `\|`, "#", `\#`)

// literal is a text that means itself in Markdown.
func literal(s string) string { return marks.Replace(s) }

// writeDOT writes the scene in the DOT language, for other programs to lay out.
func (p *Picture) writeDOT(to io.Writer, links Links) error {
	w := bufio.NewWriter(to)
	fmt.Fprintf(w, "digraph %s {\n\trankdir=%s;\n\tnode [shape=box];\n", quoted(p.Title), map[bool]string{true: "TB", false: "LR"}[p.Down])
	box := func(i int, indent string) {
		b := &p.Boxes[i]
		fmt.Fprintf(w, "%sn%d [label=%s", indent, i, quoted(strings.Join(p.Texts[i], "\n")))
		if at := b.At(); at != "" {
			fmt.Fprintf(w, ", tooltip=%s", quoted(at))
			if links != nil {
				fmt.Fprintf(w, ", URL=%s", quoted(links(b.Place.Path, b.Place.Line)))
			}
		}
		if style := map[Look]string{Present: "bold", Marked: "bold", Faint: "dashed", Indirect: "dashed"}[b.Look]; style != "" {
			fmt.Fprintf(w, ", style=%s", style)
		}
		fmt.Fprintln(w, "];")
	}
	for g, title := range p.Groups {
		fmt.Fprintf(w, "\tsubgraph cluster%d {\n\t\tlabel=%s;\n", g, quoted(title))
		for i := range p.Boxes {
			if p.Boxes[i].Group == g {
				box(i, "\t\t")
			}
		}
		fmt.Fprintln(w, "\t}")
	}
	for i := range p.Boxes {
		if g := p.Boxes[i].Group; g < 0 || g >= len(p.Groups) {
			box(i, "\t")
		}
	}
	for _, l := range p.Lines {
		fmt.Fprintf(w, "\tn%d -> n%d", l.From, l.To)
		var as []string
		if l.Label != "" {
			as = append(as, "label="+quoted(l.Label))
		}
		if style := map[Look]string{Marked: "bold", Faint: "dashed", Indirect: "dashed"}[l.Look]; style != "" {
			as = append(as, "style="+style)
		}
		if len(as) > 0 {
			fmt.Fprintf(w, " [%s]", strings.Join(as, ", "))
		}
		fmt.Fprintln(w, ";")
	}
	fmt.Fprintln(w, "}")
	return flushed(w, DOT)
}

// quoted is a text as DOT has it.
func quoted(s string) string {
	return `"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\r", "").Replace(s) + `"`
}

// jsonScene is a scene as it is written as JSON.
type jsonScene struct {
	Title  string     `json:"title"`
	Notes  []string   `json:"notes,omitempty"`
	Groups []string   `json:"groups,omitempty"`
	Floors []string   `json:"floors,omitempty"`
	Boxes  []jsonBox  `json:"boxes"`
	Lines  []jsonLine `json:"lines"`
}

type jsonBox struct {
	Name    string   `json:"name"`
	Kind    string   `json:"kind,omitempty"`
	Details []string `json:"details,omitempty"`
	Look    string   `json:"look,omitempty"`
	Badge   string   `json:"badge,omitempty"`
	Group   *int     `json:"group,omitempty"`
	Path    string   `json:"path,omitempty"`
	Line    int      `json:"line,omitempty"`
	Col     int      `json:"col,omitempty"`
	Hidden  int      `json:"hidden,omitempty"`
	X       int      `json:"x"`
	Y       int      `json:"y"`
	Width   int      `json:"width"`
	Height  int      `json:"height"`
}

type jsonLine struct {
	From  int      `json:"from"`
	To    int      `json:"to"`
	Look  string   `json:"look,omitempty"`
	Label string   `json:"label,omitempty"`
	Way   [][2]int `json:"way,omitempty"`
}

// String is a look by its name; "" for the usual one.
func (l Look) String() string {
	return [...]string{"", "present", "marked", "faint", "indirect", "edited"}[l]
}

func (p *Picture) writeJSON(to io.Writer) error {
	out := jsonScene{Title: p.Title, Notes: p.Notes, Groups: p.Groups, Boxes: []jsonBox{}, Lines: []jsonLine{}}
	for y := range slices.Max(append(slices.Collect(maps.Keys(p.Floors)), -1)) + 1 {
		out.Floors = append(out.Floors, p.Floors[y])
	}
	for i, b := range p.Boxes {
		f := p.Frames[i]
		j := jsonBox{Name: b.Name, Kind: b.Kind, Details: b.Details, Look: b.Look.String(), Badge: b.Badge, Path: b.Place.Path, Line: b.Place.Line, Col: b.Place.Col, Hidden: b.Hidden, X: f.X, Y: f.Y, Width: f.W, Height: f.H}
		if b.Group >= 0 && b.Group < len(p.Groups) {
			j.Group = &b.Group
		}
		out.Boxes = append(out.Boxes, j)
	}
	for i, l := range p.Lines {
		j := jsonLine{From: l.From, To: l.To, Look: l.Look.String(), Label: l.Label}
		for _, at := range p.Routes[i].Points {
			j.Way = append(j.Way, [2]int{at.X, at.Y})
		}
		out.Lines = append(out.Lines, j)
	}
	return writeJSON(to, out)
}

func writeJSON(to io.Writer, what any) error {
	e := json.NewEncoder(to)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(what); err != nil {
		return fmt.Errorf("writing the drawing as JSON: %w", err)
	}
	return nil
}

// PlaceLinks links places to files by a way from where the drawing is to the project, with the number of the line behind it.
func PlaceLinks(to string) Links {
	return func(path string, line int) string {
		if !strings.HasPrefix(path, "/") && to != "" && to != "." {
			path = strings.TrimSuffix(to, "/") + "/" + path
		}
		path = (&url.URL{Path: path}).String()
		if line > 0 {
			path += "#L" + strconv.Itoa(line)
		}
		return path
	}
}
