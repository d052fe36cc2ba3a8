package lesson

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/keep/lesson"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

func begin(inDemo bool) *Model {
	m := New(&uitest.Host{}, keymap.Default())
	m.Know(&lesson.Progress{}, inDemo)
	return m
}

func text(m *Model) string { return uitest.Text(m.Rows(80, false, &palette.Plain)) }

// A task is done by how the screen looks, whatever was pressed.
func TestATaskIsDoneWhenTheScreenShowsIt(t *testing.T) {
	m := begin(true)
	assert.Zero(t, m.Lines())
	todo := m.Start("")
	assert.True(t, todo.Arrange)
	assert.Contains(t, text(m), "task 1 of 5: find what one half remembers")
	assert.Contains(t, text(m), "Space opens the scout")
	see := func(s lesson.Screen) surface.Intent { return m.See(&s) }
	see(lesson.Screen{Path: "README.md"})
	see(lesson.Screen{Path: "dispatch/roster.go", Over: "scout"})
	assert.Contains(t, text(m), "task 1 of 5", "it is only looked at")
	for range manyPresses {
		m.Pressed()
	}
	assert.Contains(t, text(m), "Esc closes whatever lies over the code", "a hint")
	see(lesson.Screen{Path: "dispatch/roster.go"})
	assert.Contains(t, text(m), "done ── task 2 of 5")
}

func TestALessonIsTakenUpWhereOneStopped(t *testing.T) {
	m := begin(true)
	m.Start("follow")
	first := m.lesson
	m.skip()
	m.end()
	assert.Zero(t, m.Lines())
	todo := m.Start("follow")
	assert.Contains(t, text(m), "task 2 of 5: follow a name")
	require.NotNil(t, todo.Go, "it begins where it would be")
	assert.Equal(t, 50, todo.Go.Line)
	assert.Equal(t, 1, m.progress.At(first))
	for range 4 {
		todo = m.skip()
	}
	assert.Zero(t, m.Lines())
	require.NotNil(t, todo.Then, "the list of lessons comes next")
	list := todo.Then().Open
	assert.Regexp(t, `(?s)find what one half remembers +5 tasks.*follow a name +done`, uitest.Of(list, 80, 12))
	assert.Contains(t, m.skip().Say, "there is no task to skip")
	assert.Contains(t, m.Start("climbing").Say, "there is no lesson climbing")
}

// What is about the demo needs it; the others can be done in any project, where they begin wherever one is.
func TestInOnesOwnProject(t *testing.T) {
	m := begin(false)
	assert.Contains(t, m.Start("follow").Say, "rooktrail learn follow")
	assert.Zero(t, m.Lines())
	todo := m.Start("keep")
	assert.Nil(t, todo.Go)
	assert.Contains(t, text(m), "m puts a bookmark on the line of the caret")
	assert.Contains(t, uitest.Of(m.open().Open, 120, 16), "5 tasks, in the demo")
}

// All words fit into their lines at 80 columns, and name keys that there are.
func TestTheWordsFit(t *testing.T) {
	m := begin(true)
	for _, l := range lesson.All() {
		for _, task := range l.Tasks {
			for _, words := range []string{task.Do, task.Hint} {
				told := m.told(words, false, 77)
				assert.LessOrEqual(t, len(told), lines-1, words)
				for _, line := range told {
					for _, piece := range line {
						if piece.words == "{" {
							continue // code
						}
						assert.NotContains(t, piece.words, "{", words)
						assert.False(t, piece.key && piece.words == "", words)
					}
				}
			}
		}
	}
}
