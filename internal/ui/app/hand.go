package app

import (
	"context"
	"errors"
	"io"
	"os"
	"os/exec"
	"strconv"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/outside"
	"rooktrail/internal/core/place"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/ink"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// handOn carries out an action that gives the present place to another program;
// ok is false for any other.
func (m *Model) handOn(a keymap.Action) (cmd tea.Cmd, ok bool) {
	switch a {
	case keymap.CopyPath, keymap.CopyAbsolute, keymap.CopyLine, keymap.CopyText, keymap.Edit, keymap.OpenOutside:
	default:
		return nil, false
	}
	p := m.code.Path()
	if p == "" {
		m.say("no file is shown that could be handed on")
		return nil, true
	}
	line, _ := m.code.Caret()
	switch a {
	case keymap.CopyPath:
		return m.copy(p, p), true
	case keymap.CopyAbsolute:
		return m.copy(m.ws.Absolute(p), m.ws.Absolute(p)), true
	case keymap.CopyLine:
		at := p + ":" + strconv.Itoa(line)
		return m.copy(at, at), true
	case keymap.CopyText:
		return m.copyText(), true
	case keymap.Edit:
		return m.edit(p, line), true
	}
	return m.openOutside(p), true
}

// copyText copies what is selected, or the line of the caret.
func (m *Model) copyText() tea.Cmd {
	f := m.code.File()
	if f == nil || f.Text.Binary() {
		m.say("there is no text here to copy")
		return nil
	}
	if sel := m.code.Selection(); sel.Len() > 0 {
		return m.copy(string(f.Text.Slice(int(sel.Start), int(sel.End))), "the selection, "+sheet.Count(sel.Len(), "byte", "bytes")+",")
	}
	line, _ := m.code.Caret()
	return m.copy(string(f.Text.Line(line))+"\n", "line "+strconv.Itoa(line))
}

// mostForTerminal is how many bytes are sent to the clipboard of the terminal:
// most terminals take no more, and the line to them may be slow.
const mostForTerminal = 100_000

// copy puts a text into the clipboard of the terminal, which works from afar,
// too, and into that of the system where there is one. what names the text.
func (m *Model) copy(text, what string) tea.Cmd {
	what = ink.CutFront(what, max(m.width-40, 20))
	terminal, where := tea.SetClipboard(text), " is handed to the terminal's clipboard"
	if len(text) > mostForTerminal {
		terminal, where = nil, " is too much for the terminal's clipboard"
	}
	return tea.Batch(terminal, func() tea.Msg {
		switch err := outside.Copy(context.Background(), text); {
		case errors.Is(err, outside.ErrNoClipboard):
			return noteMsg(what + where)
		case err != nil:
			return noteMsg(what + where + "; " + err.Error())
		}
		return noteMsg(what + " is copied")
	})
}

// editedMsg says that the editor was left.
type editedMsg struct{ err error }

// edit hands a place to the user's editor and comes back when that is left.
func (m *Model) edit(path string, line int) tea.Cmd {
	cmd, err := outside.Editor(os.Getenv, m.ws.Absolute(path), line)
	if err != nil {
		m.say("%s", err)
		return nil
	}
	cmd.Dir = m.ws.Root()
	m.handed = path
	return tea.Exec(&unhurried{cmd}, func(err error) tea.Msg { return editedMsg{err} })
}

// unhurried is a command that takes at least a moment. One that ends at once, such
// as an editor that cannot be found, may be over before the drawing of the screen
// has stopped for it, and the screen would stay dark.
type unhurried struct{ *exec.Cmd }

// moment is long enough for that.
const moment = 150 * time.Millisecond

// Run implements tea.ExecCommand.
func (c *unhurried) Run() error {
	over := time.After(moment)
	err := c.Cmd.Run()
	<-over
	return err
}

// lender reads a terminal that it can lend to another program.
type lender interface{ Lend() *os.File }

// SetStdin implements tea.ExecCommand.
func (c *unhurried) SetStdin(r io.Reader) {
	if l, ok := r.(lender); ok {
		r = l.Lend()
	}
	c.Stdin = r
}

// SetStdout and SetStderr implement tea.ExecCommand.
func (c *unhurried) SetStdout(w io.Writer) { c.Stdout = w }
func (c *unhurried) SetStderr(w io.Writer) { c.Stderr = w }

// edited goes on where one was, with the files as they are now.
func (m *Model) edited(msg editedMsg) tea.Cmd {
	if msg.err != nil {
		m.say("the editor ended with an error: %s", msg.err)
	}
	reload := m.reload()
	m.handed = ""
	return reload
}

// noteEdits makes edit places of where text was changed.
func (m *Model) noteEdits(f *workspace.File, edited []place.Place) {
	now := time.Now()
	for i, p := range edited {
		m.trail.Edit(p, workspace.SymbolAt(f, p.Line, p.Col), now.Add(time.Duration(i))) // the last of them is the latest
	}
	if len(edited) > 0 {
		m.recent.Edit(f.Path)
		m.showMarks()
	}
}

func (m *Model) openOutside(path string) tea.Cmd {
	file := m.ws.Absolute(path)
	m.say("%s is handed to the desktop", shortName(path))
	return func() tea.Msg {
		if err := outside.Open(context.Background(), file); err != nil {
			return noteMsg(err.Error())
		}
		return nil
	}
}
