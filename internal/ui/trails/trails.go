// Package trails is the trail on the whole screen: its stops as a tree, what one wrote on
// them, and the other trails of the project.
package trails

import (
	"path"
	"strconv"
	"strings"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/trail"
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
	Selected      // another stop is chosen; show it
	Taken         // go to Stop
	Closed        // put everything back as it was
	Starred       // mark Stop, or take the mark off
	Noted         // Words are the note on Stop
	Named         // Words are the name of Stop
	Cut           // cut Stop away
	Uncut         // bring back what was cut away last
	Exported      // Stops are to be written as a walk to the file Words
	Guided        // walk through Stops
	Trails        // the trails of the project are wanted; see List
	Switched      // go on with the trail ID
	Begun         // a new trail named Words is to begin here
	Joined        // take in the trail ID
	Renamed       // Words are the name of the trail ID
	Removed       // the trail ID is to be forgotten
)

// Event is what came of a key, and what it is about.
type Event struct {
	Kind  Kind
	Stop  *trail.Stop
	Stops []*trail.Stop
	Words string
	// Done says that nothing else was wanted than what came of the key.
	Done bool
	ID   string
}

// question is what is asked in the line one types in.
type question uint8

const (
	none question = iota
	note
	name
	cut
	export
	begin
	rename
	remove
)

// Model is the sheet.
type Model struct {
	// Depth is about how many stops of a long trail are drawn, those where one was last; 0 for as many as is usual.
	Depth int
	// Clock writes times; nil is as usual.
	Clock *sheet.Clock

	picker picker.Model
	height int
	trail  *trail.Trail
	file   string // that of the present stop
	only   trail.Choice
	rows   []trail.Row
	folded map[*trail.Stop]bool
	names  *fuzzy.Corpus
	list   bool // the trails are listed
	abouts []trail.About
	asking question
	once   bool // it was opened for that question only
	input  entry.Line
}

// New makes a sheet.
func New() *Model { return &Model{picker: picker.New(), input: entry.New()} }

// Open shows a trail with the present stop chosen.
func (m *Model) Open(t *trail.Trail, file string, height int) {
	m.trail, m.file, m.height = t, file, height
	m.list, m.asking, m.once, m.only, m.folded = false, none, false, trail.Everything, map[*trail.Stop]bool{}
	m.fill()
	m.picker.Open(m.shown(), m.at(t.Here()), height-1)
}

// List shows the trails of the project.
func (m *Model) List(t *trail.Trail, all []trail.About, height int) {
	m.trail, m.height = t, height
	m.list, m.abouts, m.asking = true, all, none
	m.fill()
	m.picker.Open(m.shown(), 0, height-1)
}

// Listing says that the trails are listed.
func (m *Model) Listing() bool { return m.list }

// Ask asks for a note on the present stop, and for nothing else.
func (m *Model) Ask() {
	m.ask(note)
	m.once = true
}

// Refresh shows the trail as it is now; the chosen stop stays so.
func (m *Model) Refresh() {
	at, _ := m.picker.Chosen()
	s, _ := m.Chosen()
	m.fill()
	if s != nil {
		if now := m.at(s); now >= 0 {
			at = now
		}
	}
	m.picker.Set(m.shown(), max(at, 0))
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) {
	m.height = height
	m.picker.Resize(height - 1)
}

// Chosen is the chosen stop; ok is false if none is.
func (m *Model) Chosen() (s *trail.Stop, ok bool) {
	i, ok := m.picker.Chosen()
	if !ok || m.list || i >= len(m.rows) {
		return nil, false
	}
	return m.rows[i].Stop, true
}

// at is the row of a stop; -1 if it has none.
func (m *Model) at(s *trail.Stop) int {
	for i := range m.rows {
		if m.rows[i].Stop == s {
			return i
		}
	}
	return -1
}

// fill makes the rows, and the names to search.
func (m *Model) fill() {
	m.names, m.rows = &fuzzy.Corpus{}, nil
	if m.list {
		for _, a := range m.abouts {
			m.names.Add(trail.TitleOf(a.Name, a.Made), 0)
		}
		return
	}
	if m.only == trail.Everything {
		m.rows = m.trail.Layout(m.folded, m.depth())
	} else {
		all := m.trail.Choose(m.only, m.file, time.Now())
		for _, s := range all[max(len(all)-m.depth(), 0):] {
			m.rows = append(m.rows, trail.Row{Stop: s})
		}
	}
	for i := range m.rows {
		s := m.rows[i].Stop
		p := s.View.Place.Path
		m.names.Add(p+" "+s.Title()+" "+s.How+" "+s.Note+" "+s.Memory.Text, len(path.Dir(p))+1)
	}
}

// usualDepth is how many stops are drawn, if nothing else is said.
const usualDepth = 2000

func (m *Model) depth() int {
	if m.Depth > 0 {
		return m.Depth
	}
	return usualDepth
}

func (m *Model) shown() picker.List {
	if m.list {
		return m.listOfTrails()
	}
	l := picker.List{Title: m.trail.Title(), Names: m.names, Total: m.trail.Count(), Row: m.row,
		Below: func(i int) string { return m.rows[i].Stop.Note }, Empty: "no stop is " + m.only.String() + "; Tab shows others"}
	for i := range m.rows {
		l.Shown = append(l.Shown, i)
	}
	if m.only == trail.Everything && len(m.rows) >= m.depth() {
		l.Note = "those where you were last; rooktrail trail prints all"
	}
	if m.only != trail.Everything {
		l.Note = "only: " + m.only.String()
	}
	return l
}

// The pieces of the tree.
const (
	beside = "│  "
	turns  = "├─ "
)

// row draws a stop: when, what, where, how one came there and what stands there.
func (m *Model) row(i int, at []int) sheet.Row {
	r := m.rows[i]
	s := r.Stop
	front := strings.Repeat(beside, r.Depth)
	if r.Turns && r.Depth > 0 {
		front = strings.Repeat(beside, r.Depth-1) + turns
	}
	title := s.Title()
	if s == m.trail.Here() {
		title = "[" + title + "]"
	}
	if s.Starred {
		title += " ★"
	}
	if !s.Edited.IsZero() {
		title += " ✎"
	}
	row := sheet.Row{What: m.when(s.Seen, s.At), Reads: true, Name: front + title, Where: path.Base(s.View.Place.Path) + " " + strconv.Itoa(s.View.Place.Line)}
	if s.How != "" {
		row.Where += ", " + s.How
	}
	if r.Skipped > 0 {
		row.Where += ", " + sheet.Count(r.Skipped, "stop", "stops") + " before it left out"
	}
	if r.Hidden > 0 {
		row.Where += ", and " + sheet.Count(r.Hidden, "stop", "stops") + " folded away"
	}
	if s.Fate == place.Gone {
		row.Where += ", gone"
	}
	if s.Memory.Text != "" {
		row.Where += "   " + s.Memory.Text
	}
	return row
}

// when says when one was last at a stop.
func (m *Model) when(seen, came time.Time) string {
	if seen.IsZero() {
		seen = came
	}
	return m.Clock.Short(seen)
}

func (m *Model) listOfTrails() picker.List {
	l := picker.List{Title: "trails", Names: m.names, Total: len(m.abouts), Empty: "there is no other trail; " + on.Begin.Help().Key + " begins one here"}
	for i := range m.abouts {
		l.Shown = append(l.Shown, i)
	}
	l.Row = func(i int, at []int) sheet.Row {
		a := m.abouts[i]
		row := sheet.Row{What: "trail", Name: trail.TitleOf(a.Name, a.Made), At: at, Where: sheet.Count(a.Stops, "stop", "stops")}
		if !a.Made.IsZero() {
			row.Where += ", begun " + m.Clock.Moment(a.Made)
		}
		if !a.Used.IsZero() {
			row.Where += ", last walked " + m.Clock.Moment(a.Used)
		}
		switch {
		case a.Present:
			row.What, row.Name, row.Where = "present", m.trail.Title(), sheet.Count(m.trail.Count(), "stop", "stops")+", begun "+m.Clock.Moment(m.trail.Made)
		case a.Taken:
			row.What, row.Where = "elsewhere", "another program is on it"
		case a.Err != nil:
			row.Where = a.Err.Error()
		}
		return row
	}
	return l
}

// about is the chosen trail; ok is false if none is.
func (m *Model) about() (a trail.About, ok bool) {
	i, ok := m.picker.Chosen()
	if !ok || !m.list || i >= len(m.abouts) {
		return a, false
	}
	return m.abouts[i], true
}

// ask asks something in the line one types in.
func (m *Model) ask(what question) {
	value := ""
	s, _ := m.Chosen()
	a, _ := m.about()
	switch {
	case what == note && s != nil:
		value = s.Note
	case what == name && s != nil:
		value = s.Name
	case what == rename:
		value = a.Name
		if a.Present {
			value = m.trail.Name
		}
	case what == export:
		value = "trail.md"
	}
	if s == nil && (what == note || what == name || what == cut) {
		return
	}
	m.asking = what
	m.input.Put(value)
}

const prompt = "  trail  "

// question is what stands in front of what is typed for an answer.
func (m *Model) question() string {
	return map[question]string{note: "  note on this stop: ", name: "  name of this stop: ", export: "  write it to the file (.md or .json): ",
		begin: "  name of the trail that begins here: ", rename: "  name of this trail: "}[m.asking]
}

// Rows draws the sheet.
func (m *Model) Rows(width int, p *palette.Palette) []string {
	rows := m.picker.Rows(prompt, "letters of a file, a symbol, a line or a note", width, p)
	quiet, problem := palette.On(p.Quiet, p.Sheet), palette.On(p.Problem, p.Sheet).Strong()
	switch m.asking {
	case none:
	case cut:
		s, _ := m.Chosen()
		words := "  cut this stop away? " + on.Cut.Help().Key + " does"
		if n := s.Count(); n > 1 {
			words = "  cut this stop away, with " + sheet.Count(n-1, "stop", "stops") + " behind it? " + on.Cut.Help().Key + " does"
		}
		rows[0] = ink.NewRow(width).Put(words, problem).String(quiet)
	case remove:
		rows[0] = ink.NewRow(width).Put("  forget this trail, with its notes? "+on.Cut.Help().Key+" does", problem).String(quiet)
	default:
		typed, _ := m.input.Behind(m.question(), width)
		rows[0] = ink.NewRow(width).Put(m.question(), quiet).Put(typed, palette.On(p.Text, p.Sheet).Strong()).String(quiet)
	}
	return append(rows, sheet.Edge(width, m.keys(), p))
}

// keys are those that work now.
func (m *Model) keys() [][2]string {
	switch {
	case m.asking == cut || m.asking == remove:
		return [][2]string{keymap.Hint(on.Cut, "do it"), keymap.Hint(keymap.Ends.Close, "keep it")}
	case m.asking != none:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "write it down"), keymap.Hint(keymap.Ends.Close, "leave it")}
	case m.list:
		return [][2]string{keymap.Hint(keymap.Ends.Take, "go on with it"), keymap.Hint(on.Begin, "begin one here"), keymap.Hint(on.Join, "take it into this one"), keymap.Hint(on.Name, "rename"), keymap.Hint(on.Cut, "forget"), keymap.Hint(on.Trails, "the stops"), keymap.Hint(keymap.Ends.Close, "back")}
	}
	return [][2]string{keymap.Hint(keymap.Ends.Take, "go"), keymap.Hint(on.Only, m.only.Next().String()), keymap.Hint(on.Note, "note"), keymap.Hint(on.Name, "name"), keymap.Hint(on.Star, "star"), keymap.Hint(on.Cut, "cut away"), keymap.Hint(on.Uncut, "undo"),
		keymap.Hint(keymap.Ends.Close, "back"), keymap.Hint(on.Trails, "trails"), keymap.Hint(on.Guide, "walk through"), keymap.Hint(on.Export, "to a file"), keymap.Both(on.Unfold, on.Fold, "side path"), keymap.Hint(on.Begin, "begin one")}
}

// Cursor is the column of the caret in the text line.
func (m *Model) Cursor(width int) int {
	if q := m.question(); q != "" {
		_, column := m.input.Behind(q, width)
		return column
	}
	return m.picker.Cursor(prompt, width)
}
