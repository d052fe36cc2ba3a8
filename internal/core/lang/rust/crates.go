package rust

import (
	"path"
	"slices"
	"strings"
	"sync"

	"rooktrail/internal/core/facts"
	"rooktrail/internal/core/lang"
	"rooktrail/internal/core/library"
)

// manifest is the file at the top of a package.
const manifest = "Cargo.toml"

// imports finds the files of modules and of other crates.
type imports struct {
	lang.Flat
	project lang.Project

	once      sync.Once
	own       []string // the folders of Rust's own crates on this machine
	installed []string // those of others
	locked    library.Lists

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
		if i.project.Has(path.Join(dir, manifest)) {
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

// Package implements lang.Tree: the nearest folder above with a manifest, or else
// the outermost.
func (i *imports) Package(file string) string {
	last := ""
	for dir := range lang.FoldersUp(file) {
		if last = dir; i.project.Has(path.Join(dir, manifest)) {
			break
		}
	}
	return last
}

// Named implements lang.Tree.
func (i *imports) Named(file, name string) string {
	folder := i.Package(file)
	if lib := path.Join(folder, "src/lib.rs"); i.name(folder) == name && i.project.Has(lib) {
		return lib // the library of the package, which its programs and tests name as they do any other
	}
	for _, m := range i.project.FilesNamed(manifest) {
		if dir := path.Dir(m); dir != folder && i.name(dir) == name {
			if lib := path.Join(dir, "src/lib.rs"); i.project.Has(lib) {
				return lib
			}
		}
	}
	if m := i.project.Machine(); m != nil {
		return i.onMachine(m, file, name)
	}
	return ""
}

// Needs implements lang.Tree.
func (i *imports) Needs(file, name string) bool {
	for line := range strings.Lines(string(i.project.Text(path.Join(i.Package(file), manifest)))) {
		line = strings.ReplaceAll(strings.Trim(strings.TrimSpace(line), "[]"), "-", "_")
		key, _, _ := strings.Cut(line, "=")
		if key = strings.TrimSpace(key); key == name || strings.HasSuffix(key, "dependencies."+name) {
			return true
		}
	}
	return false
}

// name is the one by which code knows the package in a folder.
func (i *imports) name(folder string) string {
	section := ""
	for line := range strings.Lines(string(i.project.Text(path.Join(folder, manifest)))) {
		line = strings.TrimSpace(line)
		if strings.HasPrefix(line, "[") {
			section = strings.Trim(line, "[] ")
		}
		if key, value, ok := strings.Cut(line, "="); ok && section == "package" && strings.TrimSpace(key) == "name" {
			return strings.ReplaceAll(strings.Trim(strings.TrimSpace(value), `"'`), "-", "_")
		}
	}
	return ""
}
