package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/surface"
)

// keptPlaces is how far the places that are kept in files are right.
type keptPlaces struct {
	located map[string]*text.Document // in what texts they were looked for last
	placed  map[string]placed         // for what texts they are right
}

// placed is a text for which the places that are kept in its file are right. While it is
// written in, they move with what is written; pen and epoch tell whether the next text was made
// of it in that way.
type placed struct {
	doc   *text.Document
	pen   any
	epoch int
}

// forget says that there are other places than those that were located.
func (k *keptPlaces) forget() { k.located, k.placed = nil, nil }

// begin notes that one begins to write in a file: from here on its places move with what is written.
func (k *keptPlaces) begin(m *Model, path string, doc *text.Document) {
	if at, known := k.placed[path]; known && text.Same(at.doc, doc) {
		k.place(m, path, doc)
	}
}

// place notes that the places in a file are right for a text.
func (k *keptPlaces) place(m *Model, path string, doc *text.Document) {
	if k.placed == nil {
		k.placed = map[string]placed{}
	}
	p := placed{doc: doc}
	p.pen, p.epoch = m.writing.Epoch(path)
	k.placed[path] = p
}

// keepers are those who keep places.
func (m *Model) keepers() []surface.Keeper { return []surface.Keeper{m.trails, m.marks, m.sweeps} }

// locateShown finds what is kept in the files on the screen.
func (m *Model) locateShown() tea.Cmd {
	var cmds []tea.Cmd
	for _, s := range m.frame.Sides() {
		cmds = append(cmds, m.locateIn(s.Code.File()))
	}
	return tea.Batch(cmds...)
}

// locateIn finds the places that are kept in a file again, if its text is another than when
// that was last done.
func (m *Model) locateIn(f *codebase.File) tea.Cmd {
	if f == nil || !f.Text.Whole() || f.Text.Binary() || m.kept.located[f.Path] == f.Text {
		return nil
	}
	if m.kept.located == nil {
		m.kept.located = map[string]*text.Document{}
	}
	m.kept.located[f.Path] = f.Text
	pen, epoch := m.writing.Epoch(f.Path)
	var was *text.Document // nil if what is there now was not made of it here
	if from := m.kept.placed[f.Path]; from.pen != nil && from.pen == pen && from.epoch == epoch {
		was = from.doc
	}
	var all []surface.Kept
	for _, k := range m.keepers() {
		if in := k.In(f.Path); in != nil {
			all = append(all, in)
		}
	}
	to := placed{f.Text, pen, epoch}
	if len(all) == 0 {
		m.kept.take(f.Path, to)
		return nil
	}
	return surface.Do(m.asker, func(ctx context.Context) struct{} {
		for _, in := range all {
			in.Locate(ctx, was, f)
		}
		return struct{}{}
	}, func(struct{}) surface.Intent { return m.located(f, to, all) })
}

func (k *keptPlaces) take(path string, to placed) {
	if k.placed == nil {
		k.placed = map[string]placed{}
	}
	k.placed[path] = to
}

// located takes over where the places that are kept in a file are.
func (m *Model) located(f *codebase.File, to placed, all []surface.Kept) surface.Intent {
	if m.kept.located[f.Path] != f.Text {
		return surface.Intent{} // there is a later text
	}
	m.kept.take(f.Path, to)
	todo := surface.Intent{Marked: true}
	for _, in := range all {
		todo = todo.And(in.Located())
	}
	if m.frame.Code.File() != f || m.writing.On() == f.Path { // where one writes, the caret is where one types
		todo.Follow = nil
	}
	return todo
}

// showMarks puts what is marked into the margins of the code.
func (m *Model) showMarks() {
	for _, s := range append(m.frame.Sides(), m.leaves.Sides()...) {
		if p := s.Code.Path(); p != "" {
			s.Code.Mark(m.marginOf(p))
		}
	}
}

// marginOf is what is marked in a file, by its lines.
func (m *Model) marginOf(path string) map[int]code.Margin {
	margin := map[int]code.Margin{}
	m.marks.Margin(path, func(line int, letter string) {
		at := margin[line]
		at.Bookmark = true
		if letter != "" {
			at.Letter = letter
		}
		margin[line] = at
	})
	m.trails.Margin(path, func(line int) {
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
			cmds = append(cmds, m.reopen(s, before, renamedPath(before.Path, from, to)))
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
