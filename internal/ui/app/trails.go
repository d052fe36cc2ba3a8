package app

import (
	"context"
	"errors"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/trails"
)

// onTrail carries out an action on the trail; ok is false for any other.
func (m *Model) onTrail(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.Back:
		return m.back(), true
	case keymap.Forward:
		return m.forward(), true
	case keymap.Fork:
		return m.fork(), true
	case keymap.EditBack, keymap.EditForward:
		return m.nextEdit(a == keymap.EditForward), true
	case keymap.TrailTree:
		return m.openTrail(), true
	case keymap.Trails:
		return m.openTrails(), true
	case keymap.StopStar:
		return m.starStop(), true
	case keymap.StopName:
		return m.nameStop(), true
	case keymap.StopNote:
		cmd := m.openTrail()
		if m.overlay == trailOverlay {
			m.trailSheet.Ask()
		}
		return cmd, true
	}
	return nil, false
}

// nameStop asks for a name of the present stop.
func (m *Model) nameStop() tea.Cmd {
	m.leaveHere()
	here := m.trail.Here()
	if here == nil {
		m.say("there is no stop yet; every jump makes one")
		return nil
	}
	m.askLine("name of this stop:", here.Name, func(answer string) tea.Cmd {
		m.trail.SetName(here, answer)
		if here.Name == "" {
			m.say("this stop has no name any more")
		} else {
			m.say("this stop is called %q now", here.Name)
		}
		return m.keepState()
	})
	return nil
}

// openTrail shows the trail on the whole screen.
func (m *Model) openTrail() tea.Cmd {
	m.leaveHere()
	if m.trail.Here() == nil {
		m.say("there is no stop yet; every jump makes one")
		return nil
	}
	m.remember()
	m.overlay = trailOverlay
	m.trailSheet.Open(&m.trail, m.code.Path(), m.sheetHeight())
	m.arrange()
	return m.previewStop()
}

// previewStop shows the chosen stop beneath the sheet.
func (m *Model) previewStop() tea.Cmd {
	s, ok := m.trailSheet.Chosen()
	if !ok || s == m.trail.Here() {
		return m.showBefore()
	}
	o := m.visit(s)
	o.preview, o.along = true, nil
	return m.open(o)
}

// trailUpdate hands a key to the sheet of the trail and acts on what came of it.
func (m *Model) trailUpdate(msg tea.Msg) tea.Cmd {
	e := m.trailSheet.Key(msg)
	switch e.Kind {
	case trails.Closed:
		return m.restore()
	case trails.Selected:
		return m.previewStop()
	case trails.Taken:
		if e.Stop == m.trail.Here() {
			return m.restore()
		}
		return m.jumpFromOverlay(m.visit(e.Stop))
	case trails.Starred:
		m.trail.SetStarred(e.Stop, !e.Stop.Starred)
	case trails.Noted:
		m.trail.SetNote(e.Stop, e.Words)
		if e.Done {
			m.say("the note on %s is written down", e.Stop.Title())
			return tea.Batch(m.keepState(), m.restore())
		}
	case trails.Named:
		m.trail.SetName(e.Stop, e.Words)
	case trails.Cut:
		return m.cutStop(e.Stop)
	case trails.Uncut:
		if n := m.trail.Uncut(); n > 0 {
			m.say("%s back", sheet.Count(n, "stop is", "stops are"))
		} else {
			m.say("nothing was cut away that could be brought back")
		}
	case trails.Exported:
		return m.exportWalk(e.Words, m.walkOfStops(e.Stops))
	case trails.Guided:
		make := m.walkOfStops(e.Stops)
		return tea.Batch(m.restore(), m.startWalk(make))
	case trails.Trails:
		return m.listTrails()
	case trails.Switched, trails.Begun, trails.Joined, trails.Renamed, trails.Removed:
		return m.onTrails(e)
	default:
		return nil
	}
	m.trailSheet.Refresh()
	return tea.Batch(m.keepState(), m.previewStop())
}

// cutStop cuts a stop away with all behind it.
func (m *Model) cutStop(s *trail.Stop) tea.Cmd {
	n := m.trail.Cut(s)
	if n == 0 {
		m.say("this is where the trail begins; cut away, nothing would be left")
	} else {
		m.say("%s cut away; Alt+U brings back what went last", sheet.Count(n, "stop", "stops"))
	}
	m.trailSheet.Refresh()
	m.showMarks()
	return tea.Batch(m.keepState(), m.previewStop())
}

// starStop marks the present stop, or takes the mark off.
func (m *Model) starStop() tea.Cmd {
	m.leaveHere()
	s := m.trail.Here()
	if s == nil {
		m.say("there is no stop yet; every jump makes one")
		return nil
	}
	m.trail.SetStarred(s, !s.Starred)
	if s.Starred {
		m.say("%s is starred; A A and then Tab shows the starred stops", s.Title())
	} else {
		m.say("%s is not starred any more", s.Title())
	}
	return m.keepState()
}

// errNoTrails says that there is no place to keep several trails.
var errNoTrails = errors.New("the trail is only in memory here, so there are no others")

// openTrails lists the trails of the project.
func (m *Model) openTrails() tea.Cmd {
	m.leaveHere()
	m.remember()
	m.overlay = trailOverlay
	m.trailSheet.Open(&m.trail, m.code.Path(), m.sheetHeight())
	m.arrange()
	return m.listTrails()
}

// trailsMsg brings the trails of the project.
type trailsMsg struct {
	all []trail.About
	err error
}

func (m *Model) listTrails() tea.Cmd {
	store := m.ws.Trails()
	if store == nil {
		m.say("%s", errNoTrails)
		return nil
	}
	m.going = true
	keep := m.keepState()
	return func() tea.Msg {
		if keep != nil {
			keep() // so that what is listed is as it is now
		}
		all, err := store.List()
		return trailsMsg{all, err}
	}
}

func (m *Model) trailsListed(msg trailsMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	if m.overlay == trailOverlay {
		m.trailSheet.List(&m.trail, msg.all, m.sheetHeight())
		return m.arrived(m.showBefore())
	}
	return m.arrived(nil)
}

// onTrails carries out what was chosen among the trails. What is on disk of the present one
// is brought up to date before.
func (m *Model) onTrails(e trails.Event) tea.Cmd {
	store := m.ws.Trails()
	if store == nil {
		m.say("%s", errNoTrails)
		return nil
	}
	if e.Kind == trails.Renamed && e.ID == "" {
		m.trail.Rechristen(e.Words)
		return tea.Batch(m.keepState(), m.listTrails())
	}
	keep := m.keepState()
	recent := m.recent.All(time.Now())
	var begun *trail.Trail
	if e.Kind == trails.Begun {
		begun = m.trail.Beginning(e.Words)
	}
	m.going = true
	return func() tea.Msg {
		keep()
		switch e.Kind {
		case trails.Switched:
			kept, err := store.Switch(e.ID)
			return switchedMsg{kept, err}
		case trails.Begun:
			whole := begun.Whole()
			begun.News() // all of it is kept with that
			kept := &trail.Kept{}
			kept.Trail.Become(begun)
			return switchedMsg{kept, store.Begin(whole, recent)}
		case trails.Joined:
			kept, err := store.Look(e.ID)
			return joinedMsg{kept, err}
		case trails.Renamed:
			if err := store.Rename(e.ID, e.Words); err != nil {
				return noteMsg(err.Error())
			}
		case trails.Removed:
			if err := store.Remove(e.ID); err != nil {
				return noteMsg(err.Error())
			}
		}
		all, err := store.List()
		return trailsMsg{all, err}
	}
}

// switchedMsg brings the trail to go on with.
type switchedMsg struct {
	kept *trail.Kept
	err  error
}

// switched goes on with another trail, at its present stop.
func (m *Model) switched(msg switchedMsg) tea.Cmd {
	if msg.kept == nil || msg.err != nil && msg.kept.Trail.Here() == nil {
		m.say("%s", msg.err)
		return m.arrived(nil)
	}
	m.trail.Become(&msg.kept.Trail)
	m.trailKept, m.located = m.trail.Changes(), nil
	m.showMarks()
	if msg.err != nil {
		m.say("%s", msg.err)
	} else {
		m.say("this is the trail %q now, with %s", m.trail.Title(), sheet.Count(m.trail.Count(), "stop", "stops"))
	}
	here := m.trail.Here()
	if here == nil {
		return m.arrived(m.restore())
	}
	o := toStop(trail.Step{Stop: here, View: here.View}, func() {})
	o.after = m.message
	m.closeOverlay()
	return m.open(o)
}

// joinedMsg brings a trail to be taken in.
type joinedMsg struct {
	kept *trail.Kept
	err  error
}

func (m *Model) joined(msg joinedMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
		return m.arrived(nil)
	}
	m.trail.Join(&msg.kept.Trail)
	m.say("%s taken in from the trail %q, which is still there, too", sheet.Count(msg.kept.Trail.Count(), "stop is", "stops are"), msg.kept.Trail.Title())
	m.located = nil
	m.trailSheet.Open(&m.trail, m.code.Path(), m.sheetHeight())
	return tea.Batch(m.arrived(m.keepState()), m.previewStop())
}

// nextEdit goes to the place where text was changed before the one where one is in that
// order, or to the one after it; from elsewhere, to the last.
func (m *Model) nextEdit(forward bool) tea.Cmd {
	m.leaveHere()
	all := m.trail.Edited()
	if len(all) == 0 {
		m.say("nothing was changed yet on this trail")
		return nil
	}
	at := len(all)
	for i, s := range all {
		if s == m.trail.Here() && (m.editing == s || i == len(all)-1) {
			at = i
		}
	}
	if forward {
		at++
	} else {
		at--
	}
	n, round, step := len(all), "", 1
	if !forward {
		step = n - 1 // one back, round at the end
	}
	next := ((at % n) + n) % n
	if at < 0 {
		round = ", from the last again"
	} else if at >= n {
		round = ", from the first again"
	}
	for tries := 0; all[next].Fate == place.Gone; tries++ {
		if tries == n {
			m.say("what was changed at %s is gone", sheet.Count(n, "place", "places"))
			return nil
		}
		next = (next + step) % n
	}
	if all[next] == m.trail.Here() {
		m.say("edit place %s of %s: this is the only one that is there", sheet.Number(next+1), sheet.Number(n))
		m.editing = all[next]
		return nil
	}
	o, s := m.visit(all[next]), all[next]
	if m.editing != nil && m.editing == m.trail.Here() { // looking for the right one does not lengthen the way back
		o.along = func() { m.trail.Swap(s) }
	}
	m.editing = s
	o.after = "edit place " + sheet.Number(next+1) + " of " + sheet.Number(n) + round
	return m.open(o)
}

// walkOfStops makes a walk of stops of the trail, outside the update loop. The stops are
// copied, since the trail may change meanwhile.
func (m *Model) walkOfStops(stops []*trail.Stop) walkMaker {
	name, ws := m.trail.Title(), m.ws
	part := m.trail.Part(stops)
	return func(ctx context.Context) *walkOf { return &walkOf{ws.WalkOf(ctx, name, part)} }
}
