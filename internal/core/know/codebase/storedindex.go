package codebase

import (
	"context"
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

// manySymbols is how many symbols are kept in memory before they are written, whatever the number of files.
const manySymbols = 100_000

// fewNews is how many files that have changed one after the other are kept in memory before they are written: they
// are read again in no time.
const fewNews = 64

// storedIndex is what is kept on disk of the files. If the disk fails, it goes on without.
type storedIndex struct {
	store    *index.Store
	segments *index.Segments
	now      func() time.Time

	mu      sync.Mutex
	news    map[string]index.Known // not on disk yet
	symbols int                    // of them
	merging sync.Mutex
}

// KeepIndex keeps the index on disk, in a folder of indexes, and uses what is
// there from earlier. If that cannot be, it is done without, and said
// so in its notes. KeepIndex is to be called before Read, if at all; it goes on
// in the background, beside the listing of the files.
func (b *Base) KeepIndex(ctx context.Context, folder string) {
	b.opensIndex(folder, true)
	b.opening.Go(b.open)
}

// opensIndex lets the index on disk be opened when it is first asked for; with its segments, if these are not open yet.
func (b *Base) opensIndex(folder string, segments bool) {
	b.openDumps(folder)
	folder = b.indexIn(folder)
	b.indexes = folder
	b.open = sync.OnceFunc(func() { b.openIndex(folder, segments) })
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

func (b *Base) openIndex(folder string, segments bool) {
	store, repaired, err := index.OpenStore(folder, b.root)
	if err != nil {
		b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
		return
	}
	m := &storedIndex{store: store, now: b.now, news: map[string]index.Known{}}
	if segments {
		var damaged bool
		if m.segments, damaged, err = b.openSegments(folder); err != nil {
			b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
		}
		repaired = repaired || damaged
		others := store.Older()
		if others && b.symbols.Len() == 0 {
			b.Note("the index on disk was of another version and is made anew")
		}
	}
	if repaired {
		b.Note(damagedWords)
	}
	b.mu.Lock()
	b.stored = m
	b.mu.Unlock()
	symbols := b.symbols.Len()
	b.advance(func(p *Progress) { p.Symbols = symbols })
}

// openSegments has what earlier runs found out known at once; what of it still holds, is confirmed when the files are listed.
func (b *Base) openSegments(folder string) (s *index.Segments, damaged bool, err error) {
	s, open, damaged, err := index.OpenSegments(index.SegmentsFolder(folder, b.root))
	if err != nil {
		return nil, damaged, err
	}
	s.Clear()
	b.symbols.Open(open)
	return s, damaged, nil
}

// damagedWords say that what lies on disk was not as it was written.
const damagedWords = "the index on disk was damaged and is made anew"

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
	b.symbols.Close()
	_ = b.dumps.Load().Close() // nothing is under way
	b.mu.Lock()
	defer b.mu.Unlock()
	b.texts.below = nil
	if b.earlier != nil {
		_ = b.earlier.Close() // nothing was written
		b.earlier = nil
	}
	if b.stored == nil {
		return nil
	}
	return b.stored.store.Close()
}

// ForgetIndex removes the index from the disk. The code is not to be used
// after that.
func (b *Base) ForgetIndex() error {
	if err := b.dumps.Load().Remove(); err != nil {
		return err
	}
	m := b.store()
	if m == nil {
		return nil
	}
	return m.store.Remove()
}

// IndexOnDisk tells where the index lies on disk and how many bytes it takes; path is
// "" if it is not kept.
func (b *Base) IndexOnDisk() (path string, size int64) {
	m := b.store()
	if m == nil {
		return "", 0
	}
	size = m.store.Size()
	if m.segments != nil {
		size += m.segments.Size()
	}
	return m.store.Path(), size
}

// worthAnotherTry says whether a file that was given up may be read by now.
func worthAnotherTry(again int64, now time.Time) bool { return again > 0 && again <= now.Unix() }

// recognise returns the summary of a text that was read before, in this file
// or another, as after switching to another branch; nil if it was not.
func (b *Base) recognise(content index.Content) *index.Summary {
	sum := b.symbols.WithContent(content)
	if sum != nil && worthAnotherTry(sum.Again, b.now()) {
		return nil
	}
	return sum
}

// learn notes what was found out about a file. full says that it is time to write it down.
func (m *storedIndex) learn(f project.File, content index.Content, sum *index.Summary) (full bool) {
	if m == nil || m.segments == nil {
		return false
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	m.news[f.Path] = index.Known{Size: f.Size, Modified: f.Modified, Content: content, Summary: sum}
	m.symbols += sum.Len()
	return len(m.news) >= keepEvery || m.symbols >= manySymbols
}

// saveIndex writes what is new to disk, if it is of at least so many files, or of many symbols.
func (b *Base) saveIndex(ctx context.Context, least int) {
	m := b.store()
	if m == nil || m.segments == nil {
		return
	}
	m.mu.Lock()
	if len(m.news) < max(1, least) && m.symbols < manySymbols {
		m.mu.Unlock()
		return
	}
	news := m.news
	m.news, m.symbols = map[string]index.Known{}, 0
	m.mu.Unlock()
	segment, err := m.segments.Add(ctx, news)
	if err != nil {
		if ctx.Err() == nil {
			b.Note(fmt.Sprintf("the index is not kept on disk: %v", err))
		}
		return
	}
	b.symbols.Settle(segment, news)
	b.mergeIndex(ctx, m, false)
}

// restIndex writes all that is new to disk, and puts it in order, when no more is to come for a while.
func (b *Base) restIndex(ctx context.Context) {
	b.saveIndex(ctx, 0)
	if m := b.store(); m != nil && m.segments != nil {
		b.mergeIndex(ctx, m, true)
	}
}

// mergeIndex makes one of several segments, where there are many.
func (b *Base) mergeIndex(ctx context.Context, m *storedIndex, atRest bool) {
	if !m.merging.TryLock() {
		return
	}
	defer m.merging.Unlock()
	for ctx.Err() == nil {
		done, err := b.symbols.Merge(ctx, m.segments, atRest)
		if err != nil && ctx.Err() == nil {
			b.Note(fmt.Sprintf("the index on disk is not put in order: %v", err))
		}
		if done {
			return
		}
	}
}
