// Package scout is the one box that finds anything: files, symbols and
// commands, in lanes, while one types.
package scout

import (
	"context"
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/ui/entry"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Finder finds what the lanes show.
type Finder interface {
	Files(ctx context.Context, query string, limit int) []search.FileHit
	Symbols(ctx context.Context, query string, limit int) []index.Hit
	SearchText(ctx context.Context, query find.Query, limit int, yield func([]search.TextHit) bool) (search.TextReport, error)
	Progress() codebase.Progress
	// Choose remembers what was gone to after typing a query, so that it ranks higher the next time.
	Choose(path, symbol, query string) error
}

// Around is what the scout asks about what else there is.
type Around interface {
	// Before is where one was before, and what one has marked; here is the file one is in.
	Before(here string) Before
	// Open are the files that are open.
	Open() []string
	// Stop is the way to a stop of the trail by its number, counted from 1.
	Stop(number int) (surface.Visit, bool)
	// Mark goes to the bookmark of a key.
	Mark(key, how string) surface.Intent
	// Standings are what the commands would act on just now, and why some cannot be done.
	Standings() map[keymap.Action]surface.Standing
	// Settings are those that count; ShowSetting opens the page at one of them.
	Settings() *settings.Settings
	ShowSetting(key string) surface.Intent
	// Recent are the commands that were done by their names, the latest first.
	Recent() []keymap.Action
	// KeepText keeps all places where a text is found as a sweep.
	KeepText(q find.Query) surface.Intent
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
	// Setting is the key of the setting that it is, "" if it is none.
	Setting string
	// Press is the key of the scout itself that it stands for, "" if it is for none.
	Press string
}

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
	laneSettings = "settings"
	laneText     = "text"
)

// mostHits is how many answers a lane has at the most.
const mostHits = 200

// Model is the scout.
type Model struct {
	surface.Size
	host     surface.Host
	finder   Finder
	around   Around
	asker    *surface.Asker // of what is found by names
	reader   *surface.Asker // of what is found in the text of the files
	offers   offers
	options  options
	input    entry.Line
	list     sheet.Model
	lanes    []lane // all of them, as they are shown
	named    []lane // those of names
	wide     string // the lane that has the whole sheet, if any
	before   Before
	edited   bool // only where something was changed is shown before anything is typed
	present  place.Place
	lines    int         // of the present file
	looking  bool        // the search by names is under way
	moved    bool        // the user has moved the choice since typing
	want     place.Place // of the row that is to be chosen as soon as it is there
	wantText bool        // it is one that was found in a text
	taking   bool        // what is found first is to be taken
	reading  bool        // the text of the files is being searched
	text     lane        // what was found there
	how      find.Query
}

// lane is one kind of answer.
type lane struct {
	title  string
	rows   []sheet.Row
	best   fuzzy.Match
	full   bool   // there may be more than was looked for
	sure   bool   // what was typed is the whole name of a command or a setting, in several words
	called bool   // what was typed is what people call a command or a setting
	guess  bool   // only some of what was typed is in them, or not as it was typed
	note   string // what else there is to say, such as why there are no rows
	// groups are the rows in another order and with more around them, for when
	// the lane has the whole sheet; nil if there is no such.
	groups []sheet.Section
}

// New makes a scout.
func New(host surface.Host, finder Finder, around Around, keys keymap.Map) *Model {
	m := &Model{host: host, finder: finder, around: around, offers: newOffers(keys), options: newOptions(), input: entry.New()}
	m.asker, m.reader = host.Asker(m), host.Asker(m)
	return m
}

// Commands are what opens the scout.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{keymap.Scout: m.Open, keymap.Views: func() surface.Intent {
		todo := m.Open()
		m.listOpen(m.around.Open())
		return todo
	}}
}

// Open shows the scout empty, with where one was before.
func (m *Model) Open() surface.Intent {
	here := m.host.Here()
	m.before, m.present, m.lines = m.around.Before(here.View.Place.Path), here.View.Place, 0
	if here.File != nil {
		m.lines = here.File.Text.Lines()
	}
	m.input.Reset()
	m.wide, m.moved, m.edited, m.text, m.want = "", false, false, lane{}, place.Place{}
	m.stop()
	m.options.set = *m.around.Settings()
	m.offers.standings, m.offers.recent = m.around.Standings(), m.around.Recent()
	m.lanes = m.idle()
	m.list.Set(m.sections(), 0)
	return surface.Intent{Open: m}
}

// listOpen shows the files that are open, in a lane of their own that has the
// whole sheet.
func (m *Model) listOpen(paths []string) {
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
	m.looking, m.taking, m.reading = false, false, false
	m.asker.Cancel()
	m.reader.Cancel()
}

// Closed implements surface.Surface.
func (m *Model) Closed() { m.stop() }

// Busy implements surface.Surface: the best row is taken as soon as it is found, and keys are meant
// for where it leads.
func (m *Model) Busy() bool { return m.taking }

// Resize implements surface.Surface.
func (m *Model) Resize(width, height int) {
	if changed := m.Height != height; changed {
		m.Size.Resize(width, height)
		m.list.Update(m.sections())
	}
	m.Size.Resize(width, height)
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
	return []lane{recent, places, m.offers.all()}
}

// Left implements surface.Reopened.
func (m *Model) Left() *resume.Last {
	if m.Query() == "" {
		return nil
	}
	c, _ := m.Chosen()
	if c.Action != "" || c.Setting != "" { // what was done by its name is no list to come back to
		return nil
	}
	last := &resume.Last{List: "search", Title: "what was found for " + m.Query(), How: "text: " + m.Query(), Query: m.Query(), At: c.Place}
	if c.Text {
		q := m.TextQuery()
		last.Source = sweep.Source{Kind: sweep.OfText, Query: &q}
	}
	return last
}

// Again implements surface.Reopened: what was typed is looked for again.
func (m *Model) Again(last resume.Last) surface.Intent {
	todo := m.Open()
	m.input.Put(last.Query)
	m.want, m.wantText = last.At, last.Source.Kind == sweep.OfText
	return todo.And(m.typed())
}

// choose chooses the row that is wanted, once it is there, unless one has moved since.
func (m *Model) choose() {
	if m.want.Path == "" || m.moved {
		return
	}
	for i, row := range m.list.All() {
		if c, ok := row.Value.(Choice); ok && c.Place == m.want && c.Text == m.wantText && c.Stop == 0 {
			m.list.Move(-m.list.Len())
			m.list.Move(i)
			m.want, m.moved = place.Place{}, true
			return
		}
	}
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

// Update implements surface.Surface. Keys that belong to the text line are left to it.
func (m *Model) Update(msg tea.Msg) surface.Intent {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		return m.key(k)
	}
	return m.edit(msg)
}

// show shows the answers of a search.
func (m *Model) show(lanes []lane) surface.Intent {
	before, _ := m.Chosen()
	taking := m.taking
	m.named, m.looking = lanes, false
	m.arrange()
	m.taking = taking && !m.sure() && (!m.finder.Progress().Done || m.reading && m.rowless())
	if m.moved {
		m.list.Update(m.sections())
	} else {
		m.list.Set(m.sections(), 0)
	}
	m.choose()
	after, ok := m.Chosen()
	switch {
	case m.taking: // it may come yet
	case taking && ok:
		return m.take()
	case taking || after != before:
		return m.selected()
	}
	return surface.Intent{}
}

// arrange puts the lanes in order: what is found by names, then by text, and then what was only guessed.
func (m *Model) arrange() {
	m.lanes = nil
	for _, l := range m.named {
		if !l.guess {
			m.lanes = append(m.lanes, l)
		}
	}
	m.lanes = append(m.lanes, m.text)
	for _, l := range m.named {
		if l.guess {
			m.lanes = append(m.lanes, l)
		}
	}
}

// selected shows the place of the chosen row beneath.
func (m *Model) selected() surface.Intent {
	c, ok := m.Chosen()
	if !ok || c.Action != "" || c.Setting != "" || c.Press != "" {
		return surface.LookBack()
	}
	return surface.Look(m.visit(c))
}

func (m *Model) visit(c Choice) surface.Visit {
	if v, ok := m.around.Stop(c.Stop); ok {
		return v
	}
	v := surface.Visit{Path: c.Place.Path, Line: c.Place.Line, Col: c.Place.Col, How: c.How, Symbol: c.Symbol}
	if c.Length > 0 {
		v.Name = place.Range{Start: uint32(c.Offset), End: uint32(c.Offset + c.Length)}
	}
	return v
}

// take goes where the chosen row leads, or does what it says.
func (m *Model) take() surface.Intent {
	c, _ := m.Chosen()
	query := m.Query()
	if c.Press != "" { // what was typed was to find the key, and nothing else
		m.input.Reset()
		return m.typed().And(m.Update(keyboard.Press(c.Press)))
	}
	m.stop()
	switch {
	case c.Action != "":
		return surface.Intent{Close: true, Do: c.Action, Named: true}
	case c.Setting != "":
		return surface.Close().And(m.around.ShowSetting(c.Setting))
	case c.Mark != "":
		return surface.Intent{Leave: true}.And(m.around.Mark(c.Mark, c.How))
	}
	todo := surface.Go(m.visit(c))
	if query != "" && c.Place.Path != "" && !c.Text && c.Stop == 0 {
		finder := m.finder
		todo.Cmd = surface.Do(m.asker, func(context.Context) error { return finder.Choose(c.Place.Path, c.Symbol, query) }, surface.SayError)
	}
	return todo
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

// Now implements surface.Impatient: it takes the best answer there is, without waiting for a better
// one.
func (m *Model) Now() surface.Intent {
	if _, ok := m.Chosen(); !ok || m.looking {
		return surface.Intent{}
	}
	return m.take()
}

func (m *Model) key(k tea.KeyPressMsg) surface.Intent {
	switch {
	case keymap.Is(k.String(), keymap.Ends.Close):
		m.stop()
		return surface.Close()
	case keymap.Is(k.String(), keymap.Ends.Take):
		if m.Query() != "" && !m.moved && (m.looking || !m.sure() && !m.finder.Progress().Done || m.reading && m.rowless()) {
			m.taking = true
			return surface.Intent{}
		}
		if _, ok := m.Chosen(); !ok {
			return surface.Intent{}
		}
		return m.take()
	case keymap.Is(k.String(), keymap.Moves.Down):
		return m.move(1)
	case keymap.Is(k.String(), keymap.Moves.Up):
		return m.move(-1)
	case keymap.Is(k.String(), keymap.Moves.PageDown):
		return m.move(max(m.rows()-1, 1))
	case keymap.Is(k.String(), keymap.Moves.PageUp):
		return m.move(-max(m.rows()-1, 1))
	case keymap.Is(k.String(), on.Wide):
		m.widen()
		return surface.Intent{}
	case keymap.Is(k.String(), on.Regexp):
		m.how.Regexp = !m.how.Regexp
		return m.toggled()
	case keymap.Is(k.String(), on.Keep):
		if len([]rune(m.input.Value())) >= shortestText {
			return surface.Close().And(m.around.KeepText(m.TextQuery()))
		}
		return surface.Intent{}
	case keymap.Is(k.String(), on.Words):
		m.how.Word = !m.how.Word
		return m.toggled()
	case keymap.Is(k.String(), on.Case):
		m.how.Case = !m.how.Case
		return m.toggled()
	case keymap.Is(k.String(), on.Edited):
		if m.Query() == "" {
			m.edited, m.moved = !m.edited, false
			m.wide, m.lanes = "", m.idle()
			m.list.Set(m.sections(), 0)
			return m.selected()
		}
		return surface.Intent{}
	case keymap.Is(k.String(), on.It):
		return m.typeName()
	case keymap.Is(k.String(), on.Again):
		m.moved = true
		m.list.Wrap()
		return m.selected()
	case keymap.Is(k.String(), on.Next):
		if m.input.Value() == "" {
			m.moved = true
			m.list.Wrap()
			return m.selected()
		}
	}
	return m.edit(k)
}

// typeName types the name that is under the caret.
func (m *Model) typeName() surface.Intent {
	name := m.host.Here().Word()
	if name == "" {
		return surface.Say("there is no name under the caret")
	}
	m.input.Put(name)
	return m.typed()
}

func (m *Model) move(rows int) surface.Intent {
	_, before, _ := m.list.Chosen()
	m.list.Move(rows)
	m.moved = true
	if _, after, _ := m.list.Chosen(); after == before {
		return surface.Intent{}
	}
	return m.selected()
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
func (m *Model) edit(msg tea.Msg) surface.Intent {
	if !m.input.Edit(msg) {
		return surface.Intent{}
	}
	return m.typed()
}

// typed searches anew.
func (m *Model) typed() surface.Intent {
	m.moved = false
	m.text = lane{}
	if m.input.Value() == "" {
		m.stop()
		m.wide, m.lanes = "", m.idle()
		m.list.Set(m.sections(), 0)
		return m.selected()
	}
	return surface.Begin(m.search())
}

// toggled looks anew after how text is searched has changed, or says how that is while nothing is typed.
func (m *Model) toggled() surface.Intent {
	todo := surface.Intent{Cmd: m.search(), Keep: true}
	if m.input.Value() == "" {
		todo.Say = "text: " + toggles(m.how)
	}
	return todo
}

// search looks for what is typed, as a command, and cancels the search before.
func (m *Model) search() tea.Cmd {
	typed := m.input.Value()
	if typed == "" {
		return nil
	}
	m.stop()
	m.looking = true
	f := finding{finder: m.finder, offers: m.offers, options: m.options, before: m.before, present: m.present, lines: m.lines}
	names := surface.Ask(m.asker, func(ctx context.Context) []lane { return f.lanes(ctx, typed) }, m.show)
	return tea.Batch(names, m.searchText(typed))
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
