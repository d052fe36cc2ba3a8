package codebase

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"rooktrail/internal/core/disk/vcs"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/know/project"
	"rooktrail/internal/core/work"
)

// A question from the shell need not wait until a project is listed and all that
// is known of it is read. What was known when the project was last read lies in a listing and in
// segments, which are asked where they lie, if the project is still that: the same
// names in the same folders. Of the files, those that changed are read anew. A hasty question looks only at the files that
// it comes upon whether they did.

// mostReread is how many files are read anew at the most; with more of them, all is
// read.
const mostReread = 64

// Recall takes up what was known of the project when it was last read, from the
// index in a folder of indexes, which it goes on using. It is false if that is not
// how the project is now; then KeepIndex and Read are to be called. If it is hasty, it does not look at all files whether they
// are how they were; see CheckAll.
func (b *Base) Recall(ctx context.Context, folder string, hasty bool) bool {
	in := b.indexIn(folder)
	l, err := index.OpenListing(in, b.root)
	if err != nil {
		return false // as when there is none
	}
	b.earlier = l
	if !b.foldersSame(ctx, l) {
		return false
	}
	_, open, damaged, err := index.OpenSegments(index.SegmentsFolder(in, b.root))
	if err != nil || damaged {
		return false
	}
	b.symbols.Open(open)
	b.opensIndex(folder, false)
	b.recallListing(l)
	b.settled.Store(true)
	if hasty {
		b.hasty.reread = func(files []project.File) { b.readChanged(ctx, files, files, b.macros) }
		b.hasty.on.Store(true)
		return !Damaged(b) && ctx.Err() == nil
	}
	return CheckAll(ctx, b)
}

// CheckAll looks at all files whether they are how they were when the project was last read, and reads anew those that are not. It
// is false if these are too many.
func CheckAll(ctx context.Context, b *Base) bool {
	changed, ok := b.compared(ctx, b.earlier)
	if !ok {
		return false
	}
	said := b.saidBefore(changed)
	unknown := b.unknown(changed)
	if len(unknown) > mostReread || Damaged(b) {
		return false
	}
	b.hasty.on.Store(false)
	b.readChanged(ctx, changed, unknown, said)
	return ctx.Err() == nil
}

// readChanged reads files anew, some of which have changed since they were listed.
func (b *Base) readChanged(ctx context.Context, changed, unknown []project.File, said func(p string) []string) {
	if len(unknown) > 0 {
		b.reread(ctx, unknown, said)
		b.list(changed)
		b.filesChanged()
	}
}

// Hasty says that not all files were looked at whether they are how they were.
func Hasty(b *Base) bool { return b.hasty.on.Load() }

// Damaged says that what lies on disk is not as it was written, so that answers may lack something. ForgetIndex removes it.
func Damaged(b *Base) bool {
	return b.symbols.Damaged() || b.earlier != nil && b.earlier.Damaged()
}

// hasty are the files that a hasty question has looked at.
type hasty struct {
	on     atomic.Bool
	reread func(files []project.File)
	mu     sync.Mutex
	seen   map[string]bool
}

// sure has the files of some paths read anew, if a hasty question comes upon them and they have changed; it says whether one had.
func (b *Base) sure(paths ...string) (changed bool) {
	if !b.hasty.on.Load() {
		return false
	}
	var anew []project.File
	b.hasty.mu.Lock()
	for _, p := range paths {
		if b.hasty.seen[p] || path.IsAbs(p) {
			continue
		}
		if b.hasty.seen == nil {
			b.hasty.seen = map[string]bool{}
		}
		b.hasty.seen[p] = true
		before, known := b.Listing().File(p)
		if now, there := project.Stat(b.root, p); known && there && now != before {
			anew = append(anew, now)
		}
	}
	b.hasty.mu.Unlock()
	if len(anew) > 0 {
		b.hasty.reread(anew)
	}
	return len(anew) > 0
}

// unknown are the files that have to be read: those that changed, and those of which no segment knows what they say.
func (b *Base) unknown(changed []project.File) []project.File {
	unknown := slices.Clone(changed)
	without := map[string]bool{} // those that nothing is known of
	for _, f := range changed {
		without[f.Path] = true
	}
	for _, f := range b.earlier.GivenUp() {
		without[f.Path] = true
	}
	files := make([]project.File, 0, b.earlier.Len())
	for f := range b.earlier.Files() {
		if !without[f.Path] && b.languages.Of(f.Path) != nil {
			files = append(files, f)
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

// recallListing takes up which files and folders there are.
func (b *Base) recallListing(l *index.ListingOnDisk) {
	for _, f := range l.GivenUp() {
		b.giveUp(f.Path, f.Content, f.GivenUp)
	}
	b.listed.Store(project.Upon(l))
	b.mu.Lock()
	defer b.mu.Unlock()
	b.texts = contents{below: l}
}

// tryAgainNow says whether there is a file that took too long, and may be read by now.
func (b *Base) tryAgainNow(l *index.ListingOnDisk) bool {
	now := b.now()
	return slices.ContainsFunc(l.GivenUp(), func(f index.Listed) bool { return worthAnotherTry(f.Again, now) })
}

// eachOf says whether each of so many numbers is good, looking at several at a time.
func eachOf(count int, good func(worker, i int) bool) bool {
	var failed atomic.Bool
	workers := work.Processors()
	var wg work.Group
	for n := range workers {
		wg.Go(func() {
			for i := count * n / workers; i < count*(n+1)/workers && !failed.Load(); i++ {
				if !good(n, i) {
					failed.Store(true)
				}
			}
		})
	}
	wg.Wait()
	return !failed.Load()
}

// foldersSame says whether the same names are in the folders of the project as were.
func (b *Base) foldersSame(ctx context.Context, l *index.ListingOnDisk) bool {
	if b.tryAgainNow(l) || !b.besideSame(ctx, l) {
		return false
	}
	return eachOf(l.FolderCount(), func(_, i int) bool {
		f, ok := l.FolderAt(i)
		return ok && b.folderSame(f)
	}) && ctx.Err() == nil
}

// compared finds the files that are not as they were when they were listed; ok is
// false if one is gone, or they are too many.
func (b *Base) compared(ctx context.Context, l *index.ListingOnDisk) (changed []project.File, ok bool) {
	parts := make([][]project.File, work.Processors())
	ok = eachOf(l.Len(), func(worker, i int) bool {
		f, ok := l.At(i)
		if !ok {
			return false
		}
		now, there := project.Stat(b.root, f.Path)
		switch {
		case now == f:
		case !there || project.Decides(path.Base(f.Path)) || len(parts[worker]) > mostReread:
			return false
		default:
			parts[worker] = append(parts[worker], now)
		}
		return true
	})
	changed = slices.Concat(parts...)
	return changed, ok && len(changed) <= mostReread && ctx.Err() == nil
}

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
func (b *Base) besideSame(ctx context.Context, s *index.ListingOnDisk) bool {
	now := b.beside()
	before := s.Beside()
	if len(now) != len(before) {
		return false
	}
	for i, f := range now {
		if f == before[i] {
			continue
		}
		if f.Path != before[i].Path || path.Base(f.Path) != project.TrackedBy {
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

// beside are the files outside of a listing that decide what belongs to the project, and a word for it if all does.
func (b *Base) beside() []project.File {
	files := project.Beside(b.root)
	if b.everything.Load() {
		files = append(files, project.File{Path: "everything"})
	}
	return files
}

// settled is how long before the listing a folder must have changed last, so that
// what came to it meanwhile is not missed for good.
const settled = time.Second

// KeepListing writes down what is known of the project as it was listed by Read, for
// Recall, unless that is there already.
func KeepListing(ctx context.Context, b *Base) {
	b.mu.RLock()
	began := b.began
	b.mu.RUnlock()
	if b.indexes == "" || began.IsZero() || ctx.Err() != nil {
		return
	}
	l := b.toKeep(began)
	if before, err := index.OpenListing(b.indexes, b.root); err == nil {
		same := before.Same(l)
		if _ = before.Close(); same { // nothing was written
			return
		}
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
		l.Files = append(l.Files, index.Listed{File: f, Content: b.texts.get(f.Path)})
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
	for _, f := range b.beside() {
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
