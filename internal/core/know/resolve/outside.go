package resolve

import (
	"path"

	"rooktrail/internal/core/know/index"
)

// What lies outside the project is found by its absolute path, and read only
// when a question leads there.

// namedIn are the symbols of a name that may be in a folder.
func (q *question) namedIn(folder, name string) []index.Symbol {
	if path.IsAbs(folder) {
		return q.code.NamedIn(folder, name)
	}
	return q.code.Named(name)
}
