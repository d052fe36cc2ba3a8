package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/ui/palette"
)

// overlay is what lies over the code and takes the keys.
type overlay uint8

const (
	noOverlay overlay = iota
	scoutOverlay
	choiceOverlay
	keysOverlay
	outlineOverlay
	inFileOverlay
	crumbsOverlay
	treeOverlay
	docsOverlay
	placesOverlay
	sweepOverlay
	branchesOverlay
	bookmarksOverlay
	trailOverlay
	compareOverlay
	askOverlay
)

// cover is a sheet over the upper part of the code, as the program sees it.
type cover struct {
	rows   func(width int, p *palette.Palette) []string
	resize func(height int)
	// update takes a key, or what was pasted.
	update func(msg tea.Msg) tea.Cmd
	// cursor is where the caret stands in the text one types, in cells from the
	// upper left of the sheet; nil if nothing is typed.
	cursor func() (x, y int)
}

// cover is the sheet of an overlay; ok is false for what is no such sheet.
func (m *Model) cover(o overlay) (c cover, ok bool) {
	switch o {
	case scoutOverlay:
		s := m.scout
		return cover{s.Rows, s.Resize, func(msg tea.Msg) tea.Cmd { return m.scoutEvent(s.Update(msg)) }, func() (int, int) { return s.Cursor(m.width), 0 }}, true
	case outlineOverlay:
		s := m.outline
		return cover{s.Rows, s.Resize, func(msg tea.Msg) tea.Cmd { return m.outlineEvent(s.Update(msg)) }, func() (int, int) { return s.Cursor(), 0 }}, true
	case crumbsOverlay:
		return cover{m.breadcrumbs.Rows, m.breadcrumbs.Resize, m.crumbsUpdate, func() (int, int) { return m.breadcrumbs.Cursor(), 1 }}, true
	case treeOverlay:
		return cover{m.folders.Rows, m.folders.Resize, m.treeUpdate, func() (int, int) { return m.folders.Cursor(m.width), 0 }}, true
	case docsOverlay:
		return cover{m.docs.Rows, m.docs.Resize, m.docsUpdate, nil}, true
	case placesOverlay:
		s := m.places
		return cover{s.Rows, s.Resize, func(msg tea.Msg) tea.Cmd { return m.placesEvent(s.Update(msg)) }, func() (int, int) { return s.Cursor(), 0 }}, true
	case sweepOverlay:
		return cover{m.sweeping.Rows, m.sweeping.Resize, m.sweepingUpdate, func() (int, int) { return m.sweeping.Cursor(), 0 }}, true
	case branchesOverlay:
		return cover{m.branches.Rows, m.branches.Resize, m.branchesUpdate, func() (int, int) { return m.branches.Cursor(), 0 }}, true
	case bookmarksOverlay:
		s := m.marks.sheet
		return cover{s.Rows, s.Resize, m.bookmarksUpdate, func() (int, int) { return s.Cursor(), 0 }}, true
	case compareOverlay:
		return cover{m.compareSheet.Rows, m.compareSheet.Resize, m.compareUpdate, nil}, true
	case trailOverlay:
		s := m.trailSheet
		return cover{s.Rows, s.Resize, m.trailUpdate, func() (int, int) { return s.Cursor(), 0 }}, true
	}
	return cover{}, false
}

// covers are all sheets.
func (m *Model) covers() (all []cover) {
	for o := noOverlay; o <= askOverlay; o++ {
		if c, ok := m.cover(o); ok {
			all = append(all, c)
		}
	}
	return all
}

// docsUpdate hands keys to the sheet of documentation, in which nothing is typed.
func (m *Model) docsUpdate(msg tea.Msg) tea.Cmd {
	if k, ok := msg.(tea.KeyPressMsg); ok {
		return m.docsEvent(m.docs.Update(k))
	}
	return nil
}
