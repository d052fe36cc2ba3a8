package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/ui/picker"
)

// openCrumbs goes into the breadcrumbs.
func (m *Model) openCrumbs() tea.Cmd {
	m.remember()
	m.overlay = crumbsOverlay
	cmd := m.breadcrumbs.Open(m.code.File(), m.ws.Steps(m.code.Path(), m.crumbs), m.sheetHeight())
	m.arrange()
	m.going = true
	return cmd
}

// crumbsUpdate hands a message to the breadcrumbs. While they wait for what stands
// beside one, keys are kept.
func (m *Model) crumbsUpdate(msg tea.Msg) tea.Cmd {
	cmd, event := m.breadcrumbs.Update(msg)
	if m.overlay != crumbsOverlay {
		return cmd
	}
	return m.waitFor(m.breadcrumbs.Busy(), m.crumbsEvent(cmd, event))
}

// crumbsEvent acts on what came of a message to the breadcrumbs.
func (m *Model) crumbsEvent(cmd tea.Cmd, event picker.Event) tea.Cmd {
	switch event {
	case picker.Closed:
		return tea.Batch(cmd, m.restore())
	case picker.Selected:
		return tea.Batch(cmd, m.previewCrumb())
	case picker.Taken:
		if o, ok := m.crumbOpening(); ok {
			return tea.Batch(cmd, m.jumpFromOverlay(o))
		}
	}
	return cmd
}

// crumbOpening is what the chosen entry leads to; ok is false for a folder.
func (m *Model) crumbOpening() (o opening, ok bool) {
	s, ok := m.breadcrumbs.Chosen()
	switch {
	case !ok || s.Folder:
		return opening{}, false
	case s.Path != "":
		return opening{path: s.Path, how: "beside " + shortName(m.before.view.Place.Path)}, true
	}
	return opening{path: m.before.view.Place.Path, name: s.At, how: "breadcrumb: " + s.Name, symbol: s.Name}, true
}

// previewCrumb shows the chosen entry under the sheet.
func (m *Model) previewCrumb() tea.Cmd {
	o, ok := m.crumbOpening()
	switch {
	case !ok || m.before.file != nil && o.path == m.before.file.Path && o.name.Len() == 0:
		return m.showBefore()
	case o.name.Len() > 0 && m.code.File() == m.before.file:
		m.opens++
		m.showName(o.name)
		return m.moved()
	}
	o.preview = true
	return m.open(o)
}

// showName goes to a name in the file on the screen and points it out.
func (m *Model) showName(at place.Range) {
	m.code.To(int(at.Start))
	m.code.Point(at)
}
