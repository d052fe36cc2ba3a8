package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/surface"
)

// keeping is the program as those see it who keep places.
type keeping struct{ *Model }

// Keepers implements kept.Host.
func (k keeping) Keepers() []surface.Keeper { return []surface.Keeper{k.trails, k.marks, k.sweeps} }

// Shown implements kept.Host.
func (k keeping) Shown() []*frame.Side { return append(k.frame.Sides(), k.leaves.Sides()...) }

// Writing implements kept.Host.
func (k keeping) Writing() string { return k.writing.On() }

// Epoch implements kept.Host.
func (k keeping) Epoch(path string) (pen any, epoch int) { return k.writing.Epoch(path) }

// Margin implements kept.Host.
func (k keeping) Margin(path string) map[int]code.Margin {
	margin := map[int]code.Margin{}
	k.marks.Margin(path, func(line int, letter string) {
		at := margin[line]
		at.Bookmark = true
		if letter != "" {
			at.Letter = letter
		}
		margin[line] = at
	})
	k.trails.Margin(path, func(line int) {
		at := margin[line]
		at.Edited = true
		margin[line] = at
	})
	return margin
}

// filesMoved follows what was renamed or moved, also where it is on the screen.
func (m *Model) filesMoved(from, to string) tea.Cmd {
	m.frame.Renamed(from, to)
	m.trails.Moved(from, to)
	todo := m.marks.Moved(from, to).And(m.writing.Moved(from, to))
	cmds := []tea.Cmd{m.act(nil, todo), m.sweeps.Moved(from, to)}
	for _, s := range m.frame.Sides() {
		before := s.Code.File()
		if b := m.lookedFrom(); s == m.frame.Side && b != nil {
			before = b.file
		}
		if before != nil {
			cmds = append(cmds, m.reopen(s, before, place.Renamed(before.Path, from, to)))
		}
	}
	return tea.Batch(cmds...)
}

// lookedFrom is what was on the screen before something else is looked at; nil if nothing is.
func (m *Model) lookedFrom() *standing {
	if m.before != nil {
		return m.before
	}
	return m.from
}

// reopen shows a file that was on the screen under its new path.
func (m *Model) reopen(s *frame.Side, before *codebase.File, to string) tea.Cmd {
	if to == before.Path {
		return nil
	}
	ws := m.ws
	return surface.Do(m.asker, func(ctx context.Context) *codebase.File {
		f, err := ws.Code.Load(ctx, to)
		if err != nil {
			return nil // reloading will tell
		}
		f.Prepare()
		return f
	}, func(f *codebase.File) surface.Intent {
		if f != nil {
			m.renamed(s, before, f)
		}
		return surface.Begin(s.Repaint())
	})
}

// renamed puts a file in place of what it was under its former path.
func (m *Model) renamed(s *frame.Side, before, f *codebase.File) {
	if b := m.lookedFrom(); b != nil && s == m.frame.Side && b.file == before {
		b.file, b.view.Place.Path = f, f.Path
	}
	if s.Code.File() != before {
		return
	}
	state, marks := s.Code.State(), s.Code.Folds().Marks(before.Text)
	state.Place.Path = f.Path
	s.Code.Show(f, state)
	s.Code.Fold(marks)
}
