// Package scout is the one box that finds anything: files, symbols and
// commands, in lanes, while one types.
package scout

import (
	"context"
	"path"
	"strconv"
	"strings"

	"charm.land/bubbles/v2/textinput"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/find"
	"rooktrail/internal/core/fuzzy"
	"rooktrail/internal/core/index"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resume"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// Finder finds what the lanes show.
type Finder interface {
	Files(ctx context.Context, query string, limit int) []workspace.FileHit
	Symbols(ctx context.Context, query string, limit int) []index.Hit
	SearchText(ctx context.Context, query find.Query, limit int, yield func([]workspace.TextHit) bool) (workspace.TextReport, error)
	Progress() workspace.Progress
}

// Choice is what a row stands for: a place, or an action.
type Choice struct {
	Place place.Place
	// Symbol is the qualified name of the symbol at the place, if it is one.
	Symbol string
	// Offset is the byte at which what was found begins, and Length how long it
	// is; 0 if it is a file or a line.
	Offset, Length int
	// How says in a few words how it was found, for the trail.
	How    string
	Action keymap.Action
	// Text says that it is a hit in the text of a file.
	Text bool
	// Stop is the number of the stop of the trail that it is, counted from 1; 0 if it is
	// none. Mark is the key of the bookmark that it is, "" if it is none.
	Stop int
	Mark string
}

// Event is what came of a key.
type Event uint8

// The events.
const (
	Nothing  Event = iota
	Selected       // another row is chosen; show its place
	Taken          // the chosen row is what was wanted
	Waiting        // the best row will be taken as soon as it is found
	Closed         // put everything back as it was
	Kept           // all places of the text are to be kept as a sweep; see TextQuery
)

// The lanes.
const (
	laneRecent   = "recent files"
	lanePlaces   = "recent places"
	laneStops    = "stops"
	laneMarks    = "bookmarks"
	laneOpen     = "open files"
	laneLine     = "line"
	laneFiles    = "files"
	laneSymbols  = "symbols"
	laneCommands = "commands"
	laneText     = "text"
)

// mostHits is how many answers a lane has at the most.
const mostHits = 200

// Model is the scout.
type Model struct {
	finder    Finder
	commands  []keymap.Binding
	input     textinput.Model
	list      sheet.Model
	lanes     []lane
	wide      string // the lane that has the whole sheet, if any
	before    Before
	edited    bool // only where something was changed is shown before anything is typed
	present   place.Place
	lines     int // of the present file
	height    int
	number    int  // of the latest search
	looking   bool // that search is under way
	moved     bool // the user has moved the choice since typing
	taking    bool // what is found first is to be taken
	reading   bool // the text of the files is being searched
	text      lane // what was found there
	how       find.Query
	cancel    context.CancelFunc
	searching context.Context // of the search under way
}

// lane is one kind of answer.
type lane struct {
	title string
	rows  []sheet.Row
	best  fuzzy.Match
	full  bool   // there may be more than was looked for
	note  string // what else there is to say, such as why there are no rows
	// groups are the rows in another order and with more around them, for when
	// the lane has the whole sheet; nil if there is no such.
	groups []sheet.Section
}

// New makes a scout.
func New(finder Finder, commands []keymap.Binding) *Model {
	in := entry.New()
	return &Model{finder: finder, commands: commands, input: in}
}

// Open shows the scout empty, with where one was before; present is where one is, in a file
// of so many lines.
func (m *Model) Open(before Before, present place.Place, lines, height int) {
	m.before, m.present, m.lines = before, present, lines
	m.input.Reset()
	m.wide, m.height, m.moved, m.edited, m.text = "", height, false, false, lane{}
	m.stop()
	m.lanes = m.idle()
	m.list.Set(m.sections(), 0)
}

// ListOpen shows the files that are open, in a lane of their own that has the
// whole sheet.
func (m *Model) ListOpen(paths []string) {
	open := lane{title: laneOpen}
	chosen := 0
	for i, p := range paths {
		open.rows = append(open.rows, m.before.fileRow(p, nil, 0, "open file"))
		if p == m.present.Path {
			chosen = i
		}
	}
	m.lanes, m.wide, m.moved = append([]lane{open}, m.lanes...), laneOpen, true
	m.list.Set(m.sections(), chosen)
}

// stop ends the search that is under way.
func (m *Model) stop() {
	m.number++
	m.looking, m.taking, m.reading = false, false, false
	if m.cancel != nil {
		m.cancel()
		m.cancel = nil
	}
}

// Resize tells how many lines the sheet takes, its edges included.
func (m *Model) Resize(height int) {
	if m.height != height {
		m.height = height
		m.list.Update(m.sections())
	}
}

// SetText sets how the text of the files is searched.
func (m *Model) SetText(t resume.Text) {
	m.how.Word, m.how.Case, m.how.Regexp = t.Word, t.Case, t.Regexp
}

// Text is how the text of the files is searched.
func (m *Model) Text() resume.Text {
	return resume.Text{Word: m.how.Word, Case: m.how.Case, Regexp: m.how.Regexp}
}

// Query is what was typed.
func (m *Model) Query() string { return m.input.Value() }

// TextQuery is what is looked for in the text of the files.
func (m *Model) TextQuery() find.Query {
	q := m.how
	q.Pattern = m.input.Value()
	return q
}

// idle are the lanes before anything is typed: where one was, and what one
// could do.
func (m *Model) idle() []lane {
	recent := lane{title: laneRecent}
	files, places := m.before.Files, lane{title: lanePlaces}
	if m.edited {
		files, recent.note, places.note = m.before.EditedFiles, "only where something was changed", "only edit places"
	}
	for _, p := range files {
		recent.rows = append(recent.rows, m.before.fileRow(p, nil, 0, "recent file"))
	}
	for i := range m.before.Stops {
		if s := &m.before.Stops[i]; s.Edited || !m.edited {
			places.rows = append(places.rows, s.row(nil))
		}
	}
	commands := lane{title: laneCommands}
	for _, c := range m.commands {
		commands.rows = append(commands.rows, commandRow(c, nil))
	}
	return []lane{recent, places, commands}
}

// Chosen is what the chosen row stands for.
func (m *Model) Chosen() (Choice, bool) {
	row, _, ok := m.list.Chosen()
	if !ok {
		return Choice{}, false
	}
	c, ok := row.Value.(Choice)
	return c, ok
}

// foundMsg brings the answers of a search.
type foundMsg struct {
	number int
	lanes  []lane
}

// Update takes a message. Keys that belong to the text line are left to it.
func (m *Model) Update(msg tea.Msg) (tea.Cmd, Event) {
	switch msg := msg.(type) {
	case foundMsg:
		return nil, m.take(msg)
	case textMsg:
		return m.takeText(msg)
	case tea.KeyPressMsg:
		return m.key(msg)
	}
	return m.edit(msg)
}

// take shows the answers of a search, unless a later one is under way.
func (m *Model) take(msg foundMsg) Event {
	if msg.number != m.number {
		return Nothing
	}
	before, _ := m.Chosen()
	taking := m.taking
	m.lanes, m.looking = append(msg.lanes, m.text), false
	m.taking = taking && !m.sure() && (!m.finder.Progress().Done || m.reading && m.rowless())
	if m.moved {
		m.list.Update(m.sections())
	} else {
		m.list.Set(m.sections(), 0)
	}
	after, ok := m.Chosen()
	switch {
	case m.taking: // it may come yet
	case taking && ok:
		return Taken
	case taking || after != before:
		return Selected
	}
	return Nothing
}

// sure says that the best answer is surely what was meant, so that nothing
// better is to be expected from files that are yet to be read.
func (m *Model) sure() bool {
	if len(m.lanes) == 0 || len(m.lanes[0].rows) == 0 {
		return false
	}
	first := m.lanes[0]
	switch first.title {
	case laneText:
		return !m.reading
	case laneSymbols:
		c, _ := first.rows[0].Value.(Choice)
		return strings.EqualFold(lastName(c.Symbol), lastName(m.Query()))
	case laneFiles:
		return first.best.Close && m.finder.Progress().Listed
	}
	return true
}

// lastName is what stands behind the last dot or blank.
func lastName(s string) string { return s[strings.LastIndexAny(s, ". ")+1:] }

// TakeNow takes the best answer there is, without waiting for a better one.
func (m *Model) TakeNow() (Event, bool) {
	if _, ok := m.Chosen(); !ok || m.looking {
		return Nothing, false
	}
	m.stop()
	return Taken, true
}

func (m *Model) key(k tea.KeyPressMsg) (tea.Cmd, Event) {
	switch k.String() {
	case "esc":
		m.stop()
		return nil, Closed
	case "enter":
		if m.Query() != "" && !m.moved && (m.looking || !m.sure() && !m.finder.Progress().Done || m.reading && m.rowless()) {
			m.taking = true
			return nil, Waiting
		}
		if _, ok := m.Chosen(); !ok {
			return nil, Nothing
		}
		m.stop()
		return nil, Taken
	case "down", "ctrl+n":
		return nil, m.move(1)
	case "up", "ctrl+p":
		return nil, m.move(-1)
	case "pgdown":
		return nil, m.move(max(m.rows()-1, 1))
	case "pgup":
		return nil, m.move(-max(m.rows()-1, 1))
	case "tab":
		m.widen()
		return nil, Nothing
	case "alt+r":
		m.how.Regexp = !m.how.Regexp
		return m.search(), Nothing
	case "alt+k":
		if len([]rune(m.input.Value())) >= shortestText {
			return nil, Kept
		}
		return nil, Nothing
	case "alt+w":
		m.how.Word = !m.how.Word
		return m.search(), Nothing
	case "alt+c":
		m.how.Case = !m.how.Case
		return m.search(), Nothing
	case "alt+e":
		if m.Query() == "" {
			m.edited, m.moved = !m.edited, false
			m.wide, m.lanes = "", m.idle()
			m.list.Set(m.sections(), 0)
			return nil, Selected
		}
		return nil, Nothing
	case "ctrl+space":
		m.moved = true
		m.list.Wrap()
		return nil, Selected
	case "space":
		if m.input.Value() == "" {
			m.moved = true
			m.list.Wrap()
			return nil, Selected
		}
	}
	return m.edit(k)
}

func (m *Model) move(rows int) Event {
	_, before, _ := m.list.Chosen()
	m.list.Move(rows)
	m.moved = true
	if _, after, _ := m.list.Chosen(); after == before {
		return Nothing
	}
	return Selected
}

// widen gives the lane of the chosen row the whole sheet, or takes it back;
// the row stays chosen.
func (m *Model) widen() {
	chosen, _ := m.Chosen()
	if m.wide != "" {
		m.wide = ""
	} else {
		m.wide = m.list.Section()
	}
	m.list.Set(m.sections(), 0)
	for i := range m.list.Len() {
		if c, _ := m.Chosen(); c == chosen {
			break
		}
		if i == m.list.Len()-1 {
			m.list.Move(-m.list.Len())
			break
		}
		m.list.Move(1)
	}
}

// edit hands a message to the text line and searches anew if the text changed.
func (m *Model) edit(msg tea.Msg) (tea.Cmd, Event) {
	before := m.input.Value()
	var cmd tea.Cmd
	m.input, cmd = m.input.Update(msg)
	if m.input.Value() == before {
		return cmd, Nothing
	}
	m.moved = false
	m.text = lane{}
	if m.input.Value() == "" {
		m.stop()
		m.wide, m.lanes = "", m.idle()
		m.list.Set(m.sections(), 0)
		return cmd, Selected
	}
	return tea.Batch(cmd, m.search()), Nothing
}

// search looks for what is typed, as a command, and cancels the search before.
func (m *Model) search() tea.Cmd {
	typed := m.input.Value()
	if typed == "" {
		return nil
	}
	m.stop()
	ctx, cancel := context.WithCancel(context.Background())
	m.cancel, m.searching, m.looking = cancel, ctx, true
	number, s := m.number, finding{finder: m.finder, commands: m.commands, before: m.before, present: m.present, lines: m.lines}
	names := func() tea.Msg {
		lanes := s.lanes(ctx, typed)
		if ctx.Err() != nil {
			return nil
		}
		return foundMsg{number: number, lanes: lanes}
	}
	return tea.Batch(names, m.searchText(ctx, typed))
}

// Refresh looks again for what is typed, since more of the project is known.
func (m *Model) Refresh() tea.Cmd {
	if m.looking {
		return nil
	}
	taking := m.taking
	cmd := m.search()
	m.taking = taking
	return cmd
}

// finding is what a search needs to know, apart from the screen.
type finding struct {
	finder   Finder
	commands []keymap.Binding
	before   Before
	present  place.Place
	lines    int
}

// lanes finds the answers of all lanes and puts the lane with the best one
// first.
func (s finding) lanes(ctx context.Context, typed string) []lane {
	query := place.Split(typed)
	if n, err := strconv.Atoi(typed); err == nil && n > 0 && s.present.Path != "" {
		return append([]lane{s.line(n)}, s.find(ctx, place.Place{Path: typed}, typed)...)
	}
	return s.find(ctx, query, typed)
}

func (s finding) find(ctx context.Context, query place.Place, typed string) []lane {
	lanes := []lane{s.files(ctx, query, typed), s.symbols(ctx, query, typed), s.remembered(laneMarks, s.before.Marks, typed), s.remembered(laneStops, s.before.Stops, typed), s.matchCommands(typed)}
	for i := 1; i < len(lanes); i++ {
		for j := i; j > 0 && before(lanes[j], lanes[j-1]); j-- {
			lanes[j], lanes[j-1] = lanes[j-1], lanes[j]
		}
	}
	return lanes
}

// before says whether lane a belongs above lane b.
func before(a, b lane) bool {
	if len(a.rows) == 0 || len(b.rows) == 0 {
		return len(a.rows) > len(b.rows)
	}
	return a.best.Better(b.best)
}

func (s finding) line(n int) lane {
	name := "line " + sheet.Number(n) + " of " + path.Base(s.present.Path)
	if n > s.lines {
		name += ", which has " + sheet.Count(s.lines, "line", "lines")
	}
	return lane{title: laneLine, rows: []sheet.Row{{
		What: "go to", Name: name,
		Value: Choice{Place: place.Place{Path: s.present.Path, Line: n, Col: 1}, How: "line " + strconv.Itoa(n)},
	}}}
}

func (s finding) files(ctx context.Context, query place.Place, typed string) lane {
	hits := s.finder.Files(ctx, query.Path, mostHits)
	l := lane{title: laneFiles, full: len(hits) == mostHits}
	for i, h := range hits {
		if i == 0 {
			l.best = h.Match
		}
		row := s.before.fileRow(h.Path, h.Match.At, query.Line, "file: "+typed)
		l.rows = append(l.rows, row)
	}
	return l
}

func (s finding) symbols(ctx context.Context, query place.Place, typed string) lane {
	if query.Line > 0 {
		return lane{title: laneSymbols}
	}
	hits := s.finder.Symbols(ctx, typed, mostHits)
	l := lane{title: laneSymbols, full: len(hits) == mostHits}
	for i, h := range hits {
		if i == 0 {
			l.best = h.Match
		}
		l.rows = append(l.rows, sheet.Row{
			What: h.Kind.String(), Name: h.Qualified(), At: h.Match.At,
			Where: h.Path + " " + strconv.Itoa(h.Line),
			Value: Choice{Place: place.Place{Path: h.Path, Line: h.Line}, Symbol: h.Qualified(), Offset: h.Offset, Length: len(h.Name), How: "symbol: " + typed},
		})
	}
	return l
}

func (s finding) matchCommands(typed string) lane {
	var c fuzzy.Corpus
	for _, b := range s.commands {
		c.Add(b.Title, 0)
	}
	q := fuzzy.Parse(typed)
	l := lane{title: laneCommands}
	for _, h := range c.Search(context.Background(), q, fuzzy.Whole, len(s.commands)) {
		m, _ := q.Match(s.commands[h.Index].Title, 0)
		if !m.Close {
			continue // nobody asks for a command in such a way
		}
		if len(l.rows) == 0 {
			l.best = m
		}
		l.rows = append(l.rows, commandRow(s.commands[h.Index], m.At))
	}
	return l
}

func (b Before) fileRow(p string, at []int, line int, how string) sheet.Row {
	dir, base := path.Split(p)
	row := sheet.Row{What: "file", Name: base, Where: dir, Value: Choice{Place: place.Place{Path: p, Line: line}, How: how}}
	if b.Unsaved[p] {
		row.What = "not saved"
	}
	if line > 0 {
		row.Name += " " + strconv.Itoa(line)
	}
	for _, i := range at {
		if i < len(dir) {
			row.WhereAt = append(row.WhereAt, i)
		} else {
			row.At = append(row.At, i-len(dir))
		}
	}
	return row
}

func commandRow(b keymap.Binding, at []int) sheet.Row {
	return sheet.Row{What: "command", Name: b.Title, At: at, Key: b.Labels(1), Value: Choice{Action: b.Action}}
}
