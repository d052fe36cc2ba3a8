package typecheck

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"golang.org/x/tools/go/packages"

	"rooktrail/internal/core/disk/door"
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

// userSettings are those of the go command that say where things lie on this machine. They are asked
// for outside of any project, since the file in which the user keeps them may also hold what is
// not wanted here.
var userSettings = []string{"GOPATH", "GOMODCACHE", "GOCACHE", "GOROOT", "CGO_ENABLED", "GOEXPERIMENT", "GOOS", "GOARCH", "GOFLAGS"}

// environment keeps the go command from fetching anything, from running another
// version of itself that the project names, from running what the project's
// surroundings configure, and from writing to the project.
func environment(ctx context.Context) []string {
	env := slices.DeleteFunc(os.Environ(), func(v string) bool {
		return strings.HasPrefix(v, "GO") && !strings.HasPrefix(v, "GOWORK=") || strings.HasPrefix(v, "GIT_")
	})
	cmd := exec.CommandContext(ctx, "go", append([]string{"env", "-json"}, userSettings...)...)
	cmd.Dir, cmd.Env = os.TempDir(), append(os.Environ(), "GOTOOLCHAIN=local", "GOWORK=off")
	own := map[string]string{}
	if out, err := cmd.Output(); err == nil {
		_ = json.Unmarshal(out, &own) // without them, what is usual counts
	}
	for name, value := range own {
		if value != "" && name != "GOFLAGS" {
			env = append(env, name+"="+value)
		}
	}
	return append(env,
		"GOENV=off", "GOFLAGS="+tags(own["GOFLAGS"]), "GOPROXY=off", "GONOPROXY=none", "GOPRIVATE=", "GOINSECURE=", "GOSUMDB=off", "GONOSUMDB=",
		"GOVCS=*:off", "GOAUTH=off", "GOTOOLCHAIN=local", "GOPACKAGESDRIVER=off", "GOTELEMETRY=off", "GOCACHEPROG=",
		"GIT_TERMINAL_PROMPT=0", "GIT_ALLOW_PROTOCOL=none", "GOMEMLIMIT=2GiB")
}

// tags are the flags of the user's own that say which files belong to a build.
func tags(flags string) string {
	for f := range strings.FieldsSeq(flags) {
		if strings.HasPrefix(f, "-tags=") || strings.HasPrefix(f, "--tags=") {
			return f
		}
	}
	return ""
}

// within bounds how long the go command may take to list the packages of a module.
const within = 3 * time.Minute

// list asks the go command for the packages of modules that a pattern names from
// their folders.
func list(ctx context.Context, root string, modules []string, pattern string) (*listing, error) {
	if _, err := exec.LookPath("go"); err != nil {
		return nil, ErrNoGo
	}
	l := &listing{root: root, byPath: map[string]*listed{}}
	env := environment(ctx)
	var errs []error
	for _, folder := range modules {
		if err := listModule(ctx, l, folder, pattern, env); err != nil {
			errs = append(errs, fmt.Errorf("listing the packages of %s: %w", filepath.Join(root, folder), err))
		}
	}
	if len(l.checked) == 0 && len(errs) > 0 {
		return nil, errors.Join(errs...)
	}
	return l, ctx.Err()
}

func listModule(ctx context.Context, l *listing, folder, pattern string, env []string) error {
	flags := []string{"-buildvcs=false"}
	vendored, err := plain(l.root, folder)
	if err != nil {
		return err
	}
	if !vendored {
		flags = append(flags, "-mod=readonly")
	}
	ctx, cancel := context.WithTimeout(ctx, within)
	defer cancel()
	loaded, err := packages.Load(&packages.Config{
		Context: ctx, Dir: filepath.Join(l.root, filepath.FromSlash(folder)), Env: env, Tests: true, BuildFlags: flags,
		Mode: packages.NeedName | packages.NeedFiles | packages.NeedImports | packages.NeedDeps | packages.NeedModule,
	}, pattern)
	if err != nil {
		return err
	}
	l.take(loaded)
	return nil
}

// plain makes sure that what the go command reads of a module, in its folder and above, are files
// that end. It also says whether what the module needs lies in it.
func plain(root, folder string) (vendored bool, err error) {
	for dir := path.Clean(folder); ; dir = path.Dir(dir) {
		for _, name := range []string{"go.mod", "go.sum", "go.work", "go.work.sum", "vendor/modules.txt"} {
			_, err := door.ReadWithin(root, path.Join(dir, name), door.LargestSettings)
			switch {
			case errors.Is(err, fs.ErrNotExist):
			case err != nil:
				return false, fmt.Errorf("%s is not read: %w", path.Join(dir, name), err)
			case name == "vendor/modules.txt":
				vendored = true
			}
		}
		if dir == "." || dir == "/" {
			return vendored, nil
		}
	}
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
