package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/highlight"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
)

// lineColors are the colours of the lines in the list that is open, by file and line.
type lineColors struct {
	spans  map[place.Place]highlight.Spans
	number int // of the latest list
}

// of gives the colours of a line, as far as they are known.
func (c *lineColors) of(path string, line int) highlight.Spans {
	return c.spans[place.Place{Path: path, Line: line}]
}

// Lines are coloured in the order of the list, so many at a time, up to a number
// beyond which nobody scrolls.
const (
	linesAtOnce = 60
	mostLines   = 5000
)

// linesMsg brings the colours of some lines; rest are those still to be coloured.
type linesMsg struct {
	number int
	spans  map[place.Place]highlight.Spans
	rest   []place.Place
}

// colorLines finds the colours of the lines of a list that was opened.
func (m *Model) colorLines(all []place.Place) tea.Cmd {
	m.lines.number++
	if len(m.lines.spans) > mostLines {
		m.lines.spans = nil
	}
	return m.colorMore(m.lines.number, all[:min(len(all), mostLines)])
}

func (m *Model) colorMore(number int, all []place.Place) tea.Cmd {
	var wanted []place.Place
	for _, p := range all {
		if _, ok := m.lines.spans[place.Place{Path: p.Path, Line: p.Line}]; !ok {
			wanted = append(wanted, place.Place{Path: p.Path, Line: p.Line})
		}
	}
	if len(wanted) == 0 || number != m.lines.number {
		return nil
	}
	ws := m.ws
	return func() tea.Msg {
		n := min(len(wanted), linesAtOnce)
		spans := make(map[place.Place]highlight.Spans, n)
		for _, p := range wanted[:n] {
			spans[p] = ws.Colors(context.Background(), p.Path, p.Line)
		}
		return linesMsg{number, spans, wanted[n:]}
	}
}

func (m *Model) linesColored(msg linesMsg) tea.Cmd {
	if m.lines.spans == nil {
		m.lines.spans = map[place.Place]highlight.Spans{}
	}
	for p, s := range msg.spans {
		m.lines.spans[p] = s
	}
	return m.colorMore(msg.number, msg.rest)
}

// placesOf are the places of destinations.
func placesOf(all []workspace.Destination) []place.Place {
	places := make([]place.Place, len(all))
	for i := range all {
		places[i] = all[i].Place()
	}
	return places
}
