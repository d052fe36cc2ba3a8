package trails

import (
	"strings"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/picker"
)

// Key takes a key or what was pasted.
func (m *Model) Key(msg tea.Msg) Event {
	k, isKey := msg.(tea.KeyPressMsg)
	if m.asking != none {
		return m.answer(msg, k, isKey)
	}
	if isKey {
		if e, taken := m.command(k.String()); taken {
			return e
		}
	}
	switch m.picker.Update(msg) {
	case picker.Selected:
		return Event{Kind: Selected}
	case picker.Closed:
		return Event{Kind: Closed}
	case picker.Taken:
		if a, ok := m.about(); ok {
			if a.Present {
				return Event{Kind: Closed}
			}
			return Event{Kind: Switched, ID: a.ID}
		}
		s, _ := m.Chosen()
		return Event{Kind: Taken, Stop: s}
	}
	return Event{}
}

// command acts on the keys that do something with what is chosen.
func (m *Model) command(k string) (e Event, taken bool) {
	if m.list {
		return m.onTrail(k)
	}
	switch {
	case keymap.Is(k, on.Only):
		s, _ := m.Chosen()
		m.only = m.only.Next()
		m.fill()
		m.picker.Set(m.shown(), max(m.at(s), 0))
		return Event{Kind: Selected}, true
	case keymap.Is(k, on.Trails):
		return Event{Kind: Trails}, true
	case keymap.Is(k, on.Begin):
		m.ask(begin)
		return Event{}, true
	case keymap.Is(k, on.Uncut):
		return Event{Kind: Uncut}, true
	case keymap.Is(k, on.Export):
		m.ask(export)
		return Event{}, true
	case keymap.Is(k, on.Guide):
		return Event{Kind: Guided, Stops: m.stops()}, true
	}
	s, ok := m.Chosen()
	if !ok {
		return Event{}, strings.HasPrefix(k, "alt+")
	}
	switch {
	case keymap.Is(k, on.Note):
		m.ask(note)
	case keymap.Is(k, on.Name):
		m.ask(name)
	case keymap.Is(k, on.Cut):
		m.ask(cut)
	case keymap.Is(k, on.Star):
		return Event{Kind: Starred, Stop: s}, true
	case keymap.Is(k, on.Unfold), keymap.Is(k, on.Fold):
		if m.picker.Typed() != "" || m.only != trail.Everything {
			return Event{}, false
		}
		m.fold(s, keymap.Is(k, on.Fold))
		return Event{Kind: Selected}, true
	default:
		return Event{}, false
	}
	return Event{}, true
}

// fold folds the side path away in which a stop is, or opens it.
func (m *Model) fold(s *trail.Stop, shut bool) {
	if !shut {
		delete(m.folded, s)
		m.fill()
		m.picker.Set(m.shown(), max(m.at(s), 0))
		return
	}
	for at := m.at(s); at >= 0; at-- {
		if r := m.rows[at]; r.Turns && (r.Depth <= m.rows[m.at(s)].Depth) {
			m.folded[r.Stop] = true
			s = r.Stop
			break
		}
	}
	m.fill()
	m.picker.Set(m.shown(), max(m.at(s), 0))
}

// stops are those that are shown, in their order.
func (m *Model) stops() (all []*trail.Stop) {
	for _, i := range m.picker.Entries() {
		all = append(all, m.rows[i].Stop)
	}
	return all
}

// onTrail acts on a key for the chosen trail.
func (m *Model) onTrail(k string) (e Event, taken bool) {
	switch {
	case keymap.Is(k, on.Trails):
		m.list = false
		m.Open(m.trail, m.file, m.height)
		return Event{Kind: Selected}, true
	case keymap.Is(k, on.Begin):
		m.ask(begin)
		return Event{}, true
	}
	a, ok := m.about()
	if !ok || !strings.HasPrefix(k, "alt+") {
		return Event{}, strings.HasPrefix(k, "alt+")
	}
	switch {
	case keymap.Is(k, on.Name):
		m.ask(rename)
	case keymap.Is(k, on.Cut) && !a.Present:
		m.ask(remove)
	case keymap.Is(k, on.Join) && !a.Present:
		return Event{Kind: Joined, ID: a.ID}, true
	}
	return Event{}, true
}

// answer takes a key while something is asked.
func (m *Model) answer(msg tea.Msg, k tea.KeyPressMsg, isKey bool) Event {
	if isKey && keymap.Is(k.String(), keymap.Ends.Close) {
		m.asking = none
		if m.once {
			return Event{Kind: Closed}
		}
		return Event{}
	}
	what := m.asking
	s, _ := m.Chosen()
	a, _ := m.about()
	if what == cut || what == remove {
		if !isKey || !keymap.Is(k.String(), on.Cut) {
			return Event{}
		}
		m.asking = none
		if what == cut {
			return Event{Kind: Cut, Stop: s}
		}
		return Event{Kind: Removed, ID: a.ID}
	}
	if !isKey || !keymap.Is(k.String(), keymap.Ends.Take) {
		m.input.Edit(msg)
		return Event{}
	}
	m.asking = none
	words := strings.TrimSpace(m.input.Value())
	switch what {
	case note:
		return Event{Kind: Noted, Stop: s, Words: words, Done: m.once}
	case name:
		return Event{Kind: Named, Stop: s, Words: words}
	case begin:
		return Event{Kind: Begun, Words: words}
	case rename:
		id := a.ID
		if a.Present {
			id = ""
		}
		return Event{Kind: Renamed, ID: id, Words: words}
	case export:
		if words != "" {
			return Event{Kind: Exported, Stops: m.stops(), Words: words}
		}
	}
	return Event{}
}
