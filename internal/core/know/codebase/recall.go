package codebase

import (
	"context"
	"errors"
	"fmt"
	"path"
	"runtime"
	"slices"
	"strings"
	"sync/atomic"
	"time"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// A question from the shell need not wait until a project is listed and all that
// is known of it is read. What was known when the project was last read lies in a
// segments, which are asked where they lie, if the project is still that: the same
// names in the same folders. Of the files, those that changed are read anew.

// mostReread is how many files are read anew at the most; with more of them, all is
// read.
const mostReread = 64

// Recall takes up what was known of the project when it was last read, from the
// index in a folder of indexes, which it goes on using. It is false if that is not
// how the project is now; then KeepIndex and Read are to be called.
func (b *Base) Recall(ctx context.Context, folder string) bool {
	in := b.indexIn(folder)
	l, err := index.ReadListing(in, b.root)
	if err != nil {
		return false // as when there is none
	}
	changed, ok := b.compared(ctx, l)
	if !ok {
		return false
	}
	_, open, damaged, err := index.OpenSegments(index.SegmentsFolder(in, b.root))
	if err != nil || damaged {
		return false
	}
	b.symbols.Open(open)
	unknown := b.unknown(l, changed)
	if len(unknown) > mostReread {
		b.symbols.Close()
		return false
	}
	b.opensIndex(folder, false)
	b.recallListing(l, changed)
	b.reread(ctx, unknown)
	b.filesChanged()
	return ctx.Err() == nil
}

// unknown are the files that have to be read: those that changed, and those of which no segment knows what they say.
func (b *Base) unknown(l *index.Listing, changed []project.File) []project.File {
	unknown := slices.Clone(changed)
	files := make([]project.File, 0, len(l.Files))
	for i := range l.Files {
		if f := &l.Files[i]; f.GivenUp == "" && b.languages.Of(f.Path) != nil && !slices.ContainsFunc(changed, func(c project.File) bool { return c.Path == f.Path }) {
			files = append(files, f.File)
		}
	}
	for i, c := range b.symbols.Confirm(files) {
		if !c.OK && len(unknown) <= mostReread {
			unknown = append(unknown, files[i])
		}
	}
	b.symbols.Retain()
	return unknown
}

// recallListing takes up which files and folders there are, some of which changed since.
func (b *Base) recallListing(s *index.Listing, changed []project.File) {
	files := make([]project.File, 0, len(s.Files))
	contents := map[string]index.Content{}
	for i := range s.Files {
		f := &s.Files[i]
		files = append(files, f.File)
		if f.GivenUp != "" {
			b.giveUp(f.Path, f.Content, f.GivenUp)
		}
		if b.wantsContent(f.Path, f.GivenUp) {
			contents[f.Path] = f.Content
		}
	}
	b.listed.Store(project.NewListing(files).With(changed))
	b.mu.Lock()
	defer b.mu.Unlock()
	b.texts = contents
}

// tryAgainNow says whether there is a file that took too long, and may be read by now.
func (b *Base) tryAgainNow(l *index.Listing) bool {
	now := b.now()
	return slices.ContainsFunc(l.Files, func(f index.Listed) bool { return worthAnotherTry(f.Again, now) })
}

// compared finds the files that are not as they were when a snapshot was made; ok is
// false if it is not known that there are no others, or there are too many.
func (b *Base) compared(ctx context.Context, s *index.Listing) (changed []project.File, ok bool) {
	if b.tryAgainNow(s) || !b.besideSame(ctx, s) {
		return nil, false
	}
	var failed atomic.Bool
	workers := runtime.GOMAXPROCS(0)
	parts := make([][]project.File, workers)
	var wg work.Group
	for n := range workers {
		wg.Go(func() {
			for _, f := range part(s.Folders, n, workers) {
				if failed.Load() || !b.folderSame(f) {
					failed.Store(true)
					return
				}
			}
			for _, f := range part(s.Files, n, workers) {
				now, there := project.Stat(b.root, f.Path)
				switch {
				case failed.Load():
					return
				case now == f.File:
				case !there || project.Decides(path.Base(f.Path)) || len(parts[n]) > mostReread:
					failed.Store(true)
				default:
					parts[n] = append(parts[n], now)
				}
			}
		})
	}
	wg.Wait()
	changed = slices.Concat(parts...)
	return changed, !failed.Load() && len(changed) <= mostReread && ctx.Err() == nil
}

// part is the nth of so many equal parts of a list.
func part[T any](list []T, n, of int) []T { return list[len(list)*n/of : len(list)*(n+1)/of] }

// folderSame says whether the same names are in a folder as were.
func (b *Base) folderSame(f index.ListedFolder) bool {
	now, ok := project.FolderModified(b.root, f.Path)
	if !ok || f.Modified == 0 {
		return false
	}
	if now == f.Modified {
		return true
	}
	entries, ok := project.Entries(b.root, f.Path)
	return ok && entries == f.Entries
}

// besideSame says whether what decides from outside of the listing is as it was. The
// file in which git notes what it tracks may be another; then git is asked.
func (b *Base) besideSame(ctx context.Context, s *index.Listing) bool {
	now := project.Beside(b.root)
	if len(now) != len(s.Beside) {
		return false
	}
	for i, f := range now {
		if f == s.Beside[i].File {
			continue
		}
		if f.Path != s.Beside[i].Path || path.Base(f.Path) != project.TrackedBy {
			return false
		}
		tracked, err := vcs.Tracked(ctx, b.root)
		if err != nil {
			return false
		}
		for _, p := range tracked {
			if _, there := project.Stat(b.root, p); there && !s.Has(p) {
				return false
			}
		}
	}
	return true
}

// settled is how long before the listing a folder must have changed last, so that
// what came to it meanwhile is not missed for good.
const settled = time.Second

// KeepListing writes down what is known of the project as it was listed by Read, for
// Recall, unless that is there already.
func (b *Base) KeepListing(ctx context.Context) {
	b.mu.RLock()
	began := b.began
	b.mu.RUnlock()
	if b.indexes == "" || began.IsZero() || ctx.Err() != nil {
		return
	}
	l := b.toKeep(began)
	if before, err := index.ReadListing(b.indexes, b.root); err == nil && before.Same(l) {
		return
	}
	for i := range l.Folders {
		if f := &l.Folders[i]; f.Modified > 0 {
			var ok bool
			if f.Entries, ok = project.Entries(b.root, f.Path); !ok {
				f.Modified = 0
			}
		}
	}
	if err := index.WriteListing(b.indexes, b.root, l); err != nil {
		b.Note(fmt.Sprintf("questions from the shell will take longer: %v", err))
	}
}

// toKeep is which files and folders the project has, with what is known of the files.
// What is known of another text than the file has, or could not be found out this time,
// is left to be read again.
func (b *Base) toKeep(began time.Time) *index.Listing {
	l := &index.Listing{}
	b.mu.RLock()
	listing := b.Listing()
	for f := range listing.Files() {
		l.Files = append(l.Files, index.Listed{File: f, Content: b.texts[f.Path]})
	}
	for p := range listing.Folders() {
		l.Folders = append(l.Folders, index.ListedFolder{Path: p})
	}
	b.mu.RUnlock()
	slices.SortFunc(l.Files, func(a, b index.Listed) int { return strings.Compare(a.Path, b.Path) })
	slices.SortFunc(l.Folders, func(a, b index.ListedFolder) int { return strings.Compare(a.Path, b.Path) })
	failed, given := b.failed()
	for i := range l.Files {
		f := &l.Files[i]
		if why, ok := given[f.Path]; ok {
			f.GivenUp, f.Again = why, b.again(f.Path)
		}
		if b.unsaved.get(f.Path) != nil || failed[f.Path] {
			f.Modified = 0
		}
	}
	for i := range l.Folders {
		if modified, ok := project.FolderModified(b.root, l.Folders[i].Path); ok && modified < began.Add(-settled).UnixNano() {
			l.Folders[i].Modified = modified
		}
	}
	for _, f := range project.Beside(b.root) {
		l.Beside = append(l.Beside, index.Listed{File: f})
	}
	return l
}

// again is from when on a file that was given up is worth another try.
func (b *Base) again(p string) int64 {
	if s := b.symbols.Head(p); s != nil {
		return s.Again
	}
	return 0
}

// failed are the files that could not be read the last time, and may be the next, and why others were given up.
func (b *Base) failed() (files map[string]bool, given map[string]string) {
	files, given = map[string]bool{}, map[string]string{}
	for _, l := range b.Progress().LeftOut {
		var why errGivenUp
		switch {
		case errors.As(l.Reason, &why):
			given[l.Path] = string(why)
		case errors.Is(l.Reason, ErrTooLarge), errors.Is(l.Reason, ErrBinary):
			given[l.Path] = l.Reason.Error()
		default:
			files[l.Path] = true
		}
	}
	return files, given
}
