package app

import (
	"os"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/disk/system"
	"rooktrail/internal/ui/called"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/surface"
)

// handOn hands something on to other programs.
func (m *Model) handOn(i surface.Intent) tea.Cmd {
	var cmds []tea.Cmd
	if i.Copy != nil {
		cmds = append(cmds, m.hand.Copy(*i.Copy, m.frame.Wish.Width))
	}
	if i.Edit != "" {
		line := 1
		if i.Edit == m.frame.Code.Path() && m.over == nil {
			line, _ = m.frame.Code.Caret()
		}
		cmds = append(cmds, m.edit(i.Edit, line))
	}
	if i.Desktop != "" {
		cmds = append(cmds, m.act(nil, m.hand.Outside(i.Desktop)))
	}
	return tea.Batch(cmds...)
}

// editedMsg says that the editor was left.
type editedMsg struct{ err error }

// edit hands a place to the user's editor and comes back when that is left.
func (m *Model) edit(path string, line int) tea.Cmd {
	cmd, err := system.Editor(os.Getenv, m.ws.Code.Absolute(path), line)
	if err != nil {
		m.say("%s", err)
		return nil
	}
	cmd.Dir = m.ws.Code.Root()
	m.seen.handed = path
	return tea.Exec(&keyboard.Command{Cmd: cmd}, func(err error) tea.Msg { return editedMsg{err} })
}

// edited goes on where one was, with the files as they are now.
func (m *Model) edited(msg editedMsg) tea.Cmd {
	if msg.err != nil {
		m.say("the editor ended with an error: %s", msg.err)
	}
	reload := m.reload()
	m.seen.handed = ""
	return reload
}

// Called takes what other programs ask.
func (m *Model) Called() *called.Model { return m.called }
