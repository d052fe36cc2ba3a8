// Package problems marks what is wrong in the files on the screen, counts it, and goes from one problem to the next, over the
// whole project.
package problems

import (
	"cmp"
	"context"
	"fmt"
	"path"
	"slices"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/problem"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/palette"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Finder finds what is wrong; see package problem.
type Finder interface {
	Look(ctx context.Context, path string) (problem.Found, error)
	Beyond(ctx context.Context, from string, forward bool) (problem.Problem, bool)
}

// Host is the program around it.
type Host interface {
	surface.Host
	// Sides are the views in which files are shown.
	Sides() []*frame.Side
}

// Model is what is wrong in the files on the screen.
type Model struct {
	host  Host
	find  Finder
	state func() int // another number whenever other files, or what compilers say, have changed
	asker *surface.Asker

	asked   map[*code.Model]asked
	walking bool // problems are what one goes through
}

// asked is what was looked at last in a view.
type asked struct {
	file    *codebase.File
	state   int
	waiting bool // it is looked at once nothing has been typed for a moment
}

// New makes one; state is another number whenever something outside of the files that are shown has changed that may make
// something right or wrong.
func New(host Host, find Finder, state func() int) *Model {
	return &Model{host: host, find: find, state: state, asker: host.Asker(nil), asked: map[*code.Model]asked{}}
}

// Commands are those about problems.
func (m *Model) Commands() surface.Commands {
	return surface.Commands{
		keymap.ProblemNext:     func() surface.Intent { return m.Next(true) },
		keymap.ProblemPrevious: func() surface.Intent { return m.Next(false) },
	}
}

// Walking says whether problems are what one goes through.
func (m *Model) Walking() bool { return m.walking }

// Stop says that something else is gone through from now on.
func (m *Model) Stop() { m.walking = false }

// Forget has all that is shown looked at anew.
func (m *Model) Forget() { clear(m.asked) }

// pause is how long nothing has to be typed before it is looked what is wrong.
const pause = 350 * time.Millisecond

// Watch looks at the files on the screen that were not looked at as they are.
func (m *Model) Watch() tea.Cmd {
	var cmds []tea.Cmd
	state := m.state()
	for _, s := range m.host.Sides() {
		c := &s.Code
		f := c.File()
		was := m.asked[c]
		if f == nil || f.Supposed || !f.Text.Whole() || f.Text.Binary() || path.IsAbs(f.Path) || was.waiting || was.file == f && was.state == state {
			continue
		}
		long := time.Duration(0)
		if was.file != nil && was.file.Path == f.Path && was.file != f {
			long = pause
		}
		m.asked[c] = asked{file: f, state: state, waiting: true}
		cmds = append(cmds, surface.Later(m.asker, long, func() surface.Intent { return m.look(c) }))
	}
	return tea.Batch(cmds...)
}

// looked is what was found in a file.
type looked struct {
	problem.Found
	err error
}

// look looks at the file that a view shows by now.
func (m *Model) look(c *code.Model) surface.Intent {
	f, state := c.File(), m.state()
	if f == nil {
		delete(m.asked, c)
		return surface.Intent{}
	}
	m.asked[c] = asked{file: f, state: state, waiting: true}
	return surface.Begin(surface.Do(m.asker, func(ctx context.Context) looked {
		found, err := m.find.Look(ctx, f.Path)
		return looked{found, err}
	}, func(l looked) surface.Intent {
		m.asked[c] = asked{file: f, state: state}
		if l.err == nil && l.Of != nil && c.File() != nil && c.Path() == f.Path {
			m.mark(c, l.Found)
		}
		return surface.Intent{}
	}))
}

// mark marks what was found. What a compiler said before stays until it says something else.
func (m *Model) mark(c *code.Model, found problem.Found) {
	before := c.Troubles()
	var all []code.Trouble
	for _, p := range found.All {
		compiled := p.Kind == problem.Types || p.Kind == problem.Analysis || p.Certainty == resolve.Exact
		all = append(all, code.Trouble{At: p.At, Text: p.Text, By: by(p), Grave: p.Kind.Grave(), Compiled: compiled})
	}
	c.Wrong(found.Of, all)
	if !found.Unasked {
		return
	}
	all = c.Troubles()
	for _, t := range before {
		if t.Compiled {
			all = append(all, t)
		}
	}
	slices.SortStableFunc(all, func(a, b code.Trouble) int { return cmp.Compare(a.At.Start, b.At.Start) })
	c.Wrong(c.File().Text, all)
}

// by says who says so, and how sure that is.
func by(p problem.Problem) string {
	if p.Kind == problem.Reported {
		return p.By + ", reported"
	}
	return p.By + ", " + p.Certainty.String()
}

// Count says how much is wrong in the file that is shown; "" for nothing.
func (m *Model) Count(c *code.Model) string {
	n := len(c.Troubles())
	if n == 0 {
		return ""
	}
	return sheet.Count(n, "problem", "problems")
}

// Row says whole what is wrong where the caret is; "" if nothing is. key is the one by which it is mended.
func (m *Model) Row(c *code.Model, key string, width int, p *palette.Palette) string {
	t, ok := c.Trouble()
	if !ok {
		return ""
	}
	rule, st := palette.On(p.Rule, p.Ground), palette.On(p.Problem, p.Ground)
	if !t.Grave {
		st = palette.On(p.Text, p.Ground)
	}
	r := ink.NewRow(width).Put(" ! ", st.Strong()).Put(ink.Cut(t.Line(), width-3), st.Strong())
	more := []string{"  " + t.By}
	if key != "" {
		more = append(more, "  "+key+" what can be done ")
	}
	for _, part := range more {
		if r.Left() < ink.Width(part) {
			break
		}
		r.Put(part, palette.On(p.Quiet, p.Ground))
	}
	return r.String(rule)
}

// Next goes to the next place where something is wrong, or to the one before: of the file, or else of the next file that has any.
func (m *Model) Next(forward bool) surface.Intent {
	here := m.host.Here()
	if c := m.shown(here.File); c != nil {
		if i, ok := next(c.Troubles(), here.Offset, forward); ok {
			t := c.Troubles()[i]
			line, col := here.File.Text.Position(int(t.At.Start))
			said := fmt.Sprintf("%d of %s in this file: %s", i+1, sheet.Count(len(c.Troubles()), "problem", "problems"), t.Line())
			return m.walk(surface.Go(visit(here.File.Path, line, col, t.At.Len(), t.Line(), said)))
		}
	}
	from := here.View.Place.Path
	wait := surface.Intent{Wait: "looking for what is wrong in other files; Esc gives up"}
	return wait.And(surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) beyond {
		p, ok := m.find.Beyond(ctx, from, forward)
		return beyond{p, ok}
	}, func(b beyond) surface.Intent {
		if b.ok {
			return m.walk(surface.Go(visit(b.Path, b.Line, b.Col, b.At.Len(), b.Text, b.Text)))
		}
		if c := m.shown(m.host.Here().File); c != nil && len(c.Troubles()) > 0 {
			return surface.Say("nothing was found to be wrong in other files")
		}
		return surface.Say("nothing was found to be wrong")
	})))
}

// beyond is a problem of another file.
type beyond struct {
	problem.Problem
	ok bool
}

func visit(p string, line, col, length int, what, said string) surface.Visit {
	return surface.Visit{Path: p, Line: line, Col: col, Length: length, How: "problem: " + ink.Cut(text.Visible(what), mostSaid), Lead: true, After: said}
}

// mostSaid is how much of a problem is kept on the trail, in columns.
const mostSaid = 60

// walk has n and p go through problems from now on.
func (m *Model) walk(todo surface.Intent) surface.Intent {
	return surface.Intent{Through: true, Then: func() surface.Intent {
		m.walking = true
		return todo
	}}
}

// shown is the view that shows a file; nil for none.
func (m *Model) shown(f *codebase.File) *code.Model {
	for _, s := range m.host.Sides() {
		if f != nil && s.Code.File() == f {
			return &s.Code
		}
	}
	return nil
}

// next is the number of the next trouble from an offset.
func next(all []code.Trouble, offset int, forward bool) (int, bool) {
	if forward {
		i := slices.IndexFunc(all, func(t code.Trouble) bool { return int(t.At.Start) > offset })
		return i, i >= 0
	}
	for i := len(all) - 1; i >= 0; i-- {
		if int(all[i].At.Start) < offset {
			return i, true
		}
	}
	return 0, false
}
