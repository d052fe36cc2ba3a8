// Package desk is the texts one is writing: each of them saved or not, being saved, changed on disk
// by others meanwhile, kept beside for after a crash, or recovered after one. It is a machine of
// states without a screen: whatever takes time is Work, to be done beside, and what that gives is
// handed back to go on with.
package desk

import (
	"context"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/work"
)

// Disk is where texts are saved; see package workspace.
type Disk interface {
	// Save writes a text to its file, unless that is not as it is said to be (text.ErrChanged).
	Save(ctx context.Context, path string, doc *text.Document, how Saving) (text.Stamp, error)
	// Stamp tells by what it is known whether a file is still as it is on disk now.
	Stamp(path string) text.Stamp
	// TextOnDisk reads a file, whatever is written in it here.
	TextOnDisk(path string) (*text.Document, error)
}

// Saving says on what a text that is saved was built, and how it is written.
type Saving struct {
	// Was is what the file has to be like; the zero Stamp is for one that must not be there.
	Was text.Stamp
	// Base is what it may hold as well, as a file that was only touched does; nil for nothing.
	Base *text.Document
	// InPlace writes over the file itself, where its folder cannot be written in.
	InPlace bool
}

// Beside keeps texts that are not saved, for after a crash; see recovery.Store.
type Beside interface {
	Keep(t recovery.Text) error
	Forget(path string) error
	Drop(t recovery.Text) error
	Left() ([]recovery.Text, error)
}

// Work is done beside the screen. What it gives is to be called when it is done, and says what came
// of it.
type Work func(ctx context.Context) (then func() Result)

// Result is what came of something.
type Result struct {
	// Said is what there is to say, in its order.
	Said []Report
	// Work is what is to be done next.
	Work []Work
	// Rewritten are texts that the desk has changed by itself.
	Rewritten []Rewritten
	// Saved are those that are on disk now as they are here.
	Saved []Saved
	// Compare are versions to choose from; nil if there is nothing to choose.
	Compare *Comparison
	// Hold says that nothing is to be written until the work is done, since it is about the text as it
	// is now.
	Hold bool
	// Left says that leaving would lose nothing that is not saved.
	Left bool
	// Recovered is a text that was not saved when a program ended and is written now; nil if none is.
	Recovered *Text
}

// Rewritten is a text that was changed by the desk, with what it was before.
type Rewritten struct {
	Text   *Text
	Before *text.Document
}

// Saved is a text that is on disk, as it is there.
type Saved struct {
	Text *Text
	Doc  *text.Document
}

func said(r Report) Result { return Result{Said: []Report{r}} }

// and is what came of one thing and then another.
func (r Result) and(s Result) Result {
	r.Said, r.Work = append(r.Said, s.Said...), append(r.Work, s.Work...)
	r.Rewritten, r.Saved = append(r.Rewritten, s.Rewritten...), append(r.Saved, s.Saved...)
	if s.Compare != nil {
		r.Compare = s.Compare
	}
	return r
}

// Desk is the texts that are written.
type Desk struct {
	disk   Disk
	beside func() Beside // gives nil if nothing is kept
	format Formatter
	style  func(path string, doc *text.Document) write.Style
	texts  map[string]*Text
	sure   bool // leaving with texts that are not saved was asked for once
}

// New makes an empty desk. beside gives nil while nothing can be kept beside, and format nil if texts are
// saved as they are. style says how a file is written: its comments and its indentation.
func New(disk Disk, beside func() Beside, format Formatter, style func(path string, doc *text.Document) write.Style) *Desk {
	return &Desk{disk: disk, beside: beside, format: format, style: style, texts: map[string]*Text{}}
}

// Text is that of a file; nil if it was not written.
func (d *Desk) Text(path string) *Text { return d.texts[path] }

// All are all texts, in the order of their paths.
func (d *Desk) All() (all []*Text) {
	for _, t := range d.texts {
		all = append(all, t)
	}
	slices.SortFunc(all, func(a, b *Text) int { return strings.Compare(a.Path, b.Path) })
	return all
}

// Unsaved are those that are not saved, in the same order.
func (d *Desk) Unsaved() []*Text {
	return slices.DeleteFunc(d.All(), func(t *Text) bool { return !t.Editor.Changed() })
}

// Kept says whether all that is not saved is kept beside.
func (d *Desk) Kept() bool {
	return !slices.ContainsFunc(d.Unsaved(), func(t *Text) bool { return t.unkept != nil })
}

// Begin begins to write in a file that reads so, with the caret at an offset; stamp is that of the
// file.
func (d *Desk) Begin(path string, doc *text.Document, at int, stamp text.Stamp) *Text {
	t := &Text{Editor: write.New(doc, at, d.style(path, doc)), Path: path, grounds: map[int]*ground{0: {stamp: stamp, base: doc}}, kept: doc}
	d.texts[path] = t
	return t
}

// Text is a text that is written.
type Text struct {
	Editor *write.Editor
	Path   string

	grounds map[int]*ground // by the state of the text from which on it is built on that
	kept    *text.Document  // what lies beside for after a crash
	unkept  error           // why it could not be kept beside; nil if it was
	keeping bool            // what is written is about to be kept
	mayGo   *text.Stamp     // it was agreed that what is on disk may go, if it is still that; nil for not
	widen   bool            // it was said that it is to be saved as UTF-8
	over    consent         // to write over the file itself
	saving  bool            // it is being saved
	again   bool            // and is to be saved once more after that
	batch   *batch          // those with which it is being saved
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

func (t *Text) ground() *ground {
	return t.grounds[t.Editor.Latest(func(state int) bool { return t.grounds[state] != nil })]
}

// rest notes that the text as it is now is built on a file as that is on disk.
func (t *Text) rest(stamp text.Stamp, base *text.Document) {
	t.grounds[t.Editor.State()] = &ground{stamp: stamp, base: base}
}

// State is how a text stands.
type State uint8

// The states.
const (
	// AsSaved is on disk as it is here.
	AsSaved State = iota
	// Unsaved differs from what is on disk.
	Unsaved
	// BeingSaved is on its way to the disk.
	BeingSaved
	// Differing is not saved, and its file was changed or removed by others since.
	Differing
)

// State is how the text stands.
func (t *Text) State() State {
	switch {
	case t.saving:
		return BeingSaved
	case t.ground().differ:
		return Differing
	case t.Editor.Changed():
		return Unsaved
	}
	return AsSaved
}

// IsKept says whether the text as it is now lies beside, for after a crash, or is about to.
func (t *Text) IsKept() bool { return t.kept == t.Editor.Document() }

// Stamp is that of the file on which the text is built.
func (t *Text) Stamp() text.Stamp { return t.ground().stamp }

// Base is what the file held on which the text is built.
func (t *Text) Base() *text.Document { return t.ground().base }

// Wrote notes that the text was changed by whoever writes. It says whether Keep is to be called soon,
// in a moment in which more may be written.
func (d *Desk) Wrote(t *Text) (keepSoon bool) {
	t.mayGo, t.widen = nil, false
	if t.over == askedFor {
		t.over = notAsked
	}
	d.sure = false
	return t.keepSoon()
}

func (t *Text) keepSoon() bool {
	if t.keeping {
		return false
	}
	t.keeping = true
	return true
}

// Resume goes on with what was done to a text before the program began, of which it was left as it
// is now.
func (t *Text) Resume(doc *text.Document, done *write.History) {
	if text.Same(doc, t.Editor.Document()) && t.Editor.Resume(done) {
		t.grounds[t.Editor.State()] = t.grounds[0]
	}
}

// Renewed takes the text of a file that others have changed into what one can undo; the file counts as
// saved.
func (d *Desk) Renewed(t *Text, doc *text.Document, stamp text.Stamp) {
	t.Editor.Replace(doc)
	t.Editor.Saved(t.Editor.State())
	t.rest(stamp, doc)
	t.kept = t.Editor.Document()
}

// Moved has texts follow their files to other paths; it gives those that went, by their former paths.
func (d *Desk) Moved(from, to string) (went map[string]*Text, r Result) {
	went = map[string]*Text{}
	for was, t := range d.texts {
		now := place.Renamed(was, from, to)
		if now == was {
			continue
		}
		delete(d.texts, was)
		d.texts[now] = t
		t.Path = now
		went[was] = t
		if d.beside() != nil && t.Editor.Changed() {
			t.kept = nil
			r = r.and(d.Keep(t)).and(Result{Work: []Work{d.forget(was)}})
		}
	}
	return went, r
}

// Keep keeps a text that is not saved beside, for after a crash.
func (d *Desk) Keep(t *Text) Result {
	t.keeping = false
	doc := t.Editor.Document()
	if t.kept == doc || d.beside() == nil {
		return Result{}
	}
	t.kept = doc
	if !t.Editor.Changed() {
		t.unkept = nil
		return Result{Work: []Work{d.forget(t.Path)}}
	}
	keep := t.ToKeep()
	return Result{Work: []Work{func(context.Context) func() Result {
		err := d.beside().Keep(keep())
		return func() Result { return d.keptBeside(t, err) }
	}}}
}

func (d *Desk) forget(path string) Work {
	return func(context.Context) func() Result {
		err := d.beside().Forget(path)
		return func() Result { return failed(err) }
	}
}

func failed(err error) Result {
	if err == nil {
		return Result{}
	}
	return said(Report{What: Failed, Err: err})
}

// retryAfter is after how long it is tried again to keep a text beside.
const retryAfter = 3 * time.Second

// keptBeside says that a text could not be kept beside, and tries again until it can.
func (d *Desk) keptBeside(t *Text, err error) (r Result) {
	was := t.unkept
	t.unkept = err
	switch {
	case err == nil && was != nil:
		return said(Report{Text: t, What: KeptAgain})
	case err == nil:
		return Result{}
	case was == nil:
		r = said(Report{Text: t, What: NotKept, Err: err})
	}
	t.kept = nil
	if t.keepSoon() {
		r.Work = append(r.Work, func(ctx context.Context) func() Result {
			work.Pause(ctx, retryAfter)
			return func() Result { return d.Keep(t) }
		})
	}
	return r
}

// ToKeep gives what is kept of a text that is not saved. What it gives may be asked for beside
// the screen.
func (t *Text) ToKeep() func() recovery.Text {
	doc, on, now, path := t.Editor.Document(), *t.ground(), time.Now(), t.Path
	line, col := doc.Position(t.Editor.Main().At)
	return func() recovery.Text {
		base := on.base.Bytes()
		if base == nil {
			base = []byte{} // nil is for what is not known
		}
		return recovery.Text{Path: path, Stamp: on.stamp, At: now, Line: line, Col: col, Body: doc.Bytes(), Base: base}
	}
}
