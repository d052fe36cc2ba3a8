package app

import (
	"bytes"
	"context"
	"errors"
	"go/format"
	"path"
	"runtime"
	"slices"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/place"
	"rooktrail/internal/core/recovery"
	"rooktrail/internal/core/settings"
	"rooktrail/internal/core/text"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/core/write"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
)

// pen is a file that is written.
type pen struct {
	editor *write.Editor
	path   string
	stamp  text.Stamp     // of the file as it is on disk, on which the text is built
	base   *text.Document // and its text
	taken  *text.Document // what all answers are about
	kept   *text.Document // what lies beside for after a crash
	edits  int            // counts the changes
	differ bool           // the file has changed on disk meanwhile
	asked  bool           // whether to save all the same was asked
}

// desk is what is written.
type desk struct {
	pens map[string]*pen
	on   string        // the file in which letters are typed; "" for none
	cuts []string      // what was cut or copied, the latest first
	next keymap.Action // what to do as soon as all answers are about what was written last
	sure bool          // leaving with texts that are not saved was asked for once
	left []recovery.Text
}

// mostCuts is how many cut or copied texts there are to choose from.
const mostCuts = 20

// largestWritten is up to which size, in bytes, a text can be written: each change copies it.
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
	case len(f.Text.Bytes()) > largestWritten:
		m.say("this file is too large to be written in here; P e hands it to your editor")
		return false
	case f.Text.Lossy():
		m.say("this file holds what is no %s, which writing would lose; P e hands it to your editor", f.Text.Encoding())
		return false
	case m.inLeaf():
		m.say("a leaf is only looked at; G goes there for good")
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
		p = &pen{editor: write.New(f.Text, m.code.Offset(), workspace.StyleOf(f)), path: f.Path, stamp: f.Stamp, base: f.Text, taken: f.Text, kept: f.Text}
		if f.Stamp == (text.Stamp{}) {
			p.stamp = m.ws.Stamp(f.Path)
		}
		m.desk.pens[f.Path] = p
	} else if !text.Same(p.editor.Document(), f.Text) {
		m.code.Retext(&workspace.File{Path: f.Path, Text: p.editor.Document()}, nil)
	}
	m.desk.on = f.Path
	if sel := m.code.Selection(); sel.Len() > 0 {
		p.editor.Select(int(sel.Start), int(sel.End))
		m.code.Unselect()
	} else if p.editor.Main().At != m.code.Offset() {
		p.editor.Put(m.code.Offset())
	}
	m.showCarets(p)
	return true
}

// stopWriting leads back to roam.
func (m *Model) stopWriting() {
	m.desk.on = ""
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
	m.code.Carets(all[main].At, others, parts)
}

// How long after a change everything else learns of it, and how long at the most what is
// written is nowhere but in memory.
const (
	learnAfter   = 60 * time.Millisecond
	recoverAfter = 400 * time.Millisecond
)

// largeText is from which size on, in bytes, the copies of a text that typing leaves behind
// are worth clearing away in a pause.
const largeText = 1 << 20

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
	p.asked = false
	m.desk.sure = false
	m.code.Retext(&workspace.File{Path: p.path, Text: doc}, p.editor.Edits())
	m.showCarets(p)
	number := p.edits
	cmds := []tea.Cmd{tea.Tick(learnAfter, func(time.Time) tea.Msg { return learnMsg{p, number} })}
	if p.kept == before || p.kept == p.base {
		cmds = append(cmds, tea.Tick(recoverAfter, func(time.Time) tea.Msg { return recoverMsg{p} }))
	}
	p.kept = nil
	return tea.Batch(cmds...)
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
}

func (m *Model) takeIn(p *pen) tea.Cmd {
	doc, ws, number, name := p.editor.Document(), m.ws, p.edits, p.path
	return func() tea.Msg {
		f := ws.Write(context.Background(), name, doc)
		f.Prepare()
		if len(doc.Bytes()) > largeText {
			runtime.GC() // each key has left a copy of the text behind: rather now than in the middle of a word
		}
		return writtenMsg{p, f, number}
	}
}

// written takes in what is known of a text now, and goes on with what waited for that.
func (m *Model) written(msg writtenMsg) tea.Cmd {
	p := msg.pen
	p.taken = msg.file.Text
	if msg.edits != p.edits {
		return nil // more was written meanwhile
	}
	var cmds []tea.Cmd
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
		cmds = append(cmds, m.arrived(m.do(then, "")))
	}
	return tea.Batch(cmds...)
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

// keepText keeps a text that is not saved beside, for after a crash.
func (m *Model) keepUnsaved(msg recoverMsg) tea.Cmd {
	p := msg.pen
	doc, store := p.editor.Document(), m.ws.Recovery()
	if p.kept == doc || store == nil {
		return nil
	}
	p.kept = doc
	if name := p.path; !p.editor.Changed() {
		return func() tea.Msg { return failed(store.Forget(name)) }
	}
	line, col := doc.Position(p.editor.Main().At)
	t := recovery.Text{Path: p.path, Stamp: p.stamp, At: time.Now(), Line: line, Col: col, Body: doc.Bytes()}
	return func() tea.Msg { return failed(store.Keep(t)) }
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

// savedMsg says what became of saving.
type savedMsg struct {
	pen   *pen
	doc   *text.Document
	state int
	stamp text.Stamp
	err   error
	// format is why the text was not put into its usual form; nil if it was.
	format error
}

// save saves the file on the screen.
func (m *Model) save() tea.Cmd {
	p := m.pen()
	switch {
	case p == nil || !p.editor.Changed() && !p.differ:
		m.say("%s is as it was saved", shortName(m.code.Path()))
		return nil
	case p.differ && !p.asked:
		return m.askDiffering(p)
	}
	return m.savePen(p)
}

// savePen saves what is written in a file, in its usual form: that of Go for Go, and what the
// user's own settings say for others.
func (m *Model) savePen(p *pen) tea.Cmd {
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
	return text.NewDocument(out), nil
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
		if m.code.Path() == p.path && m.before == nil && !m.inLeaf() {
			cmd = m.wrote(p, msg.doc)
		} else {
			p.edits++
			cmd = m.takeIn(p)
		}
	}
	ws, was, state, doc := m.ws, p.stamp, p.editor.State(), p.editor.Document()
	if p.asked { // it was said that what is on disk may go
		was = ws.Stamp(p.path)
	}
	failed, name := msg.err, p.path
	return tea.Batch(cmd, func() tea.Msg {
		stamp, err := ws.Save(context.Background(), name, doc, was)
		return savedMsg{pen: p, doc: doc, state: state, stamp: stamp, err: err, format: failed}
	})
}

// saved notes that a text is on disk.
func (m *Model) saved(msg savedMsg) tea.Cmd {
	p := msg.pen
	switch {
	case errors.Is(msg.err, text.ErrChanged):
		p.differ = true
		if m.code.Path() == p.path && m.overlay == noOverlay {
			return m.askDiffering(p)
		}
		m.say("%s has changed on disk since; it is not saved. Ctrl+S there lets you choose", p.path)
		return nil
	case errors.Is(msg.err, text.ErrReadOnly):
		m.say("%s is read-only and not saved; what you wrote is kept. Make it writable, or save under another path with Ctrl+E w", shortName(p.path))
		return nil
	case msg.err != nil:
		m.say("%s; what you wrote is still here and kept", msg.err)
		return nil
	}
	p.stamp, p.base, p.differ, p.asked = msg.stamp, msg.doc, false, false
	p.editor.Saved(msg.state)
	if msg.format != nil {
		m.say("%s is saved as it is, since its formatter failed: %s", shortName(p.path), msg.format)
	} else {
		m.say("%s is saved", shortName(p.path))
	}
	cmds := []tea.Cmd{m.keepState()}
	if store := m.ws.Recovery(); store != nil && !p.editor.Changed() {
		p.kept = p.editor.Document()
		name := p.path
		cmds = append(cmds, func() tea.Msg { return failed(store.Forget(name)) })
	}
	return tea.Batch(cmds...)
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

// differMsg says that files that are written have changed on disk.
type differMsg struct{ pens []*pen }

// checkPens looks whether files that are written have changed on disk.
func (m *Model) checkPens() tea.Cmd {
	var all []*pen
	for _, p := range m.desk.pens {
		if p.editor.Changed() && !p.differ {
			all = append(all, p)
		}
	}
	if len(all) == 0 {
		return nil
	}
	type known struct {
		path  string
		stamp text.Stamp
		base  *text.Document
	}
	was := map[*pen]known{}
	for _, p := range all {
		was[p] = known{p.path, p.stamp, p.base}
	}
	ws := m.ws
	return func() tea.Msg {
		var differ []*pen
		for p, k := range was {
			if ws.Stamp(k.path) == k.stamp {
				continue
			}
			if d, err := text.Load(ws.Absolute(k.path)); err == nil && text.Same(d, k.base) {
				continue // touched, and the same
			}
			differ = append(differ, p)
		}
		if len(differ) == 0 {
			return nil
		}
		return differMsg{differ}
	}
}

func (m *Model) differing(msg differMsg) tea.Cmd {
	for _, p := range msg.pens {
		if p.editor.Changed() && !p.differ {
			p.differ = true
			m.say("%s has changed on disk while you write in it; yours is kept, and Ctrl+S lets you choose", shortName(p.path))
		}
	}
	return nil
}

// comparison is two versions of a text that are compared: what is on disk, and what is written
// or was not saved.
type comparison struct {
	pen    *pen // of a file that has changed on disk
	base   *text.Document
	theirs *text.Document
	stamp  text.Stamp
	left   *recovery.Text // or of a text that was not saved
	file   *workspace.File
}

// compareMsg brings versions to be compared.
type compareMsg struct {
	comparison
	regions []write.Region
}

// askDiffering shows what is written beside what is on disk, to choose.
func (m *Model) askDiffering(p *pen) tea.Cmd {
	ws, mine, base := m.ws, p.editor.Document(), p.base
	stamp := ws.Stamp(p.path)
	m.going = true
	name := p.path
	return func() tea.Msg {
		theirs, err := text.Load(ws.Absolute(name))
		if err != nil {
			return compareMsg{}
		}
		return compareMsg{comparison{pen: p, base: base, theirs: theirs, stamp: stamp}, write.Regions(base, mine, theirs)}
	}
}

// compare shows versions side by side.
func (m *Model) compare(msg compareMsg) tea.Cmd {
	switch {
	case msg.base == nil:
		m.say("the file on disk cannot be read; Ctrl+S once more writes yours there")
		if p := m.pen(); p != nil {
			p.differ, p.asked = true, true
		}
		return m.arrived(nil)
	case len(msg.regions) == 0 && msg.pen != nil: // both have done the same
		p := msg.pen
		p.stamp, p.base, p.differ = msg.stamp, msg.theirs, false
		p.editor.Saved(p.editor.State())
		m.say("what is on disk is the same as what you wrote")
		return m.arrived(nil)
	}
	m.remember()
	m.comparing, m.overlay = msg.comparison, compareOverlay
	title, right := shortName(m.comparing.path())+" has changed on disk while you wrote in it", "yours"
	if msg.left != nil {
		title, right = shortName(msg.left.Path)+" was not saved when the program ended", "not saved"
	}
	m.compareSheet.Open(title, "on disk", right, msg.base, msg.regions, m.sheetHeight())
	m.arrange()
	return m.arrived(nil)
}

func (c *comparison) path() string {
	if c.pen != nil {
		return c.pen.path
	}
	return c.left.Path
}

// compareUpdate hands a key to the comparison and acts on what came of it.
func (m *Model) compareUpdate(msg tea.Msg) tea.Cmd {
	k, ok := msg.(tea.KeyPressMsg)
	if !ok {
		return nil
	}
	event := m.compareSheet.Key(k)
	if event == compare.Nothing {
		return nil
	}
	c, regions := m.comparing, m.compareSheet.Regions()
	cmd := m.restore()
	if event == compare.Closed {
		if c.left != nil {
			m.say("the text that was not saved stays for the next time")
		}
		return cmd
	}
	doc := write.Assemble(c.base, regions)
	if c.left != nil {
		left := *c.left
		left.Body = doc.Bytes()
		return tea.Batch(cmd, m.recovered(recoveredMsg{left, c.file, c.stamp}))
	}
	meet := 0
	for i := range regions {
		if regions[i].Take == write.Both {
			meet++
		}
	}
	return tea.Batch(cmd, m.merged(mergedMsg{pen: c.pen, doc: doc, theirs: c.theirs, stamp: c.stamp, meet: meet}))
}

// mergedMsg brings what is to stand in place of what is written.
type mergedMsg struct {
	pen         *pen
	doc, theirs *text.Document
	stamp       text.Stamp
	meet        int
}

func (m *Model) merged(msg mergedMsg) tea.Cmd {
	p := msg.pen
	before := p.editor.Document()
	p.editor.Replace(msg.doc)
	p.stamp, p.base, p.differ = msg.stamp, msg.theirs, false
	p.editor.Lost()
	switch {
	case text.Same(msg.doc, msg.theirs):
		p.editor.Saved(p.editor.State())
		m.say("this is what is on disk; Ctrl+Z brings back what you wrote")
	case msg.meet > 0:
		m.say("brought together, not saved yet; in %s both versions stand, between marks like <<<<<<<", sheet.Count(msg.meet, "place", "places"))
	default:
		m.say("that stands here now; Ctrl+S saves it")
	}
	if m.code.Path() != p.path || m.before != nil {
		p.edits++
		return m.takeIn(p)
	}
	return m.wrote(p, before)
}

// quitWriting says whether one may leave; with texts that are not saved it asks first.
func (m *Model) quitWriting() bool {
	all := m.unsaved()
	if len(all) == 0 || m.desk.sure {
		return true
	}
	m.desk.sure = true
	what := shortName(all[0].path) + " is"
	if len(all) > 1 {
		what = sheet.Count(len(all), "file", "files") + " are"
	}
	m.say("%s not saved: Ctrl+E s saves all; Ctrl+Q once more leaves, and the text is offered the next time", what)
	return false
}

// loadLeft finds texts that were not saved when a program ended.
func (m *Model) loadLeft() tea.Cmd {
	store := m.ws.Recovery()
	if store == nil {
		return nil
	}
	return func() tea.Msg {
		left, err := store.Left()
		return leftMsg{left, err}
	}
}

// leftMsg brings texts that were not saved.
type leftMsg struct {
	left []recovery.Text
	err  error
}

// leftChoice is a row of the choice among them; all forgets every one.
type leftChoice struct {
	text      recovery.Text
	all, sure bool
}

func (m *Model) leftFound(msg leftMsg) tea.Cmd {
	if msg.err != nil {
		m.say("%s", msg.err)
	}
	m.desk.left = msg.left
	return m.offerLeft()
}

// offerLeft offers texts that were not saved.
func (m *Model) offerLeft() tea.Cmd {
	if len(m.desk.left) == 0 || m.overlay != noOverlay || m.going {
		return nil
	}
	var rows []sheet.Row
	for _, t := range m.desk.left {
		rows = append(rows, sheet.Row{What: "not saved", Name: t.Path, Where: "as of " + t.At.Local().Format("2 Jan 15:04:05") + ", " + sheet.Count(len(t.Body), "byte", "bytes"), Value: leftChoice{text: t}})
	}
	rows = append(rows, sheet.Row{What: "forget", Name: "all of these", Where: "they are gone then", Value: leftChoice{all: true}})
	m.openChoice("text was not saved when the program ended; Enter compares it with the disk, Esc leaves it for the next time", rows)
	return nil
}

// takeLeft opens a text that was not saved, or forgets all of them.
func (m *Model) takeLeft(c leftChoice) tea.Cmd {
	cmd := m.restore()
	store, ws := m.ws.Recovery(), m.ws
	left := m.desk.left
	if c.all && !c.sure {
		m.openChoice("forget all texts that were not saved? They are gone then", []sheet.Row{
			{What: "keep", Name: "no, offer them the next time", Value: leftChoice{}},
			{What: "forget", Name: "yes, for good", Value: leftChoice{all: true, sure: true}},
		})
		return cmd
	}
	if c.text.Path == "" && !c.all {
		return cmd
	}
	if c.all {
		m.desk.left = nil
		return tea.Batch(cmd, func() tea.Msg {
			for _, t := range left {
				if err := store.Drop(t); err != nil {
					return noteMsg(err.Error())
				}
			}
			return noteMsg("they are forgotten")
		})
	}
	m.desk.left = slices.DeleteFunc(slices.Clone(left), func(t recovery.Text) bool { return t.Path == c.text.Path && t.At.Equal(c.text.At) })
	return tea.Batch(cmd, func() tea.Msg {
		f, err := ws.Load(context.Background(), c.text.Path)
		if err != nil {
			f = &workspace.File{Path: c.text.Path, Text: text.NewDocument(nil)}
		}
		left := c.text
		disk := f.Text
		return compareMsg{comparison{base: disk, theirs: disk, stamp: ws.Stamp(left.Path), left: &left, file: f}, write.Regions(disk, text.NewDocument(left.Body), disk)}
	})
}

// recoveredMsg brings a text that was not saved, with its file as that is on disk.
type recoveredMsg struct {
	text  recovery.Text
	file  *workspace.File
	stamp text.Stamp
}

func (m *Model) recovered(msg recoveredMsg) tea.Cmd {
	t := msg.text
	if m.desk.pens == nil {
		m.desk.pens = map[string]*pen{}
	}
	if old := m.desk.pens[t.Path]; old != nil && old.editor.Changed() {
		m.say("%s is being written in already; save that first", t.Path)
		return nil
	}
	p := &pen{editor: write.New(msg.file.Text, 0, workspace.StyleOf(msg.file)), path: t.Path, stamp: msg.stamp, base: msg.file.Text}
	p.differ = msg.stamp != t.Stamp
	p.editor.Replace(text.NewDocument(t.Body))
	p.edits = 1
	m.desk.pens[t.Path] = p
	m.ws.Hold(t.Path, p.editor.Document())
	store := m.ws.Recovery()
	doc := p.editor.Document()
	keep := func() tea.Msg { // under this program's name, before that of the other goes
		k := t
		k.At = time.Now()
		err := store.Keep(k)
		if err == nil {
			err = store.Drop(t)
		}
		return failed(err)
	}
	p.kept = doc
	words := "this is the text that was not saved; Ctrl+Z shows the file as it is on disk, Ctrl+S saves"
	if p.differ {
		words = "this is the text that was not saved; the file has changed on disk since, and Ctrl+S lets you choose"
	}
	return tea.Batch(keep, m.takeIn(p), m.open(opening{path: t.Path, line: max(t.Line, 1), col: max(t.Col, 1), how: "not saved", after: words}))
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
	p.stamp, p.base, p.taken, p.kept = f.Stamp, f.Text, f.Text, p.editor.Document()
	p.edits++
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
		stamp, err := ws.Save(context.Background(), to, doc, text.Stamp{})
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
		m.say("%s; what you wrote is still here and kept", msg.err)
		return nil
	}
	return m.open(opening{path: msg.to, line: msg.line, col: msg.col, how: "saved as", after: msg.to + " is written; " + shortName(msg.pen.path) + " is as it was"})
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
