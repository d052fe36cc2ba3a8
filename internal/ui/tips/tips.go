// Package tips says, once and at the end of it, which key would have done at once what was done by several.
package tips

import (
	"path"
	"strings"
	"time"

	"charm.land/bubbles/v2/key"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// Host is the program around the code.
type Host interface {
	// Code is what shows the file in which the caret is.
	Code() *code.Model
	// Leads is where some keys would lead now.
	Leads() Leads
}

// Leads is where some keys would lead; the path of a place is "" where one would lead nowhere.
type Leads struct {
	Back, Forward, Edited place.Place
	// NextView and PreviousView are the files before and behind the present one.
	NextView, PreviousView string
	// Name is the name under the caret, and Definition the file in which it is defined.
	Name, Definition string
}

// Model watches what is done.
type Model struct {
	host   Host
	keys   keymap.Map
	habits *habit.Book
	off    func() surface.Intent
	now    func() time.Time

	run    run
	list   opened
	away   away
	visits map[place.Place]int
	due    keymap.Action // what is to be said when the caret stands still
	shown  bool
}

// run is one command done again and again.
type run struct {
	action keymap.Action
	times  int
	path   string
	offset int // where it began
	line   int // counted from 1
}

// opened is a list that was opened, and where the keys would have led instead.
type opened struct {
	action keymap.Action
	leads  Leads
	from   place.Place
}

// away is how often one went to a definition and came back at once.
type away struct {
	gone  bool
	times int
}

// New makes one that notes what it sees; off ends such tips for good.
func New(host Host, keys keymap.Map, off func() surface.Intent) *Model {
	return &Model{host: host, keys: keys, habits: &habit.Book{}, off: off, now: time.Now, visits: map[place.Place]int{}}
}

// Know has what is seen noted in a book.
func (m *Model) Know(habits *habit.Book) { m.habits = habits }

// on is the key that ends tips while one is shown.
var on = struct{ Off key.Binding }{keymap.On("while a tip is shown: no more of them", "delete")}

// Keys are its keys, and what to call it on the page of keys.
func (m *Model) Keys() (name string, all []key.Binding) { return "tips", keymap.Of(on) }

// Key takes the key that ends tips, if one is shown.
func (m *Model) Key(name string) (todo surface.Intent, taken bool) {
	shown := m.shown
	m.shown = false
	if shown && keymap.Is(name, on.Off) {
		return m.off(), true
	}
	return todo, false
}

// lists are the commands that open a list in which one chooses where to go.
var lists = map[keymap.Action]bool{keymap.Scout: true, keymap.Tree: true, keymap.Outline: true, keymap.TrailTree: true, keymap.Views: true, keymap.InFile: true, keymap.GoLine: true}

// Did notes a command that is about to be done.
func (m *Model) Did(a keymap.Action, named bool) {
	c := m.host.Code()
	line, _ := c.Caret()
	if a != m.run.action || c.Path() != m.run.path {
		m.run = run{action: a, path: c.Path(), offset: c.Offset(), line: line}
	}
	m.run.times++
	m.due = ""
	m.awayAndBack(a)
	if m.list = (opened{}); lists[a] {
		m.list = opened{action: a, leads: m.host.Leads(), from: c.State().Place}
	}
	if u := m.habits.Of(string(a)); named && u.Keyed == 0 && u.Named >= 2 && m.keys.Key(a) != "" {
		m.due = a
	}
}

// awayAndBack notices who goes to a definition only to look at it.
func (m *Model) awayAndBack(a keymap.Action) {
	switch {
	case a == keymap.Definition || a == keymap.Follow:
		m.away.gone = true
		return
	case a == keymap.Back && m.away.gone:
		if m.away.times++; m.away.times >= 2 {
			m.due = keymap.LeafDefinition
		}
	case a == keymap.Up || a == keymap.Down || a == keymap.PageDown || a == keymap.PageUp:
		return // one reads on there
	case a != keymap.Back:
		m.away.times = 0
	}
	m.away.gone = false
}

// Arrived notes that one has come to a place that was chosen in a list.
func (m *Model) Arrived(v surface.Visit, at place.Place) {
	l := m.list
	m.list = opened{}
	if l.action == "" || v.Turn || v.Along != nil {
		return
	}
	switch same := func(p place.Place) bool { return p.Path == at.Path && (v.Line == 0 || near(p.Line, at.Line)) }; {
	case l.leads.Name != "" && l.leads.Definition == at.Path && lastWord(v.Symbol) == l.leads.Name && !(at.Path == l.from.Path && near(at.Line, l.from.Line)):
		m.due = keymap.Definition
	case l.action == keymap.InFile || l.action == keymap.GoLine:
	case l.action != keymap.TrailTree && same(l.leads.Edited) && !same(l.leads.Back) && at.Path != l.from.Path:
		m.due = keymap.EditBack
	case same(l.leads.Back):
		m.due = keymap.Back
	case same(l.leads.Forward):
		m.due = keymap.Forward
	case at.Path == l.from.Path:
	case at.Path == l.leads.NextView:
		m.due = keymap.NextView
	case at.Path == l.leads.PreviousView:
		m.due = keymap.PreviousView
	case goTogether(l.from.Path, at.Path):
		m.due = keymap.Related
	default:
		m.again(at)
	}
}

// again notices who goes to the same place by a list time and again.
func (m *Model) again(at place.Place) {
	at.Col = 0
	if m.visits[at]++; m.visits[at] == 3 {
		m.due = keymap.Bookmark
	}
}

func near(a, b int) bool { return a-b <= 3 && b-a <= 3 }

// lastWord is the last part of a qualified name.
func lastWord(symbol string) string { return symbol[strings.LastIndexAny(symbol, ".:#")+1:] }

// goTogether says whether two files of a folder have the same name but for its end.
func goTogether(a, b string) bool {
	stem := func(p string) string {
		base, _, _ := strings.Cut(path.Base(p), ".")
		return strings.TrimSuffix(strings.TrimPrefix(strings.ToLower(base), "test_"), "_test")
	}
	return path.Dir(a) == path.Dir(b) && stem(a) == stem(b)
}

// Stands is called when the caret has stood still for a while: what is worth saying is said then, if tips are
// wanted; it is noted in any case.
func (m *Model) Stands(wanted bool) surface.Intent {
	a := m.due
	if a == "" {
		a = m.run.better(m.host.Code())
	}
	m.due, m.run = "", run{}
	words, known := words[a]
	if !known && a != "" {
		words = "{" + string(a) + "} does that, too: " + a.Naming().Name
	}
	if a == "" || !m.habits.Missed(string(a), wanted, m.now()) {
		return surface.Intent{}
	}
	m.shown = true
	return surface.Say("tip: %s (%s ends tips)", keymap.Marked(words), keymap.Label("delete"))
}
