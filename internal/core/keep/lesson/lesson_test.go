package lesson_test

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/demo"
	"rooktrail/internal/core/keep/lesson"
)

// Every task has words and a way to be done, and begins where there is something in the demo; no two lessons
// have one name.
func TestTheLessonsFitTheDemo(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "tarnwell")
	require.NoError(t, demo.Unpack(t.Context(), dir))
	names := map[string]bool{}
	for _, l := range lesson.All() {
		assert.False(t, names[l.Name], l.Name)
		names[l.Name] = true
		found, ok := lesson.Named(l.Name)
		assert.True(t, ok && found.Title == l.Title)
		for i, task := range l.Tasks {
			assert.NotEmpty(t, task.Do)
			b := task.Begin
			if b.Path == "" {
				assert.NotZero(t, i, "%s: the first task begins somewhere", l.Name)
				continue
			}
			data, err := os.ReadFile(filepath.Join(dir, b.Path))
			require.NoError(t, err, "%s %d", l.Name, i)
			lines := bytes.Split(data, []byte("\n"))
			require.Less(t, b.Line, len(lines), "%s %d", l.Name, i)
			if b.Line > 0 {
				assert.LessOrEqual(t, b.Col, len(lines[b.Line-1])+1, "%s %d", l.Name, i)
			}
			screen := &lesson.Screen{Path: b.Path, Line: b.Line, Has: func(string) bool { return false }, Views: 1, Palette: "peat", Folded: l.Name == "where" && i == 3}
			assert.False(t, task.Done(screen, screen), "%s %d is not done at the beginning", l.Name, i)
		}
	}
	_, ok := lesson.Named("climbing")
	assert.False(t, ok)
}

func TestHowFarOneCameIsKept(t *testing.T) {
	file := filepath.Join(t.TempDir(), "lessons.json")
	p, err := lesson.Open(file)
	require.NoError(t, err)
	first, ok := p.Next()
	require.True(t, ok)
	assert.Equal(t, "find", first.Name)
	p.Reach(&first, len(first.Tasks))
	second, _ := p.Next()
	assert.Equal(t, "where", second.Name)
	p.Reach(&second, 2)
	require.NoError(t, p.Job()())

	p, err = lesson.Open(file)
	require.NoError(t, err)
	assert.True(t, p.Done(&first))
	assert.Equal(t, 2, p.At(&second))
	for _, l := range lesson.All() {
		p.Reach(&l, 99)
		assert.Equal(t, len(l.Tasks), p.At(&l))
	}
	_, ok = p.Next()
	assert.False(t, ok)

	require.NoError(t, os.WriteFile(file, []byte("{"), 0o600))
	p, err = lesson.Open(file)
	assert.ErrorContains(t, err, "they begin anew")
	assert.Zero(t, p.At(&first))
	assert.NoError(t, (&lesson.Progress{}).Job()(), "kept nowhere")
}
