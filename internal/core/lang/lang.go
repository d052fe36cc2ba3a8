// Package lang knows the languages: which files are written in which, and how
// to get facts from their text. Each language has a folder of its own below.
package lang

import (
	"context"
	"path"
	"strings"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/place"
)

// Extractor reads the facts from the text of one file. Broken syntax is not an
// error: it gives what can be had.
type Extractor func(ctx context.Context, text []byte) (*facts.File, error)

// Cutter reads the ranges of the parts of a text, those with others inside them
// as well, in no particular order. Broken syntax gives what can be had.
type Cutter func(ctx context.Context, text []byte) ([]place.Range, error)

// Language is one that facts can be had from.
type Language struct {
	// Name is what people call it.
	Name string
	// Extensions are those of its files, with the dot, in small letters.
	Extensions []string
	// Names are those of files that need no extension.
	Names []string
	// Facts reads a file.
	Facts Extractor
	// Pieces reads where the expressions, statements and other parts of a file
	// stand; nil where the language has no tree to tell.
	Pieces Cutter
	// Shorthands reads where a name stands for a member and for the value of the same name at
	// once, as in { depth }; nil where the language has no such thing.
	Shorthands Cutter
}

// Set is a choice of languages, found by the names of files.
type Set struct {
	byExtension map[string]*Language
	byName      map[string]*Language
}

// NewSet puts languages together. Where two claim an extension, the first has
// it.
func NewSet(languages ...*Language) *Set {
	s := &Set{byExtension: map[string]*Language{}, byName: map[string]*Language{}}
	for _, l := range languages {
		for _, e := range l.Extensions {
			if s.byExtension[e] == nil {
				s.byExtension[e] = l
			}
		}
		for _, n := range l.Names {
			if s.byName[n] == nil {
				s.byName[n] = l
			}
		}
	}
	return s
}

// Of returns the language of a file, or nil if it is none of the set.
func (s *Set) Of(file string) *Language {
	base := path.Base(file)
	if l := s.byName[base]; l != nil {
		return l
	}
	return s.byExtension[strings.ToLower(path.Ext(base))]
}
