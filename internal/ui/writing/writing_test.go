package writing

import (
	"context"
	"errors"
	"io/fs"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/desk"
	"rooktrail/internal/core/change/recovery"
	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/lang/catalog"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/keep/trail"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/code"
	"rooktrail/internal/ui/frame"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/surface"
	"rooktrail/internal/ui/uitest"
)

// project is one file on a disk in memory, and all that it is asked for besides.
type project struct {
	Project
	content string
	clock   int64
	fails   error
	names   []string
	copies  []string
	learned []string // the texts that everything else was told of
}

func (*project) Languages() *lang.Set { return catalog.Set() }

func (p *project) Stamp(string) text.Stamp {
	return text.Stamp{Size: int64(len(p.content)), Modified: p.clock}
}

func (p *project) TextOnDisk(string) (*text.Document, error) {
	return text.NewDocument([]byte(p.content)), nil
}

func (p *project) Save(_ context.Context, path string, doc *text.Document, how desk.Saving) (text.Stamp, error) {
	if p.fails != nil {
		return how.Was, p.fails
	}
	if p.Stamp(path) != how.Was {
		return how.Was, text.ErrChanged
	}
	p.others(string(doc.Bytes()))
	return p.Stamp(path), nil
}

// others is that somebody writes the file.
func (p *project) others(content string) {
	p.content = content
	p.clock++
}

func (p *project) Write(_ context.Context, path string, doc *text.Document) *codebase.File {
	p.learned = append(p.learned, string(doc.Bytes()))
	return &codebase.File{Path: path, Text: doc}
}

func (p *project) Complete(context.Context, string, *text.Document, int, string) []string {
	return p.names
}
func (p *project) Hold(string, *text.Document)                                     {}
func (p *project) Settle(context.Context, string, *text.Document)                  {}
func (p *project) KeepHistory(string, *text.Document, *write.History) error        { return nil }
func (p *project) KeepCopies(all []string) error                                   { p.copies = all; return nil }
func (p *project) Copies() []string                                                { return p.copies }
func (p *project) Shorthands(context.Context, string, *text.Document) map[int]bool { return nil }
func (p *project) Root() string                                                    { return "/valley" }
func (p *project) Absolute(path string) string                                     { return "/valley/" + path }

// beside keeps texts in memory, for after a crash.
type beside map[string]recovery.Text

func (b beside) Keep(t recovery.Text) error     { b[t.Path] = t; return nil }
func (b beside) Forget(path string) error       { delete(b, path); return nil }
func (b beside) Drop(recovery.Text) error       { return nil }
func (b beside) Left() ([]recovery.Text, error) { return nil, nil }

// program is a program that shows one file.
type program struct {
	*uitest.Host
	frame *frame.Frame
}

func (a program) Code() *code.Model { return &a.frame.Code }
func (a program) Covered() bool     { return false }
func (a program) Began() bool       { return true }
func (a program) Pressed() bool     { return true }
func (a program) Found() (func(context.Context, []byte) ([]place.Range, error), bool) {
	return nil, false
}
func (a program) Placed(string, *text.Document)      {}
func (a program) Edited(*codebase.File, place.Place) {}
func (a program) Locate(*codebase.File) tea.Cmd      { return nil }

// writer is somebody who writes in a file.
type writer struct {
	*Model
	disk *project
	kept beside
}

const file = "hut.txt"

// began is a writer who has begun to write.
func began(content string) *writer {
	w := shown(content, false)
	w.do(keymap.Write)
	return w
}

// shown is one who only reads so far, in a file that is perhaps not the project's own.
func shown(content string, foreign bool) *writer {
	disk, kept := &project{content: content, clock: 1}, beside{}
	f := frame.New(func() *surface.Asker { return surface.NewAsker(context.Background(), nil) })
	f.Wish = frame.Plan{Width: 80, Height: 24}
	f.Arrange(f.Plan(false, false, 0))
	host := program{&uitest.Host{}, f}
	f.Code.Show(&codebase.File{Path: file, Text: text.NewDocument([]byte(content)), Stamp: disk.Stamp(file), Foreign: foreign}, trail.View{Place: place.Place{Path: file, Line: 1, Col: 1}, Top: 1})
	host.At.View.Place.Path = file
	w := &writer{New(host, disk, f, keymap.Default(), &keymap.Owned{}, func() desk.Beside { return kept }), disk, kept}
	uitest.Carry(surface.Begin(w.Load()))
	return w
}

func (w *writer) do(a keymap.Action) surface.Intent {
	return uitest.Last(uitest.Carry(w.Commands()[a]()))
}

// types presses keys and has all come of it that comes in time.
func (w *writer) types(names ...string) (last surface.Intent) {
	for _, name := range names {
		if letter, ok := strings.CutPrefix(name, "ctrl+"); ok {
			last = last.And(uitest.Last(uitest.Carry(w.Key(tea.KeyPressMsg{Code: rune(letter[0]), Mod: tea.ModCtrl}))))
			continue
		}
		for _, k := range uitest.Keys(name) {
			last = last.And(uitest.Last(uitest.Carry(w.Key(k))))
		}
	}
	return last
}

func (w *writer) text() string { return string(w.Desk().Text(file).Editor.Document().Bytes()) }

func TestWhatIsTypedIsKeptLearnedAndSaved(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	require.True(t, w.Writing())
	w.types("a ")
	assert.Equal(t, "a ring\n", w.text())
	assert.True(t, w.Unsaved()[file])
	assert.Equal(t, "a ring\n", w.disk.learned[len(w.disk.learned)-1])
	assert.NotEmpty(t, w.kept, "for after a crash")
	assert.Equal(t, "ring\n", w.disk.content)
	assert.Equal(t, "hut.txt is saved", w.types("ctrl+s").Say)
	assert.Equal(t, "a ring\n", w.disk.content)
	assert.Empty(t, w.Unsaved())
	assert.Empty(t, w.kept)
	assert.Equal(t, "hut.txt is as it was saved", w.types("ctrl+s").Say)
}

func TestWhatCannotBeSavedStaysUnsaved(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("x")
	w.disk.fails = &fs.PathError{Op: "write", Path: file, Err: errors.New("no space left on device")}
	assert.Contains(t, w.types("ctrl+s").Say, "no space left on device")
	assert.True(t, w.Unsaved()[file])
	w.disk.fails = nil
	assert.Equal(t, "hut.txt is saved", w.types("ctrl+s").Say)
	assert.Equal(t, "xring\n", w.disk.content)
}

// What somebody else has written is compared, not written over, and what one chooses is the text then.
func TestWhatOthersHaveWrittenIsCompared(t *testing.T) {
	t.Parallel()
	w := began("one\ntwo\nthree\n")
	w.types("my ")
	w.disk.others("one\ntwo\ntheir three\n")
	todo := w.types("ctrl+s")
	require.NotNil(t, todo.Open)
	assert.Equal(t, "one\ntwo\ntheir three\n", w.disk.content)
	uitest.Of(todo.Open, 80, 20)
	uitest.Press(todo.Open, "enter")
	assert.Equal(t, "my one\ntwo\ntheir three\n", w.text())
	assert.True(t, w.Unsaved()[file])
}

func TestANameIsCompleted(t *testing.T) {
	t.Parallel()
	w := began("\nringing\n")
	w.disk.names = []string{"ringing", "ringer"}
	w.types("rin")
	require.True(t, w.Offering())
	assert.Contains(t, uitest.Text([]string{w.NameRow(80, uitest.Plain)}), "ringing")
	w.types("tab")
	assert.Equal(t, "ringing\nringing\n", w.text())
	w.disk.names = nil
	w.types(" q")
	assert.False(t, w.Offering())
}

func TestUndoingAndTheClipboard(t *testing.T) {
	t.Parallel()
	w := began("one\ntwo\n")
	w.types("x", "ctrl+z")
	assert.Equal(t, "one\ntwo\n", w.text())
	assert.Empty(t, w.Unsaved(), "it is as it was saved")
	w.types("ctrl+y")
	assert.Equal(t, "xone\ntwo\n", w.text())
	todo := w.types("ctrl+x")
	assert.Equal(t, "xone\n", todo.Copy.Text)
	assert.Equal(t, "two\n", w.text())
	assert.Equal(t, []string{"xone\n"}, w.disk.copies)
	w.types("ctrl+v")
	assert.Equal(t, "xone\ntwo\n", w.text())
}

func TestLeavingWithWhatIsNotSaved(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	assert.True(t, w.Leave().Quit, "nothing would be lost")
	w.types("x")
	todo := uitest.Last(uitest.Carry(w.Leave()))
	assert.False(t, todo.Quit)
	assert.Equal(t, "hut.txt is not saved. Ctrl+Q again leaves; it is offered next time", todo.Say)
	assert.True(t, uitest.Last(uitest.Carry(w.Leave())).Quit)
	assert.Equal(t, "xring\n", string(w.kept[file].Body))
}

func TestEscLeadsBackToRoam(t *testing.T) {
	t.Parallel()
	w := began("ring\n")
	w.types("esc")
	assert.False(t, w.Writing())
	assert.Equal(t, "", w.On())
	assert.Equal(t, "ring\n", w.text())
}
