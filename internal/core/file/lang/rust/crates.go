package rust

import (
	"path"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/file/lang"
)

// imports finds the files of modules and of other crates.
type imports struct {
	lang.Flat
	project lang.Project

	once      sync.Once
	own       []string // the folders of Rust's own crates on this machine
	installed []string // those of others
	manifests lang.Settings[*manifest]
	locks     lang.Settings[*lock]

	mu       sync.Mutex
	versions map[string]map[string]string // by folder, the last version of each crate in it
}

// Module implements lang.Imports: a module whose file is named in front of it.
func (i *imports) Module(file string, imp facts.Imported) string {
	if !strings.HasSuffix(imp.Path, ".rs") {
		return ""
	}
	return i.first("", path.Join(path.Dir(file), imp.Path))
}

// first is the first of some files that is there, other than one.
func (i *imports) first(but string, files ...string) string {
	n := slices.IndexFunc(files, func(p string) bool { return p != but && i.project.Has(p) })
	if n < 0 {
		return ""
	}
	return files[n]
}

// Above implements lang.Tree.
func (i *imports) Above(file string) string {
	dir, base := path.Dir(file), path.Base(file)
	if base == "mod.rs" {
		dir = path.Dir(dir)
	} else if isRoot(file) {
		return ""
	}
	return i.first(file, path.Join(dir, "mod.rs"), dir+".rs", path.Join(dir, "lib.rs"), path.Join(dir, "main.rs"))
}

// Declared implements lang.Tree.
func (i *imports) Declared(file string, inside []string, name string) string {
	dir := path.Dir(file)
	if base := path.Base(file); base != "mod.rs" && !isRoot(file) {
		dir = path.Join(dir, strings.TrimSuffix(base, ".rs"))
	}
	dir = path.Join(append([]string{dir}, inside...)...)
	beside := path.Dir(file)
	return i.first(file, path.Join(dir, name+".rs"), path.Join(dir, name, "mod.rs"), path.Join(beside, name+".rs"), path.Join(beside, name, "mod.rs"))
}

// isRoot says whether a file is one with which a crate begins.
func isRoot(file string) bool {
	dir, base := path.Split(file)
	if base == "lib.rs" || base == "main.rs" || base == "build.rs" {
		return true
	}
	switch path.Base(path.Clean("/" + dir)) {
	case "bin", "tests", "examples", "benches":
		return base != "mod.rs"
	}
	return false
}

// Root implements lang.Tree.
func (i *imports) Root(file string) string {
	if isRoot(file) {
		return file
	}
	for dir := range lang.FoldersUp(file) {
		if p := i.first("", path.Join(dir, "lib.rs"), path.Join(dir, "main.rs")); p != "" {
			return p
		}
		if m, ok := i.manifest(dir); ok {
			if p := i.library(dir, m); p != "" && lies(file, path.Dir(p)) {
				return p
			}
			break
		}
	}
	for dir := range lang.FoldersUp(file) { // of a test or a program of its own
		if p := dir + ".rs"; dir != "." && dir != "/" && isRoot(p) && i.project.Has(p) {
			return p
		}
	}
	return ""
}

// lies says whether a file is somewhere below a folder.
func lies(file, folder string) bool { return folder == "." || strings.HasPrefix(file, folder+"/") }

// Package implements lang.Tree: the nearest folder above with a manifest, or else
// the outermost.
func (i *imports) Package(file string) string {
	last := ""
	for dir := range lang.FoldersUp(file) {
		if last = dir; i.project.Has(path.Join(dir, manifestFile)) {
			break
		}
	}
	return last
}

// manifest is that of the package in a folder.
func (i *imports) manifest(folder string) (*manifest, bool) {
	return i.manifests.Of(i.project, path.Join(folder, manifestFile), readManifest)
}

// library is the file with which the library of the package in a folder begins; "" if
// it has none.
func (i *imports) library(folder string, m *manifest) string {
	return i.first("", path.Join(folder, m.library()))
}

// Named implements lang.Tree.
func (i *imports) Named(file, name string) string {
	folder := i.Package(file)
	own, ok := i.manifest(folder)
	if ok && own.crate() == name {
		if lib := i.library(folder, own); lib != "" {
			return lib // the library of the package, which its programs and tests name as they do any other
		}
	}
	wanted := need{name: name}
	if ok {
		if n, needed := i.needed(folder, own, name); needed {
			wanted = n
		}
	}
	if p := i.inProject(folder, name, wanted); p != "" {
		return p
	}
	if m := i.project.Machine(); m != nil {
		return i.onMachine(m, file, wanted.name)
	}
	return ""
}

// inProject is the file with which the library of another package of the project
// begins that a package knows by a name.
func (i *imports) inProject(from, name string, wanted need) string {
	if wanted.folder != "" {
		if m, ok := i.manifest(wanted.folder); ok {
			return i.library(wanted.folder, m)
		}
	}
	for _, file := range i.project.FilesNamed(manifestFile) {
		dir := path.Dir(file)
		m, ok := i.manifest(dir)
		if dir == from || !ok || inCode(m.Package.Name) != inCode(wanted.name) && (wanted.name != name || m.crate() != name) {
			continue
		}
		if lib := i.library(dir, m); lib != "" {
			return lib
		}
	}
	return ""
}

// needed is what the package in a folder knows by a name, with its folder from the
// root of the project.
func (i *imports) needed(folder string, m *manifest, name string) (n need, ok bool) {
	if n, ok = m.needed(name); !ok {
		return n, false
	}
	if n.shared { // the package around several says it
		for dir := range lang.FoldersUp(folder) {
			if around, known := i.manifest(dir); known {
				if shared, said := among(around.Workspace.Dependencies, inCode(n.name)); said {
					n, folder = shared, dir
					break
				}
			}
		}
	}
	if n.folder != "" {
		n.folder = path.Join(folder, n.folder)
	}
	return n, true
}

// Needs implements lang.Tree.
func (i *imports) Needs(file, name string) bool {
	m, ok := i.manifest(i.Package(file))
	if !ok {
		return false
	}
	_, needed := m.needed(name)
	return needed
}
