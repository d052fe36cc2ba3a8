package scout

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/know/find"
	"rooktrail/internal/core/know/search"
	"rooktrail/internal/core/work"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// The text of the files is searched from this many letters on, and when one
// has stopped typing for a moment.
const (
	shortestText = 3
	textPause    = 60 * time.Millisecond
)

// mostText is how many hits in texts there are at the most, and textBeat how
// often what was found so far is shown while the search goes on.
const (
	mostText = 5000
	textBeat = 120 * time.Millisecond
)

// inText is what was found in the text of the files so far.
type inText struct {
	lane   lane
	search *textSearch
	done   bool
}

// textSearch is a search of the text of the files that is under way.
type textSearch struct {
	query  find.Query
	hits   []search.TextHit
	found  chan []search.TextHit
	work   work.Group
	report search.TextReport // once found is closed
	err    error             // the same
}

// searchText looks through the text of all files, as a command.
func (m *Model) searchText(typed string) tea.Cmd {
	q := m.how
	q.Pattern = typed
	if len([]rune(typed)) < shortestText {
		return nil
	}
	m.reading = true
	s := &textSearch{query: q, found: make(chan []search.TextHit, 64)}
	finder := m.finder
	return surface.Ask(m.reader, func(ctx context.Context) inText {
		select {
		case <-time.After(textPause):
		case <-ctx.Done():
			return inText{}
		}
		s.work.Go(func() {
			defer close(s.found)
			s.report, s.err = finder.SearchText(ctx, q, mostText, func(hits []search.TextHit) bool {
				select {
				case s.found <- hits:
					return true
				case <-ctx.Done():
					return false
				}
			})
		})
		return s.more(ctx)
	}, m.takeText)
}

// more waits for hits and for what follows them shortly.
func (s *textSearch) more(ctx context.Context) inText {
	beat := time.NewTimer(textBeat)
	defer beat.Stop()
	for {
		select {
		case hits, ok := <-s.found:
			if !ok {
				s.work.Wait()
				return inText{s.lane(true), s, true}
			}
			s.hits = append(s.hits, hits...)
		case <-beat.C:
			if len(s.hits) > 0 {
				return inText{s.lane(false), s, false}
			}
			beat.Reset(textBeat)
		case <-ctx.Done():
			return inText{}
		}
	}
}

// lane puts what was found so far on rows: as one list with definitions first,
// and grouped by file for when the lane is widened.
func (s *textSearch) lane(done bool) lane {
	l := lane{title: laneText, full: len(s.hits) == mostText, note: toggles(s.query)}
	if done && s.err != nil { // until then it is being written
		l.note = s.err.Error() + "   " + l.note
	}
	switch {
	case !done:
		l.note = "so far   " + l.note
	case s.report.Binary > 0:
		l.note = sheet.Count(s.report.Binary, "binary file", "binary files") + " left out   " + l.note
	}
	first := slices.Clone(s.hits)
	slices.SortStableFunc(first, func(a, b search.TextHit) int { return cmp.Compare(rank(a.Role), rank(b.Role)) })
	for _, h := range first {
		l.rows = append(l.rows, s.row(h, h.Path+" "+strconv.Itoa(h.Line)))
	}
	l.groups = s.groups()
	return l
}

// rank puts definitions before everything else.
func rank(r find.Role) int {
	if r == find.Definition {
		return 0
	}
	return 1
}

func (s *textSearch) row(h search.TextHit, where string) sheet.Row {
	shown := strings.TrimLeft(h.Text, " \t")
	indent := len(h.Text) - len(shown)
	var at []int
	for i := int(h.Mark.Start); i < int(h.Mark.End); i++ {
		at = append(at, i-indent)
	}
	return sheet.Row{
		What: h.Role.String(), Name: shown, At: at, Where: where,
		Value: Choice{Place: h.Place, Offset: int(h.At.Start), Length: h.At.Len(), How: "text: " + s.query.Pattern, Text: true},
	}
}

// groups are the hits by file, those of one line on one row, with the lines
// around it that no other row shows already.
func (s *textSearch) groups() (groups []sheet.Section) {
	for from := 0; from < len(s.hits); {
		to := from
		for to < len(s.hits) && s.hits[to].Path == s.hits[from].Path {
			to++
		}
		groups = append(groups, s.group(s.hits[from:to]))
		from = to
	}
	return groups
}

func (s *textSearch) group(hits []search.TextHit) sheet.Section {
	group := sheet.Section{Title: hits[0].Path, Note: sheet.Count(len(hits), "hit", "hits")}
	last := -1 // the last line shown
	for from := 0; from < len(hits); {
		to := from + 1
		for to < len(hits) && hits[to].Line == hits[from].Line {
			to++
		}
		h := hits[from]
		row := s.row(h, "")
		row.Name, row.At = numbered(h.Line, h.Text), nil
		shift := len(row.Name) - len(h.Text)
		for _, other := range hits[from:to] {
			for i := int(other.Mark.Start); i < int(other.Mark.End); i++ {
				row.At = append(row.At, i+shift)
			}
		}
		if h.Line-1 > last && h.Above != "" {
			row.Above = numbered(h.Line-1, h.Above)
		}
		if (to == len(hits) || hits[to].Line > h.Line+1) && h.Below != "" {
			row.Below = numbered(h.Line+1, h.Below)
			last = h.Line + 1
		} else {
			last = h.Line
		}
		group.Rows = append(group.Rows, row)
		from = to
	}
	return group
}

// tab is what an indent by a tab is shown as: with as many bytes, so that marks
// stay where they are.
const tab = " "

// numbered writes a line behind its number.
func numbered(number int, line string) string {
	return fmt.Sprintf("%5d  ", number) + strings.ReplaceAll(line, "\t", tab)
}

// toggles names the keys that change how text is searched, with what they are
// set to.
func toggles(q find.Query) string {
	return strings.Join([]string{sheet.Toggle(keymap.Hint(on.Words, "whole words"), q.Word), sheet.Toggle(keymap.Hint(on.Case, "same case"), q.Case), sheet.Toggle(keymap.Hint(on.Regexp, "regexp"), q.Regexp)}, "  ")
}

// takeText shows what was found in the text of the files, below the other
// lanes.
func (m *Model) takeText(t inText) surface.Intent {
	m.reading, m.text = !t.done, t.lane
	var more tea.Cmd
	if !t.done {
		more = surface.More(m.reader, t.search.more, m.takeText)
	}
	return surface.Begin(more).And(m.showText())
}

// showText shows what was found in texts so far.
func (m *Model) showText() surface.Intent {
	if m.looking { // the names come first, and bring this along
		return surface.Intent{}
	}
	taking, first := m.taking, m.rowless()
	m.arrange()
	m.list.Update(m.sections())
	before, _ := m.Chosen()
	m.choose()
	if after, _ := m.Chosen(); after != before {
		return m.selected()
	}
	m.taking = taking && !m.sure() && !m.finder.Progress().Done
	switch {
	case m.taking: // something better may come yet
	case taking && !m.rowless():
		return m.take()
	case taking || first && !m.rowless():
		return m.selected()
	}
	return surface.Intent{}
}

// rowless says that no lane has an answer so far, but for a guess.
func (m *Model) rowless() bool {
	for _, l := range m.lanes {
		if len(l.rows) > 0 && !l.guess {
			return false
		}
	}
	return true
}
