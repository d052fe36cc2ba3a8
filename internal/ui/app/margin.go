package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/bookmark"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/code"
)

// locatedMarks are the bookmarks of a file with where they are now.
type locatedMarks struct {
	lists, found []*bookmark.List
}

func (l *locatedMarks) none() bool { return len(l.lists) == 0 }

// marksIn are copies of the bookmarks in a file, by their lists.
func (m *Model) marksIn(path string) (in locatedMarks) {
	for _, l := range m.marks.book.Lists {
		found := &bookmark.List{}
		for i := range l.Marks {
			if k := &l.Marks[i]; k.Path == path && !k.IsRemoved() && (k.Kind == bookmark.Line || k.Kind == bookmark.Symbol) {
				found.Marks = append(found.Marks, *k)
			}
		}
		if len(found.Marks) > 0 {
			in.lists, in.found = append(in.lists, l), append(in.found, found)
		}
	}
	return in
}

// locate finds them in their file; was is the text that was edited to be what it is, nil if it was
// not.
func (l *locatedMarks) locate(was *text.Document, f *workspace.File) {
	for _, found := range l.found {
		all := make([]*bookmark.Mark, len(found.Marks))
		for i := range found.Marks {
			all[i] = &found.Marks[i]
		}
		if was != nil {
			workspace.FollowIn(was, f, all)
		} else {
			workspace.LocateIn(f, all)
		}
	}
}

// marksLocated takes over where bookmarks are now, and keeps the lists that changed.
func (m *Model) marksLocated(in locatedMarks) tea.Cmd {
	var cmds []tea.Cmd
	for i, l := range in.lists {
		if l.Located(in.found[i]) {
			cmds = append(cmds, m.keepMarks(l))
		}
	}
	return tea.Batch(cmds...)
}

// showMarks puts what is marked into the margins of the code.
func (m *Model) showMarks() {
	all := []*side{}
	for _, s := range m.sides {
		all = append(all, s)
	}
	for _, l := range m.leaves.stack {
		all = append(all, l.side)
	}
	for _, s := range all {
		if p := s.code.Path(); p != "" {
			s.code.Mark(m.marginOf(p))
		}
	}
}

// marginOf is what is marked in a file, by its lines.
func (m *Model) marginOf(path string) map[int]code.Margin {
	marks := map[int]code.Margin{}
	for _, l := range m.marks.book.Lists {
		for i := range l.Marks {
			k := &l.Marks[i]
			if k.IsRemoved() || !k.IsOn(place.Place{Path: path, Line: k.Line}) {
				continue
			}
			at := marks[k.Line]
			at.Bookmark = true
			if k.Letter != "" {
				at.Letter = k.Letter
			}
			marks[k.Line] = at
		}
	}
	for _, s := range m.trail.In(path) {
		if !s.Edited.IsZero() && s.Fate != place.Gone {
			at := marks[s.View.Place.Line]
			at.Edited = true
			marks[s.View.Place.Line] = at
		}
	}
	return marks
}
