package codebase

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/know/project"
)

func TestWhatPeopleNeedIsReadFirst(t *testing.T) {
	now := time.Now()
	old := now.Add(-2 * recently).UnixNano()
	q := newQueue(now)
	q.add([]project.File{
		{Path: "far/a.go", Modified: old}, {Path: "hut/bell/a.go", Modified: old}, {Path: "far/new.go", Modified: now.UnixNano()},
		{Path: "hut/bell/b.go", Modified: old}, {Path: "far/off/c.go", Modified: old},
	})
	take := func() string {
		f, ok := q.take()
		assert.True(t, ok)
		return f.Path
	}
	assert.Equal(t, "far/new.go", take(), "it changed lately")
	q.look("hut/bell/b.go")
	assert.Equal(t, []string{"hut/bell/a.go", "hut/bell/b.go", "far/a.go", "far/off/c.go"}, []string{take(), take(), take(), take()})
	q.close()
	_, ok := q.take()
	assert.False(t, ok)
}

func TestHowLongReadingTakes(t *testing.T) {
	now := time.Now()
	p := Progress{Readable: 1000, Read: 500, Began: now.Add(-time.Minute), before: 400}
	assert.Equal(t, 5*time.Minute, p.Rest(now), "100 in a minute, 500 are left")
	p.Done = true
	assert.Zero(t, p.Rest(now))
	assert.Zero(t, (&Progress{Readable: 7}).Rest(now), "nothing is known yet")
}
