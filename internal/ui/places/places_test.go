package places_test

import (
	"fmt"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/highlight"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/picker"
	"rooktrail/internal/ui/places"
)

// plain knows no colours.
func plain(string, int) highlight.Spans { return nil }

func some() []answer.Answer {
	at := func(path string, line int, role, in, text, name string) answer.Answer {
		i := strings.Index(text, name)
		return answer.Answer{Answer: resolve.Answer{Path: path, Name: name}, Line: line, Col: 1, Role: role, In: resolve.Answer{Name: in}, Text: text,
			TextAt: place.Range{Start: uint32(i), End: uint32(i + len(name))}, Test: strings.Contains(path, "_test")}
	}
	return []answer.Answer{
		at("huts/hut.go", 3, "write", "Hut.open", "h.snow = 3", "snow"),
		at("huts/hut.go", 9, "read", "Hut.tell", "return h.snow", "snow"),
		at("huts/hut_test.go", 5, "read", "TestSnow", "assert(h.snow)", "snow"),
	}
}

// shown draws the sheet without colours.
func shown(m *places.Model) string {
	p := palette.Plain
	return strings.Join(m.Rows(100, &p), "\n")
}

func press(m *places.Model, key tea.KeyPressMsg) picker.Event { return m.Update(key) }

func TestGroupsAndFilters(t *testing.T) {
	m := places.New(plain)
	m.Open("references of snow", places.Gather(some()), 12)
	view := shown(m)
	assert.Contains(t, view, "references of snow")
	assert.Contains(t, view, "3 of 3")
	assert.Less(t, strings.Index(view, "huts/hut.go"), strings.Index(view, "in Hut.open, line 3"))
	assert.Contains(t, view, "huts/hut_test.go")
	d, ok := m.Chosen()
	assert.True(t, ok)
	assert.Equal(t, 3, d.Line)

	assert.Equal(t, picker.Selected, press(m, tea.KeyPressMsg{Code: tea.KeyTab})) // reads are most
	assert.NotContains(t, shown(m), "h.snow = 3")
	press(m, tea.KeyPressMsg{Code: tea.KeyTab})
	assert.Contains(t, shown(m), "only: write")
	assert.NotContains(t, shown(m), "return h.snow")
	press(m, tea.KeyPressMsg{Code: tea.KeyTab})
	assert.Contains(t, shown(m), "3 of 3")

	press(m, tea.KeyPressMsg{Code: 't', Mod: tea.ModAlt})
	assert.NotContains(t, shown(m), "TestSnow")
	press(m, tea.KeyPressMsg{Code: 't', Mod: tea.ModAlt})
	assert.Contains(t, shown(m), "only tests")
	d, _ = m.Chosen()
	assert.Equal(t, "huts/hut_test.go", d.Path)
}

func TestTypingNarrows(t *testing.T) {
	m := places.New(plain)
	m.Open("references of snow", places.Gather(some()), 12)
	for _, r := range "tell" {
		press(m, tea.KeyPressMsg{Code: r, Text: string(r)})
	}
	d, ok := m.Chosen()
	assert.True(t, ok)
	assert.Equal(t, 9, d.Line)
	assert.Contains(t, shown(m), "hut.go 9", "the file is said, since the groups are gone")
	assert.Equal(t, picker.Taken, press(m, tea.KeyPressMsg{Code: tea.KeyEnter}))
	assert.Equal(t, picker.Closed, press(m, tea.KeyPressMsg{Code: tea.KeyEscape}))
}

func BenchmarkOpenMost(b *testing.B) {
	var all []answer.Answer
	for i := range answer.MostFound {
		all = append(all, answer.Answer{Answer: resolve.Answer{Path: fmt.Sprintf("a/f%d.go", i/10), Name: "snow"}, Line: i, Role: "read", In: resolve.Answer{Name: "T.f"}, Text: "if err := h.snow(depth); err != nil {"})
	}
	m, p := places.New(plain), palette.Plain
	for b.Loop() {
		m.Open("references", places.Gather(all), 20)
		m.Rows(140, &p)
	}
}

func TestWhatIsPossibleIsFoldedAway(t *testing.T) {
	all := some()
	all[2].Possible, all[2].Certainty = true, resolve.ByName
	m := places.New(plain)
	m.Open("references of snow", places.Gather(all), 12)
	view := shown(m)
	assert.Contains(t, view, "2 of 2")
	assert.Contains(t, view, "and 1 possible")
	assert.NotContains(t, view, "hut_test.go")
	assert.Len(t, m.Shown(), 2, "nor is it kept")

	assert.Equal(t, picker.Selected, press(m, tea.KeyPressMsg{Code: 'q', Mod: tea.ModAlt}))
	assert.Contains(t, shown(m), "1 of them possible, not proven")
	d, ok := m.Chosen()
	assert.True(t, ok && d.Possible, "it is the chosen one")
	press(m, tea.KeyPressMsg{Code: 'q', Mod: tea.ModAlt})
	assert.NotContains(t, shown(m), "hut_test.go")

	m.Open("references of snow", places.Gather(all[2:]), 12)
	assert.Contains(t, shown(m), "hut_test.go", "where there is nothing else it is shown at once")
}
