package rename

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"

	"rooktrail/internal/core/change/proposal"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/file/text"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/core/know/hunk"
	"rooktrail/internal/core/know/resolve"
)

// declared finds the line in which a file says which package it belongs to.
var declared = regexp.MustCompile(`(?m)^\s*package\s+([\w.]+)`)

// packages changes what the files say of the package they belong to, and what names it.
func (m *mover) packages() error {
	for p, to := range m.files {
		f, l := m.file(p), m.code.Languages().Of(p)
		if f == nil || f.Facts == nil || f.Facts.Package == "" || l == nil || path.Dir(p) == path.Dir(to) {
			continue
		}
		at := declared.FindSubmatchIndex(f.Text.Bytes())
		if at == nil || string(f.Text.Bytes()[at[2]:at[3]]) != f.Facts.Package {
			continue
		}
		now, ok := m.packageOf(l, f, to)
		if ok && now != f.Facts.Package {
			m.put(f, place.Range{Start: uint32(at[2]), End: uint32(at[3])}, now, "package", proposal.Sure)
		}
		if err := m.left(f, l, now); err != nil {
			return err
		}
	}
	if m.folder {
		return m.qualified()
	}
	return m.ctx.Err()
}

// packageOf is the package that a file belongs to at another path.
func (m *mover) packageOf(l *lang.Language, f *codebase.File, to string) (string, bool) {
	if l.Scopes.Sees == lang.SeesTypes { // as its folders are called
		was, now := path.Dir(f.Path), path.Dir(to)
		if !strings.HasSuffix("/"+was, "/"+strings.ReplaceAll(f.Facts.Package, ".", "/")) {
			return "", false
		}
		front := strings.TrimSuffix(was, strings.ReplaceAll(f.Facts.Package, ".", "/"))
		rest, under := strings.CutPrefix(now+"/", front)
		return strings.ReplaceAll(strings.TrimSuffix(rest, "/"), "/", "."), under
	}
	if m.folder {
		name, test := strings.CutSuffix(f.Facts.Package, "_test")
		if name != path.Base(m.from) || path.Dir(f.Path) != m.from {
			return "", false
		}
		now := path.Base(m.to)
		if _, ok := l.Names.Allows(now); !ok {
			return "", false
		}
		if test {
			now += "_test"
		}
		return now, true
	}
	for other := range m.code.Listing().Files() { // that of those it comes to
		if path.Dir(other.Path) == path.Dir(to) && m.code.Languages().Of(other.Path) == l {
			if o := m.file(other.Path); o != nil && o.Facts != nil && o.Facts.Package != "" && !strings.HasSuffix(o.Facts.Package, "_test") {
				return o.Facts.Package, true
			}
		}
	}
	name := path.Base(path.Dir(to))
	_, ok := l.Names.Allows(name)
	return name, ok
}

// left changes what a file and those beside it have seen of each other without saying so, if it goes elsewhere alone.
func (m *mover) left(f *codebase.File, l *lang.Language, now string) error {
	if m.folder {
		return nil
	}
	if l.Scopes.Sees != lang.SeesTypes {
		m.proposal.Warn(proposal.Warning{Path: f.Path, Line: 1, Col: 1, Text: "it belongs to another package then; what it sees of those beside it now, and they of it, is not changed"})
		return nil
	}
	type file struct {
		f   *codebase.File
		add []facts.Imported
	}
	var change []file
	mine := file{f: f}
	own := map[string]bool{}
	for i := range f.Facts.Defs {
		if d := &f.Facts.Defs[i]; d.Container == "" && d.Scope == 0 && d.Kind.IsType() {
			own[d.Name] = true
		}
	}
	for other := range m.code.Listing().Files() {
		if path.Dir(other.Path) != path.Dir(f.Path) || other.Path == f.Path || m.code.Languages().Of(other.Path) != l {
			continue
		}
		o := m.file(other.Path)
		if o == nil || o.Facts == nil {
			continue
		}
		theirs := file{f: o}
		for name := range own {
			if uses(o.Facts, name) {
				theirs.add = append(theirs.add, facts.Imported{Path: now + "." + name})
			}
		}
		for i := range o.Facts.Defs {
			if d := &o.Facts.Defs[i]; d.Container == "" && d.Scope == 0 && d.Kind.IsType() && uses(f.Facts, d.Name) {
				mine.add = append(mine.add, facts.Imported{Path: f.Facts.Package + "." + d.Name})
			}
		}
		change = append(change, theirs)
	}
	for _, c := range append(change, mine) {
		if len(c.add) == 0 {
			continue
		}
		out, err := l.Importing.Change(m.ctx, c.f.Text.Bytes(), nil, c.add)
		if err != nil {
			return err
		}
		d := hunk.Compare(text.NewDocument(out), c.f.Text)
		for _, h := range d.Hunks {
			e := d.Back(h)
			m.put(c.f, place.Range{Start: uint32(e.Start), End: uint32(e.End)}, string(e.New), "import", proposal.Sure)
		}
	}
	return nil
}

// uses says whether a file uses a name that stands by itself.
func uses(f *facts.File, name string) bool {
	return slices.ContainsFunc(f.Uses, func(u facts.Use) bool {
		return u.Name == name && u.Base == facts.NoExpr && u.Role != facts.ImportUse
	})
}

// qualified changes the name of a package where it stands in front of what is in it, if its files are called otherwise
// then.
func (m *mover) qualified() error {
	was, now := path.Base(m.from), path.Base(m.to)
	if was == now {
		return nil
	}
	named := false
	for p := range m.files {
		l, f := m.code.Languages().Of(p), m.file(p)
		if l != nil && f != nil && f.Facts != nil && l.Scopes.Sees == lang.SeesFolder && f.Facts.Package == was && path.Dir(p) == m.from {
			named = true
		}
	}
	if !named {
		return nil
	}
	if l := m.code.Languages(); l != nil {
		for p := range m.written {
			f := m.file(p)
			if f == nil || f.Facts == nil || l.Of(p).Scopes.Sees != lang.SeesFolder {
				continue
			}
			m.qualifiedIn(f, l.Of(p), was, now)
		}
	}
	return m.ctx.Err()
}

func (m *mover) qualifiedIn(f *codebase.File, l *lang.Language, was, now string) {
	resolver := resolve.New(m.code)
	for i := range f.Facts.Defs {
		d := &f.Facts.Defs[i]
		if d.Import == 0 {
			continue
		}
		imp := f.Facts.Imports[d.Import-1]
		if imp.Alias != "" || m.importsOf(l).Module(f.Path, imp) != m.from {
			continue
		}
		for _, u := range f.Facts.Uses {
			if u.Name != was || u.Base != facts.NoExpr || u.Role == facts.ImportUse {
				continue
			}
			if a := resolver.Meanings(m.ctx, f.Path, []int{int(u.At.Start)})[0]; a.Path == f.Path && a.Kind != facts.Import {
				continue // something else of that name
			}
			m.put(f, u.At, now, "use", proposal.Sure)
		}
		for _, o := range f.Facts.Defs { // what would hide the package then
			if o.Name == now && f.Facts.Local(&o) {
				line, col := f.Text.Position(int(o.At.Start))
				m.proposal.Warn(proposal.Warning{Path: f.Path, Line: line, Col: col, Text: fmt.Sprintf("there is a %s %s here, which may hide the package", o.Kind, now)})
				break
			}
		}
	}
}
