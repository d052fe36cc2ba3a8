package app

import (
	"cmp"
	"image/color"
	"maps"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/text"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/strip"
)

// The smallest terminal that anything useful fits into, and the width from
// which on the signpost has a column of its own.
const (
	leastWidth    = 40
	leastHeight   = 10
	signpostWidth = 110
)

// The rows that are not the code's: the top line, the line for messages, and
// the two of the strip.
const framing = 4

// top is how many rows are above the code, apart from a sheet.
func (m *Model) top() int {
	if m.quiet {
		return 0
	}
	return 1
}

func (m *Model) bodyHeight() int {
	if m.quiet {
		return max(m.height-m.foot(), 1)
	}
	return max(m.height-framing, 1)
}

// foot is how many rows are below the code: in quiet, only that of a message.
func (m *Model) foot() int {
	switch {
	case !m.quiet:
		return framing - 1
	case m.message != "" || m.prefix != "" || m.marks.lettering || m.overlay == inFileOverlay || m.overlay == askOverlay || m.offering():
		return 1
	}
	return 0
}

// sheetHeight is how many lines a sheet over the code takes.
func (m *Model) sheetHeight() int {
	switch m.overlay {
	case trailOverlay: // there is much to see, and the code of one stop is enough
		return min(max(m.bodyHeight()*3/5, 8), max(m.bodyHeight()-3, 3))
	case compareOverlay:
		return max(m.bodyHeight()-3, 3)
	}
	const enoughCode = 26 // rows of it beneath a list; on a high screen the list has the rest
	return min(max(m.bodyHeight()*9/20, 8, m.bodyHeight()-enoughCode), max(m.bodyHeight()-3, 3))
}

// The column beside the code holds the signpost and, if asked for, the outline.
// It needs a wide window, and leaves every view so much.
const (
	leastColumn = 24
	leastView   = 56
)

// The sizes of the signpost besides all of it.
const (
	signpostNarrow = "narrow"
	signpostLine   = "line"
)

// resizeSignpost shows less of the signpost, and at last all of it again.
func (m *Model) resizeSignpost() tea.Cmd {
	switch m.signSize {
	case "":
		m.signSize = signpostNarrow
		m.say("the signpost is narrow now; once more makes it one line")
	case signpostNarrow:
		m.signSize = signpostLine
		m.say("the signpost is the line above the trail now; once more brings it back beside the code")
	default:
		m.signSize = ""
		m.say("the signpost stands beside the code again")
	}
	return m.rearranged()
}

// columnWidth is the width of the column beside the code; 0 if there is none.
func (m *Model) columnWidth() int {
	if m.topLeaf() != nil {
		if m.leafBeside() {
			return m.leafRect().Width
		}
		return 0
	}
	if m.quiet || m.full || m.width < signpostWidth || m.signSize == signpostLine && !m.beside {
		return 0
	}
	column := m.column
	switch {
	case m.signSize == signpostNarrow && !m.beside:
		column = leastColumn
	case column == 0:
		column = min(max(m.width*28/100, 36), 52)
	}
	for _, r := range m.tree.Layout(panes.Rect{Width: m.width - column, Height: m.bodyHeight()}, m.side.number) {
		if r.Width < leastView {
			return 0
		}
	}
	return column
}

// room is where the views are.
func (m *Model) room() panes.Rect {
	height := m.bodyHeight() - m.over()
	if m.topLeaf() != nil && !m.leafBeside() {
		height = max(height-m.leafRect().Height, 1)
	}
	return panes.Rect{Width: m.width - m.columnWidth(), Height: height}
}

// layout says where each side is.
func (m *Model) layout() map[int]panes.Rect {
	room := m.room()
	if m.full || m.topLeaf() != nil {
		return map[int]panes.Rect{m.codeSide().number: room}
	}
	return m.tree.Layout(room, m.codeSide().number)
}

// headed says whether each view has a line above it that names it.
func (m *Model) headed() bool { return len(m.sides) > 1 && !m.full && m.topLeaf() == nil }

// over is how many lines a sheet lies over the code.
func (m *Model) over() int {
	switch m.overlay {
	case docsOverlay:
		return m.docs.Lines(m.width)
	case choiceOverlay:
		return min(m.choice.list.Lines()+2, m.sheetHeight())
	}
	if _, ok := m.cover(m.overlay); ok {
		return m.sheetHeight()
	}
	return 0
}

// arrange gives the surfaces their sizes.
func (m *Model) arrange() {
	if m.height == 0 {
		return
	}
	for _, c := range m.covers() {
		c.resize(m.sheetHeight())
	}
	for number, r := range m.layout() {
		if m.headed() {
			r.Height--
		}
		m.sides[number].code.Resize(r.Width, r.Height)
	}
	if l := m.topLeaf(); l != nil {
		r := m.leafRect()
		height := max(r.Height-leafFrame, 1)
		l.blank = min(l.blank, height-1)
		l.code.Resize(m.leafWidth(), height-l.blank)
	}
}

// View implements tea.Model.
func (m *Model) View() tea.View {
	defer func() {
		if r := recover(); r != nil {
			m.fail(r, debug.Stack())
			panic(r) // which gives the terminal back and ends the program
		}
	}()
	v := tea.View{AltScreen: true, WindowTitle: m.title()}
	if m.width < leastWidth || m.height < leastHeight {
		v.Content = m.tooSmall()
		return v
	}
	var rows []string
	if !m.quiet {
		rows = append(rows, m.topLine())
	}
	if m.overlay == keysOverlay {
		rows = append(rows, m.keysRows()...)
	} else {
		rows = append(rows, m.body()...)
	}
	if m.foot() > 0 {
		rows = append(rows, m.messageLine())
	}
	if !m.quiet {
		foot := strip.Rows(&m.trail, m.width, m.palette())
		rows = append(rows, foot[:]...)
	}
	v.Content = strings.Join(rows, "\n")
	v.Cursor = m.cursor()
	return v
}

func (m *Model) title() string {
	name := ink.Cut(m.ws.Name(), 60)
	if p := m.code.Path(); p != "" {
		name = ink.Cut(shortName(p), 60) + " · " + name
	}
	return text.Visible(name)
}

func (m *Model) tooSmall() string {
	if m.width == 0 {
		return ""
	}
	words := "This window is " + strconv.Itoa(m.width) + " columns by " + strconv.Itoa(m.height) +
		" rows. Rook Trail needs " + strconv.Itoa(leastWidth) + " by " + strconv.Itoa(leastHeight) + "."
	lines := ink.Wrap(words, m.width)
	lines = lines[:min(len(lines), m.height)]
	for i, l := range lines {
		lines[i] = ink.Fit(l, m.width)
	}
	return strings.Join(lines, "\n")
}

// body draws what lies between the top line and the message line.
func (m *Model) body() []string {
	rows := m.sheetRows()
	codeRows := m.sideRows(m.layout())
	if l := m.topLeaf(); l != nil {
		return append(rows, m.besideLeaf(l, codeRows)...)
	}
	if column := m.columnWidth(); column > 0 {
		for i, r := range m.columnRows(column, len(codeRows)) {
			codeRows[i] += r
		}
	}
	return append(rows, codeRows...)
}

// besideLeaf puts a leaf beside rows of code, or below them.
func (m *Model) besideLeaf(l *leaf, codeRows []string) []string {
	r := m.leafRect()
	if !m.leafBeside() {
		return append(codeRows, m.leafRows(l, r.Width, r.Height)...)
	}
	for i, row := range m.leafRows(l, r.Width, len(codeRows)) {
		codeRows[i] += row
	}
	return codeRows
}

// sideRows draws the sides, each in its place.
func (m *Model) sideRows(layout map[int]panes.Rect) []string {
	p := m.palette()
	height := m.room().Height
	rows := make([]string, height)
	rule := ink.NewRow(1).Put("│", palette.On(p.Rule, p.Ground)).String(palette.On(p.Rule, p.Ground))
	drawn := make([]int, height) // how many columns of each row
	for _, number := range m.inOrder(layout) {
		s, r := m.sides[number], layout[number]
		var part []string
		if m.headed() {
			part = append(part, m.headerRow(s, r.Width))
		}
		part = append(part, s.code.Rows(p)...)
		for i := 0; i < r.Height && i < len(part) && r.Y+i < height; i++ {
			if drawn[r.Y+i] < r.X {
				rows[r.Y+i] += rule
			}
			rows[r.Y+i] += part[i]
			drawn[r.Y+i] = r.X + r.Width
		}
	}
	return rows
}

// inOrder are the sides of a layout from left to right.
func (m *Model) inOrder(layout map[int]panes.Rect) []int {
	return slices.SortedFunc(maps.Keys(layout), func(a, b int) int {
		return cmp.Or(cmp.Compare(layout[a].X, layout[b].X), cmp.Compare(layout[a].Y, layout[b].Y))
	})
}

// headerRow names what a side shows, where there are several.
func (m *Model) headerRow(s *side, width int) string {
	p := m.palette()
	rule, quiet := palette.On(p.Rule, p.Ground), palette.On(p.Quiet, p.Ground)
	name, where := s.header()
	style := quiet
	if s == m.side {
		style = palette.On(p.Here, p.Ground).Strong()
	}
	r := ink.NewRow(width).Put("── ", rule).Put(ink.Cut(name, width-8), style).Put(" ", quiet)
	if where != "" && r.Left() > ink.Width(where)+6 {
		r.Put("· "+where+" ", quiet)
	}
	return r.Put(strings.Repeat("─", max(r.Left(), 0)), rule).String(rule)
}

// columnRows draws the column beside the code: the signpost, and below it the
// outline if that is to stay.
func (m *Model) columnRows(width, height int) []string {
	p := m.palette()
	if m.walkColumn() > 0 {
		rows := m.walkRows(width, height*2/3)
		return append(rows, m.sign.Rows(width, height-len(rows), p)...)
	}
	if !m.beside || height < 8 {
		return m.sign.Rows(width, height, p)
	}
	upper := min(max(m.sign.Height(width, p), 4), height/2)
	rows := m.sign.Rows(width, upper, p)
	f := m.code.File()
	if f == nil {
		return append(rows, outline.Beside(nil, 0, width, height-upper, p)...)
	}
	entries, _ := f.Outline()
	return append(rows, outline.Beside(entries, m.code.Offset(), width, height-upper, p)...)
}

// sheetRows draws the sheet over the code, if one is open.
func (m *Model) sheetRows() []string {
	p := m.palette()
	switch m.overlay {
	case choiceOverlay:
		quiet := palette.On(p.Quiet, p.Sheet)
		rows := []string{ink.NewRow(m.width).Put("  "+m.choice.title, palette.On(p.Text, p.Sheet).Strong()).String(quiet)}
		rows = append(rows, m.choice.list.Rows(m.width, m.over()-2, p)...)
		return append(rows, sheet.Edge(m.width, [][2]string{{"Enter", m.choice.enter}, {"↑↓", "choose"}, {"Esc", "back as it was"}}, p))
	}
	if c, ok := m.cover(m.overlay); ok {
		return c.rows(m.width, p)
	}
	return nil
}

// topLine says where one is: the project, the path, the symbols around the
// caret.
func (m *Model) topLine() string {
	p := m.palette()
	r := ink.NewRow(m.width)
	quiet, normal := palette.On(p.Quiet, p.Ground), palette.On(p.Text, p.Ground)
	least := ink.Width(" ♜ ") + leastName + leastCrumbs + 3
	right := fitting(m.position(), m.width-least-2)
	name := ink.Cut(m.ws.Name(), min(24, max(m.width-ink.Width(right)-leastCrumbs-8, leastName)))
	r.Put(" ♜ ", palette.On(p.Here, p.Ground).Strong()).Put(name, normal.Strong()).Put("   ", normal)
	room := m.width - r.Used() - ink.Width(right) - 3
	crumbs := m.crumbNames()
	used, from := 0, len(crumbs)
	for from > 0 {
		w := ink.Width(crumbs[from-1]) + 3
		if before := ink.Width("… ▸ "); used+w+before > room && (from > 1 || used+w > room) && from < len(crumbs) {
			break
		}
		used += w
		from--
	}
	if from > 0 {
		r.Put("… ▸ ", quiet)
		room -= ink.Width("… ▸ ")
	}
	for i := from; i < len(crumbs); i++ {
		st := normal
		if i == len(crumbs)-1 {
			st = palette.On(p.Here, p.Ground).Strong()
		}
		if i > from {
			r.Put(" ▸ ", quiet)
		}
		r.Put(ink.Cut(crumbs[i], max(room, 1)), st)
	}
	return r.End(right+" ", quiet, quiet).String(quiet)
}

// How many columns the name of the project and the path keep at the least.
const (
	leastName   = 8
	leastCrumbs = 20
)

// word is a part of what the right of the top line says. Where there is no room for all, those of
// the highest rank go first; those of rank 0 stay.
type word struct {
	text string
	rank int
}

// fitting joins as many words as there is room for.
func fitting(words []word, room int) string {
	for drop := 9; ; drop-- {
		var all []string
		for _, w := range words {
			if w.rank <= drop {
				all = append(all, w.text)
			}
		}
		if line := strings.Join(all, "   "); ink.Width(line) <= room || drop == 0 {
			return line
		}
	}
}

// crumbNames are the folders, the file and the symbols one is in.
func (m *Model) crumbNames() []string {
	if m.code.Path() == "" {
		return nil
	}
	names := strings.Split(m.code.Path(), "/")
	if names[0] == "" {
		names[0] = "/"
	}
	for _, c := range m.crumbs {
		if c.Kind != facts.Package {
			names = append(names, c.Name)
		}
	}
	return names
}

// position says how far the reading is, where the caret is, and the stance.
func (m *Model) position() (words []word) {
	add := func(rank int, text string) { words = append(words, word{text, rank}) }
	if pr := m.ws.Progress(); !pr.Done && m.overlay != scoutOverlay && pr.Readable > 0 {
		add(7, "reading "+strconv.Itoa(pr.Read*100/pr.Readable)+" %")
	}
	if m.code.File() != nil {
		line, col := m.code.Caret()
		add(6, "line "+strconv.Itoa(line)+" column "+strconv.Itoa(col))
	}
	if m.inLeaf() {
		add(1, "in the leaf")
	}
	if m.code.Solo().Len() > 0 {
		add(1, "solo")
	}
	if n := m.markCount(); n != "" {
		add(3, n)
	}
	if m.sweep != nil {
		add(2, "sweep "+strconv.Itoa(m.sweep.Count().Left)+" left")
	}
	if f := m.code.File(); f != nil && m.ws.IsOutside(f.Path) {
		add(0, "outside the project")
	} else if f != nil && f.Foreign {
		add(0, "not the project's own")
	}
	if n := m.openFiles(); n > 1 {
		add(4, strconv.Itoa(n)+" files open")
	}
	if n := len(m.unsaved()); n > 0 {
		add(0, strconv.Itoa(n)+" not saved"+m.notKept())
	}
	if m.isWriting() {
		add(0, "WRITE")
	} else {
		add(0, "roam")
	}
	return words
}

// notKept says that what is not saved is not kept beside either, and would be lost.
func (m *Model) notKept() string {
	for _, p := range m.unsaved() {
		if p.unkept != nil {
			return ", NOT kept"
		}
	}
	return ""
}

// messageLine is the line above the strip: a message, or on a narrow screen
// the signpost, or a rule.
func (m *Model) messageLine() string {
	p := m.palette()
	rule := palette.On(p.Rule, p.Ground)
	switch {
	case m.overlay == inFileOverlay:
		return m.inFileLine(p)
	case m.overlay == askOverlay:
		return m.askRow(p)
	case m.message == "" && m.prefix == "" && m.offering():
		return m.nameRow(p)
	case m.prefix != "":
		return m.prefixLine(p)
	case m.marks.lettering:
		return m.letterLine(p)
	case m.message != "":
		return ink.NewRow(m.width).Put(" ▪ ", palette.On(p.Here, p.Ground)).
			Put(ink.Cut(m.message, m.width-4), palette.On(p.Text, p.Ground).Strong()).String(rule)
	case (m.columnWidth() == 0 || m.topLeaf() != nil) && m.overlay != keysOverlay:
		return m.sign.Line(m.width, p)
	}
	return ink.NewRow(m.width).Put(strings.Repeat("─", m.width), rule).String(rule)
}

// cursor is where the terminal's own cursor stands: in the text one types, or
// at the caret.
func (m *Model) cursor() *tea.Cursor {
	x, y, ok := 0, 0, false
	switch m.overlay {
	case askOverlay:
		value := []rune(m.asked.input.Value())
		x = ink.Width(m.asked.words) + ink.Width(string(value[:min(m.asked.input.Position(), len(value))]))
		x, y, ok = min(x, m.width-1), m.bodyHeight(), true
	case inFileOverlay:
		value := []rune(m.inFile.input.Value())
		x = ink.Width(inFilePrompt) + ink.Width(string(value[:min(m.inFile.input.Position(), len(value))]))
		x, y, ok = min(x, m.width-1), m.bodyHeight(), true
	case keysOverlay:
		value := []rune(m.keysPage.input.Value())
		x = ink.Width(keysPrompt) + ink.Width(string(value[:min(m.keysPage.input.Position(), len(value))]))
		x, ok = min(x, m.width-1), true
	case noOverlay:
		x, y, ok = m.code.Cursor()
		if l := m.topLeaf(); l != nil && m.inLeaf() {
			r := m.leafRect()
			x, y = x+r.X, y+r.Y+l.blank+1
			if m.leafBeside() {
				x++ // the rule
			}
			break
		}
		at := m.layout()[m.side.number]
		x, y = x+at.X, y+at.Y
		if m.headed() {
			y++
		}
	default:
		if c, typed := m.cover(m.overlay); typed && c.cursor != nil {
			x, y = c.cursor()
			x, ok = min(x, m.width-1), true
		}
	}
	if !ok {
		return nil
	}
	c := tea.NewCursor(x, y+m.top())
	c.Shape, c.Blink = tea.CursorBlock, false
	if m.isWriting() {
		c.Shape = tea.CursorBar
	}
	if r, g, b, ok := m.palette().Here.Channels(); ok {
		c.Color = color.RGBA{R: r, G: g, B: b, A: 0xff}
	}
	return c
}
