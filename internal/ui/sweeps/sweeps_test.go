package sweeps_test

import (
	"regexp"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/sweep"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sweeps"
)

var clean = regexp.MustCompile("\x1b\\[[0-9;]*m")

func drawn(m *sweeps.Model) string {
	return clean.ReplaceAllString(strings.Join(m.Rows(120, &palette.Plain), "\n"), "")
}

func made(name string) *sweep.Sweep {
	var items []sweep.Item
	for i, text := range []string{"open(hut)", "shut(hut)", "count(huts)"} {
		items = append(items, sweep.Item{Memory: place.Remember(place.Anchor{Path: "huts/hut.go", Line: i + 3, Col: 1, Text: text}), Length: 4, In: "Hut.run", Role: "call"})
	}
	return sweep.New(name, sweep.Source{Kind: sweep.OfList}, items)
}

func opened(choose bool) (*sweeps.Model, *sweep.Sweep) {
	m, s := sweeps.New(func(string, int) highlight.Spans { return nil }), made("lint")
	m.Open(s, []*sweep.Sweep{s, made("other")}, choose, 14)
	return m, s
}

func alt(r rune) tea.KeyPressMsg { return tea.KeyPressMsg{Code: r, Mod: tea.ModAlt} }

func TestWhatASweepShows(t *testing.T) {
	m, s := opened(false)
	s.SetMark(0, sweep.Done)
	s.SetMark(1, sweep.Aside)
	s.Items[2].Fate, s.Items[2].Note = place.Gone, "ask them"
	m.Update(s, []*sweep.Sweep{s})
	for _, want := range []string{"lint  3 of 3   0 to do, 1 done, 1 set aside, 1 gone", "done      open(hut)", "call in Hut.run, line 3", "aside     shut(hut)", "gone      count(huts)", "ask them", "Alt+V not done"} {
		assert.Contains(t, drawn(m), want)
	}
	m.Key(tea.KeyPressMsg{Code: tea.KeyTab})
	assert.Contains(t, drawn(m), "only: done")
	assert.NotContains(t, drawn(m), "shut(hut)")
	m.Busy()
	assert.Contains(t, drawn(m), "being asked again")
}

func TestWhatItsKeysDo(t *testing.T) {
	m, s := opened(false)
	m.Key(tea.KeyPressMsg{Code: tea.KeyDown})
	for key, want := range map[tea.KeyPressMsg]sweeps.Event{
		alt('v'): {Kind: sweeps.Tick, Item: 1}, alt('d'): {Kind: sweeps.Aside, Item: 1}, alt('f'): {Kind: sweeps.AsideAll, Item: 1, Path: "huts/hut.go"},
		alt('o'): {Kind: sweeps.AsideAll, Item: 1, Path: "huts"}, alt('a'): {Kind: sweeps.Refresh}, alt('p'): {Kind: sweeps.Copy},
		{Code: tea.KeyEnter}: {Kind: sweeps.Taken, Item: 1}, {Code: tea.KeyEscape}: {Kind: sweeps.Closed},
	} {
		assert.Equal(t, want, m.Key(key), key.String())
	}
	s.Items[1].Note = "was"
	m.Key(alt('n'))
	assert.Contains(t, drawn(m), "note on this place: was")
	m.Key(tea.KeyPressMsg{Code: '!', Text: "!"})
	assert.Equal(t, sweeps.Event{Kind: sweeps.Noted, Item: 1, Words: "was!"}, m.Key(tea.KeyPressMsg{Code: tea.KeyEnter}))
	m.Key(alt('n'))
	assert.Equal(t, sweeps.Event{}, m.Key(tea.KeyPressMsg{Code: tea.KeyEscape}), "not after all")
}

func TestChoosingAmongSweeps(t *testing.T) {
	m, s := opened(true)
	assert.Contains(t, drawn(m), "present   lint")
	m.Key(tea.KeyPressMsg{Code: tea.KeyDown})
	e := m.Key(tea.KeyPressMsg{Code: tea.KeyEnter})
	assert.Equal(t, sweeps.Chosen, e.Kind)
	assert.Equal(t, "other", e.Sweep.Name)
	m.Key(alt('r'))
	m.Key(tea.KeyPressMsg{Code: 's', Text: "s"})
	assert.Equal(t, "others", m.Key(tea.KeyPressMsg{Code: tea.KeyEnter}).Words)
	m.Key(alt('d'))
	assert.Contains(t, drawn(m), "forget this sweep")
	assert.Equal(t, sweeps.Removed, m.Key(alt('d')).Kind)
	m.Key(alt('s'))
	assert.Contains(t, drawn(m), "lint  3 of 3")
	m.Update(nil, nil)
	assert.Contains(t, drawn(m), "nothing is kept as a sweep yet")
	_ = s
}
