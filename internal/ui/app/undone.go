package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
)

// before is what was done to a text before the program began.
type before struct {
	doc  *text.Document
	done *write.History
}

// keepDone keeps what was done to the text of a file that was opened, for when one writes in it.
func (m *Model) keepDone(f *workspace.File, done *write.History) {
	if done == nil || m.desk.pens[f.Path] != nil {
		return
	}
	if m.desk.before == nil {
		m.desk.before = map[string]before{}
	}
	m.desk.before[f.Path] = before{f.Text, done}
}

// resumeDone goes on with it, if the text is still that.
func (m *Model) resumeDone(p *pen) {
	b, ok := m.desk.before[p.path]
	if !ok {
		return
	}
	delete(m.desk.before, p.path)
	if text.Same(b.doc, p.editor.Document()) && p.editor.Resume(b.done) {
		state := p.editor.State()
		p.grounds[state] = p.grounds[0]
	}
}

// keepHistory keeps what was done to a text that is on disk as it is now.
func (m *Model) keepHistory(p *pen) tea.Cmd {
	ws, name, doc, done := m.ws, p.path, p.editor.Document(), p.editor.History()
	if done == nil {
		return nil
	}
	return func() tea.Msg { return failed(ws.KeepHistory(name, doc, done)) }
}

// copiesMsg brings what was cut or copied before the program began.
type copiesMsg []string

func (m *Model) loadCopies() tea.Cmd {
	ws := m.ws
	return func() tea.Msg { return copiesMsg(ws.Copies()) }
}

// copiesLoaded puts them behind what was copied since.
func (m *Model) copiesLoaded(msg copiesMsg) tea.Cmd {
	now := m.desk.cuts
	m.desk.cuts, m.desk.cutsKnown = msg, true
	for i := len(now) - 1; i >= 0; i-- {
		m.addCut(now[i])
	}
	if len(now) == 0 {
		return nil
	}
	return m.keepCopies()
}

// keepCopies keeps what was copied, once it is known what was before.
func (m *Model) keepCopies() tea.Cmd {
	if !m.desk.cutsKnown {
		return nil
	}
	ws, all := m.ws, append([]string(nil), m.desk.cuts...)
	return func() tea.Msg { return failed(ws.KeepCopies(all)) }
}
