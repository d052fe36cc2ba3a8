package gocheck

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"golang.org/x/tools/go/packages"
)

// listing is what the go command says about the packages of a workspace and all
// that they import.
type listing struct {
	root string
	// byPath are the packages without their tests, by import path.
	byPath map[string]*listed
	// checked are those whose uses are recorded, in the order of their imports.
	checked []*listed
}

// listed is a package.
type listed struct {
	path      string
	name      string
	folder    string // relative to the root, or absolute
	goVersion string
	files     []string          // without tests
	tests     []string          // of the same package
	outer     []string          // tests that are a package of their own
	imports   map[string]string // from what is written to the import path
	needed    map[string]string // the same for what its tests import
	inside    bool
}

// ErrNoGo says that there is no go command to ask.
var ErrNoGo = errors.New("there is no go command in the PATH")

// environment keeps the go command from fetching anything, from running another
// version of itself that the project names, and from running what the project's
// surroundings configure.
func environment() []string {
	return append(os.Environ(), "GOPROXY=off", "GOTOOLCHAIN=local", "GOPACKAGESDRIVER=off", "GOSUMDB=off", "GIT_TERMINAL_PROMPT=0")
}

// list asks the go command for the packages below the folders of modules.
func list(ctx context.Context, root string, modules []string) (*listing, error) {
	if _, err := exec.LookPath("go"); err != nil {
		return nil, ErrNoGo
	}
	l := &listing{root: root, byPath: map[string]*listed{}}
	var errs []error
	for _, folder := range modules {
		loaded, err := packages.Load(&packages.Config{
			Context: ctx, Dir: filepath.Join(root, filepath.FromSlash(folder)), Env: environment(), Tests: true,
			BuildFlags: []string{"-buildvcs=false"},
			Mode:       packages.NeedName | packages.NeedFiles | packages.NeedImports | packages.NeedDeps | packages.NeedModule,
		}, "./...")
		if err != nil {
			errs = append(errs, fmt.Errorf("listing the packages of %s: %w", filepath.Join(root, folder), err))
			continue
		}
		l.take(loaded)
	}
	if len(l.checked) == 0 && len(errs) > 0 {
		return nil, errors.Join(errs...)
	}
	return l, ctx.Err()
}

// take adds what the go command listed: each package, and to those of the
// workspace the files and imports of their tests.
func (l *listing) take(loaded []*packages.Package) {
	packages.Visit(loaded, nil, func(p *packages.Package) {
		if p.ID == p.PkgPath && len(p.GoFiles) > 0 && l.byPath[p.PkgPath] == nil {
			l.add(p)
		}
	})
	for _, p := range loaded {
		if p.ID == p.PkgPath || len(p.GoFiles) == 0 || p.Name == "main" && strings.HasSuffix(p.PkgPath, ".test") {
			continue
		}
		base := l.byPath[strings.TrimSuffix(p.PkgPath, "_test")]
		outer := strings.HasSuffix(p.PkgPath, "_test") && strings.HasSuffix(p.Name, "_test")
		if !outer {
			base = l.byPath[p.PkgPath]
		}
		if base == nil { // a folder of nothing but tests
			base = l.add(p)
			base.path, base.files = strings.TrimSuffix(p.PkgPath, "_test"), nil
			if l.byPath[base.path] == nil {
				l.byPath[base.path] = base
			}
		}
		if outer {
			base.outer = p.GoFiles
		} else {
			base.tests = without(p.GoFiles, base.files)
		}
		for written, i := range p.Imports {
			base.needed[written] = i.PkgPath
		}
	}
	l.breakCircles()
}

// breakCircles leaves out imports that lead back to where they came from, which
// Go does not allow, so that following imports comes to an end.
func (l *listing) breakCircles() {
	const open, shut = 1, 2
	visited := map[*listed]int{}
	var visit func(p *listed)
	visit = func(p *listed) {
		visited[p] = open
		for written, path := range p.imports {
			i := l.byPath[path]
			if i == nil || visited[i] == shut {
				continue
			}
			if visited[i] == open {
				delete(p.imports, written)
				continue
			}
			visit(i)
		}
		visited[p] = shut
	}
	for _, p := range l.byPath {
		if visited[p] == 0 {
			visit(p)
		}
	}
}

// resolved is the import path of what a file of the package imports.
func (e *listed) resolved(written string) string {
	if path, ok := e.imports[written]; ok {
		return path
	}
	return e.needed[written]
}

func (l *listing) add(p *packages.Package) *listed {
	dir := filepath.Dir(p.GoFiles[0])
	e := &listed{path: p.PkgPath, name: p.Name, folder: filepath.ToSlash(dir), files: p.GoFiles, imports: map[string]string{}, needed: map[string]string{}}
	if rel, err := filepath.Rel(l.root, dir); err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		e.folder, e.inside = filepath.ToSlash(rel), true
	}
	if p.Module != nil && p.Module.GoVersion != "" {
		e.goVersion = "go" + p.Module.GoVersion
	}
	for written, i := range p.Imports {
		e.imports[written] = i.PkgPath
	}
	l.byPath[p.PkgPath] = e
	if e.inside {
		l.checked = append(l.checked, e)
	}
	return e
}

// without are the texts of a list that are not in another one.
func without(list, others []string) (rest []string) {
	known := map[string]bool{}
	for _, o := range others {
		known[o] = true
	}
	for _, s := range list {
		if !known[s] {
			rest = append(rest, s)
		}
	}
	return rest
}
