package workspace

import (
	"context"
	"errors"
	"maps"
	"os"
	"path"
	"slices"

	"rooktrail/internal/core/project"
)

// Watch keeps what is known true while files change on disk, until ctx is
// cancelled. It is to be called when Read has come to its end.
func (w *Workspace) Watch(ctx context.Context) {
	watcher := project.NewWatcher(w.root)
	defer watcher.Close()
	for {
		watcher.Add(slices.Collect(w.Listing().Folders()))
		change, ok := watcher.Wait(ctx)
		if !ok {
			return
		}
		if change.All || !w.RefreshFiles(ctx, change.Paths) {
			w.Refresh(ctx)
		}
	}
}

// RefreshFiles reads those of the files anew that have changed, without listing
// the project. It is false if that is not enough, since a file has come or gone
// or decides what belongs to the project.
func (w *Workspace) RefreshFiles(ctx context.Context, paths []string) bool {
	var changed []project.File
	seen := map[string]bool{}
	for _, p := range paths {
		if seen[p] {
			continue
		}
		seen[p] = true
		switch path.Base(p) {
		case ".gitignore", ".ignore":
			return false
		}
		before, known := w.Listing().File(p)
		info, err := os.Lstat(w.Absolute(p))
		switch {
		case err != nil && !known:
			continue // a file for a moment, as when another is saved
		case err != nil || !known || !info.Mode().IsRegular():
			return false
		}
		now := project.File{Path: p, Size: info.Size(), Modified: info.ModTime().UnixNano()}
		if now != before {
			changed = append(changed, now)
		}
	}
	if len(changed) == 0 {
		return true
	}
	w.reread(ctx, changed)
	w.list(changed)
	w.codeChanged()
	w.saveIndex(ctx, nil)
	symbols := w.symbols.Len()
	w.advance(func(p *Progress) {
		p.Symbols = symbols
		p.Refreshed++
	})
	return true
}

// reread takes in the changed ones among the files that are read. The list of files
// is to be changed afterwards, so that nobody who writes both down has what is known
// of an old text for the new one.
func (w *Workspace) reread(ctx context.Context, changed []project.File) {
	for _, f := range changed {
		if w.languages.Of(f.Path) == nil || ctx.Err() != nil {
			continue
		}
		_, err := w.putSymbols(ctx, f)
		var given errGivenUp
		if err != nil && !errors.As(err, &given) {
			w.symbols.Remove(f.Path)
		}
		w.advance(func(p *Progress) {
			p.LeftOut = slices.DeleteFunc(slices.Clone(p.LeftOut), func(l LeftOut) bool { return l.Path == f.Path })
			if err != nil && ctx.Err() == nil {
				p.LeftOut = append(p.LeftOut, LeftOut{f.Path, err})
			}
		})
	}
}

// Refresh lists the project again and reads what has changed.
func (w *Workspace) Refresh(ctx context.Context) {
	now := map[string]project.File{}
	_, err := project.List(ctx, w.root, func(batch []project.File) {
		for _, f := range batch {
			now[f.Path] = f
		}
	})
	if err != nil || ctx.Err() != nil {
		return // what cannot be listed now may be listed the next time
	}
	changed, gone, same := w.compare(now)
	if len(changed) == 0 && len(gone) == 0 {
		return
	}
	w.reread(ctx, changed)
	for _, p := range gone {
		w.symbols.Remove(p)
	}
	if same {
		w.list(changed)
	} else {
		w.relist(slices.Collect(maps.Values(now)))
	}
	w.codeChanged()
	w.saveIndex(ctx, gone)
	symbols := w.symbols.Len()
	w.advance(func(p *Progress) {
		p.Files = len(now)
		p.Symbols = symbols
		p.Refreshed++
	})
}

// compare finds what is new or different, and what is gone; same says that the
// names of the files are what they were.
func (w *Workspace) compare(now map[string]project.File) (changed []project.File, gone []string, same bool) {
	listing := w.Listing()
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
