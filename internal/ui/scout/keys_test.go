package scout

import (
	"fmt"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// wanderer is a project in which one has been about.
type wanderer struct {
	project
	before Before
}

func (w *wanderer) Before(string) Before { return w.before }
func (w *wanderer) Open() []string       { return []string{"a/first.go", "a/here.go", "b/last.go"} }
func (w *wanderer) Stop(number int) (surface.Visit, bool) {
	return surface.Visit{Path: "stop.go", Line: 10 * number, How: "stop"}, number > 0
}

func wander() *Model {
	w := &wanderer{project{done: true, files: rescue.files}, Before{
		Files: []string{"b/old.go", "a/older.go"}, EditedFiles: []string{"a/older.go"}, Unsaved: map[string]bool{"a/older.go": true},
		Stops: []Remembered{
			{What: "stop", Title: "Roster.Assign", Place: place.Place{Path: "dispatch/roster.go", Line: 20}, Stop: 1, How: "stop", Text: "func Assign", Note: "begin here"},
			{What: "stop", Title: "Desk", Place: place.Place{Path: "dispatch/desk.go", Line: 8}, Stop: 2, How: "stop", Edited: true},
		},
	}}
	m := newScout(&w.project)
	m.finder, m.around = w, w
	m.Open()
	return m
}

func TestWhereSomethingWasChanged(t *testing.T) {
	m := wander()
	text := rows(m)
	for _, words := range []string{"old.go", "older.go", "Roster.Assign", "begin here", "Desk ✎"} {
		assert.Contains(t, text, words)
	}
	press(m, "alt+e")
	text = rows(m)
	assert.Contains(t, text, "only where something was changed")
	assert.Contains(t, text, "Desk ✎")
	assert.NotContains(t, text, "Roster.Assign")
	assert.NotContains(t, text, "b/old.go")
	assert.Equal(t, "a/older.go", chosen(t, m).Place.Path)
	press(m, "alt+e")
	assert.Contains(t, rows(m), "Roster.Assign")
	press(m, "r", "alt+e")
	assert.NotContains(t, rows(m), "only where something was changed", "that is for when nothing is typed")
}

func TestAStopIsGoneBackTo(t *testing.T) {
	m := wander()
	press(m, "Roster.Assign")
	todo := press(m, "enter")
	require.NotNil(t, todo.Go)
	assert.Equal(t, "stop.go", todo.Go.Path, "where it is by now, not where it was")
	assert.Equal(t, 10, todo.Go.Line)
}

func TestTheFilesThatAreOpen(t *testing.T) {
	m := wander()
	todo := m.Commands()[keymap.Views]()
	assert.Same(t, m, todo.Open)
	assert.Equal(t, "a/here.go", chosen(t, m).Place.Path, "the one that one is in")
	assert.NotContains(t, rows(m), "Roster.Assign")
	assert.Equal(t, "b/last.go", press(m, "down").Look.Path)
	assert.Equal(t, "a/first.go", press(m, "up", "up").Look.Path)
	press(m, "tab")
	assert.Contains(t, rows(m), "Roster.Assign")
}

func TestRoundAndRound(t *testing.T) {
	m := wander()
	first := chosen(t, m)
	m.Resize(100, 60)
	n := m.list.Len()
	require.Greater(t, n, 5)
	for range n {
		press(m, "space")
	}
	assert.Equal(t, first, chosen(t, m))
	press(m, "r", "space", "a")
	assert.Equal(t, "r a", m.Query(), "behind letters it is a blank")
}

func TestMovingByPages(t *testing.T) {
	p := &project{done: true}
	for i := range 300 {
		p.files = append(p.files, fmt.Sprintf("file%03d.go", i))
	}
	m := newScout(p)
	press(m, "file", "tab")
	before := chosen(t, m).Place.Path
	press(m, "pgdown")
	after := chosen(t, m).Place.Path
	assert.Greater(t, after, before)
	press(m, "pgdown", "pgup", "pgup")
	assert.Equal(t, before, chosen(t, m).Place.Path)
	press(m, "up")
	assert.Equal(t, before, chosen(t, m).Place.Path, "the first is the first")
}

func TestWithoutWaitingForABetterOne(t *testing.T) {
	m := newScout(&project{files: rescue.files})
	press(m, "drstr", "enter")
	require.True(t, m.Busy())
	todo := m.Now()
	require.NotNil(t, todo.Go)
	assert.Equal(t, "dispatch/roster.go", todo.Go.Path)
	assert.False(t, m.Busy())
	m.Open()
	press(m, "zzzz", "enter")
	assert.Nil(t, m.Now().Go, "there is none")
	assert.True(t, press(m, "esc").Close)
	assert.False(t, m.Busy())
}

func TestHowTextIsLookedForIsKept(t *testing.T) {
	m := newScout(&project{done: true, text: "bell, bells"})
	m.SetText(resume.Text{Case: true, Regexp: true})
	assert.Equal(t, resume.Text{Case: true, Regexp: true}, m.Text())
	press(m, "alt+x", "alt+c", "bell")
	assert.Contains(t, rows(m), "text  2")
	assert.True(t, press(m, "alt+w").Keep)
	assert.Contains(t, rows(m), "text  1")
	assert.Equal(t, resume.Text{Word: true}, m.Text())
	assert.Equal(t, "bell", m.TextQuery().Pattern)
	assert.True(t, m.TextQuery().Word)
	press(m, "backspace", "backspace")
	assert.Equal(t, surface.Intent{}, press(m, "alt+k"), "too short to be looked for in texts")
}

func TestNothingThere(t *testing.T) {
	m := newScout(&project{done: true})
	press(m, "x")
	assert.Contains(t, rows(m), "the project has no files")
	m = newScout(&project{files: rescue.files})
	press(m, "qqq")
	assert.Contains(t, rows(m), "the project is still being read")
	assert.Contains(t, rows(m), "read 3 of 10 files")
}

// Whatever is typed, and however narrow the sheet: each row is as wide as the sheet, and the caret
// is in the line.
func TestTheLineOfTheScout(t *testing.T) {
	m := wander()
	for _, width := range []int{20, 40, 80, 200} {
		m.Resize(width, 12)
		m.Update(tea.PasteMsg{Content: strings.Repeat("雪", 30)})
		x, y, ok := m.Cursor()
		assert.True(t, ok && y == 0 && x < width, "%d in %d", x, width)
		for range 40 {
			m.Update(uitest.Keys("left")[0])
			x, _, _ = m.Cursor()
			assert.True(t, x >= len(prompt) && x < width, "%d in %d", x, width)
		}
		m.Open()
	}
}
