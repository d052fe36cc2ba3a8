package restructure

import (
	"cmp"
	"maps"
	"path"
	"slices"
	"strings"
	"unicode"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/resolve"
)

// importing is what a file imports otherwise after a change: what it did not need before, and what it does not need any
// more.
type importing struct {
	file *codebase.File
	// add are imports by the names that they make known; those of which nothing comes in the end are left out.
	add  map[string]facts.Imported
	drop []place.Range
}

// importOf is the import that makes a name known in a file; ok is false if none does.
func (s *scene) importOf(name string) (imp facts.Imported, at place.Range, ok bool) {
	f := s.file.Facts
	for i := range f.Defs {
		d := &f.Defs[i]
		if d.Name == name && d.Import > 0 && d.Scope == 0 && (d.Kind == facts.Import || d.Kind == facts.Package) {
			imp = f.Imports[d.Import-1]
			if at = d.At; at.Len() == 0 {
				at = imp.At
			}
			return imp, at, true
		}
	}
	return imp, at, false
}

// carries says whether an import means the same in the file, so that it can be taken along: not if it is relative, and the file
// lies elsewhere.
func (s *scene) carries(imp facts.Imported, home *scene) bool {
	near := imp.Level == 0 && !strings.HasPrefix(imp.Path, ".")
	return near || path.Dir(s.path) == path.Dir(home.path)
}

// imports has the file import what a name of another file means there, if it does not do so already; ok is false if it
// cannot.
func (s *scene) imports(name string, home *scene) (ok bool) {
	imp, _, known := home.importOf(name)
	if !known || !s.carries(imp, home) {
		return false
	}
	if own, _, has := s.importOf(name); has {
		return own.Path == imp.Path && own.Name == imp.Name && own.Level == imp.Level
	}
	if s.resolver.Beside(s.ctx, s.path, 0, name) != nil {
		return false // it means something else there
	}
	imp.At = place.Range{}
	s.importing().add[name] = imp
	return true
}

// forget has the file import no more what only a part of it needed that goes away.
func (s *scene) forget(gone place.Range) {
	seen := map[string]bool{}
	for _, u := range s.file.Facts.Uses {
		if !inside(u.At, gone) || u.Base != facts.NoExpr || seen[u.Name] {
			continue
		}
		seen[u.Name] = true
		imp, at, ok := s.importOf(u.Name)
		if !ok || s.lang.Importing.Stays(imp, u.Name, s.text) || slices.ContainsFunc(s.file.Facts.Uses, func(o facts.Use) bool {
			return o.Name == u.Name && !inside(o.At, gone) && !inside(o.At, at)
		}) {
			continue
		}
		s.importing().drop = append(s.importing().drop, at)
	}
}

func (s *scene) importing() *importing {
	if s.imported[s.path] == nil {
		s.imported[s.path] = &importing{file: s.file, add: map[string]facts.Imported{}}
	}
	return s.imported[s.path]
}

// named are the imports whose names stand in what is written into the file.
func (i *importing) named(f *proposal.File) (all []facts.Imported) {
	for _, name := range slices.Sorted(maps.Keys(i.add)) {
		if f != nil && slices.ContainsFunc(f.Places, func(p proposal.Place) bool { return hasWord(p.New, name) }) {
			all = append(all, i.add[name])
		}
	}
	return all
}

// hasWord says whether a word stands in a text, not as a part of another one.
func hasWord(s, word string) bool {
	return slices.Contains(strings.FieldsFunc(s, func(r rune) bool { return r != '_' && !unicode.IsLetter(r) && !unicode.IsDigit(r) }), word)
}

// importOtherwise adds to the change what files import otherwise after it.
func (s *scene) importOtherwise() error {
	for p, i := range s.imported {
		out, err := s.lang.Importing.Change(s.ctx, i.file.Text.Bytes(), i.drop, i.named(s.proposal.File(p)))
		if err != nil {
			return err
		}
		d := hunk.Compare(text.NewDocument(out), i.file.Text)
		slices.SortFunc(d.Hunks, func(a, b hunk.Hunk) int { return cmp.Compare(a.Now.First, b.Now.First) })
		for _, h := range d.Hunks {
			e := d.Back(h)
			s.proposal.Add(p, func() *text.Document { return i.file.Text }, proposal.Place{At: place.Range{Start: uint32(e.Start), End: uint32(e.End)}, New: string(e.New), What: "import", Certainty: resolve.Inferred})
		}
	}
	return nil
}
