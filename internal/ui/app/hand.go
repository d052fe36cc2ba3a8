package app

import (
	"context"
	"errors"
	"os"
	"strconv"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/system"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keyboard"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// handCommands give the present place to other programs.
func (m *Model) handCommands() surface.Commands {
	all := surface.Commands{}
	for a, hand := range map[keymap.Action]func(path string) surface.Intent{
		keymap.CopyPath:     func(p string) surface.Intent { return copyOf(p) },
		keymap.CopyAbsolute: func(p string) surface.Intent { return copyOf(m.ws.Absolute(p)) },
		keymap.CopyLine: func(p string) surface.Intent {
			line, _ := m.frame.Code.Caret()
			return copyOf(p + ":" + strconv.Itoa(line))
		},
		keymap.CopyText:    func(string) surface.Intent { return m.copyText() },
		keymap.Edit:        func(p string) surface.Intent { return surface.Intent{Edit: p} },
		keymap.OpenOutside: func(p string) surface.Intent { return surface.Intent{Desktop: p} },
	} {
		all[a] = func() surface.Intent {
			p := m.frame.Code.Path()
			if p == "" {
				return surface.Say("no file is shown that could be handed on")
			}
			return hand(p)
		}
	}
	return all
}

func copyOf(s string) surface.Intent {
	return surface.Intent{Copy: &surface.Copy{Text: s, What: s}}
}

// copyText copies what is selected, or the line of the caret.
func (m *Model) copyText() surface.Intent {
	c := &m.frame.Code
	f := c.File()
	if f == nil || f.Text.Binary() {
		return surface.Say("there is no text here to copy")
	}
	if sel := c.Selection(); sel.Len() > 0 {
		return surface.Intent{Copy: &surface.Copy{Text: string(f.Text.Slice(int(sel.Start), int(sel.End))), What: "the selection, " + sheet.Count(sel.Len(), "byte", "bytes") + ","}}
	}
	line, _ := c.Caret()
	return surface.Intent{Copy: &surface.Copy{Text: string(f.Text.Line(line)) + "\n", What: "line " + strconv.Itoa(line)}}
}

// handOn hands something on to other programs.
func (m *Model) handOn(i surface.Intent) tea.Cmd {
	var cmds []tea.Cmd
	if i.Copy != nil {
		cmds = append(cmds, m.copy(*i.Copy))
	}
	if i.Edit != "" {
		line := 1
		if i.Edit == m.frame.Code.Path() && m.over == nil {
			line, _ = m.frame.Code.Caret()
		}
		cmds = append(cmds, m.edit(i.Edit, line))
	}
	if i.Desktop != "" {
		cmds = append(cmds, m.openOutside(i.Desktop))
	}
	return tea.Batch(cmds...)
}

// mostForTerminal is how many bytes are sent to the clipboard of the terminal:
// most terminals take no more, and the line to them may be slow.
const mostForTerminal = 100_000

// copy puts a text into the clipboard of the terminal, which works from afar,
// too, and into that of the system where there is one.
func (m *Model) copy(c surface.Copy) tea.Cmd {
	what := ink.CutFront(c.What, max(m.frame.Wish.Width-40, 20))
	terminal, where := tea.SetClipboard(c.Text), " is handed to the terminal's clipboard"
	if len(c.Text) > mostForTerminal {
		terminal, where = nil, " is too much for the terminal's clipboard"
	}
	return tea.Batch(terminal, surface.Do(m.asker, func(ctx context.Context) error { return system.Copy(ctx, c.Text) }, func(err error) surface.Intent {
		switch {
		case errors.Is(err, system.ErrNoClipboard):
			return surface.Say("%s%s", what, where)
		case err != nil:
			return surface.Say("%s%s; %s", what, where, err)
		}
		return surface.Say("%s is copied", what)
	}))
}

// editedMsg says that the editor was left.
type editedMsg struct{ err error }

// edit hands a place to the user's editor and comes back when that is left.
func (m *Model) edit(path string, line int) tea.Cmd {
	cmd, err := system.Editor(os.Getenv, m.ws.Absolute(path), line)
	if err != nil {
		m.say("%s", err)
		return nil
	}
	cmd.Dir = m.ws.Root()
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

func (m *Model) openOutside(path string) tea.Cmd {
	file := m.ws.Absolute(path)
	m.say("%s is handed to the desktop", shortName(path))
	return surface.Do(m.asker, func(ctx context.Context) error { return system.Open(ctx, file) }, surface.SayError)
}
