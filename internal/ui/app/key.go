package app

import (
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/outside"
	"rooktrail/internal/ui/keymap"
)

// later keeps a key that was pressed while one is on the way somewhere, since
// it is meant for the place one arrives at. Esc gives up going there; where one
// writes, only if nothing was typed since, or pressed twice.
func (m *Model) later(k tea.KeyPressMsg) tea.Cmd {
	if k.String() == "enter" && m.overlay == scoutOverlay && len(m.ahead) == 0 {
		if event, ok := m.scout.TakeNow(); ok {
			return m.scoutEvent(nil, event)
		}
		return nil
	}
	if n := len(m.ahead); k.String() != "esc" || m.desk.on != "" && n > 0 && m.ahead[n-1].String() != "esc" {
		m.ahead = append(m.ahead, k)
		return nil
	}
	m.ahead = nil
	m.opens++
	if m.giveUp != nil {
		m.giveUp()
	}
	return m.arrived(m.restore())
}

// arrived ends a way that was being gone, and goes on with the keys that were
// pressed meanwhile.
func (m *Model) arrived(cmd tea.Cmd) tea.Cmd {
	m.going = false
	if m.message == m.waiting {
		m.message = ""
	}
	m.waiting = ""
	m.desk.begun = true
	if len(m.ahead) == 0 {
		m.offerInTime()
	}
	cmds := []tea.Cmd{cmd}
	m.keepStance()
	for len(m.ahead) > 0 && !m.going {
		k := m.ahead[0]
		m.ahead = m.ahead[1:]
		cmds = append(cmds, m.key(k))
		m.keepStance()
	}
	return tea.Batch(cmds...)
}

// arrivedAt is arrived for a way whose end is to do something; if that is to go on elsewhere, the
// keys are for the place where that leads.
func (m *Model) arrivedAt(do func() tea.Cmd) tea.Cmd {
	m.going = false
	cmd := do()
	if m.going {
		return cmd
	}
	return m.arrived(cmd)
}

// waitFor keeps keys while a sheet is busy, and hands them to it when it no longer
// is.
func (m *Model) waitFor(busy bool, cmd tea.Cmd) tea.Cmd {
	switch {
	case busy:
		m.going = true
	case m.going && (m.overlay == crumbsOverlay || m.overlay == treeOverlay || m.overlay == branchesOverlay):
		return m.arrived(cmd)
	}
	return cmd
}

// key hands a key to what lies on top.
func (m *Model) key(k tea.KeyPressMsg) tea.Cmd {
	name := k.String()
	m.presses++
	if name == "ctrl+q" {
		return m.leave()
	}
	if name == "ctrl+z" && !m.isWriting() {
		if !outside.CanSuspend() {
			m.say("there is no shell around the program that could bring it back; Ctrl+Q leaves")
			return nil
		}
		return tea.Suspend
	}
	if m.going {
		return m.later(k)
	}
	leaving := m.leaving
	m.message, m.leaving, m.waysWanted = "", false, false
	if m.isWriting() {
		return m.writeKey(k)
	}
	if m.overlay == noOverlay && m.notTyped(k) {
		return nil
	}
	switch m.overlay {
	case choiceOverlay:
		return m.choiceKey(name)
	case keysOverlay:
		return m.keysKey(k)
	case inFileOverlay:
		return m.inFileKey(k)
	case askOverlay:
		return m.askKey(k)
	}
	if c, ok := m.cover(m.overlay); ok {
		return c.update(k)
	}
	return m.roamKey(name, leaving)
}

// roamKey acts on a key in roam.
func (m *Model) roamKey(name string, leaving bool) tea.Cmd {
	prefix := m.prefix
	m.prefix = ""
	if m.marks.lettering {
		return m.letterKey(name)
	}
	if name == "esc" {
		return m.escape(prefix)
	}
	if name == "ctrl+c" {
		name = "q"
	}
	if prefix != "" {
		name = prefix + " " + name
	} else if m.keys.Begins(name) {
		m.prefix = name
		return nil
	}
	action, ok := m.keys.Of(name)
	if !ok && isDigit(name) {
		return m.goToLetter(name)
	}
	if !ok {
		m.say("%s does nothing here; ? shows the keys", keymap.Label(name))
		return nil
	}
	if action == keymap.Close && leaving {
		return m.do(keymap.Quit, "")
	}
	return m.do(action, name)
}

// escape undoes what is the lightest of what there is: the first of two keys,
// the marks of what was found, the selection; or brings the caret back in sight.
func (m *Model) escape(prefix string) tea.Cmd {
	switch {
	case prefix != "":
	case m.code.Selection().Len() > 0:
		m.code.Unselect()
	case m.topLeaf() != nil:
		return m.turnBack()
	case len(m.inFile.hits) > 0:
		m.clearInFile()
	case m.guided != nil:
		return m.endWalk()
	case !m.code.InSight():
		m.code.ToCaret()
		return m.repaint()
	}
	return nil
}

// paste puts pasted text where text is typed.
func (m *Model) paste(msg tea.PasteMsg) tea.Cmd {
	if m.isWriting() && !m.going {
		p := m.pen()
		before := p.editor.Document()
		p.editor.Paste(msg.Content)
		return m.wrote(p, before)
	}
	if m.overlay == askOverlay {
		return m.askKey(msg)
	}
	if m.overlay == keysOverlay {
		return m.keysKey(msg)
	}
	if m.overlay == inFileOverlay {
		return m.inFileEdit(msg)
	}
	if c, ok := m.cover(m.overlay); ok {
		return c.update(msg)
	}
	return nil
}

// do carries out an action in roam, for the key that was pressed; it may be "".
func (m *Model) do(a keymap.Action, key string) tea.Cmd {
	if cmd, ok := m.onLeaf(a); ok {
		return cmd
	}
	if cmd, ok := m.slide(a); ok {
		return cmd
	}
	if cmd, ok := m.moveCaret(a); ok {
		m.code.Unselect()
		return cmd
	}
	if cmd, ok := m.hop(a); ok {
		m.code.Unselect()
		return cmd
	}
	if cmd, ok := m.shape(a, key); ok {
		return cmd
	}
	if cmd, ok := m.inViews(a); ok {
		return cmd
	}
	if cmd, ok := m.onSweeps(a); ok {
		return cmd
	}
	if cmd, ok := m.onTrail(a); ok {
		return cmd
	}
	if cmd, ok := m.inWrite(a); ok {
		return cmd
	}
	if cmd, ok := m.onBookmarks(a); ok {
		return cmd
	}
	if cmd, ok := m.handOn(a); ok {
		return cmd
	}
	if way, ok := wayOf[a]; ok {
		return m.goAlong(way)
	}
	switch a {
	case keymap.Scout:
		m.openScout()
	case keymap.Family, keymap.CallTree, keymap.Values:
		return m.openBranches(treeOf[a])
	case keymap.Follow:
		return m.define(true)
	case keymap.Definition:
		return m.define(false)
	case keymap.AllWays:
		return m.allWays()
	case keymap.Outline:
		m.openOutline()
	case keymap.OutlineBeside:
		return m.toggleBeside()
	case keymap.Tree:
		return m.openTree()
	case keymap.SignpostSize:
		return m.resizeSignpost()
	case keymap.Docs:
		return m.openDocs()
	case keymap.Crumbs:
		return m.openCrumbs()
	case keymap.InFile:
		m.openInFile()
	case keymap.Counterpart:
		return m.counterpart()
	case keymap.Keys:
		m.openKeys()
	case keymap.Palette:
		m.say("the palette is now %s", m.colors.toggle())
	case keymap.Quit:
		return m.leave()
	}
	return nil
}

// slide carries out an action that moves what is shown and not the caret; ok is
// false for any other.
func (m *Model) slide(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.SlideUp:
		m.code.Slide(-1)
	case keymap.SlideDown:
		m.code.Slide(1)
	case keymap.ToCaret:
		m.code.ToCaret()
	default:
		return nil, false
	}
	return m.repaint(), true
}

// moveCaret carries out an action that only moves the caret; ok is false for
// any other.
func (m *Model) moveCaret(a keymap.Action) (cmd tea.Cmd, ok bool) {
	c := &m.code
	switch a {
	case keymap.Up:
		c.Move(-1)
	case keymap.Down:
		c.Move(1)
	case keymap.Left:
		c.Side(-1)
	case keymap.Right:
		c.Side(1)
	case keymap.WordLeft:
		c.Word(false)
	case keymap.WordRight:
		c.Word(true)
	case keymap.PageUp:
		c.Page(-1)
	case keymap.PageDown:
		c.Page(1)
	case keymap.HalfUp:
		c.Page(-0.5)
	case keymap.HalfDown:
		c.Page(0.5)
	case keymap.LineStart:
		c.LineStart()
	case keymap.LineEnd:
		c.LineEnd()
	case keymap.FileStart:
		c.Line(1)
	case keymap.FileEnd:
		c.Line(1 << 30)
	default:
		return nil, false
	}
	return m.moved(), true
}
