package app

import (
	"context"
	"fmt"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/resolve"
	"rooktrail/internal/core/sweep"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/places"
	"rooktrail/internal/ui/sheet"
)

// wayOf is the way that an action goes.
var wayOf = map[keymap.Action]workspace.Way{
	keymap.TypeDefinition:  workspace.ToType,
	keymap.Implementations: workspace.ToImplementations,
	keymap.Supers:          workspace.ToSupers,
	keymap.References:      workspace.ToReferences,
	keymap.Callers:         workspace.ToCallers,
	keymap.Called:          workspace.ToCalled,
	keymap.Tests:           workspace.ToTests,
}

// wayWords say of each way what its places are, how one came there, and what to say
// if there are none.
var wayWords = map[workspace.Way]struct{ title, how, none string }{
	workspace.ToDefinition:      {"definitions of %s", "definition of %s", "nothing in this project defines %s"},
	workspace.ToType:            {"types of %s", "type of %s", "nothing in this project is known to be the type of %s"},
	workspace.ToImplementations: {"what implements or overrides %s", "implementation of %s", "nothing implements or overrides %s"},
	workspace.ToSupers:          {"what %s is derived from, implements or overrides", "above %s", "%s is derived from nothing in this project"},
	workspace.ToReferences:      {"references of %s", "reference of %s", "nothing refers to %s"},
	workspace.ToCallers:         {"calls of %s", "call of %s", "nothing calls %s"},
	workspace.ToCalled:          {"what %s calls", "called by %s", "%s calls nothing in this project"},
	workspace.ToTests:           {"tests of %s, or what it tests", "test of %s", "no test of %s was found"},
}

// alongMsg brings the places to which a way leads.
type alongMsg struct {
	number int
	way    workspace.Way
	result resolve.Result
	places []workspace.Destination
	list   places.Gathered // the same, to be listed
	source sweep.Source
}

// goAlong finds where a way leads from the caret, to go there or to list the places.
// Esc gives up waiting.
func (m *Model) goAlong(way workspace.Way) tea.Cmd {
	file := m.code.File()
	if file == nil || file.Facts == nil && way != workspace.ToDefinition {
		m.say("nothing is known of the names in this file")
		return nil
	}
	m.opens++
	m.going = true
	ctx, cancel := context.WithCancel(context.Background())
	m.giveUp = cancel
	number, offset := m.opens, m.code.Offset()
	return func() tea.Msg {
		defer cancel()
		res, found := m.ws.Along(ctx, way, file.Path, offset)
		source := sweep.Source{Kind: sweep.OfWay, Way: way.String()}
		var list places.Gathered
		if len(found) > 1 {
			list = places.Gather(found)
			line, col := file.Text.Position(offset)
			from := m.ws.Anchor(ctx, place.Place{Path: file.Path, Line: line, Col: col})
			source.From = &from
		}
		return alongMsg{number, way, res, found, list, source}
	}
}

// foundAlong goes to the only place that was found, or lists them.
func (m *Model) foundAlong(msg alongMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil // one has gone elsewhere meanwhile
	}
	words, name := wayWords[msg.way], msg.result.Name
	switch {
	case name == "":
		m.say("there is no name under the caret")
	case len(msg.places) == 0 && msg.result.Outside != "":
		m.sayOutside(msg.way, msg.result)
	case len(msg.places) == 0 && !m.ws.Progress().Done:
		m.say(words.none+" so far; the project is still being read", name)
	case len(msg.places) == 0:
		m.say(words.none, name)
	case len(msg.places) == 1 && msg.places[0].Place() == m.code.State().Place:
		m.say("the only one is here")
	case len(msg.places) == 1:
		return m.open(toDestination(msg.places[0], fmt.Sprintf(words.how, name)))
	default:
		cmd := m.openPlaces(fmt.Sprintf(words.title, name), fmt.Sprintf(words.how, name), msg.source, msg.list)
		m.places.CanMention, m.placesName = msg.way == workspace.ToReferences, name
		return m.arrived(cmd)
	}
	return m.arrived(nil)
}

// sayOutside says that a way leads out of the project.
func (m *Model) sayOutside(way workspace.Way, res resolve.Result) {
	what := res.Name
	if way == workspace.ToType {
		what = "the type of " + what
	}
	m.say("%s belongs to %s, which is outside this project", what, res.Outside)
}

// toDestination is the opening that goes to a place of a list.
func toDestination(d workspace.Destination, how string) opening {
	return opening{path: d.Path, line: d.Line, col: d.Col, name: d.At, how: how, symbol: d.Symbol}
}

// openPlaces lists places; how says how one came to the one that is taken.
func (m *Model) openPlaces(title, how string, source sweep.Source, all places.Gathered) tea.Cmd {
	m.remember()
	m.placesHow, m.placesSource = how, source
	m.overlay = placesOverlay
	m.lines.spans = nil // the lines may have changed since
	m.places.CanMention = false
	m.places.Open(title, all, m.sheetHeight())
	m.arrange()
	return tea.Batch(m.placesEvent(picker.Selected), m.colorLines(placesOf(all.All())))
}

// placesEvent acts on what came of a key to the list of places.
func (m *Model) placesEvent(event picker.Event) tea.Cmd {
	d, ok := m.places.Chosen()
	switch event {
	case picker.Closed:
		return m.restore()
	case picker.Kept:
		return m.keepPlaces()
	case picker.More:
		return m.askMentions()
	case picker.Selected:
		if !ok {
			return m.showBefore()
		}
		o := toDestination(d, m.placesHow)
		o.preview = true
		return m.open(o)
	case picker.Taken:
		return m.jumpFromOverlay(toDestination(d, m.placesHow))
	}
	return nil
}

// mentionsMsg brings the places where a name is mentioned.
type mentionsMsg struct {
	name string
	all  []workspace.Destination
}

// askMentions looks for the name of the list in comments, strings, configuration and
// pages.
func (m *Model) askMentions() tea.Cmd {
	if !m.places.CanMention {
		return nil
	}
	m.places.CanMention = false
	name, ws := m.placesName, m.ws
	return func() tea.Msg {
		all, err := ws.MentionPlaces(context.Background(), name)
		if err != nil {
			return noteMsg(err.Error())
		}
		return mentionsMsg{name, all}
	}
}

func (m *Model) mentioned(msg mentionsMsg) tea.Cmd {
	if m.overlay != placesOverlay || m.placesName != msg.name {
		return nil
	}
	if len(msg.all) == 0 {
		m.say("%s is mentioned nowhere else", msg.name)
		return nil
	}
	m.places.Add(msg.all)
	m.placesSource = sweep.Source{Kind: sweep.OfList} // no one question has both for its answer
	return tea.Batch(m.placesEvent(picker.Selected), m.colorLines(placesOf(msg.all)))
}

// allWays lists every way from the caret with its key and how many places it leads
// to.
func (m *Model) allWays() tea.Cmd {
	if m.sign.Stale() { // it still tells of the name before
		m.waysWanted = true
		return nil
	}
	about := m.sign.About()
	if about.Name == "" {
		m.say("there is no name under the caret")
		return nil
	}
	var rows []sheet.Row
	for _, w := range m.sign.Ways() {
		rows = append(rows, sheet.Row{What: w.What, Name: joined(w.Where, w.More), Key: w.Key, Value: w.Action})
	}
	for _, w := range m.sign.Looks() {
		rows = append(rows, sheet.Row{What: w.What, Name: w.Where, Key: w.Key, Value: w.Action})
	}
	if len(rows) == 0 {
		m.say("no way leads on from %s", about.Name)
		return nil
	}
	m.openChoice("ways from "+about.Name, "go there", rows)
	return nil
}

// joined puts two parts of a sentence together, of which the second may be missing.
func joined(a, b string) string {
	if b == "" {
		return a
	}
	return a + ": " + b
}

// countedMsg brings how many places the ways from the caret lead to.
type countedMsg struct {
	number int
	ways   workspace.Ways
	rest   tea.Cmd // counts what is still missing; nil if nothing is
}

// countMsg says that the caret has stood still for long enough to count where the ways
// lead from the name at an offset.
type countMsg struct{ number, offset int }

// countWays counts where the ways from the name under the caret lead, until the caret
// moves on.
func (m *Model) countWays(msg countMsg) tea.Cmd {
	file := m.code.File()
	if msg.number != m.asks || file == nil {
		return nil
	}
	ctx, cancel := context.WithCancel(context.Background())
	m.stopCounting = cancel
	ws := m.ws
	related := func(n workspace.Ways) tea.Cmd {
		return func() tea.Msg {
			defer cancel()
			n = ws.CountRelated(ctx, file.Path, msg.offset, n)
			if ctx.Err() != nil {
				return nil
			}
			return countedMsg{number: msg.number, ways: n}
		}
	}
	return func() tea.Msg {
		n := ws.CountUses(ctx, file.Path, msg.offset)
		if ctx.Err() != nil {
			return nil
		}
		return countedMsg{msg.number, n, related(n)}
	}
}

// counted shows the counts, if the caret is still there, and goes on to what takes
// longer.
func (m *Model) counted(msg countedMsg) tea.Cmd {
	if msg.number != m.asks {
		return nil
	}
	m.sign.Count(msg.ways)
	return msg.rest
}
