package writing

import (
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// Insert puts a text of the user's own in where one writes, or begins to write for it, and goes to the first of
// its places to fill in.
func (m *Model) Insert(template string) surface.Intent {
	if !m.Writing() {
		if why := m.start(); why != "" {
			return m.refuse(why)
		}
	}
	p := m.pen()
	before := p.Editor.Document()
	p.fields = nil
	fields := p.Editor.Insert(write.ParseTemplate(template))
	todo := m.wrote(p, before)
	p.fields = fields
	if fields.Any() {
		todo = todo.And(surface.Say("%s goes to the next place to fill in", on.NextField.Help().Key))
	}
	todo.Caret = true
	return todo
}

// nextField goes to the next place to fill in; it is false for other keys, and if there is none.
func (m *Model) nextField(p *pen, name string) bool {
	if !keymap.Is(name, on.NextField) || !p.Editor.NextField(p.fields) {
		return false
	}
	m.showCarets(p)
	return true
}

// To puts the caret at a byte of the text that is written.
func (m *Model) To(offset int) surface.Intent {
	p := m.pen()
	p.Editor.Select(offset, offset)
	m.showCarets(p)
	return surface.Intent{Caret: true}
}
