package app

import (
	"image/color"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/strip"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/topline"
)

// plan is how the screen is divided.
func (m *Model) plan() frame.Plan {
	p := m.frame.Plan(m.before == nil && m.leaves.Any(), m.saysSomething(), 0)
	p.Below = m.lessons.Lines()
	if m.over == nil || p.Height >= runsUnder {
		p.Run = m.runs.Lines(p.Body())
	}
	if m.over == nil {
		return p
	}
	switch form := m.over.Form(); form {
	case surface.Sheet, surface.Tall, surface.Taller:
		p.Over = p.SheetHeight(form)
		if s, ok := m.over.(surface.Short); ok {
			p.Over = min(s.Lines(), p.Over)
		}
	}
	return p
}

// runsUnder is how high the screen is at least for what is run to be seen below a list, too.
const runsUnder = 34

// saysSomething says whether something stands in the line above the strip.
func (m *Model) saysSomething() bool {
	if m.over != nil && (m.over.Form() == surface.Line || m.over.Form() == surface.Seek) {
		return true
	}
	return m.line.message != "" || m.line.prefix != "" || m.writing.Prefix() != "" || m.writing.Offering()
}

// walkBeside says whether there is room to tell of a stop of a walk beside the code.
func (m *Model) walkBeside() bool {
	return !m.leaves.Any() && m.plan().ColumnWidth() > 0
}

// View implements tea.Model.
func (m *Model) View() tea.View {
	defer func() {
		if r := recover(); r != nil {
			m.Failed(r)
			panic(r) // which gives the terminal back and ends the program
		}
	}()
	v, plan := tea.View{AltScreen: true}, m.plan()
	if m.set.Settings().On(settings.Title) {
		v.WindowTitle = topline.Title(m.ws.Code.Name(), m.frame.Code.Path())
	}
	m.asSet(&v)
	if m.set.Settings().On(settings.Reader) && plan.Width > 0 {
		var rows []string
		rows, v.Cursor = m.spoken(plan.Width, plan.Height)
		v.Content = strings.Join(rows, "\n")
		return v
	}
	if plan.TooSmall() {
		v.Content = plan.SaysTooSmall()
		return v
	}
	var rows []string
	if !plan.Quiet {
		rows = append(rows, m.topLine().Row(plan.Width, m.palette()))
	}
	if m.over != nil && m.over.Form() == surface.Whole {
		rows = append(rows, m.over.Rows(m.palette())...)
	} else {
		rows = append(rows, m.body(plan)...)
	}
	rows = append(rows, m.runs.Rows(plan.Width, plan.Run, m.palette())...)
	if plan.Foot() > 0 {
		rows = append(rows, m.messageLine(plan))
	}
	if !plan.Quiet && !plan.NoStrip {
		foot := strip.Rows(m.trails.Trail(), plan.Width, m.palette())
		rows = append(rows, foot[:]...)
	}
	if m.lessons.Lines() > 0 {
		rows = append(rows, m.lessons.Rows(plan.Width, m.writing.Writing(), m.palette())...)
	}
	v.Content = strings.Join(rows, "\n")
	v.Cursor = m.cursor(plan)
	return v
}

// body draws what lies between the top line and the message line.
func (m *Model) body(plan frame.Plan) (rows []string) {
	if plan.Over > 0 {
		rows = m.over.Rows(m.palette())
	}
	codeRows := m.frame.Rows(plan, m.palette())
	if plan.Leaf {
		if r := plan.LeafRect(); !plan.LeafBeside() {
			codeRows = append(codeRows, m.leaves.Rows(plan, r.Height, m.palette())...)
		} else {
			codeRows = beside(codeRows, m.leaves.Rows(plan, len(codeRows), m.palette()))
		}
	} else if column := plan.ColumnWidth(); column > 0 {
		codeRows = beside(codeRows, m.columnRows(plan, column, len(codeRows)))
	}
	return append(rows, codeRows...)
}

// beside puts rows at the ends of others.
func beside(rows, others []string) []string {
	for i, r := range others {
		rows[i] += r
	}
	return rows
}

// columnRows draws the column beside the code: the signpost, above it a stop of a guided walk, and
// below it the outline if that is to stay.
func (m *Model) columnRows(plan frame.Plan, width, height int) []string {
	p := m.palette()
	if m.walk.Any() {
		rows := m.walk.Rows(width, height*2/3, p)
		return append(rows, m.sign.Rows(width, height-len(rows), p)...)
	}
	if !plan.Outline || height < 8 {
		return m.sign.Rows(width, height, p)
	}
	upper := min(max(m.sign.Height(width, p), 4), height/2)
	rows := m.sign.Rows(width, upper, p)
	f := m.frame.Code.File()
	if f == nil {
		return append(rows, outline.Beside(nil, nil, 0, width, height-upper, p)...)
	}
	entries, _ := f.Outline()
	return append(rows, outline.Beside(entries, m.tests.Said(f), m.frame.Code.Offset(), width, height-upper, p)...)
}

// messageLine is the line above the strip: a message, or on a narrow screen
// the signpost, or a rule.
func (m *Model) messageLine(plan frame.Plan) string {
	p := m.palette()
	rule, wrong := palette.On(p.Rule, p.Ground), ""
	if m.over == nil && m.line.message == "" {
		wrong = m.problems.Row(&m.frame.Code, m.keys.Key(keymap.Mend), plan.Width, p)
	}
	whole := m.over != nil && m.over.Form() == surface.Whole
	switch {
	case m.over != nil && (m.over.Form() == surface.Line || m.over.Form() == surface.Seek):
		return m.over.Rows(p)[0]
	case m.line.message == "" && m.writing.Prefix() == "" && m.writing.Offering():
		return m.writing.NameRow(plan.Width, p)
	case m.line.prefix != "":
		return m.keys.PrefixRow(m.line.prefix, false, plan.Width, p)
	case m.writing.Prefix() != "":
		return m.keys.PrefixRow(m.writing.Prefix(), true, plan.Width, p)
	case m.line.message != "":
		return ink.NewRow(plan.Width).Put(" ▪ ", palette.On(p.Here, p.Ground)).
			Put(ink.Cut(m.line.message, plan.Width-4), palette.On(p.Text, p.Ground).Strong()).String(rule)
	case wrong != "":
		return wrong
	case (plan.ColumnWidth() == 0 || plan.Leaf) && !whole:
		return m.sign.Line(plan.Width, p)
	}
	return ink.NewRow(plan.Width).Put(strings.Repeat("─", plan.Width), rule).String(rule)
}

// cursor is where the terminal's own cursor stands: in the text one types, or
// at the caret.
func (m *Model) cursor(plan frame.Plan) *tea.Cursor {
	x, y, ok := 0, 0, false
	switch {
	case m.over != nil:
		x, y, ok = m.over.Cursor()
		x = min(x, plan.Width-1)
		if form := m.over.Form(); form == surface.Line || form == surface.Seek {
			y = plan.Body() + plan.Run
		}
	case m.runs.Inside():
		x, y, ok = m.runs.Cursor(plan.Run)
		y += plan.Body()
	case plan.Leaf && m.frame.InLeaf():
		x, y, ok = m.leaves.Cursor(plan)
	default:
		x, y, ok = m.frame.Code.Cursor()
		at := plan.Layout()[m.frame.Number]
		x, y = x+at.X, y+at.Y
		if plan.Headed() {
			y++
		}
	}
	if !ok {
		return nil
	}
	c := tea.NewCursor(x, y+plan.Top())
	c.Shape, c.Blink = tea.CursorBlock, false
	if m.writing.Writing() {
		c.Shape = tea.CursorBar
	}
	if r, g, b, ok := m.palette().Here.Channels(); ok {
		c.Color = color.RGBA{R: r, G: g, B: b, A: 0xff}
	}
	return c
}

// topLine says where one is.
func (m *Model) topLine() topline.Line {
	return topline.Line{Project: m.ws.Code.Name(), Path: m.frame.Code.Path(), Crumbs: m.frame.Crumbs, Words: m.position()}
}

// position says how far the reading is, where the caret is, and how things stand.
func (m *Model) position() []topline.Word {
	c, pr := &m.frame.Code, m.ws.Code.Progress()
	s := topline.Standing{
		Leaf: m.frame.InLeaf(), Solo: c.Solo().Len() > 0, Marks: m.marks.Count(), Problems: m.problems.Count(c), Files: len(m.frame.OpenFiles()),
		Unsaved: len(m.writing.Unsaved()), Lost: !m.writing.Desk().Kept(), Writing: m.writing.Writing(),
	}
	if s.Reading = !pr.Done && m.over != m.scout && pr.Readable > 0; s.Reading {
		s.Read, s.Rest = pr.Read*100/pr.Readable, pr.Rest(time.Now())
	}
	if f := c.File(); f != nil {
		s.Line, s.Col = c.Caret()
		s.Outside, s.Foreign = m.ws.Code.IsOutside(f.Path), f.Foreign
	}
	s.ToDo, s.Sweeping = m.sweeps.Left()
	return s.Words()
}
