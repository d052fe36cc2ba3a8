package app

import (
	"context"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/tree"
)

// openTree shows the folders, at the file on the screen.
func (m *Model) openTree() tea.Cmd { return m.openTreeAt(m.code.Path()) }

// openTreeAt shows the folders at a file or folder.
func (m *Model) openTreeAt(at string) tea.Cmd {
	m.remember()
	m.overlay = treeOverlay
	m.folders.Marked(m.marks.book.Holding())
	m.folders.Unsaved(m.unsavedPaths())
	cmd := m.folders.Show(at, m.sheetHeight())
	m.arrange()
	m.going = true
	return cmd
}

// treeUpdate hands a message to the tree. While it looks into folders or changes
// something, keys are kept.
func (m *Model) treeUpdate(msg tea.Msg) tea.Cmd {
	cmd, event := m.folders.Update(msg)
	switch {
	case m.overlay == treeOverlay:
		return m.waitFor(m.folders.Busy(), m.treeEvent(cmd, event))
	case event == tree.Moved: // it was closed while that was being done
		return tea.Batch(cmd, m.filesMoved())
	}
	return cmd
}

// treeEvent acts on what came of a message to the tree.
func (m *Model) treeEvent(cmd tea.Cmd, event tree.Event) tea.Cmd {
	e, ok := m.folders.Chosen()
	switch event {
	case tree.Closed:
		return tea.Batch(cmd, m.restore())
	case tree.Selected:
		if !ok || e.Folder || e.Note != "" || e.Path == m.before.view.Place.Path {
			return tea.Batch(cmd, m.showBefore())
		}
		return tea.Batch(cmd, m.open(opening{path: e.Path, preview: true}))
	case tree.Taken:
		return tea.Batch(cmd, m.jumpFromOverlay(opening{path: e.Path, how: "folders"}))
	case tree.Moved:
		return tea.Batch(cmd, m.filesMoved())
	case tree.CopyPath:
		return m.copy(e.Path, e.Path)
	case tree.CopyAbsolute:
		return m.copy(m.ws.Absolute(e.Path), m.ws.Absolute(e.Path))
	case tree.Edit:
		return m.edit(e.Path, 1)
	case tree.Open:
		return m.openOutside(e.Path)
	}
	return cmd
}

// filesMoved follows what was renamed or moved, also where it is on the screen.
func (m *Model) filesMoved() tea.Cmd {
	moved := m.folders.Moved()
	if moved.From == "" || moved.To == "" {
		return nil
	}
	m.renamed(moved.From, moved.To)
	cmds := []tea.Cmd{m.markedMoved(moved.From, moved.To), m.pensMoved(moved.From, moved.To)}
	for _, s := range m.sides {
		before := s.code.File()
		if s == m.side && m.before != nil {
			before = m.before.file
		}
		if before == nil {
			continue
		}
		to := place.Renamed(before.Path, moved.From, moved.To)
		if to == before.Path {
			continue
		}
		cmds = append(cmds, func() tea.Msg {
			file, err := m.ws.Load(context.Background(), to)
			if err == nil {
				file.Prepare()
			}
			return renamedMsg{s, before, file, err}
		})
	}
	return tea.Batch(cmds...)
}

// renamedMsg brings a file that was on the screen under its new path.
type renamedMsg struct {
	side         *side
	before, file *workspace.File
	err          error
}

func (m *Model) fileRenamed(msg renamedMsg) tea.Cmd {
	if msg.err != nil {
		return nil // reloading will tell
	}
	if b := m.before; b != nil && msg.side == m.side && b.file == msg.before {
		b.file, b.view.Place.Path = msg.file, msg.file.Path
		if m.code.File() != msg.before {
			return nil
		}
	}
	if msg.side.code.File() != msg.before {
		return nil
	}
	state, marks := msg.side.code.State(), msg.side.code.Folds().Marks(msg.before.Text)
	state.Place.Path = msg.file.Path
	msg.side.code.Show(msg.file, state)
	msg.side.code.Fold(marks)
	return msg.side.repaint()
}
