// Package imports tells what the files of a project import from each other.
package imports

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

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

// Map knows the imports of a project, as the index has them. It may be used by several goroutines.
type Map struct {
	code *codebase.Base

	mu         sync.Mutex
	generation int
	known      map[string][]Import // by file; nil until asked for
}

// New makes a map of a project.
func New(code *codebase.Base) *Map { return &Map{code: code} }

// All are the imports of all files, by file.
func (m *Map) All(ctx context.Context) (map[string][]Import, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	generation := m.code.Generation()
	if m.known != nil && m.generation == generation {
		return m.known, nil
	}
	l := &linker{code: m.code, imports: map[*lang.Language]lang.Imports{}}
	known := map[string][]Import{}
	for f := range m.code.Listing().Files() {
		if err := ctx.Err(); err != nil {
			return nil, fmt.Errorf("finding out what the files import: %w", err)
		}
		if sum := m.code.Index().Summary(f.Path); sum != nil && m.code.Languages().Of(f.Path) != nil {
			_, imported := sum.Imports()
			if all := l.link(f.Path, imported); len(all) > 0 {
				known[f.Path] = all
			}
		}
	}
	m.known, m.generation = known, generation
	return known, nil
}

// linker finds the files that imports lead to.
type linker struct {
	code    *codebase.Base
	imports map[*lang.Language]lang.Imports
	// packages are the folders of packages, by language and name; nil until asked for.
	packages map[[2]string]string
}

func (l *linker) link(p string, imported []facts.Imported) (all []Import) {
	language := l.code.Languages().Of(p)
	if l.imports[language] == nil {
		l.imports[language] = language.Imports(l.code)
	}
	seen := map[string]bool{}
	for _, imp := range imported {
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
	if to := l.typeIn(family, imp.Path, imp.Name); to != "" {
		return to
	}
	if imp.Name == "*" || imp.Name == "" {
		if to := l.folders()[[2]string{family, imp.Path}]; to != "" {
			return to
		}
	}
	for parts := strings.FieldsFunc(imp.Path, func(r rune) bool { return r == '.' || r == '\\' || r == ':' }); len(parts) > 1; parts = parts[:len(parts)-1] {
		sep := imp.Path[len(parts[0]) : len(parts[0])+1]
		if to := l.typeIn(family, strings.Join(parts[:len(parts)-1], sep), parts[len(parts)-1]); to != "" {
			return to // also for a member of it
		}
	}
	return ""
}

// typeIn is the file that defines a type of a package; "" for none.
func (l *linker) typeIn(family, pkg, name string) string {
	for _, s := range l.code.Named(name) {
		if s.Container == "" && s.Kind.IsType() && l.code.Languages().Family(s.Path) == family {
			if sum := l.code.Index().Summary(s.Path); sum != nil {
				if of, _ := sum.Imports(); of == pkg {
					return s.Path
				}
			}
		}
	}
	return ""
}

func (l *linker) folders() map[[2]string]string {
	if l.packages != nil {
		return l.packages
	}
	l.packages = map[[2]string]string{}
	for f := range l.code.Listing().Files() {
		sum := l.code.Index().Summary(f.Path)
		if sum == nil {
			continue
		}
		if pkg, _ := sum.Imports(); pkg != "" {
			k := [2]string{l.code.Languages().Family(f.Path), pkg}
			if dir := path.Dir(f.Path); l.packages[k] == "" || dir < l.packages[k] {
				l.packages[k] = dir
			}
		}
	}
	return l.packages
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
