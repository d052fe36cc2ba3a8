package resolve

import (
	"path"
	"strings"

	"rooktrail/internal/core/index"
)

// What lies outside the project is found by its absolute path, and read only
// when a question leads there.

// has says whether there is a file or a folder, in the project or outside.
func (q *question) has(p string) bool {
	if path.IsAbs(p) {
		return q.code.Library() != nil && q.code.Library().Has(p)
	}
	return q.code.Has(p)
}

// namedIn are the symbols of a name that may be in a folder.
func (q *question) namedIn(folder, name string) []index.Symbol {
	if path.IsAbs(folder) {
		return q.code.NamedIn(folder, name)
	}
	return q.code.Named(name)
}

// javaSource is the file of a type of the Java library.
func (q *question) javaSource(pkg, name string) *source {
	if q.code.Library() == nil || pkg == "" {
		return nil
	}
	if file := q.code.Library().JavaType(strings.ReplaceAll(pkg, ".", "/") + "/" + name); file != "" {
		return q.source(file)
	}
	return nil
}
