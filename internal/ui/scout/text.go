package scout

import (
	"context"
	"strconv"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/find"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/sheet"
)

// The text of the files is searched from this many letters on, and when one
// has stopped typing for a moment.
const (
	shortestText = 3
	textPause    = 60 * time.Millisecond
)

// textMsg brings what was found in the text of the files.
type textMsg struct {
	number int
	lane   lane
}

// searchText looks through the text of all files, as a command.
func (m *Model) searchText(ctx context.Context, typed string) tea.Cmd {
	q := m.how
	q.Pattern = typed
	if len([]rune(typed)) < shortestText {
		return nil
	}
	m.reading = true
	number, finder := m.number, m.finder
	return func() tea.Msg {
		select {
		case <-time.After(textPause):
		case <-ctx.Done():
			return nil
		}
		hits, err := finder.SearchText(ctx, q, mostHits)
		if ctx.Err() != nil {
			return nil
		}
		return textMsg{number, textLane(hits, q, err)}
	}
}

func textLane(hits []workspace.TextHit, q find.Query, err error) lane {
	l := lane{title: laneText, full: len(hits) == mostHits, note: toggles(q)}
	if err != nil {
		l.note = err.Error() + "   " + l.note
	}
	for _, h := range hits {
		shown := strings.TrimLeft(h.Text, " \t")
		indent := len(h.Text) - len(shown)
		var at []int
		for i := int(h.Mark.Start); i < int(h.Mark.End); i++ {
			at = append(at, i-indent)
		}
		l.rows = append(l.rows, sheet.Row{
			What: h.Role.String(), Name: shown, At: at, Where: h.Path + " " + strconv.Itoa(h.Line),
			Value: Choice{Place: h.Place, Offset: int(h.At.Start), Length: h.At.Len(), How: "text: " + q.Pattern, Text: true},
		})
	}
	return l
}

// toggles names the keys that change how text is searched, with what they are
// set to.
func toggles(q find.Query) string {
	state := func(on bool, key, what string) string {
		if on {
			return key + " " + what + ": on"
		}
		return key + " " + what
	}
	return strings.Join([]string{state(q.Word, "Alt+W", "whole words"), state(q.Case, "Alt+C", "same case"), state(q.Regexp, "Alt+R", "regular expression")}, "  ")
}

// takeText shows what was found in the text of the files, below the other
// lanes, unless a later search is under way.
func (m *Model) takeText(msg textMsg) Event {
	if msg.number != m.number {
		return Nothing
	}
	m.reading, m.text = false, msg.lane
	if m.looking { // the names come first, and bring this along
		return Nothing
	}
	taking, first := m.taking, m.rowless()
	for i, l := range m.lanes {
		if l.title == laneText || l.title == "" {
			m.lanes = m.lanes[:i:i]
			break
		}
	}
	m.lanes = append(m.lanes, m.text)
	m.list.Update(m.sections())
	m.taking = taking && !m.sure() && !m.finder.Progress().Done
	switch {
	case m.taking: // something better may come yet
	case taking && !m.rowless():
		return Taken
	case taking || first && !m.rowless():
		return Selected
	}
	return Nothing
}

// rowless says that no lane has an answer so far.
func (m *Model) rowless() bool {
	for _, l := range m.lanes {
		if len(l.rows) > 0 {
			return false
		}
	}
	return true
}
