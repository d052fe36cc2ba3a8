package overlook

import (
	"context"
	"path"
	"slices"
	"strings"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/draw"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/overlook"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Counts is the sheet of charts.
type Counts struct {
	surface.Size
	host    surface.Host
	maker   Maker
	trails  Trails
	asker   *surface.Asker
	choices *choice.Surface
	hand    func(d draw.Drawing, title string, formats []draw.Format, back func() surface.Intent) surface.Intent

	asked overlook.Counted
	chart *draw.Chart
	at    int
	first int // the first row shown
}

func newCounts(host surface.Host, maker Maker, trails Trails, hand func(draw.Drawing, string, []draw.Format, func() surface.Intent) surface.Intent) *Counts {
	c := &Counts{host: host, maker: maker, trails: trails, choices: &choice.Surface{}, hand: hand}
	c.asker = host.Asker(c)
	return c
}

// Commands are what shows a chart.
func (c *Counts) Commands() surface.Commands { return surface.Commands{keymap.Charts: c.choose} }

// onBars are the keys that only charts have.
var onBars = struct {
	Into, Out, Next, Files, Areas, Tests, Again, Hand key.Binding
}{
	Into:  keymap.On("into the folder", "right"),
	Out:   keymap.On("out to the folder around", "left"),
	Next:  keymap.On("the next chart", "tab"),
	Files: keymap.Letters.File.On("by file, by folder"),
	Areas: keymap.Letters.Order.On("as areas, as bars"),
	Tests: keymap.Letters.Tests.On("with tests, without"),
	Again: keymap.Letters.Again.On("count again"),
	Hand:  keymap.Letters.Hand.On("write it to a file"),
}

// Keys implements surface.Surface.
func (*Counts) Keys() (name string, all []key.Binding) {
	return "charts", keymap.Of(onBars, keymap.Moves, keymap.Ends)
}

// measureWords say what charts are of.
var measureWords = map[overlook.Measure][2]string{
	overlook.Time:    {"where time went", "by the trails of this project"},
	overlook.Days:    {"on which days time went", "by the trails of this project"},
	overlook.Volume:  {"how large folders are", "lines of code and of tests"},
	overlook.Churn:   {"how much was changed", "lines that commits have added and removed"},
	overlook.Who:     {"who has changed it", "commits of each author"},
	overlook.Lengths: {"how long functions are", "lines"},
	overlook.Depths:  {"how deep the blocks of functions lie", "blocks in each other"},
	overlook.Callers: {"how many functions call it", "of the functions here"},
}

// choose asks for a chart.
func (c *Counts) choose() surface.Intent {
	var rows []choice.Row
	for _, m := range overlook.Measures {
		rows = append(rows, choice.Row{Row: sheet.Row{Name: measureWords[m][0], Where: measureWords[m][1], Reads: true}, Take: func() surface.Intent {
			return c.begin(overlook.Counted{Measure: m, ByFile: m == overlook.Time})
		}})
	}
	return c.choices.Open("charts", "show it", rows)
}

// counted is a chart, or why there is none.
type counted struct {
	asked overlook.Counted
	chart *draw.Chart
	err   error
}

func (c *Counts) work(a overlook.Counted) func(ctx context.Context) counted {
	var ways []*trail.Trail
	if a.Measure == overlook.Time || a.Measure == overlook.Days { // which change as one walks
		ways = append(ways, c.trails.Trail().Copy())
	}
	return func(ctx context.Context) counted {
		chart, err := c.maker.Chart(ctx, a, ways)
		return counted{a, chart, err}
	}
}

func (c *Counts) begin(a overlook.Counted) surface.Intent {
	wait := surface.Intent{Wait: "counting; Esc gives up"}
	return wait.And(surface.Begin(surface.Ask(c.host.Way(), c.work(a), func(d counted) surface.Intent {
		if d.err != nil {
			return surface.SayError(d.err)
		}
		c.take(d)
		return surface.Intent{Open: c}.And(c.selected())
	})))
}

func (c *Counts) again(a overlook.Counted) surface.Intent {
	return surface.Begin(surface.Ask(c.asker, c.work(a), func(d counted) surface.Intent {
		if d.err != nil {
			return surface.SayError(d.err)
		}
		c.take(d)
		return c.selected()
	}))
}

func (c *Counts) take(d counted) {
	same := c.chart != nil && c.asked.Path == d.asked.Path && c.asked.Measure == d.asked.Measure && c.asked.ByFile == d.asked.ByFile
	c.asked, c.chart = d.asked, d.chart
	if !same {
		c.at, c.first = 0, 0
	}
	c.at = min(c.at, len(c.chart.Bars)-1)
}

// Form implements surface.Surface.
func (c *Counts) Form() surface.Form { return surface.Tall }

// Busy implements surface.Surface.
func (c *Counts) Busy() bool { return c.asker.Waiting() }

// Closed implements surface.Surface.
func (c *Counts) Closed() { c.asker.Cancel() }

func (c *Counts) bar() *draw.Bar {
	if c.chart == nil || c.at >= len(c.chart.Bars) {
		return nil
	}
	return &c.chart.Bars[c.at]
}

func (c *Counts) selected() surface.Intent {
	if b := c.bar(); b != nil && b.Place.Line > 0 {
		return surface.Look(c.visit(b))
	}
	return surface.LookBack()
}

func (c *Counts) visit(b *draw.Bar) surface.Visit {
	return surface.Visit{Path: b.Place.Path, Line: b.Place.Line, Col: b.Place.Col, How: "chart: " + measureWords[c.asked.Measure][0], Symbol: b.Symbol}
}

// Update implements surface.Surface.
func (c *Counts) Update(msg tea.Msg) surface.Intent {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok || c.chart == nil {
		return surface.Intent{}
	}
	name, a := k.String(), c.asked
	if rows, ok := keymap.Step(name, c.shown(), len(c.chart.Bars)); ok {
		c.at = max(min(c.at+rows, len(c.chart.Bars)-1), 0)
		return c.selected()
	}
	switch {
	case keymap.Is(name, keymap.Ends.Close):
		return surface.Close()
	case keymap.Is(name, keymap.Ends.Take):
		if b := c.bar(); b != nil && b.Place.Line > 0 {
			return surface.Go(c.visit(b))
		}
		return c.into()
	case keymap.Is(name, onBars.Into):
		return c.into()
	case keymap.Is(name, onBars.Out):
		if a.Path == "" || a.Path == "." {
			return surface.Say("that is all of the project")
		}
		if a.Path = path.Dir(a.Path); a.Path == "." {
			a.Path = ""
		}
		return c.again(a)
	case keymap.Is(name, onBars.Next):
		a.Measure = overlook.Measures[(slices.Index(overlook.Measures, a.Measure)+1)%len(overlook.Measures)]
		return c.again(a)
	case keymap.Is(name, onBars.Files):
		a.ByFile = !a.ByFile
		return c.again(a)
	case keymap.Is(name, onBars.Areas):
		a.AsMap = !a.AsMap
		return c.again(a)
	case keymap.Is(name, onBars.Tests):
		a.Tests = !a.Tests
		return c.again(a)
	case keymap.Is(name, onBars.Again):
		return c.again(a)
	case keymap.Is(name, onBars.Hand):
		return c.hand(c.chart, c.chart.Title, []draw.Format{draw.SVG, draw.PDF, draw.Markdown, draw.Text, draw.JSON}, func() surface.Intent { return surface.Intent{Open: c}.And(c.selected()) })
	}
	return surface.Intent{}
}

// into counts what lies in the chosen folder.
func (c *Counts) into() surface.Intent {
	b := c.bar()
	if b == nil || b.Place.Path == "" || b.Place.Line > 0 {
		return surface.Intent{}
	}
	a := c.asked
	if a.Path = b.Place.Path; a.Path == cleared(c.asked.Path) {
		a.ByFile = true // the files directly in it
	}
	return c.again(a)
}

// cleared is the path of a folder, with that of the project's as it is in bars.
func cleared(p string) string {
	if p == "" {
		return "."
	}
	return p
}

// shown is how many rows of the chart are shown.
func (c *Counts) shown() int { return max(c.Height-4, 1) }

// Rows implements surface.Surface.
func (c *Counts) Rows(p *palette.Palette) []string {
	quiet := palette.On(p.Quiet, p.Sheet)
	if c.chart == nil {
		return nil
	}
	rows := []string{ink.NewRow(c.Width).Put("  chart  ", quiet).Put(text.Visible(c.chart.Title), palette.On(p.Here, p.Sheet).Strong()).Put("  "+strings.Join(c.chart.Foot()[:1], ""), quiet).String(quiet)}
	if c.asked.AsMap {
		rows = append(rows, c.areas(p)...)
	} else {
		rows = append(rows, c.bars(p)...)
	}
	r := ink.NewRow(c.Width).Put("  ", quiet)
	if b := c.bar(); b != nil {
		r.Put(text.Visible(b.Name), palette.On(p.Text, p.Sheet).Strong()).Put("  "+b.Reads()+c.unit(b)+"  "+c.parts(b), quiet)
		if b.Place.Path != "" {
			r.Put(" "+text.Visible(b.Place.Path), quiet)
		}
	}
	notes := ink.NewRow(c.Width).Put("  "+ink.Cut(strings.Join(c.chart.Foot()[1:], "  "), max(c.Width-3, 0)), quiet)
	rows = append(rows, r.String(quiet), notes.String(quiet))
	return append(rows, sheet.Edge(c.Width, [][2]string{
		keymap.Hint(keymap.Ends.Take, "go there"), keymap.Both(onBars.Out, onBars.Into, "out, into folders"), keymap.Hint(onBars.Next, "next chart"), keymap.Hint(onBars.Files, "by file"),
		keymap.Hint(onBars.Areas, "areas"), keymap.Hint(onBars.Hand, "to a file"), keymap.Hint(keymap.Ends.Close, "back"),
	}, p))
}

// unit is what the number of a bar counts; "" if its words say so.
func (c *Counts) unit(b *draw.Bar) string {
	if b.Words != "" {
		return ""
	}
	return " " + c.chart.Unit
}

// parts are the numbers of the parts of a bar.
func (c *Counts) parts(b *draw.Bar) string {
	if len(c.chart.Parts) < 2 {
		return ""
	}
	var all []string
	for i, name := range c.chart.Parts {
		one := draw.Bar{Values: []float64{b.Values[i]}}
		all = append(all, name+" "+one.Reads())
	}
	return "(" + strings.Join(all, ", ") + ")"
}

func (c *Counts) bars(p *palette.Palette) (rows []string) {
	quiet := palette.On(p.Quiet, p.Sheet)
	n := c.shown()
	c.first = max(min(c.first, c.at), c.at-n+1)
	wide := 0
	for i := range c.chart.Bars {
		wide = max(wide, ink.Width(c.chart.Bars[i].Name+"  "+c.chart.Bars[i].Where))
	}
	wide = min(wide, c.Width/2)
	cells := max(c.Width-wide-6-c.widest(), 4)
	highest := c.chart.Highest()
	for i := c.first; i < c.first+n; i++ {
		if i >= len(c.chart.Bars) {
			rows = append(rows, ink.NewRow(c.Width).String(quiet))
			continue
		}
		b, ground := &c.chart.Bars[i], p.Sheet
		mark := "  "
		if i == c.at {
			ground, mark = p.Chosen, "▸ "
		}
		r := ink.NewRow(c.Width).Put(mark, palette.On(p.Here, ground))
		name := ink.Cut(text.Visible(b.Name), wide)
		r.Put(name, palette.On(p.Text, ground)).Put(ink.Fit("  "+text.Visible(b.Where), max(wide-ink.Width(name), 0)), palette.On(p.Quiet, ground)).Put("  ", palette.On(p.Quiet, ground))
		for k, n := range draw.Pieces(b.Values, highest, cells) {
			r.Put(strings.Repeat(draw.Fill(k), n), palette.On([]ink.Color{p.Way, p.Number, p.Keyword}[k%3], ground))
		}
		rows = append(rows, r.Put(" "+b.Reads(), palette.On(p.Text, ground)).String(palette.On(p.Text, ground)))
	}
	return rows
}

// widest is how many cells the longest number has.
func (c *Counts) widest() (w int) {
	for i := range c.chart.Bars {
		w = max(w, ink.Width(c.chart.Bars[i].Reads()))
	}
	return w
}

// areas draws the chart as areas, with the chosen one told by its ground.
func (c *Counts) areas(p *palette.Palette) (rows []string) {
	area := c.chart.Area(max(c.Width-4, 1), c.shown())
	chosen := area.Frames[c.at]
	for y, row := range area.Cells() {
		r := ink.NewRow(c.Width).Put("  ", palette.On(p.Quiet, p.Sheet))
		text.Cells([]byte(row), text.Cell{}, func(cell text.Cell) bool {
			style := palette.On(p.Text, p.Sheet)
			if chosen.Contains(draw.Point{X: cell.Col, Y: y}) {
				style = palette.On(p.Here, p.Chosen).Strong()
			}
			r.Put(cell.Text, style)
			return true
		})
		rows = append(rows, r.String(palette.On(p.Quiet, p.Sheet)))
	}
	return rows
}
