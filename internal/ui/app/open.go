package app

import (
	"context"
	"errors"
	"io/fs"
	"maps"
	"slices"
	"strings"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/trail"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
)

// opening is a request to show a file.
type opening struct {
	path      string
	line, col int         // where to put the caret, counted from 1; 0 is the beginning
	name      place.Range // a name to go to and point out, in bytes
	length    int         // or how many bytes at line and col to point out
	how       string      // how one came there, for the trail
	symbol    string
	view      *trail.View   // how to show it, instead of line and col
	preview   bool          // it is only looked at; no stop is made
	memory    *place.Memory // by what the place of view is found again; nil for none
	along     func()        // moves on the trail, instead of making a stop
	from      *standing     // what was on the screen before it was looked at
	lead      bool          // the present stop goes along, if one came to it in the same way
	turn      bool          // it goes to a view that is open, not to anything new
	after     string        // what to say when one is there; "" for nothing
	movedFrom string        // the path that the file had before
	number    int
}

// openedMsg brings a file that was asked for.
type openedMsg struct {
	opening
	file *workspace.File
	err  error
	done *write.History // to its text before the program began
	rest bool           // the whole of a file whose beginning is shown already
}

// open loads a file and shows it when it is there. A later request takes the
// place of an earlier one.
func (m *Model) open(o opening) tea.Cmd {
	m.leavePen()
	m.opens++
	o.number = m.opens
	m.going = m.going || !o.preview
	if v := m.side.view(o.path); v != nil && o.view == nil && o.line == 0 && o.name.Len() == 0 {
		o.view = &v.state // it is open already: as it was left
		if m.code.Path() == o.path && m.before == nil {
			state := m.code.State()
			o.view = &state
		}
	}
	whole := m.desk.on != "" && !o.preview // to be written in as soon as it is there
	ws := m.ws
	return func() tea.Msg {
		file, err := m.ws.LoadHead(o.path)
		if errors.Is(err, fs.ErrNotExist) && (o.memory != nil || o.along != nil) {
			o.moved(m.ws.LoadMoved, &file, &err)
		}
		switch {
		case err != nil:
		case file.Text.Whole() && file.Facts == nil || !file.Text.Whole() && (whole || o.beyond(file)):
			file, err = m.ws.Load(context.Background(), o.path)
		}
		if err == nil && file.Text.Whole() {
			file.Prepare()
			o.again(file)
		}
		msg := openedMsg{opening: o, file: file, err: err}
		if err == nil && !o.preview {
			msg.done = ws.History(o.path, file.Text)
		}
		return msg
	}
}

// moved reads the file from where it is now, if that is known.
func (o *opening) moved(load func(path *string, former []string) (*workspace.File, error), file **workspace.File, err *error) {
	was := o.path
	found, cannot := load(&o.path, o.former())
	if cannot != nil {
		return
	}
	*file, *err, o.movedFrom = found, nil, was
	if o.view != nil {
		v := *o.view
		v.Place.Path = o.path
		o.view = &v
	}
}

// former are the paths that the file had before, as far as that is known.
func (o *opening) former() []string {
	if o.memory == nil {
		return nil
	}
	return o.memory.Former
}

// beyond says whether the place to show lies behind the part that is there.
func (o *opening) beyond(f *workspace.File) bool {
	line := o.line
	if o.view != nil {
		line = o.view.Place.Line
	}
	return line > f.Text.Lines() || int(o.name.End) > f.Text.Len()
}

// opened shows a file that was loaded.
func (m *Model) opened(msg openedMsg) tea.Cmd {
	if msg.number != m.opens {
		return nil
	}
	cmd := m.showOpened(msg)
	if msg.preview || msg.rest || m.opens > msg.number { // or on to another file
		return cmd
	}
	return m.arrived(cmd)
}

func (m *Model) showOpened(msg openedMsg) tea.Cmd {
	if msg.rest {
		if msg.err == nil {
			m.code.Replace(msg.file)
			m.code.Fold(m.folded[msg.path].found())
			return tea.Batch(m.caretMoved(), m.repaint())
		}
		m.say("the rest of %s: %s", shortName(msg.path), reason(msg.err))
		return nil
	}
	if msg.err != nil {
		return m.cannotOpen(msg)
	}
	if msg.length > 0 {
		start := uint32(msg.file.Text.Offset(msg.line, msg.col))
		msg.name = place.Range{Start: start, End: start + uint32(msg.length)}
	}
	if msg.movedFrom != "" && !msg.preview {
		m.trail.Rename(msg.movedFrom, msg.path)
		m.recent.Rename(msg.movedFrom, msg.path)
		msg.after = strings.TrimPrefix(msg.after+"; "+msg.movedFrom+" is "+msg.path+" now", "; ")
	}
	v := msg.target()
	if !msg.preview {
		m.settleStop(msg.opening, v)
	}
	other := m.code.Path() != msg.path
	m.code.Show(msg.file, v)
	m.code.Point(msg.name)
	if other {
		m.code.Fold(m.folded[msg.path].found())
	}
	if !msg.preview {
		m.begun = true
		m.keepDone(msg.file, msg.done)
		m.side.touch(m.code.State())
		m.restAtStop()
		m.recent.Touch(msg.path, time.Now())
		if msg.after != "" {
			m.say("%s", msg.after)
		}
		if lines := msg.file.Text.Lines(); msg.line > lines {
			m.say("%s has no line %d; this is the last of %d", shortName(msg.path), msg.line, lines)
		}
	}
	cmds := []tea.Cmd{m.moved(), m.locateIn(msg.file)}
	m.showMarks()
	if !msg.file.Text.Whole() {
		cmds = append(cmds, m.openRest(msg.opening))
	}
	return tea.Batch(cmds...)
}

// target is the view in which the file is to be shown.
func (msg *openedMsg) target() trail.View {
	if msg.view != nil {
		return *msg.view
	}
	v := trail.View{Place: place.Place{Path: msg.path, Line: max(msg.line, 1), Col: max(msg.col, 1)}}
	if msg.name.Len() > 0 {
		v.Place.Line, v.Place.Col = msg.file.Text.Position(int(msg.name.Start))
	}
	v.Place.Line = min(v.Place.Line, msg.file.Text.Lines())
	return v
}

// settleStop leaves the present stop and goes to another: along the trail, or
// to a new one.
func (m *Model) settleStop(o opening, v trail.View) {
	left := m.code.State()
	if o.from != nil {
		left = o.from.view
	} else {
		m.keepFolds()
	}
	if left.Place.Path != "" {
		file := m.code.File()
		if o.from != nil {
			file = o.from.file
		}
		m.leaveStop(file, left)
		m.side.leave(left)
	}
	switch {
	case o.along != nil:
		o.along()
	case o.lead && m.trail.Lead(v, o.how, o.symbol):
	case o.turn && m.trail.Return(v.Place):
	default:
		m.trail.Go(v, o.how, o.symbol)
	}
}

// openRest loads all of a file whose beginning is shown.
func (m *Model) openRest(o opening) tea.Cmd {
	return func() tea.Msg {
		file, err := m.ws.Load(context.Background(), o.path)
		if err == nil {
			file.Prepare()
		}
		return openedMsg{opening: o, file: file, err: err, rest: true}
	}
}

// reloadedMsg brings the file on a side of the screen, read anew.
type reloadedMsg struct {
	side         *side
	before, file *workspace.File
	pen          *pen          // of the file as it was asked for, if it was written in
	edits        int           // how much had been written then
	stamp        text.Stamp    // and what was known to be on disk
	edited       []place.Place // where the user changed it in an editor of their own
	err          error
}

// reload reads the files on the screen again, in case they have changed on disk.
func (m *Model) reload() tea.Cmd {
	if m.overlay != noOverlay {
		return nil
	}
	var cmds []tea.Cmd
	handed := m.handed
	all := slices.Collect(maps.Values(m.sides))
	for _, l := range m.leaves.stack {
		all = append(all, l.side)
	}
	for _, s := range all {
		if before := s.code.File(); before != nil {
			msg := reloadedMsg{side: s, before: before}
			if p := m.desk.pens[before.Path]; p != nil {
				msg.pen, msg.edits, msg.stamp = p, p.edits, p.ground().stamp
			}
			cmds = append(cmds, func() tea.Msg {
				file, err := m.ws.OnDisk(context.Background(), before.Path)
				if err == nil && file != before {
					file.Prepare()
				}
				msg.file, msg.err = file, err
				if handed == before.Path && err == nil {
					msg.edited = workspace.ChangedSince(before, file)
				}
				return msg
			})
		}
	}
	return tea.Batch(cmds...)
}

// reloaded shows a file that has changed on disk, with the caret where it was.
func (m *Model) reloaded(msg reloadedMsg) tea.Cmd {
	p := m.desk.pens[msg.before.Path]
	switch {
	case p != nil && p.editor.Changed():
		return nil // what is written stays; that it differs from the disk is said by itself
	case m.before != nil || msg.before.Path != msg.side.code.Path():
		return nil // one has gone elsewhere meanwhile
	case msg.before != msg.side.code.File() || p != msg.pen || p != nil && (p.edits != msg.edits || p.ground().stamp != msg.stamp):
		return m.reload() // it was written in and saved meanwhile; what was read may be older than that
	case msg.err != nil:
		m.say("%s cannot be read any more: %s; this is how it was", shortName(msg.before.Path), reason(msg.err))
		return nil
	case text.Same(msg.file.Text, msg.before.Text):
		return nil
	}
	m.rewritten(msg.file)
	if msg.side == m.side {
		m.restAtStop() // by what stands there before the change
	}
	c := &msg.side.code
	c.Show(msg.file, c.State())
	if msg.side == m.side && m.desk.on == msg.file.Path {
		m.showCarets(p)
	}
	locate := m.locateIn(msg.file)
	m.noteEdits(msg.file, msg.edited)
	msg.side.crumbs = workspace.Crumbs(msg.file, c.Offset())
	m.say("%s has changed on disk; this is how it is now", shortName(msg.file.Path))
	if msg.side == m.side {
		return tea.Batch(m.caretMoved(), m.repaint(), locate)
	}
	return tea.Batch(msg.side.repaint(), locate)
}

// cannotOpen says why a file is not shown. Going along the trail still goes
// on, so that one file that is gone does not block the way.
func (m *Model) cannotOpen(msg openedMsg) tea.Cmd {
	words := shortName(msg.path) + " cannot be opened: " + reason(msg.err)
	if v := m.side.view(msg.path); v != nil && msg.turn {
		m.side.drop(v)
		if next := m.side.latest(); next != nil && m.side.present() == nil {
			m.say("%s", words)
			return m.turnTo(next)
		}
	}
	if msg.along == nil && (m.trail.Here() != nil || msg.preview) {
		m.say("%s", words)
		if msg.from != nil && msg.from.file != nil {
			return m.putBack(msg.from)
		}
		return nil
	}
	if !msg.preview {
		m.settleStop(msg.opening, trail.View{Place: place.Place{Path: msg.path, Line: max(msg.line, 1), Col: 1}})
	}
	m.code.ShowNote(msg.path, words+".\nb goes back, Space finds something else.")
	m.crumbs = nil
	m.sign.Show(workspace.Description{}, false)
	m.sign.File()
	return nil
}

// reason says in a few words why a file could not be opened.
func reason(err error) string {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return "it is not there any more"
	case errors.Is(err, fs.ErrPermission):
		return "you have no permission to read it"
	case errors.Is(err, text.ErrFolder):
		return "it is a folder"
	case errors.Is(err, text.ErrNotRegular):
		return "it is a pipe, a socket or a device"
	}
	return err.Error()
}
