package draw

import (
	"bufio"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
)

// Chart is a number for each of some things.
type Chart struct {
	Title string
	// Unit is what the numbers count, such as lines.
	Unit string
	// Parts are what the parts of each bar are called; one for bars without parts.
	Parts []string
	Bars  []Bar
	Notes []string
	// AsMap draws areas instead of bars: each as large as its number.
	AsMap bool
}

// Bar is one of the things.
type Bar struct {
	Name, Where string
	// Values are its numbers, one for each part.
	Values []float64
	// Words is its number as it is read; "" for the number itself.
	Words string
	// Place is where it leads to; its path is "" if it leads nowhere.
	Place  place.Place
	Symbol string
}

// Total is the number of all parts of a bar.
func (b *Bar) Total() (t float64) {
	for _, v := range b.Values {
		t += v
	}
	return t
}

// Reads is the number of a bar as it is read.
func (b *Bar) Reads() string {
	if b.Words != "" {
		return b.Words
	}
	return reads(b.Total())
}

func reads(v float64) string {
	whole, part := math.Modf(math.Round(v*10) / 10)
	words := text.Number(int(whole))
	if part != 0 {
		words += strconv.FormatFloat(math.Abs(math.Round(part*10)/10), 'f', -1, 64)[1:]
	}
	return words
}

// Ticks are the numbers at an axis up to the highest value: some round ones, from 0 on.
func Ticks(highest float64, about int) (ticks []float64) {
	if highest <= 0 {
		return []float64{0, 1}
	}
	step := math.Pow(10, math.Floor(math.Log10(highest/float64(about))))
	for _, k := range []float64{2, 5, 10} {
		if highest/step <= float64(about) {
			break
		}
		if highest/(step*k) <= float64(about) || k == 10 {
			step *= k
			break
		}
	}
	for v := 0.0; ; v += step {
		ticks = append(ticks, math.Round(v*1e6)/1e6)
		if v >= highest {
			return ticks
		}
	}
}

// fills are what the parts of bars are drawn with, so that they can be told apart without colour.
var fills = []string{"█", "▒", "░", "▓", "╱", "╲"}

// Fill is what a part is drawn with in characters.
func Fill(part int) string { return fills[part%len(fills)] }

// Pieces are how many cells the parts of a bar take, if a highest one takes so many. What is more than nothing takes one.
func Pieces(values []float64, highest float64, cells int) []int {
	all, sum, at := make([]int, len(values)), 0.0, 0
	for i, v := range values {
		sum += v
		end := int(math.Round(sum / max(highest, math.SmallestNonzeroFloat64) * float64(cells)))
		if v > 0 && end <= at {
			end = at + 1
		}
		all[i] = max(end-at, 0)
		at = max(end, at)
	}
	return all
}

// Highest is the highest number of a bar.
func (c *Chart) Highest() (h float64) {
	for i := range c.Bars {
		h = max(h, c.Bars[i].Total())
	}
	return h
}

// label is how a bar is called at the axis.
func (b *Bar) label() string {
	if b.Where == "" {
		return text.Visible(b.Name)
	}
	return text.Visible(b.Name + "  " + b.Where)
}

// Write implements Drawing.
func (c *Chart) Write(to io.Writer, as Format, theme *Theme, links Links) error {
	switch as {
	case SVG:
		return c.file(theme, links).svg(to)
	case PDF:
		return c.file(theme, links).pdf(to)
	case Text:
		return c.writeText(to)
	case Markdown:
		return c.writeMarkdown(to, links)
	case JSON:
		return c.writeJSON(to)
	}
	return fmt.Errorf("a chart is not written as %s; there are svg, pdf, text, markdown and json", as)
}

// textWidth is how many cells the longest bar has in a text.
const textWidth = 48

func (c *Chart) writeText(to io.Writer) error {
	w := bufio.NewWriter(to)
	fmt.Fprintf(w, "%s\n\n", text.Visible(c.Title))
	c.writeBars(w)
	for _, line := range c.Foot() {
		fmt.Fprintf(w, "\n%s", line)
	}
	fmt.Fprintln(w)
	return flushed(w, Text)
}

func (c *Chart) writeBars(w *bufio.Writer) {
	if c.AsMap {
		for _, row := range c.Area(78, 24).Cells() {
			fmt.Fprintln(w, strings.TrimRight(row, " "))
		}
		return
	}
	wide, highest := 0, c.Highest()
	for i := range c.Bars {
		wide = max(wide, CellsOf(c.Bars[i].label()))
	}
	for i := range c.Bars {
		b := &c.Bars[i]
		fmt.Fprintf(w, "%s%s  %s %s\n", b.label(), strings.Repeat(" ", wide-CellsOf(b.label())), strings.Join(c.drawn(b, highest, textWidth), ""), b.Reads())
	}
}

// drawn are the parts of a bar in characters.
func (c *Chart) drawn(b *Bar, highest float64, cells int) (parts []string) {
	for i, n := range Pieces(b.Values, highest, cells) {
		parts = append(parts, strings.Repeat(Fill(i), n))
	}
	return parts
}

// Foot are the lines below a chart: what is counted, what the parts are, and the notes.
func (c *Chart) Foot() (lines []string) {
	line := "in " + c.Unit
	if len(c.Parts) > 1 && !c.AsMap {
		for i, p := range c.Parts {
			line += "   " + strings.Repeat(Fill(i), 2) + " " + p
		}
	}
	lines = append(lines, line)
	for _, n := range c.Notes {
		lines = append(lines, text.Visible(n))
	}
	return lines
}

func (c *Chart) writeMarkdown(to io.Writer, links Links) error {
	w := bufio.NewWriter(to)
	fmt.Fprintf(w, "## %s\n\n```text\n", literal(c.Title))
	c.writeBars(w)
	fmt.Fprintf(w, "```\n\n| | %s |", literal(c.Unit))
	for _, p := range c.Parts {
		if len(c.Parts) > 1 {
			fmt.Fprintf(w, " %s |", literal(p))
		}
	}
	columns := 2
	if len(c.Parts) > 1 {
		columns += len(c.Parts)
	}
	fmt.Fprintf(w, "\n%s|\n", strings.Repeat("|---", columns))
	for i := range c.Bars {
		b := &c.Bars[i]
		name := literal(b.label())
		if links != nil && b.Place.Path != "" {
			name = fmt.Sprintf("[%s](<%s>)", name, links(b.Place.Path, b.Place.Line))
		}
		fmt.Fprintf(w, "| %s | %s |", name, literal(b.Reads()))
		if len(c.Parts) > 1 {
			for _, v := range b.Values {
				fmt.Fprintf(w, " %s |", reads(v))
			}
		}
		fmt.Fprintln(w)
	}
	for _, n := range c.Notes {
		fmt.Fprintf(w, "\n%s\n", literal(text.Visible(n)))
	}
	return flushed(w, Markdown)
}

type jsonChart struct {
	Title string    `json:"title"`
	Unit  string    `json:"unit"`
	Parts []string  `json:"parts"`
	Notes []string  `json:"notes,omitempty"`
	Bars  []jsonBar `json:"bars"`
}

type jsonBar struct {
	Name   string    `json:"name"`
	Where  string    `json:"where,omitempty"`
	Values []float64 `json:"values"`
	Words  string    `json:"words"`
	Path   string    `json:"path,omitempty"`
	Line   int       `json:"line,omitempty"`
}

func (c *Chart) writeJSON(to io.Writer) error {
	out := jsonChart{Title: c.Title, Unit: c.Unit, Parts: c.Parts, Notes: c.Notes, Bars: []jsonBar{}}
	for i := range c.Bars {
		b := &c.Bars[i]
		out.Bars = append(out.Bars, jsonBar{b.Name, b.Where, b.Values, b.Reads(), b.Place.Path, b.Place.Line})
	}
	return writeJSON(to, out)
}

// Measures of a chart in a file, in points.
const (
	barLength = 420.0
	barStep   = 20.0
	barHigh   = 13.0
	mapWide   = 860.0
	mapHigh   = 520.0
)

// file is a chart as it is in a file.
func (c *Chart) file(theme *Theme, links Links) *file {
	if c.AsMap {
		return c.mapFile(theme, links)
	}
	wide := 0
	for i := range c.Bars {
		wide = max(wide, CellsOf(c.Bars[i].label()))
	}
	left := margin + float64(wide)*cellWidth + 12
	top := margin + 2.6*cellHeight
	bottom := top + float64(len(c.Bars))*barStep + 6
	foot := c.legend()
	width := left + barLength + 14*cellWidth + margin
	for _, line := range append(slices.Clone(c.Notes), c.Title+strings.Repeat(" ", CellsOf(c.Title)/3), foot) {
		width = max(width, 2*margin+float64(CellsOf(line))*cellWidth+6*cellWidth*float64(len(c.Parts)))
	}
	f := &file{title: c.Title, width: width, height: bottom + float64(len(c.Notes)+4)*cellHeight + margin, theme: theme}
	f.draw = func(cv canvas) {
		cv.text(spot{margin, margin + cellHeight}, c.Title, writing{theme.Text, true, 1.25})
		c.axis(cv, theme, left, top, bottom)
		c.bars(cv, theme, links, left, top)
		y := bottom + 2.6*cellHeight
		c.key(cv, theme, y)
		for i, n := range c.Notes {
			cv.text(spot{margin, y + float64(i+1)*cellHeight}, text.Visible(n), writing{theme.Quiet, false, 1})
		}
	}
	return f
}

// legend is what key writes, without its samples.
func (c *Chart) legend() string {
	if len(c.Parts) < 2 {
		return ""
	}
	return strings.Join(c.Parts, "    ")
}

// key says what the parts of the bars are.
func (c *Chart) key(cv canvas, theme *Theme, y float64) {
	if len(c.Parts) < 2 {
		return
	}
	x := margin
	for i, p := range c.Parts {
		fill := theme.Series[i%len(theme.Series)]
		cv.rect(spot{x, y - 10}, 12, 12, 2, &fill, nil)
		cv.text(spot{x + 18, y}, p, writing{theme.Quiet, false, 1})
		x += 18 + float64(CellsOf(p)+4)*cellWidth
	}
}

// axis draws the axis below the bars, with its unit.
func (c *Chart) axis(cv canvas, theme *Theme, left, top, bottom float64) {
	ticks := Ticks(c.Highest(), 6)
	end := ticks[len(ticks)-1]
	for _, v := range ticks {
		x := left + v/end*barLength
		cv.way([]spot{{x, top - 4}, {x, bottom + 4}}, pencil{theme.Rule, 0.8, v != 0})
		words := reads(v)
		cv.text(spot{x - float64(CellsOf(words))*cellWidth/2, bottom + 4 + cellHeight*0.9}, words, writing{theme.Quiet, false, 1})
	}
	cv.text(spot{left + barLength + 5*cellWidth, bottom + 4 + cellHeight*0.9}, c.Unit, writing{theme.Quiet, true, 1})
}

func (c *Chart) bars(cv canvas, theme *Theme, links Links, left, top float64) {
	ticks := Ticks(c.Highest(), 6)
	end := ticks[len(ticks)-1]
	for i := range c.Bars {
		b := &c.Bars[i]
		y := top + float64(i)*barStep
		link, title := "", ""
		if links != nil && b.Place.Path != "" {
			link = links(b.Place.Path, b.Place.Line)
		}
		if b.Place.Path != "" {
			title = b.Place.Path
			if b.Place.Line > 0 {
				title += ":" + strconv.Itoa(b.Place.Line)
			}
		}
		cv.within(spot{margin, y}, left+barLength-margin, barStep, link, title, func() {
			name := b.label()
			cv.text(spot{left - 10 - float64(CellsOf(name))*cellWidth, y + barStep*0.68}, name, writing{theme.Text, false, 1})
			x := left
			for k, v := range b.Values {
				fill := theme.Series[k%len(theme.Series)]
				cv.rect(spot{x, y + (barStep-barHigh)/2}, v/end*barLength, barHigh, 1, &fill, nil)
				x += v / end * barLength
			}
			cv.text(spot{x + 6, y + barStep*0.68}, b.Reads(), writing{theme.Quiet, false, 1})
		})
	}
}
