package app

import (
	"context"
	"strconv"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/sheet"
)

// trailMsg brings the trail of last time.
type trailMsg struct {
	kept *trail.Kept
	err  error
}

// loadTrail reads the trail of last time.
func (m *Model) loadTrail() tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		kept, err := ws.OpenTrail()
		return trailMsg{kept, err}
	}
}

// trailLoaded goes on with the trail of last time.
func (m *Model) trailLoaded(msg trailMsg) tea.Cmd {
	m.trailOpen = true
	switch {
	case msg.err != nil:
		m.say("%s", msg.err)
	case msg.kept.CutOff:
		m.say("the end of the trail of last time was cut off; what stands before it is here")
	}
	now := m.recent.Before("", false)
	m.recent = trail.NewRecent(msg.kept.Recent)
	for i := len(now) - 1; i >= 0; i-- {
		m.recent.Touch(now[i], time.Now())
	}
	if msg.kept.Trail.First() == nil {
		return nil
	}
	m.trail.GoOn(&msg.kept.Trail)
	m.located, m.placed = nil, nil // the stops in the files that are shown are others now
	return m.locateShown()
}

// leaveStop notes where one is before one goes away, and by what it is found again.
func (m *Model) leaveStop(f *workspace.File, v trail.View) {
	symbol := ""
	known := f != nil && f.Path == v.Place.Path && f.Text.Whole() && !f.Text.Binary()
	if known {
		symbol = workspace.SymbolAt(f, v.Place.Line, v.Place.Col)
	}
	m.trail.Leave(v, symbol)
	if known {
		m.trail.Remember(workspace.AnchorIn(f, v.Place), symbol)
	}
}

// leaveHere is leaveStop for what is on the screen.
func (m *Model) leaveHere() {
	if m.before == nil && m.code.Path() != "" && m.trail.Here() != nil {
		m.leaveStop(m.code.File(), m.code.State())
	}
}

// restAtStop notes how the present stop looks, without going anywhere.
func (m *Model) restAtStop() {
	f := m.code.File()
	if m.before != nil || m.inLeaf() || f == nil || m.trail.Here() == nil {
		return
	}
	v := m.code.State()
	if m.trail.Rest(v); f.Text.Whole() && !f.Text.Binary() && m.trail.Here().View == v {
		m.trail.Remember(workspace.AnchorIn(f, v.Place), workspace.SymbolAt(f, v.Place.Line, v.Place.Col))
	}
}

// keepTrail notes what is to be kept of the trail.
func (m *Model) keepTrail() {
	m.restAtStop()
	if !m.trailOpen || m.trail.Changes() == m.trailKept {
		return
	}
	m.keeper.add(trailNews{m.trail.News(), m.recent.All(time.Now())})
	m.trailKept = m.trail.Changes()
}

// A place one has moved to becomes a stop when the caret has stood still there for so
// long, counted from when the state was kept.
const stayAfter = 8 * time.Second

// stayMsg says that the caret has stood still for that long, if number is still the latest.
type stayMsg struct{ number int }

// stayLater waits whether one stays where one has moved to.
func (m *Model) stayLater() tea.Cmd {
	number := m.asks
	return tea.Tick(stayAfter, func(time.Time) tea.Msg { return stayMsg{number} })
}

// stays makes a stop of a place far from the one where one came in.
func (m *Model) stays(msg stayMsg) tea.Cmd {
	if msg.number == m.asks && m.overlay == noOverlay && !m.inLeaf() {
		m.leaveHere()
	}
	return nil
}

// toStop is the opening that shows a stop as it was left; move moves on the trail.
func toStop(to trail.Step, move func()) opening {
	v, memory := to.View, to.Stop.Memory
	o := opening{path: v.Place.Path, view: &v, along: move}
	if memory.Text != "" && memory.Line == v.Place.Line && memory.Path == v.Place.Path {
		o.memory = &memory
	}
	if to.Stop.Fate == place.Changed { // which was found out when its file was last read
		o.after = "this line has changed since one was here"
		if memory.Kept != nil {
			o.after += ": " + memory.Kept.Text
		}
	}
	return o
}

// again finds the place of a stop in its file as that is now, and says what became of it.
func (o *opening) again(f *workspace.File) {
	if o.memory == nil || o.view == nil || !f.Text.Whole() || f.Text.Binary() {
		return
	}
	at, fate := workspace.RecallIn(f, o.memory)
	if fate == place.Gone {
		o.after = "what one saw here is gone: " + o.memory.Text
		return
	}
	v := *o.view
	if v.Top > 0 {
		v.Top = max(v.Top+at.Line-v.Place.Line, 1)
	}
	v.Place.Line, v.Place.Col = at.Line, at.Col
	o.view = &v
	if fate == place.Changed {
		o.after = "this line has changed since one was here: " + o.memory.Text
	}
}

// back goes to the stop one came from.
func (m *Model) back() tea.Cmd {
	m.leaveHere() // which may make a stop to come back from
	to := m.trail.Previous()
	if to.Stop == nil {
		m.say("the trail begins here")
		return nil
	}
	return m.along(to, func() { m.trail.Back() })
}

// forward goes on to where one last went.
func (m *Model) forward() tea.Cmd {
	m.leaveHere()
	to := m.trail.Next()
	if to.Stop == nil {
		m.say("the trail does not lead on from here")
		return nil
	}
	if n := len(m.trail.Here().Ways()); n > 1 {
		m.say("there were %d ways on from there; at such a fork F lets you choose", n)
	}
	return m.along(to, func() { m.trail.Forward() })
}

// along shows a stop of the trail as it was left.
func (m *Model) along(to trail.Step, move func()) tea.Cmd {
	return m.open(toStop(to, move))
}

// visit goes to any stop of the trail.
func (m *Model) visit(s *trail.Stop) opening {
	return toStop(trail.Step{Stop: s, View: s.View}, func() { m.trail.Visit(s) })
}

// fork lets one choose where to go on from the present stop.
func (m *Model) fork() tea.Cmd {
	here := m.trail.Here()
	if here == nil || len(here.Ways()) == 0 {
		m.say("the trail does not lead on from here")
		return nil
	}
	if len(here.Ways()) == 1 {
		m.say("only one way led on from there")
		return m.takeWay(here.Ways()[0])
	}
	var rows []sheet.Row
	for i := len(here.Ways()) - 1; i >= 0; i-- {
		rows = append(rows, m.wayRow(here.Ways()[i]))
	}
	m.openChoice("ways on from "+shortName(here.View.Place.Path)+" "+strconv.Itoa(here.View.Place.Line), "go there", rows)
	return m.previewChoice()
}

// takeWay goes on along one of the ways from here.
func (m *Model) takeWay(s *trail.Stop) tea.Cmd {
	return m.open(m.toWay(s))
}

func (m *Model) toWay(s *trail.Stop) opening {
	to := trail.Step{Stop: s, View: s.View}
	if next := m.trail.Next(); next.Stop == s {
		to = next
	}
	return toStop(to, func() { m.trail.Take(s) })
}

func (m *Model) wayRow(s *trail.Stop) sheet.Row {
	where := s.View.Place.Path + " " + strconv.Itoa(s.View.Place.Line)
	if s.Parent() != m.trail.Here() {
		where += ", a stop from before"
	} else if n := s.CountTo(100_000) - 1; n > 0 {
		where += ", then " + sheet.Count(n, "stop", "stops")
		if end := s.End(); end != s {
			where += " to " + end.Title()
		}
	}
	return sheet.Row{What: "way", Name: s.Title() + "  (" + s.How + ")", Where: where, Value: s}
}

// locatedInMsg brings where the stops and bookmarks in a file are now.
type locatedInMsg struct {
	file  *workspace.File
	to    placed
	stops []locatedStop
	marks locatedMarks
	swept locatedItems
}

// placed is a text for which the places that are remembered in its file are right. While it is
// written in, they move with what is written; pen and epoch tell whether the next text was made
// of it in that way.
type placed struct {
	doc   *text.Document
	pen   *pen
	epoch int
}

type locatedStop struct {
	stop     *trail.Stop
	was, now place.Memory
	fate     place.Fate
}

// locateShown finds what is remembered in the files on the screen.
func (m *Model) locateShown() tea.Cmd {
	var cmds []tea.Cmd
	for _, s := range m.sides {
		cmds = append(cmds, m.locateIn(s.code.File()))
	}
	return tea.Batch(cmds...)
}

// locateIn finds the stops and bookmarks in a file again, if its text is another than when
// that was last done.
func (m *Model) locateIn(f *workspace.File) tea.Cmd {
	if f == nil || !f.Text.Whole() || f.Text.Binary() || m.located[f.Path] == f.Text {
		return nil
	}
	if m.located == nil {
		m.located = map[string]*text.Document{}
	}
	m.located[f.Path] = f.Text
	msg := locatedInMsg{file: f, marks: m.marksIn(f.Path), swept: m.itemsIn(f.Path), to: placed{doc: f.Text, pen: m.desk.pens[f.Path]}}
	if msg.to.pen != nil {
		msg.to.epoch = msg.to.pen.epoch
	}
	var was *text.Document // nil if what is there now was not made of it here
	if from := m.placed[f.Path]; from.pen != nil && from.pen == msg.to.pen && from.epoch == msg.to.epoch {
		was = from.doc
	}
	for _, s := range m.trail.In(f.Path) {
		if s.Memory.Text != "" {
			was := s.Memory
			was.Line, was.Col = s.View.Place.Line, s.View.Place.Col
			if was.Line == s.Memory.Line {
				msg.stops = append(msg.stops, locatedStop{stop: s, was: was, now: was, fate: s.Fate})
			}
		}
	}
	if len(msg.stops) == 0 && msg.marks.none() && msg.swept.none() {
		m.placeIn(msg)
		return nil
	}
	return func() tea.Msg {
		all, before := make([]*place.Memory, len(msg.stops)), make([]place.Fate, len(msg.stops))
		for i := range msg.stops {
			all[i], before[i] = &msg.stops[i].now, msg.stops[i].fate
		}
		for i, fate := range whereAll(was, f, all, before) {
			msg.stops[i].fate = fate
		}
		msg.marks.locate(was, f)
		msg.swept.locate(was, f)
		return msg
	}
}

// whereAll finds remembered places of a file again, which had these fates before: by the edits
// that have made its text of an earlier one, or by looking for them if that is nil.
func whereAll(was *text.Document, f *workspace.File, all []*place.Memory, before []place.Fate) []place.Fate {
	if was != nil {
		return workspace.FollowAll(context.Background(), was, f, all, before)
	}
	return workspace.RecallAll(context.Background(), f, all)
}

// placeIn notes for which text the places in a file are right now.
func (m *Model) placeIn(msg locatedInMsg) {
	if m.placed == nil {
		m.placed = map[string]placed{}
	}
	m.placed[msg.file.Path] = msg.to
}

// locatedIn takes over where the stops and bookmarks in a file are.
func (m *Model) locatedIn(msg locatedInMsg) tea.Cmd {
	if m.located[msg.file.Path] != msg.file.Text {
		return nil // there is a later text
	}
	m.placeIn(msg)
	follow := false
	caret := m.code.State().Place
	for _, s := range msg.stops {
		m.trail.Located(s.stop, s.was, s.now, s.fate)
		moved := s.fate == place.Moved || s.fate == place.Changed && s.now.Line != s.was.Line
		follow = follow || moved && s.stop == m.trail.Here() && s.was.Path == caret.Path && s.was.Line == caret.Line // the column may not have been in the line meanwhile
	}
	cmds := []tea.Cmd{m.marksLocated(msg.marks), m.itemsLocated(msg.swept)}
	if follow && m.before == nil && !m.inLeaf() && m.code.File() == msg.file {
		m.code.Show(msg.file, m.trail.Here().View) // the caret stays with its line
		cmds = append(cmds, m.moved())
	}
	m.showMarks()
	return tea.Batch(cmds...)
}
