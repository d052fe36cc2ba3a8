package app

import (
	"context"
	"slices"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/recovery"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/keymap"
)

// pen is a file that is written.
type pen struct {
	editor  *write.Editor
	path    string
	grounds map[int]*ground // by the state of the text from which on it is built on that
	taken   *text.Document  // what all answers are about
	kept    *text.Document  // what lies beside for after a crash
	keeping bool            // and is about to be what is written
	edits   int             // counts the changes
	epoch   int             // counts how often others have changed the file
	asked   bool            // whether to save all the same was asked
	taking  bool            // everything else is learning of it
	due     bool            // and is to learn of what was written since, too
	took    time.Duration   // how long that took the last time
	widen   bool            // it was asked whether to save it as UTF-8
	over    consent         // to write over the file itself
	unkept  error           // why it could not be kept beside; nil if it was
	batch   *batch          // those with which it is being saved
	saving  bool            // it is being saved
	again   bool            // and is to be saved once more after that
}

// consent is whether something was asked, and agreed to.
type consent uint8

const (
	notAsked consent = iota
	askedFor
	agreed
)

// ground is the file as it was on disk when what is written was begun, saved, or brought
// together with what others had written. A text that is older than that, by undoing, is built
// on an older one: saving it would write over what others have written.
type ground struct {
	stamp  text.Stamp
	base   *text.Document
	differ bool // the file has changed on disk since
}

// ground is that of the text as it is now.
func (p *pen) ground() *ground {
	return p.grounds[p.editor.Latest(func(state int) bool { return p.grounds[state] != nil })]
}

// rest notes that the text as it is now is built on a file as that is on disk.
func (p *pen) rest(stamp text.Stamp, base *text.Document) {
	p.grounds[p.editor.State()] = &ground{stamp: stamp, base: base}
}

// newPen begins to write in a file.
func newPen(f *workspace.File, at int, stamp text.Stamp) *pen {
	return &pen{editor: write.New(f.Text, at, workspace.StyleOf(f)), path: f.Path, grounds: map[int]*ground{0: {stamp: stamp, base: f.Text}}, taken: f.Text, kept: f.Text}
}

// desk is what is written.
type desk struct {
	pens      map[string]*pen
	on        string // the file in which letters are typed; "" for none
	shown     shownCaret
	cuts      []string          // what was cut or copied, the latest first
	cutsKnown bool              // those of earlier are among them
	before    map[string]before // what was done to texts before the program began
	next      keymap.Action     // what to do as soon as all answers are about what was written last
	sure      bool              // leaving with texts that are not saved was asked for once
	left      []recovery.Text   // texts that were not saved when a program ended
	begun     bool              // something is on the screen
	taken     bool              // one of them was taken
	refused   bool              // one wanted to write where that cannot be, and has pressed no other key since
	unlocked  map[string]bool   // the files that are not the project's own and may be written in all the same
	offer     bool              // they are to be offered as soon as nothing else is going on
}

// mostCuts is how many cut or copied texts there are to choose from.
const mostCuts = 20

// largestWritten is up to which size, in bytes, a text can be written: all of it is read anew in
// each pause.
const largestWritten = 64 << 20

// isWriting says whether letters are typed.
func (m *Model) isWriting() bool {
	return m.desk.on != "" && m.desk.on == m.code.Path() && m.overlay == noOverlay && !m.inLeaf() && m.pen() != nil
}

// pen is that of the file on the screen; nil if it was not written.
func (m *Model) pen() *pen { return m.desk.pens[m.code.Path()] }

// unsaved are the files with text that is not saved.
func (m *Model) unsaved() (all []*pen) {
	for _, p := range m.desk.pens {
		if p.editor.Changed() {
			all = append(all, p)
		}
	}
	slices.SortFunc(all, func(a, b *pen) int {
		if a.path < b.path {
			return -1
		}
		return 1
	})
	return all
}

// unsavedPaths are the paths of the files with text that is not saved.
func (m *Model) unsavedPaths() map[string]bool {
	paths := map[string]bool{}
	for _, p := range m.unsaved() {
		paths[p.path] = true
	}
	return paths
}

// startWriting lets one type in the file on the screen; it is false if that cannot be.
func (m *Model) startWriting() bool {
	f := m.code.File()
	switch {
	case f == nil || f.Text.Binary():
		m.say("there is no text here to write in")
		return false
	case !f.Text.Whole():
		m.say("the rest of this file is still being read; then it can be written in")
		return false
	case f.Text.Len() > largestWritten:
		m.say("this file is too large to be written in here; P e hands it to your editor")
		return false
	case f.Text.Lossy():
		m.say("this file holds what is no %s, which writing would lose; P e hands it to your editor", f.Text.Encoding())
		return false
	case m.inLeaf():
		m.say("a leaf is only looked at; G goes there for good")
		return false
	case f.Foreign && m.desk.pens[f.Path] == nil && !m.desk.unlocked[f.Path]:
		m.say("%s is not of this project and locked; Ctrl+E k unlocks it", shortName(f.Path))
		return false
	}
	if m.code.Solo().Len() > 0 {
		m.code.Alone(place.Range{})
	}
	if m.desk.pens == nil {
		m.desk.pens = map[string]*pen{}
	}
	p := m.desk.pens[f.Path]
	if p == nil {
		at, known := m.placed[f.Path]
		stamp := f.Stamp
		if stamp == (text.Stamp{}) {
			stamp = m.ws.Stamp(f.Path)
		}
		p = newPen(f, m.code.Offset(), stamp)
		m.resumeDone(p)
		if known && text.Same(at.doc, f.Text) { // from here on the places move with what is written
			m.placed[f.Path] = placed{doc: f.Text, pen: p}
		}
		m.desk.pens[f.Path] = p
	} else if !text.Same(p.editor.Document(), f.Text) {
		m.code.Retext(&workspace.File{Path: f.Path, Text: p.editor.Document()}, nil)
	}
	m.desk.on = f.Path
	if sel := m.code.Selection(); sel.Len() > 0 {
		p.editor.Select(int(sel.Start), int(sel.End))
	} else if p.editor.Main().At != m.code.Offset() {
		p.editor.Put(m.code.Offset())
	}
	m.showCarets(p)
	return true
}

// stopWriting leads back to roam.
func (m *Model) stopWriting() {
	m.desk.on, m.desk.shown = "", shownCaret{}
	m.code.NoCarets()
}

// showCarets shows the carets and selections of a pen.
func (m *Model) showCarets(p *pen) {
	all, main := p.editor.Carets()
	var others []int
	var parts []place.Range
	for i, c := range all {
		start, end := c.Selected()
		if start != end {
			parts = append(parts, place.Range{Start: uint32(start), End: uint32(end)})
		}
		if i != main {
			others = append(others, c.At)
		}
	}
	slices.Sort(others)
	if m.code.Selection().Len() > 0 && m.code.Selection() != selectionOf(p) {
		m.code.Unselect()
	}
	m.code.Carets(all[main].At, others, parts)
	m.desk.shown = shownCaret{m.side, m.code.Offset()}
}

// How long after a change everything else learns of it, and how long at the most what is
// written is nowhere but in memory.
const (
	learnAfter   = 60 * time.Millisecond
	recoverAfter = 400 * time.Millisecond
)

// longestTook bounds how much later everything else learns of changes to a text of which it
// takes long to learn, so that this is not begun anew at every key.
const longestTook = time.Second

// learnMsg says that nothing was typed for a moment, if edits is still the latest.
type learnMsg struct {
	pen   *pen
	edits int
}

// recoverMsg says that it is time to keep what is written beside.
type recoverMsg struct{ pen *pen }

// wrote shows what was changed, and has everything else learn of it.
func (m *Model) wrote(p *pen, before *text.Document) tea.Cmd {
	doc := p.editor.Document()
	if doc == before {
		m.showCarets(p)
		return tea.Batch(m.caretMoved(), m.repaint())
	}
	p.edits++
	p.asked, p.widen = false, false
	if p.over == askedFor {
		p.over = notAsked
	}
	m.desk.sure = false
	m.code.Retext(&workspace.File{Path: p.path, Text: doc}, p.editor.Edits())
	m.showCarets(p)
	number := p.edits
	learn := tea.Tick(learnAfter+min(p.took, longestTook), func(time.Time) tea.Msg { return learnMsg{p, number} })
	return tea.Batch(learn, m.keepSoon(p))
}

// rewrote has everything learn of a change to a text that is perhaps not on the screen.
func (m *Model) rewrote(p *pen, before *text.Document) tea.Cmd {
	if m.code.Path() == p.path && m.before == nil && !m.inLeaf() {
		return m.wrote(p, before)
	}
	p.edits++
	return tea.Batch(m.takeIn(p), m.keepSoon(p))
}

// keepSoon keeps what is written beside, for after a crash, unless that is about to be done.
func (m *Model) keepSoon(p *pen) tea.Cmd {
	if p.keeping {
		return nil
	}
	p.keeping = true
	return tea.Tick(recoverAfter, func(time.Time) tea.Msg { return recoverMsg{p} })
}

// learn has everything learn of what was written.
func (m *Model) learn(msg learnMsg) tea.Cmd {
	if msg.edits != msg.pen.edits {
		return nil
	}
	return m.takeIn(msg.pen)
}

// writtenMsg brings a file with all that is known of the text that was written.
type writtenMsg struct {
	pen   *pen
	file  *workspace.File
	edits int
	took  time.Duration
}

// takeIn has everything learn of what is written, one text after the other, so that none comes
// in place of a later one.
func (m *Model) takeIn(p *pen) tea.Cmd {
	if p.taking {
		p.due = true
		return nil
	}
	p.taking = true
	doc, ws, number, name := p.editor.Document(), m.ws, p.edits, p.path
	return func() tea.Msg {
		begun := time.Now()
		f := ws.Write(context.Background(), name, doc)
		f.Prepare()
		return writtenMsg{p, f, number, time.Since(begun)}
	}
}

// written takes in what is known of a text now, and goes on with what waited for that.
func (m *Model) written(msg writtenMsg) tea.Cmd {
	p := msg.pen
	p.taking, p.took = false, msg.took
	var cmds []tea.Cmd
	if !p.editor.Changed() {
		cmds = append(cmds, m.settle(p.path, msg.file.Text))
	}
	if p.due {
		p.due = false
		cmds = append(cmds, m.takeIn(p))
	}
	if msg.edits != p.edits {
		return tea.Batch(cmds...) // more was written meanwhile
	}
	p.taken = msg.file.Text
	if m.code.Path() == p.path && m.before == nil && !m.inLeaf() {
		m.code.Written(msg.file, m.code.State(), true)
		if m.desk.on == p.path {
			m.showCarets(p)
		}
		m.noteWritten(p, msg.file)
		cmds = append(cmds, m.caretMoved(), m.repaint(), m.locateIn(msg.file))
	}
	for _, s := range m.sides { // the same file may be seen elsewhere, too
		if s != m.side && s.code.Path() == p.path {
			s.code.Written(msg.file, s.code.State(), false)
			cmds = append(cmds, s.repaint())
		}
	}
	if then := m.desk.next; then != "" {
		m.desk.next = ""
		cmds = append(cmds, m.arrivedAt(func() tea.Cmd { return m.do(then, "") }))
	}
	return tea.Batch(cmds...)
}

// settle has a file count again as it is on disk, now that what was written is there.
func (m *Model) settle(name string, doc *text.Document) tea.Cmd {
	ws := m.ws
	return func() tea.Msg {
		ws.Settle(context.Background(), name, doc)
		return nil
	}
}

// noteWritten makes an edit place of where text was changed.
func (m *Model) noteWritten(p *pen, f *workspace.File) {
	at := p.editor.Main().At
	line, col := f.Text.Position(at)
	m.leaveHere()
	here := place.Place{Path: p.path, Line: min(line, f.Text.Lines()), Col: col}
	m.trail.Edit(here, workspace.SymbolAt(f, here.Line, here.Col), time.Now())
	m.recent.Edit(p.path)
	m.showMarks()
}

// keepUnsaved keeps a text that is not saved beside, for after a crash.
func (m *Model) keepUnsaved(msg recoverMsg) tea.Cmd {
	p := msg.pen
	p.keeping = false
	doc, store := p.editor.Document(), m.ws.Recovery()
	if p.kept == doc || store == nil {
		return nil
	}
	p.kept = doc
	if name := p.path; !p.editor.Changed() {
		p.unkept = nil
		return func() tea.Msg { return failed(store.Forget(name)) }
	}
	t := p.toKeep()
	return func() tea.Msg { return keptMsg{p, store.Keep(t())} }
}

// keptMsg says what became of keeping a text that is not saved beside.
type keptMsg struct {
	pen *pen
	err error
}

// retryAfter is after how long it is tried again to keep a text beside.
const retryAfter = 3 * time.Second

// keptBeside says that a text could not be kept beside, and tries again until it can.
func (m *Model) keptBeside(msg keptMsg) tea.Cmd {
	p := msg.pen
	was := p.unkept
	p.unkept = msg.err
	switch {
	case msg.err == nil && was != nil:
		m.say("what is not saved of %s is kept beside again", shortName(p.path))
		return nil
	case msg.err == nil:
		return nil
	case was == nil:
		m.say("NOT kept for the next time: %s, since %s; save it", shortName(p.path), whyNotSaved(msg.err))
	}
	p.kept = nil
	if p.keeping {
		return nil
	}
	p.keeping = true
	return tea.Tick(retryAfter, func(time.Time) tea.Msg { return recoverMsg{p} })
}

// toKeep gives what is kept of a text that is not saved. What it gives may be asked for beside
// the screen.
func (p *pen) toKeep() func() recovery.Text {
	doc, on, now := p.editor.Document(), *p.ground(), time.Now()
	line, col := doc.Position(p.editor.Main().At)
	return func() recovery.Text {
		return recovery.Text{Path: p.path, Stamp: on.stamp, At: now, Line: line, Col: col, Body: doc.Bytes(), Base: on.base.Bytes()}
	}
}

// failed is the message that tells of an error; nil if there is none.
func failed(err error) tea.Msg {
	if err != nil {
		return noteMsg(err.Error())
	}
	return nil
}

// leavePen makes sure that whoever asks for the file on the screen sees what was written last.
func (m *Model) leavePen() {
	if p := m.pen(); p != nil && p.taken != p.editor.Document() {
		m.ws.Hold(p.path, p.editor.Document())
	}
}

// rewritten takes the text of a file that was changed by others into what one can undo, if one
// has written in it and saved that.
func (m *Model) rewritten(f *workspace.File) {
	p := m.desk.pens[f.Path]
	if p == nil {
		return
	}
	p.editor.Replace(f.Text)
	p.editor.Saved(p.editor.State())
	p.rest(f.Stamp, f.Text)
	p.taken, p.kept = p.editor.Document(), p.editor.Document()
	p.edits++
	p.epoch++
}

// pensMoved has texts that are written follow their files to other paths.
func (m *Model) pensMoved(from, to string) tea.Cmd {
	var cmds []tea.Cmd
	for was, p := range m.desk.pens {
		now := place.Renamed(was, from, to)
		if now == was {
			continue
		}
		delete(m.desk.pens, was)
		m.desk.pens[now] = p
		p.path = now
		if m.desk.on == was {
			m.desk.on = now
		}
		m.ws.Moved(was, now)
		if store := m.ws.Recovery(); store != nil && p.editor.Changed() {
			p.kept = nil
			cmds = append(cmds, m.keepUnsaved(recoverMsg{p}), func() tea.Msg { return failed(store.Forget(was)) })
		}
	}
	return tea.Batch(cmds...)
}
