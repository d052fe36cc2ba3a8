package app

import (
	"context"
	"errors"
	"maps"
	"slices"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/fold"
	"rooktrail/internal/core/keep/resume"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// Rescue keeps what is not saved, whatever commands were still under way. It is for after the
// program has run.
func (m *Model) Rescue() error { return m.writing.Desk().Rescue() }

// quit leaves the program, after what is on the screen was kept. A command that keeps something may
// still be under way; what was changed is kept once more.
func (m *Model) quit() tea.Cmd {
	keep, sweeps, marks, end := m.keepJob(), m.sweeps.Touched(), m.marks.Touched(), m.runs.End()
	return func() tea.Msg {
		_ = keep() // what it says comes too late
		marks()
		sweeps()
		end()
		return tea.QuitMsg{}
	}
}

// keepState keeps how the program is set and what is on the screen.
func (m *Model) keepState() tea.Cmd {
	keep := m.keepJob()
	return surface.Do(m.asker, func(context.Context) error { return keep() }, func(err error) surface.Intent {
		if err != nil {
			return surface.Say("your way is kept in memory only: %s", desk.Why(err))
		}
		return surface.Intent{}
	})
}

// keepJob gives what keeps that.
func (m *Model) keepJob() func() error {
	m.keepFolds()
	trail := m.trails.Keep()
	state, folds := resume.State{Text: m.scout.Text(), Screen: m.screen(), Last: m.last.Last(), Commands: m.runs.Past()}, m.frame.Folded()
	ws, habits := m.ws, m.habits
	keep := m.keeps.Next(func() error {
		state.Folds = map[string][]fold.Mark{}
		for p, f := range folds {
			state.Folds[p] = f.Marks()
		}
		return ws.SetState(state)
	})
	return func() error { return errors.Join(trail(), keep(), habits.Save()) }
}

// screen is what is on the screen; that of last time while nothing was opened yet.
func (m *Model) screen() *resume.Screen {
	if !m.seen.begun {
		return m.ws.State().Screen
	}
	var before *trail.View
	if b := m.lookedFrom(); b != nil {
		before = &b.view
	}
	return m.frame.Screen(before)
}

// resumed are the files that were on the screen, by the numbers of their
// sides; gone are those that are there no more.
type resumed struct {
	files map[int]*codebase.File
	gone  []string
	done  map[int]*write.History // to their texts before
}

// resume shows what was on the screen when the program was left; nil if there
// is nothing to show.
func (m *Model) resume() tea.Cmd {
	state := m.ws.State()
	if !m.frame.Resume(state.Screen, state.Folds) {
		return nil
	}
	wanted := map[int][]string{}
	for _, s := range m.frame.Sides() {
		all := []string{s.Latest().State.Place.Path}
		for _, v := range s.Views() {
			all = append(all, v.State.Place.Path)
		}
		wanted[s.Number] = all
	}
	ws := m.ws
	return surface.Ask(m.way, func(ctx context.Context) resumed { return loadAgain(ctx, ws, wanted) }, m.resumed)
}

// loadAgain reads for each side the first of its files that can be read.
func loadAgain(ctx context.Context, ws *workspace.Workspace, wanted map[int][]string) resumed {
	out := resumed{files: map[int]*codebase.File{}, done: map[int]*write.History{}}
	missing := map[string]bool{}
	for number, paths := range wanted {
		for _, p := range paths {
			f, err := ws.Code.Load(ctx, p)
			if err != nil {
				missing[p] = true
				continue
			}
			f.Prepare()
			out.files[number], out.done[number] = f, ws.History(p, f.Text)
			break
		}
	}
	out.gone = slices.Sorted(maps.Keys(missing))
	return out
}

// resumed shows the files that were read. A side without any goes.
func (m *Model) resumed(r resumed) surface.Intent {
	for _, s := range m.frame.Sides() {
		m.resumeSide(s, r)
	}
	m.seen.begun = true
	if m.frame.Code.File() == nil {
		return surface.Begin(m.beginAnew())
	}
	m.seen.shown = true
	todo := surface.Intent{Arrange: true, Caret: true, Then: m.writing.FirstStance}
	if len(r.gone) > 0 {
		todo.Say = sheet.Count(len(r.gone), "file", "files") + " of last time cannot be opened any more"
	}
	recent := m.trails.Recent()
	for _, p := range m.frame.OpenFiles() {
		recent.Touch(p, time.Time{})
	}
	recent.Touch(m.frame.Code.Path(), time.Now())
	m.frame.Focus(m.frame.Number)
	m.trails.Trail().Go(m.frame.Code.State(), "where you were", "")
	todo.Cmd = m.kept.LocateShown() // by what stood there last time, before anything new is remembered
	if m.start.at.Path != "" {
		return todo.And(surface.Begin(m.beginAnew()))
	}
	return todo
}

func (m *Model) resumeSide(s *frame.Side, r resumed) {
	f := r.files[s.Number]
	for _, p := range r.gone {
		if v := s.View(p); v != nil {
			s.Drop(v)
		}
	}
	if f == nil {
		m.frame.CloseSide(s)
		return
	}
	m.writing.KeepDone(f, r.done[s.Number])
	s.Code.Show(f, s.View(f.Path).State)
	s.Code.Fold(m.frame.FoldedIn(f.Path))
	s.Touch(s.Code.State())
	s.Look()
}
