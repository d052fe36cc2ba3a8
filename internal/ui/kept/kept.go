// Package kept has the places that are kept in files found again when those change, and shows them in the
// margins of the code.
package kept

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/surface"
)

// Host is where the places are kept, and shown.
type Host interface {
	// Keepers are those who keep places.
	Keepers() []surface.Keeper
	// Shown are the views in which they are marked.
	Shown() []*frame.Side
	// Margin is what is marked in a file, by its lines.
	Margin(path string) map[int]code.Margin
	// Writing is the file in which letters are typed, "" for none; Epoch tells whether one text of a file was
	// made of another here.
	Writing() string
	Epoch(path string) (pen any, epoch int)
}

// Model is how far the places that are kept in files are right.
type Model struct {
	host  Host
	frame *frame.Frame
	asker *surface.Asker

	located map[string]*text.Document // in what texts they were looked for last
	placed  map[string]placed         // for what texts they are right
}

// New makes one for the files in a frame.
func New(host Host, f *frame.Frame, asker *surface.Asker) *Model {
	return &Model{host: host, frame: f, asker: asker}
}

// placed is a text for which the places that are kept in its file are right. While it is
// written in, they move with what is written; pen and epoch tell whether the next text was made
// of it in that way.
type placed struct {
	doc   *text.Document
	pen   any
	epoch int
}

// RightFor is the text of a file for which the places kept in it are right; nil if they were not looked for.
func (m *Model) RightFor(path string) *text.Document { return m.placed[path].doc }

// Forget says that there are other places than those that were located.
func (m *Model) Forget() { m.located, m.placed = nil, nil }

// Begin notes that one begins to write in a file: from here on its places move with what is written.
func (m *Model) Begin(path string, doc *text.Document) {
	if at, known := m.placed[path]; known && text.Same(at.doc, doc) {
		p := placed{doc: doc}
		p.pen, p.epoch = m.host.Epoch(path)
		m.take(path, p)
	}
}

// LocateShown finds what is kept in the files on the screen.
func (m *Model) LocateShown() tea.Cmd {
	var cmds []tea.Cmd
	for _, s := range m.frame.Sides() {
		cmds = append(cmds, m.LocateIn(s.Code.File()))
	}
	return tea.Batch(cmds...)
}

// LocateIn finds the places that are kept in a file again, if its text is another than when
// that was last done.
func (m *Model) LocateIn(f *codebase.File) tea.Cmd {
	if f == nil || f.Supposed || !f.Text.Whole() || f.Text.Binary() || m.located[f.Path] == f.Text {
		return nil
	}
	if m.located == nil {
		m.located = map[string]*text.Document{}
	}
	m.located[f.Path] = f.Text
	pen, epoch := m.host.Epoch(f.Path)
	var was *text.Document // nil if what is there now was not made of it here
	if from := m.placed[f.Path]; from.pen != nil && from.pen == pen && from.epoch == epoch {
		was = from.doc
	}
	var all []surface.Kept
	for _, k := range m.host.Keepers() {
		if in := k.In(f.Path); in != nil {
			all = append(all, in)
		}
	}
	to := placed{f.Text, pen, epoch}
	if len(all) == 0 {
		m.take(f.Path, to)
		return nil
	}
	return surface.Do(m.asker, func(ctx context.Context) struct{} {
		for _, in := range all {
			in.Locate(ctx, was, f)
		}
		return struct{}{}
	}, func(struct{}) surface.Intent { return m.found(f, to, all) })
}

func (m *Model) take(path string, to placed) {
	if m.placed == nil {
		m.placed = map[string]placed{}
	}
	m.placed[path] = to
}

// found takes over where the places that are kept in a file are.
func (m *Model) found(f *codebase.File, to placed, all []surface.Kept) surface.Intent {
	if m.located[f.Path] != f.Text {
		return surface.Intent{} // there is a later text
	}
	m.take(f.Path, to)
	todo := surface.Intent{Marked: true}
	for _, in := range all {
		todo = todo.And(in.Located())
	}
	if m.frame.Code.File() != f || m.host.Writing() == f.Path { // where one writes, the caret is where one types
		todo.Follow = nil
	}
	return todo
}

// Show puts what is marked into the margins of the code.
func (m *Model) Show() {
	for _, s := range m.host.Shown() {
		if p := s.Code.Path(); p != "" {
			s.Code.Mark(m.host.Margin(p))
		}
	}
}
