package codebase

import (
	"context"
	"os"
	"sync"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
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
func (b *Base) Unsaved(p string) *File { return b.unsaved.get(p) }

// Write takes in the text of a file that is not saved: from now on all answers are about
// that. It returns the file with its facts.
func (b *Base) Write(ctx context.Context, p string, doc *text.Document) *File {
	f := b.As(ctx, p, doc)
	f.Supposed = false
	b.unsaved.put(p, f)
	b.takeIn(p, f)
	return f
}

// As is a file as it would be if it read otherwise. Nobody else learns of it.
func (b *Base) As(ctx context.Context, p string, doc *text.Document) *File {
	f := &File{Path: p, Text: doc, Supposed: true, languages: b.languages}
	if doc.Len() <= largestParsed {
		f.Facts, _ = b.factsOf(ctx, p, doc) // without facts it is the text it is
	}
	return f
}

// Hold is Write without facts, which takes no time: for when one leaves a file before it was
// looked at what was written last.
func (b *Base) Hold(p string, doc *text.Document) {
	b.unsaved.put(p, &File{Path: p, Text: doc, languages: b.languages})
}

// Moved follows a text that is not saved to another path of its file.
func (b *Base) Moved(from, to string) {
	if f := b.unsaved.get(from); f != nil {
		b.unsaved.put(from, nil)
		b.unsaved.put(to, &File{Path: to, Text: f.Text, languages: b.languages})
	}
}

// takeIn brings the index up to date with a text that is not on disk.
func (b *Base) takeIn(p string, f *File) {
	if l := b.languages.Of(p); l != nil && f.Facts != nil && !b.IsOutside(p) {
		b.setContent(p, index.ContentOf(b.readingOf(l, p, f.Text.Bytes()), f.Text.Bytes()), "")
		if err := b.symbols.Put(p, index.Summarise(f.Text.Bytes(), f.Facts)); err != nil {
			b.Note("what is written in " + p + " cannot be found: " + err.Error())
		}
	}
	b.textChanged()
	symbols := b.symbols.Len()
	b.advance(func(pr *Progress) { pr.Symbols = symbols })
}

// fromDisk reads a file into the index as it is on disk.
func (b *Base) fromDisk(ctx context.Context, p string) {
	info, err := os.Stat(b.Absolute(p))
	if err != nil || b.IsOutside(p) {
		return
	}
	f := project.File{Path: p, Size: info.Size(), Modified: info.ModTime().UnixNano()}
	if b.Listing().IsFile(p) {
		b.reread(ctx, []project.File{f}, b.macros)
		b.list([]project.File{f})
	}
	b.filesChanged()
	symbols := b.symbols.Len()
	b.advance(func(pr *Progress) { pr.Symbols = symbols })
}

// Stamp tells by what it is known whether a file is still as it is on disk now.
func (b *Base) Stamp(p string) text.Stamp { return text.StampOf(text.System{}, b.Absolute(p)) }

// TextOnDisk reads a file as it is on disk, whatever is written in it here.
func (b *Base) TextOnDisk(p string) (*text.Document, error) { return text.Load(b.Absolute(p)) }

// Settle notes that a text that was written needs no keeping any more: the file counts again
// as it is on disk, unless by now another text of it is written.
func (b *Base) Settle(ctx context.Context, p string, doc *text.Document) {
	if b.unsaved.drop(p, doc) {
		b.fromDisk(ctx, p)
	}
}

// readForCheck gives a compiler the text of a file: what is written, or what is on disk.
func (b *Base) readForCheck(name string) ([]byte, error) {
	if f := b.unsaved.get(b.Relative(name)); f != nil {
		return f.Text.Bytes(), nil
	}
	return door.Read(name, largestChecked)
}

// largestChecked bounds in bytes what a compiler is given of one file.
const largestChecked = 64 << 20
