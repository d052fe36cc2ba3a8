package app

import (
	"context"
	"path"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/outline"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// hop moves the caret by meaning within the file; ok is false for any other
// action.
func (m *Model) hop(a keymap.Action) (cmd tea.Cmd, ok bool) {
	f := m.code.File()
	if f == nil || f.Facts == nil {
		switch a {
		case keymap.PreviousSymbol, keymap.NextSymbol, keymap.SymbolStart, keymap.SymbolEnd, keymap.Parent, keymap.Imports:
			m.say("nothing is known of the inside of this file")
			return nil, true
		}
	}
	switch a {
	case keymap.PreviousSymbol, keymap.NextSymbol:
		if m.code.Solo().Len() > 0 {
			return m.soloHop(a == keymap.NextSymbol), true
		}
		at, ok := outline.Hop(f.Facts, m.code.Offset(), a == keymap.NextSymbol)
		if !ok && a == keymap.NextSymbol {
			m.say("there is no function or type further down")
		} else if !ok {
			m.say("there is no function or type further up")
		}
		return m.hopTo(int(at.Start), ok), true
	case keymap.SymbolStart, keymap.SymbolEnd:
		return m.hopToEnd(a == keymap.SymbolStart), true
	case keymap.Parent:
		at, ok := outline.Parent(f.Facts, m.code.Offset())
		if !ok {
			m.say("nothing is around this")
		}
		return m.hopTo(int(at.Start), ok), true
	case keymap.Imports:
		return m.hopToImports(), true
	case keymap.Bracket:
		return m.bracket(), true
	}
	return nil, false
}

func (m *Model) hopTo(offset int, ok bool) tea.Cmd {
	if !ok {
		return nil
	}
	m.code.To(offset)
	return tea.Batch(m.caretMoved(), m.repaint())
}

// hopToEnd goes to the beginning or the end of the function or type one is in.
func (m *Model) hopToEnd(start bool) tea.Cmd {
	for _, id := range outline.Around(m.code.File().Facts, m.code.Offset()) {
		full := m.code.File().Facts.Defs[id].Full
		offset := int(full.End)
		if start {
			offset = int(full.Start)
		} else if offset > int(full.Start) {
			offset-- // on its last character
		}
		if offset != m.code.Offset() { // from an end, that of what is around
			return m.hopTo(offset, true)
		}
	}
	m.say("one is in no function or type here")
	return nil
}

// hopToImports goes to the first import, and from there back to where one was.
func (m *Model) hopToImports() tea.Cmd {
	f := m.code.File()
	if len(f.Facts.Imports) == 0 {
		m.say("%s imports nothing", shortName(f.Path))
		return nil
	}
	first := f.Facts.Imports[0].At
	for _, imp := range f.Facts.Imports {
		if imp.At.Start < first.Start {
			first = imp.At
		}
	}
	if m.beforeImports != nil && m.beforeImports.path == f.Path && m.code.Offset() == int(first.Start) {
		back := m.beforeImports.offset
		m.beforeImports = nil
		return m.hopTo(back, true)
	}
	m.beforeImports = &spot{f.Path, m.code.Offset()}
	return m.hopTo(int(first.Start), true)
}

// spot is a place in a file.
type spot struct {
	path   string
	offset int
}

// bracketMsg brings the other end of a bracket.
type bracketMsg struct {
	number int
	offset int
	ok     bool
}

// bracket looks for the other end of the bracket, the block or the tag at the
// caret, which may take a look at the whole file.
func (m *Model) bracket() tea.Cmd {
	f := m.code.File()
	if f == nil {
		return nil
	}
	m.opens++
	number, offset := m.opens, m.code.Offset()
	m.going = true
	ws := m.ws
	return func() tea.Msg {
		at, ok := ws.Ground(context.Background(), f).OtherEnd(offset)
		return bracketMsg{number, at, ok}
	}
}

func (m *Model) foundBracket(msg bracketMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	if !msg.ok {
		m.say("there is no bracket, block or tag here, and none around")
	}
	return m.arrived(m.hopTo(msg.offset, msg.ok))
}

// counterpart goes to the other half of the file, or lets one choose among
// several.
func (m *Model) counterpart() tea.Cmd {
	file := m.code.Path()
	halves := m.ws.Counterparts(file)
	switch len(halves) {
	case 0:
		m.say("%s has no other half, such as a header has its source", shortName(file))
		return nil
	case 1:
		return m.open(toHalf(file, halves[0]))
	}
	rows := make([]sheet.Row, len(halves))
	for i, h := range halves {
		rows[i] = sheet.Row{What: "file", Name: shortName(h), Where: path.Dir(h) + "/", Value: toHalf(file, h)}
	}
	m.openChoice("other halves of "+shortName(file), "go there", rows)
	return m.previewChoice()
}

func toHalf(file, half string) opening {
	return opening{path: half, how: "other half of " + shortName(file)}
}
