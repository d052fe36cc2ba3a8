// Package sweeps is the sheet that shows the present sweep, with how far one is with
// each of its places, and the other sweeps to choose from.
package sweeps

import (
	"path"
	"strconv"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/sheet"
)

// Kind is what came of a key.
type Kind uint8

// The kinds.
const (
	Nothing  Kind = iota
	Selected      // another place is chosen; show it
	Taken         // go to the chosen place
	Closed        // put everything back as it was
	Tick          // the chosen place is done, or is not after all
	Aside         // set the chosen place aside, or bring it back
	AsideAll      // set Path aside, or bring it back with all that is in it
	Noted         // Words are the note on the chosen place
	Refresh       // ask the question of the sweep again
	Copy          // hand the sweep on as a checklist
	Chosen        // Sweep is to be the present one
	Renamed       // Words are the name of Sweep
	Removed       // Sweep is to be forgotten
)

// Event is what came of a key, and what it is about.
type Event struct {
	Kind  Kind
	Item  int // the number of the chosen place
	Path  string
	Words string
	Sweep *sweep.Sweep
}

// shown says which places are shown.
type shown uint8

const (
	everything shown = iota
	left
	done
	aside
	gone
	sorts // how many there are
)

func (s shown) String() string { return [...]string{"all", "to do", "done", "set aside", "gone"}[s] }

// question is what is asked in the line one types in.
type question uint8

const (
	none question = iota
	note
	name
	remove
)

// Model is the sheet.
type Model struct {
	// Clock writes times; nil is as usual.
	Clock *sheet.Clock

	picker picker.Model
	height int
	sweep  *sweep.Sweep // the present one, nil for none
	all    []*sweep.Sweep
	choose bool // all sweeps are listed, not the places of one
	only   shown
	names  *fuzzy.Corpus
	asking question
	input  entry.Line
	busy   bool
	colors func(path string, line int) highlight.Spans
}

// New makes a sheet; colors gives the colours of a line of code, as far as they are
// known.
func New(colors func(path string, line int) highlight.Spans) *Model {
	return &Model{picker: picker.New(), input: entry.New(), colors: colors}
}

// Open shows the places of the present sweep, or all sweeps to choose from.
func (m *Model) Open(present *sweep.Sweep, all []*sweep.Sweep, choose bool, height int) {
	m.sweep, m.all, m.choose, m.height = present, all, choose || present == nil, height
	m.asking, m.only, m.busy = none, everything, false
	m.fill()
	at := 0
	if !m.choose {
		at = max(present.At(), 0)
	}
	m.picker.Open(m.list(), at, height-1)
}

// Ask asks for a note on the chosen place.
func (m *Model) Ask() { m.ask(note) }

// Update shows the sweeps as they are now.
func (m *Model) Update(present *sweep.Sweep, all []*sweep.Sweep) {
	at, _ := m.picker.Chosen()
	m.sweep, m.all, m.busy = present, all, false
	m.choose = m.choose || present == nil
	m.fill()
	m.picker.Set(m.list(), at)
}

// Busy says that the question of the sweep is being asked again.
func (m *Model) Busy() {
	m.busy = true
	at, _ := m.picker.Chosen()
	m.picker.Set(m.list(), at)
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) {
	m.height = height
	m.picker.Resize(height - 1)
}

// Item is the number of the chosen place; ok is false if none is chosen.
func (m *Model) Item() (i int, ok bool) {
	if m.choose || m.sweep == nil {
		return 0, false
	}
	return m.picker.Chosen()
}

// fill makes the names to search.
func (m *Model) fill() {
	m.names = &fuzzy.Corpus{}
	if m.choose {
		for _, s := range m.all {
			m.names.Add(s.Name, 0)
		}
		return
	}
	for i := range m.sweep.Items {
		it := &m.sweep.Items[i]
		m.names.Add(it.Path+" "+it.In+" "+it.Text+" "+it.Note, len(it.Path)+1)
	}
}

// list is what is to be picked from.
func (m *Model) list() picker.List {
	if m.choose {
		return m.sweepList()
	}
	s := m.sweep
	c := s.Count()
	l := picker.List{Title: s.Name, Names: m.names, Total: len(s.Items), Holds: m.holds, Row: m.row,
		Below: func(i int) string { return s.Items[i].Note }, Group: func(i int) string { return s.Items[i].Path }, Empty: "no place is " + m.only.String() + "; Tab shows others"}
	for i := range s.Items {
		if m.holds(i) {
			l.Shown = append(l.Shown, i)
		}
	}
	var words []string
	for i, part := range []struct {
		n    int
		what string
	}{{c.Left, "to do"}, {c.Done, "done"}, {c.Aside, "set aside"}, {c.Gone, "gone"}, {c.New, "new"}} {
		if part.n > 0 || i == 0 { // that nothing is left is worth a word
			words = append(words, sheet.Number(part.n)+" "+part.what)
		}
	}
	l.Note = strings.Join(words, ", ")
	if m.only != everything {
		l.Note += "   only: " + m.only.String()
	}
	if m.busy {
		l.Note += "   being asked again …"
	}
	return l
}

// sort says among which places an item is.
func (m *Model) sort(i int) shown {
	switch mark := m.sweep.MarkOf(i); {
	case mark == sweep.Done:
		return done
	case mark == sweep.Aside:
		return aside
	case m.sweep.Items[i].IsGone():
		return gone
	}
	return left
}

func (m *Model) holds(i int) bool {
	return m.choose || m.only == everything || m.sort(i) == m.only
}

// row draws a place: what became of it, its line, where that is.
func (m *Model) row(i int, at []int) sheet.Row {
	it := &m.sweep.Items[i]
	row := sheet.Row{What: string(m.sweep.MarkOf(i)), Name: it.Text, Where: "line " + strconv.Itoa(it.Line),
		Colors: func() highlight.Spans { return m.colors(it.Path, it.Line) }}
	if start := it.Col - 1 - it.Indent; start >= 0 && start+it.Length <= len(it.Text) {
		for b := range it.Length {
			row.At = append(row.At, start+b)
		}
	}
	switch s := m.sort(i); {
	case s == gone && it.Settled:
		row.What = "settled"
	case s == gone:
		row.What = "gone"
	case s == left && it.New:
		row.What = "new"
	case s == left && row.What == "":
		row.What = "to do"
	}
	if it.Role != "" {
		row.Where = it.Role + " in " + it.In + ", " + row.Where
		if it.In == "" {
			row.Where = it.Role + ", line " + strconv.Itoa(it.Line)
		}
	} else if it.In != "" {
		row.Where = "in " + it.In + ", " + row.Where
	}
	if it.Fate == place.Changed && !it.IsGone() {
		row.Where += ", its text has changed"
	}
	if at != nil {
		row.Where = path.Base(it.Path) + " " + strconv.Itoa(it.Line)
	}
	return row
}

func (m *Model) sweepList() picker.List {
	l := picker.List{Title: "sweeps", Names: m.names, Total: len(m.all), Empty: "nothing is kept as a sweep yet; " + keep + " in a list of places keeps it"}
	for i := range m.all {
		l.Shown = append(l.Shown, i)
	}
	l.Row = func(i int, at []int) sheet.Row {
		s := m.all[i]
		c := s.Count()
		row := sheet.Row{What: "sweep", Name: s.Name, At: at, Where: sheet.Number(c.Left) + " of " + sheet.Number(c.All) + " to do, made " + m.Clock.Moment(s.Made)}
		if s == m.sweep {
			row.What = "present"
		}
		return row
	}
	return l
}

// ask asks something in the line one types in.
func (m *Model) ask(what question) {
	value := ""
	i, ok := m.picker.Chosen()
	if !ok {
		return
	}
	switch what {
	case note:
		value = m.sweep.Items[i].Note
	case name:
		value = m.all[i].Name
	}
	m.asking = what
	m.input.Put(value)
}

// Key takes a key or what was pasted.
func (m *Model) Key(msg tea.Msg) Event {
	k, isKey := msg.(tea.KeyPressMsg)
	if m.asking != none {
		return m.answer(msg, k, isKey)
	}
	i, ok := m.picker.Chosen()
	if isKey {
		if e, taken := m.command(k.String(), i, ok); taken {
			return e
		}
	}
	switch m.picker.Update(msg) {
	case picker.Selected:
		return Event{Kind: Selected}
	case picker.Closed:
		return Event{Kind: Closed}
	case picker.Taken:
		if m.choose {
			return Event{Kind: Chosen, Sweep: m.all[i]}
		}
		return Event{Kind: Taken, Item: i}
	}
	return Event{}
}

// command acts on the keys that do something with what is chosen.
func (m *Model) command(k string, i int, ok bool) (e Event, taken bool) {
	switch {
	case keymap.Is(k, on.Sweeps):
		m.choose = !m.choose && len(m.all) > 0 || m.sweep == nil
		m.fill()
		m.picker.Open(m.list(), 0, m.height-1)
		return Event{Kind: Selected}, true
	case keymap.Is(k, on.Only):
		if !m.choose {
			m.only = m.nextOnly()
			m.picker.Set(m.list(), i)
			return Event{Kind: Selected}, true
		}
	case keymap.Is(k, on.Again):
		if !m.choose {
			return Event{Kind: Refresh}, true
		}
	case keymap.Is(k, on.Copy):
		if !m.choose {
			return Event{Kind: Copy}, true
		}
	}
	if !ok {
		return Event{}, strings.HasPrefix(k, "alt+")
	}
	if m.choose {
		switch {
		case keymap.Is(k, on.Rename):
			m.ask(name)
			return Event{}, true
		case keymap.Is(k, on.Aside):
			m.ask(remove)
			return Event{}, true
		}
		return Event{}, false
	}
	switch {
	case keymap.Is(k, on.Tick):
		return Event{Kind: Tick, Item: i}, true
	case keymap.Is(k, on.Aside):
		return Event{Kind: Aside, Item: i}, true
	case keymap.Is(k, on.File):
		return Event{Kind: AsideAll, Item: i, Path: m.sweep.Items[i].Path}, true
	case keymap.Is(k, on.Folder):
		return Event{Kind: AsideAll, Item: i, Path: path.Dir(m.sweep.Items[i].Path)}, true
	case keymap.Is(k, on.Note):
		m.ask(note)
		return Event{}, true
	}
	return Event{}, false
}

// nextOnly is what Tab shows next, of what there is.
func (m *Model) nextOnly() shown {
	have := map[shown]bool{everything: true}
	for i := range m.sweep.Items {
		have[m.sort(i)] = true
	}
	for next := m.only + 1; next < sorts; next++ {
		if have[next] {
			return next
		}
	}
	return everything
}

// answer takes a key while something is asked.
func (m *Model) answer(msg tea.Msg, k tea.KeyPressMsg, isKey bool) Event {
	i, ok := m.picker.Chosen()
	if isKey && (keymap.Is(k.String(), keymap.Ends.Close) || !ok) {
		m.asking = none
		return Event{}
	}
	what := m.asking
	if what == remove {
		if isKey && keymap.Is(k.String(), on.Aside) {
			m.asking = none
			return Event{Kind: Removed, Sweep: m.all[i]}
		}
		return Event{}
	}
	if isKey && keymap.Is(k.String(), keymap.Ends.Take) {
		m.asking = none
		words := strings.TrimSpace(m.input.Value())
		if what == note {
			return Event{Kind: Noted, Item: i, Words: words}
		}
		if words == "" {
			return Event{}
		}
		return Event{Kind: Renamed, Sweep: m.all[i], Words: words}
	}
	m.input.Edit(msg)
	return Event{}
}

const prompt = "  sweep  "

// question is what stands in front of what is typed for an answer.
func (m *Model) question() string {
	if m.asking == note {
		return "  note on this place: "
	}
	return "  name of this sweep: "
}

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	rows := m.picker.Rows(prompt, "letters of a file, a function, a line or a note", width, p)
	quiet := palette.On(p.Quiet, p.Sheet)
	switch m.asking {
	case remove:
		rows[0] = ink.NewRow(width).Put("  forget this sweep, with its marks and notes? "+on.Aside.Help().Key+" does", palette.On(p.Problem, p.Sheet).Strong()).String(quiet)
	case note, name:
		typed, _ := m.input.Behind(m.question(), width)
		rows[0] = ink.NewRow(width).Put(m.question(), quiet).Put(typed, palette.On(p.Text, p.Sheet).Strong()).String(quiet)
	}
	return append(rows, sheet.Edge(width, m.keys(), p))
}

// keys are those that work now.
func (m *Model) keys() [][2]string {
	switch {
	case m.asking == remove:
		return [][2]string{keymap.Hint(on.Aside, "forget it"), keymap.Hint(keymap.Ends.Close, "keep it")}
	case m.asking != none:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "write it down"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.choose:
		keys := [][2]string{keymap.Hint(keymap.Ends.Take, "work on it"), keymap.Hint(on.Rename, "rename"), keymap.Hint(on.Aside, "forget")}
		if m.sweep != nil {
			keys = append(keys, keymap.Hint(on.Sweeps, "the present one"))
		}
		return append(keys, keymap.Hint(keymap.Ends.Close, "back as it was"))
	}
	tick, set := "done", "set aside"
	if i, ok := m.picker.Chosen(); ok {
		if m.sort(i) == done {
			tick = "not done"
		}
		if m.sort(i) == aside {
			set = "bring back"
		}
	}
	return [][2]string{keymap.Hint(keymap.Ends.Take, "go"), keymap.Hint(on.Tick, tick), keymap.Hint(on.Aside, set), keymap.Hint(on.File, "the file"), keymap.Hint(on.Folder, "the folder"), keymap.Hint(on.Note, "note"),
		keymap.Hint(on.Only, m.nextOnly().String()), keymap.Hint(keymap.Ends.Close, "back"), keymap.Hint(on.Again, "ask again"), keymap.Hint(on.Sweeps, "other sweeps"), keymap.Hint(on.Copy, "copy as a checklist")}
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor(width int) int {
	if m.asking == note || m.asking == name {
		_, column := m.input.Behind(m.question(), width)
		return column
	}
	return m.picker.Cursor(prompt, width)
}
