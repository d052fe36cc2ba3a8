package reading

import (
	"context"
	"path"

	"rooktrail/internal/core/file/outline"
	"rooktrail/internal/core/know/codebase"
	"rooktrail/internal/ui/choice"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/sheet"
	"rooktrail/internal/ui/surface"
)

// hops move the caret by meaning within the file.
func (m *Model) hops() surface.Commands {
	all, inside := surface.Commands{}, surface.Commands{
		keymap.PreviousSymbol: func() surface.Intent { return m.nextSymbol(false) },
		keymap.NextSymbol:     func() surface.Intent { return m.nextSymbol(true) },
		keymap.SymbolStart:    func() surface.Intent { return m.toEnd(true) },
		keymap.SymbolEnd:      func() surface.Intent { return m.toEnd(false) },
		keymap.Parent:         m.toParent,
		keymap.Imports:        m.toImports,
	}
	for a, hop := range inside {
		all[a] = func() surface.Intent {
			if f := m.host.Code().File(); f == nil || f.Facts == nil {
				return m.host.Here().Lack("no functions, types or sections are known in this file")
			}
			return hop()
		}
	}
	all[keymap.Bracket] = m.toBracket
	return all
}

func (m *Model) hopTo(offset int) surface.Intent {
	m.host.Code().To(offset)
	return surface.Intent{Caret: true}
}

func (m *Model) nextSymbol(forward bool) surface.Intent {
	c := m.host.Code()
	if c.Solo().Len() > 0 {
		return m.soloHop(forward)
	}
	at, ok := outline.Hop(c.File().Facts, c.Offset(), forward)
	switch {
	case ok:
		return m.hopTo(int(at.Start))
	case forward:
		return surface.Say("there is no function or type further down")
	}
	return surface.Say("there is no function or type further up")
}

func (m *Model) toParent() surface.Intent {
	c := m.host.Code()
	at, ok := outline.Parent(c.File().Facts, c.Offset())
	if !ok {
		return surface.Say("nothing is around this")
	}
	return m.hopTo(int(at.Start))
}

// toEnd goes to the beginning or the end of the function or type one is in.
func (m *Model) toEnd(start bool) surface.Intent {
	c := m.host.Code()
	for _, id := range outline.Around(c.File().Facts, c.Offset()) {
		full := c.File().Facts.Defs[id].Full
		offset := int(full.End)
		if start {
			offset = int(full.Start)
		} else if offset > int(full.Start) {
			offset-- // on its last character
		}
		if offset != c.Offset() { // from an end, that of what is around
			return m.hopTo(offset)
		}
	}
	return surface.Say("the caret is in no function or type")
}

// toImports goes to the first import, and from there back to where one was.
func (m *Model) toImports() surface.Intent {
	c := m.host.Code()
	f := c.File()
	if len(f.Facts.Imports) == 0 {
		return surface.Say("%s imports nothing", path.Base(f.Path))
	}
	first := f.Facts.Imports[0].At
	for _, imp := range f.Facts.Imports {
		if imp.At.Start < first.Start {
			first = imp.At
		}
	}
	if b := m.beforeImports; b != nil && b.path == f.Path && c.Offset() == int(first.Start) {
		m.beforeImports = nil
		return m.hopTo(b.offset)
	}
	m.beforeImports = &spot{f.Path, c.Offset()}
	return m.hopTo(int(first.Start))
}

// toBracket goes to the other end of the bracket, the block or the tag at the
// caret, which may take a look at the whole file.
func (m *Model) toBracket() surface.Intent {
	c := m.host.Code()
	f, offset := c.File(), c.Offset()
	if f == nil {
		return surface.Intent{}
	}
	type end struct {
		at int
		ok bool
	}
	return surface.Begin(surface.Ask(m.host.Way(), func(ctx context.Context) end {
		at, ok := m.project.Ground(ctx, f).OtherEnd(offset)
		return end{at, ok}
	}, func(e end) surface.Intent {
		if !e.ok {
			return surface.Say("there is no bracket, block or tag here, and none around")
		}
		return m.hopTo(e.at)
	}))
}

// relatives lists the files that go with a file, such as its tests, or the header of a source.
type relatives struct {
	host    Host
	project Grounds
	keys    keymap.Map
	list    choice.Surface
}

func newRelatives(host Host, project Grounds, keys keymap.Map) *relatives {
	return &relatives{host: host, project: project, keys: keys}
}

// open goes to the only file that goes with the present one, or lets one choose among several; the key that
// opened the list goes round in it.
func (r *relatives) open() surface.Intent {
	here := r.host.Here()
	file, project := here.View.Place.Path, r.project
	if file == "" {
		return here.Lack("")
	}
	return surface.Begin(surface.Ask(r.host.Way(), func(ctx context.Context) []codebase.Related { return project.Related(ctx, file) }, func(all []codebase.Related) surface.Intent {
		name := path.Base(file)
		if len(all) == 0 {
			return surface.Say("no file goes with %s: no test, no header or style, no file of its name", name)
		}
		var rows []choice.Row
		for _, one := range all {
			v := surface.Visit{Path: one.Path, How: one.Relation.String() + " of " + name}
			if len(all) == 1 {
				return surface.Go(v).And(surface.Say("%s: %s", one.Relation, one.Path))
			}
			rows = append(rows, choice.Row{Row: sheet.Row{What: one.Relation.String(), Name: path.Base(one.Path), Where: path.Dir(one.Path) + "/"}, Look: &v})
		}
		r.list.Round = r.keys.Name(keymap.Related)
		return r.list.Open("files that go with "+name, "go there", rows)
	}))
}
