// Package called does what other programs of the user ask of this one: to go somewhere, or to say where one is. What is typed is never
// led elsewhere.
package called

import (
	"context"
	"os"
	"path"
	"path/filepath"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/calling"
	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/surface"
)

// Model takes calls.
type Model struct {
	host   surface.Host
	around Around
	asker  *surface.Asker
	code   *codebase.Base
	calls  chan call
	later  *surface.Visit // where it goes when nobody types any more; nil for nowhere
}

// Around is what the model asks the program.
type Around struct {
	// Stop is the number of the present stop of the trail, counted from 1; 0 for none.
	Stop func() int
	// Unsaved says which texts are not saved.
	Unsaved func() map[string]bool
	// Typing says that letters are typed, which are meant for where they are typed.
	Typing func() bool
}

// call is a request, and where the reply goes.
type call struct {
	request calling.Request
	reply   chan calling.Reply
}

// New makes one.
func New(host surface.Host, code *codebase.Base, around Around) *Model {
	return &Model{host: host, around: around, asker: host.Asker(nil), code: code, calls: make(chan call)}
}

// Answer hands a request to the screen, and waits for what comes of it. It is for other goroutines.
func (m *Model) Answer(ctx context.Context, r calling.Request) calling.Reply {
	if p := r.Go; p != nil && !m.has(p.Path) {
		return calling.Reply{Error: p.Path + " is no file of this project"}
	}
	c := call{r, make(chan calling.Reply, 1)}
	select {
	case m.calls <- c:
	case <-ctx.Done():
		return calling.Reply{Error: "the program is busy"}
	}
	select {
	case reply := <-c.reply:
		return reply
	case <-ctx.Done():
		return calling.Reply{Error: "the program is busy"}
	}
}

// has says whether a file can be shown: one of the project, or one on the machine, as anybody may open it.
func (m *Model) has(p string) bool {
	if !filepath.IsAbs(p) && !door.Inside(p) {
		return false
	}
	info, err := os.Stat(m.code.Absolute(p))
	return err == nil && info.Mode().IsRegular()
}

// Listen waits for the next call, and does what it asks.
func (m *Model) Listen() tea.Cmd {
	return surface.Do(m.asker, func(ctx context.Context) *call {
		select {
		case c := <-m.calls:
			return &c
		case <-ctx.Done():
			return nil
		}
	}, func(c *call) surface.Intent {
		if c == nil {
			return surface.Intent{}
		}
		return m.take(c).And(surface.Begin(m.Listen()))
	})
}

func (m *Model) take(c *call) surface.Intent {
	p := c.request.Go
	if p == nil {
		c.reply <- calling.Reply{Here: m.here()}
		return surface.Intent{}
	}
	visit := surface.Visit{Path: p.Path, Line: p.Line, Col: p.Col, How: "called from outside"}
	if !m.around.Typing() {
		c.reply <- calling.Reply{}
		return surface.Go(visit)
	}
	c.reply <- calling.Reply{Later: true}
	waiting := m.later != nil
	m.later = &visit
	todo := surface.Say("%s is called for from outside, and comes when you stop typing", path.Base(visit.Path))
	if !waiting {
		todo = todo.And(surface.Begin(m.wait()))
	}
	return todo
}

// often is how often is looked whether somebody still types.
const often = 200 * time.Millisecond

// wait goes where was called for once nobody types any more.
func (m *Model) wait() tea.Cmd {
	return surface.Later(m.asker, often, func() surface.Intent {
		if m.around.Typing() {
			return surface.Begin(m.wait())
		}
		visit := *m.later
		m.later = nil
		return surface.Go(visit)
	})
}

// here is where one is.
func (m *Model) here() *calling.Here {
	h := m.host.Here()
	at := h.View.Place
	here := &calling.Here{Place: calling.Place{Path: at.Path, Line: at.Line, Col: at.Col}, Stop: m.around.Stop(), Unsaved: m.around.Unsaved()[at.Path]}
	if n := len(h.Crumbs); n > 0 {
		here.Symbol = h.Crumbs[n-1].Name
	}
	if h.File == nil || at.Path == "" {
		return here
	}
	here.Line, here.Col = h.File.Text.Position(h.Offset)
	if s := h.Selection; s.Len() > 0 {
		var both [2]calling.Place
		for i, offset := range []uint32{s.Start, s.End} {
			both[i].Path = at.Path
			both[i].Line, both[i].Col = h.File.Text.Position(int(offset))
		}
		here.Selected = &both
	}
	return here
}
