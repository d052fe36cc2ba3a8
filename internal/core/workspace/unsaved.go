package workspace

import (
	"context"
	"os"
	"sync"

	"rooktrail/internal/core/door"
	"rooktrail/internal/core/index"
	"rooktrail/internal/core/project"
	"rooktrail/internal/core/text"
)

// unsaved are the texts that are written and not saved, by their paths: whoever asks for a
// file is given these.
type unsaved struct {
	mu    sync.RWMutex
	files map[string]*File
}

func (u *unsaved) get(p string) *File {
	u.mu.RLock()
	defer u.mu.RUnlock()
	return u.files[p]
}

func (u *unsaved) put(p string, f *File) {
	u.mu.Lock()
	defer u.mu.Unlock()
	if u.files == nil {
		u.files = map[string]*File{}
	}
	if f == nil {
		delete(u.files, p)
	} else {
		u.files[p] = f
	}
}

// drop forgets a text unless it is another one by now.
func (u *unsaved) drop(p string, doc *text.Document) bool {
	u.mu.Lock()
	defer u.mu.Unlock()
	f := u.files[p]
	if f == nil || !text.Same(f.Text, doc) {
		return false
	}
	delete(u.files, p)
	return true
}

// Unsaved is the text of a file that is written and not saved; nil if there is none.
func (w *Workspace) Unsaved(p string) *File { return w.unsaved.get(p) }

// Write takes in the text of a file that is not saved: from now on all answers are about
// that. It returns the file with its facts.
func (w *Workspace) Write(ctx context.Context, p string, doc *text.Document) *File {
	f := &File{Path: p, Text: doc}
	if doc.Len() <= largestParsed {
		f.Facts, _ = w.factsOf(ctx, p, doc) // without facts it is the text it is
	}
	w.unsaved.put(p, f)
	w.takeIn(p, f)
	return f
}

// Hold is Write without facts, which takes no time: for when one leaves a file before it was
// looked at what was written last.
func (w *Workspace) Hold(p string, doc *text.Document) { w.unsaved.put(p, &File{Path: p, Text: doc}) }

// Moved follows a text that is not saved to another path of its file.
func (w *Workspace) Moved(from, to string) {
	if f := w.unsaved.get(from); f != nil {
		w.unsaved.put(from, nil)
		w.unsaved.put(to, &File{Path: to, Text: f.Text})
	}
}

// takeIn brings the index up to date with a text that is not on disk.
func (w *Workspace) takeIn(p string, f *File) {
	if l := w.languages.Of(p); l != nil && f.Facts != nil && !w.IsOutside(p) {
		w.setContent(p, index.ContentOf(l.Name, f.Text.Bytes()), "")
		if err := w.symbols.Put(p, index.Summarise(f.Text.Bytes(), f.Facts)); err != nil {
			w.Note("what is written in " + p + " cannot be found: " + err.Error())
		}
	}
	w.codeChanged()
	symbols := w.symbols.Len()
	w.advance(func(pr *Progress) { pr.Symbols = symbols }) // what is on disk is as it was
}

// fromDisk reads a file into the index as it is on disk.
func (w *Workspace) fromDisk(ctx context.Context, p string) {
	info, err := os.Stat(w.Absolute(p))
	if err != nil || w.IsOutside(p) {
		return
	}
	f := project.File{Path: p, Size: info.Size(), Modified: info.ModTime().UnixNano()}
	if w.Listing().IsFile(p) {
		w.reread(ctx, []project.File{f})
		w.list([]project.File{f})
	}
	w.codeChanged()
	symbols := w.symbols.Len()
	w.advance(func(pr *Progress) { pr.Symbols = symbols })
}

// Stamp tells by what it is known whether a file is still as it is on disk now.
func (w *Workspace) Stamp(p string) text.Stamp { return text.StampOf(text.System{}, w.Absolute(p)) }

// TextOnDisk reads a file as it is on disk, whatever is written in it here.
func (w *Workspace) TextOnDisk(p string) (*text.Document, error) { return text.Load(w.Absolute(p)) }

// Settle notes that a text that was written needs no keeping any more: the file counts again
// as it is on disk, unless by now another text of it is written.
func (w *Workspace) Settle(ctx context.Context, p string, doc *text.Document) {
	if w.unsaved.drop(p, doc) {
		w.fromDisk(ctx, p)
	}
}

// readForCheck gives a compiler the text of a file: what is written, or what is on disk.
func (w *Workspace) readForCheck(name string) ([]byte, error) {
	if f := w.unsaved.get(w.Relative(name)); f != nil {
		return f.Text.Bytes(), nil
	}
	return door.Read(name, largestChecked)
}

// largestChecked bounds in bytes what a compiler is given of one file.
const largestChecked = 64 << 20
