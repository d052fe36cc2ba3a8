// Package writing is the write stance: letters are typed into the file on the screen. It shows how the
// texts on the desk stand, and has everything else learn of what is written.
package writing

import (
	"context"
	"path"
	"slices"
	"sync/atomic"
	"time"

	tea "charm.land/bubbletea/v2"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/disk/settings"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace"
	"rooktrail/internal/ui/askline"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/compare"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
)

// Project is what the texts are of; see package workspace.
type Project interface {
	desk.Disk
	Write(ctx context.Context, path string, doc *text.Document) *codebase.File
	Hold(path string, doc *text.Document)
	Settle(ctx context.Context, path string, doc *text.Document)
	Moved(from, to string)
	KeepHistory(path string, doc *text.Document, h *write.History) error
	KeepCopies(all []string) error
	Copies() []string
	All(ctx context.Context, q answer.Question) (resolve.Result, []answer.Answer)
	Shorthands(ctx context.Context, path string, doc *text.Document) map[int]bool
	Complete(ctx context.Context, path string, doc *text.Document, offset int, word string) []string
	IsFolder(path string) bool
	Absolute(path string) string
	Relative(path string) string
	Root() string
	Languages() *lang.Set
}

// Host is the program around what is written.
type Host interface {
	surface.Host
	// Code is what shows the file in which the caret is.
	Code() *code.Model
	// Covered says whether anything lies over the code, or something else is only looked at.
	Covered() bool
	// Began says whether anything is on the screen, and Pressed whether a key was pressed yet.
	Began() bool
	Pressed() bool
	// Found gives what finds the places once more of what was looked for in the file; ok is false if
	// nothing was.
	Found() (find func(ctx context.Context, data []byte) ([]place.Range, error), ok bool)
	// Placed notes that from here on the places kept in a file move with what is written in it.
	Placed(path string, doc *text.Document)
	// Edited makes an edit place of where text was changed.
	Edited(f *codebase.File, at place.Place)
	// Locate finds the places kept in a file again, in its present text.
	Locate(f *codebase.File) tea.Cmd
}

// pen is a text that is written, with how much everything else knows of it.
type pen struct {
	*desk.Text
	taken  *text.Document // what all answers are about
	edits  int            // counts the changes
	epoch  int            // counts how often others have changed the file
	taking bool           // everything else is learning of it
	due    bool           // and is to learn of what was written since, too
	took   time.Duration  // how long that took the last time
	fields *write.Fields  // places that are still to be filled in; nil for none
}

// Model is what is written.
type Model struct {
	// Whole says whether a file reads as a change over several files has left it, which is undone in all of them.
	Whole func(path string, doc *text.Document) bool

	host    Host
	project Project
	frame   *frame.Frame
	keys    keymap.Map
	own     *keymap.Owned                     // keys of the user's own
	set     atomic.Pointer[settings.Settings] // asked for beside the screen, too
	desk    *desk.Desk
	asker   *surface.Asker

	pens     map[*desk.Text]*pen
	on       string // the file in which letters are typed; "" for none
	shown    shownCaret
	prefix   string            // the first key of two
	next     keymap.Action     // what to do as soon as all answers are about what was written last
	holding  int               // how much work is under way that is about the text as it is
	refused  bool              // one wanted to write where that cannot be, and has pressed no other key since
	unlocked map[string]bool   // the files that are not the project's own and may be written in all the same
	before   map[string]before // what was done to texts before the program began
	copies   copies            // what was cut or copied
	snippets snippets          // texts of the user's own
	left     left              // texts that were not saved when a program ended
	names    completing        // the names that are offered while one writes
	compare  *compare.Surface
	lists    choice.Surface
	asks     askline.Surface
}

// Settings are what the user has set, to be asked for beside the screen, too; nil before that is known.
func (m *Model) Settings() *settings.Settings { return m.set.Load() }

// New makes one in which nothing is written; beside gives nil while nothing can be kept for after a crash.
func New(host Host, project Project, f *frame.Frame, keys keymap.Map, own *keymap.Owned, beside func() desk.Beside) *Model {
	m := &Model{host: host, project: project, frame: f, keys: keys, own: own, compare: compare.NewSurface(), pens: map[*desk.Text]*pen{}, unlocked: map[string]bool{}, before: map[string]before{}}
	m.desk = desk.New(project, beside, desk.Usual(m.set.Load, project.Root()), func(p string, doc *text.Document) write.Style {
		return workspace.StyleOf(project.Languages(), p, doc)
	})
	m.set.Store(&settings.Settings{})
	m.asker = host.Asker(nil)
	m.names.asker = host.Asker(nil)
	return m
}

// Set takes what the user has set.
func (m *Model) Set(s settings.Settings) { m.set.Store(&s) }

// Desk is the texts that are written.
func (m *Model) Desk() *desk.Desk { return m.desk }

// Load reads what was left from before: texts that were not saved, and what was copied.
func (m *Model) Load() tea.Cmd { return tea.Batch(m.loadLeft(), m.loadCopies()) }

// largestWritten is up to which size, in bytes, a text can be written: all of it is read anew in
// each pause.
const largestWritten = 64 << 20

// Writing says whether letters are typed.
func (m *Model) Writing() bool {
	return m.on != "" && m.on == m.host.Code().Path() && !m.host.Covered() && !m.frame.InLeaf() && m.pen() != nil
}

// On is the file in which letters are typed; "" for none.
func (m *Model) On() string { return m.on }

// pen is that of the file on the screen; nil if it was not written.
func (m *Model) pen() *pen { return m.penOf(m.host.Code().Path()) }

func (m *Model) penOf(path string) *pen {
	t := m.desk.Text(path)
	if t == nil {
		return nil
	}
	p := m.pens[t]
	if p == nil {
		p = &pen{Text: t, taken: t.Editor.Document()}
		m.pens[t] = p
	}
	return p
}

// Unsaved are the files with text that is not saved.
func (m *Model) Unsaved() map[string]bool {
	paths := map[string]bool{}
	for _, t := range m.desk.Unsaved() {
		paths[t.Path] = true
	}
	return paths
}

// Epoch counts how often a text that is written was changed by others; pen is the same as long as it is
// the same text, and nil if the file is not written.
func (m *Model) Epoch(path string) (pen any, epoch int) {
	p := m.penOf(path)
	if p == nil {
		return nil, 0
	}
	return p, p.epoch
}

// start lets one type in the file on the screen; why says why that cannot be.
func (m *Model) start() (why string) {
	c := m.host.Code()
	f := c.File()
	switch {
	case f == nil || f.Text.Binary():
		return "there is no text here to write in"
	case !f.Text.Whole():
		return "the rest of this file is still being read; then it can be written in"
	case f.Text.Len() > largestWritten:
		return keymap.Marked("this file is too large to be written in here; {edit} hands it to your editor")
	case f.Text.Lossy():
		return "this file holds what is no " + f.Text.Encoding().String() + keymap.Marked(", which writing would lose; {edit} hands it to your editor")
	case m.frame.InLeaf():
		return keymap.Marked("a leaf is only looked at; {leaf-go} goes there for good")
	case f.Foreign && m.desk.Text(f.Path) == nil && !m.unlocked[f.Path]:
		return path.Base(f.Path) + keymap.Marked(" is not of this project and locked; {unlock} unlocks it")
	}
	if c.Solo().Len() > 0 {
		c.Alone(place.Range{})
	}
	if m.desk.Text(f.Path) == nil {
		stamp := f.Stamp
		if stamp == (text.Stamp{}) {
			stamp = m.project.Stamp(f.Path)
		}
		m.resumeDone(m.desk.Begin(f.Path, f.Text, c.Offset(), stamp))
		m.host.Placed(f.Path, f.Text)
	}
	p := m.penOf(f.Path)
	if !text.Same(p.Editor.Document(), f.Text) {
		c.Retext(&codebase.File{Path: f.Path, Text: p.Editor.Document()}, nil)
	}
	m.on = f.Path
	if sel := c.Selection(); sel.Len() > 0 {
		p.Editor.Select(int(sel.Start), int(sel.End))
	} else if p.Editor.Main().At != c.Offset() {
		p.Editor.Put(c.Offset())
	}
	m.showCarets(p)
	return ""
}

// stop leads back to roam.
func (m *Model) stop() {
	m.on, m.shown, m.prefix = "", shownCaret{}, ""
	m.host.Code().NoCarets()
}

// showCarets shows the carets and selections of a pen.
func (m *Model) showCarets(p *pen) {
	c := m.host.Code()
	all, main := p.Editor.Carets()
	var others []int
	var parts []place.Range
	for i, caret := range all {
		start, end := caret.Selected()
		if start != end {
			parts = append(parts, place.Range{Start: uint32(start), End: uint32(end)})
		}
		if i != main {
			others = append(others, caret.At)
		}
	}
	slices.Sort(others)
	if c.Selection().Len() > 0 && c.Selection() != selectionOf(p) {
		c.Unselect()
	}
	c.Carets(all[main].At, others, parts)
	m.shown = shownCaret{m.frame.Side, c.Offset()}
}

// How long after a change everything else learns of it, and how long at the most what is
// written is nowhere but in memory.
const (
	learnAfter = 60 * time.Millisecond
	keepAfter  = 400 * time.Millisecond
)

// longestTook bounds how much later everything else learns of changes to a text of which it
// takes long to learn, so that this is not begun anew at every key.
const longestTook = time.Second

// wrote shows what was changed, and has everything else learn of it.
func (m *Model) wrote(p *pen, before *text.Document) surface.Intent {
	doc := p.Editor.Document()
	if doc == before {
		m.showCarets(p)
		return surface.Intent{Caret: true}
	}
	keep := m.desk.Wrote(p.Text)
	p.edits++
	p.fields.Moved(p.Editor.Edits())
	m.host.Code().Retext(&codebase.File{Path: p.Path, Text: doc}, p.Editor.Edits())
	m.showCarets(p)
	number := p.edits
	learn := surface.Later(m.asker, learnAfter+min(p.took, longestTook), func() surface.Intent {
		if number != p.edits {
			return surface.Intent{}
		}
		return surface.Begin(m.takeIn(p))
	})
	return surface.Begin(tea.Batch(learn, m.keepSoon(p.Text, keep)))
}

// rewrote has everything learn of a change to a text that is perhaps not on the screen, and that the
// desk has made.
func (m *Model) rewrote(p *pen, before *text.Document) surface.Intent {
	if m.isShown(p) {
		return m.wrote(p, before)
	}
	p.edits++
	return surface.Begin(tea.Batch(m.takeIn(p), m.keepSoon(p.Text, m.desk.Wrote(p.Text))))
}

// isShown says whether a text is on the screen, to be read or written.
func (m *Model) isShown(p *pen) bool {
	return m.host.Code().Path() == p.Path && !m.host.Here().Aside && !m.frame.InLeaf()
}

// keepSoon keeps what is written beside, for after a crash, if that is not about to be done.
func (m *Model) keepSoon(t *desk.Text, soon bool) tea.Cmd {
	if !soon {
		return nil
	}
	return surface.Later(m.asker, keepAfter, func() surface.Intent { return m.show(m.desk.Keep(t)) })
}

// takeIn has everything else learn of what is written, one text after the other, so that none comes
// in place of a later one.
func (m *Model) takeIn(p *pen) tea.Cmd {
	if p.taking {
		p.due = true
		return nil
	}
	p.taking = true
	type written struct {
		file *codebase.File
		took time.Duration
	}
	doc, project, number, name := p.Editor.Document(), m.project, p.edits, p.Path
	return surface.Do(m.asker, func(ctx context.Context) written {
		begun := time.Now()
		f := project.Write(ctx, name, doc)
		f.Prepare()
		return written{f, time.Since(begun)}
	}, func(w written) surface.Intent {
		p.took = w.took
		return m.written(p, w.file, number)
	})
}

// written takes in what is known of a text now, and goes on with what waited for that.
func (m *Model) written(p *pen, f *codebase.File, edits int) (todo surface.Intent) {
	p.taking = false
	if !p.Editor.Changed() {
		todo = surface.Begin(m.settle(p.Path, f.Text))
	}
	if p.due {
		p.due = false
		todo = todo.And(surface.Begin(m.takeIn(p)))
	}
	if edits != p.edits {
		return todo // more was written meanwhile
	}
	p.taken = f.Text
	if m.isShown(p) {
		c := m.host.Code()
		c.Written(f, c.State(), true)
		if m.on == p.Path {
			m.showCarets(p)
		}
		line, col := f.Text.Position(p.Editor.Main().At)
		locate := m.host.Locate(f) // before a stop is made that is where it is in this text already
		m.host.Edited(f, place.Place{Path: p.Path, Line: min(line, f.Text.Lines()), Col: col})
		todo = todo.And(surface.Intent{Caret: true, Marked: true, Cmd: locate})
	}
	for _, s := range m.frame.Sides() { // the same file may be seen elsewhere, too
		if s != m.frame.Side && s.Code.Path() == p.Path {
			s.Code.Written(f, s.Code.State(), false)
			todo = todo.And(surface.Begin(s.Repaint()))
		}
	}
	if then := m.next; then != "" {
		m.next = ""
		todo = todo.And(surface.Intent{Do: then})
	}
	return todo
}

// settle has a file count again as it is on disk, now that what was written is there.
func (m *Model) settle(name string, doc *text.Document) tea.Cmd {
	project := m.project
	return surface.Do(m.asker, func(ctx context.Context) struct{} {
		project.Settle(ctx, name, doc)
		return struct{}{}
	}, nil)
}

// Hold makes sure that whoever asks for the file on the screen sees what was written last.
func (m *Model) Hold() {
	if p := m.pen(); p != nil && p.taken != p.Editor.Document() {
		m.project.Hold(p.Path, p.Editor.Document())
	}
}

// Waits says whether keys are to be kept: an action waits until all answers are about what was written
// last, or versions of a text are on their way.
func (m *Model) Waits() bool { return m.next != "" || m.holding > 0 }

// GiveUp says that the action is not wanted any more.
func (m *Model) GiveUp() { m.next = "" }

// Version tells of the text of a file whether it was written or saved since; see Reloaded.
type Version struct {
	pen   *pen
	edits int
	stamp text.Stamp
}

// Version is that of a file as it is now.
func (m *Model) Version(path string) (v Version) {
	if v.pen = m.penOf(path); v.pen != nil {
		v.edits, v.stamp = v.pen.edits, v.pen.Stamp()
	}
	return v
}

// Changed says whether what is written in a file is not saved: then it stays, whatever is on disk.
func (m *Model) Changed(path string) bool {
	t := m.desk.Text(path)
	return t != nil && t.Editor.Changed()
}

// Renewed takes the text of a file that was changed by others into what one can undo, if one
// has written in it and saved that.
func (m *Model) Renewed(f *codebase.File) {
	p := m.penOf(f.Path)
	if p == nil {
		return
	}
	m.desk.Renewed(p.Text, f.Text, f.Stamp)
	p.taken = p.Editor.Document()
	p.edits++
	p.epoch++
}

// Reshown shows the carets again in the file on the screen, if it is written.
func (m *Model) Reshown() {
	if p := m.pen(); p != nil && m.on == p.Path && m.host.Code().File() != nil && text.Same(m.host.Code().File().Text, p.Editor.Document()) {
		m.showCarets(p)
	}
}

// Moved has texts that are written follow their files to other paths.
func (m *Model) Moved(from, to string) surface.Intent {
	went, r := m.desk.Moved(from, to)
	for was, t := range went {
		if m.on == was {
			m.on = t.Path
		}
		m.project.Moved(was, t.Path)
	}
	return m.show(r)
}

// Check looks whether files that are written have changed on disk.
func (m *Model) Check() tea.Cmd { return m.work(m.desk.Check()) }

// Known says whether all answers are about what was written last in the file on the screen.
func (m *Model) Known() bool {
	p := m.pen()
	return p == nil || p.taken == p.Editor.Document()
}
