package app

import (
	"context"
	"fmt"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/sheet"
)

// leaf is a place laid beside the code, its line level with the one that asked. The
// trail does not notice it until one goes there.
type leaf struct {
	*side
	how     string // what it shows, and how one comes there for the trail
	answers []workspace.Destination
	number  int // of the answer that is shown
	from    place.Place
	row     int  // of the line that asked, counted from the first of the body
	blank   int  // how many rows stay empty above the text, so that it is level
	pinned  bool // it stays when the caret moves on
}

// leafFrame is how many rows a leaf has besides its text: what it shows, and its keys.
const leafFrame = 2

// leaves are the places laid beside the code.
type leaves struct {
	stack  []*leaf // the topmost last
	ground *side   // the side the caret went into the topmost leaf from; nil if it is in the code
}

// topLeaf is the leaf that can be seen; nil if there is none, or a sheet shows something
// else meanwhile.
func (m *Model) topLeaf() *leaf {
	if n := len(m.leaves.stack); n > 0 && m.before == nil {
		return m.leaves.stack[n-1]
	}
	return nil
}

func (m *Model) inLeaf() bool { return m.leaves.ground != nil }

// codeSide is the side of the code, also while the caret is in a leaf.
func (m *Model) codeSide() *side {
	if m.inLeaf() {
		return m.leaves.ground
	}
	return m.side
}

// wayOfLeaf is the way whose places an action lays beside the code.
var wayOfLeaf = map[keymap.Action]workspace.Way{
	keymap.LeafDefinition:      workspace.ToDefinition,
	keymap.LeafType:            workspace.ToType,
	keymap.LeafImplementations: workspace.ToImplementations,
	keymap.LeafReferences:      workspace.ToReferences,
}

// onLeaf carries out an action on leaves, or one that has another meaning in a leaf; ok
// is false for any other.
func (m *Model) onLeaf(a keymap.Action) (cmd tea.Cmd, ok bool) {
	if way, ok := wayOfLeaf[a]; ok {
		return m.askLeaf(way, false), true
	}
	if cmd, ok := m.inOneLeaf(a); ok {
		return cmd, true
	}
	if !m.inLeaf() {
		return nil, false
	}
	if way, ok := wayOf[a]; ok {
		return m.askLeaf(way, false), true
	}
	switch a {
	case keymap.Definition:
		return m.askLeaf(workspace.ToDefinition, false), true
	case keymap.Follow:
		return m.askLeaf(workspace.ToDefinition, true), true
	case keymap.Back:
		return m.turnBack(), true
	case keymap.Family, keymap.CallTree, keymap.Values:
		asked := treeQuestion{treeOf[a], m.code.Path(), m.code.Offset()}
		m.leaveLeaf()
		return m.askBranches(asked, false), true
	}
	if !staysInLeaf[a] {
		m.leaveLeaf()
	}
	return nil, false
}

// treeOf is the tree that an action shows.
var treeOf = map[keymap.Action]workspace.Tree{keymap.Family: workspace.Kin, keymap.CallTree: workspace.Incoming, keymap.Values: workspace.Flows}

// staysInLeaf are the actions that do in a leaf what they do in the code. All others
// leave it first.
var staysInLeaf = map[keymap.Action]bool{
	keymap.Up: true, keymap.Down: true, keymap.Left: true, keymap.Right: true, keymap.WordLeft: true, keymap.WordRight: true,
	keymap.PageUp: true, keymap.PageDown: true, keymap.HalfUp: true, keymap.HalfDown: true, keymap.LineStart: true, keymap.LineEnd: true,
	keymap.FileStart: true, keymap.FileEnd: true, keymap.SlideUp: true, keymap.SlideDown: true, keymap.ToCaret: true,
	keymap.PreviousSymbol: true, keymap.NextSymbol: true, keymap.SymbolStart: true, keymap.SymbolEnd: true, keymap.Parent: true,
	keymap.Bracket: true, keymap.Imports: true, keymap.Grow: true, keymap.Shrink: true,
	keymap.FoldHere: true, keymap.FoldParent: true, keymap.FoldAll: true, keymap.FoldBodies: true, keymap.FoldComments: true, keymap.FoldLevel: true, keymap.FoldNone: true,
	keymap.AllWays: true, keymap.CopyPath: true, keymap.CopyAbsolute: true, keymap.CopyLine: true, keymap.CopyText: true, keymap.Edit: true, keymap.OpenOutside: true,
	keymap.Keys: true, keymap.Palette: true, keymap.Quit: true, keymap.WiderColumn: true, keymap.NarrowerColumn: true,
}

// inOneLeaf carries out an action on the leaf that is there.
func (m *Model) inOneLeaf(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.LeafInto, keymap.LeafNext, keymap.LeafPrevious, keymap.LeafGo, keymap.LeafPin, keymap.LeafUp, keymap.LeafDown:
	default:
		return nil, false
	}
	l := m.topLeaf()
	if l == nil {
		m.say("nothing is laid beside the code; D lays the definition there, T the type, I what implements it, R the references")
		return nil, true
	}
	switch a {
	case keymap.LeafInto:
		if m.inLeaf() {
			m.leaveLeaf()
			return m.caretMoved(), true
		}
		return m.enterLeaf(l), true
	case keymap.LeafNext:
		return m.nextAnswer(l, 1), true
	case keymap.LeafPrevious:
		return m.nextAnswer(l, -1), true
	case keymap.LeafGo:
		return m.goToLeaf(l), true
	case keymap.LeafUp:
		l.code.Slide(-1)
		return l.repaint(), true
	case keymap.LeafDown:
		l.code.Slide(1)
		return l.repaint(), true
	}
	l.pinned = !l.pinned
	if l.pinned {
		m.say("the leaf stays while you read on; Esc turns it back")
		return nil, true
	}
	m.say("the leaf goes when the caret moves on")
	return nil, true
}

// leafMsg brings the places for a leaf, with the file of the first.
type leafMsg struct {
	number int
	way    workspace.Way
	on     bool // from a definition to its references
	result resolve.Result
	places []workspace.Destination
	file   *workspace.File
	err    error
}

// askLeaf finds where a way leads, to lay it beside the code; from a definition on to
// its references, if that is asked for.
func (m *Model) askLeaf(way workspace.Way, on bool) tea.Cmd {
	file := m.code.File()
	if file == nil || file.Facts == nil && way != workspace.ToDefinition {
		m.say("nothing is known of the names in this file")
		return nil
	}
	m.opens++
	m.going = true
	ctx, cancel := context.WithCancel(context.Background())
	m.giveUp = cancel
	number, offset, ws := m.opens, m.code.Offset(), m.ws
	return func() tea.Msg {
		defer cancel()
		res, places := ws.Along(ctx, way, file.Path, offset)
		if on && res.Here {
			way = workspace.ToReferences
			res, places = ws.Along(ctx, way, file.Path, offset)
		}
		msg := leafMsg{number: number, way: way, result: res, places: places}
		if len(places) > 0 {
			msg.file, msg.err = whole(ws, places[0].Path)
		}
		return msg
	}
}

// whole loads all of a file, ready to be shown.
func whole(ws *workspace.Workspace, path string) (*workspace.File, error) {
	f, err := ws.Load(context.Background(), path)
	if err == nil {
		f.Prepare()
	}
	return f, err
}

// leafFound lays what was found beside the code.
func (m *Model) leafFound(msg leafMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	name := msg.result.Name
	words := wayWords[msg.way]
	switch {
	case name == "":
		m.say("there is no name under the caret")
	case len(msg.places) == 0 && msg.result.Outside != "":
		m.sayOutside(msg.way, msg.result)
	case len(msg.places) == 0:
		m.say(words.none, name)
	case msg.err != nil:
		m.say("%s cannot be opened: %s", shortName(msg.places[0].Path), reason(msg.err))
	case msg.result.Here && msg.way == workspace.ToDefinition && len(msg.places) == 1:
		m.say("%s is defined here; R lays its references beside it", name)
	default:
		return m.arrived(m.lay(msg))
	}
	return m.arrived(nil)
}

// mostLeaves is how many leaves can lie on each other.
const mostLeaves = 50

func (m *Model) lay(msg leafMsg) tea.Cmd {
	first, _ := m.code.Shown()
	line, _ := m.code.Caret()
	l := &leaf{side: &side{number: -1}, answers: msg.places, from: m.code.State().Place, row: m.code.RowsBetween(first, line)}
	l.how = fmt.Sprintf(wayWords[msg.way].how, msg.result.Name)
	if m.headed() && !m.inLeaf() {
		l.row++
	}
	within := m.inLeaf()
	if within { // level with the line in the leaf below
		below := m.leaves.stack[len(m.leaves.stack)-1]
		l.row += below.blank + 1
		m.side = m.leaves.ground
		m.leaves.ground = nil
	} else { // instead of what was looked at before
		m.leaves.stack = slices.DeleteFunc(m.leaves.stack, func(l *leaf) bool { return !l.pinned })
	}
	m.leaves.stack = append(m.leaves.stack, l)
	if n := len(m.leaves.stack) - mostLeaves; n > 0 {
		m.leaves.stack = m.leaves.stack[n:]
	}
	l.code.Away(true)
	l.code.Flush(true)
	cmd := m.showAnswer(l, msg.file)
	m.arrange()
	if within {
		return tea.Batch(cmd, m.enterLeaf(l), m.repaint())
	}
	return tea.Batch(cmd, m.repaint())
}

// showAnswer shows the present answer of a leaf, as nearly level with the line that
// asked as there is room for what is defined there.
func (m *Model) showAnswer(l *leaf, f *workspace.File) tea.Cmd {
	d := &l.answers[l.number]
	r := m.leafRect()
	height := max(r.Height-leafFrame, 1)
	level := min(max(l.row-r.Y-1, 0), max(height-min(linesOf(f, d), height*2/3), 0))
	l.blank = 0
	l.code.Resize(m.leafWidth(), height)
	top := d.Line - level
	if top < 1 {
		l.blank = min(1-top, height-1)
		top = 1
	}
	l.code.Resize(m.leafWidth(), height-l.blank)
	l.code.Show(f, trail.View{Place: d.Place(), Top: top})
	l.code.Point(d.At)
	l.crumbs = workspace.Crumbs(f, int(d.At.Start))
	return l.repaint()
}

// linesOf is how many lines what is defined at a place takes; 1 for anything else.
func linesOf(f *workspace.File, d *workspace.Destination) int {
	if f.Facts != nil {
		for i := range f.Facts.Defs {
			if def := &f.Facts.Defs[i]; def.At == d.At {
				last, _ := f.Text.Position(int(def.Full.End))
				return last - d.Line + 2
			}
		}
	}
	return 4
}

// leafRect is where a leaf lies, in cells from the upper left of the body.
func (m *Model) leafRect() panes.Rect {
	height := m.bodyHeight()
	if m.leafBeside() {
		width := m.width / 2
		return panes.Rect{X: m.width - width, Width: width, Height: height}
	}
	below := height / 2
	return panes.Rect{Y: height - below, Width: m.width, Height: below}
}

// leafWidth is how many columns a leaf has for its text; beside the code a rule takes
// one.
func (m *Model) leafWidth() int {
	if m.leafBeside() {
		return max(m.leafRect().Width-1, 1)
	}
	return max(m.width, 1)
}

// leafBeside says whether there is room for a leaf beside the code; else it comes up
// from below.
func (m *Model) leafBeside() bool { return m.width >= signpostWidth }

// answeredMsg brings the file of another answer of a leaf.
type answeredMsg struct {
	opens  int
	leaf   *leaf
	number int
	file   *workspace.File
	err    error
}

// nextAnswer shows another answer of a leaf.
func (m *Model) nextAnswer(l *leaf, step int) tea.Cmd {
	n := len(l.answers)
	if n == 1 {
		m.say("this is the only answer")
		return nil
	}
	m.opens++
	m.going = true
	number, opens, ws := ((l.number+step)%n+n)%n, m.opens, m.ws
	return func() tea.Msg {
		f, err := whole(ws, l.answers[number].Path)
		return answeredMsg{opens, l, number, f, err}
	}
}

func (m *Model) answered(msg answeredMsg) tea.Cmd {
	if msg.opens != m.opens {
		return nil
	}
	if msg.err != nil {
		m.say("%s cannot be opened: %s", shortName(msg.leaf.answers[msg.number].Path), reason(msg.err))
		return m.arrived(nil)
	}
	msg.leaf.number = msg.number
	cmd := m.showAnswer(msg.leaf, msg.file)
	if m.inLeaf() {
		cmd = tea.Batch(cmd, m.caretMoved())
	}
	return m.arrived(cmd)
}

// enterLeaf takes the caret into a leaf.
func (m *Model) enterLeaf(l *leaf) tea.Cmd {
	m.leaves.ground = m.side
	m.side.code.Away(true)
	m.side = l.side
	m.code.Away(false)
	return m.moved()
}

// leaveLeaf takes the caret back into the code.
func (m *Model) leaveLeaf() {
	if !m.inLeaf() {
		return
	}
	m.code.Away(true)
	m.side, m.leaves.ground = m.leaves.ground, nil
	m.code.Away(false)
}

// turnBack takes the topmost leaf away: back to the one below it, or to the code.
func (m *Model) turnBack() tea.Cmd {
	within := m.inLeaf()
	m.leaveLeaf()
	m.leaves.stack = m.leaves.stack[:len(m.leaves.stack)-1]
	m.arrange()
	cmds := []tea.Cmd{m.repaint()}
	if l := m.topLeaf(); l != nil {
		cmds = append(cmds, l.repaint())
		if within {
			return tea.Batch(append(cmds, m.enterLeaf(l))...)
		}
	}
	return tea.Batch(append(cmds, m.caretMoved())...)
}

// dropLeaves takes away the leaves that are not pinned, once the caret has moved on
// from the line that asked for the first of them.
func (m *Model) dropLeaves() bool {
	n := len(m.leaves.stack)
	if n == 0 || m.inLeaf() || m.before != nil {
		return false
	}
	at := m.code.State().Place
	for i, l := range m.leaves.stack {
		if l.pinned {
			continue
		}
		if i > 0 && !m.leaves.stack[i-1].pinned || l.from.Path == at.Path && l.from.Line == at.Line {
			return false // still there, or asked from the one below it
		}
		m.leaves.stack = m.leaves.stack[:i]
		m.arrange()
		return true
	}
	return false
}

// goToLeaf goes for good where the leaf shows.
func (m *Model) goToLeaf(l *leaf) tea.Cmd {
	d := l.answers[l.number]
	o := toDestination(d, l.how)
	if m.inLeaf() {
		if at := m.code.State(); at.Place.Path != d.Path || at.Place.Line != d.Line {
			var names []string
			for _, c := range m.crumbs {
				names = append(names, c.Name)
			}
			o = opening{path: at.Place.Path, line: at.Place.Line, col: at.Place.Col, how: l.how, symbol: strings.Join(names, ".")}
		}
	}
	m.leaveLeaf()
	for i, kept := range m.leaves.stack {
		if !kept.pinned {
			m.leaves.stack = m.leaves.stack[:i]
			break
		}
	}
	m.arrange()
	return m.open(o)
}

// leafRows draws the topmost leaf.
func (m *Model) leafRows(l *leaf, width, height int) []string {
	p := *m.palette()
	ruleStyle := palette.On(p.Rule, p.Ground)
	p.Ground, p.Present = p.Sheet, p.Chosen
	rule, inside := "", width
	if m.leafBeside() {
		rule, inside = ink.NewRow(1).Put("│", ruleStyle).String(ruleStyle), width-1
	}
	rows := []string{rule + m.leafHead(l, inside, &p)}
	blank := ink.NewRow(inside).String(palette.On(p.Quiet, p.Ground))
	for range l.blank {
		rows = append(rows, rule+blank)
	}
	for _, r := range l.code.Rows(&p) {
		rows = append(rows, rule+r)
	}
	for len(rows) < height-1 {
		rows = append(rows, rule+blank)
	}
	return append(rows[:height-1], rule+sheet.Edge(inside, m.leafKeys(l), &p))
}

// leafHead says what a leaf shows.
func (m *Model) leafHead(l *leaf, width int, p *palette.Palette) string {
	quiet, strong := palette.On(p.Quiet, p.Ground), palette.On(p.Here, p.Ground).Strong()
	var words []string
	if n := len(l.answers); n > 1 {
		words = append(words, fmt.Sprintf("%d of %s", l.number+1, sheet.Number(n)))
	}
	if n := len(m.leaves.stack); n > 1 {
		words = append(words, fmt.Sprintf("leaf %d", n))
	}
	if l.pinned {
		words = append(words, "pinned")
	}
	right := strings.Join(words, "  ") + " "
	r := ink.NewRow(width).Put(" "+ink.Cut(l.how, width-ink.Width(right)-3), strong)
	if room := r.Left() - ink.Width(right) - 3; room > 8 {
		r.Put("  "+ink.CutFront(l.code.Path(), room), quiet)
	}
	return r.End(right, quiet, quiet).String(quiet)
}

// leafKeys are those that work on a leaf.
func (m *Model) leafKeys(l *leaf) [][2]string {
	keys := [][2]string{{"Tab", "into it"}, {"G", "go there"}, {"Esc", "turn back"}}
	if m.inLeaf() {
		keys[0] = [2]string{"Tab", "to the code"}
	}
	if len(l.answers) > 1 {
		keys = append(keys, [2]string{"{ }", "other answers"})
	}
	pin := "pin it"
	if l.pinned {
		pin = "let go"
	}
	return append(keys, [2]string{"K", pin})
}
