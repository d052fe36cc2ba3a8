package codebase

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"sync"
	"time"

	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
)

// keepEvery is after how many files read what is known of them is written to
// disk, so that a program that is killed has not worked in vain.
const keepEvery = 1000

// storedIndex is what is known of the files from earlier, kept on disk. If the disk fails, it
// goes on without.
type storedIndex struct {
	store *index.Store
	now   func() time.Time

	mu    sync.Mutex
	known map[string]index.Known // as of the beginning; nil once it was compared with what is there
	news  map[string]index.Known // not on disk yet
}

// KeepIndex keeps the index on disk, in a folder of indexes, and uses what is
// there from earlier. If that cannot be, it is done without, and said
// so in its notes. KeepIndex is to be called before Read, if at all; it goes on
// in the background, beside the listing of the files.
func (b *Base) KeepIndex(ctx context.Context, folder string) {
	b.opensIndex(ctx, folder, b.readIndex)
	b.opening.Go(b.open)
}

// opensIndex lets the index on disk be opened when it is first asked for, and then be
// read by a function, if that is not nil.
func (b *Base) opensIndex(ctx context.Context, folder string, read func(ctx context.Context, m *storedIndex)) {
	folder = b.indexIn(folder)
	b.indexes = folder
	b.open = sync.OnceFunc(func() { b.openIndex(ctx, folder, read) })
}

// indexIn is where the index is within the folder of indexes: what is read of files that are in other languages
// than by their names, or as a build says, lies by itself.
func (b *Base) indexIn(folder string) string {
	digest := b.languages.Digest()
	if digest += b.buildWords(); digest != "" && folder != "" {
		return filepath.Join(folder, "languages-"+digest)
	}
	return folder
}

// store is what is kept on disk, once it is there; nil if nothing is.
func (b *Base) store() *storedIndex {
	if b.open == nil {
		return nil
	}
	b.open()
	b.mu.RLock()
	defer b.mu.RUnlock()
	return b.stored
}

func (b *Base) openIndex(ctx context.Context, folder string, read func(ctx context.Context, m *storedIndex)) {
	store, repaired, err := index.OpenStore(folder, b.root)
	if repaired {
		b.Note("the index on disk was damaged and is made anew")
	}
	if err != nil {
		b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
		return
	}
	m := &storedIndex{store: store, now: b.now, news: map[string]index.Known{}}
	if read != nil {
		if read(ctx, m); m.store == nil {
			return
		}
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	b.stored = m
}

// readIndex takes in what the index on disk knows of the files. One that is damaged
// is begun anew.
func (b *Base) readIndex(ctx context.Context, m *storedIndex) {
	others := m.store.Older()
	var err error
	m.known, err = m.store.Files(ctx)
	if index.Damaged(err) {
		b.Note("the index on disk was damaged and is made anew")
		if err = m.store.Remove(); err == nil {
			m.store, _, err = index.OpenStore(b.indexes, b.root)
		}
		if err != nil {
			m.store = nil
			b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
			return
		}
	} else if err != nil {
		b.Note(fmt.Sprintf("the index on disk is not used: %v", err))
	}
	if others && len(m.known) == 0 {
		b.Note("the index on disk was of another version and is made anew")
	}
	symbols := 0
	for _, k := range m.known {
		symbols += k.Summary.Len()
	}
	b.symbols.Reserve(symbols)
}

// Note tells the user something about the project, once.
func (b *Base) Note(words string) {
	b.advance(func(p *Progress) {
		if !slices.Contains(p.Notes, words) {
			p.Notes = append(p.Notes, words)
		}
	})
}

// Close ends the use of the index on disk.
func (b *Base) Close() error {
	if failed := b.opening.End(); failed != nil {
		return failed
	}
	b.mu.RLock()
	defer b.mu.RUnlock()
	if b.stored == nil {
		return nil
	}
	return b.stored.store.Close()
}

// ForgetIndex removes the index from the disk. The code is not to be used
// after that.
func (b *Base) ForgetIndex() error {
	m := b.store()
	if m == nil {
		return nil
	}
	return errors.Join(index.RemoveSnapshot(b.indexes, b.root), m.store.Remove())
}

// IndexOnDisk tells where the index lies on disk and how many bytes it takes; path is
// "" if it is not kept.
func (b *Base) IndexOnDisk() (path string, size int64) {
	m := b.store()
	if m == nil {
		return "", 0
	}
	return m.store.Path(), m.store.Size()
}

// from is what was known of a file at the beginning.
func (m *storedIndex) from(path string) (k index.Known, ok bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	k, ok = m.known[path]
	return k, ok
}

// recall returns the summary of a file that has not changed since it was read
// in an earlier run, and what stands for its text.
func (m *storedIndex) recall(f project.File) (*index.Summary, index.Content, bool) {
	if m == nil {
		return nil, index.Content{}, false
	}
	k, ok := m.from(f.Path)
	return k.Summary, k.Content, ok && k.Size == f.Size && k.Modified == f.Modified && !worthAnotherTry(k.Summary, m.now())
}

// worthAnotherTry says whether a file that was given up may be read by now.
func worthAnotherTry(s *index.Summary, now time.Time) bool {
	return s.Again > 0 && s.Again <= now.Unix()
}

// recognise returns the summary of a text that was read before, in this file
// or another, as after switching to another branch; nil if it was not.
func (m *storedIndex) recognise(ctx context.Context, path string, content index.Content) *index.Summary {
	if m == nil {
		return nil
	}
	k, ok := m.from(path)
	sum := k.Summary
	if !ok || k.Content != content {
		var err error
		if sum, err = m.store.Summary(ctx, content); err != nil {
			return nil // what the disk does not give is parsed
		}
	}
	if sum != nil && worthAnotherTry(sum, m.now()) {
		return nil
	}
	return sum
}

// learn notes what was found out about a file.
func (m *storedIndex) learn(f project.File, content index.Content, sum *index.Summary) (full bool) {
	if m == nil {
		return false
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	m.news[f.Path] = index.Known{Size: f.Size, Modified: f.Modified, Content: content, Summary: sum}
	return len(m.news) >= keepEvery
}

// saveIndex writes what is new to disk, and forgets the files that are gone.
func (b *Base) saveIndex(ctx context.Context, gone []string) {
	m := b.store()
	if m == nil {
		return
	}
	m.mu.Lock()
	news := m.news
	m.news = map[string]index.Known{}
	m.mu.Unlock()
	if len(news) == 0 && len(gone) == 0 {
		return
	}
	if err := m.store.Update(ctx, news, gone); err != nil && ctx.Err() == nil {
		b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
	}
}

// dropKnown lets go of what was known from earlier, once it has been
// compared with what is there.
func (b *Base) dropKnown() {
	if m := b.store(); m != nil {
		m.mu.Lock()
		m.known = nil
		m.mu.Unlock()
	}
}

// gone lists the files that were known earlier and are not there any more.
func (b *Base) gone() (paths []string) {
	m := b.store()
	if m == nil {
		return nil
	}
	listing := b.Listing()
	m.mu.Lock()
	defer m.mu.Unlock()
	for p := range m.known {
		if !listing.IsFile(p) {
			paths = append(paths, p)
		}
	}
	return paths
}
