package app

import (
	"strconv"
	"strings"
	"time"

	"charm.land/bubbles/v2/key"
	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/system"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/leaf"
	"rooktrail/internal/ui/surface"
)

// key hands a key to what lies on top.
func (m *Model) key(k tea.KeyPressMsg) tea.Cmd {
	name := k.String()
	m.seen.presses++
	m.writing.Pressed()
	m.lessons.Pressed()
	if keymap.Is(name, on.Quit) {
		return m.act(nil, m.leave())
	}
	if m.over == nil && m.runs.Inside() {
		m.line.message = ""
		return m.act(nil, m.runs.Key(k))
	}
	if keymap.Is(name, on.Suspend) && !m.writing.Writing() {
		if !system.CanSuspend() {
			m.say("there is no shell around the program to go back to; in write {undo} undoes, {quit} leaves")
			return nil
		}
		return tea.Suspend
	}
	if m.going() {
		return m.later(k)
	}
	leaving := m.seen.leaving
	m.line.message, m.seen.leaving = "", false
	m.sign.NotWanted()
	if todo, taken := m.tips.Key(name); taken {
		return m.act(nil, todo)
	}
	if a, ok := m.keys.Of(name); ok && m.over == nil && strings.HasPrefix(name, "f") && m.keys.InGroup(a, keymap.Trying) {
		m.did(a, false)
		return m.do(a, name)
	}
	if m.writing.Writing() {
		return m.act(nil, m.writing.Key(k))
	}
	if m.over != nil {
		if keymap.Is(name, on.More) && m.nameKeys() {
			return nil
		}
		list, _ := m.over.Keys()
		if to := m.mine.InList(list, name); to != name {
			k = keyboard.Press(to)
		}
		return m.act(m.over, m.over.Update(k))
	}
	if todo, not := m.writing.NotTyped(k); not {
		return m.act(nil, todo)
	}
	return m.roamKey(k, leaving)
}

// on are the keys that work whatever is on the screen, and one that means the same as another.
var on = struct{ Quit, Suspend, Close, More key.Binding }{
	keymap.On("leave the program", "ctrl+q"), keymap.On("back to the shell for a while", "ctrl+z"), keymap.On("close this file, as in roam", "ctrl+c"),
	keymap.On("in a list: all that can be done there, by name", "f1", "alt+?"),
}

// Keys are those, and what to call them on the page of keys.
func (m *Model) Keys() (name string, all []key.Binding) { return keymap.Other, keymap.Of(on)[1:] }

func isEsc(k tea.KeyPressMsg) bool { return keymap.Is(k.String(), keymap.Ends.Close) }

// later keeps a key that was pressed while one is on the way somewhere, since
// it is meant for the place one arrives at. Esc gives up going there; where one
// writes, only if nothing was typed since, or pressed twice.
func (m *Model) later(k tea.KeyPressMsg) tea.Cmd {
	if s, ok := m.over.(surface.Impatient); ok && keymap.Is(k.String(), keymap.Ends.Take) && len(m.ahead) == 0 && m.over.Busy() {
		return m.act(m.over, s.Now())
	}
	if n := len(m.ahead); !isEsc(k) || m.writing.On() != "" && n > 0 && !isEsc(m.ahead[n-1].key) {
		m.ahead = append(m.ahead, ahead{key: k})
		return nil
	}
	m.ahead, m.seen.shown = nil, true
	m.way.Cancel()
	m.writing.GiveUp()
	if m.over == nil {
		return nil
	}
	return m.restore()
}

// roamKey acts on a key in roam.
func (m *Model) roamKey(k tea.KeyPressMsg, leaving bool) tea.Cmd {
	name := k.String()
	prefix := m.line.prefix
	m.line.prefix = ""
	if isEsc(k) {
		return m.act(nil, m.escape(prefix))
	}
	if keymap.Is(name, on.Close) {
		name = m.keys.Name(keymap.Close)
	}
	if prefix != "" {
		name = prefix + " " + name
	} else if m.keys.Begins(name) {
		m.line.prefix = name
		return nil
	}
	action, ok := m.mine.InFile(m.frame.Code.Path(), name)
	if !ok {
		action, ok = m.keys.Of(name)
	}
	switch {
	case !ok && len(name) == 1 && name[0] >= '0' && name[0] <= '9':
		return m.act(nil, m.marks.ByLetter(name))
	case !ok:
		m.line.message = m.keys.Nothing(name, false)
		return nil
	case action == keymap.Close && leaving:
		return m.do(keymap.Quit, "")
	}
	m.did(action, false)
	return m.do(action, name)
}

// did notes a command that is about to be done, by its name or by its key.
func (m *Model) did(a keymap.Action, named bool) {
	m.habits.Did(string(a), named, time.Now())
	m.tips.Did(a, named)
}

// escape undoes what is the lightest of what there is: the first of two keys,
// the selection, a leaf, the marks of what was found, a guided walk; or it brings the caret back in
// sight.
func (m *Model) escape(prefix string) surface.Intent {
	c := &m.frame.Code
	switch {
	case prefix != "":
	case c.Selection().Len() > 0:
		c.Unselect()
	case m.leaves.Any():
		return m.leaves.TurnBack()
	case m.search.Any():
		m.search.Clear()
	case m.walk.Any():
		return m.walk.End()
	case !c.InSight():
		c.ToCaret()
		return surface.Intent{Slid: true}
	}
	return surface.Intent{}
}

// paste puts pasted text where text is typed.
func (m *Model) paste(msg tea.PasteMsg) tea.Cmd {
	switch {
	case m.over == nil && m.runs.Inside():
		m.runs.Paste(msg.Content)
	case m.writing.Writing() && !m.going():
		return m.act(nil, m.writing.Paste(msg.Content))
	case m.over != nil:
		return m.act(m.over, m.over.Update(msg))
	}
	return nil
}

// do carries out an action, for the key that was pressed; it may be "".
func (m *Model) do(a keymap.Action, key string) tea.Cmd {
	if m.frame.InLeaf() {
		if do := m.leaves.Within()[a]; do != nil {
			return m.act(nil, do())
		}
		if !leaf.Stays(a) {
			m.frame.Return()
		}
	}
	if level, err := strconv.Atoi(key[strings.LastIndexByte(key, ' ')+1:]); err == nil && a == keymap.FoldLevel {
		return m.act(nil, m.reading.FoldLevel(level))
	}
	switch do := m.commands[a]; {
	case do == nil:
		return nil
	case m.keys.Asks(a) && !m.writing.Known():
		return m.act(nil, m.writing.Await(a))
	default:
		return m.act(nil, do())
	}
}
