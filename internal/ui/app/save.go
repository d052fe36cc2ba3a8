package app

import (
	"bytes"
	"context"
	"errors"
	"go/format"
	"io/fs"
	"path"
	"syscall"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/settings"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
)

// savedMsg says what became of saving.
type savedMsg struct {
	pen    *pen
	ground *ground // on which the text was built
	doc    *text.Document
	state  int
	stamp  text.Stamp
	err    error
	// format is why the text was not put into its usual form; nil if it was.
	format error
}

// save saves the file on the screen.
func (m *Model) save() tea.Cmd {
	p := m.pen()
	switch {
	case p == nil || !p.editor.Changed() && !p.ground().differ:
		m.say("%s is as it was saved", shortName(m.code.Path()))
		return nil
	case p.ground().differ && !p.asked:
		return m.askDiffering(p)
	}
	return m.savePen(p)
}

// savePen saves what is written in a file, in its usual form: that of Go for Go, and what the
// user's own settings say for others.
func (m *Model) savePen(p *pen) tea.Cmd {
	if p.saving {
		p.again = true // what the file is like on disk is known only after that
		return nil
	}
	p.saving = true
	doc := p.editor.Document()
	ws, set, name := m.ws, &m.settings, p.path
	return func() tea.Msg {
		tidy, err := tidied(ws, set, name, doc)
		return tidiedMsg{p, doc, tidy, err}
	}
}

// tidied is a text in its usual form; the text itself if it has none, or is not well formed.
func tidied(ws *workspace.Workspace, set *settings.Settings, file string, doc *text.Document) (*text.Document, error) {
	data := doc.Bytes()
	out, ok, err := set.Format(context.Background(), ws.Root(), file, data)
	if !ok && path.Ext(file) == ".go" && !set.Plain {
		if out, err = format.Source(data); err != nil {
			return doc, nil // it is not finished, and saved as it is
		}
	}
	if err != nil || bytes.Equal(out, data) {
		return doc, err
	}
	return doc.With(out), nil
}

// tidiedMsg brings a text in the form in which it is to be saved.
type tidiedMsg struct {
	pen       *pen
	doc, tidy *text.Document
	err       error
}

// tidy puts a text into its usual form, if nothing more was written meanwhile, and saves it.
func (m *Model) tidy(msg tidiedMsg) tea.Cmd {
	p := msg.pen
	var cmd tea.Cmd
	if msg.tidy != msg.doc && p.editor.Document() == msg.doc {
		p.editor.Replace(msg.tidy)
		widen := p.widen
		cmd = m.rewrote(p, msg.doc)
		p.widen = widen
	}
	if p.widen {
		before := p.editor.Document()
		p.editor.AsUTF8()
		cmd = tea.Batch(cmd, m.rewrote(p, before))
	}
	ws, on, state, doc := m.ws, p.ground(), p.editor.State(), p.editor.Document()
	was, base := on.stamp, on.base
	if p.asked { // it was said that what is on disk may go
		was = ws.Stamp(p.path)
	}
	failed, name := msg.err, p.path
	return tea.Batch(cmd, func() tea.Msg {
		stamp, err := ws.Save(context.Background(), name, doc, was, base)
		return savedMsg{pen: p, ground: on, doc: doc, state: state, stamp: stamp, err: err, format: failed}
	})
}

// saved notes that a text is on disk.
func (m *Model) saved(msg savedMsg) tea.Cmd {
	p := msg.pen
	again := p.again && msg.err == nil
	p.saving, p.again = false, false
	switch {
	case errors.Is(msg.err, text.ErrChanged):
		msg.ground.differ = true
		if m.code.Path() == p.path && m.overlay == noOverlay {
			return m.askDiffering(p)
		}
		m.say("%s has changed on disk since; it is not saved. Ctrl+S there lets you choose", p.path)
		return nil
	case errors.Is(msg.err, text.ErrReadOnly):
		m.say("%s is read-only and not saved; what you wrote is kept. Make it writable, or save under another path with Ctrl+E w", shortName(p.path))
		return nil
	case errors.Is(msg.err, text.ErrNotLatin1):
		p.widen = true
		m.say("%s is not saved: %s; Ctrl+S once more saves it as UTF-8", shortName(p.path), whyNotSaved(msg.err))
		return nil
	case msg.err != nil:
		m.say("%s is not saved: %s; what you wrote stays here, and is kept", shortName(p.path), whyNotSaved(msg.err))
		return nil
	}
	*msg.ground, p.asked = ground{stamp: msg.stamp, base: msg.doc}, false
	p.editor.Saved(msg.state)
	if msg.format != nil {
		m.say("%s is saved as it is, since its formatter failed: %s", shortName(p.path), msg.format)
	} else {
		m.say("%s is saved", shortName(p.path))
	}
	cmds := []tea.Cmd{m.keepState()}
	if !p.editor.Changed() {
		cmds = append(cmds, m.settle(p.path, msg.doc))
	} else if again {
		cmds = append(cmds, m.savePen(p))
	}
	if store := m.ws.Recovery(); store != nil && !p.editor.Changed() {
		p.kept = p.editor.Document()
		name := p.path
		cmds = append(cmds, func() tea.Msg { return failed(store.Forget(name)) })
	}
	return tea.Batch(cmds...)
}

// whyNotSaved says in a few words why a file could not be written.
func whyNotSaved(err error) string {
	var wrong *fs.PathError
	var cut *text.CutOffError
	switch {
	case errors.As(err, &cut):
		return "the file may be cut off now, and all of it is in " + cut.Whole + ", since " + whyNotSaved(cut.Err)
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return "the disk is full"
	case errors.Is(err, syscall.EROFS):
		return "the disk can only be read"
	case errors.Is(err, fs.ErrPermission):
		return "you have no permission to write in its folder"
	case errors.Is(err, fs.ErrNotExist):
		return "its folder is not there any more"
	case errors.Is(err, text.ErrFolder):
		return "it is a folder now"
	case errors.Is(err, text.ErrNotRegular):
		return "it is a pipe, a socket or a device now"
	case errors.As(err, &wrong):
		return wrong.Err.Error()
	case errors.Unwrap(err) != nil:
		return errors.Unwrap(err).Error() // without the path
	}
	return err.Error()
}

func (m *Model) saveAll() tea.Cmd {
	var cmds []tea.Cmd
	all := m.unsaved()
	for _, p := range all {
		cmds = append(cmds, m.savePen(p))
	}
	if len(all) == 0 {
		m.say("everything is saved")
	}
	return tea.Batch(cmds...)
}

// saveAs writes the text to another file, which must not be there, and goes on in that.
func (m *Model) saveAs(p *pen, to string) tea.Cmd {
	ws, doc := m.ws, p.editor.Document()
	to = ws.Relative(ws.Absolute(path.Clean(to)))
	if to == p.path {
		return m.save()
	}
	line, col := doc.Position(p.editor.Main().At)
	return func() tea.Msg {
		stamp, err := ws.Save(context.Background(), to, doc, text.Stamp{}, nil)
		if errors.Is(err, text.ErrChanged) {
			return noteMsg(to + " is there already and is not written over; choose another path")
		}
		return savedAsMsg{p, to, line, col, stamp, err}
	}
}

// savedAsMsg says what became of saving under another path.
type savedAsMsg struct {
	pen       *pen
	to        string
	line, col int
	stamp     text.Stamp
	err       error
}

func (m *Model) savedAs(msg savedAsMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s is not written: %s; what you wrote stays here, and is kept", msg.to, whyNotSaved(msg.err))
		return nil
	}
	return m.open(opening{path: msg.to, line: msg.line, col: msg.col, how: "saved as", after: msg.to + " is written; " + shortName(msg.pen.path) + " is as it was"})
}
