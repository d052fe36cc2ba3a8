package answer

import (
	"cmp"
	"os"
	"path"
	"slices"
	"strings"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/codebase"
)

// Step is one breadcrumb: the project, a folder, a file or a symbol.
type Step struct {
	Name string
	// Path is that of the folder or file; of a symbol, of its file. It is "." for
	// the project, and "" for a folder outside it.
	Path string
	// Folder says that it is the project or a folder, Symbol that it is a symbol.
	Folder, Symbol bool
	// At is the name of a symbol, where it stands in the file.
	At place.Range
}

// Steps are the breadcrumbs of a file and of the symbols around a place in it,
// from the project inwards.
func (g *Guide) Steps(file string, symbols []codebase.Crumb) []Step {
	steps := []Step{{Name: g.code.Name(), Path: ".", Folder: true}}
	if file == "" {
		return steps
	}
	steps = append(steps, foldersOf(path.Dir(file))...)
	steps = append(steps, Step{Name: path.Base(file), Path: file})
	for _, c := range symbols {
		if c.Kind != facts.Package {
			steps = append(steps, Step{Name: c.Name, Path: file, Symbol: true, At: c.At})
		}
	}
	return steps
}

// FolderSteps are the breadcrumbs that lead to a folder.
func (g *Guide) FolderSteps(folder string) []Step {
	return append([]Step{{Name: g.code.Name(), Path: ".", Folder: true}}, foldersOf(folder)...)
}

func foldersOf(folder string) (steps []Step) {
	if folder == "." || folder == "/" {
		return nil
	}
	parts := strings.Split(folder, "/")
	for i, name := range parts {
		if name == "" {
			name = "/"
		}
		steps = append(steps, Step{Name: name, Path: cmp.Or(strings.Join(parts[:i+1], "/"), "/"), Folder: true})
	}
	return steps
}

// Sibling is what stands beside a breadcrumb.
type Sibling struct {
	Name string
	// Path is that of a file or folder; "" for a symbol.
	Path   string
	Folder bool
	// Kind and At are those of a symbol, Line is where it stands, counted from 1.
	Kind facts.Kind
	At   place.Range
	Line int
}

// Siblings lists what stands beside a step of the breadcrumbs of a file: the
// files and folders of its folder, or the members of its type; beside the
// project, what its root folder holds. A step behind the last one stands for what
// is inside that. here is the number of the step itself, or -1. The file may be
// nil where only folders are asked for. It reads the disk.
func (g *Guide) Siblings(f *codebase.File, steps []Step, number int) (all []Sibling, here int) {
	if number >= len(steps) {
		return g.contents(f, steps[len(steps)-1]), -1
	}
	step := steps[number]
	here = -1
	switch {
	case step.Path == ".":
		all = g.Folder(".")
	case !step.Symbol:
		all = g.Folder(path.Dir(step.Path))
		here = slices.IndexFunc(all, func(s Sibling) bool { return s.Path == step.Path })
	case f != nil && f.Facts != nil:
		all = besides(f, step)
		here = slices.IndexFunc(all, func(s Sibling) bool { return s.At == step.At })
	}
	return all, here
}

// contents lists what is inside a step: of a folder its files, of a file its
// symbols, of a symbol its members.
func (g *Guide) contents(f *codebase.File, step Step) []Sibling {
	switch {
	case step.Folder:
		return g.Folder(step.Path)
	case f == nil || f.Facts == nil:
		return nil
	case !step.Symbol:
		return symbolsOf(f, func(d *facts.Def) bool { return d.Parent == facts.NoDef })
	}
	if id := f.Facts.DefAt(int(step.At.Start)); id != facts.NoDef {
		name := f.Facts.Defs[id].Name
		return symbolsOf(f, func(d *facts.Def) bool { return d.Parent == id || d.Parent == facts.NoDef && d.Container == name })
	}
	return symbolsOf(f, func(d *facts.Def) bool { return d.Container == step.Name })
}

// besides lists the symbols beside one: the members of the same type, or what
// else stands on the same level.
func besides(f *codebase.File, step Step) []Sibling {
	id := f.Facts.DefAt(int(step.At.Start))
	if step.At.Len() == 0 || id == facts.NoDef { // a type that stands elsewhere
		return symbolsOf(f, func(d *facts.Def) bool { return d.Parent == facts.NoDef && d.Container == "" })
	}
	me := &f.Facts.Defs[id]
	return symbolsOf(f, func(d *facts.Def) bool {
		if me.Container != "" {
			return d.Container == me.Container && (d.Parent == me.Parent || d.Parent == facts.NoDef || me.Parent == facts.NoDef)
		}
		return d.Parent == me.Parent && d.Container == ""
	})
}

func symbolsOf(f *codebase.File, want func(*facts.Def) bool) (all []Sibling) {
	for _, id := range f.Facts.Symbols() {
		d := &f.Facts.Defs[id]
		if want(d) {
			line, _ := f.Text.Position(int(d.At.Start))
			all = append(all, Sibling{Name: d.Name, Kind: d.Kind, At: d.At, Line: line})
		}
	}
	return all
}

// Folder lists the folders and then the files of a folder, by name, without what
// the project ignores.
func (g *Guide) Folder(folder string) (all []Sibling) {
	entries, err := os.ReadDir(g.code.Absolute(folder))
	if err != nil {
		return nil // it is gone, or may not be read: there is nothing to show
	}
	for _, e := range entries {
		p := path.Join(folder, e.Name())
		if g.code.Has(p) || strings.HasPrefix(p, "/") {
			all = append(all, Sibling{Name: e.Name(), Path: p, Folder: e.IsDir() || g.code.Listing().IsFolder(p)})
		}
	}
	slices.SortStableFunc(all, func(a, b Sibling) int {
		if a.Folder != b.Folder {
			return map[bool]int{true: -1, false: 1}[a.Folder]
		}
		return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
	})
	return all
}
