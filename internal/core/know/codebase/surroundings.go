package codebase

import (
	"context"
	"path"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/door"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/project"
)

// surroundings are, by the families of languages, what files say of how others are to be read.
type surroundings struct {
	mu sync.Mutex
	of map[string]lang.Surroundings
}

// around is what is known of the files around those of a language; nil if they say all of it themselves.
func (b *Base) around(l *lang.Language) lang.Surroundings {
	s := &b.surroundings
	s.mu.Lock()
	defer s.mu.Unlock()
	found, ok := s.of[l.Family]
	if !ok {
		if s.of == nil {
			s.of = map[string]lang.Surroundings{}
		}
		found = l.Surroundings(l, unkept{b})
		s.of[l.Family] = found
	}
	return found
}

// buildWords stand for what builds say of how files are read; "" where they say nothing.
func (b *Base) buildWords() (all string) {
	seen := map[string]bool{}
	for _, l := range b.languages.All() {
		if seen[l.Family] {
			continue
		}
		seen[l.Family] = true
		if s := b.around(l); s != nil {
			all += s.Words()
		}
	}
	return all
}

// forgetSurroundings has all of it read anew, as when files have come or gone.
func (b *Base) forgetSurroundings() {
	b.surroundings.mu.Lock()
	defer b.surroundings.mu.Unlock()
	b.surroundings.of = nil
}

// macros are those that a file defines, as the index knows it, or as it last did.
func (b *Base) macros(p string) (names []string) {
	sum := b.symbols.Summary(p)
	if sum == nil {
		if sum = b.symbols.Earlier(p); sum == nil {
			return nil
		}
	}
	all, err := sum.Symbols(p)
	if err != nil {
		return nil // it is read anew
	}
	for i := range all {
		if all[i].Kind == facts.Macro {
			names = append(names, all[i].Name)
		}
	}
	return names
}

// saidBefore keeps what files say that others are read by, for when the index does not know it any more.
func (b *Base) saidBefore(files []project.File) func(p string) []string {
	said := map[string][]string{}
	for _, f := range b.readByOthers(files) {
		if names := b.macros(f.Path); len(names) > 0 {
			said[f.Path] = names
		}
	}
	return func(p string) []string { return said[p] }
}

// unkept is a project the texts of which are read each time: there are too many of them to keep.
type unkept struct{ *Base }

// Text implements lang.Project.
func (u unkept) Text(p string) []byte {
	if f := u.unsaved.get(p); f != nil {
		return f.Text.Bytes()
	}
	var data []byte
	var err error
	if path.IsAbs(p) {
		if u.machine == nil {
			return nil
		}
		data, err = u.machine.Settings(p)
	} else {
		data, err = door.ReadWithin(u.root, p, largestParsed)
	}
	if err != nil {
		return nil // it says nothing then
	}
	return data
}

// Includes implements lang.Indexed.
func (u unkept) Includes(p string) ([]facts.Imported, bool) {
	if !u.settled.Load() || path.IsAbs(p) || u.unsaved.get(p) != nil {
		return nil, false
	}
	return u.ImportsOf(p)
}

// Defining implements lang.Indexed.
func (u unkept) Defining(name string, kind facts.Kind) (files []string, ok bool) {
	if !u.settled.Load() {
		return nil, false
	}
	return u.symbols.Defining(name, kind), true
}

// readingOf is how a file is read: its language, and what those around it say of that.
func (b *Base) readingOf(l *lang.Language, p string, text []byte) string {
	if s := b.around(l); s != nil {
		return l.Name + "\x00" + s.Digest(p, text)
	}
	return l.Name
}

// FactsAs reads the facts of a file as if it had another text.
func (b *Base) FactsAs(ctx context.Context, p string, text []byte) (*facts.File, error) {
	l := b.languages.Of(p)
	if l == nil {
		return nil, errNoFacts
	}
	return l.ReadAt(ctx, b.around(l), p, text)
}

// readByOthers are those of some files of which others say how they are read.
func (b *Base) readByOthers(files []project.File) []project.File {
	return slices.DeleteFunc(slices.Clone(files), func(f project.File) bool {
		l := b.languages.Of(f.Path)
		return l == nil || b.around(l) == nil
	})
}

// dependents are the files that may have to be read anew because others have changed that they include, but for those; away
// says that nobody saw how these were before, said gives what the index knew of that.
func (b *Base) dependents(changed []project.File, away bool, said func(p string) []string) (files []project.File) {
	seen := map[string]bool{}
	for _, f := range changed {
		seen[f.Path] = true
	}
	for _, f := range b.readByOthers(changed) {
		l := b.languages.Of(f.Path)
		names, known := b.around(l).Changed(f.Path)
		if away || !known {
			names = append(said(f.Path), b.around(l).Says(f.Path)...)
		}
		for _, name := range names {
			for _, p := range b.Mentioning(name) {
				if d, ok := b.Listing().File(p); ok && !seen[p] && b.languages.Of(p) != nil && b.languages.Of(p).Family == l.Family {
					seen[p] = true
					files = append(files, d)
				}
			}
		}
	}
	slices.SortFunc(files, func(a, b project.File) int { return strings.Compare(a.Path, b.Path) })
	return files
}
