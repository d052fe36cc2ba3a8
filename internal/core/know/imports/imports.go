// Package imports tells what the files of a project import from each other.
package imports

import (
	"context"
	"fmt"
	"path"
	"runtime"
	"slices"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
	"rooktrail/internal/core/know/codebase"
)

// Import is one import of a file.
type Import struct {
	facts.Imported
	// To is the file that is imported from, or the folder; "" if it is not in the project.
	To string
}

// Map knows the imports of a project. It may be used by several goroutines.
type Map struct {
	code *codebase.Base

	mu         sync.Mutex
	generation int
	known      map[string][]Import // by file; nil until asked for
}

// New makes a map of a project, which reads nothing until it is asked.
func New(code *codebase.Base) *Map { return &Map{code: code} }

// All are the imports of all files, by file. Reading them all takes a while the first time, and after files have changed.
func (m *Map) All(ctx context.Context) (map[string][]Import, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	generation := m.code.Generation()
	if m.known != nil && m.generation == generation {
		return m.known, nil
	}
	var files []string
	for f := range m.code.Listing().Files() {
		if m.code.Languages().Of(f.Path) != nil {
			files = append(files, f.Path)
		}
	}
	read, err := m.read(ctx, files)
	if err != nil {
		return nil, fmt.Errorf("reading what the files import: %w", err)
	}
	l := newLinker(m.code, read)
	known := map[string][]Import{}
	for p, f := range read {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if all := l.link(p, f); len(all) > 0 {
			known[p] = all
		}
	}
	m.known, m.generation = known, generation
	return known, nil
}

// said is what a file says of itself, as far as it matters here.
type said struct {
	pkg     string
	imports []facts.Imported
	types   []string // those it defines on its outermost level
}

func saidBy(f *facts.File) said {
	s := said{pkg: f.Package, imports: f.Imports}
	for i := range f.Defs {
		if d := &f.Defs[i]; d.Scope == 0 && d.Container == "" && d.Kind.IsType() {
			s.types = append(s.types, d.Name)
		}
	}
	return s
}

// read reads files, several at a time.
func (m *Map) read(ctx context.Context, files []string) (map[string]said, error) {
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	var mu sync.Mutex
	all := make(map[string]said, len(files))
	for _, p := range files {
		if ctx.Err() != nil {
			break
		}
		group.Go(func() error {
			f, err := codebase.FactsOnce(ctx, m.code, p)
			if err != nil || f == nil {
				return ctx.Err() // what cannot be read imports nothing
			}
			s := saidBy(f)
			mu.Lock()
			defer mu.Unlock()
			all[p] = s
			return nil
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	return all, ctx.Err()
}

// linker finds the files that imports lead to.
type linker struct {
	code    *codebase.Base
	imports map[*lang.Language]lang.Imports
	// types are the files that define types, by language, package and name; packages the folders of packages.
	types, packages map[[3]string]string
}

func newLinker(code *codebase.Base, read map[string]said) *linker {
	l := &linker{code, map[*lang.Language]lang.Imports{}, map[[3]string]string{}, map[[3]string]string{}}
	for p, s := range read {
		if s.pkg == "" {
			continue
		}
		family := code.Languages().Family(p)
		for _, name := range s.types {
			l.types[[3]string{family, s.pkg, name}] = p
		}
		if k := [3]string{family, s.pkg}; l.packages[k] == "" || path.Dir(p) < l.packages[k] {
			l.packages[k] = path.Dir(p)
		}
	}
	return l
}

func (l *linker) link(p string, s said) (all []Import) {
	language := l.code.Languages().Of(p)
	if l.imports[language] == nil {
		l.imports[language] = language.Imports(l.code)
	}
	seen := map[string]bool{}
	for _, imp := range s.imports {
		to := l.target(language, p, imp)
		if to == p || to != "" && seen[to] {
			continue
		}
		seen[to] = to != ""
		all = append(all, Import{imp, to})
	}
	return all
}

// target is the file or folder that an import leads to, if that is in the project.
func (l *linker) target(language *lang.Language, p string, imp facts.Imported) string {
	asked := imp
	if imp.Name == "" && imp.Alias == "" {
		asked.Alias = imp.Path // the module itself, and not that which it makes known
	}
	of := l.imports[language]
	to := of.Module(p, asked)
	if to != "" && imp.Name != "" && imp.Name != "*" && language.Scopes.Sees != lang.SeesIncludes {
		if inside := of.Inside(to, imp.Name); inside != "" { // a module of that name in it
			to = inside
		}
	}
	if to == "" {
		to = l.byPackage(l.code.Languages().Family(p), imp)
	}
	if to == "" || path.IsAbs(to) || !l.code.Has(to) {
		return ""
	}
	return to
}

// byPackage is the file of a type, or the folder, that an import leads to by the packages that files say they belong to.
func (l *linker) byPackage(family string, imp facts.Imported) string {
	pkg, name := imp.Path, imp.Name
	if to := l.types[[3]string{family, pkg, name}]; to != "" {
		return to
	}
	if to := l.packages[[3]string{family, pkg}]; to != "" && (name == "*" || name == "") {
		return to
	}
	for parts := strings.FieldsFunc(pkg, func(r rune) bool { return r == '.' || r == '\\' || r == ':' }); len(parts) > 1; parts = parts[:len(parts)-1] {
		sep := pkg[len(parts[0]) : len(parts[0])+1]
		if to := l.types[[3]string{family, strings.Join(parts[:len(parts)-1], sep), parts[len(parts)-1]}]; to != "" {
			return to // also for a member of it
		}
	}
	return ""
}

// Importers are the files that import a file, or something in a folder, in order.
func Importers(all map[string][]Import, target string) (files []string) {
	for p, imports := range all {
		if slices.ContainsFunc(imports, func(i Import) bool { return i.To == target }) {
			files = append(files, p)
		}
	}
	slices.Sort(files)
	return files
}
