package codebase

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"os"
	"path"
	"slices"
	"time"

	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// Watch keeps what is known true while files change on disk, until ctx is
// cancelled. It is to be called when Read has come to its end.
func (b *Base) Watch(ctx context.Context) {
	b.watched.Store(true)
	defer b.watched.Store(false)
	watcher := project.NewWatcher(b.root)
	watcher.Asked, watcher.Wrong = b.relisting, func() bool { return Damaged(b) }
	defer watcher.Close()
	defer b.saveIndex(context.WithoutCancel(ctx), 0) // it takes no time
	watching := false
	for {
		watcher.Add(slices.Collect(b.Listing().Folders()))
		if !watching { // what changed after it was read, and before it was watched
			watching = true
			b.Refresh(ctx)
			continue
		}
		if watcher.Polls() {
			b.Note("the system has no more watches for the folders of this project; it is looked at every few seconds instead")
		}
		change, ok := watcher.Wait(ctx)
		if !ok {
			return
		}
		if Damaged(b) {
			b.rebuild(ctx)
			continue
		}
		if change.All || !b.RefreshFiles(ctx, change.Paths) {
			began := b.now()
			b.Refresh(ctx)
			watcher.Took = b.now().Sub(began)
		}
	}
}

// rebuild reads all anew, in place of what on disk is not as it was written.
func (b *Base) rebuild(ctx context.Context) {
	b.Note(damagedWords)
	b.settled.Store(false)
	if m := b.store(); m != nil && m.segments != nil {
		if err := m.segments.Remove(); err != nil {
			b.Note(fmt.Sprintf("the damaged index cannot be removed: %v", err))
		}
	}
	b.symbols.Close()
	b.recalled.Store(false)
	b.advance(func(p *Progress) {
		p.Readable, p.Read, p.Parsed, p.LeftOut, p.Done, p.Began = 0, 0, 0, nil, false, time.Time{}
	})
	if err := b.Read(ctx); err != nil && ctx.Err() == nil {
		b.Note(err.Error())
	}
}

// RefreshFiles reads those of the files anew that have changed, without listing
// the project. It is false if that is not enough, since a file has come or gone
// or decides what belongs to the project.
func (b *Base) RefreshFiles(ctx context.Context, paths []string) bool {
	var changed []project.File
	seen := map[string]bool{}
	for _, p := range paths {
		if seen[p] {
			continue
		}
		seen[p] = true
		if project.Decides(path.Base(p)) {
			return false
		}
		before, known := b.Listing().File(p)
		info, err := os.Lstat(b.Absolute(p))
		switch {
		case err != nil && !known:
			continue // a file for a moment, as when another is saved
		case err != nil || !known || !info.Mode().IsRegular():
			return false
		}
		now := project.File{Path: p, Size: info.Size(), Modified: info.ModTime().UnixNano()}
		if now != before || b.fresh.has(p) {
			changed = append(changed, now)
		}
	}
	if len(changed) == 0 {
		return true
	}
	b.loaded.drop(changed)
	b.reread(ctx, changed, b.macros)
	b.list(changed)
	b.filesChanged()
	b.saveIndex(ctx, fewNews)
	symbols := b.symbols.Len()
	b.advance(func(p *Progress) {
		p.Symbols = symbols
		p.Refreshed++
	})
	return true
}

// reread takes in the changed ones among the files that are read. The list of files
// is to be changed afterwards, so that nobody who writes both down has what is known
// of an old text for the new one.
func (b *Base) reread(ctx context.Context, changed []project.File, said func(p string) []string) {
	further := b.dependents(changed, false, said) // first, so that the changed ones are read as the others say now
	b.loaded.drop(further)
	b.readAgain(ctx, slices.Concat(changed, further))
}

// readAgain reads files that were read before, those first that people are likely to need first.
func (b *Base) readAgain(ctx context.Context, changed []project.File) {
	todo := newQueue(b.now())
	todo.add(slices.DeleteFunc(slices.Clone(changed), func(f project.File) bool { return b.languages.Of(f.Path) == nil }))
	todo.close()
	var wg work.Group
	workers := work.Processors()
	if b.watched.Load() { // somebody works with the program meanwhile, whose keys want a processor
		workers = max(1, workers-1)
	}
	todo.each(ctx, &wg, workers, b.readOneAgain)
	wg.Wait()
}

func (b *Base) readOneAgain(ctx context.Context, f project.File) {
	_, err := b.putSymbols(ctx, f)
	if ctx.Err() != nil {
		return
	}
	var given errGivenUp
	if err != nil && !errors.As(err, &given) {
		b.symbols.Remove(f.Path)
	}
	b.advance(func(p *Progress) {
		p.LeftOut = slices.DeleteFunc(slices.Clone(p.LeftOut), func(l LeftOut) bool { return l.Path == f.Path })
		if err != nil {
			p.LeftOut = append(p.LeftOut, LeftOut{f.Path, err})
		}
	})
}

// Refresh lists the project again and reads what has changed.
func (b *Base) Refresh(ctx context.Context) {
	now := map[string]project.File{}
	_, err := project.List(ctx, b.root, b.everything.Load(), func(batch []project.File) {
		for _, f := range batch {
			now[f.Path] = f
		}
	})
	if err != nil || ctx.Err() != nil {
		return // what cannot be listed now may be listed the next time
	}
	changed, gone, same := b.compare(now)
	if len(changed) == 0 && len(gone) == 0 {
		return
	}
	b.reread(ctx, changed, b.macros)
	for _, p := range gone {
		b.symbols.Remove(p)
	}
	if same {
		b.list(changed)
	} else {
		b.relist(slices.Collect(maps.Values(now)))
		b.forgetSurroundings()
		further := b.dependents(changed, true, b.macros) // a header that came may say how others are read
		b.loaded.drop(further)
		b.readAgain(ctx, slices.Concat(b.readByOthers(changed), further))
	}
	b.filesChanged()
	b.saveIndex(ctx, fewNews)
	symbols := b.symbols.Len()
	b.advance(func(p *Progress) {
		p.Files = len(now)
		p.Symbols = symbols
		p.Refreshed++
	})
}

// compare finds what is new or different, and what is gone; same says that the
// names of the files are what they were.
func (b *Base) compare(now map[string]project.File) (changed []project.File, gone []string, same bool) {
	listing := b.Listing()
	same = len(now) == listing.Len()
	for p, f := range now {
		before, ok := listing.File(p)
		if !ok {
			same = false
		}
		if before != f {
			changed = append(changed, f)
		}
	}
	for f := range listing.Files() {
		if _, ok := now[f.Path]; !ok {
			gone, same = append(gone, f.Path), false
		}
	}
	return changed, gone, same
}
