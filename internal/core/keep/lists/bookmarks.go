package lists

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"rooktrail/internal/core/disk/atomicfile"
	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/keep/bookmark"
	"rooktrail/internal/core/keep/walk"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/project"
)

// KnowBookmarks keeps the bookmarks of the project in a folder.
func (k *Keeper) KnowBookmarks(folder string) { k.bookmarks = bookmark.NewStore(folder) }

// Bookmarks are the lists that were kept, and those that the project shares. With an
// error, too, what could be read is there.
func (k *Keeper) Bookmarks() (lists []*bookmark.List, err error) {
	var errs []error
	if k.bookmarks != nil {
		own, err := k.bookmarks.Load()
		lists, errs = own, append(errs, err)
	}
	slices.SortStableFunc(lists, func(a, b *bookmark.List) int { return a.Made.Compare(b.Made) })
	shared, err := k.sharedBookmarks()
	return append(lists, shared...), errors.Join(append(errs, err)...)
}

// sharedBookmarks reads the lists that lie in the project. They are only looked at; a link
// in their place is not followed.
func (k *Keeper) sharedBookmarks() (lists []*bookmark.List, err error) {
	var errs []error
	files, _ := filepath.Glob(filepath.Join(k.code.Root(), filepath.FromSlash(bookmark.SharedFolder), "*.toml")) // the pattern is well formed
	for _, full := range files {
		file := k.code.Relative(full)
		if info, err := os.Lstat(full); err != nil || !info.Mode().IsRegular() {
			continue
		}
		data, err := door.ReadWithin(k.code.Root(), file, bookmark.LargestShared)
		if errors.Is(err, door.ErrTooLarge) {
			err = fmt.Errorf("the file %s is larger than %d MB", file, bookmark.LargestShared>>20)
		}
		if err != nil {
			errs = append(errs, fmt.Errorf("reading shared bookmarks: %w", err))
			continue
		}
		l, refused, err := bookmark.ReadShared(file, data)
		if l != nil {
			lists = append(lists, l)
		}
		if len(refused) > 0 {
			err = errors.Join(err, fmt.Errorf("bookmarks in %s that leave the project are refused: %s", file, strings.Join(refused, ", ")))
		}
		errs = append(errs, err)
	}
	return lists, errors.Join(errs...)
}

// KeepBookmarks keeps a list as it is now. It brings the given one up to date with what
// another program has done to it.
func (k *Keeper) KeepBookmarks(l *bookmark.List) error {
	if k.bookmarks == nil || l.Shared != "" {
		return nil
	}
	return k.bookmarks.Save(l)
}

// RemoveBookmarks forgets a list.
func (k *Keeper) RemoveBookmarks(l *bookmark.List) error {
	if k.bookmarks == nil {
		return nil
	}
	return k.bookmarks.Remove(l.ID)
}

// ErrNotWritten says that a file was not written because it is there already.
var ErrNotWritten = errors.New("it is there already")

// ShareBookmarks writes a list into the project, for others to read, and says in which file
// it lies. One that is there is only written over if that is wanted.
func (k *Keeper) ShareBookmarks(l *bookmark.List, over bool) (file string, err error) {
	file = bookmark.SharedFile(l.Name)
	data, err := l.Share()
	if err != nil {
		return file, err
	}
	full := k.code.Absolute(file)
	if err := k.ownFolder(path.Dir(file)); err != nil {
		return file, fmt.Errorf("sharing the list %q: %w", l.Name, err)
	}
	if info, err := os.Lstat(full); err == nil && (!over || !info.Mode().IsRegular()) {
		return file, fmt.Errorf("sharing the list %q in %s: %w", l.Name, file, ErrNotWritten)
	}
	if err := atomicfile.Write(full, data, 0o644); err != nil {
		return file, fmt.Errorf("sharing the list %q: %w", l.Name, project.WithoutPath(err))
	}
	return file, nil
}

// ownFolder says whether a folder of the project is one, or can be made: none of what is above it
// may be a link, which could lead what is written there out of the project.
func (k *Keeper) ownFolder(folder string) error {
	for at := folder; at != "." && at != "/"; at = path.Dir(at) {
		if info, err := os.Lstat(k.code.Absolute(at)); err == nil && !info.IsDir() {
			return fmt.Errorf("%s is a link or a file, not a folder; nothing is written through it", at)
		}
	}
	return nil
}

// Bookmark makes a bookmark on a place of a file, without a line on the file as a whole.
func (k *Keeper) Bookmark(f *codebase.File, p place.Place, kind bookmark.Kind) bookmark.Mark {
	m := bookmark.Mark{Kind: kind}
	switch kind {
	case bookmark.File, bookmark.Folder:
		m.Memory = place.Remember(place.Anchor{Path: p.Path, Line: 1, Col: 1})
		return m
	case bookmark.Symbol:
		if e, ok := innermost(f, f.Text.Offset(p.Line, p.Col)); ok {
			p.Line, p.Col = f.Text.Position(int(e.At.Start))
		}
	}
	m.Memory = place.Remember(AnchorIn(f, p))
	m.What = codebase.SymbolAt(f, p.Line, p.Col)
	return m
}

// innermost is the symbol that stands around an offset.
func innermost(f *codebase.File, offset int) (outline.Entry, bool) {
	entries, _ := f.Outline()
	symbols := slices.DeleteFunc(slices.Clone(entries), func(e outline.Entry) bool {
		return !outline.Everything.Holds(e.Kind) || outline.Sections.Holds(e.Kind)
	})
	if i := outline.Innermost(symbols, offset); i >= 0 {
		return symbols[i], true
	}
	return outline.Entry{}, false
}

// LocateBookmarks finds all bookmarks of a list again and notes what became of them.
func (k *Keeper) LocateBookmarks(ctx context.Context, l *bookmark.List) {
	byFile := map[string][]int{}
	for i := range l.Marks {
		if m := &l.Marks[i]; !m.IsRemoved() {
			byFile[m.Path] = append(byFile[m.Path], i)
		}
	}
	paths := slices.Sorted(maps.Keys(byFile))
	k.findMoved(ctx, paths)
	for _, p := range paths {
		if ctx.Err() != nil {
			return
		}
		var inside []*bookmark.Mark
		for _, i := range byFile[p] {
			if m := &l.Marks[i]; m.Kind == bookmark.File || m.Kind == bookmark.Folder {
				k.locateWhole(ctx, m)
			} else {
				inside = append(inside, m)
			}
		}
		if len(inside) == 0 {
			continue
		}
		f, err := k.loadAnchored(ctx, &inside[0].Memory)
		if err != nil {
			for _, m := range inside {
				m.Fate = place.Gone
			}
			continue
		}
		LocateIn(f, inside)
	}
}

// locateWhole finds a file or folder again.
func (k *Keeper) locateWhole(ctx context.Context, m *bookmark.Mark) {
	m.Fate = place.Same
	if _, err := os.Stat(k.code.Absolute(m.Path)); err == nil {
		return
	}
	now := ""
	if m.Kind == bookmark.File {
		now = k.Whereabouts(ctx, m.Path, m.Former)
	}
	if now == "" {
		m.Fate = place.Gone
		return
	}
	m.MoveTo(now)
	m.Fate = place.Moved
}

// LocateIn finds bookmarks again in a file that is loaded.
func LocateIn(f *codebase.File, marks []*bookmark.Mark) {
	if !f.Text.Whole() || f.Text.Binary() {
		return
	}
	found := finder(f)
	symbols := symbolsNamed(f, marks)
	for _, m := range marks {
		if all := symbols[m.What]; m.Kind == bookmark.Symbol && len(all) > 0 {
			e := nearestTo(f, all, m.Line)
			line, col := f.Text.Position(int(e.At.Start))
			m.Fate = place.Same
			if line != m.Line {
				m.Fate = place.Moved
			}
			m.Found(AnchorIn(f, place.Place{Path: f.Path, Line: line, Col: col}))
			continue
		}
		if m.Text == "" && m.Before == nil && m.After == nil { // an empty file, or all that is known is the line
			m.Fate = place.Same
			continue
		}
		m.Fate = update(found, f, &m.Memory)
	}
}

// symbolsNamed are the symbols of a file on which there are bookmarks, by their qualified
// names.
func symbolsNamed(f *codebase.File, marks []*bookmark.Mark) map[string][]outline.Entry {
	wanted := map[string]bool{}
	for _, m := range marks {
		if m.Kind == bookmark.Symbol && m.What != "" {
			wanted[m.What[strings.LastIndexByte(m.What, '.')+1:]] = true
		}
	}
	all := map[string][]outline.Entry{}
	if len(wanted) == 0 {
		return all
	}
	entries, _ := f.Outline()
	for _, e := range entries {
		if wanted[e.Name[strings.LastIndexByte(e.Name, '.')+1:]] {
			line, col := f.Text.Position(int(e.At.Start))
			name := codebase.SymbolAt(f, line, col)
			all[name] = append(all[name], e)
		}
	}
	return all
}

// nearestTo is the symbol of several of the same name that is nearest to a line.
func nearestTo(f *codebase.File, all []outline.Entry, line int) outline.Entry {
	return slices.MinFunc(all, func(a, b outline.Entry) int {
		x, _ := f.Text.Position(int(a.At.Start))
		y, _ := f.Text.Position(int(b.At.Start))
		return max(x-line, line-x) - max(y-line, line-y)
	})
}

// IsFolder says whether the project has a folder of this path on disk.
func (k *Keeper) IsFolder(p string) bool {
	info, err := os.Stat(k.code.Absolute(p))
	return err == nil && info.IsDir()
}

// WalkOfBookmarks makes a guided walk of a list, with the code around each.
func (k *Keeper) WalkOfBookmarks(ctx context.Context, l *bookmark.List) *walk.Walk {
	out := walk.OfBookmarks(l, k.code.Name())
	k.fillWalk(ctx, out)
	return out
}

// WriteWalk writes a guided walk into a file: as JSON if that ends in .json, else as
// Markdown. One that is there is not written over. A path that is not absolute is meant from
// the root of the project.
func (k *Keeper) WriteWalk(out *walk.Walk, file string) (err error) {
	if !filepath.IsAbs(file) {
		file = filepath.Join(k.code.Root(), filepath.FromSlash(file))
	}
	f, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o644)
	if errors.Is(err, fs.ErrExist) {
		return fmt.Errorf("writing %s: %w; choose another name", file, ErrNotWritten)
	}
	if err != nil {
		return fmt.Errorf("writing the walk: %w", err)
	}
	if path.Ext(file) == ".json" {
		err = out.WriteJSON(f)
	} else {
		err = out.WriteMarkdown(f)
	}
	if closeErr := f.Close(); err == nil && closeErr != nil {
		err = fmt.Errorf("writing the walk: %w", closeErr)
	}
	return err
}

// LocateWalk finds the stops of a walk in this project, and says what became of each. Those whose
// symbol is in another file by now are found if the project is read.
func (k *Keeper) LocateWalk(ctx context.Context, out *walk.Walk) []place.Fate {
	fates := make([]place.Fate, len(out.Stops))
	for i := range out.Stops {
		s := &out.Stops[i]
		m := place.Remember(s.Anchor)
		switch {
		case s.Kind != "":
			if _, err := os.Stat(k.code.Absolute(s.Path)); err != nil {
				fates[i] = place.Gone
			}
		case s.Text == "" && s.Before == nil:
			if _, err := k.loadAnchored(ctx, &m); err != nil {
				fates[i] = place.Gone
			}
		default:
			fate, err := k.Find(ctx, &m)
			if fates[i] = fate; err == nil && fate != place.Gone {
				s.Anchor = m.Anchor
			}
		}
	}
	k.locateSymbols(ctx, out, fates)
	return fates
}

// locateSymbols finds stops of a walk that are gone by the symbol they stood in, which may have
// moved to another file.
func (k *Keeper) locateSymbols(ctx context.Context, out *walk.Walk, fates []place.Fate) {
	for i := range out.Stops {
		s := &out.Stops[i]
		if fates[i] != place.Gone || s.What == "" || s.Kind != "" || !k.code.Progress().Done {
			continue
		}
		if now, ok := k.symbolElsewhere(ctx, s.What, s.Path); ok {
			m := place.Remember(s.Anchor)
			m.MoveTo(now.Path)
			if fate, err := k.Find(ctx, &m); err == nil && fate != place.Gone && fate != place.Changed {
				now = m.Anchor
			}
			s.Anchor, fates[i] = now, place.Moved
		}
	}
}

// UntilRead waits until a project is read that somebody is reading; it is false if ctx ended
// before.
func (k *Keeper) UntilRead(ctx context.Context) bool {
	for {
		changed := k.code.Changed()
		if k.code.Progress().Done {
			return true
		}
		select {
		case <-changed:
		case <-ctx.Done():
			return false
		}
	}
}

// symbolElsewhere is the only symbol of a qualified name in another file of the project.
func (k *Keeper) symbolElsewhere(ctx context.Context, qualified, not string) (at place.Anchor, ok bool) {
	found := 0
	for _, sym := range k.code.Index().Named(qualified[strings.LastIndexByte(qualified, '.')+1:]) {
		f, err := k.code.Load(ctx, sym.Path)
		if err != nil || sym.Path == not {
			continue
		}
		line, col := f.Text.Position(sym.Offset)
		if codebase.SymbolAt(f, line, col) == qualified {
			at = AnchorIn(f, place.Place{Path: sym.Path, Line: line, Col: col})
			found++
		}
	}
	return at, found == 1
}
