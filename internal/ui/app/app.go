// Package app is the full-screen program: it holds the surfaces, hands them
// what happens, and moves between files and stops.
package app

import (
	"context"
	"fmt"
	"path"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/fold"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resume"
	"rooktrail/internal/core/settings"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/bookmarks"
	"rooktrail/internal/ui/branches"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/crumbs"
	"rooktrail/internal/ui/docs"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/outline"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/panes"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/scout"
	"rooktrail/internal/ui/signpost"
	"rooktrail/internal/ui/sweeps"
	"rooktrail/internal/ui/trails"
	"rooktrail/internal/ui/tree"
)

// Model is the program.
type Model struct {
	ws   *workspace.Workspace
	keys keymap.Map

	colors colors

	width, height int

	*side         // the one that has the keys
	sides         map[int]*side
	tree          *panes.Tree
	leaves        leaves
	full          bool   // only the present side is shown
	quiet         bool   // nothing but the code is shown
	beside        bool   // the outline is shown beside the code
	column        int    // the width of what stands beside the code; 0 for the usual
	signSize      string // how much of the signpost is shown: "" for all, or one of the sizes
	closed        []resume.View
	folded        map[string]folded // what was folded, by file
	keeps         int               // numbers the states that are kept
	keeper        keeper
	prefix        string // the first key of two
	scout         *scout.Model
	outline       *outline.Model
	inFile        inFile
	breadcrumbs   *crumbs.Model
	folders       *tree.Model
	docs          docs.Model
	docsAbout     workspace.Description
	sign          signpost.Model
	places        *places.Model
	waysWanted    bool         // they are listed as soon as the name is known
	placesName    string       // the name whose references are listed
	placesHow     string       // how one comes to a place of the list
	placesSource  sweep.Source // the question that the list answers
	lines         lineColors
	branches      *branches.Model
	treeAsked     treeQuestion
	branchesTitle string
	sweeping      *sweeps.Model
	swept         map[*sweep.Sweep]bool // the sweeps that were changed
	marks         bookmarking
	desk          desk
	asked         asking     // what is asked in the line above the strip
	presses       int        // counts the keys that were pressed
	names         completing // the names that are offered while one writes
	settings      settings.Settings
	compareSheet  *compare.Model
	comparing     comparison
	trailSheet    *trails.Model
	guided        *walking           // the guided walk one is on, or nil
	toWalk        *walkReadyMsg      // the one with which the program begins, or nil
	walkNote      string             // what else to say at its first stop
	editing       *trail.Stop        // the edit place one went to last
	handed        string             // the file that the user has in an editor of their own
	sweeps        []*sweep.Sweep     // the one used last first, as they were when the program began
	sweep         *sweep.Sweep       // the present one, or nil
	giveUp        context.CancelFunc // stops the question whose answer one waits for
	stopCounting  context.CancelFunc // stops counting where the ways lead
	choice        choice
	keysSkip      int
	overlay       overlay

	trailOpen bool                      // the trail of last time was read
	trailKept int                       // how many changes of the trail are on disk
	located   map[string]*text.Document // in what texts the stops and bookmarks were found last

	trail  trail.Trail
	recent trail.Recent

	before  *standing // what to put back when an overlay is closed
	message string
	leaving bool // q was pressed once

	beforeImports *spot // where one was before one went to the imports

	begun bool              // something was opened, or what was open last time is there again
	going bool              // a way that was chosen is being gone
	ahead []tea.KeyPressMsg // keys pressed meanwhile

	done      bool      // the project was read as a whole
	checked   int       // how often the type checker was asked
	refreshes int       // how many changes on disk were taken in
	notes     int       // how many notes of the workspace were shown
	refreshed time.Time // when the scout last looked anew

	start place.Place // where to begin
	opens int         // number of the latest request to open a file
	asks  int         // number of the latest question about the caret
}

// standing is a file as it stood on the screen.
type standing struct {
	file  *workspace.File
	view  trail.View
	folds *fold.Set
	solo  place.Range
}

// New makes the program for a workspace, beginning at a place; without a path
// it begins with what describes the project. paletteName is "" to choose a
// palette that suits the terminal.
func New(ws *workspace.Workspace, start place.Place, paletteName string) (*Model, error) {
	m := &Model{ws: ws, keys: keymap.Default(), start: start, folded: map[string]folded{}}
	m.addSide()
	m.tree = panes.One(m.side.number)
	if err := m.colors.fix(paletteName); err != nil {
		return nil, err
	}
	m.sign = signpost.New(m.keys)
	m.scout, m.outline, m.inFile = scout.New(ws, m.keys.Commands()), outline.New(), newInFile()
	m.breadcrumbs, m.folders, m.places = crumbs.New(ws), tree.New(ws), places.New(m.lines.of)
	m.sweeping, m.branches = sweeps.New(m.lines.of), branches.New(m.lines.of)
	m.marks.sheet, m.trailSheet = bookmarks.New(m.lines.of), trails.New()
	m.compareSheet = compare.New()
	m.scout.SetText(ws.State().Text)
	return m, nil
}

// Set takes what the user has set; it is to be called before the program begins.
func (m *Model) Set(s settings.Settings) { m.settings = s }

// Init implements tea.Model.
func (m *Model) Init() tea.Cmd {
	return tea.Batch(tea.RequestBackgroundColor, m.begin(), m.watch(), m.loadSweeps(), m.loadTrail(), m.loadBookmarks(), m.loadLeft(), m.guide())
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
	if m.start.Path != "" {
		return m.open(opening{path: m.start.Path, line: m.start.Line, col: m.start.Col, how: "the beginning"})
	}
	return func() tea.Msg { return welcomeMsg{m.ws.FrontPage()} }
}

// welcomeMsg says which file to begin with; "" if there is none.
type welcomeMsg struct{ path string }

// progressMsg says that more of the project is known.
type progressMsg struct{}

// noteMsg is something to tell the user.
type noteMsg string

// While the project is being read, the screen is brought up to date this often,
// and what is typed in the scout is looked for anew, which costs more.
const (
	progressEvery = 100 * time.Millisecond
	refreshEvery  = 500 * time.Millisecond
)

// watch waits until more of the project is known.
func (m *Model) watch() tea.Cmd {
	changed := m.ws.Changed()
	return func() tea.Msg {
		<-changed
		time.Sleep(progressEvery)
		return progressMsg{}
	}
}

// Update implements tea.Model.
func (m *Model) Update(msg tea.Msg) (tea.Model, tea.Cmd) {
	cmd := m.update(msg)
	if m.quiet { // a message takes a line of the code there
		m.arrange()
	}
	return m, cmd
}

func (m *Model) update(msg tea.Msg) tea.Cmd {
	switch msg := msg.(type) {
	case tea.WindowSizeMsg:
		m.width, m.height = msg.Width, msg.Height
		return m.rearranged()
	case tea.ColorProfileMsg:
		m.colors.profile(msg.Profile)
	case tea.BackgroundColorMsg:
		m.colors.dark(msg.IsDark())
	case tea.KeyPressMsg:
		return m.key(msg)
	case tea.PasteMsg:
		return m.paste(msg)
	case welcomeMsg:
		return m.welcome(msg.path)
	case openedMsg:
		return m.opened(msg)
	case askMsg:
		return m.ask(msg)
	case describedMsg:
		return m.described(msg)
	case countMsg:
		return m.countWays(msg)
	case countedMsg:
		return m.counted(msg)
	case linesMsg:
		return m.linesColored(msg)
	case mentionsMsg:
		return m.mentioned(msg)
	case leafMsg:
		return m.leafFound(msg)
	case answeredMsg:
		return m.answered(msg)
	case branchesMsg:
		return m.branchesFound(msg)
	case alongMsg:
		return m.foundAlong(msg)
	case foundMsg:
		return m.foundDefinition(msg)
	case paintedMsg:
		msg.side.painted(msg)
	case inFileMsg:
		return m.foundInFile(msg)
	case resumedMsg:
		return m.resumed(msg)
	case keepMsg:
		return m.keepNow(msg)
	case renamedMsg:
		return m.fileRenamed(msg)
	case docsMsg:
		return m.showDocs(msg)
	case editedMsg:
		return m.edited(msg)
	case grownMsg:
		return m.grown(msg)
	case bracketMsg:
		return m.foundBracket(msg)
	case noteMsg:
		m.say("%s", string(msg))
	case progressMsg:
		return m.progressed()
	case reloadedMsg:
		return m.reloaded(msg)
	default:
		if cmd, ok := m.aboutSweeps(msg); ok {
			return cmd
		}
		if cmd, ok := m.aboutPlaces(msg); ok {
			return cmd
		}
		if cmd, ok := m.aboutWriting(msg); ok {
			return cmd
		}
		return m.forSheets(msg)
	}
	return nil
}

// aboutSweeps takes what was found out for sweeps; ok is false for anything else.
func (m *Model) aboutSweeps(msg tea.Msg) (cmd tea.Cmd, ok bool) {
	switch msg := msg.(type) {
	case sweptMsg:
		m.sweepsLoaded(msg)
	case sweepKeptMsg:
		m.sweepKept(msg)
	case walkedMsg:
		return m.walked(msg), true
	case locatedMsg:
		return m.sweepLocated(msg), true
	case refreshedMsg:
		return m.sweepRefreshed(msg), true
	case madeMsg:
		return m.sweepMade(msg), true
	case listedMsg:
		return m.listed(msg), true
	default:
		return nil, false
	}
	return nil, true
}

// aboutPlaces takes what was found out for trails, bookmarks and walks; ok is false for
// anything else.
func (m *Model) aboutPlaces(msg tea.Msg) (cmd tea.Cmd, ok bool) {
	switch msg := msg.(type) {
	case trailMsg:
		return m.trailLoaded(msg), true
	case stayMsg:
		return m.stays(msg), true
	case locatedInMsg:
		return m.locatedIn(msg), true
	case trailsMsg:
		return m.trailsListed(msg), true
	case switchedMsg:
		return m.switched(msg), true
	case joinedMsg:
		return m.joined(msg), true
	case bookmarksMsg:
		m.bookmarksLoaded(msg)
	case marksKeptMsg:
		m.marksKept(msg)
	case bookmarkFoundMsg:
		return m.bookmarkFound(msg), true
	case marksFoundMsg:
		return m.marksFound(msg), true
	case sharedMsg:
		return m.shared(msg), true
	case rereadMarksMsg:
		return m.rereadShared(msg), true
	case walkReadyMsg:
		return m.walkReady(msg), true
	default:
		return nil, false
	}
	return nil, true
}

// aboutWriting takes what was found out for texts that are written; ok is false for anything
// else.
func (m *Model) aboutWriting(msg tea.Msg) (cmd tea.Cmd, ok bool) {
	switch msg := msg.(type) {
	case learnMsg:
		return m.learn(msg), true
	case writtenMsg:
		return m.written(msg), true
	case recoverMsg:
		return m.keepUnsaved(msg), true
	case savedMsg:
		return m.saved(msg), true
	case savedAsMsg:
		return m.savedAs(msg), true
	case completeMsg:
		if msg.presses == m.presses && msg.pen == m.pen() && m.isWriting() {
			return m.complete(msg.pen, false), true
		}
	case completedMsg:
		return m.completed(msg), true
	case systemCutMsg:
		return m.pasteSystem(msg), true
	case tidiedMsg:
		return m.tidy(msg), true
	case differMsg:
		return m.differing(msg), true
	case compareMsg:
		return m.compare(msg), true
	case usesMsg:
		return m.atUses(msg), true
	case leftMsg:
		return m.leftFound(msg), true
	default:
		return nil, false
	}
	return nil, true
}

// forSheets hands on what a sheet has asked for, also if it was closed meanwhile.
func (m *Model) forSheets(msg tea.Msg) tea.Cmd {
	if m.overlay == scoutOverlay {
		return m.scoutEvent(m.scout.Update(msg))
	}
	return tea.Batch(m.crumbsUpdate(msg), m.treeUpdate(msg), m.branchesUpdate(msg))
}

// progressed shows what has become known meanwhile.
func (m *Model) progressed() tea.Cmd {
	cmds := []tea.Cmd{m.watch()}
	pr := m.ws.Progress()
	if m.overlay == scoutOverlay && (pr.Done || time.Since(m.refreshed) > refreshEvery) {
		m.refreshed = time.Now()
		cmds = append(cmds, m.scout.Refresh())
	}
	if len(pr.Notes) > m.notes {
		m.say("%s", pr.Notes[m.notes])
		m.notes++
	}
	if m.code.Path() == "" && pr.Listed {
		m.emptyPage()
	}
	if pr.Checked > m.checked && m.overlay == noOverlay {
		m.checked = pr.Checked
		cmds = append(cmds, m.caretMoved()) // now the compiler may know
	}
	if pr.Done && (!m.done || pr.Refreshed > m.refreshes) {
		m.done, m.refreshes = true, pr.Refreshed
		cmds = append(cmds, m.caretMoved(), m.reload(), m.locateSweep(), m.checkPens())
	}
	return tea.Batch(cmds...)
}

// welcome opens the file that describes the project, or says what one can do.
func (m *Model) welcome(file string) tea.Cmd {
	if file == "" {
		m.emptyPage()
		return nil
	}
	m.say("Space finds a file, a symbol or a command; ? shows the keys")
	return m.open(opening{path: file, how: "the beginning"})
}

// emptyPage stands where no file is open.
func (m *Model) emptyPage() {
	pr := m.ws.Progress()
	words := m.ws.Name() + "\n\n"
	switch {
	case pr.Err != nil:
		words += pr.Err.Error()
	case pr.Listed && pr.Files == 0:
		words += "There is not a single file in this folder.\nctrl+q leaves the program."
	default:
		words += "Space finds a file, a symbol or a command.\n? shows the keys."
	}
	m.code.ShowNote("", words)
}

// say puts a message in the line above the strip; the next key takes it away.
func (m *Model) say(format string, args ...any) { m.message = fmt.Sprintf(format, args...) }

// later keeps a key that was pressed while one is on the way somewhere, since
// it is meant for the place one arrives at. Esc gives up going there.
func (m *Model) later(k tea.KeyPressMsg) tea.Cmd {
	if k.String() == "enter" && m.overlay == scoutOverlay && len(m.ahead) == 0 {
		if event, ok := m.scout.TakeNow(); ok {
			return m.scoutEvent(nil, event)
		}
		return nil
	}
	if k.String() != "esc" {
		m.ahead = append(m.ahead, k)
		return nil
	}
	m.ahead = nil
	m.opens++
	if m.giveUp != nil {
		m.giveUp()
	}
	return m.arrived(m.restore())
}

// arrived ends a way that was being gone, and goes on with the keys that were
// pressed meanwhile.
func (m *Model) arrived(cmd tea.Cmd) tea.Cmd {
	m.going = false
	if len(m.desk.left) > 0 && len(m.ahead) == 0 {
		cmd = tea.Batch(cmd, m.offerLeft())
	}
	cmds := []tea.Cmd{cmd}
	for len(m.ahead) > 0 && !m.going {
		k := m.ahead[0]
		m.ahead = m.ahead[1:]
		cmds = append(cmds, m.key(k))
	}
	return tea.Batch(cmds...)
}

// waitFor keeps keys while a sheet is busy, and hands them to it when it no longer
// is.
func (m *Model) waitFor(busy bool, cmd tea.Cmd) tea.Cmd {
	switch {
	case busy:
		m.going = true
	case m.going && (m.overlay == crumbsOverlay || m.overlay == treeOverlay || m.overlay == branchesOverlay):
		return m.arrived(cmd)
	}
	return cmd
}

// key hands a key to what lies on top.
func (m *Model) key(k tea.KeyPressMsg) tea.Cmd {
	name := k.String()
	m.presses++
	if name == "ctrl+q" {
		if !m.quitWriting() {
			return nil
		}
		return m.quit()
	}
	if name == "ctrl+z" && !m.isWriting() {
		return tea.Suspend
	}
	if m.going {
		return m.later(k)
	}
	leaving := m.leaving
	m.message, m.leaving, m.waysWanted = "", false, false
	if m.isWriting() {
		return m.writeKey(k)
	}
	switch m.overlay {
	case choiceOverlay:
		return m.choiceKey(name)
	case keysOverlay:
		return m.keysKey(name)
	case inFileOverlay:
		return m.inFileKey(k)
	case askOverlay:
		return m.askKey(k)
	}
	if c, ok := m.cover(m.overlay); ok {
		return c.update(k)
	}
	return m.roamKey(name, leaving)
}

// roamKey acts on a key in roam.
func (m *Model) roamKey(name string, leaving bool) tea.Cmd {
	prefix := m.prefix
	m.prefix = ""
	if m.marks.lettering {
		return m.letterKey(name)
	}
	if name == "esc" {
		return m.escape(prefix)
	}
	if name == "ctrl+c" {
		name = "q"
	}
	if prefix != "" {
		name = prefix + " " + name
	} else if m.keys.Begins(name) {
		m.prefix = name
		return nil
	}
	action, ok := m.keys.Of(name)
	if !ok && isDigit(name) {
		return m.goToLetter(name)
	}
	if !ok {
		m.say("%s does nothing here; ? shows the keys", keymap.Label(name))
		return nil
	}
	if action == keymap.Close && leaving {
		return m.do(keymap.Quit, "")
	}
	return m.do(action, name)
}

// escape undoes what is the lightest of what there is: the first of two keys,
// the marks of what was found, the selection; or brings the caret back in sight.
func (m *Model) escape(prefix string) tea.Cmd {
	switch {
	case prefix != "":
	case m.code.Selection().Len() > 0:
		m.code.Unselect()
	case m.topLeaf() != nil:
		return m.turnBack()
	case len(m.inFile.hits) > 0:
		m.clearInFile()
	case m.guided != nil:
		return m.endWalk()
	case !m.code.InSight():
		m.code.ToCaret()
		return m.repaint()
	}
	return nil
}

// paste puts pasted text where text is typed.
func (m *Model) paste(msg tea.PasteMsg) tea.Cmd {
	if m.isWriting() && !m.going {
		p := m.pen()
		before := p.editor.Document()
		p.editor.Paste(msg.Content)
		return m.wrote(p, before)
	}
	if m.overlay == askOverlay {
		return m.askKey(msg)
	}
	if m.overlay == inFileOverlay {
		return m.inFileEdit(msg)
	}
	if c, ok := m.cover(m.overlay); ok {
		return c.update(msg)
	}
	return nil
}

// do carries out an action in roam, for the key that was pressed; it may be "".
func (m *Model) do(a keymap.Action, key string) tea.Cmd {
	if cmd, ok := m.onLeaf(a); ok {
		return cmd
	}
	if cmd, ok := m.slide(a); ok {
		return cmd
	}
	if cmd, ok := m.moveCaret(a); ok {
		m.code.Unselect()
		return cmd
	}
	if cmd, ok := m.hop(a); ok {
		m.code.Unselect()
		return cmd
	}
	if cmd, ok := m.shape(a, key); ok {
		return cmd
	}
	if cmd, ok := m.inViews(a); ok {
		return cmd
	}
	if cmd, ok := m.onSweeps(a); ok {
		return cmd
	}
	if cmd, ok := m.onTrail(a); ok {
		return cmd
	}
	if cmd, ok := m.inWrite(a); ok {
		return cmd
	}
	if cmd, ok := m.onBookmarks(a); ok {
		return cmd
	}
	if cmd, ok := m.handOn(a); ok {
		return cmd
	}
	if way, ok := wayOf[a]; ok {
		return m.goAlong(way)
	}
	switch a {
	case keymap.Scout:
		m.openScout()
	case keymap.Family, keymap.CallTree, keymap.Values:
		return m.openBranches(treeOf[a])
	case keymap.Follow:
		return m.define(true)
	case keymap.Definition:
		return m.define(false)
	case keymap.AllWays:
		return m.allWays()
	case keymap.Outline:
		m.openOutline()
	case keymap.OutlineBeside:
		return m.toggleBeside()
	case keymap.Tree:
		return m.openTree()
	case keymap.SignpostSize:
		return m.resizeSignpost()
	case keymap.Docs:
		return m.openDocs()
	case keymap.Crumbs:
		return m.openCrumbs()
	case keymap.InFile:
		m.openInFile()
	case keymap.Counterpart:
		return m.counterpart()
	case keymap.Keys:
		m.overlay, m.keysSkip = keysOverlay, 0
	case keymap.Palette:
		m.say("the palette is now %s", m.colors.toggle())
	case keymap.Quit:
		if !m.quitWriting() {
			return nil
		}
		return m.quit()
	}
	return nil
}

// slide carries out an action that moves what is shown and not the caret; ok is
// false for any other.
func (m *Model) slide(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.SlideUp:
		m.code.Slide(-1)
	case keymap.SlideDown:
		m.code.Slide(1)
	case keymap.ToCaret:
		m.code.ToCaret()
	default:
		return nil, false
	}
	return m.repaint(), true
}

// moveCaret carries out an action that only moves the caret; ok is false for
// any other.
func (m *Model) moveCaret(a keymap.Action) (cmd tea.Cmd, ok bool) {
	c := &m.code
	switch a {
	case keymap.Up:
		c.Move(-1)
	case keymap.Down:
		c.Move(1)
	case keymap.Left:
		c.Side(-1)
	case keymap.Right:
		c.Side(1)
	case keymap.WordLeft:
		c.Word(false)
	case keymap.WordRight:
		c.Word(true)
	case keymap.PageUp:
		c.Page(-1)
	case keymap.PageDown:
		c.Page(1)
	case keymap.HalfUp:
		c.Page(-0.5)
	case keymap.HalfDown:
		c.Page(0.5)
	case keymap.LineStart:
		c.LineStart()
	case keymap.LineEnd:
		c.LineEnd()
	case keymap.FileStart:
		c.Line(1)
	case keymap.FileEnd:
		c.Line(1 << 30)
	default:
		return nil, false
	}
	return m.moved(), true
}

// palette is the palette in use.
func (m *Model) palette() *palette.Palette { return &m.colors.use }

// shortName is a path's last part.
func shortName(p string) string { return path.Base(p) }
