// Package docs is the sheet on which the signature and the documentation of a
// symbol are read in full.
package docs

import (
	"context"
	"path"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/markup"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Page is what is to be read.
type Page struct {
	title, where string
	signature    code
	mark         place.Range // the present parameter in the signature
	note         string      // which parameter that is
	blocks       []markup.Block
	codes        []code // those of the blocks that are code, in order
	call         *Page  // what is called around it, or nil
}

// code is a text with its colours.
type code struct {
	text  string
	spans highlight.Spans
}

func newCode(ctx context.Context, name, text string) code {
	return code{text, highlight.Text(ctx, name, []byte(text), 0, nil)}
}

// Symbol is the page of a symbol: its signature and all that is said of it. The
// language is that of its file. It may take longer than a frame.
func Symbol(ctx context.Context, d *answer.Description, language string) *Page {
	p := newPage(ctx, d)
	if d.Doc == "" {
		p.note = "nothing is written about it"
	}
	p.blocks = markup.Parse(d.Doc, language)
	for _, b := range p.blocks {
		if b.Kind == markup.Code {
			name := "code." + strings.ToLower(b.Language)
			if b.Language == language {
				name = path.Base(d.Best.Path)
			}
			p.codes = append(p.codes, newCode(ctx, name, b.Text))
		}
	}
	return p
}

// Within puts what is called around the symbol above it.
func (p *Page) Within(call *Page) *Page {
	p.call = call
	return p
}

// Call is the page of a call one is in the brackets of: the signature alone, with
// the present parameter marked.
func Call(ctx context.Context, c *answer.Call) *Page {
	p := newPage(ctx, &c.Description)
	p.mark = indented(c.Signature, c.At)
	switch {
	case c.Of == 0:
		p.note = "it takes no parameters"
	case c.Parameter == "":
		p.note = "this would be parameter " + strconv.Itoa(c.Number) + "; it takes " + strconv.Itoa(c.Of)
	default:
		p.note = "parameter " + strconv.Itoa(c.Number) + " of " + strconv.Itoa(c.Of) + ": " + strings.Join(strings.Fields(c.Parameter), " ")
	}
	return p
}

func newPage(ctx context.Context, d *answer.Description) *Page {
	p := &Page{title: d.Name}
	if d.Best.Container != "" {
		p.title = d.Best.Container + "." + d.Name
	}
	p.where = d.Best.What() + "   " + d.Best.Path + " " + strconv.Itoa(d.Best.Line) + "   " + d.Best.Certainty.String()
	if d.Signature != "" {
		p.signature = newCode(ctx, path.Base(d.Best.Path), strings.ReplaceAll(d.Signature, "\t", indent))
	}
	return p
}

// indent is what is shown for a tab.
const indent = "    "

// indented is where a part of a text stands once its tabs are shown as blanks.
func indented(text string, at place.Range) place.Range {
	shifted := func(offset uint32) uint32 {
		before := text[:min(int(offset), len(text))]
		return offset + uint32(strings.Count(before, "\t")*(len(indent)-1))
	}
	return place.Range{Start: shifted(at.Start), End: shifted(at.End)}
}

// Model is the sheet.
type Model struct {
	page     *Page
	height   int
	skip     int
	lines    int // of the page, at the width measured
	measured int
}

// Show puts a page on the sheet.
func (m *Model) Show(p *Page, height int) {
	m.page, m.height, m.skip, m.measured = p, height, 0, 0
}

// Lines is how many lines the sheet takes at a width, its edges included, at most
// the height it was given.
func (m *Model) Lines(width int) int {
	if m.measured != width {
		d := &drawing{width: width, p: &palette.Plain}
		d.page(m.page)
		m.measured, m.lines = width, len(d.rows)
	}
	return min(m.lines+1, m.height)
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) { m.height = height }

// Update takes a key.
func (m *Model) Update(k tea.KeyPressMsg) picker.Event {
	page := max(m.height-3, 1)
	switch {
	case keymap.Is(k.String(), on.Close):
		return picker.Closed
	case keymap.Is(k.String(), on.Go):
		return picker.Taken
	case keymap.Is(k.String(), on.Down):
		m.skip++
	case keymap.Is(k.String(), on.Up):
		m.skip--
	case keymap.Is(k.String(), on.PageDown):
		m.skip += page
	case keymap.Is(k.String(), on.PageUp):
		m.skip -= page
	case keymap.Is(k.String(), on.First):
		m.skip = 0
	case keymap.Is(k.String(), on.Last):
		m.skip = m.lines
	}
	m.skip = max(min(m.skip, m.lines-page), 0)
	return picker.Nothing
}

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	d := &drawing{width: width, p: p}
	d.page(m.page)
	m.lines, m.measured = len(d.rows), width
	room := max(min(m.height-1, m.lines), 1)
	m.skip = max(min(m.skip, m.lines-room), 0)
	rows := d.rows[m.skip:min(m.skip+room, m.lines)]
	for len(rows) < room {
		rows = append(rows, d.blank())
	}
	keys := [][2]string{keymap.Hint(on.Go, "go to its definition"), keymap.Hint(on.Close, "close")}
	if m.lines > room {
		keys = append([][2]string{keymap.Both(on.Up, on.Down, strconv.Itoa((m.skip+room)*100/m.lines)+" % read")}, keys...)
	}
	return append(rows, sheet.Edge(width, keys, p))
}

// drawing writes the rows of a page.
type drawing struct {
	width int
	p     *palette.Palette
	rows  []string
}

// widest is the most columns that lines of prose take, to be read easily.
const widest = 96

func (d *drawing) blank() string {
	return ink.NewRow(d.width).String(palette.On(d.p.Text, d.p.Sheet))
}

func (d *drawing) page(p *Page) {
	if p.call != nil {
		d.page(p.call)
		d.rows = append(d.rows, d.blank())
	}
	quiet := palette.On(d.p.Quiet, d.p.Sheet)
	r := ink.NewRow(d.width).Put("  "+ink.Cut(p.title, max(d.width/2, 10)), palette.On(d.p.Here, d.p.Sheet).Strong())
	d.rows = append(d.rows, r.Put("   ", quiet).Put(ink.Cut(p.where, max(r.Left()-1, 0)), quiet).String(quiet))
	d.code(p.signature, p.mark, 2)
	if p.note != "" {
		d.rows = append(d.rows, ink.NewRow(d.width).Put("  "+ink.Cut(p.note, d.width-4), palette.On(d.p.Text, d.p.Sheet).Strong()).String(quiet))
	}
	codes, last := p.codes, markup.Paragraph
	for i, b := range p.blocks {
		if i == 0 || b.Kind != markup.Item || last != markup.Item {
			d.rows = append(d.rows, d.blank())
		}
		last = b.Kind
		switch b.Kind {
		case markup.Code:
			d.code(codes[0], place.Range{}, 6)
			codes = codes[1:]
		case markup.Rule:
			d.rows = append(d.rows, ink.NewRow(d.width).Put("  "+strings.Repeat("─", min(d.width-4, widest)), palette.On(d.p.Rule, d.p.Sheet)).String(quiet))
		case markup.Item:
			d.prose(b.Runs, 4+2*b.Depth, b.Mark+" ")
		case markup.Quote:
			d.prose(b.Runs, 4, "“")
		case markup.Heading:
			for j := range b.Runs {
				b.Runs[j].Style = markup.Strong
			}
			d.prose(b.Runs, 2, "")
		default:
			d.prose(b.Runs, 2, "")
		}
	}
}

// code draws code as it stands, indented; what is too long is cut off with a
// sign.
func (d *drawing) code(c code, mark place.Range, indent int) {
	if c.text == "" {
		return
	}
	ground, offset := d.p.Sheet, 0
	for line := range strings.SplitSeq(c.text, "\n") {
		r := ink.NewRow(d.width).To(indent, palette.On(d.p.Text, ground))
		spans := c.spans.From(offset)
		text.Cells([]byte(line), text.Cell{}, func(cell text.Cell) bool {
			at := offset + cell.Offset
			for len(spans) > 0 && spans[0].End <= at {
				spans = spans[1:]
			}
			role := highlight.Plain
			if len(spans) > 0 && spans[0].Start <= at {
				role = spans[0].Role
			}
			style := d.p.Code(role, ground)
			if int(mark.Start) <= at && at < int(mark.End) {
				style = palette.On(d.p.Here, ground).Strong().Under()
			}
			if r.Left() <= cell.Width {
				r.Put("›", palette.On(d.p.Quiet, ground))
				return false
			}
			r.Cell(cell, style)
			return true
		})
		d.rows = append(d.rows, r.String(palette.On(d.p.Text, ground)))
		offset += len(line) + 1
	}
}

// word is a piece of prose that is not broken.
type word struct {
	text  string
	style ink.Style
	space bool // a blank stands before it
}

// prose draws words that run on from line to line, indented, the first line with
// a mark in front.
func (d *drawing) prose(runs []markup.Run, indent int, mark string) {
	plain := palette.On(d.p.Text, d.p.Sheet)
	room := max(min(d.width-indent-ink.Width(mark)-2, widest), 8)
	line := func(first bool) *ink.Row {
		r := ink.NewRow(d.width).To(indent, plain)
		if first {
			r.Put(mark, palette.On(d.p.Quiet, d.p.Sheet))
		}
		return r.To(indent+ink.Width(mark), plain)
	}
	r, used := line(true), 0
	for _, w := range d.words(runs) {
		width := ink.Width(w.text)
		if used > 0 && used+width+1 > room || w.text == "\n" {
			d.rows = append(d.rows, r.String(plain))
			r, used = line(false), 0
		}
		if w.text == "\n" {
			continue
		}
		if w.space && used > 0 {
			r.Put(" ", plain)
			used++
		}
		r.Put(w.text, w.style)
		used += width
	}
	d.rows = append(d.rows, r.String(plain))
}

func (d *drawing) words(runs []markup.Run) (all []word) {
	for _, run := range runs {
		style := d.style(run.Style)
		for i, line := range strings.Split(run.Text, "\n") {
			if i > 0 {
				all = append(all, word{"\n", style, false})
			}
			space := strings.HasPrefix(line, " ")
			for j, w := range strings.Fields(line) {
				all = append(all, word{w, style, space || j > 0})
			}
			if strings.HasSuffix(line, " ") {
				all = append(all, word{"", style, true})
			}
		}
	}
	return joined(all)
}

// joined lets a blank at the end of a run stand before the next word.
func joined(words []word) (all []word) {
	space := false
	for _, w := range words {
		if w.text == "" {
			space = true
			continue
		}
		w.space = w.space || space
		space = false
		all = append(all, w)
	}
	return all
}

func (d *drawing) style(s markup.Style) ink.Style {
	switch s {
	case markup.Verbatim:
		return palette.On(d.p.Number, d.p.Sheet)
	case markup.Strong:
		return palette.On(d.p.Text, d.p.Sheet).Strong()
	case markup.Emphasis, markup.Link:
		return palette.On(d.p.Text, d.p.Sheet).Under()
	}
	return palette.On(d.p.Text, d.p.Sheet)
}
