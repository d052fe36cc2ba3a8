// Package leaf lays places beside the code, the line one looks at level with the one that asked. The
// trail does not notice it until one goes there.
package leaf

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/surface"
)

// Finder finds where ways lead; see package workspace.
type Finder interface {
	Along(ctx context.Context, way answer.Way, path string, offset int) (resolve.Result, []answer.Answer)
	Load(ctx context.Context, path string) (*codebase.File, error)
}

// leaf is one of them.
type leaf struct {
	*frame.Side
	how     string // what it shows, and how one comes there for the trail
	answers []answer.Answer
	number  int // of the answer that is shown
	from    place.Place
	row     int  // of the line that asked, counted from the first of the body
	blank   int  // how many rows stay empty above the text, so that it is level
	pinned  bool // it stays when the caret moves on
}

// Host is the program around the leaves.
type Host interface {
	surface.Host
	// Plan is how the screen is divided.
	Plan() frame.Plan
}

// Model is the leaves, which lie on each other.
type Model struct {
	host  Host
	find  Finder
	frame *frame.Frame
	keys  keymap.Map
	stack []*leaf // the topmost last
}

// New makes no leaf yet.
func New(host Host, find Finder, f *frame.Frame, keys keymap.Map) *Model {
	return &Model{host: host, find: find, frame: f, keys: keys}
}

// Any says whether a leaf is laid beside the code.
func (m *Model) Any() bool { return len(m.stack) > 0 }

// Side is that of the topmost leaf; nil if there is none.
func (m *Model) Side() *frame.Side {
	if l := m.top(); l != nil {
		return l.Side
	}
	return nil
}

// Sides are those of all leaves.
func (m *Model) Sides() (all []*frame.Side) {
	for _, l := range m.stack {
		all = append(all, l.Side)
	}
	return all
}

func (m *Model) top() *leaf {
	if n := len(m.stack); n > 0 {
		return m.stack[n-1]
	}
	return nil
}

// wayOf is the way whose places an action lays beside the code.
var wayOf = map[keymap.Action]answer.Way{
	keymap.LeafDefinition:      answer.ToDefinition,
	keymap.LeafType:            answer.ToType,
	keymap.LeafImplementations: answer.ToImplementations,
	keymap.LeafReferences:      answer.ToReferences,
}

// Commands are those that lay something beside the code, and those on what lies there.
func (m *Model) Commands() surface.Commands {
	all := surface.Commands{}
	for a, way := range wayOf {
		all[a] = func() surface.Intent { return m.ask(way, false) }
	}
	for a, do := range map[keymap.Action]func(l *leaf) surface.Intent{
		keymap.LeafInto: m.into, keymap.LeafGo: m.goThere, keymap.LeafPin: m.pin,
		keymap.LeafNext:     func(l *leaf) surface.Intent { return m.next(l, 1) },
		keymap.LeafPrevious: func(l *leaf) surface.Intent { return m.next(l, -1) },
		keymap.LeafUp:       func(l *leaf) surface.Intent { return slide(l, -1) },
		keymap.LeafDown:     func(l *leaf) surface.Intent { return slide(l, 1) },
	} {
		all[a] = func() surface.Intent {
			l := m.top()
			if l == nil {
				return surface.Say("nothing is laid beside the code; {leaf-definition} lays the definition there, {leaf-references} the references")
			}
			return do(l)
		}
	}
	return all
}

// Within are the actions that mean something else in a leaf: what they lead to is laid on it.
func (m *Model) Within() surface.Commands {
	all := surface.Commands{
		keymap.Definition: func() surface.Intent { return m.ask(answer.ToDefinition, false) },
		keymap.Follow:     func() surface.Intent { return m.ask(answer.ToDefinition, true) },
		keymap.Back:       m.TurnBack,
	}
	for a, way := range places.Actions {
		all[a] = func() surface.Intent { return m.ask(way, false) }
	}
	return all
}

// stays are the actions that do in a leaf what they do in the code. All others
// leave it first.
var stays = map[keymap.Action]bool{
	keymap.Up: true, keymap.Down: true, keymap.Left: true, keymap.Right: true, keymap.WordLeft: true, keymap.WordRight: true,
	keymap.PageUp: true, keymap.PageDown: true, keymap.HalfUp: true, keymap.HalfDown: true, keymap.LineStart: true, keymap.LineEnd: true,
	keymap.FileStart: true, keymap.FileEnd: true, keymap.SlideUp: true, keymap.SlideDown: true, keymap.SlideLeft: true, keymap.SlideRight: true, keymap.ToCaret: true,
	keymap.PreviousSymbol: true, keymap.NextSymbol: true, keymap.SymbolStart: true, keymap.SymbolEnd: true, keymap.Parent: true,
	keymap.Bracket: true, keymap.Imports: true, keymap.Grow: true, keymap.Shrink: true,
	keymap.FoldHere: true, keymap.FoldParent: true, keymap.FoldAll: true, keymap.FoldBodies: true, keymap.FoldComments: true, keymap.FoldLevel: true, keymap.FoldNone: true,
	keymap.AllWays: true, keymap.CopyPath: true, keymap.CopyAbsolute: true, keymap.CopyLine: true, keymap.CopyText: true, keymap.Edit: true, keymap.OpenOutside: true,
	keymap.Keys: true, keymap.Palette: true, keymap.Quit: true, keymap.WiderColumn: true, keymap.NarrowerColumn: true,
	// These ask about the name in the leaf, and leave it with the answer.
	keymap.Family: true, keymap.CallTree: true, keymap.Values: true,
	keymap.LeafDefinition: true, keymap.LeafType: true, keymap.LeafImplementations: true, keymap.LeafReferences: true,
	keymap.LeafInto: true, keymap.LeafGo: true, keymap.LeafPin: true, keymap.LeafNext: true, keymap.LeafPrevious: true, keymap.LeafUp: true, keymap.LeafDown: true,
}

// Stays says whether an action is done in a leaf; before any other, the caret goes back into the code.
func Stays(a keymap.Action) bool { return stays[a] }

// pin has the leaf stay, or not any more.
func (m *Model) pin(l *leaf) surface.Intent {
	l.pinned = !l.pinned
	if l.pinned {
		return surface.Say("the leaf stays while you read on; Esc turns it back")
	}
	return surface.Say("the leaf goes when the caret moves on")
}

func slide(l *leaf, lines int) surface.Intent {
	l.Code.Slide(lines)
	return surface.Begin(l.Repaint())
}

// into takes the caret into the leaf, or back into the code.
func (m *Model) into(l *leaf) surface.Intent {
	if m.frame.InLeaf() {
		m.frame.Return()
	} else {
		m.frame.Enter(l.Side)
	}
	return surface.Intent{Caret: true}
}

// answer is the places for a leaf, with the file of the first.
type reply struct {
	way    answer.Way
	result resolve.Result
	places []answer.Answer
	file   *codebase.File
	err    error
	how    string // what the leaf shows, if it is no way
}

// ask finds where a way leads, to lay it beside the code; from a definition on to
// its references, if that is asked for.
func (m *Model) ask(way answer.Way, on bool) surface.Intent {
	here := m.host.Here()
	if here.File == nil || here.File.Facts == nil && way != answer.ToDefinition {
		return here.Lack("no names are known in this file")
	}
	p, offset, find := here.File.Path, here.Offset, m.find
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) reply {
		a := reply{way: way}
		a.result, a.places = find.Along(ctx, way, p, offset)
		if a.result.Here && way == answer.ToDefinition {
			a.places = answer.Elsewhere(a.places, p, a.result.At)
		}
		if on && a.result.Here {
			a.way = answer.ToReferences
			a.result, a.places = find.Along(ctx, a.way, p, offset)
		}
		if len(a.places) > 0 {
			a.file, a.err = whole(ctx, find, a.places[0].Path)
		}
		return a
	}, m.found))
}

// whole loads all of a file, ready to be shown.
func whole(ctx context.Context, find Finder, path string) (*codebase.File, error) {
	f, err := find.Load(ctx, path)
	if err == nil {
		f.Prepare()
	}
	return f, err
}

// found lays what was found beside the code.
func (m *Model) found(a reply) surface.Intent {
	name := a.result.Name
	switch {
	case name == "":
		return surface.Say("there is no name under the caret")
	case len(a.places) == 0 && a.result.Outside != "":
		return places.SayOutside(a.way, a.result)
	case len(a.places) == 0:
		return surface.Say(places.Words[a.way].None, name)
	case a.err != nil:
		return surface.Say("%s cannot be opened: %s", path.Base(a.places[0].Path), text.Reason(a.err))
	case a.result.Here && a.way == answer.ToDefinition && len(a.places) == 1:
		return surface.Say("%s is defined here; {leaf-references} lays its references beside it", name)
	}
	return m.lay(a)
}

// Lay lays a file beside the code, at a place in it, level with the line of the caret, and marks
// parts of it; how says what it shows.
func (m *Model) Lay(how string, f *codebase.File, at answer.Answer, parts []place.Range) surface.Intent {
	todo := m.lay(reply{how: how, places: []answer.Answer{at}, file: f})
	m.top().Code.Found(parts)
	return todo
}

// mostLeaves is how many leaves can lie on each other.
const mostLeaves = 50

func (m *Model) lay(a reply) surface.Intent {
	f := m.frame
	l := &leaf{
		Side: frame.NewSide(-1, func() *surface.Asker { return m.host.Asker(nil) }), answers: a.places,
		from: f.Code.State().Place, row: f.Code.Row(), how: a.how,
	}
	if l.how == "" {
		l.how = fmt.Sprintf(places.Words[a.way].How, a.result.Name)
	}
	within := f.InLeaf()
	if m.host.Plan().Headed() && !within {
		l.row++
	}
	if within { // level with the line in the leaf below
		l.row += m.top().blank + 1
		f.Return()
	} else { // instead of what was looked at before
		m.stack = slices.DeleteFunc(m.stack, func(l *leaf) bool { return !l.pinned })
	}
	m.stack = append(m.stack, l)
	if n := len(m.stack) - mostLeaves; n > 0 {
		m.stack = m.stack[n:]
	}
	l.Code.SetLook(f.CodeLook())
	l.Code.Away(true)
	l.Code.Flush(true)
	todo := surface.Intent{Cmd: m.show(l, a.file), Arrange: true}
	if within {
		f.Enter(l.Side)
		todo.Caret = true
	}
	return todo
}

// show shows the present answer of a leaf, as nearly level with the line that
// asked as there is room for what is defined there.
func (m *Model) show(l *leaf, f *codebase.File) tea.Cmd {
	d := &l.answers[l.number]
	p := m.host.Plan()
	r := p.LeafRect()
	height := max(r.Height-frame.LeafFrame, 1)
	level := min(max(l.row-r.Y-1, 0), max(height-min(linesOf(f, d), height*2/3), 0))
	l.blank = 0
	l.Code.Resize(p.LeafWidth(), height)
	top := d.Line - level
	if top < 1 {
		l.blank = min(1-top, height-1)
		top = 1
	}
	l.Code.Resize(p.LeafWidth(), height-l.blank)
	l.Code.Show(f, trail.View{Place: d.Place(), Top: top})
	l.Code.ToRow(level - l.blank)
	l.Code.Point(d.At)
	l.Crumbs = codebase.Crumbs(f, int(d.At.Start))
	return l.Repaint()
}

// linesOf is how many lines what is defined at a place takes; 4 for anything else.
func linesOf(f *codebase.File, d *answer.Answer) int {
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

// Arrange gives the topmost leaf its size.
func (m *Model) Arrange(p frame.Plan) {
	if l := m.top(); l != nil {
		height := max(p.LeafRect().Height-frame.LeafFrame, 1)
		l.blank = min(l.blank, height-1)
		l.Code.Resize(p.LeafWidth(), height-l.blank)
	}
}

// next shows another answer of a leaf.
func (m *Model) next(l *leaf, step int) surface.Intent {
	n := len(l.answers)
	if n == 1 {
		return surface.Say("this is the only answer")
	}
	type loaded struct {
		file *codebase.File
		err  error
	}
	number, find := ((l.number+step)%n+n)%n, m.find
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) loaded {
		f, err := whole(ctx, find, l.answers[number].Path)
		return loaded{f, err}
	}, func(a loaded) surface.Intent {
		if a.err != nil {
			return surface.Say("%s cannot be opened: %s", path.Base(l.answers[number].Path), text.Reason(a.err))
		}
		l.number = number
		return surface.Intent{Cmd: m.show(l, a.file), Caret: m.frame.InLeaf()}
	}))
}

// TurnBack takes the topmost leaf away: back to the one below it, or to the code.
func (m *Model) TurnBack() surface.Intent {
	within := m.frame.InLeaf()
	m.frame.Return()
	m.stack = m.stack[:len(m.stack)-1]
	todo := surface.Intent{Arrange: true, Caret: true}
	if l := m.top(); l != nil {
		todo.Cmd = l.Repaint()
		if within {
			m.frame.Enter(l.Side)
		}
	}
	return todo
}

// MovedOn takes away the leaves that are not pinned, once the caret has moved on
// from the line that asked for the first of them. It says whether any went.
func (m *Model) MovedOn() bool {
	if len(m.stack) == 0 || m.frame.InLeaf() {
		return false
	}
	at := m.frame.Code.State().Place
	for i, l := range m.stack {
		if l.pinned {
			continue
		}
		if i > 0 && !m.stack[i-1].pinned || l.from.Path == at.Path && l.from.Line == at.Line {
			return false // still there, or asked from the one below it
		}
		m.stack = m.stack[:i]
		return true
	}
	return false
}

// goThere goes for good where the leaf shows.
func (m *Model) goThere(l *leaf) surface.Intent {
	d := l.answers[l.number]
	v := surface.To(d, l.how)
	if m.frame.InLeaf() {
		if at := l.Code.State().Place; at.Path != d.Path || at.Line != d.Line {
			var names []string
			for _, c := range l.Crumbs {
				names = append(names, c.Name)
			}
			v = surface.Visit{Path: at.Path, Line: at.Line, Col: at.Col, How: l.how, Symbol: strings.Join(names, ".")}
		}
	}
	m.frame.Return()
	for i, kept := range m.stack {
		if !kept.pinned {
			m.stack = m.stack[:i]
			break
		}
	}
	todo := surface.Go(v)
	todo.Arrange = true
	return todo
}
