package lang

import (
	"io/fs"
	"path"

	"rooktrail/internal/core/disk/library"
	"rooktrail/internal/core/file/facts"
)

// Project is what is seen of a project by whoever looks for what imports lead
// to. Paths are relative to its root, or absolute for what lies outside of it.
type Project interface {
	// Has says whether there is a file or a folder of that path.
	Has(path string) bool
	// FilesNamed are the paths of the files of that name in the project.
	FilesNamed(base string) []string
	// Disk is all that lies below the root, be it part of the project or not. Nothing leads out of it.
	Disk() fs.FS
	// Text is the text of a file; nil if there is none.
	Text(path string) []byte
	// Machine is what is found outside of the project; nil if nothing is to be
	// looked for there.
	Machine() *library.Machine
	// Generation changes whenever the code does.
	Generation() int
}

// Indexed is what a project also is of whose files it is known what they say, without reading them again.
type Indexed interface {
	// Includes is what a file imports; ok is false if that is not known as it is now.
	Includes(path string) (all []facts.Imported, ok bool)
	// Defining are the files that define something of a name and a kind; ok is false if that is not known of all.
	Defining(name string, kind facts.Kind) (files []string, ok bool)
}

// Imports finds what the imports of a language lead to. It is used by several
// goroutines at the same time.
type Imports interface {
	// Module is the file that something is imported from, or the folder; "" if it is
	// not within reach.
	Module(file string, imp facts.Imported) string
	// Inside is the module of a name in another one, which comes with that; "" if
	// there is none.
	Inside(module, name string) string
	// Type is the file outside of the project that defines a type of a package; ""
	// if it is not on the machine.
	Type(pkg, name string) string
	// Reach is how a file imports a name that another file of the project defines; ok is false if it need not, or cannot.
	Reach(file, definer, name string) (imp facts.Imported, ok bool)
	// Known are the imports by which a file would know a name that is defined outside of the project, the likeliest first;
	// member is what is wanted of it, "" for nothing.
	Known(file, name, member string) []facts.Imported
}

// Headers is what Imports also may be where files see by SeesIncludes.
type Headers interface {
	// Includes are what a text includes, read without a grammar.
	Includes(text []byte) []facts.Imported
}

// Tree is what Imports also has to be where files see by SeesModules.
type Tree interface {
	// Root is the file with which the package of a file begins; "" if there is
	// none.
	Root(file string) string
	// Above is the file of the module around that of a file; "" if there is none.
	Above(file string) string
	// Declared is the file of a module that another one says it has, in modules
	// between braces from the outermost in; "" if it is not there.
	Declared(file string, inside []string, name string) string
	// Package is the folder of the package that a file belongs to.
	Package(file string) string
	// Named is the file with which a package begins that code of a file can name; ""
	// if it is not on the machine. Needs says whether the package of the file needs
	// one of that name.
	Named(file, name string) string
	Needs(file, name string) bool
}

// Flat are the answers of Imports whose modules have no others inside and whose
// types are found by what files of the project say. It is to be embedded.
type Flat struct{}

// Inside implements Imports.
func (Flat) Inside(string, string) string { return "" }

// Type implements Imports.
func (Flat) Type(string, string) string { return "" }

// Reach implements Imports.
func (Flat) Reach(string, string, string) (facts.Imported, bool) { return facts.Imported{}, false }

// Known implements Imports.
func (Flat) Known(string, string, string) []facts.Imported { return nil }

// NoImports is for languages whose imports name packages, not files.
func NoImports(Project) Imports { return named{} }

type named struct{ Flat }

// Module implements Imports.
func (named) Module(string, facts.Imported) string { return "" }

// Beside is for languages that import files by their paths, from the file they
// stand in or from a folder above it.
func Beside(p Project) Imports { return beside{project: p} }

type beside struct {
	Flat
	project Project
}

// Module implements Imports.
func (b beside) Module(file string, imp facts.Imported) string {
	if imp.Path == "" || path.IsAbs(imp.Path) {
		return ""
	}
	for dir := range FoldersUp(file) {
		if p := path.Join(dir, imp.Path); p != file && path.Ext(p) != "" && b.project.Has(p) {
			return p
		}
	}
	return ""
}

// FoldersUp are the folder of a file and all above it, up to the root of the
// project, or of the disk for a file outside of it.
func FoldersUp(file string) func(yield func(string) bool) {
	return func(yield func(string) bool) {
		for dir := path.Dir(file); yield(dir) && dir != "." && dir != "/"; dir = path.Dir(dir) {
		}
	}
}
