package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"go/format"
	"io/fs"
	"os"
	"path"
	"syscall"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/recovery"
	"rooktrail/internal/core/settings"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/sheet"
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
	on, state, doc := p.ground(), p.editor.State(), p.editor.Document()
	how := workspace.Saving{Was: on.stamp, Base: on.base, InPlace: p.over != notAsked}
	if p.asked { // it was said that what is on disk may go
		how.Was = m.ws.Stamp(p.path)
	}
	ws, failed, name, keep := m.ws, msg.err, p.path, p.toKeep()
	return tea.Batch(cmd, func() tea.Msg {
		msg := savedMsg{pen: p, ground: on, doc: doc, state: state, format: failed}
		if how.InPlace { // which an interruption cuts off
			if msg.err = keptFirst(ws.Recovery(), keep); msg.err != nil {
				return msg
			}
		}
		msg.stamp, msg.err = ws.Save(context.Background(), name, doc, how)
		return msg
	})
}

// errNowhereKept says that a file is not written over, since no copy of the text could be kept.
var errNowhereKept = errors.New("no copy could be kept for the case that writing over it is interrupted")

func keptFirst(store *recovery.Store, text func() recovery.Text) error {
	if store == nil {
		return errNowhereKept
	}
	if err := store.Keep(text()); err != nil {
		return fmt.Errorf("%w: %w", errNowhereKept, err)
	}
	return nil
}

// saved notes that a text is on disk, or says why it is not.
func (m *Model) saved(msg savedMsg) tea.Cmd {
	p, together := msg.pen, msg.pen.batch
	again := p.again && msg.err == nil
	p.saving, p.again, p.batch = false, false, nil
	if msg.err != nil {
		return m.notSaved(msg, together)
	}
	*msg.ground, p.asked = ground{stamp: msg.stamp, base: msg.doc}, false
	p.editor.Saved(msg.state)
	if p.over != notAsked {
		p.over = agreed
	}
	switch {
	case together != nil:
		together.done(p.path, nil)
		m.sayBatch(together)
	case msg.format != nil:
		m.say("%s is saved as it is, since its formatter failed: %s", shortName(p.path), msg.format)
	default:
		m.say("%s is saved", shortName(p.path))
	}
	cmds := []tea.Cmd{m.keepState()}
	if !p.editor.Changed() {
		cmds = append(cmds, m.settle(p.path, msg.doc), m.keepHistory(p))
	} else if again {
		cmds = append(cmds, m.savePen(p))
	}
	if store := m.ws.Recovery(); store != nil && !p.editor.Changed() {
		p.kept, p.unkept = p.editor.Document(), nil
		name := p.path
		cmds = append(cmds, func() tea.Msg { return failed(store.Forget(name)) })
	}
	return tea.Batch(cmds...)
}

// notSaved says why a text is not on disk, and what one can do.
func (m *Model) notSaved(msg savedMsg, together *batch) tea.Cmd {
	p, err := msg.pen, msg.err
	name := shortName(p.path)
	msg.ground.differ = msg.ground.differ || errors.Is(err, text.ErrChanged)
	if together != nil {
		together.done(p.path, err)
		m.sayBatch(together)
		return nil
	}
	switch {
	case errors.Is(err, text.ErrChanged):
		if m.code.Path() == p.path && m.overlay == noOverlay {
			return m.askDiffering(p)
		}
		m.say("%s has changed on disk since; it is not saved. Ctrl+S there lets you choose", p.path)
	case errors.Is(err, text.ErrReadOnly):
		m.say("%s is not saved, it is read-only; what you wrote is kept. Ctrl+E w saves elsewhere", name)
	case errors.Is(err, text.ErrNotLatin1):
		p.widen = true
		m.say("%s is not saved: %s; Ctrl+S once more saves it as UTF-8", name, whyNotSaved(err))
	case errors.Is(err, text.ErrFolderLocked) && p.over == notAsked:
		p.over = askedFor
		m.say("not saved, its folder is locked; Ctrl+S overwrites it, unsafe if interrupted; a copy of what you wrote is kept till that is done")
	case errors.Is(err, errNowhereKept):
		p.over = notAsked
		m.say("%s is not saved: %s", name, err)
	default:
		m.say("%s is not saved: %s; what you wrote stays here, and is kept", name, whyNotSaved(err))
	}
	return nil
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
	case errors.Is(err, syscall.ENOTDIR):
		return "where its folder should be is a file"
	case errors.As(err, &wrong):
		return wrong.Err.Error()
	case errors.Unwrap(err) != nil:
		return errors.Unwrap(err).Error() // without the path
	}
	return err.Error()
}

// batch is files that are saved together.
type batch struct {
	left  int // how many are not done yet
	saved []string
	not   []refused
}

// refused is a file that was not saved.
type refused struct {
	path string
	why  string
}

func (b *batch) done(path string, err error) {
	b.left--
	switch {
	case err == nil:
		b.saved = append(b.saved, path)
	case errors.Is(err, text.ErrChanged):
		b.not = append(b.not, refused{path, "it has changed on disk; Ctrl+S there lets you choose"})
	case errors.Is(err, text.ErrReadOnly):
		b.not = append(b.not, refused{path, "it is read-only"})
	case errors.Is(err, text.ErrNotLatin1):
		b.not = append(b.not, refused{path, whyNotSaved(err) + "; Ctrl+S there saves it as UTF-8"})
	case errors.Is(err, text.ErrFolderLocked):
		b.not = append(b.not, refused{path, "its folder is locked; Ctrl+S there can write over it"})
	default:
		b.not = append(b.not, refused{path, whyNotSaved(err)})
	}
}

func (m *Model) saveAll() tea.Cmd {
	all := m.unsaved()
	if len(all) == 0 {
		m.say("everything is saved")
		return nil
	}
	b := &batch{left: len(all)}
	var cmds []tea.Cmd
	for _, p := range all {
		p.batch = b
		cmds = append(cmds, m.savePen(p))
	}
	return tea.Batch(cmds...)
}

// sayBatch says what became of files that were saved together, as soon as all are done: those that
// are not saved by name, and why.
func (m *Model) sayBatch(b *batch) {
	switch {
	case b.left > 0:
		return
	case len(b.not) == 0 && len(b.saved) == 1:
		m.say("%s is saved", shortName(b.saved[0]))
	case len(b.not) == 0:
		m.say("%s are saved", sheet.Count(len(b.saved), "file", "files"))
	case len(b.not) == 1 && len(b.saved) == 0:
		m.say("%s is not saved: %s", shortName(b.not[0].path), b.not[0].why)
	case len(b.not) == 1:
		m.say("%s is NOT saved: %s; %s saved", shortName(b.not[0].path), b.not[0].why, sheet.Count(len(b.saved), "file is", "files are"))
	case m.overlay != noOverlay:
		m.say("%s NOT saved; Ctrl+E s tells which and why", sheet.Count(len(b.not), "file is", "files are"))
	default:
		var rows []sheet.Row
		for _, r := range b.not {
			rows = append(rows, sheet.Row{What: "not saved", Name: r.path, Where: r.why, Reads: true, Value: opening{path: r.path, how: "not saved"}})
		}
		m.openChoice(sheet.Count(len(b.saved), "file is", "files are")+" saved, these are not", "go there", rows)
	}
}

// saveAs writes the text to another file, which must not be there, and goes on in that.
func (m *Model) saveAs(p *pen, to string) tea.Cmd {
	ws := m.ws
	to = ws.Relative(ws.Absolute(path.Clean(to)))
	if to == p.path {
		return m.save()
	}
	return func() tea.Msg {
		if folder := path.Dir(ws.Absolute(to)); !ws.IsFolder(folder) {
			return noFolderMsg{p, to, folder}
		}
		return saveAsMsg{p, to}
	}
}

// noFolderMsg says that the folder is not there in which a text was to be saved.
type noFolderMsg struct {
	pen        *pen
	to, folder string
}

// askMakeFolder makes the folder if one agrees.
func (m *Model) askMakeFolder(msg noFolderMsg) {
	m.askLine("its folder is not there; Enter makes it:", msg.to, func(answer string) tea.Cmd {
		if path.Clean(answer) != msg.to {
			return m.saveAs(msg.pen, answer)
		}
		return func() tea.Msg {
			if err := os.MkdirAll(msg.folder, 0o777); err != nil {
				return noteMsg("the folder of " + msg.to + " cannot be made: " + whyNotSaved(err))
			}
			return saveAsMsg{msg.pen, msg.to}
		}
	})
}

// saveAsMsg says that a text can be saved under another path.
type saveAsMsg struct {
	pen *pen
	to  string
}

func (m *Model) saveUnder(p *pen, to string) tea.Cmd {
	ws, doc := m.ws, p.editor.Document()
	line, col := doc.Position(p.editor.Main().At)
	return func() tea.Msg {
		stamp, err := ws.Save(context.Background(), to, doc, workspace.Saving{})
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
