package branches_test

import (
	"context"
	"regexp"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/highlight"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/branches"
	"rooktrail/internal/ui/palette"
)

var clean = regexp.MustCompile("\x1b\\[[0-9;]*m")

func drawn(m *branches.Model) string {
	return clean.ReplaceAllString(strings.Join(m.Rows(100, &palette.Plain), "\n"), "")
}

// caller is a branch with others below it.
func caller(name string, test bool, below ...workspace.Branch) workspace.Branch {
	b := workspace.Branch{Destination: workspace.Destination{Path: "huts/" + name + ".go", Line: 3, Role: "function", Text: name, Test: test}}
	b.Grow = func(context.Context) []workspace.Branch { return below }
	return b
}

func opened() *branches.Model {
	m := branches.New(func(string, int) highlight.Spans { return nil })
	present := workspace.Branch{Destination: workspace.Destination{Path: "huts/hut.go", Line: 9, Role: "function", Text: "measure"}, Present: true, Group: "this"}
	above := caller("report", false, caller("show", false), caller("TestShow", true))
	above.Group = "above"
	m.Open("the family of measure", "the other way", []workspace.Branch{above, present}, 14)
	return m
}

// press sends a key and carries out what it asks for.
func press(m *branches.Model, k tea.KeyPressMsg) branches.Event {
	cmd, event := m.Update(k)
	if cmd != nil {
		m.Update(cmd())
	}
	return event
}

func TestItOpensAtThePresentOne(t *testing.T) {
	m := opened()
	b, ok := m.Chosen()
	assert.True(t, ok && b.Present)
	for _, want := range []string{"the family of measure", "above", "+ report", "this", "▌  function", "you asked from here", "Tab the other way"} {
		assert.Contains(t, drawn(m), want)
	}
}

func TestOpeningAndClosing(t *testing.T) {
	m := opened()
	press(m, tea.KeyPressMsg{Code: tea.KeyUp})
	cmd, _ := m.Update(tea.KeyPressMsg{Code: tea.KeyRight})
	assert.True(t, m.Busy())
	assert.Contains(t, drawn(m), "report.go 3, …")
	_, event := m.Update(cmd())
	assert.Equal(t, branches.Grown, event)
	assert.False(t, m.Busy())
	assert.Contains(t, drawn(m), "– report")
	assert.Contains(t, drawn(m), "  + show")
	press(m, tea.KeyPressMsg{Code: 't', Mod: tea.ModAlt})
	assert.NotContains(t, drawn(m), "TestShow")
	press(m, tea.KeyPressMsg{Code: 't', Mod: tea.ModAlt})
	press(m, tea.KeyPressMsg{Code: tea.KeyRight})
	b, _ := m.Chosen()
	assert.Equal(t, "show", b.Text)
	press(m, tea.KeyPressMsg{Code: tea.KeyRight})
	assert.Contains(t, drawn(m), "nothing further")
	press(m, tea.KeyPressMsg{Code: tea.KeyLeft})
	press(m, tea.KeyPressMsg{Code: tea.KeyLeft})
	b, _ = m.Chosen()
	assert.Equal(t, "report", b.Text)
	press(m, tea.KeyPressMsg{Code: tea.KeyLeft})
	assert.NotContains(t, drawn(m), "show")
	assert.Len(t, m.Shown(), 2)
}

func TestJumpingAndLeaving(t *testing.T) {
	m := opened()
	for _, r := range "rep" {
		press(m, tea.KeyPressMsg{Code: r, Text: string(r)})
	}
	b, _ := m.Chosen()
	assert.Equal(t, "report", b.Text)
	assert.Contains(t, drawn(m), "tree  rep")
	assert.Equal(t, branches.Nothing, press(m, tea.KeyPressMsg{Code: tea.KeyEscape}), "what was typed goes first")
	assert.Equal(t, branches.Turned, press(m, tea.KeyPressMsg{Code: tea.KeyTab}))
	assert.Equal(t, branches.Kept, press(m, tea.KeyPressMsg{Code: 'k', Mod: tea.ModAlt}))
	assert.Equal(t, branches.Taken, press(m, tea.KeyPressMsg{Code: tea.KeyEnter}))
	assert.Equal(t, branches.Closed, press(m, tea.KeyPressMsg{Code: tea.KeyEscape}))
}

// An answer that comes after another tree was opened is dropped.
func TestLateAnswers(t *testing.T) {
	m := opened()
	press(m, tea.KeyPressMsg{Code: tea.KeyUp})
	cmd, _ := m.Update(tea.KeyPressMsg{Code: tea.KeyRight})
	msg := cmd()
	m.Open("another", "", []workspace.Branch{caller("other", false)}, 14)
	m.Update(msg)
	assert.NotContains(t, drawn(m), "show")
	assert.False(t, m.Busy())
}
