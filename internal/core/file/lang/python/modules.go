package python

import (
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// packageFile is what a folder has that is a package.
const packageFile = "__init__.py"

// endings are tried, in this order, behind the path of a module.
var endings = []string{".py", "/" + packageFile, ".pyi", "/__init__.pyi"}

// imports finds the files of modules: in the folders above the file that imports
// them, in the project's own environment, in the library.
type imports struct {
	lang.Flat
	project lang.Project

	once  sync.Once
	paths []string // on this machine
}

// Module implements lang.Imports.
func (i *imports) Module(file string, imp facts.Imported) string {
	for _, base := range i.bases(file, imp) {
		at := path.Join(base, strings.ReplaceAll(imp.Path, ".", "/"))
		if imp.Name == "" && imp.Alias == "" { // import a.b makes a known
			first, _, _ := strings.Cut(imp.Path, ".")
			at = path.Join(base, first)
		}
		if module := i.file(at); module != "" {
			return module
		}
		if at != "." && i.project.Has(at) {
			return at // a package without a file of its own
		}
	}
	return ""
}

// Inside implements lang.Imports: a package holds the modules in its folder.
func (i *imports) Inside(module, name string) string {
	switch {
	case path.Base(module) == packageFile:
		module = path.Dir(module)
	case path.Ext(module) == ".py" || path.Ext(module) == ".pyi":
		return ""
	}
	return i.file(path.Join(module, name))
}

// file is that of the module whose path is given without its ending.
func (i *imports) file(module string) string {
	for _, end := range endings {
		if i.project.Has(module + end) {
			return module + end
		}
	}
	return ""
}

// bases are the folders in which a module is looked for: for a relative import
// the one its dots say, else every folder from the file up to the root, their
// src and lib folders, and those of this machine. Modules in packages are named by
// these, so that the folder of one comes last, as for what is run in it, and never for
// what comes with Python.
func (i *imports) bases(file string, imp facts.Imported) (bases []string) {
	if imp.Level > 0 {
		dir := path.Dir(file)
		for range imp.Level - 1 {
			dir = path.Dir(dir)
		}
		return []string{dir}
	}
	var packages []string
	for dir := range lang.FoldersUp(file) {
		if i.project.Has(path.Join(dir, packageFile)) {
			packages = append(packages, dir)
		} else {
			bases = append(bases, dir)
		}
		bases = append(bases, path.Join(dir, "src"), path.Join(dir, "lib"))
	}
	if m := i.project.Machine(); m != nil {
		bases = append(bases, i.onMachine(m)...)
	}
	if first, _, _ := strings.Cut(imp.Path, "."); !standard[first] {
		bases = append(bases, packages...)
	}
	return bases
}

// onMachine are the folders in which Python looks for modules, those of the
// project's own environment first.
func (i *imports) onMachine(m *library.Machine) []string {
	i.once.Do(func() {
		patterns := m.Of("Python")
		for _, env := range []string{filepath.Join(m.Root, ".venv"), filepath.Join(m.Root, "venv"), filepath.Join(m.Root, "env"), os.Getenv("VIRTUAL_ENV")} {
			if env != "" {
				patterns = append(patterns, filepath.Join(env, "lib/python3*/site-packages"))
			}
		}
		for _, base := range []string{library.Installed("python3"), "/usr/local", "/usr", filepath.Join(m.Home, ".pyenv/versions/3*"), filepath.Join(m.Home, ".local")} {
			if base != "" {
				patterns = append(patterns, filepath.Join(base, "lib/python3*"), filepath.Join(base, "lib/python3*/site-packages"), filepath.Join(base, "lib/python3*/dist-packages"))
			}
		}
		i.paths = library.Folders(patterns...)
	})
	return i.paths
}
