package golang

import (
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"

	"golang.org/x/mod/modfile"
	"golang.org/x/mod/module"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// modFile is the file at the top of a module.
const modFile = "go.mod"

// imports finds the folders of packages: in the modules of the project, in what
// is vendored, in the library of Go, in the module cache.
type imports struct {
	lang.Flat
	project lang.Project

	once            sync.Once
	goRoot, modules string // on this machine
	modFiles        lang.Settings[*modfile.File]

	mu         sync.Mutex
	generation int
	own        map[string]string // the folders of the project's modules by their paths; nil until asked for
}

// Module implements lang.Imports.
func (i *imports) Module(file string, imp facts.Imported) string {
	if folder, ok := i.inProject(imp.Path); ok {
		return folder
	}
	for dir := range lang.FoldersUp(file) {
		if at := path.Join(dir, "vendor", imp.Path); i.project.Has(at) {
			return at
		}
	}
	if m := i.project.Machine(); m != nil {
		return i.onMachine(m, file, imp.Path)
	}
	return ""
}

// inProject is the folder of a package of one of the project's modules, that with
// the longest path if there are several.
func (i *imports) inProject(imported string) (folder string, ok bool) {
	best := -1
	for name, at := range i.ownModules() {
		rest, under := strings.CutPrefix(imported, name)
		if name == "std" { // the packages of the standard library are imported bare
			rest, under = "/"+imported, true
		}
		if !under || rest != "" && rest[0] != '/' || len(name) <= best {
			continue
		}
		if at = path.Join(at, rest); i.project.Has(at) {
			best, folder = len(name), at
		}
	}
	return folder, best >= 0
}

// ownModules are the folders of the project's modules by their paths.
func (i *imports) ownModules() map[string]string {
	i.mu.Lock()
	defer i.mu.Unlock()
	if generation := i.project.Generation(); i.own == nil || generation != i.generation {
		i.generation, i.own = generation, map[string]string{}
		for _, file := range i.project.FilesNamed(modFile) {
			if name := i.modulePath(file); name != "" {
				if _, twice := i.own[name]; !twice {
					i.own[name] = path.Dir(file)
				}
			}
		}
	}
	return i.own
}

// modulePath is the path under which the packages of a module are imported; ""
// if its file does not say it.
func (i *imports) modulePath(file string) string {
	if f, ok := i.modFiles.Of(i.project, file, readModFile); ok && f.Module != nil {
		return f.Module.Mod.Path
	}
	return modfile.ModulePath(i.project.Text(file)) // which does not mind what is broken elsewhere
}

func readModFile(text []byte) (*modfile.File, error) { return modfile.ParseLax(modFile, text, nil) }

// onMachine is the folder of a package outside of the project.
func (i *imports) onMachine(m *library.Machine, file, imported string) string {
	i.once.Do(func() { i.look(m) })
	if i.goRoot != "" {
		for _, below := range []string{"src", "src/vendor"} {
			if dir := path.Join(i.goRoot, below, imported); m.Has(dir) {
				return dir
			}
		}
	}
	if i.modules == "" {
		return ""
	}
	if path.IsAbs(file) {
		file = modFile // what the project requires holds for what it requires, too
	}
	versions := i.requires(file)
	for at := imported; at != "." && at != "/"; at = path.Dir(at) {
		if dir := cached(at, versions[at]); dir != "" {
			if dir = path.Join(i.modules, dir, strings.TrimPrefix(imported, at)); m.Has(dir) {
				return dir
			}
		}
	}
	return ""
}

// cached is the folder of a version of a module in the module cache.
func cached(name, version string) string {
	folder, err := module.EscapePath(name)
	if err != nil || version == "" {
		return ""
	}
	escaped, err := module.EscapeVersion(version)
	if err != nil {
		return ""
	}
	return folder + "@" + escaped
}

// look finds out where Go and its modules are.
func (i *imports) look(m *library.Machine) {
	for _, dir := range append(m.Of("Go"), os.Getenv("GOROOT"), library.Installed("go"), "/usr/local/go", "/usr/lib/go") {
		if dir != "" && library.IsFolder(filepath.Join(dir, "src", "fmt")) {
			i.goRoot = filepath.ToSlash(dir)
			break
		}
	}
	gopath, _, _ := strings.Cut(os.Getenv("GOPATH"), string(filepath.ListSeparator))
	if gopath == "" {
		gopath = filepath.Join(m.Home, "go")
	}
	for _, dir := range append(m.Of("Go"), os.Getenv("GOMODCACHE"), filepath.Join(gopath, "pkg", "mod")) {
		if dir != "" && library.IsFolder(dir) && filepath.ToSlash(dir) != i.goRoot {
			i.modules = filepath.ToSlash(dir)
			break
		}
	}
}

// requires are the versions of modules that the go.mod file above a file requires,
// by their paths.
func (i *imports) requires(file string) map[string]string {
	versions := map[string]string{}
	if _, f, ok := i.modFiles.Above(i.project, file, readModFile, modFile); ok {
		for _, r := range f.Require {
			versions[r.Mod.Path] = r.Mod.Version
		}
	}
	return versions
}
