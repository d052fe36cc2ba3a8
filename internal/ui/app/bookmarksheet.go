package app

import (
	"context"
	"errors"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/bookmarks"
)

// openBookmarks shows the bookmarks, or the lists of them.
func (m *Model) openBookmarks(lists bool) tea.Cmd {
	if len(m.marks.book.Lists) == 0 {
		m.say("there is no bookmark yet: m puts one on this line, M and a letter one to go to at once")
		return m.othersMarks() // by now another program may have made some
	}
	m.remember()
	m.overlay = bookmarksOverlay
	m.marks.sheet.Open(&m.marks.book, lists, m.marks.at, m.sheetHeight())
	m.arrange()
	m.lines.spans = nil
	return tea.Batch(m.locateBookmarks(), m.previewMark(), m.colorMarks(), m.othersMarks())
}

// showBookmarks brings the sheet up to date, if it is open.
func (m *Model) showBookmarks() {
	if m.overlay == bookmarksOverlay {
		m.marks.sheet.Refresh()
	}
}

func (m *Model) colorMarks() tea.Cmd {
	var all []place.Place
	for _, s := range m.marks.book.All() {
		all = append(all, s.Mark().Place())
	}
	return m.colorLines(all)
}

// marksFoundMsg brings where the bookmarks of all lists are by now.
type marksFoundMsg struct{ lists, found []*bookmark.List }

func (m *Model) locateBookmarks() tea.Cmd {
	var msg marksFoundMsg
	for _, l := range m.marks.book.Lists {
		msg.lists, msg.found = append(msg.lists, l), append(msg.found, l.Clone())
	}
	if len(msg.lists) == 0 {
		return nil
	}
	ws := m.ws
	return func() tea.Msg {
		for _, l := range msg.found {
			ws.LocateBookmarks(context.Background(), l)
		}
		return msg
	}
}

func (m *Model) marksFound(msg marksFoundMsg) tea.Cmd {
	var cmds []tea.Cmd
	for i, l := range msg.lists {
		if l.Located(msg.found[i]) {
			cmds = append(cmds, m.keepMarks(l))
		}
	}
	m.showMarks()
	if m.overlay == bookmarksOverlay {
		m.showBookmarks()
		cmds = append(cmds, m.previewMark(), m.colorMarks())
	}
	return tea.Batch(cmds...)
}

// previewMark shows the chosen bookmark beneath the sheet.
func (m *Model) previewMark() tea.Cmd {
	s, ok := m.marks.sheet.Chosen()
	if !ok || s.Mark().Kind == bookmark.Folder || s.Mark().Fate == place.Gone {
		return m.showBefore()
	}
	o := toMark(s.Mark())
	o.preview = true
	return m.open(o)
}

// bookmarksUpdate hands a key to the sheet of bookmarks and acts on what came of it.
func (m *Model) bookmarksUpdate(msg tea.Msg) tea.Cmd {
	e := m.marks.sheet.Key(msg)
	switch e.Kind {
	case bookmarks.Closed:
		return m.restore()
	case bookmarks.Selected:
		return m.previewMark()
	case bookmarks.Said:
		m.say("%s", e.Words)
	case bookmarks.Taken:
		from := m.before
		m.closeOverlay()
		how := "bookmark: " + e.Spot.List.Name
		if l := e.Spot.Mark().Letter; l != "" {
			how = "bookmark " + l
		}
		return m.goToBookmark(e.Spot, how, from)
	case bookmarks.Removed:
		cmd := m.removeBookmark(e.Spot)
		m.showBookmarks()
		return tea.Batch(cmd, m.previewMark())
	case bookmarks.Undone:
		cmd := m.undoBookmark()
		m.showBookmarks()
		return tea.Batch(cmd, m.previewMark())
	case bookmarks.Changed:
		if e.Done {
			m.say("the note is written down")
			return tea.Batch(m.keepMarks(e.Lists[0]), m.restore())
		}
		m.showBookmarks()
		var cmds []tea.Cmd
		for _, l := range e.Lists {
			cmds = append(cmds, m.keepMarks(l))
		}
		return tea.Batch(append(cmds, m.previewMark())...)
	case bookmarks.Dropped:
		return m.dropBookmarks(e.Lists[0])
	case bookmarks.Shared:
		return m.shareBookmarks(e.Lists[0], e.Over)
	case bookmarks.Exported:
		return m.exportWalk(e.Words, m.walkOfBookmarks(e.Lists[0]))
	case bookmarks.Guided:
		l := e.Lists[0]
		return tea.Batch(m.restore(), m.startWalk(m.walkOfBookmarks(l)))
	}
	return nil
}

// dropBookmarks forgets a list.
func (m *Model) dropBookmarks(l *bookmark.List) tea.Cmd {
	m.marks.book.Drop(l)
	m.say("the list %q is forgotten", l.Name)
	m.showMarks()
	ws := m.ws
	forget := func() tea.Msg {
		if err := ws.RemoveBookmarks(l); err != nil {
			return noteMsg(err.Error())
		}
		return nil
	}
	if len(m.marks.book.Lists) == 0 {
		return tea.Batch(forget, m.restore())
	}
	m.showBookmarks()
	return tea.Batch(forget, m.previewMark())
}

// sharedMsg says what became of sharing a list.
type sharedMsg struct {
	file string
	err  error
}

func (m *Model) shareBookmarks(l *bookmark.List, over bool) tea.Cmd {
	ws, kept := m.ws, l.Clone()
	return func() tea.Msg {
		file, err := ws.ShareBookmarks(kept, over)
		if err != nil {
			return sharedMsg{file, err}
		}
		return sharedMsg{file: file}
	}
}

func (m *Model) shared(msg sharedMsg) tea.Cmd {
	if errors.Is(msg.err, workspace.ErrNotWritten) && m.overlay == bookmarksOverlay {
		m.marks.sheet.AskOver()
		return nil
	}
	if msg.err != nil {
		m.say("%s", msg.err)
		return nil
	}
	m.say("the list is written to %s, without its letters; committed, it is there for everybody", msg.file)
	ws := m.ws
	return func() tea.Msg {
		lists, err := ws.Bookmarks()
		return rereadMarksMsg{lists, err}
	}
}

// rereadMarksMsg brings the lists anew; of those only the shared ones are taken.
type rereadMarksMsg struct {
	lists []*bookmark.List
	err   error
}

func (m *Model) rereadShared(msg rereadMarksMsg) tea.Cmd {
	b := &m.marks.book
	for _, l := range append([]*bookmark.List{}, b.Lists...) {
		if l.Shared != "" {
			b.Drop(l)
		}
	}
	for _, l := range msg.lists {
		if l.Shared != "" {
			b.Lists = append(b.Lists, l)
		}
	}
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.showMarks()
	m.showBookmarks()
	return m.locateBookmarks()
}
