package codebase

import (
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"strings"
	"time"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/syntax"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// largestParsed is the size in bytes beyond which a file is not read as a whole; see summariseLarge.
const largestParsed = 8 << 20

// The reasons for leaving a file as text, besides those of package syntax.
var (
	ErrTooLarge = errors.New("too large to parse")
	ErrBinary   = errors.New("binary, in spite of its name")
)

// mostAtOnce is how many bytes of files are read at a time, but for one file that is larger: what comes of reading one
// takes many times the room of its text.
const mostAtOnce = 2 << 20

// Read lists the project and reads the facts of its files, several at a time.
// What it finds can be used from the first file on. It returns when all is
// read, or ctx is cancelled.
func (b *Base) Read(ctx context.Context) error {
	b.mu.Lock()
	b.began = b.now()
	b.mu.Unlock()
	var begun time.Time // known when all was taken up
	todo := newQueue(b.now())
	b.queue.Store(todo)
	defer b.queue.Store(nil)
	var wg work.Group
	todo.each(ctx, &wg, work.Processors(), b.readFile)
	listed := make(chan []project.File, 1<<16)
	var anew []project.File
	said := b.macros
	wg.Go(func() {
		defer todo.close()
		begun = b.beginReading()
		for batch := range listed {
			anew = append(anew, b.takeUp(batch, todo)...)
		}
		said = b.saidBefore(since(anew, begun))
		b.forgetSurroundings() // who asked before did not have all files
		b.loaded.drop(anew)
		todo.add(anew) // how they are read, files say that had to be listed first
	})
	report, err := b.listAll(ctx, listed)
	b.advance(func(p *Progress) { p.Report, p.Listed, p.Err = report, true, err })
	wg.Wait()
	if ctx.Err() == nil && err == nil {
		if b.recalled.Load() { // from what others said before
			b.readAgain(ctx, b.dependents(since(anew, begun), true, said))
		}
	}
	if ctx.Err() == nil && err == nil {
		b.symbols.Retain()
		b.endReading()
		b.settled.Store(true)
		b.saveIndex(ctx, 0)
	}
	b.filesChanged()
	b.advance(func(p *Progress) { p.Done = ctx.Err() == nil })
	if ctx.Err() == nil && err == nil {
		b.restIndex(ctx) // which nobody waits for
	}
	if err != nil {
		return fmt.Errorf("reading the project: %w", err)
	}
	return ctx.Err()
}

// listAll lists the files of the project and hands them on, batch by batch; they are added to those that can be found beside the
// listing, which waits for the disk.
func (b *Base) listAll(ctx context.Context, listed chan<- []project.File) (project.Report, error) {
	found := make(chan []project.File, 1<<16)
	var adding work.Group
	adding.Go(func() {
		defer close(listed)
		for batch := range found {
			b.addFiles(batch)
			listed <- batch
		}
	})
	report, err := project.List(ctx, b.root, b.everything.Load(), func(batch []project.File) { found <- slices.Clone(batch) })
	close(found)
	adding.Wait()
	return report, err
}

// beginReading notes that all is being read; it gives back since when, if that was broken off before.
func (b *Base) beginReading() time.Time {
	if m := b.store(); m != nil && m.segments != nil {
		return m.segments.Begin()
	}
	return time.Time{}
}

func (b *Base) endReading() {
	if m := b.store(); m != nil && m.segments != nil {
		m.segments.End()
	}
}

// since are the files that have changed since a reading began which was broken off: what was read then was read as the others say now.
func since(files []project.File, begun time.Time) []project.File {
	if begun.IsZero() {
		return files
	}
	var changed []project.File
	for _, f := range files {
		if f.Modified >= begun.UnixNano() {
			changed = append(changed, f)
		}
	}
	return changed
}

// takeUp takes in what is known of a batch of files and hands on those that
// have to be read, but for those that are to be read later, for what others say of them.
func (b *Base) takeUp(batch []project.File, todo *queue) (later []project.File) {
	b.store() // what is known from earlier
	read := slices.DeleteFunc(slices.Clone(batch), func(f project.File) bool { return b.languages.Of(f.Path) == nil })
	slices.SortFunc(read, func(a, b project.File) int { return strings.Compare(a.Path, b.Path) })
	var readable []project.File
	recalled := 0
	for i, c := range b.symbols.Confirm(read) {
		f := read[i]
		switch {
		case c.OK && !worthAnotherTry(c.Again, b.now()):
			recalled++
			b.setContent(f.Path, c.Content, c.GivenUp)
			if c.GivenUp != "" {
				b.advance(func(p *Progress) { p.LeftOut = append(p.LeftOut, LeftOut{f.Path, errGivenUp(c.GivenUp)}) })
			}
		case b.around(b.languages.Of(f.Path)) != nil:
			later = append(later, f)
		default:
			readable = append(readable, f)
		}
	}
	if recalled > 0 {
		b.recalled.Store(true)
	}
	symbols := b.symbols.Len()
	b.advance(func(p *Progress) {
		p.Readable += len(readable) + len(later) + recalled
		p.Read += recalled
		p.Symbols = symbols
	})
	todo.add(readable)
	return later
}

// readFile puts the symbols of one file into the index. Whatever fails costs
// that one file.
func (b *Base) readFile(ctx context.Context, f project.File) {
	parsed, err := b.putSymbols(ctx, f)
	symbols := b.symbols.Len()
	now := b.now()
	b.advance(func(p *Progress) {
		if p.Read++; p.Began.IsZero() {
			p.Began, p.before = now, p.Read
		}
		p.Symbols = symbols
		if parsed && err == nil {
			p.Parsed++
		}
		if err != nil && ctx.Err() == nil {
			p.LeftOut = append(p.LeftOut, LeftOut{f.Path, err})
		}
	})
}

// putSymbols takes the symbols of a file from what is known already, or else
// parses it.
func (b *Base) putSymbols(ctx context.Context, f project.File) (parsed bool, err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("reading %s failed: %v", f.Path, r)
		}
	}()
	if u := b.unsaved.get(f.Path); u != nil { // what is known of it is not that of the file on disk
		if u.Facts == nil {
			return false, errNoFacts
		}
		return true, b.symbols.Put(f.Path, index.Summarise(u.Text.Bytes(), u.Facts))
	}
	doc, err := b.loadText(f.Path)
	if err != nil {
		return false, err
	}
	if b.fresh.note(f, b.now()) {
		f.Modified = 0 // it is looked at again the next time
	}
	l := b.languages.Of(f.Path)
	content := index.ContentOf(b.readingOf(l, f.Path, doc.Bytes()), doc.Bytes())
	b.setContent(f.Path, content, "")
	stored := b.store()
	sum := b.recognise(content)
	known := sum != nil
	if !known {
		var err error
		sum, err = b.summarise(ctx, f.Path, doc)
		switch {
		case syntax.IsForGood(err):
			sum = &index.Summary{GivenUp: reasonOf(err)}
			if errors.Is(err, syntax.ErrTooSlow) {
				sum.Again = b.now().Add(tryAgain).Unix()
			}
		case err != nil:
			return true, err
		}
	}
	if sum.GivenUp != "" {
		b.setContent(f.Path, content, sum.GivenUp)
		if stored.learn(f, content, sum) {
			b.saveIndex(ctx, keepEvery)
		}
		return !known, errors.Join(errGivenUp(sum.GivenUp), b.symbols.Put(f.Path, sum))
	}
	if err := b.symbols.Put(f.Path, sum); err != nil {
		return !known, fmt.Errorf("reading the index: %w", err)
	}
	if stored.learn(f, content, sum) {
		b.saveIndex(ctx, keepEvery)
	}
	return !known, nil
}

// summarise makes the summary of a text.
func (b *Base) summarise(ctx context.Context, p string, doc *text.Document) (*index.Summary, error) {
	if doc.Len() > largestParsed {
		return b.summariseLarge(ctx, p, doc.Bytes())
	}
	found, err := b.factsOf(ctx, p, doc)
	if err != nil {
		return nil, err
	}
	return index.Summarise(doc.Bytes(), found), nil
}

// tryAgain is after how long a file is parsed once more that took too long: that is
// counted in the time of the processor, which is not always the same.
const tryAgain = 24 * time.Hour

// setContent notes what stands for the text of a file, and why a parser gave it up, "" if it did
// not.
func (b *Base) setContent(p string, content index.Content, givenUp string) {
	if givenUp != "" {
		b.giveUp(p, content, givenUp)
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.wantsContent(p, givenUp) {
		b.texts.set(p, content)
	} else {
		b.texts.set(p, index.Content{})
	}
}

// wantsContent says whether it is to be noted what stands for the text of a file: if a compiler
// reads it, or it was given up.
func (b *Base) wantsContent(p, givenUp string) bool { return givenUp != "" || b.isChecked(p) }

// loadText reads the text of a file that is to be parsed.
func (b *Base) loadText(p string) (*text.Document, error) {
	abs := b.Absolute(p)
	info, err := os.Stat(abs)
	switch {
	case err != nil:
		return nil, fmt.Errorf("reading %s: %w", p, err)
	case info.Size() > largestNamed:
		return nil, ErrTooLarge
	}
	doc, err := text.Load(abs)
	if err == nil && doc.Binary() {
		return nil, ErrBinary
	}
	return doc, err
}

// factsOf reads the facts of a text. A parser that panics costs that one file.
func (b *Base) factsOf(ctx context.Context, p string, doc *text.Document) (found *facts.File, err error) {
	l := b.languages.Of(p)
	switch {
	case l == nil:
		return nil, errNoFacts
	case doc.Binary():
		return nil, ErrBinary
	case doc.Len() > largestParsed:
		return nil, ErrTooLarge
	}
	if why := b.whyGivenUp(l, p, doc); why != "" {
		return nil, errGivenUp(why)
	}
	defer func() {
		if r := recover(); r != nil {
			found, err = nil, fmt.Errorf("reading %s: the %s reader failed: %v", p, l.Name, r)
		}
	}()
	return l.ReadAt(ctx, b.around(l), p, doc.Bytes())
}

// errNoFacts is why a file has no facts: nothing here knows its language.
var errNoFacts = errors.New("not in a language that is read")
