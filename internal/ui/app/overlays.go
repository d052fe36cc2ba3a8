package app

import (
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/scout"
	"rooktrail/internal/ui/sheet"
)

// choice is a list to choose from: the ways at a fork, or the definitions that
// share a name.
type choice struct {
	title string
	enter string // what Enter does, for the foot line
	list  sheet.Model
}

// remember keeps what is on the screen, to be put back.
func (m *Model) remember() {
	m.keepFolds()
	m.before = m.standing()
}

// standing is what is on the screen.
func (m *Model) standing() *standing {
	s := &standing{file: m.code.File(), view: m.code.State(), solo: m.code.Solo()}
	if s.file != nil {
		s.folds = m.code.Folds().Clone()
	}
	return s
}

// putBack shows what was on the screen as it was.
func (m *Model) putBack(b *standing) tea.Cmd {
	m.code.Show(b.file, b.view)
	m.code.SetFolds(b.folds)
	m.code.Alone(b.solo)
	m.code.Show(b.file, b.view) // as folds and solo may have moved what is shown
	if p := m.pen(); p != nil && m.desk.on == p.path && b.file.Text == p.editor.Document() {
		m.showCarets(p)
	}
	return tea.Batch(m.caretMoved(), m.repaint())
}

// restore puts back what was on the screen before an overlay was opened.
func (m *Model) restore() tea.Cmd {
	b := m.before
	m.closeOverlay()
	m.opens++ // whatever is being loaded to be looked at comes too late
	if b == nil || b.file == nil {
		if b != nil && b.view.Place.Path == "" {
			m.emptyPage()
		}
		return nil
	}
	return m.putBack(b)
}

func (m *Model) closeOverlay() {
	m.overlay, m.before = noOverlay, nil
	m.arrange()
}

func (m *Model) openScout() {
	m.remember()
	lines := 0
	if f := m.code.File(); f != nil {
		lines = f.Text.Lines()
	}
	m.overlay = scoutOverlay
	m.scout.Open(m.remembered(), m.code.State().Place, lines, m.sheetHeight())
	m.arrange()
}

// mostPlaces is how many stops the scout knows.
const mostPlaces = 500

// remembered is where one was before and what one has marked, for the scout.
func (m *Model) remembered() scout.Before {
	here := m.code.Path()
	b := scout.Before{Files: m.recent.Before(here, false), EditedFiles: m.recent.Before(here, true), Unsaved: m.unsavedPaths()}
	seen := map[int]bool{}
	for _, s := range append(m.trail.Latest(mostPlaces, false), m.trail.Latest(mostPlaces, true)...) {
		if s == m.trail.Here() || seen[s.Number()] {
			continue
		}
		seen[s.Number()] = true
		b.Stops = append(b.Stops, scout.Remembered{What: "stop", Title: s.Title(), Place: s.View.Place, Text: s.Memory.Text, Note: s.Note,
			How: s.How, Edited: !s.Edited.IsZero(), Stop: s.Number() + 1})
	}
	for _, s := range m.marks.book.All() {
		k := s.Mark()
		r := scout.Remembered{What: string(k.Kind), Title: k.Title(), Place: k.Place(), Text: k.Text, Note: k.Note, How: "bookmark: " + s.List.Name, Mark: k.Key}
		if k.Letter != "" {
			r.What, r.How = k.Letter+"  "+r.What, "bookmark "+k.Letter
		}
		b.Marks = append(b.Marks, r)
	}
	return b
}

// markOf is the bookmark of a key.
func (m *Model) markOf(key string) (s bookmark.Spot, ok bool) {
	for _, l := range m.marks.book.Lists {
		if i := l.Find(key); i >= 0 && key != "" {
			return bookmark.Spot{List: l, Item: i}, true
		}
	}
	return s, false
}

// scoutEvent acts on what came of a message to the scout.
func (m *Model) scoutEvent(cmd tea.Cmd, event scout.Event) tea.Cmd {
	cmd = tea.Batch(cmd, m.keepState())
	switch event {
	case scout.Closed:
		return tea.Batch(cmd, m.restore())
	case scout.Selected:
		if m.going { // it was to be taken, but nothing was found
			return m.arrived(tea.Batch(cmd, m.previewFound()))
		}
		return tea.Batch(cmd, m.previewFound())
	case scout.Kept:
		return tea.Batch(cmd, m.keepText(m.scout.TextQuery()))
	case scout.Waiting:
		m.going = true
	case scout.Taken:
		return tea.Batch(cmd, m.takeFound())
	}
	return cmd
}

// previewFound shows the chosen row's place under the sheet, or what was there
// before if the row is none.
func (m *Model) previewFound() tea.Cmd {
	c, ok := m.scout.Chosen()
	if !ok || c.Action != "" {
		return m.showBefore()
	}
	o := m.toChoice(c)
	o.preview, o.along = true, nil
	return m.open(o)
}

// showBefore shows under the sheet what was on the screen before it.
func (m *Model) showBefore() tea.Cmd {
	if m.before == nil || m.before.file == nil {
		return nil
	}
	m.opens++
	return m.putBack(m.before)
}

// takeFound goes where the chosen row leads, or does what it says.
func (m *Model) takeFound() tea.Cmd {
	c, _ := m.scout.Chosen()
	if c.Action != "" {
		cmd := m.restore()
		return m.arrivedAt(func() tea.Cmd { return tea.Batch(cmd, m.do(c.Action, "")) })
	}
	if s, ok := m.markOf(c.Mark); ok {
		from := m.before
		m.closeOverlay()
		return m.goToBookmark(s, c.How, from)
	}
	o := m.toChoice(c)
	return tea.Batch(m.jumpFromOverlay(o), m.noteChoice(c, m.scout.Query()))
}

// noteChoice remembers what was gone to after typing a query, so that it ranks
// higher the next time.
func (m *Model) noteChoice(c scout.Choice, query string) tea.Cmd {
	if query == "" || c.Place.Path == "" || c.Text || c.Stop > 0 {
		return nil
	}
	ws := m.ws
	return func() tea.Msg {
		if err := ws.Choose(c.Place.Path, c.Symbol, query); err != nil {
			return noteMsg(err.Error())
		}
		return nil
	}
}

// jumpFromOverlay closes the overlay and goes on from what was there before it.
func (m *Model) jumpFromOverlay(o opening) tea.Cmd {
	o.from = m.before
	m.closeOverlay()
	return m.open(o)
}

func (m *Model) toChoice(c scout.Choice) opening {
	if s := m.trail.Stop(c.Stop - 1); s != nil {
		return m.visit(s)
	}
	o := opening{path: c.Place.Path, line: c.Place.Line, col: c.Place.Col, how: c.How, symbol: c.Symbol}
	if c.Length > 0 {
		o.name = place.Range{Start: uint32(c.Offset), End: uint32(c.Offset + c.Length)}
	}
	return o
}

// openCandidates shows the definitions that share a name.
func (m *Model) openCandidates(name string, spots []workspace.Spot) {
	rows := make([]sheet.Row, len(spots))
	for i, s := range spots {
		shown := s.Name
		if s.Container != "" {
			shown = s.Container + "." + s.Name
		}
		rows[i] = sheet.Row{What: s.Kind.String(), Name: shown, Where: s.Path + " " + strconv.Itoa(s.Line), Value: toSpot(s)}
	}
	m.openChoice(name+" by name: "+sheet.Count(len(rows), "definition shares", "definitions share")+" it", "go there", rows)
}

func (m *Model) openChoice(title, enter string, rows []sheet.Row) {
	m.remember()
	m.choice.title, m.choice.enter = title, enter
	m.choice.list.Set([]sheet.Section{{Rows: rows}}, 0)
	m.overlay = choiceOverlay
	m.arrange()
}

// choiceKey acts on a key while a list is open.
func (m *Model) choiceKey(name string) tea.Cmd {
	list := &m.choice.list
	switch name {
	case "esc", "q":
		if m.desk.offer {
			m.desk.offer = false
			m.say("Ctrl+E x shows them again")
		}
		return m.restore()
	case "up", "k":
		list.Move(-1)
	case "down", "j":
		list.Move(1)
	case "pgup":
		list.Move(-m.sheetHeight() + 3)
	case "pgdown":
		list.Move(m.sheetHeight() - 3)
	case "home":
		list.Move(-list.Len())
	case "end":
		list.Move(list.Len())
	case "enter":
		return m.takeChoice()
	default:
		return m.choiceLetter(name)
	}
	return m.previewChoice()
}

// choiceLetter does what the row says whose key is pressed.
func (m *Model) choiceLetter(name string) tea.Cmd {
	for _, row := range m.choice.list.All() {
		if action, ok := row.Value.(keymap.Action); ok && row.Key == name {
			return tea.Batch(m.restore(), m.do(action, ""))
		}
	}
	return nil
}

// chosenOpening is what the chosen row leads to.
func (m *Model) chosenOpening() (opening, bool) {
	row, _, ok := m.choice.list.Chosen()
	if !ok {
		return opening{}, false
	}
	switch v := row.Value.(type) {
	case opening:
		return v, true
	case *trail.Stop:
		return m.toWay(v), true
	}
	return opening{}, false
}

func (m *Model) previewChoice() tea.Cmd {
	o, ok := m.chosenOpening()
	if !ok {
		return nil
	}
	o.preview, o.along = true, nil
	return m.open(o)
}

func (m *Model) takeChoice() tea.Cmd {
	if row, _, ok := m.choice.list.Chosen(); ok {
		switch v := row.Value.(type) {
		case keymap.Action:
			return tea.Batch(m.restore(), m.do(v, ""))
		case func() tea.Cmd:
			return tea.Batch(m.restore(), v())
		case cutChoice:
			return m.pasteCut(v)
		case leftChoice:
			return m.takeLeft(v)
		}
	}
	o, ok := m.chosenOpening()
	if !ok {
		return m.restore()
	}
	return m.jumpFromOverlay(o)
}
