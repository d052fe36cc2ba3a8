package called_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/disk/calling"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace/workspacetest"
	"rooktrail/internal/ui/called"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// answered is a request, the reply to it, and what the screen does.
func answered(t *testing.T, m *called.Model, r calling.Request) (reply calling.Reply, todo surface.Intent) {
	t.Helper()
	replies := make(chan calling.Reply)
	go func() { replies <- m.Answer(context.Background(), r) }()
	heard := make(chan surface.Answer)
	go func() { heard <- m.Listen()().(surface.Answer) }()
	todo, _ = (<-heard).Deliver()
	return <-replies, todo
}

func TestCalls(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	h := &uitest.Host{}
	typing := false
	m := called.New(h, ws.Code, called.Around{Stop: func() int { return 3 }, Unsaved: func() map[string]bool { return map[string]bool{"ridge/hut.py": true} }, Typing: func() bool { return typing }})
	reply, _ := answered(t, m, calling.Request{Here: true})
	assert.Equal(t, &calling.Here{Stop: 3}, reply.Here, "no file is shown")

	h.At = surface.Here{File: &codebase.File{Path: "ridge/hut.py", Text: text.NewDocument([]byte("one\ntwo\n"))}, Offset: 5,
		View: trail.View{Place: place.Place{Path: "ridge/hut.py", Line: 1}}, Crumbs: []codebase.Crumb{{Name: "Hut"}, {Name: "ring"}}, Selection: place.Range{Start: 1, End: 6}}
	reply, todo := answered(t, m, calling.Request{Here: true})
	in := calling.Place{Path: "ridge/hut.py", Line: 2, Col: 2}
	assert.Equal(t, &calling.Here{Place: in, Symbol: "ring", Stop: 3, Unsaved: true, Selected: &[2]calling.Place{{Path: "ridge/hut.py", Line: 1, Col: 2}, {Path: "ridge/hut.py", Line: 2, Col: 3}}}, reply.Here)
	assert.Nil(t, todo.Go)
	assert.NotNil(t, todo.Cmd, "it waits for the next call")

	reply, todo = answered(t, m, calling.Request{Go: &in})
	assert.Empty(t, reply.Error)
	assert.Equal(t, surface.Visit{Path: "ridge/hut.py", Line: 2, Col: 2, How: "called from outside"}, *todo.Go)

	typing = true
	reply, todo = answered(t, m, calling.Request{Go: &in})
	assert.True(t, reply.Later)
	assert.Nil(t, todo.Go)
	assert.Contains(t, todo.Say, "hut.py is called for from outside")
	other := calling.Place{Path: "ridge/bell.py", Line: 1}
	_, todo2 := answered(t, m, calling.Request{Go: &other})
	assert.Nil(t, todo2.Go)
	typing = false
	var went *surface.Visit
	for _, cmd := range todo.Cmd().(tea.BatchMsg) {
		done := make(chan tea.Msg, 1)
		go func() { done <- cmd() }()
		select {
		case msg := <-done:
			next, _ := msg.(surface.Answer).Deliver()
			went = next.Go
		case <-time.After(2 * time.Second): // the one that waits for the next call
		}
	}
	require.NotNil(t, went)
	assert.Equal(t, "ridge/bell.py", went.Path, "the last that was called for counts")
}

func TestWhatCannotBeCalledFor(t *testing.T) {
	ws := workspacetest.Open(t, workspacetest.Ridge)
	m := called.New(&uitest.Host{}, ws.Code, called.Around{})
	outside := filepath.Join(t.TempDir(), "a.py")
	require.NoError(t, os.WriteFile(outside, nil, 0o600))
	for _, p := range []string{"", "nowhere.py", "ridge", "../../../etc/passwd", filepath.Dir(outside), "/dev/null"} {
		assert.Contains(t, m.Answer(context.Background(), calling.Request{Go: &calling.Place{Path: p}}).Error, "no file of this project", p)
	}
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	assert.Equal(t, "the program is busy", m.Answer(ctx, calling.Request{Go: &calling.Place{Path: outside}}).Error, "nobody listens")
}
