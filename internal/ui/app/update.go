package app

import (
	"runtime/debug"

	tea "charm.land/bubbletea/v2"
)

// Update implements tea.Model. If it fails, the program ends in order.
func (m *Model) Update(msg tea.Msg) (model tea.Model, cmd tea.Cmd) {
	defer func() {
		if r := recover(); r != nil {
			m.fail(r, debug.Stack())
			model, cmd = m, tea.Quit
		}
	}()
	if _, failed := msg.(failedMsg); failed {
		return m, tea.Quit
	}
	cmd = m.update(msg)
	m.keepStance()
	if m.quiet { // a message takes a line of the code there
		m.arrange()
	}
	return m, m.guarded(cmd)
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
		return m.bookmarksLoaded(msg), true
	case othersMarksMsg:
		return m.othersMarksFound(msg), true
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
	case copiesMsg:
		return m.copiesLoaded(msg), true
	case keptMsg:
		return m.keptBeside(msg), true
	case leavingMsg:
		return m.mayLeave(msg), true
	case savedMsg:
		return m.saved(msg), true
	case saveAsMsg:
		return m.saveUnder(msg.pen, msg.to), true
	case noFolderMsg:
		m.askMakeFolder(msg)
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
