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
	failure       failure
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
	keysPage      keysPage
	overlay       overlay

	trailOpen bool                      // the trail of last time was read
	trailKept int                       // how many changes of the trail are on disk
	located   map[string]*text.Document // in what texts the stops and bookmarks were looked for last
	placed    map[string]placed         // for what texts they are right

	trail  trail.Trail
	recent trail.Recent

	before  *standing // what to put back when an overlay is closed
	message string
	waiting string // the message that says what is being waited for
	leaving bool   // q was pressed once

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
	return tea.Batch(tea.RequestBackgroundColor, m.begin(), m.watch(), m.loadSweeps(), m.loadTrail(), m.loadBookmarks(), m.loadLeft(), m.loadCopies(), m.guide())
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
		m.desk.begun = true
		m.offerInTime()
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

// palette is the palette in use.
func (m *Model) palette() *palette.Palette { return &m.colors.use }

// shortName is a path's last part.
func shortName(p string) string { return path.Base(p) }
