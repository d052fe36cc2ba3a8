// Package publish writes out what is known of a project in open formats, for other programs: the tags of POSIX, JSON, one object a
// line, and the Language Server Index Format.
package publish

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/resolve"
)

// Source is what is written out: a project that was read, and what finds out the meaning of its names.
type Source struct {
	Code     *codebase.Base
	Resolver *resolve.Resolver
}

// Symbol is something that is defined by which people look for code, or to which a use leads.
type Symbol struct {
	Path      string
	At        place.Range // its name, in bytes
	Name      string
	Container string
	Kind      facts.Kind
}

// Use is a name that means a symbol.
type Use struct {
	Name      string
	At        place.Range // in bytes
	Access    facts.Role
	Means     Symbol
	Certainty resolve.Certainty
}

// file is what one file says.
type file struct {
	*codebase.File
	language *lang.Language
	symbols  []Symbol
}

// files calls with each file of the project in a language that is read, in the order of their paths, until that fails. What cannot be
// read, or has gone, is passed over.
func (s *Source) files(ctx context.Context, visit func(f *file) error) error {
	var paths []string
	for f := range s.Code.Listing().Files() {
		if s.Code.Languages().Of(f.Path) != nil {
			paths = append(paths, f.Path)
		}
	}
	slices.Sort(paths)
	for _, p := range paths {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		loaded, err := s.Code.Load(ctx, p)
		if err != nil || loaded.Facts == nil {
			continue // which is said where it is read
		}
		f := &file{File: loaded, language: s.Code.Languages().Of(p)}
		for _, id := range loaded.Facts.Symbols() {
			d := &loaded.Facts.Defs[id]
			f.symbols = append(f.symbols, Symbol{p, d.At, d.Name, d.Container, d.Kind})
		}
		if err := visit(f); err != nil {
			return err
		}
	}
	return ctx.Err()
}

// uses are the names in a file that mean something in the project, as far as that is more than a guess, in their order.
func (s *Source) uses(ctx context.Context, f *file) (uses []Use) {
	var at []int
	for i := range f.Facts.Uses {
		at = append(at, int(f.Facts.Uses[i].At.Start))
	}
	for i, a := range s.Resolver.Meanings(ctx, f.Path, at) {
		u := &f.Facts.Uses[i]
		if a.Path == "" || a.At.Len() == 0 || a.Path == f.Path && a.At == u.At {
			continue
		}
		uses = append(uses, Use{u.Name, u.At, u.Role, Symbol{a.Path, a.At, a.Name, a.Container, a.Kind}, a.Certainty})
	}
	slices.SortStableFunc(uses, func(a, b Use) int { return cmp.Compare(a.At.Start, b.At.Start) })
	return slices.CompactFunc(uses, func(a, b Use) bool { return a.At == b.At })
}

// position is a place in a text, line and column from 1, the column in bytes.
func position(doc *text.Document, offset uint32) (line, col int) { return doc.Position(int(offset)) }

// written is an error of an output.
func written(err error) error {
	if err != nil {
		return fmt.Errorf("printing: %w", err)
	}
	return nil
}
