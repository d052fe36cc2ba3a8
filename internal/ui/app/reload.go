package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/lists"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/writing"
)

// reloading is a file on a side of the screen that is read anew.
type reloading struct {
	side    *frame.Side
	before  *codebase.File
	version writing.Version // of what is written in it as it was asked for
	handed  bool            // the user has had it in an editor of their own
	file    *codebase.File
	edited  []place.Place // where the user changed it there
	err     error
	failed  bool // it could not be read a moment ago
}

// reload reads the files on the screen again, in case they have changed on disk.
func (m *Model) reload() tea.Cmd {
	if m.over != nil {
		return nil
	}
	var cmds []tea.Cmd
	for _, s := range append(m.frame.Sides(), m.leaves.Sides()...) {
		if before := s.Code.File(); before != nil {
			cmds = append(cmds, m.reread(reloading{side: s, before: before, version: m.writing.Version(before.Path), handed: m.seen.handed == before.Path}))
		}
	}
	return tea.Batch(cmds...)
}

func (m *Model) reread(r reloading) tea.Cmd {
	ws := m.ws
	return surface.Do(m.asker, func(ctx context.Context) reloading {
		if r.file, r.err = ws.Code.OnDisk(ctx, r.before.Path); r.err == nil {
			r.file.Prepare()
		}
		if r.handed && r.err == nil {
			r.edited = lists.ChangedSince(r.before, r.file)
		}
		return r
	}, m.reloaded)
}

// reloaded shows a file that has changed on disk, with the caret where it was.
func (m *Model) reloaded(r reloading) surface.Intent {
	path, c := r.before.Path, &r.side.Code
	switch {
	case m.writing.Changed(path):
		return surface.Intent{} // what is written stays; that it differs from the disk is said by itself
	case m.lookedFrom() != nil || path != c.Path():
		return surface.Intent{} // one has gone elsewhere meanwhile
	case r.before != c.File() || r.version != m.writing.Version(path):
		return surface.Begin(m.reload()) // it was written in and saved meanwhile; what was read may be older than that
	case r.err != nil && !r.failed:
		return surface.Begin(m.reread(reloading{side: r.side, before: r.before, version: r.version, failed: true})) // it may be on its way
	case r.err != nil:
		return surface.Say("%s cannot be read any more: %s; this is how it was", shortName(path), text.Reason(r.err))
	case text.Same(r.file.Text, r.before.Text):
		return surface.Intent{}
	}
	m.writing.Renewed(r.file)
	here := r.side == m.frame.Side
	if here {
		m.trails.Rest() // by what stands there before the change
	}
	c.Show(r.file, c.State())
	if here && m.writing.On() == path {
		m.writing.Reshown()
	}
	locate := m.kept.LocateIn(r.file)
	m.trails.Edited(r.file, r.edited...)
	r.side.Look()
	var todo surface.Intent
	if !m.ws.Changes.Did(path, r.file.Text) {
		todo = surface.Say("%s has changed on disk; this is how it is now", shortName(path))
	}
	todo.Cmd, todo.Marked, todo.Caret = tea.Batch(locate, r.side.Repaint()), len(r.edited) > 0, here
	return todo
}

// renewing is the program as those see it who change files.
type renewing struct{ m *Model }

// Open implements proposals.Renewer.
func (r renewing) Open() map[string]bool {
	open := map[string]bool{}
	for _, s := range r.m.frame.Sides() {
		open[s.Code.Path()] = true
	}
	for _, t := range r.m.writing.Desk().All() {
		open[t.Path] = true
	}
	return open
}

// Renew implements proposals.Renewer.
func (r renewing) Renew(files []*codebase.File) (todo surface.Intent) {
	for _, f := range files {
		shown := false
		for _, s := range r.m.frame.Sides() {
			if before := s.Code.File(); before != nil && before.Path == f.Path {
				todo = todo.And(r.m.reloaded(reloading{side: s, before: before, version: r.m.writing.Version(f.Path), file: f}))
				shown = true
			}
		}
		if !shown && !r.m.writing.Changed(f.Path) {
			r.m.writing.Renewed(f)
		}
	}
	return todo
}
