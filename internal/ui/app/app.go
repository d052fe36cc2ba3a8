// Package app is the full-screen program: it hands what happens to the surfaces and does what they
// say, moves between files and stops, and draws.
package app

import (
	"context"
	"fmt"
	"path"
	"time"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/habit"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/work"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/bookmarks"
	"rooktrail/internal/ui/branches"
	"rooktrail/internal/ui/called"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/crumbs"
	"rooktrail/internal/ui/docs"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/guard"
	"rooktrail/internal/ui/hand"
	"rooktrail/internal/ui/hunks"
	"rooktrail/internal/ui/kept"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/keyspage"
	"rooktrail/internal/ui/lastlist"
	"rooktrail/internal/ui/leaf"
	"rooktrail/internal/ui/learned"
	"rooktrail/internal/ui/lesson"
	"rooktrail/internal/ui/listkeys"
	"rooktrail/internal/ui/mending"
	"rooktrail/internal/ui/mouse"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/overlook"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/problems"
	"rooktrail/internal/ui/proposals"
	"rooktrail/internal/ui/reading"
	"rooktrail/internal/ui/runs"
	"rooktrail/internal/ui/scout"
	"rooktrail/internal/ui/settingspage"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/signpost"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/sweeps"
	"rooktrail/internal/ui/tests"
	"rooktrail/internal/ui/tips"
	"rooktrail/internal/ui/trails"
	"rooktrail/internal/ui/tree"
	"rooktrail/internal/ui/views"
	guided "rooktrail/internal/ui/walk"
	"rooktrail/internal/ui/writing"
)

// Model is the program.
type Model struct {
	parts
	ws       *workspace.Workspace
	life     context.Context // ends with the program
	keys     keymap.Map
	mine     *keymap.Owned    // the user's own keys and commands
	commands surface.Commands // what each action does
	habits   *habit.Book      // what one does with the program
	colors   palette.Chooser
	clock    sheet.Clock
	guard.Guard
	frame *frame.Frame

	over   surface.Surface // what lies over the code; nil for nothing
	under  surface.Surface // the list of which the keys are named over it; nil for none
	before *standing       // what to put back when that is closed
	from   *standing       // what was there before it, while one goes on from it elsewhere

	way   *surface.Asker // the one question that leads elsewhere
	look  *surface.Asker // what is shown beneath a surface
	still *surface.Asker // whether the caret stands still
	asker *surface.Asker // of everything else

	line  line
	ahead []ahead // what is to be done when one has arrived
	kept  *kept.Model
	keeps surface.Latest
	start beginning
	seen  seen
}

// parts are the surfaces, and what is done with the code.
type parts struct {
	learning
	moving
	changing
	showing
	scout    *scout.Model
	outline  *outline.Surface
	crumbs   *crumbs.Model
	folders  *tree.Model
	docs     *docs.Surface
	sweeps   *sweeps.Surface
	marks    *bookmarks.Surface
	trails   *trails.Surface
	keysPage *keyspage.Surface
	set      *settingspage.Store
	own      *keyspage.Keeper
	settings *settingspage.Surface
	listKeys *listkeys.Surface
	search   *reading.Search
	reading  *reading.Model
	leaves   *leaf.Model
	last     *lastlist.Model
	sign     *signpost.Post
	walk     *guided.Model
	hand     *hand.Model
}

// learning is what teaches the use of the program.
type learning struct {
	tips    *tips.Model
	lessons *lesson.Model
	learned *learned.Surface
}

// moving is what moves among the files that are open.
type moving struct {
	views  *views.Model
	mouse  *mouse.Model
	called *called.Model
}

// showing is what shows where one can go from here.
type showing struct {
	places   *places.Surface
	branches *branches.Model
	drawings *overlook.Surface
	counts   *overlook.Counts
	problems *problems.Model
	runs     *runs.Model
	tests    *tests.Model
}

// changing is what changes files, one or many, and what has changed.
type changing struct {
	writing *writing.Model
	changes *proposals.Surface
	hunks   *hunks.Model
	mending *mending.Model
}

// beginning is where the program begins.
type beginning struct {
	at      place.Place
	walk    *walk.Walk // a guided walk, or nil
	refused []string   // what was left out of it
	learn   bool       // a lesson is begun, the one of the name, or where one stopped
	lesson  string
}

// seen is what the program has taken notice of so far.
type seen struct {
	begun     bool      // something was opened, or what was open last time is there again
	shown     bool      // something is on the screen, if only words
	presses   int       // counts the keys that were pressed
	done      bool      // the project was read as a whole
	checked   int       // how often the type checker was asked
	refreshes int       // how many changes on disk were taken in
	notes     int       // how many notes of the workspace were shown
	refreshed time.Time // when the scout last looked anew
	leaving   bool      // the key that closes the last file was pressed once
	handed    string    // the file that the user has in an editor of their own
}

// New makes the program for a workspace, beginning at a place; without a path
// it begins with what describes the project. All work ends with life. paletteName is "" to choose a
// palette that suits the terminal.
func New(life context.Context, ws *workspace.Workspace, start place.Place, paletteName string, own keymap.Owned) (*Model, error) {
	m := &Model{ws: ws, life: life, keys: append(keymap.Default(), own.Bindings()...), mine: &own, habits: &habit.Book{}, start: beginning{at: start}}
	m.way, m.look, m.still, m.asker, m.frame = m.newAsker(), m.newAsker(), m.newAsker(), m.newAsker(), frame.New(m.newAsker)
	if err := m.colors.Fix(paletteName); err != nil {
		return nil, err
	}
	m.kept = kept.New(keeping{m}, m.frame, m.asker)
	m.makeParts()
	m.commands = m.allCommands()
	m.scout.SetText(ws.State().Text)
	return m, nil
}

func (m *Model) newAsker() *surface.Asker { return surface.NewAsker(m.life, nil) }

func (m *Model) makeParts() {
	h, ws, p := host{m}, m.ws, project{m.ws, m.ws.Code, m.ws.Search, m.ws.Answers, m.ws.Lists}
	m.writing = writing.New(h, p, m.frame, m.keys, m.mine, func() desk.Beside {
		if store := ws.Recovery(); store != nil {
			return store
		}
		return nil
	})
	m.changes = proposals.New(h, ws.Changes, m.writing.SaveFirst, func() (map[string][]int, string) { return m.sweeps.Lines() }, renewing{m})
	m.hunks = hunks.New(comparing{h}, m.changes, ws.Changes.Hunks, ws.Code)
	m.problems = problems.New(comparing{h}, ws.Problems, func() int {
		return ws.Code.Generation()<<20 + (ws.Lists.ReportsState()+ws.TestBook.State())<<10 + m.seen.checked
	})
	m.mending = mending.New(h, ws.Mending, m.changes)
	m.runs = runs.New(running{comparing{h}}, p)
	m.runs.Know(ws.State().Commands)
	m.tests = tests.New(running{comparing{h}}, p, ws.Tests, ws.TestBook, m.runs)
	m.writing.Whole = ws.Changes.Made
	ws.Changes.KnowSettings(m.writing.Settings)
	m.walk, m.sweeps = guided.New(h, p, m.keys, func() bool { return m.walkBeside() }), sweeps.NewSurface(h, p)
	m.marks, m.trails = bookmarks.NewSurface(h, p, m.walk), trails.NewSurface(h, p, m.walk)
	m.drawings, m.counts = overlook.New(h, ws.Overlook, m.trails, func() (string, string) { return m.hunks.Against() })
	m.places, m.branches = places.NewSurface(h, p, m.sweeps.KeepPlaces, func() (string, string) { return m.hunks.Against() }), branches.New(h, p, p, m.sweeps.KeepPlaces)
	m.scout, m.folders, m.outline = scout.New(h, p, around{m}, m.keys), tree.New(h, p, around{m}), outline.NewSurface(h, p)
	m.outline.Said = m.tests.Said
	m.set, m.listKeys = settingspage.NewStore(m.asker, m.apply), &listkeys.Surface{}
	m.set.Root = m.ws.Code.Root()
	m.settings, m.own = settingspage.New(m.set), &keyspage.Keeper{Keys: m.keys, Own: m.mine, Queue: surface.NewQueue(m.asker)}
	m.keysPage, m.hand = keyspage.New(m.keysHere, h.Here, m.own), hand.New(h, ws.Code.Absolute)
	m.crumbs, m.docs, m.search, m.reading = crumbs.New(h, p), docs.NewSurface(h, p), reading.NewSearch(h, func() resume.Text { return ws.State().Text }), reading.New(h, p, m.keys)
	m.leaves, m.views, m.tips = leaf.New(h, p, m.frame, m.keys), views.New(h, m.frame), tips.New(h, m.keys, m.noTips)
	m.mouse, m.sign, m.called = mouse.New(h, m.frame), signpost.NewPost(h, p, m.keys), called.New(h, ws.Code, called.Around{Stop: m.trails.Number, Unsaved: m.writing.Unsaved, Typing: func() bool { return h.Writing() || h.Covered() || m.runs.Inside() }})
	m.lessons, m.learned, m.last = lesson.New(h, m.keys), learned.New(m.keys, func() *habit.Book { return m.habits }), lastlist.New(h, p, map[string]surface.Reopened{"search": m.scout, "places": m.places, "tree": m.branches}, ws.State().Last)
}

// sheets are the surfaces that lie over the code, in the order in which the page of keys has them.
func (m *Model) sheets() []surface.Surface {
	return []surface.Surface{m.scout, m.outline, m.crumbs, m.folders, m.search, m.places, m.branches, m.drawings, m.counts, m.sweeps, m.changes, m.trails, m.marks, m.docs, m.runs.List(), m.keysPage, m.settings, m.learned, m.listKeys}
}

// keyed is whoever has keys of its own.
type keyed interface {
	Keys() (name string, all []key.Binding)
}

// allKeys are all keys there are: those of the program, those that all lists have, and those of each
// surface.
func (m *Model) allKeys() keymap.Map {
	all := m.keys.With(keymap.Sheet, keymap.Of(keymap.Moves, keymap.Ends))
	for _, s := range m.keyed() {
		name, keys := s.Keys()
		all = all.With(name, keys)
	}
	return all
}

// Keys are all keys there are, with those of a user's own; the zero Owned gives them as they are delivered.
func Keys(own keymap.Owned) keymap.Map {
	keys := append(keymap.Default(), own.Bindings()...)
	keys.Take(own.AllKeys())
	return (&Model{keys: keys, mine: &own}).allKeys()
}

func (m *Model) keyed() (all []keyed) {
	for _, s := range m.sheets() {
		all = append(all, s)
	}
	return append(all, &compare.Surface{}, &choice.Surface{}, m.writing, m.runs, m.tips, m)
}

// commander is whoever has commands.
type commander interface{ Commands() surface.Commands }

// allCommands are what the actions do: those of each surface, and the program's own.
func (m *Model) allCommands() surface.Commands {
	having := []commander{m.last, m.hand, m.reading, m.leaves, m.sign, m.writing, m.views, m.lessons, m.hunks, m.problems, m.runs, m.tests, m.mending, m}
	for _, s := range m.sheets() {
		if c, ok := s.(commander); ok {
			having = append(having, c)
		}
	}
	all := m.ownCommands()
	for _, c := range having {
		for a, do := range c.Commands() {
			all[a] = do
		}
	}
	return all
}

// Commands are the program's own.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{
		keymap.Next:     func() surface.Intent { return m.next(true) },
		keymap.Previous: func() surface.Intent { return m.next(false) },
		keymap.Palette: func() surface.Intent {
			return surface.Say("the palette is now %s, until you leave; the setting “palette” keeps it", m.colors.Toggle())
		},
		keymap.Quit: m.leave,
	}
}

// next goes to the next place of what one goes through, or to the one before: what was looked for in
// the file, a guided walk, or the sweep.
func (m *Model) next(forward bool) surface.Intent {
	switch {
	case m.search.Any():
		return m.search.Next(forward)
	case m.walk.Any():
		return m.walk.Next(forward)
	case m.hunks.Walking():
		return m.hunks.Next(forward)
	case m.problems.Walking():
		return m.problems.Next(forward)
	case !m.sweeps.Any() && m.last.Any():
		return m.last.Next(forward)
	}
	return m.sweeps.Next(forward)
}

// Guide makes the program begin with a guided walk that was read from a file; refused are
// the paths that were left out of it.
func (m *Model) Guide(w *walk.Walk, refused []string) { m.start.walk, m.start.refused = w, refused }

// Init implements tea.Model.
func (m *Model) Init() tea.Cmd {
	cmds := []tea.Cmd{tea.RequestBackgroundColor, m.begin(), m.watch(), m.sweeps.Load(m.start.at), m.trails.Load(), m.marks.Load(), m.writing.Load(), m.changes.Load(), m.called.Listen()}
	if w := m.start.walk; w != nil {
		cmds = append(cmds, m.walk.Begin(w, m.start.refused))
	}
	return tea.Batch(cmds...)
}

// begin shows what was on the screen when the program was left, and opens the
// file asked for, or else the first one.
func (m *Model) begin() tea.Cmd {
	if cmd := m.resume(); cmd != nil {
		return cmd
	}
	return m.beginAnew()
}

func (m *Model) beginAnew() tea.Cmd {
	if at := m.start.at; at.Path != "" {
		return m.goTo(surface.Visit{Path: at.Path, Line: at.Line, Col: at.Col, How: "the beginning"})
	}
	ws := m.ws
	return surface.Do(m.asker, func(context.Context) string { return codebase.FrontPage(ws.Code) }, m.welcome)
}

// welcome opens the file that describes the project, or says what one can do.
func (m *Model) welcome(file string) surface.Intent {
	if file == "" {
		m.emptyPage()
		m.seen.shown = true
		return surface.Intent{}
	}
	todo := surface.Go(surface.Visit{Path: file, How: "the beginning"})
	todo.Say = keymap.Marked("{scout} finds a file, a symbol or a command; {keys} shows the keys")
	return todo
}

// emptyPage stands where no file is open.
func (m *Model) emptyPage() {
	pr := m.ws.Code.Progress()
	words := m.ws.Code.Name() + "\n\n"
	switch {
	case pr.Err != nil:
		words += pr.Err.Error()
	case pr.Left() != "":
		words += pr.Left() + ".\n" + keymap.Marked("{take-in-all} opens them all the same.\n{quit} leaves the program.")
	case pr.Listed && pr.Files == 0:
		words += keymap.Marked("There is not a single file in this folder.\n{quit} leaves the program.")
	default:
		words += keymap.Marked("{scout} finds a file, a symbol or a command.\n{keys} shows the keys.")
	}
	m.frame.Code.ShowNote("", m.keys.Fill(words, false))
}

// While the project is being read, the screen is brought up to date this often,
// and what is typed in the scout is looked for anew, which costs more.
const (
	progressEvery = 100 * time.Millisecond
	refreshEvery  = 500 * time.Millisecond
)

// watch waits until more of the project is known.
func (m *Model) watch() tea.Cmd {
	changed := m.ws.Code.Changed()
	return surface.Do(m.asker, func(ctx context.Context) struct{} {
		select {
		case <-changed:
		case <-ctx.Done():
		}
		work.Pause(ctx, progressEvery)
		return struct{}{}
	}, func(struct{}) surface.Intent { return m.progressed() })
}

// progressed shows what has become known meanwhile.
func (m *Model) progressed() surface.Intent {
	todo := surface.Begin(m.watch())
	pr := m.ws.Code.Progress()
	if m.over == m.scout && (pr.Done || time.Since(m.seen.refreshed) > refreshEvery) {
		m.seen.refreshed = time.Now()
		todo = todo.And(surface.Begin(m.scout.Refresh()))
	}
	if len(pr.Notes) > m.seen.notes {
		todo.Say = pr.Notes[m.seen.notes]
		m.seen.notes++
	}
	if m.frame.Code.Path() == "" && pr.Listed {
		m.emptyPage()
	}
	if pr.Checked > m.seen.checked {
		m.seen.checked, todo.Caret = pr.Checked, m.over == nil // now the compiler may know
	}
	if pr.Done && (!m.seen.done || pr.Refreshed > m.seen.refreshes) {
		m.seen.done, m.seen.refreshes, todo.Caret = true, pr.Refreshed, true
		m.hunks.Forget()
		todo = todo.And(surface.Begin(tea.Batch(m.reload(), m.sweeps.LocateAll(), m.writing.Check())))
	}
	return todo
}

// line is what stands in the line above the strip.
type line struct {
	message string
	waiting string // the message that says what is being waited for
	prefix  string // the first key of two that was pressed
}

// say puts a message there; the next key takes it away.
func (m *Model) say(format string, args ...any) { m.tell(fmt.Sprintf(keymap.Marked(format), args...)) }

// tell says something, with the keys that are marked in it as they are now.
func (m *Model) tell(words string) { m.line.message = m.keys.Fill(words, m.writing.Writing()) }

// palette is the palette in use.
func (m *Model) palette() *palette.Palette { return m.colors.Use() }

// shortName is a path's last part.
func shortName(p string) string { return path.Base(p) }
